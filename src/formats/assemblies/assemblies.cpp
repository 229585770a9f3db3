#include "formats/assemblies/assemblies.h"

#include <fmt/format.h>

#include <algorithm>

#include "formats/assemblies/assembly_map.h"
#include "formats/assemblies/unit_links.h"
#include "formats/assemblies/unit_maker.h"
#include "formats/assemblies/unit_review.h"
#include "formats/capabilities/consequences.h"
#include "formats/capabilities/reviews.h"
#include "formats/csharp_names/csharp_names.h"
#include "formats/json/json_strings.h"

namespace yc {

namespace {

using assemblies::Assembly;
using assemblies::AssemblyMap;
using csharp::Namespaces;

// An assembly that must refer to another once the move is made.
struct Lack {
  std::string from, to;  // names
  RelPath user;          // the source that shows it, in the planned tree
  std::string name;      // the namespace
  auto operator<=>(const Lack& other) const { return std::tie(from, to) <=> std::tie(other.from, other.to); }
};

class Crossing {
 public:
  Crossing(const TreeView& before, const TreeView& planned, const MoveSet& moves)
      : before_(before),
        planned_(planned),
        moves_(moves),
        old_(before.tree, before.files),
        new_(planned.tree, planned.files) {}

  BoundaryReport run() {
    if (new_.all().empty() && old_.all().empty()) return {};
    for (const Move& move : moves_.files()) {
      if (move.from.extension() == ".cs") cross(move);
    }
    // A definition that comes, goes or moves changes the owner of what stays.
    bool definitions = std::any_of(moves_.files().begin(), moves_.files().end(), [](const Move& move) {
      return move.from.extension() == ".asmdef" || move.from.extension() == ".asmref";
    });
    if (crossed_ == 0 && !definitions) return std::move(out_);
    find_lacks();
    report_lacks();
    return std::move(out_);
  }

 private:
  static std::string name_of(const Assembly* one) { return one ? one->name : "no assembly of its own"; }

  void cross(const Move& move) {
    const Assembly* from = old_.owner(move.from);
    const Assembly* to = new_.owner(move.to);
    if (name_of(from) == name_of(to)) return;
    ++crossed_;
    std::string limited;
    if (to && !to->platforms.empty()) {
      for (const std::string& platform : to->platforms) limited += (limited.empty() ? "" : ", ") + platform;
      limited = ", which is only built for " + limited;
    }
    out_.notices.push_back({"unit-change",
                            move.from,
                            {},
                            false,
                            fmt::format("leaves {} and joins {}{}", name_of(from), name_of(to), limited)});
  }

  // Who declares each namespace, and which other assemblies use it: what was satisfied before must be so
  // after.
  void find_lacks() {
    std::map<std::string, Givers> declared;
    std::vector<std::pair<RelPath, Namespaces>> sources;
    for (const RelPath& path : planned_.tree.files()) {
      if (path.extension() != ".cs") continue;
      const Entry* entry = planned_.tree.find(path);
      auto bytes = entry->ignored ? Result<Bytes>(Error{}) : planned_.tree.read(path);
      if (!bytes) continue;
      Namespaces found = csharp::namespaces_of(**bytes);
      // What stands in no namespace is used by its name alone.
      std::set<std::string> own = found.declared.empty() ? std::set<std::string>{""} : found.declared;
      const Assembly* then = old_.owner(moves_.unmap_file(path));
      for (const std::string& name : own)
        declared[name][{new_.owner(path), then}].insert(found.types.begin(), found.types.end());
      sources.emplace_back(path, std::move(found));
    }
    for (const auto& [path, found] : sources) {
      const Assembly* own = new_.owner(path);
      for (const std::string& used : found.used) {
        for (std::string name = used; !name.empty();) {
          auto known = declared.find(name);
          if (known != declared.end()) need(path, found, own, name, known->second);
          std::size_t cut = name.rfind('.');
          name.resize(cut == std::string::npos ? 0 : cut);
          if (known != declared.end()) break;
        }
      }
      // Types of one's own namespace may stand in another assembly.
      for (const std::string& name : found.declared) need(path, found, own, name, declared[name]);
      need(path, found, own, "", declared[""]);
    }
  }

  // The types that assemblies give to a namespace, by the one that a source is in now and the one that it was
  // in. Sources without a definition above them are one assembly as well, that nothing else can refer to, and
  // that refers to all others.
  using Givers = std::map<std::pair<const Assembly*, const Assembly*>, std::set<std::string>>;

  void need(const RelPath& user, const Namespaces& found, const Assembly* own, const std::string& name,
            const Givers& givers) {
    const Assembly* old_own = old_.owner(moves_.unmap_file(user));
    for (const auto& [places, types] : givers) {
      const auto& [giver, then] = places;
      auto named = std::find_if(types.begin(), types.end(),
                                [&](const std::string& type) { return found.words.contains(type); });
      if (named == types.end() || !own || giver == own) continue;
      // Only what the move brings about.
      bool was_seen =
          then == old_own || (!old_own && then) || (old_own && then && old_.refers(*old_own, *then));
      bool is_seen = giver && new_.refers(*own, *giver);
      if (was_seen && !is_seen)
        lacks_.insert({own->name, name_of(giver), user, name.empty() ? *named : name});
    }
  }

  void report_lacks() {
    for (const Lack& lack : lacks_) {
      const Assembly* from = new_.find(lack.from);
      const Assembly* to = new_.find(lack.to);
      Blocker item;
      item.id = "unit-reference";
      item.file = from->file;
      item.text = lack.from;
      if (!to) {
        item.reason = fmt::format("uses {} in {}, which would be in no assembly that it can refer to",
                                  lack.name, lack.user.str());
        item.next = "leave it in an assembly with a definition";
        out_.refusals.push_back(std::move(item));
        continue;
      }
      if (new_.reaches(*to, *from)) {
        item.reason =
            fmt::format("would need a reference to {} ({} uses {}), which already refers to {}: a cycle",
                        lack.to, lack.user.str(), lack.name, lack.from);
        item.next = "move what both need to an assembly of its own";
        out_.refusals.push_back(std::move(item));
        continue;
      }
      item.reason = fmt::format("lacks a reference to {}: {} uses {}", lack.to, lack.user.str(), lack.name);
      item.next = "add --link-units to have it added";
      out_.lacks.push_back(std::move(item));
      RelPath file = moves_.unmap_file(from->file);
      if (auto edit = assemblies::link_edit(before_.tree, file, *from, *to))
        out_.links.push_back(Proposal{{*edit}, ""});
    }
  }

  const TreeView& before_;
  const TreeView& planned_;
  const MoveSet& moves_;
  AssemblyMap old_, new_;
  std::size_t crossed_ = 0;
  std::set<Lack> lacks_;
  BoundaryReport out_;
};

class AssembliesFormat : public Format, public Boundaries, public Reviews, public UnitMaking {
 public:
  std::string_view name() const override { return "assemblies"; }

  bool claims(const RelPath& path) const override {
    return path.extension() == ".asmdef" || path.extension() == ".asmref";
  }

  void read(const Reading& in) const override {
    AssemblyMap map(in.tree, in.files);
    for (const Assembly& one : map.all()) {
      Boundary boundary{one.file, one.name, "assembly", true, {}, {}, one.platforms};
      for (const std::string& text : one.references) {
        if (const Assembly* used = map.find(text)) boundary.uses.push_back(used->file);
      }
      in.out.graph().boundaries.push_back(std::move(boundary));
    }
    for (const auto& [folder, joined] : map.joined())
      in.out.graph().boundaries.push_back(
          {folder / "joined", joined->name, "assembly", true, {}, {}, {}, joined->file});
    in.count(map.all().size());
  }

  std::optional<std::string> write(std::string_view text, WritingStyle) const override {
    return json::escaped(text);
  }

  BoundaryReport boundary_changes(const TreeView& before, const TreeView& planned,
                                  const MoveSet& moves) const override {
    return Crossing(before, planned, moves).run();
  }

  std::vector<Remark> review(const TreeView& view) const override { return assemblies::review_units(view); }

  std::optional<UnitChange> make_unit(const TreeView& view, const RelPath& folder) const override {
    return assemblies::make_assembly(view, folder);
  }
  std::optional<UnitChange> join_unit(const TreeView& view, const RelPath& folder,
                                      const std::string& name) const override {
    return assemblies::join_assembly(view, folder, name);
  }
  std::optional<UnitChange> drop_unit(const TreeView& view, const RelPath& folder) const override {
    return assemblies::drop_assembly(view, folder);
  }
};

}  // namespace

std::unique_ptr<Format> assemblies_format() {
  return std::make_unique<AssembliesFormat>();
}

}  // namespace yc
