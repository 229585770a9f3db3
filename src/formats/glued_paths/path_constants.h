// What glued texts spell, by the constants of a language's files, and the references that follow.
#pragma once

#include <functional>
#include <map>
#include <memory>
#include <set>
#include <string>

#include "formats/format.h"
#include "formats/glued_paths/glue_scan.h"

namespace yc::glued_paths {

// Names that texts hang on, and that their own files do not define.
struct UnknownNames {
  std::set<std::string> constants;
  std::set<std::string> functions;  // that are called with texts
  bool is_confined = false;         // not all files are read
  bool empty() const { return constants.empty() && functions.empty(); }
};

class PathConstants {
 public:
  // What a file says; null for a file that says nothing.
  using FactsOf = std::function<std::shared_ptr<const GlueFacts>(const RelPath&)>;

  // `files` are all in which a constant may stand that another of them uses.
  PathConstants(const TreeReader& tree, std::vector<RelPath> files, FactsOf facts_of)
      : tree_(tree), files_(std::move(files)), facts_of_(std::move(facts_of)) {}

  // Has the texts name what the scripts of `graph`, which must outlive this, copy into the build tree.
  void see_copies(const Scopes& scopes, const FileTable& files) { scopes_ = &scopes, table_ = &files; }
  // Has names stand for what the scripts of `scopes`, which must outlive this, define them as: folders and
  // files that compilers are told of, -DTABLES="src/tables".
  void see_macros(const Scopes& scopes);
  // What a text of `user` likely names.
  std::optional<Reference> reference(const RelPath& user, const TracedText& text, Site site,
                                     std::uint8_t format) const;
  // Takes the functions of a file that is read already, for all others.
  void take_loaders(const RelPath& file, const GlueFacts& facts);
  // Finds what the names stand for that `facts` use and do not define. Looks into all files, so it is asked
  // once for many.
  void look_up(const UnknownNames& names);
  // What a name stands for in a file: by the only definition there, else by the only one in all the files.
  struct Definition {
    RelPath file;
    std::vector<GluePart> value;
  };
  std::optional<Definition> find(const RelPath& file, const GlueFacts& facts, const std::string& name) const;
  // The only function of that name that glues what it is called with to a folder, first in the file itself.
  struct FoundLoader {
    RelPath file;
    Loader loader;
  };
  std::optional<FoundLoader> find_loader(const RelPath& file, const GlueFacts& facts,
                                         const std::string& function) const;
  // What is spelled by `parts`, which stand in `file`; nothing if a name stands for nothing, or a string
  // could be no path.
  std::optional<TracedText> spelled(const RelPath& file, const GlueFacts& facts,
                                    const std::vector<GluePart>& parts, FileTable& table,
                                    std::size_t depth = 0) const;
  // The facts of a file that defines something.
  std::shared_ptr<const GlueFacts> facts_of(const RelPath& file) const { return facts_of_(file); }
  // Whether this is asked for the first time.
  bool is_first(Site site) { return seen_.insert(site).second; }

 private:
  // The path that all who compile a file define a macro as; of a file that nobody compiles, all there are.
  std::optional<TracedText> macro(const RelPath& file, const std::string& name) const;
  void look_for_functions(const std::set<std::string>& functions);

  const TreeReader& tree_;
  std::vector<RelPath> files_;
  FactsOf facts_of_;
  std::map<std::string, std::vector<Definition>> elsewhere_;
  std::map<std::string, std::vector<FoundLoader>> loaders_;  // of other files
  std::set<Site> seen_;
  std::map<std::string, std::map<ContextIndex, RelPath>> macros_;  // what each is, by who defines it
  std::map<RelPath, std::set<ContextIndex>> compiled_in_;          // sources
  const Scopes* scopes_ = nullptr;
  const FileTable* table_ = nullptr;
};

// Notes those of a file that `out` may want.
void note_unknown_names(const GlueFacts& facts, std::string_view bytes, const RelPath& file,
                        const GraphBuilder& out, UnknownNames& names);

// Adds likely references for the glued texts of a file, and for constants that stand for a folder. Gives the
// offsets of the strings that these took. `tells_holes`: what goes on with a part that only the program knows
// is told as a hole, too.
std::set<std::uint32_t> emit_glued(const TreeReader& tree, const RelPath& file, const GlueFacts& facts,
                                   PathConstants& constants, std::uint8_t format, bool tells_holes,
                                   GraphBuilder& out);

}  // namespace yc::glued_paths
