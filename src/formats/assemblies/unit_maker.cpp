#include "formats/assemblies/unit_maker.h"

#include <fmt/format.h>

#include <algorithm>

#include "formats/assemblies/unit_links.h"
#include "formats/assemblies/unit_needs.h"
#include "formats/json/json_strings.h"
#include "tree/overlay_tree.h"

namespace yc::assemblies {

namespace {

bool has_sources(const TreeReader& tree, const RelPath& folder) {
  return !tree.files_below(folder, "*.cs").empty();
}

// The definition or reference file that stands in a folder itself.
std::optional<RelPath> own_file(const TreeReader& tree, const RelPath& folder, std::string_view ending) {
  for (const std::string& name : tree.children(folder)) {
    RelPath path = folder / name;
    if (path.extension() == ending && tree.is_file(path)) return path;
  }
  return std::nullopt;
}

// The references by which one assembly comes to itself, if it does: "Saltmarsh.Core, Saltmarsh.Tides,
// Saltmarsh.Core". `more` are references beside those that are written.
using References = std::map<const Assembly*, std::vector<const Assembly*>>;
std::vector<const Assembly*> circle(const AssemblyMap& map, const References& more, const Assembly* start) {
  std::map<const Assembly*, const Assembly*> came_from;
  std::vector<const Assembly*> open = {start};
  while (!open.empty()) {
    const Assembly* one = open.back();
    open.pop_back();
    std::vector<const Assembly*> next;
    for (const std::string& text : one->references) next.push_back(map.find(text));
    if (auto known = more.find(one); known != more.end())
      next.insert(next.end(), known->second.begin(), known->second.end());
    for (const Assembly* each : next) {
      if (!each || came_from.contains(each)) continue;
      came_from[each] = one;
      if (each != start) {
        open.push_back(each);
        continue;
      }
      std::vector<const Assembly*> out = {start};
      for (const Assembly* at = one; at != start; at = came_from[at]) out.push_back(at);
      out.push_back(start);
      std::reverse(out.begin(), out.end());
      return out;
    }
  }
  return {};
}

std::string chain_text(const std::vector<const Assembly*>& chain) {
  std::string out;
  for (const Assembly* one : chain) out += (out.empty() ? "" : " -> ") + one->name;
  return out;
}

// As the outer definition is written: its indent and its line ends.
std::string definition_text(const TreeReader& tree, const AssemblyMap& map, const std::string& name,
                            const Assembly* outer, const std::vector<std::string>& references) {
  std::string indent = "    ", line = "\n", list;
  const Assembly* like = outer ? outer : map.all().empty() ? nullptr : &map.all().front();
  if (auto bytes = like ? tree.read(like->file) : Result<Bytes>(Error{}); bytes) {
    const std::string& text = **bytes;
    if (text.find("\r\n") != std::string::npos) line = "\r\n";
    std::size_t key = text.find('"'), begin = key == std::string::npos ? key : text.rfind('\n', key);
    if (begin != std::string::npos) indent = text.substr(begin + 1, key - begin - 1);
  }
  for (const std::string& each : references) list += (list.empty() ? "" : ", ") + each;
  std::string platforms;
  for (const std::string& each : outer ? outer->platforms : std::vector<std::string>())
    platforms += (platforms.empty() ? "\"" : ", \"") + each + "\"";
  if (!platforms.empty()) platforms = "," + line + indent + "\"includePlatforms\": [" + platforms + "]";
  return "{" + line + indent + "\"name\": \"" + json::escaped(name).value_or(name) + "\"," + line + indent +
         "\"references\": [" + list + "]" + platforms + line + "}" + line;
}

class Maker {
 public:
  Maker(const TreeView& view, const RelPath& folder)
      : view_(view), folder_(folder), map_(view.tree, view.files), outer_(map_.owner(folder / "any.cs")) {}

  UnitChange run() {
    std::string below = std::string(folder_.name());
    std::string name = outer_ ? outer_->name + "." + below : below;
    RelPath file = folder_ / (below + ".asmdef");
    if (map_.find(name)) {
      out_.blockers.push_back(
          unit_blocker(map_.find(name)->file, "is called " + name + " already", "rename it, or the folder"));
      return std::move(out_);
    }
    out_.made[file] = definition_text(view_.tree, map_, name, outer_, {});
    FileChanges changes;
    changes.made = {out_.made.begin(), out_.made.end()};
    MoveSet none;
    OverlayTree planned(view_.tree, none, changes);
    std::vector<RelPath> files = view_.files;
    files.insert(std::upper_bound(files.begin(), files.end(), file), file);
    AssemblyMap after(planned, files);
    UnitNeeds needs(planned, after);
    const Assembly* own = after.find(name);
    link(after, needs, *own);
    return std::move(out_);
  }

 private:
  // The references that it needs, and those to it.
  void link(const AssemblyMap& after, const UnitNeeds& needs, const Assembly& own) {
    References more;
    std::vector<std::string> references;
    for (const UnitNeed& need : needs.all()) {
      if (need.from == &own) {
        if (!need.to) {
          out_.blockers.push_back(unit_blocker(
              need.user,
              "uses " + need.type + ", which is in no assembly that " + own.name + " could refer to",
              "give " + need.type + " an assembly of its own first"));
          continue;
        }
        more[&own].push_back(need.to);
        references.push_back(written_reference(outer_ ? *outer_ : own, *need.to));
      } else if (need.to == &own) {
        more[need.from].push_back(&own);
        if (auto edit = link_edit(view_.tree, need.from->file, *need.from, own)) out_.edits.push_back(*edit);
      }
    }
    std::sort(references.begin(), references.end());
    out_.made.begin()->second = definition_text(view_.tree, map_, own.name, outer_, references);
    if (auto chain = circle(after, more, &own); !chain.empty()) {
      out_.blockers.push_back(unit_blocker(own.file, "would refer to itself: " + chain_text(chain),
                                           "move what both need to a folder of its own first"));
    }
  }

  const TreeView& view_;
  RelPath folder_;
  AssemblyMap map_;
  const Assembly* outer_;
  UnitChange out_;
};

// Has all that refer to an assembly refer to the one around it.
void hand_over(const TreeView& view, const AssemblyMap& map, const Assembly& own, const Assembly* outer,
               UnitChange& out) {
  for (const Assembly& user : map.all()) {
    for (const std::string& text : user.references) {
      if (map.find(text) != &own) continue;
      if (!outer) {
        out.blockers.push_back(unit_blocker(
            user.file, "refers to " + own.name + ", and could not refer to what would be in no assembly",
            "take its reference out first"));
        continue;
      }
      bool is_new = &user != outer && !map.refers(user, *outer);
      auto edit = is_new ? relink_edit(view.tree, user.file, text, written_reference(user, *outer))
                         : unlink_edit(view.tree, user.file, text);
      if (edit) out.edits.push_back(*edit);
    }
  }
  for (const std::string& text : outer ? own.references : std::vector<std::string>()) {
    const Assembly* used = map.find(text);
    bool is_lacking = used && used != outer && !map.refers(*outer, *used);
    if (auto edit = is_lacking ? link_edit(view.tree, outer->file, *outer, *used) : std::nullopt)
      out.edits.push_back(*edit);
  }
}

}  // namespace

std::optional<UnitChange> make_assembly(const TreeView& view, const RelPath& folder) {
  if (view.files.empty() || !has_sources(view.tree, folder)) return std::nullopt;
  for (const char* ending : {".asmdef", ".asmref"}) {
    auto known = own_file(view.tree, folder, ending);
    if (!known) continue;
    UnitChange out;
    out.blockers.push_back(
        unit_blocker(*known, "stands there already", "take it back with carve --fold first"));
    return out;
  }
  return Maker(view, folder).run();
}

std::optional<UnitChange> join_assembly(const TreeView& view, const RelPath& folder,
                                        const std::string& name) {
  AssemblyMap map(view.tree, view.files);
  const Assembly* wanted = map.find(name);
  if (!wanted) return std::nullopt;
  UnitChange out;
  RelPath file = folder / (std::string(folder.name()) + ".asmref");
  if (auto known = own_file(view.tree, folder, ".asmdef"))
    out.blockers.push_back(
        unit_blocker(*known, "stands there already", "take it back with carve --fold first"));
  out.made[file] = "{\n    \"reference\": " + written_reference(*wanted, *wanted) + "\n}\n";
  FileChanges changes;
  changes.made = {out.made.begin(), out.made.end()};
  MoveSet none;
  OverlayTree planned(view.tree, none, changes);
  std::vector<RelPath> files = view.files;
  files.insert(std::upper_bound(files.begin(), files.end(), file), file);
  AssemblyMap after(planned, files);
  UnitNeeds before_needs(view.tree, map), needs(planned, after);
  std::vector<UnitNeed> known = before_needs.unmet();
  for (const UnitNeed& need : needs.unmet()) {
    bool was = std::any_of(known.begin(), known.end(), [&](const UnitNeed& one) {
      return one.from->name == need.from->name &&
             (one.to ? one.to->name : "") == (need.to ? need.to->name : "");
    });
    if (was) continue;
    if (!need.to || after.reaches(*need.to, *need.from)) {
      out.blockers.push_back(unit_blocker(
          need.user, "uses " + need.type + ", and " + need.from->name + " cannot refer to what has it",
          "move what both need to a folder of its own first"));
    } else if (auto edit = link_edit(view.tree, need.from->file, *need.from, *need.to)) {
      out.edits.push_back(*edit);
    }
  }
  return out;
}

std::optional<UnitChange> drop_assembly(const TreeView& view, const RelPath& folder) {
  UnitChange out;
  if (auto joined = own_file(view.tree, folder, ".asmref")) {
    out.dropped.insert(*joined);
    return out;
  }
  auto file = own_file(view.tree, folder, ".asmdef");
  if (!file) return std::nullopt;
  AssemblyMap map(view.tree, view.files);
  const Assembly* own = map.owner(folder / "any.cs");
  const Assembly* outer = map.owner(folder.parent() / "any.cs");
  if (!own || own->file != *file) return std::nullopt;
  if (outer && own->platforms != outer->platforms)
    out.blockers.push_back(unit_blocker(*file, "is built for other platforms than " + outer->name,
                                        "have both built for the same ones first"));
  out.dropped.insert(*file);
  hand_over(view, map, *own, outer, out);
  return out;
}

}  // namespace yc::assemblies
