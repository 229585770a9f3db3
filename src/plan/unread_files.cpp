#include "plan/unread_files.h"

#include <fmt/format.h>

#include <algorithm>
#include <cctype>
#include <map>
#include <set>
#include <unordered_set>

#include "base/all_cores.h"
#include "base/name_search.h"
#include "formats/capabilities/members.h"
#include "formats/capabilities/whole_units.h"
#include "formats/format.h"
#include "formats/unread_languages.h"
#include "words/plan.h"

namespace yc {

namespace {

constexpr std::string_view kRehearse =
    "let the project's own build judge: give its command behind the move (… -- BUILD COMMAND), which is run "
    "in "
    "copies; or add --accept-unseen to move anyway, unproved";

Blocker unread(const RelPath& path, std::string id, std::string reason, std::string next) {
  Blocker item;
  item.id = std::move(id);
  item.file = path;
  item.reason = std::move(reason);
  item.next = std::move(next);
  return item;
}

// Of files and of folders that move whole.
NameSearch names_that_move(const MoveSet& moves) {
  std::vector<std::string> names;
  for (const Move& move : moves.files()) names.emplace_back(move.from.name());
  for (const Move& move : moves.requested()) names.emplace_back(move.from.name());
  return NameSearch(names);
}

bool moves_within(const MoveSet& moves, const RelPath& folder) {
  return std::any_of(moves.files().begin(), moves.files().end(), [&](const Move& move) {
    return move.from.is_within(folder) || move.to.is_within(folder);
  });
}

// What data are read in, whichever tool they are for: their paths are references.
bool is_read_as_data(const RelPath& path) {
  std::string_view ending = path.extension();
  return ending == ".toml" || ending == ".json" || ending == ".yaml" || ending == ".yml";
}

bool in_name(char c) {
  return std::isalnum(static_cast<unsigned char>(c)) || c == '_' || c == '-' || c == '.';
}

// Whether a name stands in a text, not as a part of a longer one.
bool has_name(std::string_view text, std::string_view name) {
  for (std::size_t at = text.find(name); at != std::string_view::npos; at = text.find(name, at + 1)) {
    std::size_t end = at + name.size();
    // A full stop may end a sentence.
    bool is_stop =
        end < text.size() && text[end] == '.' && (end + 1 == text.size() || !in_name(text[end + 1]));
    bool ends = end == text.size() || is_stop || !in_name(text[end]);
    if ((at == 0 || !in_name(text[at - 1])) && ends) return true;
  }
  return false;
}

// Whether a script in a language that is not read has the name of something that moves, or, for what lies
// below it, a pattern for files of its ending.
bool may_name(const TreeReader& tree, const RelPath& script, const MoveSet& moves) {
  auto bytes = tree.read(script);
  if (!bytes) return true;
  auto names = [&](const Move& move) {
    if (has_name(**bytes, move.from.name())) return true;
    // Scripts name sources by their objects, too.
    if (!words::plan::unit_endings().contains(move.from.extension())) return false;
    const auto& endings = words::plan::object_endings();
    std::string stem(move.from.name().substr(0, move.from.name().rfind('.')));
    return std::any_of(endings.begin(), endings.end(), [&](std::string_view ending) {
      return has_name(**bytes, stem + std::string(ending));
    });
  };
  auto takes = [&](const Move& move) {
    std::string pattern = "*" + std::string(move.from.extension());
    bool is_below = move.from.is_within(script.parent()) || move.to.is_within(script.parent());
    return pattern.size() > 1 && is_below && (*bytes)->find(pattern) != std::string::npos;
  };
  return std::any_of(moves.files().begin(), moves.files().end(),
                     [&](const Move& move) { return names(move) || takes(move); }) ||
         std::any_of(moves.requested().begin(), moves.requested().end(), names);
}

// Sources of languages whose imports nobody reads here: one of each language is named, with how many there
// are.
void add_unread_sources(const ReadTree& tree, const MoveSet& moves, std::vector<Blocker>& out) {
  std::map<std::string_view, std::pair<RelPath, std::size_t>> found;
  std::set<RelPath> along;
  for (const auto& format : all_that_offer<WholeUnits>())
    along.merge(format->sources_of_whole_units(tree, moves));
  for (const Move& move : moves.files()) {
    if (along.contains(move.from)) continue;
    auto language = unread_source_language(move.from);
    if (!language) language = unread_source_language(move.to);
    if (!language) continue;
    auto [at, fresh] = found.try_emplace(*language, move.from, 0U);
    ++at->second.second;
  }
  for (const auto& [language, first] : found) {
    std::string more = first.second == 1 ? "" : fmt::format(" (and {} more)", first.second - 1);
    out.push_back(
        unread(first.first, "not-read",
               fmt::format("is {}{}: what such files import of each other is not read, so it is not "
                           "proved that this still builds",
                           language, more),
               std::string(kRehearse)));
  }
}

// Though its tool is on the list of those that are not.
bool is_read_whole(const RelPath& path) {
  return std::any_of(formats().begin(), formats().end(),
                     [&](const auto& format) { return offer<ReadsWhole>(*format) && format->claims(path); });
}

}  // namespace

namespace {

// Files of build tools that are not read.
void add_unread_scripts(const TreeReader& tree, const MoveSet& moves, std::vector<Blocker>& out) {
  const std::vector<RelPath>& all = tree.files();
  std::vector<std::optional<std::string_view>> tools(all.size());
  constexpr std::size_t kPart = 1024;
  on_all_cores((all.size() + kPart - 1) / kPart, [&](std::size_t part) {
    for (std::size_t i = part * kPart; i < std::min(all.size(), (part + 1) * kPart); ++i)
      tools[i] = unread_build_tool(all[i]);
  });
  for (std::size_t i = 0; i < all.size(); ++i) {
    const RelPath& path = all[i];
    if (!tools[i] || is_read_whole(path)) continue;
    const Entry* entry = tree.find(path);
    if (entry->guarded || entry->ignored || entry->kind != EntryKind::file) continue;
    if (!moves.moves(path) && (is_read_as_data(path) || !may_name(tree, path, moves))) continue;
    out.push_back(
        unread(path, "not-read",
               fmt::format("is for {}, which is not read, and {}", *tools[i],
                           moves.moves(path) ? "moves itself"
                                             : "has the name of something that moves, or a pattern for it"),
               std::string(kRehearse)));
  }
}

bool is_unit_source(const RelPath& path) {
  return words::plan::unit_endings().contains(path.extension());
}

// Whether most sources of a tree are compiled by what is read, so that one which is not is built by nobody.
bool is_build_understood(const TreeReader& tree, const ReferenceGraph& graph) {
  std::unordered_set<RelPath> compiled;
  for (const Compilation& one : graph.compilations) compiled.insert(one.source);
  std::size_t all = 0, known = 0;
  for (const RelPath& path : tree.files()) {
    if (!is_unit_source(path)) continue;
    ++all;
    known += compiled.contains(path);
  }
  return known * 2 >= all;
}

// Sources that would be compiled by themselves, and templates, that no script is known to take: where there
// are build scripts, one that is not understood may.
void add_unbuilt_sources(const TreeReader& tree, const ReferenceGraph& graph, const MoveSet& moves,
                         std::vector<Blocker>& out) {
  if (graph.units.empty()) return;
  std::set<RelPath> unbuilt;
  for (const Move& move : moves.files()) {
    bool is_template = move.from.extension() == ".in" &&
                       !words::plan::names_that_tools_look_for().contains(move.from.name());
    if (is_unit_source(move.from) || is_template) unbuilt.insert(move.from);
  }
  if (unbuilt.empty()) return;
  for (const Compilation& one : graph.compilations) unbuilt.erase(one.source);
  if (is_build_understood(tree, graph))
    std::erase_if(unbuilt, [](const RelPath& path) { return is_unit_source(path); });
  std::unordered_set<RelPath> named, named_for_certain;
  for (const Reference& reference : graph.references) {
    if (reference.role == Role::search_root || reference.role == Role::subfolder) continue;
    auto& set = reference.certainty == Certainty::certain ? named_for_certain : named;
    for (const Target& target : reference.targets) set.insert(target.path);
  }
  // By itself, or with a folder, as data are. Where sources are built in a way that nobody knows, a word that
  // may name one does not tell of that.
  std::erase_if(unbuilt, [&](const RelPath& source) {
    for (RelPath up = source; !up.is_root(); up = up.parent()) {
      bool counts = up != source || !is_unit_source(source);
      if (named_for_certain.contains(up) || (counts && named.contains(up))) return true;
    }
    return false;
  });
  if (unbuilt.empty()) return;
  std::string more = unbuilt.size() == 1 ? "" : fmt::format(" (and {} more)", unbuilt.size() - 1);
  out.push_back(
      unread(*unbuilt.begin(), "not-built",
             fmt::format("is a {}{} that nothing which is read here takes or names, so nobody knows "
                         "how it is built",
                         is_unit_source(*unbuilt.begin()) ? "source" : "template", more),
             "let the project's own build judge: give its command behind the move (… -- BUILD "
             "COMMAND), which is run in copies; or, if it is not built, add --accept-unseen"));
}

// Of what a sparse checkout leaves out, and of which not even the repository says what it holds: one for all.
void add_what_is_not_checked_out(const TreeReader& tree, const std::vector<RelPath>& absent,
                                 std::vector<Blocker>& out) {
  if (!absent.empty()) {
    std::string more = absent.size() == 1 ? "" : fmt::format(" (and {} more)", absent.size() - 1);
    out.push_back(
        unread(absent.front(), "not-checked-out",
               fmt::format("is not checked out{}, and this clone does not have what it holds, which may name "
                           "what moves",
                           more),
               "check out what may name it (git sparse-checkout add FOLDER), or name as protected in "
               "yellow-compass.toml what does not belong to the project; --accept-unseen moves anyway, "
               "unproved"));
  }
  if (tree.may_lack_files())
    out.push_back(unread(RelPath::from_normal(".git"), "not-checked-out",
                         "has an index of a kind that is not read (a sparse one), so nobody knows what this "
                         "checkout leaves out, which may name what moves",
                         "write the index in full (git sparse-checkout reapply --no-sparse-index), or add "
                         "--accept-unseen to move anyway, unproved"));
}

}  // namespace

std::vector<Blocker> unread_files(const TreeReader& tree, const ReferenceGraph& graph, const MoveSet& moves,
                                  const std::vector<RelPath>& unreadable) {
  std::vector<Blocker> out;
  if (moves.files().empty()) return out;
  NameSearch search = names_that_move(moves);
  auto could_name = [&](const RelPath& path) { return moves.moves(path) || tree.may_hold(path, search); };
  for (const auto& [path, why] : graph.unread) {
    if (why == Unread::no_access) continue;  // it is among the unreadable
    bool is_cut = why == Unread::cut_short && moves_within(moves, path.parent());
    if (!is_cut && !could_name(path)) continue;
    if (why == Unread::cut_short) {
      out.push_back(unread(path, "given-up", "was given up before its end, and could name what moves",
                           std::string(kRehearse)));
      continue;
    }
    if (why == Unread::partly) {
      out.push_back(
          unread(path, "given-up",
                 "has conditionals of which not every side was looked at, and the name of something "
                 "in it that moves",
                 std::string(kRehearse)));
      continue;
    }
    out.push_back(unread(
        path, "garbled", "cannot be read, and has the name of something in it that moves, or moves itself",
        "mend it (`check` tells where it is garbled), or add --accept-unseen to move anyway, unproved"));
  }
  std::vector<RelPath> absent;
  for (const RelPath& path : unreadable) {
    const Entry* entry = tree.find(path);
    if (!entry || entry->ignored) continue;
    if (entry->absent) {
      absent.push_back(path);
      continue;
    }
    if (entry->kind == EntryKind::folder) {
      out.push_back(
          unread(path, "unreadable",
                 "is a folder that cannot be looked into, so what is in it may name "
                 "what moves",
                 "make it readable, or name it as protected in yellow-compass.toml if nothing in it "
                 "belongs to the project; --accept-unseen moves anyway, unproved"));
    } else if (could_name(path)) {
      out.push_back(unread(path, "unreadable", "cannot be read, so it may name what moves",
                           "make it readable, or add --accept-unseen to move anyway, unproved"));
    }
  }
  add_what_is_not_checked_out(tree, absent, out);
  add_unbuilt_sources(tree, graph, moves, out);
  add_unread_sources({tree, graph}, moves, out);
  add_unread_scripts(tree, moves, out);
  return out;
}

}  // namespace yc
