#include "formats/msbuild/project_maker.h"

#include <fmt/format.h>

#include <algorithm>

#include "formats/csharp_names/csharp_names.h"
#include "formats/mirrored_folders.h"
#include "formats/msbuild/default_items.h"
#include "formats/msbuild/project_copy.h"
#include "formats/msbuild/project_files.h"
#include "formats/msbuild/project_links.h"
#include "formats/msbuild/project_words.h"
#include "formats/msbuild/source_uses.h"

namespace yc::msbuild {

namespace {

std::string dotted(std::string_view path) {
  std::string out(path);
  std::replace(out.begin(), out.end(), '/', '.');
  return out;
}

std::string stem_of_project(const RelPath& project) {
  return std::string(project.name().substr(0, project.name().size() - project.extension().size()));
}

class Maker {
 public:
  Maker(const TreeView& view, std::uint8_t format, const Surroundings& around, const RelPath& folder,
        const SourceUses& uses, const RelPath& outer)
      : view_(view), folder_(folder), uses_(uses), outer_path_(outer) {
    outer_ = evaluate(view.tree, cache_, format, files_, outer, around);
    for (const RelPath& source : uses.projects().at(outer))
      (source.is_within(folder) ? inside_ : outside_).insert(source);
    any_space_ = std::any_of(outer_.items.begin(), outer_.items.end(),
                             [](const Item& item) { return item.type == "Using"; });
  }

  UnitChange run() {
    name_it();
    if (!outer_.is_whole) refuse(outer_path_, "is not read whole", "mend it first");
    if (view_.tree.find(made_.file)) refuse(made_.file, "stands there already", "rename it, or the folder");
    look_for_owners();
    take_items();
    look_for_resources();
    link();
    look_at_hidden();
    out_.made[made_.file] = project_text(view_.tree, outer_, made_);
    out_.units.push_back({made_.file, outer_path_, made_.stem, made_.identifier});
    return std::move(out_);
  }

 private:
  void refuse(const RelPath& file, std::string reason, std::string next) {
    out_.blockers.push_back(unit_blocker(file, std::move(reason), std::move(next)));
  }

  void name_it() {
    std::string stem = stem_of_project(outer_path_);
    std::string below = dotted(folder_.below(outer_path_.parent()));
    std::string assembly = outer_.property("assemblyname"), space = outer_.property("rootnamespace");
    made_.stem = stem + "." + below;
    made_.file = folder_ / (made_.stem + std::string(outer_path_.extension()));
    made_.assembly = (assembly.empty() ? stem : assembly) + "." + below;
    made_.space = (space.empty() ? stem : space) + "." + below;
    if (!outer_.property("projectguid").empty()) made_.identifier = identifier_of(made_.file.str());
  }

  // A source that somebody else compiles too cannot be an assembly's alone.
  void look_for_owners() {
    for (const auto& [project, its] : uses_.projects()) {
      if (project == outer_path_) continue;
      auto both = std::find_if(inside_.begin(), inside_.end(),
                               [&sources = its](const RelPath& source) { return sources.contains(source); });
      if (both != inside_.end())
        refuse(*both, "is compiled by " + project.str() + " too", "leave it to one of the two first");
    }
    for (const RelPath& source : outside_) {
      auto bytes = view_.tree.read(source);
      if (bytes && csharp::has_global_using(**bytes))
        refuse(source, "has usings that count for all sources of " + outer_path_.str(),
               "write them as <Using> items in the project first");
      if (bytes && ((*bytes)->find("AssemblyKeyFile(") != std::string::npos ||
                    (*bytes)->find("AssemblyKeyName(") != std::string::npos))
        refuse(source,
               "signs the assembly of " + outer_path_.str() + ", which may refer to signed ones alone",
               "sign by <AssemblyOriginatorKeyFile> in the project instead first");
    }
  }

  // What the outer project says of the folder goes along; where a pattern takes it in, it is taken out.
  void take_items() {
    std::set<std::string> removed;
    bool has_defaults = false;
    for (const DefaultItems& items : default_items(view_.tree, outer_)) {
      auto below = std::find_if(items.files.begin(), items.files.end(),
                                [&](const RelPath& file) { return file.is_within(folder_); });
      if (below == items.files.end()) continue;
      has_defaults = true;
      removed.insert(items.type);
    }
    for (const Item& item : outer_.items) {
      if (item.act != Item::Act::include && item.act != Item::Act::update) continue;
      for (const TracedText& text : item.value.texts) {
        for (const TracedText& word : list_words(text, outer_.separators)) take_word(item, word);
      }
    }
    if (has_defaults && !removed.empty()) take_out(removed);
  }

  void take_word(const Item& item, const TracedText& word) {
    auto place = RelPath::resolve(outer_path_.parent(), word.text());
    if (word.has_hole() || !place) return;
    bool is_pattern = word.text().find_first_of("*?") != std::string::npos;
    bool goes = place->is_within(folder_) && *place != folder_;
    if (is_pattern && !goes) return over_all(item, *place);
    if (!goes) return;
    if (item.value.part != 0 || word.pieces().empty() || !word.pieces().back().has_origin())
      return refuse(outer_.parts[item.value.part].path,
                    "lists " + place->str() + " for more than one project",
                    "list it in " + outer_path_.str() + " alone first");
    bool is_resource = item.type == "EmbeddedResource" && place->extension() == ".resx";
    if (item.type == "None" || item.type == "Content") return;  // it stays where its copy is looked for
    if (item.type != "Compile" && !is_resource)
      return refuse(
          *place,
          fmt::format("is {} of {}, and is looked for in what that makes", item.type, outer_path_.name()),
          "move it out of the folder first");
    const std::string& bytes = *outer_.parts[0].bytes;
    const xml::Element& element = (*outer_.parts[0].elements)[item.value.element];
    std::string path = relative_text(folder_, *place);
    Span span = xml::extent(bytes, element);
    std::string copy = bytes.substr(span.begin, span.size());
    auto written_path = written(path, word.pieces().back().style);
    std::size_t at = item.value.span.begin - span.begin;
    copy.replace(at, item.value.span.size(), written_path.value_or(path));
    made_.items.push_back(copy);
    if (auto gone = without(bytes, word_at(bytes, word.pieces().back().span)))
      out_.edits.push_back({outer_path_, *gone, ""});
  }

  // Code that asks its own assembly for what the outer project embeds.
  void look_for_resources() {
    bool embeds = std::any_of(outer_.items.begin(), outer_.items.end(), [&](const Item& item) {
      return item.type == "EmbeddedResource" && item.act == Item::Act::include;
    });
    for (const RelPath& source : inside_) {
      auto bytes = embeds ? view_.tree.read(source) : Result<Bytes>(Error{});
      if (bytes && (*bytes)->find("GetManifestResource") != std::string::npos)
        refuse(source, "asks its assembly for what is embedded in " + outer_path_.str(),
               "move the source out of the folder, or what it asks for into another project, first");
    }
  }

  // A pattern that takes in more than the folder.
  void over_all(const Item& item, const RelPath& pattern) {
    auto taken = std::find_if(inside_.begin(), inside_.end(),
                              [&](const RelPath& source) { return takes_in(pattern.str(), source.str()); });
    if (taken == inside_.end() || item.type != "Compile") return;
    const std::string& bytes = *outer_.parts[item.value.part].bytes;
    auto point = exclusion_point(bytes, item.value.span.begin);
    if (item.value.part != 0 || !point)
      return refuse(outer_.parts[item.value.part].path, "takes in the folder for more than one project",
                    "list the sources in " + outer_path_.str() + " alone first");
    std::string text = all_below(bytes, outer_path_, folder_);
    out_.edits.push_back(
        {outer_path_, {point->at, point->at}, point->is_list ? ";" + text : " Exclude=\"" + text + "\""});
    add_pattern();
  }

  // In an old project nothing is taken in without a word.
  void add_pattern() {
    std::string item = "<Compile Include=\"**\\*.cs\" Exclude=\"bin\\**;obj\\**\" />";
    bool known = std::find(made_.items.begin(), made_.items.end(), item) != made_.items.end();
    if (!outer_.is_new_style && !known) made_.items.push_back(item);
  }

  void take_out(const std::set<std::string>& types) {
    const std::string& bytes = *outer_.parts[0].bytes;
    InsertPoint place = end_of_project(bytes);
    std::string lines;
    for (const std::string& type : types)
      lines += item_line(place, type, "Remove", all_below(bytes, outer_path_, folder_));
    out_.edits.push_back({outer_path_, {place.at, place.at}, group_around(place, lines), "items " + lines});
  }

  // The references that it needs, and those to it.
  void link() {
    std::set<RelPath> reached = uses_.reached(outer_path_);
    const std::string& like = *outer_.parts[0].bytes;
    std::optional<SourceUse> back = uses_.first(inside_, outside_, any_space_);
    if (back) made_.links.push_back(link_line(folder_, like, linked_project(view_.tree, outer_path_)));
    for (const auto& [project, sources] : uses_.projects()) {
      bool is_used = reached.contains(project) && uses_.first(inside_, sources, any_space_);
      if (is_used) made_.links.push_back(link_line(folder_, like, linked_project(view_.tree, project)));
      if (is_used) needed_.insert(project);
    }
    LinkedProject own{made_.file, made_.stem, made_.identifier};
    for (const auto& [project, sources] : uses_.projects()) {
      bool is_outer = project == outer_path_;
      if (!is_outer && !uses_.reached(project).contains(outer_path_)) continue;
      auto use = uses_.first(is_outer ? outside_ : sources, inside_, any_space_);
      if (!use) continue;
      users_.insert(project);
      look_for_circle(project, *use, back);
      if (auto edit = link_edit(view_.tree, project, own)) out_.edits.push_back(*edit);
    }
  }

  void look_for_circle(const RelPath& user, const SourceUse& use, const std::optional<SourceUse>& back) {
    auto refuse_circle = [&](const SourceUse& other) {
      refuse(made_.file,
             fmt::format(
                 "would refer to itself: {0} -> {1} -> {0}: {2} uses {3} of {4}, and {5} uses {6} of {7}",
                 made_.stem, stem_of_project(user), other.user.str(), other.name, other.giver.str(),
                 use.user.str(), use.name, use.giver.str()),
             "move what both need to a folder of its own first");
    };
    if (back && (user == outer_path_ || uses_.reached(outer_path_).contains(user)))
      return refuse_circle(*back);
    for (const RelPath& needed : needed_) {
      if (needed != user && !uses_.reached(needed).contains(user)) continue;
      if (auto other = uses_.first(inside_, uses_.projects().at(needed), any_space_)) refuse_circle(*other);
    }
  }

  void look_at_hidden() {
    std::set<RelPath> all = outside_;
    for (const RelPath& user : users_) {
      if (user != outer_path_) all.insert(uses_.projects().at(user).begin(), uses_.projects().at(user).end());
    }
    for (const auto& hidden :
         {uses_.first_hidden(view_.tree, all, inside_), uses_.first_hidden(view_.tree, inside_, outside_)}) {
      if (hidden)
        refuse(hidden->giver,
               fmt::format("keeps {} to its own assembly, and {} uses it", hidden->name, hidden->user.str()),
               "make it public first");
    }
  }

  struct Made : NewProject {
    std::string stem;
  };
  const TreeView& view_;
  RelPath folder_;
  const SourceUses& uses_;
  RelPath outer_path_;
  FactsCache cache_;
  FileTable files_;
  Project outer_;
  bool any_space_ = false;
  std::set<RelPath> inside_, outside_, users_, needed_;
  Made made_;
  UnitChange out_;
};

}  // namespace

std::string all_below(std::string_view bytes, const RelPath& project, const RelPath& folder) {
  std::string text = std::string(folder.below(project.parent())) + "/**";
  return written(text, habit_of(bytes)).value_or(text);
}

std::optional<UnitChange> make_project(const TreeView& view, std::uint8_t format, const Surroundings& around,
                                       const RelPath& folder) {
  if (view.files.empty()) return std::nullopt;
  SourceUses uses(view, format);
  std::optional<RelPath> outer;
  for (const auto& [project, sources] : uses.projects()) {
    bool is_above = folder != project.parent() && folder.is_within(project.parent());
    bool compiles = std::any_of(sources.begin(), sources.end(),
                                [&](const RelPath& source) { return source.is_within(folder); });
    if (!is_above || !compiles || project.extension() != ".csproj") continue;
    if (!outer || project.parent().is_within(outer->parent())) outer = project;
  }
  if (!outer) return std::nullopt;
  return Maker(view, format, around, folder, uses, *outer).run();
}

}  // namespace yc::msbuild
