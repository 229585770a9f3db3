#include "formats/c_family/c_family.h"
#include "formats/build_copies.h"

#include <algorithm>

#include "base/all_cores.h"
#include "formats/c_family/forwarding_headers.h"
#include "formats/c_family/include_guards.h"
#include "formats/c_family/qt_inputs.h"
#include "formats/c_family/source_references.h"
#include "formats/c_family/system_headers.h"
#include "formats/capabilities/companions.h"
#include "formats/capabilities/consequences.h"
#include "formats/capabilities/spellings.h"
#include "formats/glued_paths/constant_folder.h"
#include "formats/literal_paths.h"
#include "formats/meta_objects.h"
#include "formats/outside_paths.h"

namespace yc {

namespace {

// What a source that moves includes from outside of the tree.
std::optional<Proposal> follow_outside(const TreeReader& tree, const Move& move) {
  bool readable = c_family::is_source(move.from) && tree.is_editable(move.from);
  auto bytes = readable ? tree.read(move.from) : Result<Bytes>(Error{});
  if (!bytes || (*bytes)->find("\"../") == std::string::npos) return std::nullopt;
  Proposal way;
  for (const c_family::Include& include : c_family::scan_includes(**bytes).includes) {
    auto spelled = include.form == c_family::Include::Form::quoted
                       ? outside_path(move.from.parent(), move.to.parent(), include.text)
                       : std::nullopt;
    if (spelled) way.edits.push_back({move.from, include.span, std::move(*spelled)});
  }
  return way.edits.empty() ? std::nullopt : std::optional(std::move(way));
}

class CFamilyFormat : public Format,
                      public Incremental,
                      public Spellings,
                      public FollowingNames,
                      public NeededChanges,
                      public Constants,
                      public Consequences,
                      public Forwarding {
 public:
  std::string_view name() const override { return "c and c++"; }
  ScopeSet needs() const override {
    return Scope::search_roots | Scope::products | ScopeSet(Scope::copies) | Scope::installed;
  }
  bool reads_sources() const override { return true; }

  bool claims(const RelPath& path) const override { return c_family::is_source(path); }

  void read(const Reading& in) const override {
    Memory memory;
    read_again(in, memory, [](const RelPath&) { return false; });
  }

  void read_again(const Reading& in, Memory& memory, const IsSame& same) const override {
    auto& resolver = memory.get<c_family::IncludeResolver>();
    resolver.resolve(in.tree, in.files, in.cache, in.self, in.scopes, same);
    c_family::emit_references(resolver, in);
  }

  void prepare(const TreeReader& tree, FactsCache& cache, std::uint8_t self,
               const std::vector<RelPath>& files, const Focus*) const override {
    on_all_cores(files.size(), [&](std::size_t i) {
      if (auto bytes = tree.read(files[i])) {
        cache.get<c_family::IncludeFacts>(
            self, *bytes, [](const std::string& text) { return c_family::scan_includes(text); });
      }
    });
  }

  std::vector<Edit> through_constant(const TreeReader& tree, const ReferenceGraph& graph,
                                     const std::vector<const Reference*>& references, const std::string& name,
                                     const RelPath& folder) const override {
    std::string_view ending = graph.files.path(standing_of(*references.front()).file).extension();
    if (ending == ".S" || ending == ".s" || ending == ".asm") return {};
    return glued_paths::through_constant(tree, graph, references, name, folder, glued_paths::Language::c);
  }
  std::vector<Edit> in_loader(const TreeReader& tree, const ReferenceGraph& graph,
                              const std::vector<const Reference*>& references, const std::string& name,
                              const RelPath& folder) const override {
    return glued_paths::in_loader(tree, graph, references, name, folder, glued_paths::Language::c,
                                  [this](const RelPath& path) { return claims(path); });
  }

  std::vector<Proposal> follow_names(const ClaimedTree& before, const MoveSet& moves) const override {
    std::vector<Proposal> out = c_family::follow_guards(before.tree, moves);
    for (const Move& move : moves.files()) {
      if (auto way = follow_outside(before.tree, move)) out.push_back(std::move(*way));
    }
    return out;
  }

  // What Qt's generators make is called like what they make it of.
  std::vector<Proposal> needed_edits(const ClaimedTree& before, const MoveSet& moves) const override {
    std::vector<Edit> edits = renamed_outputs(before.tree, before.files, moves);
    return edits.empty() ? std::vector<Proposal>() : std::vector<Proposal>{{std::move(edits), ""}};
  }

  std::vector<Proposal> own_proposals(const RewriteRequest& need) const override {
    return spelled_in_copy(need);
  }
  std::optional<Reason> why_not(const ReferenceGraph& graph, const Reference& reference, const RelPath&,
                                const RelPath&) const override {
    if (reference.construct_part == ConstructPart::tagged(c_family::kInstalledPart))
      return Reason{
          "it is installed beside what includes it, and whoever uses what is installed would not find it",
          "leave both in one folder, or have what is installed keep its folders"};
    return why_no_copy(graph, reference);
  }

  bool is_moot(const ReferenceGraph& old, const ReferenceGraph& planned, const MoveSet& moves,
               const Reference& reference) const override {
    if (reference.construct_part != ConstructPart::tagged(c_family::kInstalledPart)) return false;
    RelPath user = moves.map_file(old.files.path(reference.construct.front().file));
    return !is_installed(planned, user);
  }

  std::vector<Proposal> late_proposals(const RewriteRequest& need) const override {
    const std::vector<Piece>& pieces = need.reference.text.pieces();
    if (need.reference.role == Role::argument) return spelled_as_path(need);
    if (!need.reference.is_angled() || pieces.size() != 1 || !pieces[0].has_origin()) return {};
    // From its own folder, where no folder that is searched holds it any more.
    const Piece& name = pieces[0];
    auto text = write(relative_text(need.new_base, need.wanted[0].path), c_family::kQuoted);
    if (!text || name.span.begin == 0) return {};
    Span with_brackets{name.span.begin - 1, name.span.end + 1};
    return {{{Edit{need.graph.files.path(name.file), with_brackets, "\"" + *text + "\""}}, ""}};
  }

  std::vector<Blocker> consequences(const TreeView& before, const TreeView& planned,
                                    const MoveSet& moves) const override {
    std::vector<Blocker> out = c_family::changed_system_headers(before, planned, moves);
    std::vector<Blocker> lost = c_family::lost_qt_inputs(before, planned, moves);
    std::move(lost.begin(), lost.end(), std::back_inserter(out));
    return out;
  }

  std::optional<std::string> forwarder(const TreeReader&, const RelPath& old_path, const RelPath& new_path,
                                       std::string_view bytes) const override {
    return c_family::forwarding_header(old_path, new_path, bytes);
  }

  std::optional<RelPath> forwards_to(const RelPath& path, std::string_view bytes) const override {
    return c_family::forwarded_to(path, bytes);
  }

  std::optional<std::string> write(std::string_view text, WritingStyle style) const override {
    std::string_view forbidden = style == c_family::kAngled ? ">\n\r" : "\"\n\r";
    if (text.find_first_of(forbidden) != std::string_view::npos) return std::nullopt;
    return std::string(text);
  }
};

}  // namespace

std::unique_ptr<Format> c_family_format() {
  return std::make_unique<CFamilyFormat>();
}

}  // namespace yc
