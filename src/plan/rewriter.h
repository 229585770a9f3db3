// Finds ways to make a reference lead to where its target went, best first. Each way is only a proposal: the
// planner applies it in memory, reads the tree again and keeps it if the graph comes out right.
#pragma once

#include <map>
#include <optional>
#include <set>
#include <unordered_map>
#include <vector>

#include "formats/format.h"
#include "plan/compare.h"
#include "plan/ways.h"

namespace yc {

// The spellings of an include, in the order in which they are tried.
enum class IncludeForm : std::uint8_t {
  header_root,  // as it stands, with the folder searched, if that is one that people make for headers
  habit,        // relative if it was plainly so: with "../", or a folder in it and found by no search root
  root,         // against a search root that all units have
  relative,     // from the including file's folder
  new_root,     // as it stands, with one more search root
};
using IncludeOrder = std::vector<IncludeForm>;
inline const IncludeOrder kUsualIncludes = {IncludeForm::header_root, IncludeForm::habit, IncludeForm::root,
                                            IncludeForm::relative, IncludeForm::new_root};
inline const IncludeOrder kKeepIncludes = {IncludeForm::habit, IncludeForm::root, IncludeForm::relative,
                                           IncludeForm::new_root};

// What a rule for many would make of another source; nothing for one that it is no rule for.
std::optional<std::string> product_of(const Derivation& rule, std::string_view source);

class ReferenceRewriter {
 public:
  ReferenceRewriter(const TreeReader& old_tree, const TreeReader& planned, const ReferenceGraph& graph,
                    const MoveSet& moves, IncludeOrder include_order, std::size_t alias_from = kNoRule,
                    FactsCache* cache = nullptr);

  // Ways for a reference that lost `target`, where the planned tree without edits would lead it to something
  // else. `now` is where it leads in the planned tree, if anywhere.
  // What is made in a folder of the tree that moved whole, by its old place.
  std::optional<Target> homeless_product(const Reference& reference) const;
  Ways ways(std::int32_t reference, const Target& lost, const RelPath& now) const;
  // Ways for lists: patterns that once matched a file and no longer do. `lost_file`, before the move, may
  // still be within reach, but be taken out again by another word.
  std::optional<Proposal> words_beside(const Reference& pattern, const std::vector<RelPath>& lost,
                                       bool is_emptied, const RelPath& base) const;
  std::vector<Proposal> pattern_ways(std::int32_t pattern,
                                     const std::optional<RelPath>& lost_file = {}) const;
  // Ways to keep a file that drifted into a pattern's reach out of its list.
  std::vector<Proposal> exclusions(const RelPath& new_path) const;
  // References whose work is to keep a path (before the move) out of a list.
  std::vector<std::int32_t> excluders_of(const RelPath& old_path) const;
  // Whether a pattern that matched something matches nothing in the planned tree.
  bool is_emptied(const Reference& pattern) const;
  // File patterns that matched an old path.
  std::vector<std::int32_t> patterns_of(const RelPath& old_file) const;
  // The reference to respell so that another one leads to `lost` again: itself, or for a product that is
  // known by the source it is made from, the one beside it that found that source through the product's name.
  std::int32_t bearer(std::int32_t reference, const Target& lost) const;
  // A way to shorten a text that still leads there, but by a detour that the move made: "../src/x.h" in a
  // file of src/.
  std::optional<Proposal> without_detour(const Reference& reference) const;
  // Whether the text as it stands, unedited, would name something that is not in the planned tree.
  bool leads_nowhere(const Reference& reference) const;
  // Scripts that move while what they name is still counted from the folder that they left, as that of a
  // makefile which another one starts there.
  void set_staying(std::set<FileIndex> scripts) { staying_ = std::move(scripts); }
  // A way to take a word away altogether.
  std::optional<Proposal> removal(const Reference& reference) const;

 private:
  struct Use {
    std::int32_t reference;
    std::size_t piece;
  };
  struct Wanted {
    Place place;
    bool is_folder = false;
  };

  RewriteRequest request(const Reference& reference, Target wanted, RelPath base) const;
  std::string new_text(const Piece& piece) const;
  std::string new_text(const Reference& reference) const;
  bool is_right_as_it_stands(const Reference& reference, const Wanted& wanted, const RelPath& base) const;
  bool follows_its_folder(const Reference& reference, const Wanted& wanted) const;
  std::vector<Proposal> further_ways(std::int32_t index, const Target& lost, const Wanted* want,
                                     const RelPath* base) const;
  void general_ways(const Reference& reference, const Wanted& wanted, const RelPath& base,
                    std::vector<Proposal>& out) const;
  std::optional<RelPath> base_of(const Reference& reference) const;
  std::optional<Wanted> renamed_product(const Reference& reference, const Target& lost,
                                        const RelPath& base) const;
  std::optional<Wanted> wanted(const Reference& reference, const Target& target) const;
  std::optional<RelPath> new_head(const RelPath& target, const RelPath& head) const;
  std::optional<Place> pattern_place(const Reference& reference, bool strict) const;
  std::optional<std::string> solve(const Reference& reference, std::size_t piece, const Wanted& wanted,
                                   const RelPath& base) const;
  std::string spelled(const Reference& reference, const Wanted& wanted, const RelPath& base) const;
  bool suits_all(FileIndex file, Span span, const std::string& text) const;
  bool suits(const Reference& reference, const std::string& text) const;
  bool alone_in(const Passage& passage, const Reference& reference, const Wanted& wanted) const;
  bool is_of_name(FileIndex file, Span whole, Span part) const;
  std::string with_change(const Reference& reference, FileIndex file, Span span,
                          const std::string& text) const;
  std::optional<Edit> edit_for(FileIndex file, Span span, const std::string& text, WritingStyle style,
                               std::uint8_t format) const;

  void piece_ways(const Reference& reference, const Wanted& wanted, const RelPath& base,
                  std::vector<Proposal>& plain, std::vector<Proposal>& climbing) const;
  void lead_ways(const Reference& reference, const Wanted& want, const RelPath& base,
                 std::vector<Proposal>& out) const;
  void climb_ways(const Reference& reference, const Wanted& want, const RelPath& base,
                  std::vector<Proposal>& out, std::vector<Proposal>& last) const;
  void folder_ways(const Reference& reference, const Wanted& want, std::vector<Proposal>& out) const;
  void place_ways(const Reference& reference, const Wanted& wanted, const RelPath& base,
                  std::vector<Proposal>& out) const;
  void split_ways(const Reference& reference, const Wanted& wanted, const RelPath& base,
                  std::vector<Proposal>& out) const;
  void cover_ways(const Reference& reference, const Wanted& wanted, std::vector<Proposal>& out) const;
  // The search roots, after the move, that every context of an include has, and the one that it used.
  struct CommonRoots {
    std::vector<RelPath> roots;
    std::optional<RelPath> used;
  };
  bool is_made_in_place(const Target& target) const;
  CommonRoots roots_in(const Context& context, const Reference& reference, const Target& lost) const;
  CommonRoots common_roots(const Reference& reference, const Target& lost) const;
  void implied_roots(const std::string& text, const Target& lost, std::vector<RelPath>& roots) const;
  bool is_for_headers(const std::string& text, const RelPath& old_target, const RelPath& target,
                      const std::vector<RelPath>& roots) const;
  void include_ways_to(const Reference& reference, const Target& lost, const RelPath& target,
                       const RelPath& now, std::vector<Proposal>& out) const;
  void include_ways(const Reference& reference, const Target& lost, const RelPath& now,
                    std::vector<Proposal>& out) const;
  std::optional<Proposal> implied_way(const Reference& pattern, const RelPath& base,
                                      const std::optional<RelPath>& excluded) const;
  const std::vector<std::int32_t>& units_with(const std::set<ContextIndex>& contexts) const;
  void new_root_ways(const Reference& reference, const RelPath& target, std::vector<Proposal>& out) const;
  std::vector<std::string> sibling_texts(const Reference& pattern, const std::vector<RelPath>& lost,
                                         const RelPath& base) const;
  bool is_alone_at(const Piece& piece, const Reference& reference) const;
  std::size_t shared_by(const Piece& piece) const;
  Bytes bytes_of(FileIndex file) const;

  const TreeReader& tree_;
  const TreeReader& planned_;
  const ReferenceGraph& graph_;
  const MoveSet& moves_;
  EditMap no_edits_;
  Image image_;
  IncludeOrder include_order_;
  std::size_t alias_from_;
  FactsCache* cache_;
  mutable std::map<std::uint8_t, Memory> memories_;  // what formats keep between requests
  std::set<FileIndex> staying_;
  std::map<FileIndex, std::multimap<std::uint32_t, Use>> uses_;  // by end of the piece
  std::map<FileIndex, std::uint32_t> longest_;                   // bytes of the longest piece in each file
  // Whether a use that ends at `end`, and so all that end later, begins behind `span`.
  bool is_behind(FileIndex file, std::uint32_t end, Span span) const {
    auto longest = longest_.find(file);
    return longest != longest_.end() && end >= span.end + longest->second;
  }
  std::map<Passage, std::set<std::int32_t>> passages_;  // who comes through each expansion
  // What they have in common: whether one text that means one place, and both.
  struct Coming {
    bool is_one = true;
    std::string text;
    std::optional<Place> place;
  };
  const Coming& coming_through(const Passage& passage, const std::set<std::int32_t>& references) const;
  mutable std::map<Passage, Coming> coming_;
  // By the files that they take; made when it is first asked for.
  mutable std::optional<std::unordered_map<RelPath, std::vector<std::int32_t>>> patterns_;
  std::map<SiteChain, std::vector<std::int32_t>> by_key_, patterns_by_key_;
  std::vector<std::int32_t> excluders_;  // references that take files out of lists
  mutable std::map<std::tuple<Site, std::string, RelPath>, std::vector<Proposal>>
      root_ways_;  // asked for again and again
  mutable std::map<std::set<ContextIndex>, std::vector<std::int32_t>> units_;
};

}  // namespace yc
