#include "plan/same_meaning.h"

#include <fmt/format.h>

#include <algorithm>
#include <map>

namespace yc {

namespace {

struct Fact {
  RelPath file;  // where it was said
  Span span;
  bool has_place = false;
};
using MeaningFacts = std::map<std::string, Fact>;

std::string shown_meaning(const RelPath& path) {
  return path.is_root() ? "." : path.str();
}

class Gatherer {
 public:
  Gatherer(const ReferenceGraph& graph, const std::set<RelPath>& scripts, Carved carved)
      : graph_(graph), scripts_(scripts), carved_(carved) {}

  MeaningFacts run() {
    for (const Compilation& item : graph_.compilations) compiled(item);
    for (const Reference& reference : graph_.references) {
      if (reference.role == Role::include) {
        included(reference);
      } else {
        named(reference);
      }
    }
    return std::move(facts_);
  }

 private:
  void compiled(const Compilation& item) {
    std::string unit = item.unit >= 0 ? graph_.units[static_cast<std::size_t>(item.unit)].name : "-";
    const Context& context = graph_.contexts[static_cast<std::size_t>(item.context)];
    std::string roots;
    for (const SearchRoot& root : context.roots) {
      // A script's own folder is looked in without a word; what is found there, the includes tell.
      bool is_own = std::any_of(scripts_.begin(), scripts_.end(),
                                [&](const RelPath& script) { return script.parent() == root.place.path; });
      if (root.place.space == Space::tree && !is_own) roots += " " + shown_meaning(root.place.path);
    }
    for (const RelPath& forced : context.forced) roots += " +" + forced.str();
    facts_[fmt::format("{} compiles {} and looks in{}", unit, item.source.str(),
                       roots.empty() ? " nothing" : roots)];
  }

  // What the build makes may be made in another place, as long as it is found.
  void included(const Reference& reference) {
    std::string file = graph_.files.path(reference.construct.front().file).str();
    for (const InContext& in : reference.contexts) {
      if (in.context == kNoContext) continue;  // nobody compiles it; where it leads is a guess
      std::string target = !in.found ? "nothing" : in.is_made ? "a file that is made" : in.target.str();
      facts_[fmt::format("include {} in {} finds {}", reference.text.text(), file, target)] =
          place(reference);
    }
  }

  void named(const Reference& reference) {
    bool is_unit = carved_ == Carved::unit;
    if (is_unit && reference.excludes) return;  // what is named shows what is left
    for (const Target& target : reference.targets) {
      bool is_script = target.kind == Target::Kind::tree &&
                       (scripts_.contains(target.path) ||
                        ((reference.role == Role::subfolder || reference.role == Role::script ||
                          (is_unit && reference.role == Role::listed)) &&
                         std::any_of(scripts_.begin(), scripts_.end(),
                                     [&](const RelPath& script) { return script.parent() == target.path; })));
      // Nor that a script's own folder is looked in, which its tool may do without a word.
      bool is_own_root = reference.role == Role::search_root && target.kind == Target::Kind::tree &&
                         std::any_of(scripts_.begin(), scripts_.end(),
                                     [&](const RelPath& script) { return script.parent() == target.path; });
      if (is_script || is_own_root) continue;
      std::string what;
      if (target.kind == Target::Kind::tree) what = shown_meaning(target.path);
      bool is_made = target.kind == Target::Kind::build && graph_.made.contains(target.path);
      if (is_made) what = "the made file " + std::string(target.path.name());
      if (target.kind == Target::Kind::name) what = "the name " + target.path.str();
      if (target.kind == Target::Kind::made && !target.path.is_root())
        what = "what is made of " + target.path.str();
      // The same file may be listed first and compiled from the list.
      bool is_listed = reference.role == Role::source || reference.role == Role::listed;
      std::string_view role = is_listed ? "file" : name_of(reference.role);
      if (!what.empty()) facts_[fmt::format("{} {} is named", role, what)] = place(reference);
    }
    if (reference.dangling && reference.targets.empty() && reference.role != Role::product) {
      std::string text = reference.text.text();
      Place wanted = place_of(reference.base.folder, text, reference.base.space);
      if (wanted.space == Space::tree) text = shown_meaning(wanted.path);
      facts_[fmt::format("{} {} leads nowhere", name_of(reference.role), text)] = place(reference);
    }
  }

  Fact place(const Reference& reference) const {
    Standing at = standing_of(reference);
    if (at.file == kNoFile) return {};
    return {graph_.files.path(at.file), at.span, true};
  }

  const ReferenceGraph& graph_;
  const std::set<RelPath>& scripts_;
  Carved carved_;
  MeaningFacts facts_;
};

}  // namespace

std::vector<Blocker> differences(const ReferenceGraph& before, const ReferenceGraph& after,
                                 const std::set<RelPath>& scripts, Carved carved) {
  MeaningFacts old_facts = Gatherer(before, scripts, carved).run();
  MeaningFacts new_facts = Gatherer(after, scripts, carved).run();
  std::vector<Blocker> out;
  auto tell = [&](const std::string& text, const Fact& fact, bool is_lost) {
    Blocker item;
    item.id = is_lost ? "lost" : "gained";
    item.file = fact.file;
    if (is_lost && fact.has_place) item.span = fact.span;
    item.reason = text + (is_lost ? " now, and would not be so any more" : " would be so, and is not now");
    item.next = "look at the statements that the plan takes along, or carve them by hand";
    out.push_back(std::move(item));
  };
  for (const auto& [text, fact] : old_facts) {
    if (!new_facts.contains(text)) tell(text, fact, true);
  }
  for (const auto& [text, fact] : new_facts) {
    if (!old_facts.contains(text)) tell(text, fact, false);
  }
  std::set<std::string> known;
  for (const Notice& notice : before.notices) known.insert(notice.id + notice.message);
  for (const Notice& notice : after.notices) {
    if (!known.contains(notice.id + notice.message))
      tell(notice.file.str() + " " + notice.message, {}, false);
  }
  return out;
}

}  // namespace yc
