#include "formats/rust/rust_consequences.h"

#include <fmt/format.h>

#include <algorithm>

#include "base/text.h"
#include "formats/rust/rust_attributes.h"
#include "formats/rust/rust_lines.h"
#include "formats/rust/rust_macros.h"
#include "formats/rust/rust_relocation.h"
#include "formats/rust/rust_tokens.h"
#include "words/rust.h"

namespace yc::rust {

namespace {

std::string shown(const ModulePath& path) {
  std::string out = "crate";
  for (const std::string& name : path) out += "::" + name;
  return out;
}

Blocker told(std::string id, const Source& source, std::optional<Span> span, std::string reason,
             std::string next) {
  return {std::move(id),
          source.path,
          span,
          span ? std::string(source.text(*span)) : source.path.str(),
          std::move(reason),
          std::move(next),
          Blocker::Bearing::tells_why};
}

class Changes {
 public:
  Changes(const Crates& before, const TreeReader& tree, const MoveSet& moves)
      : was_(before), tree_(tree), moves_(moves), moved_(tree, moves, before) {
    for (int i = 0; i < static_cast<int>(was_.modules().size()); ++i) {
      auto now = was_.is_file(i) ? moved_.path_to(i) : std::nullopt;
      if (now && *now != was_.path_to(i)) changed_.emplace(i, *now);
    }
  }

  std::vector<Blocker> run() {
    undeclared();
    for (const auto& [module, now] : changed_) {
      auto place = moved_.place_of(module);
      if (!place || place->parent == was_.module(module).parent) continue;
      conditions(module, place->parent);
      exports(module, place->parent);
      members(module, now);
    }
    if (!changed_.empty()) {
      globs();
      orphans();
      documents();
      given_names();
    }
    return std::move(out_);
  }

 private:
  void conditions(int module, int new_parent) {
    std::string gained = condition_gained(was_, was_.module(module).parent, new_parent);
    if (gained.empty()) return;
    out_.push_back(told("rust-condition", was_.source_of(module), std::nullopt,
                        fmt::format("would come under {}, and be compiled only there", gained),
                        "move it to a module with the same attributes as its own"));
  }

  // Whether the source of a module moves, or what its line is counted from: the source of that, or a folder
  // that it climbs out of, which something leaves.
  bool is_touched(int module) const {
    int parent = was_.module(module).parent;
    RelPath folder = was_.folder_of(parent);
    return moves_.moves(was_.path_of(module)) || moves_.moves(was_.path_of(parent)) ||
           (!was_.is_file(parent) &&
            std::any_of(moves_.files().begin(), moves_.files().end(),
                        [&](const Move& move) { return move.from.is_within(folder); }));
  }

  // Sources that no module line can take in any more: all else that is lost follows from that.
  void undeclared() {
    for (int i = 0; i < static_cast<int>(was_.modules().size()); ++i) {
      bool is_declared = was_.is_file(i) && was_.module(i).parent >= 0 && is_touched(i);
      if (!is_declared || line_edits(was_, moved_, i)) continue;
      Blocker one =
          told("rust-module", was_.source_of(i), std::nullopt,
               fmt::format("is {}, and no module line can take it in at {}", shown(was_.path_to(i)),
                           moved_.image_of(i).str()),
               moved_.place_of(i) ? "declare it outside of the inline module or the macro first"
                                  : "keep it in the folder of its crate: another crate is another unit");
      one.bearing = Blocker::Bearing::stands_for_all;
      out_.push_back(std::move(one));
    }
  }

  // What users of a library can name, they can name then.
  void exports(int module, int new_parent) {
    bool is_library = was_.crates()[static_cast<std::size_t>(was_.module(module).crate)].is_library;
    if (!is_library || !was_.is_exported(module) || was_.is_exported(new_parent)) return;
    out_.push_back(
        told("rust-private", was_.source_of(module), std::nullopt,
             fmt::format("is {}, which users of the crate can name, and would lie in {}, which they cannot",
                         shown(was_.path_to(module)), shown(was_.path_to(new_parent))),
             "make that module pub first, or re-export it"));
  }

  // Whether what was seen up to a module is seen from a place then.
  bool is_seen(std::optional<int> reach, const ModulePath& from) const {
    auto now = reach ? moved_.path_to(*reach) : std::nullopt;
    return !reach || (now && begins_with(from, *now));
  }

  // Fields and functions of types are seen where they are declared: what leaves that may not use them.
  void members(int module, const ModulePath& now) {
    std::map<std::string_view, std::vector<std::pair<int, const Item*>>> hidden;
    for (int up = was_.module(module).parent; up >= 0; up = was_.module(up).parent) {
      int file = was_.file_module(up);
      for (const Item& member : was_.source_of(up).facts->members) {
        int where = was_.module_at(file, member.scope);
        if (where == up && !is_seen(was_.reach_of(where, member.visibility), now))
          hidden[was_.source_of(up).text(member.name)].emplace_back(up, &member);
      }
    }
    if (hidden.empty()) return;
    for (int i = 0; i < static_cast<int>(was_.modules().size()); ++i) {
      if (!was_.is_file(i) || !was_.is_within(i, module)) continue;
      const Source& source = was_.source_of(i);
      std::vector<std::string_view> names = names_in(*source.bytes);
      std::set<std::string_view> said(names.begin(), names.end());
      for (std::size_t n = 0; n < names.size(); ++n) {
        auto found = hidden.find(names[n]);
        if (found == hidden.end()) continue;
        auto at = static_cast<std::size_t>(names[n].data() - source.bytes->data());
        std::string_view before = n > 0 ? names[n - 1] : std::string_view();
        for (const auto& [owner_in, member] : found->second) {
          std::string_view owner = was_.source_of(owner_in).text(member->owner);
          if (!may_be_member(*source.bytes, at, names[n].size(), before, owner, member->is_field, said))
            continue;
          out_.push_back(told("rust-private", source, span_of(at, at + names[n].size()),
                              fmt::format("may be the private part of {} in {}, which is not seen from {}",
                                          owner, shown(was_.path_to(owner_in)), shown(now)),
                              "make it pub(crate), or let a build judge (… -- BUILD COMMAND)"));
          return;
        }
      }
    }
  }

  // "level.0", but not "1.0".
  static bool opens_numbered(std::string_view bytes) {
    auto is_digit = [&](std::size_t at) { return at < bytes.size() && bytes[at] >= '0' && bytes[at] <= '9'; };
    for (std::size_t at = bytes.find('.'); at != std::string_view::npos; at = bytes.find('.', at + 1)) {
      bool is_value = at > 0 && !is_digit(at - 1) && (is_name_byte(bytes[at - 1]) || bytes[at - 1] == ')');
      if (is_value && is_digit(at + 1)) return true;
    }
    return false;
  }

  // ".level", "Tide::level", "level: 3", "{ level, …". All but the first name the type somewhere.
  static bool may_be_member(std::string_view bytes, std::size_t at, std::size_t size, std::string_view before,
                            std::string_view owner, bool is_field, const std::set<std::string_view>& said) {
    std::size_t last = at == 0 ? std::string_view::npos : bytes.find_last_not_of(" \t\r\n", at - 1);
    std::size_t behind = bytes.find_first_not_of(" \t\r\n", at + size);
    char left = last == std::string_view::npos ? '\0' : bytes[last];
    char right = behind == std::string_view::npos ? '\0' : bytes[behind];
    // A field is not called, and a function is.
    bool is_call = right == '(' || bytes.substr(std::min(behind, bytes.size()), 2) == "::";
    if (left == '.') return is_field != is_call;
    // "Level(3)", of a type whose fields have no names.
    // Once such a type is named, ".0" may be of it.
    if (bytes.substr(at, size) == owner) {
      bool is_made = right == '(' && before != "fn" && before != "struct";
      return is_made || opens_numbered(bytes);
    }
    if (!said.contains(owner)) return false;
    bool is_label = right == ':' && bytes.substr(behind, 2) != "::";
    bool is_short = (left == '{' || left == ',') && (right == ',' || right == '}');
    bool is_of_type =
        left == ':' && last > 0 && bytes[last - 1] == ':' && (before == owner || before == "Self");
    return is_of_type || is_label || is_short;
  }

  // What "use super::*" brought along and does no more.
  void globs() {
    for (int i = 0; i < static_cast<int>(was_.modules().size()); ++i) {
      if (!was_.is_file(i)) continue;
      const Source& source = was_.source_of(i);
      for (std::size_t index : source.globs) {
        int user = was_.module_at(i, source.facts->imports[index].scope);
        Crates::Found found = was_.resolve_import(user, index);
        for (int target : found.modules) {
          if (changed_.contains(i) || changed_.contains(was_.file_module(target))) glob(user, target);
        }
      }
    }
  }

  // Whether a name is one that is looked for by itself: no method, nothing in a path, and not what is
  // declared.
  static bool is_looked_up(std::string_view bytes, std::size_t at, std::size_t size) {
    std::string_view before = trimmed(bytes.substr(line_begin(bytes, at), at - line_begin(bytes, at)));
    std::string_view behind =
        bytes.substr(std::min(bytes.find_first_not_of(" \t\r\n", at + size), bytes.size()));
    bool is_declared = before.ends_with("fn") || before.ends_with("mod") || before.ends_with("struct") ||
                       before.ends_with("enum") || before.ends_with("trait") || before.ends_with("type") ||
                       before.ends_with("let") || before.ends_with("const");
    bool is_range = before.ends_with("..");
    bool is_part = (before.ends_with(".") && !is_range) || before.ends_with("::") || before.ends_with("'");
    bool is_field = behind.starts_with(":");  // or the head of a path, which is read as one
    return !is_declared && !is_part && !is_field;
  }

  void glob(int user, int target) {
    auto from = moved_.path_to(user);
    if (!from) return;
    const Source& source = was_.source_of(target);
    std::set<std::string_view> hidden;
    auto note = [&](Span name, const Visibility& visibility, std::int32_t scope) {
      bool is_there = name.size() > 0 && scope == was_.module(target).scope;
      if (is_there && was_.can_see(user, target, visibility) &&
          !is_seen(was_.reach_of(target, visibility), *from))
        hidden.insert(source.text(name));
    };
    for (const Item& item : source.facts->items) note(item.name, item.visibility, item.scope);
    for (const Import& import : source.facts->imports) note(import.bound, import.visibility, import.scope);
    if (hidden.empty()) return;
    const Source& using_it = was_.source_of(user);
    for (std::string_view name : names_in(*using_it.bytes)) {
      auto at = static_cast<std::size_t>(name.data() - using_it.bytes->data());
      bool is_use = hidden.contains(name) && !words::rust::prelude().contains(name) &&
                    is_looked_up(*using_it.bytes, at, name.size());
      if (!is_use) continue;
      out_.push_back(
          told("rust-private", using_it, span_of(at, at + name.size()),
               fmt::format("comes by \"*\" from {}, where it is private, and would not be seen from {}",
                           shown(was_.path_to(target)), shown(*from)),
               "make it pub(crate), or import what is meant by its own path first"));
      return;
    }
  }

  // Sources that no known line declares may be modules by a macro, and may name what moves.
  void orphans() {
    std::map<std::string, int> names;
    std::set<RelPath> folders;
    for (const auto& [module, now] : changed_) {
      auto place = moved_.place_of(module);
      bool is_renamed =
          !place || place->parent != was_.module(module).parent || place->name != was_.module(module).name;
      if (is_renamed) names.emplace(was_.module(module).name, module);
      folders.insert(was_.crates()[static_cast<std::size_t>(was_.module(module).crate)].settings.parent());
    }
    for (const RelPath& path : tree_.files()) {
      if (path.extension() != ".rs" || !was_.modules_of(path).empty()) continue;
      bool is_near = std::any_of(folders.begin(), folders.end(),
                                 [&](const RelPath& folder) { return path.is_within(folder); });
      auto bytes = is_near ? tree_.read(path) : Result<Bytes>(Error{});
      if (!bytes) continue;
      std::string_view before;
      for (std::string_view name : names_in(**bytes)) {
        auto found = names.find(std::string(name));
        auto at = static_cast<std::size_t>(name.data() - (*bytes)->data());
        bool is_path = (*bytes)->compare(at + name.size(), 2, "::") == 0 ||
                       (at > 1 && (*bytes)->compare(at - 2, 2, "::") == 0);
        before = name;
        if (found == names.end() || !is_path) continue;
        out_.push_back(
            {"unseen", path, span_of(at, at + name.size()), std::string(name),
             "stands in a source that no known line declares as a module, and may mean " +
                 shown(was_.path_to(found->second)),
             "edit it by hand, let a build judge (… -- BUILD COMMAND), settle it for good (--settle "
             "FILE:LINE), or add --accept-unseen",
             Blocker::Bearing::by_itself, true});
        break;
      }
    }
  }

  // Names of modules that are given to macros which make paths of them.
  void given_names() {
    std::set<std::string_view> macros;
    for (const Source& source : was_.sources()) {
      for (const MacroRules& macro : source.facts->macros) {
        if (macro.makes_paths) macros.insert(source.text(macro.name));
      }
    }
    if (macros.empty()) return;
    std::set<std::string_view> names;
    for (const auto& [module, now] : changed_) {
      auto place = moved_.place_of(module);
      if (!place || place->parent != was_.module(module).parent || place->name != was_.module(module).name)
        names.insert(was_.module(module).name);
    }
    for (const Source& source : was_.sources()) {
      for (const MacroCall& call : source.facts->calls) {
        if (macros.contains(source.text(call.name))) given_name(source, call, names);
      }
    }
  }
  void given_name(const Source& source, const MacroCall& call, const std::set<std::string_view>& names) {
    std::string_view given = source.text(call.given);
    for (std::string_view name : names_in(given)) {
      auto at = static_cast<std::size_t>(name.data() - given.data());
      // What stands in a path is read as one; a method, a call or another macro is none.
      char before = at > 0 ? given[at - 1] : ' ';
      char behind = at + name.size() < given.size() ? given[at + name.size()] : ' ';
      bool is_alone =
          before != '.' && before != ':' && std::string_view(":(!").find(behind) == std::string_view::npos;
      if (!names.contains(name) || !is_alone) continue;
      std::size_t begin = call.given.begin + at;
      out_.push_back({"unseen", source.path, span_of(begin, begin + name.size()), std::string(name),
                      "is given to a macro that makes paths of such names, and may mean a module that moves",
                      "edit it by hand, let a build judge (… -- BUILD COMMAND), settle it for good (--settle "
                      "FILE:LINE), or add --accept-unseen",
                      Blocker::Bearing::by_itself, true});
      return;
    }
  }

  // Pages that are a crate's documentation hold examples that are run, and are not read for paths.
  void documents() {
    for (const Source& source : was_.sources()) {
      for (const Span& span : source.facts->documents) {
        auto page = RelPath::resolve(source.path.parent(), source.text(span));
        auto bytes = page && tree_.is_file(*page) ? tree_.read(*page) : Result<Bytes>(Error{});
        if (bytes) document(*page, **bytes);
      }
    }
  }
  void document(const RelPath& page, std::string_view text) {
    for (const auto& [module, now] : changed_) {
      const Crate& crate = was_.crates()[static_cast<std::size_t>(was_.module(module).crate)];
      std::string name = crate.name;
      for (const std::string& part : was_.path_to(module)) name += "::" + part;
      std::size_t at = crate.is_library ? text.find(name) : std::string_view::npos;
      if (at == std::string_view::npos) continue;
      out_.push_back({"unseen", page, span_of(at, at + name.size()), name,
                      "stands in a page that is documentation of a crate, and its examples are run",
                      "edit it by hand (it becomes " + shown(now) +
                          "), settle it for good (--settle FILE:LINE), "
                          "or add --accept-unseen",
                      Blocker::Bearing::by_itself, true});
      return;
    }
  }

  const Crates& was_;
  const TreeReader& tree_;
  const MoveSet& moves_;
  Relocation moved_;
  std::map<int, ModulePath> changed_;
  std::vector<Blocker> out_;
};

}  // namespace

std::vector<Notice> public_changes(const Crates& before, const TreeReader& tree, const MoveSet& moves) {
  std::vector<Notice> out;
  Relocation moved(tree, moves, before);
  auto named = [&](int module, const ModulePath& path) {
    std::string text = before.crates()[static_cast<std::size_t>(before.module(module).crate)].name;
    for (const std::string& part : path) text += "::" + part;
    return text;
  };
  for (int i = 0; i < static_cast<int>(before.modules().size()); ++i) {
    const Crate& crate = before.crates()[static_cast<std::size_t>(before.module(i).crate)];
    if (!crate.is_library || !before.is_file(i) || !moves.moves(before.path_of(i))) continue;
    auto place = moved.place_of(i);
    bool is_first =
        place && (place->parent != before.module(i).parent || place->name != before.module(i).name);
    auto now = is_first && before.is_exported(i) ? moved.path_to(i) : std::nullopt;
    if (!now) continue;
    out.push_back({"public-path",
                   before.path_of(i),
                   {},
                   false,
                   fmt::format("users of the crate that are not in this tree know it as {}; it becomes {} "
                               "(--forward keeps the old name, too)",
                               named(i, before.path_to(i)), named(i, *now))});
  }
  return out;
}

std::vector<Proposal> names_left(const Crates& before, const TreeReader& tree, const MoveSet& moves) {
  std::vector<Proposal> out;
  Relocation moved(tree, moves, before);
  for (int i = 0; i < static_cast<int>(before.modules().size()); ++i) {
    const Module& one = before.module(i);
    if (!before.is_file(i) || one.parent < 0 || !moves.moves(before.path_of(i))) continue;
    auto place = moved.place_of(i);
    auto now = place ? moved.path_to(i) : std::nullopt;
    bool is_other = place && (place->parent != one.parent || place->name != one.name);
    if (!now || !is_other) continue;
    const Source& source = before.source_of(one.parent);
    const ModuleLine& line = source.facts->modules[static_cast<std::size_t>(one.line)];
    std::string text =
        line.visibility.span.size() > 0 ? std::string(source.text(line.visibility.span)) + " " : "";
    text += "use " + shown(*now);
    if (place->name != one.name) text += " as " + std::string(one.name);
    std::string indent(indent_at(*source.bytes, line.whole.begin));
    std::size_t end = std::min(source.bytes->find('\n', line.whole.end), source.bytes->size() - 1) + 1;
    out.push_back({{Edit{source.path, span_of(end, end), indent + text + ";\n"}}, ""});
  }
  return out;
}

std::vector<Blocker> module_consequences(const Crates& before, const Crates& planned, const TreeReader& tree,
                                         const MoveSet& moves) {
  std::vector<Blocker> out = Changes(before, tree, moves).run();
  std::vector<Blocker> macros = lost_macros(before, planned, moves);
  std::move(macros.begin(), macros.end(), std::back_inserter(out));
  return out;
}

}  // namespace yc::rust
