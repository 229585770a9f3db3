#include "formats/msbuild/output_places.h"

#include <algorithm>

#include "formats/msbuild/project_files.h"
#include "formats/msbuild/project_words.h"

namespace yc::msbuild {

namespace {

struct Copied {
  const Item* item = nullptr;
  RelPath file;
  const Setting* link = nullptr;
};

// Of items that name one file each.
std::vector<Copied> copied_items(const TreeReader& tree, const Project& project) {
  std::map<std::size_t, const Setting*> links;
  std::set<std::size_t> copied;
  for (const Setting& setting : project.settings) {
    if (setting.name == "Link") links.emplace(setting.item, &setting);
    if (setting.name == "CopyToOutputDirectory") copied.insert(setting.item);
  }
  std::vector<Copied> out;
  const RelPath folder = project.parts.front().path.parent();
  for (const Item& item : project.items) {
    bool plain = copied.contains(item.number) && item.act == Item::Act::include && item.value.part == 0 &&
                 item.value.texts.size() == 1 && item.type != "Compile";
    if (!plain) continue;
    Place place = place_of(folder, item.value.texts.front().text());
    auto file = place.space == Space::tree ? find_any_case(tree, place.path) : std::nullopt;
    if (!file || !tree.is_file(*file)) continue;
    auto link = links.find(item.number);
    out.push_back({&item, *file, link == links.end() ? nullptr : link->second});
  }
  return out;
}

}  // namespace

void note_copies(const TreeReader& tree, const Project& project, GraphBuilder& out) {
  const Part& own = project.parts.front();
  RelPath folder = own.path.parent();
  for (const Copied& copied : copied_items(tree, project)) {
    std::optional<RelPath> place;
    if (copied.link) {
      bool known = copied.link->value.texts.size() == 1 && !copied.link->value.texts.front().has_hole();
      if (known) place = RelPath::resolve(folder, copied.link->value.texts.front().text());
    } else if (!copied.file.is_within(folder)) {
      place = folder / copied.file.name();
    }
    if (place && !place->is_root())
      out.graph().copies.insert_or_assign(place->str(), BuildCopy{copied.file, !copied.link, own.file, true});
  }
}

namespace {

// Items that name many files below a folder, which keep their places where that lies elsewhere from now on:
// data\**\*.json with the link data\%(RecursiveDir)%(Filename)%(Extension).
class KeptPatterns {
 public:
  KeptPatterns(const RelPath& path, const Project& project, const MoveSet& moves)
      : path_(path), project_(project), moves_(moves) {
    for (const Setting& setting : project.settings) {
      if (setting.name == "Link") linked_.insert(setting.item);
      if (setting.name == "CopyToOutputDirectory") copied_.insert(setting.item);
    }
  }

  void run(std::vector<Proposal>& out) const {
    for (const Item& item : project_.items) {
      bool counts = copied_.contains(item.number) && !linked_.contains(item.number) &&
                    item.act == Item::Act::include && item.value.part == 0 && item.value.texts.size() == 1;
      if (counts) keep(item, item.value.texts.front().text(), out);
    }
  }

 private:
  void keep(const Item& item, const std::string& text, std::vector<Proposal>& out) const {
    std::size_t wild = text.find_first_of("*?");
    std::size_t slash = wild == std::string::npos ? wild : text.rfind('/', wild);
    if (slash == std::string::npos) return;
    const RelPath folder = path_.parent(), new_folder = moves_.map_file(path_).parent();
    Place place = place_of(folder, text.substr(0, slash));
    auto now = place.space == Space::tree ? moves_.map_folder(place.path) : std::nullopt;
    bool was_below = place.path.is_within(folder), is_below = now && now->is_within(new_folder);
    if (!now || was_below == is_below) return;
    std::string tail = text.substr(slash + 1);
    bool is_deep = tail.starts_with("**/");
    if (is_deep) tail.erase(0, 3);
    const Part& own = project_.parts.front();
    auto head = was_below && place.path != folder
                    ? written(std::string(place.path.below(folder)) + "/", kBackslash)
                    : std::optional<std::string>("");
    if (!head || tail.find('/') != std::string::npos) return;
    std::string link = *head + (is_deep && was_below ? "%(RecursiveDir)" : "") + "%(Filename)%(Extension)";
    out.push_back({{metadata_beside(path_, *own.bytes, (*own.elements)[item.value.element], "Link", link,
                                    project_.is_new_style)},
                   ""});
  }

  const RelPath& path_;
  const Project& project_;
  const MoveSet& moves_;
  std::set<std::size_t> linked_, copied_;
};

}  // namespace

std::vector<Proposal> keep_output_places(const ClaimedTree& before, const MoveSet& moves) {
  const TreeReader& tree = before.tree;
  std::vector<Proposal> out;
  for (const RelPath& path : before.files) {
    if (!is_project(path) || !tree.is_editable(path)) continue;
    auto bytes = tree.read(path);
    if (!bytes || (*bytes)->find("CopyToOutputDirectory") == std::string::npos) continue;
    FactsCache cache;
    FileTable files;
    Project project = evaluate(tree, cache, 0, files, path, {});
    if (project.parts.empty()) continue;
    KeptPatterns(path, project, moves).run(out);
    RelPath folder = path.parent(), new_folder = moves.map_file(path).parent();
    for (const Copied& copied : copied_items(tree, project)) {
      RelPath now = moves.map_file(copied.file);
      bool was_below = copied.file.is_within(folder), is_below = now.is_within(new_folder);
      std::string then(was_below ? copied.file.below(folder) : copied.file.name());
      std::string after(is_below ? now.below(new_folder) : now.name());
      // What stays below the folder goes where its new path says, and texts that name it follow.
      if (copied.link || then == after || (was_below && is_below)) continue;
      const Part& own = project.parts.front();
      Span span = copied.item->value.span;
      std::string named = own.bytes->substr(span.begin, span.size());
      WritingStyle style = named.find('\\') != std::string::npos  ? kBackslash
                           : named.find('/') != std::string::npos ? kSlash
                                                                  : habit_of(*own.bytes);
      auto link = written(then, style);
      if (!link) continue;
      Proposal way{{metadata_beside(path, *own.bytes, (*own.elements)[copied.item->value.element], "Link",
                                    *link, project.is_new_style)},
                   ""};
      // Only with its new path the item says what is copied there.
      bool plain = named.find_first_of("$%@;") == std::string::npos;
      auto text = plain ? written(relative_text(new_folder, now), style) : std::nullopt;
      if (text) way.edits.push_back({path, span, *text});
      out.push_back(std::move(way));
    }
  }
  return out;
}

}  // namespace yc::msbuild
