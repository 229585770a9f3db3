#include <algorithm>

#include "formats/assemblies/assemblies.h"
#include "formats/autoconf/autoconf.h"
#include "formats/batch_scripts/batch_scripts.h"
#include "formats/c_family/c_family.h"
#include "formats/cmake/cmake.h"
#include "formats/code_paths/code_paths.h"
#include "formats/compile_database/compile_database.h"
#include "formats/containers/containers.h"
#include "formats/data_files/data_files.h"
#include "formats/doc_settings/doc_settings.h"
#include "formats/documents/documents.h"
#include "formats/editor_settings/editor_settings.h"
#include "formats/format.h"
#include "formats/linker_scripts/linker_scripts.h"
#include "formats/links/links.h"
#include "formats/make/make.h"
#include "formats/meson/meson.h"
#include "formats/modules/modules.h"
#include "formats/modules/program_settings.h"
#include "formats/msbuild/msbuild.h"
#include "formats/pages/pages.h"
#include "formats/path_lists/path_lists.h"
#include "formats/pipelines/pipelines.h"
#include "formats/property_lists/property_lists.h"
#include "formats/python/python.h"
#include "formats/python_settings/python_settings.h"
#include "formats/resource_scripts/resource_scripts.h"
#include "formats/resources/resources.h"
#include "formats/shell_scripts/shell_scripts.h"
#include "formats/sketches/sketches.h"
#include "formats/solutions/solutions.h"
#include "formats/styles/styles.h"
#include "formats/taught/taught.h"
#include "formats/web_settings/compiler_settings.h"
#include "formats/web_settings/package_manifests.h"

namespace yc {

const std::vector<std::unique_ptr<Format>>& formats() {
  static const auto all = [] {
    std::vector<std::unique_ptr<Format>> list;
    list.push_back(make_format());
    list.push_back(cmake_format());
    list.push_back(cmake_presets_format());
    list.push_back(meson_format());
    list.push_back(autoconf_format());
    list.push_back(shell_scripts_format());
    list.push_back(batch_scripts_format());
    list.push_back(solutions_format());
    list.push_back(msbuild_format());  // after the solutions that list its projects
    list.push_back(resource_scripts_format());
    list.push_back(property_lists_format());
    list.push_back(assemblies_format());
    list.push_back(sketches_format());
    list.push_back(containers_format());
    list.push_back(pipelines_format());
    list.push_back(editor_settings_format());
    list.push_back(compile_database_format());
    list.push_back(linker_scripts_format());  // after the commands that tell where to look
    list.push_back(doc_settings_format());
    list.push_back(resources_format());  // after the scripts that tell where to look
    list.push_back(links_format());
    list.push_back(path_lists_format());
    list.push_back(compiler_settings_format());
    list.push_back(package_manifests_format());  // after the settings that tell where compilers put things
    list.push_back(program_settings_format());
    list.push_back(python_settings_format());
    list.push_back(taught_format());
    list.push_back(pages_format());  // before modules: import maps give them names
    list.push_back(styles_format());
    list.push_back(modules_format());
    list.push_back(python_format());
    list.push_back(code_paths_format());
    list.push_back(documents_format());
    list.push_back(data_files_format());
    list.push_back(c_family_format());  // after everything that gives contexts
    return list;
  }();
  return all;
}

const Format& format_at(std::uint8_t index) {
  return *formats()[index];
}

void Format::prepare(const TreeReader&, FactsCache&, std::uint8_t, const Focus*) const {}

void Format::read_again(const TreeReader& tree, FactsCache& cache, std::uint8_t self, GraphBuilder& out,
                        Memory&, const IsSame&) const {
  read(tree, cache, self, out);
}

std::vector<Way> Format::needed_edits(const TreeReader&, const MoveSet&) const {
  return {};
}

std::vector<Way> Format::own_ways(const Need&) const {
  return {};
}

std::vector<Way> Format::first_ways(const Need&) const {
  return {};
}

std::vector<Way> Format::further_ways(const Need&) const {
  return {};
}

bool Format::governs(const RelPath&) const {
  return false;
}

std::optional<Way> Format::exclude(const ReferenceGraph&, const Reference&, const std::string&,
                                   const TreeReader&) const {
  return std::nullopt;
}

std::optional<Way> Format::list_by_name(const ReferenceGraph&, const Reference&,
                                        const std::vector<std::string>&, const TreeReader&) const {
  return std::nullopt;
}

std::optional<Format::Reason> Format::why_not(const ReferenceGraph&, const Reference&, const RelPath&,
                                              const RelPath&) const {
  return std::nullopt;
}

std::vector<Way> Format::provide_folders(const RelPath&, const std::string&,
                                         const std::vector<const Reference*>&) const {
  return {};
}

std::vector<Way> Format::follow_names(const TreeReader&, const MoveSet&) const {
  return {};
}

std::vector<Edit> Format::through_constant(const TreeReader&, const ReferenceGraph&,
                                           const std::vector<const Reference*>&, const std::string&,
                                           const RelPath&) const {
  return {};
}

std::vector<Hazard> Format::hazards(const TreeView&, const TreeView&, const MoveSet&) const {
  return {};
}

std::vector<Edit> Format::list_member(const ReferenceGraph&, const Reference&, const RelPath&,
                                      const TreeReader&) const {
  return {};
}

std::vector<Edit> Format::unlist_member(const ReferenceGraph& graph, const Reference& member,
                                        const TreeReader& tree) const {
  if (member.text.pieces().empty() || !member.text.pieces().back().has_origin()) return {};
  const Piece& piece = member.text.pieces().back();
  const RelPath& file = graph.files.path(piece.file);
  auto bytes = tree.read(file);
  auto span = bytes ? without(**bytes, word_at(**bytes, piece.span)) : std::nullopt;
  return span ? std::vector<Edit>{Edit{file, *span, ""}} : std::vector<Edit>();
}

BoundaryReport Format::boundary_changes(const TreeView&, const TreeView&, const MoveSet&) const {
  return {};
}

std::map<RelPath, std::string> Format::needed_files(const TreeReader&, const MoveSet&) const {
  return {};
}

std::optional<std::string> Format::forwarder(const TreeReader&, const RelPath&, const RelPath&,
                                             std::string_view) const {
  return std::nullopt;
}

RelPath Format::forwarder_place(const RelPath& old_path, const RelPath&) const {
  return old_path;
}

std::optional<RelPath> Format::forwards_to(const RelPath&, std::string_view) const {
  return std::nullopt;
}

std::vector<Way> Format::add_search_root(const ReferenceGraph&, const Unit&, const RelPath&,
                                         const TreeReader&) const {
  return {};
}

namespace {

// Remembers which files are read.
class LoggedTree : public TreeReader {
 public:
  LoggedTree(const TreeReader& tree, std::set<RelPath>& log) : tree_(tree), log_(log) {}
  const Entry* find(const RelPath& path) const override { return tree_.find(path); }
  std::vector<std::string> children(const RelPath& folder) const override { return tree_.children(folder); }
  const FileList& listing() const override { return tree_.listing(); }
  Result<Bytes> read(const RelPath& path) const override {
    log_.insert(path);
    return tree_.read(path);
  }

 private:
  const TreeReader& tree_;
  std::set<RelPath>& log_;
};

}  // namespace

ReferenceGraph GraphReader::read(const TreeReader& tree, FactsCache& cache, const IsSame& same,
                                 const Focus* focus) {
  bool kept = scripts_ && std::all_of(read_.begin(), read_.end(), same);
  if (!kept) {
    read_.clear();
    scripts_.reset();
    LoggedTree logged(tree, read_);
    GraphBuilder builder;
    builder.graph().references.reserve(size_);
    for (std::size_t i = 0; i < formats().size(); ++i) {
      if (!formats()[i]->reads_sources())
        formats()[i]->read(logged, cache, static_cast<std::uint8_t>(i), builder);
    }
    scripts_ = std::move(builder);
  }
  GraphBuilder builder = *scripts_;
  builder.graph().references.reserve(size_);
  builder.confine(focus);
  for (std::size_t i = 0; i < formats().size(); ++i) {
    if (formats()[i]->reads_sources())
      formats()[i]->read_again(tree, cache, static_cast<std::uint8_t>(i), builder, sources_[i], same);
  }
  ReferenceGraph graph = builder.finish();
  size_ = graph.references.size() + graph.references.size() / 8;
  return graph;
}

ReferenceGraph read_graph(const TreeReader& tree, FactsCache& cache) {
  return GraphReader().read(tree, cache, [](const RelPath&) { return false; });
}

}  // namespace yc
