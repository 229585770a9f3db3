#include "model/graph_archive.h"

#include <algorithm>
#include <cstdlib>
#include <istream>
#include <sstream>
#include <stdexcept>
#include <streambuf>

namespace yc {

namespace {

ArchiveTables& tables(Output& archive) {
  return cereal::get_user_data<ArchiveTables>(archive);
}
std::uint8_t number_of(BuildTool tool) {
  auto at = std::find(kBuildTools.begin(), kBuildTools.end(), tool);
  if (at == kBuildTools.end()) std::abort();  // a reader gave a tool that is not listed; a test sees it first
  return static_cast<std::uint8_t>(at - kBuildTools.begin());
}

ArchiveTables& tables(Input& archive) {
  return cereal::get_user_data<ArchiveTables>(archive);
}

// Reads bytes where they stand.
class View : public std::streambuf {
 public:
  explicit View(std::string_view bytes) {
    char* begin = const_cast<char*>(bytes.data());  // never written
    setg(begin, begin, begin + bytes.size());
  }
};

}  // namespace

std::uint32_t ArchiveTables::number_of(FileIndex file) {
  if (file == kNoFile) return 0;
  auto [at, fresh] = known_files_.emplace(file, static_cast<std::uint32_t>(paths_.size() + 1));
  if (fresh) paths_.push_back(files_.path(file));
  return at->second;
}

std::uint32_t ArchiveTables::known(const Passages& passages) const {
  auto at = known_lists_.find(passages.identity());
  return at == known_lists_.end() ? 0 : at->second;
}

void ArchiveTables::number(const Passages& passages) {
  known_lists_.emplace(passages.identity(), static_cast<std::uint32_t>(known_lists_.size() + 1));
}

void ArchiveTables::set_paths(const std::vector<RelPath>& paths) {
  for (const RelPath& path : paths) numbers_.push_back(files_.index(path));
}

std::string packed(ArchiveTables tables, const std::function<void(Output&)>& write) {
  std::ostringstream body;
  cereal::UserDataAdapter<ArchiveTables, Output> archive(tables, body);
  write(archive);
  std::ostringstream head;
  cereal::UserDataAdapter<ArchiveTables, Output> names(tables, head);
  names(tables.paths());
  return std::move(head).str() + std::move(body).str();
}

bool unpack(std::string_view bytes, ArchiveTables tables, const std::function<void(Input&)>& read) {
  View view(bytes);
  std::istream stream(&view);
  cereal::UserDataAdapter<ArchiveTables, Input> archive(tables, stream);
  try {
    std::vector<RelPath> paths;
    archive(paths);
    tables.set_paths(paths);
    read(archive);
  } catch (const std::exception&) {  // how the library says that there is not enough to read
    return false;
  }
  return true;
}

void save(Output& archive, const FileNumber& number) {
  archive(tables(archive).number_of(number.file));
}
void load(Input& archive, FileNumber& number) {
  std::uint32_t at = 0;
  archive(at);
  number.file = tables(archive).file(at);
}

void save(Output& archive, const RelPath& path) {
  archive(path.str());
}
void load(Input& archive, RelPath& path) {
  std::string text;
  archive(text);
  path = RelPath::from_normal(std::move(text));
}

template <typename Archive>
void serialize(Archive& archive, Span& span) {
  archive(span.begin, span.end);
}

template <typename Archive>
void serialize(Archive& archive, Passage& passage) {
  archive(number(passage.file), passage.span);
}

template <typename Archive>
void serialize(Archive& archive, HandedFolder& folder) {
  archive(folder.folder, folder.is_copied, folder.command, folder.at);
}

// The part of a list that is not known yet, from the innermost one outwards, behind the number of the rest.
void save(Output& archive, const Passages& passages) {
  std::vector<Passages> fresh;
  Passages rest = passages;
  while (!rest.empty() && tables(archive).known(rest) == 0) {
    fresh.push_back(rest);
    rest = rest.rest();
  }
  archive(rest.empty() ? std::uint32_t{0} : tables(archive).known(rest),
          static_cast<std::uint32_t>(fresh.size()));
  for (std::size_t i = fresh.size(); i-- > 0;) {
    archive(number(fresh[i].front().file), fresh[i].front().span);
    tables(archive).number(fresh[i]);
  }
}
void load(Input& archive, Passages& passages) {
  std::uint32_t rest = 0, fresh = 0;
  archive(rest, fresh);
  passages = rest == 0 ? Passages() : tables(archive).passages(rest);
  for (; fresh > 0; --fresh) {
    Passage passage;
    archive(number(passage.file), passage.span);
    passages.enclose(passage);
    tables(archive).add(passages);
  }
}

template <typename Archive>
void serialize(Archive& archive, Piece& piece) {
  archive(piece.text, piece.nature, number(piece.file), piece.span, piece.style, piece.verbatim,
          piece.automatic, number(piece.anchor), piece.via);
}

void save(Output& archive, const TracedText& text) {
  archive(text.pieces());
}
void load(Input& archive, TracedText& text) {
  std::vector<Piece> pieces;
  archive(pieces);
  text = TracedText::of(std::move(pieces));
}

template <typename Archive>
void serialize(Archive& archive, Target& target) {
  archive(target.kind, target.path, target.site);
}
template <typename Archive>
void serialize(Archive& archive, InContext& one) {
  archive(one.context, one.found, one.target, one.is_made, one.doubt);
}
template <typename Archive>
void serialize(Archive& archive, Derivation& derivation) {
  archive(derivation.name, derivation.name_head, derivation.name_tail, derivation.source_head,
          derivation.source_tail, derivation.rule, derivation.place);
}
template <typename Archive>
void serialize(Archive& archive, ConstructPart& part) {
  archive(part.path, part.tag);
}
template <typename Archive>
void serialize(Archive& archive, GlobPattern& pattern) {
  archive(pattern.kind, pattern.names, pattern.whole, pattern.looks_into_folders);
}
template <typename Archive>
void serialize(Archive& archive, IncludeText& include) {
  archive(include.angled);
}
template <typename Archive>
void serialize(Archive& archive, OwnSpelling& spelling) {
  archive(spelling.lead);
}
template <typename Archive>
void all_but_derivation(Archive& archive, Reference& reference) {
  archive(reference.role, reference.certainty, reference.format, reference.kind, reference.excludes,
          reference.may_gain, reference.feeds_list, reference.in_list, reference.ordered, reference.dangling,
          reference.construct, reference.construct_part, reference.text, reference.base, reference.search,
          reference.targets, reference.contexts);
}
void save(Output& archive, const Reference& reference) {
  all_but_derivation(archive, const_cast<Reference&>(reference));  // only read
  archive(reference.derivation != nullptr);
  if (reference.derivation) archive(*reference.derivation);
}
void load(Input& archive, Reference& reference) {
  all_but_derivation(archive, reference);
  bool is_derived = false;
  archive(is_derived);
  if (!is_derived) return;
  Derivation derivation;
  archive(derivation);
  reference.derivation = std::make_shared<const Derivation>(std::move(derivation));
}

template <typename Archive>
void serialize(Archive& archive, Place& place) {
  archive(place.space, place.path);
}
template <typename Archive>
void serialize(Archive& archive, SearchRoot& root) {
  archive(root.place, root.quoted_only, root.as_built);
}
template <typename Archive>
void serialize(Archive& archive, PathMacro& macro) {
  archive(macro.name, macro.value, macro.angled, macro.definition);
}
template <typename Archive>
void all_but_tool(Archive& archive, Context& context) {
  archive(context.roots, context.forced, context.macros, context.open, context.start);
}
void save(Output& archive, const Context& context) {
  all_but_tool(archive, const_cast<Context&>(context));  // only read
  archive(number_of(context.tool));
}
void load(Input& archive, Context& context) {
  all_but_tool(archive, context);
  std::uint8_t tool = 0;
  archive(tool);
  context.tool = kBuildTools.at(tool);
}
template <typename Archive>
void serialize(Archive& archive, Unit& unit) {
  archive(unit.name, unit.format, unit.site, unit.root_words, unit.uses);
}
template <typename Archive>
void serialize(Archive& archive, Compilation& one) {
  archive(one.source, one.context, one.unit);
}
template <typename Archive>
void serialize(Archive& archive, Hole& hole) {
  archive(hole.text, hole.base, hole.format);
}
template <typename Archive>
void serialize(Archive& archive, Notice& notice) {
  archive(notice.id, notice.file, notice.span, notice.has_place, notice.message);
}
template <typename Archive>
void serialize(Archive& archive, BuildCopy& copy) {
  archive(copy.of, copy.named_after, number(copy.script), copy.is_of_project);
}
template <typename Archive>
void serialize(Archive& archive, Generated& file) {
  archive(file.script, file.product, file.command);
}
// Build scripts tell of one kind alone, so that no name of it is kept.
template <typename Archive>
void serialize(Archive& archive, Unmet& text) {
  archive(text.file, text.span, text.text, text.wanted, text.is_note, text.is_told);
  text.what = kMissingSource;
}
template <typename Archive>
void serialize(Archive& archive, ObjectClash& clash) {
  archive(clash.object, clash.sources, clash.site);
}
template <typename Archive>
void serialize(Archive& archive, StrayObject& object) {
  archive(object.wanted, object.left, object.site);
}
template <typename Archive>
void serialize(Archive& archive, Alias& alias) {
  archive(alias.scope, alias.settings, alias.head, alias.tail, alias.open, alias.place, alias.before,
          alias.after, alias.styles);
}
template <typename Archive>
void serialize(Archive& archive, MergedFolders& merged) {
  archive(merged.scope, merged.folders);
}
template <typename Archive>
void serialize(Archive& archive, ModuleRoot& root) {
  archive(root.folder, root.scope, root.settings);
}
template <typename Archive>
void serialize(Archive& archive, Boundary& boundary) {
  archive(boundary.file, boundary.name, boundary.kind, boundary.nearest, boundary.members, boundary.uses,
          boundary.platforms, boundary.joins);
}
template <typename Archive>
void serialize(Archive& archive, VirtualPlace& place) {
  archive(place.list, place.path, place.shown, place.span);
}
template <typename Archive>
void serialize(Archive& archive, OutputFolder& folder) {
  archive(folder.settings, folder.sources, folder.outputs, folder.inferred);
}
template <typename Archive>
void serialize(Archive& archive, Crate& crate) {
  archive(crate.root, crate.settings, crate.name, crate.is_library, crate.names_from_root, crate.uses);
}
template <typename Archive>
void serialize(Archive& archive, Holding& holding) {
  archive(holding.program, holding.library, holding.is_private);
}

namespace {

void save_made(Output& archive, const std::map<RelPath, std::set<BuildTool>>& made) {
  std::map<RelPath, std::vector<std::uint8_t>> out;
  for (const auto& [path, tools] : made) {
    for (BuildTool tool : tools) out[path].push_back(number_of(tool));
  }
  archive(out);
}
void load_made(Input& archive, std::map<RelPath, std::set<BuildTool>>& made) {
  std::map<RelPath, std::vector<std::uint8_t>> in;
  archive(in);
  for (const auto& [path, tools] : in) {
    for (std::uint8_t tool : tools) made[path].insert(kBuildTools.at(tool));
  }
}

template <typename Archive>
void all_but_made(Archive& archive, ReferenceGraph& graph) {
  archive(graph.contexts, graph.compilations, graph.templates, graph.copies, graph.lookups, graph.solutions,
          graph.merged_folders, graph.aliases, graph.outputs, graph.entries, graph.module_roots,
          graph.installed, graph.installed_made, graph.started, graph.starts, graph.crates);
  archive(graph.references, graph.units, graph.holes, graph.notices, graph.unmet, graph.generated,
          graph.clashes, graph.stray_objects, graph.compared, graph.handed, graph.compile_options,
          graph.boundaries, graph.virtual_places, graph.unread, graph.files_by_format, graph.holdings);
}

}  // namespace

void save_graph(Output& archive, const ReferenceGraph& graph) {
  all_but_made(archive, const_cast<ReferenceGraph&>(graph));  // only read
  save_made(archive, graph.made);
}
void load_graph(Input& archive, ReferenceGraph& graph) {
  all_but_made(archive, graph);
  load_made(archive, graph.made);
}

}  // namespace yc
