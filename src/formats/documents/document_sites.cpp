#include "formats/documents/document_sites.h"

#include <fmt/format.h>

#include <algorithm>
#include <map>
#include <unordered_set>

#include "base/text.h"
#include "formats/format.h"
#include "formats/values/values.h"

namespace yc::documents {

namespace {

using Maker = DocumentSite::Maker;

constexpr std::string_view kSphinxSettings = "conf.py";

bool is_document(const RelPath& path) {
  std::string_view ending = path.extension();
  return ending == ".rst" || ending == ".md" || ending == ".markdown" || ending == ".txt";
}

// A string that a line gives a name: master_doc = 'index'.
std::optional<std::string> string_given(std::string_view bytes, std::string_view name) {
  std::optional<std::string> out;
  for_each_line(bytes, [&](std::string_view line, std::size_t) {
    if (!line.starts_with(name)) return;
    std::size_t equals = line.find_first_not_of(" \t", name.size());
    std::size_t open = equals == line.npos ? line.npos : line.find_first_of("'\"", equals);
    std::size_t close = open == line.npos ? line.npos : line.find(line[open], open + 1);
    if (close != line.npos && line[equals] == '=') out = std::string(line.substr(open + 1, close - open - 1));
  });
  return out;
}

// Nothing for a module that is called like the settings.
std::optional<DocumentSite> sphinx_site(const TreeReader& tree, const RelPath& settings) {
  auto bytes = tree.read(settings);
  if (!bytes) return std::nullopt;
  DocumentSite out;
  out.settings = settings;
  out.folder = settings.parent();
  out.first_page = "index";
  for (std::string_view name : {"master_doc", "root_doc"}) {
    if (auto given = string_given(**bytes, name)) out.first_page = *given;
  }
  bool has_page = false;
  for (const char* ending : {".rst", ".md", ".txt"}) {
    // What the settings give may be any text.
    auto page = RelPath::resolve(out.folder, out.first_page + ending);
    has_page = has_page || (page && tree.is_file(*page));
  }
  return has_page ? std::optional(out) : std::nullopt;
}

std::optional<DocumentSite> mkdocs_site(const TreeReader& tree, const RelPath& settings) {
  auto bytes = tree.read(settings);
  if (!bytes) return std::nullopt;
  DocumentSite out;
  out.maker = Maker::mkdocs;
  out.settings = settings;
  out.pages_are_folders = true;
  std::string folder = "docs";
  for (const values::Value& value : values::read_yaml(**bytes)) {
    if (value.path == std::vector<std::string>{"docs_dir"}) folder = value.text;
    if (value.path == std::vector<std::string>{"use_directory_urls"} && value.text == "false")
      out.pages_are_folders = false;
  }
  auto place = RelPath::resolve(settings.parent(), folder);
  if (!place || place->is_root()) return std::nullopt;
  out.folder = *place;
  return out;
}

std::string without_ending(std::string_view path) {
  return std::string(path.substr(0, path.rfind('.')));
}

// What a site is made of: with Sphinx documents that others list or lead to by their names, as what is only
// included is none; with MkDocs all documents, and what these and its settings lead to.
std::unordered_set<RelPath> parts_of(const DocumentSite& site, const ReferenceGraph& graph,
                                     std::string_view format) {
  std::unordered_set<RelPath> out;
  for (const Reference& reference : graph.references) {
    FileIndex file = standing_of(reference).file;
    if (file == kNoFile) continue;
    const RelPath& user = graph.files.path(file);
    bool is_name =
        reference.is_pattern() || (reference.role == Role::link && reference.text.pieces().size() == 2);
    bool is_own = site.maker == Maker::mkdocs ? user.is_within(site.folder) || user == site.settings
                                              : is_name && format_at(reference.format).name() == format;
    if (!is_own) continue;
    for (const Target& target : reference.targets) out.insert(target.path);
  }
  return out;
}

bool is_page(const DocumentSite& site, const RelPath& file) {
  return site.maker == Maker::mkdocs && (file.extension() == ".md" || file.extension() == ".markdown");
}

bool is_first_page(const DocumentSite& site, const RelPath& file) {
  if (!file.is_within(site.folder) || file == site.folder) return false;
  std::string_view below = file.below(site.folder);
  if (site.maker == Maker::mkdocs) return below == "index.md" || below == "README.md";
  return is_document(file) && without_ending(below) == site.first_page;
}

// Settings that the tool would not find any more. `image` is their site in the planned tree, if it is one.
std::optional<Blocker> lost_settings(const DocumentSite& site, const Move& move, const DocumentSite* image) {
  if (move.from != site.settings || site.maker != Maker::sphinx) return std::nullopt;
  Blocker out;
  out.id = "name-bound";
  out.file = move.from;
  out.text = move.to.str();
  if (move.to.name() != move.from.name()) {
    out.reason = "Sphinx looks for its settings by this name";
    out.next = "leave it " + std::string(kSphinxSettings);
    return out;
  }
  if (image) return std::nullopt;
  out.bearing = Blocker::Bearing::stands_for_all;
  out.reason = "Sphinx looks for it beside the first page of the documents";
  out.next = "move the whole folder, or add --accept-unseen if the build says where it is (-c)";
  return out;
}

std::string_view name_of_maker(Maker maker) {
  return maker == Maker::sphinx ? "Sphinx" : "MkDocs";
}

}  // namespace

DocumentSites::DocumentSites(const TreeReader& tree) {
  for (const RelPath& path : tree.files()) {
    std::string_view name = path.name();
    std::optional<DocumentSite> site;
    if (name == kSphinxSettings) site = sphinx_site(tree, path);
    if (name == "mkdocs.yml" || name == "mkdocs.yaml") site = mkdocs_site(tree, path);
    if (site) sites_.emplace(site->folder, std::move(*site));
  }
  for (const auto& [folder, site] : sites_) folders_.emplace(site.settings, folder);
}

const DocumentSite* DocumentSites::of(const RelPath& file) const {
  if (sites_.empty()) return nullptr;
  for (RelPath up = file.parent();; up = up.parent()) {
    if (auto site = sites_.find(up); site != sites_.end()) return &site->second;
    if (up.is_root()) return nullptr;
  }
}

const DocumentSite* DocumentSites::set_by(const RelPath& settings) const {
  auto folder = folders_.find(settings);
  return folder == folders_.end() ? nullptr : &sites_.find(folder->second)->second;
}

std::vector<Blocker> left_documents(const ReadTree& before, const ReadTree& planned, const MoveSet& moves,
                                    std::string_view format) {
  const DocumentSites then(before.tree), now(planned.tree);
  std::map<RelPath, std::unordered_set<RelPath>> parts;  // by the settings of the site
  std::vector<Blocker> out;
  std::size_t more = 0;  // one file stands for all that leave
  for (const Move& move : moves.files()) {
    const DocumentSite* site = then.of(move.from);
    if (!site) site = then.set_by(move.from);
    if (!site) continue;
    std::string maker(name_of_maker(site->maker));
    const DocumentSite* image = now.set_by(moves.map_file(site->settings));
    if (auto item = lost_settings(*site, move, image)) {
      out.push_back(std::move(*item));
      continue;
    }
    // Its first page may be what moves.
    RelPath folder = image ? image->folder : moves.map_folder(site->folder).value_or(site->folder);
    if (!move.from.is_within(site->folder)) continue;
    bool is_first = is_first_page(*site, move.from);
    if (move.to.is_within(folder)) {
      DocumentSite wanted = image ? *image : *site;
      wanted.folder = folder;
      if (!is_first || is_first_page(wanted, move.to)) continue;
      out.push_back(
          {"name-bound",
           move.from,
           {},
           move.to.str(),
           "is the first page of the site that " + maker + " makes, which it looks for by this name",
           "leave it in its place" + (site->maker == Maker::sphinx ? ", or name another first page in " +
                                                                         site->settings.str() + " first"
                                                                   : std::string()),
           Blocker::Bearing::stands_for_all});
      continue;
    }
    if (!is_first && !is_page(*site, move.from)) {
      auto [known, fresh] = parts.try_emplace(site->settings);
      if (fresh) known->second = parts_of(*site, before.graph, format);
      if (!known->second.contains(move.from)) continue;
    }
    if (more++ > 0) continue;
    out.push_back({"not-served",
                   move.from,
                   {},
                   move.to.str(),
                   fmt::format("would lie outside of {}, the folder that {} makes a site of",
                               folder.str().empty() ? "." : folder.str(), maker),
                   "choose a place below that folder, or change " + site->settings.str() + " first",
                   Blocker::Bearing::stands_for_all});
  }
  if (more > 1) {
    for (Blocker& item : out) {
      if (item.id == "not-served") item.reason += fmt::format(" (and {} more)", more - 1);
    }
  }
  return out;
}

}  // namespace yc::documents
