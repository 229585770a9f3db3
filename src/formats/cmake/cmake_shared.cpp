#include "formats/cmake/cmake_shared.h"

#include <algorithm>
#include <map>
#include <optional>
#include <set>

#include "base/text.h"
#include "formats/cmake/cmake_syntax.h"

namespace yc::cmake {

namespace {

using Change = SharedDefinitions::Change;

// What a word of target_include_directories or target_link_libraries is for.
enum class Reach : std::uint8_t { own, both, users };

struct Word {
  RelPath script;
  std::string text;
  Reach reach = Reach::both;
  std::size_t command = 0;   // of the script
  std::size_t argument = 0;  // of the command
  bool is_conditional = false;
};

struct TargetOf {
  RelPath script;
  bool is_interface = false, has_more = false;  // more than include folders
  bool links_plainly = false;                   // target_link_libraries without a word for whom
  std::string alias;
  std::vector<Word> folders, links;
  std::vector<std::pair<RelPath, Reach>> given;  // the folders, where all are known
  bool is_known = true;
};

struct OpenedScript {
  std::string text;
  std::vector<Command> commands;
  std::set<RelPath> opens, always_opens;  // scripts of folders that it adds
};

std::optional<Reach> reach_of(std::string_view text) {
  if (text == "PRIVATE") return Reach::own;
  if (text == "PUBLIC") return Reach::both;
  if (text == "INTERFACE") return Reach::users;
  return std::nullopt;
}

// What a link brings of what the linked target gives.
bool brings(Reach link, Reach wanted) {
  return link == Reach::both || link == wanted;
}

class Project {
 public:
  explicit Project(const ClaimedTree& before) {
    for (const RelPath& path : before.files) {
      bool is_list = path.name() == "CMakeLists.txt" && before.tree.is_editable(path);
      auto bytes = is_list ? before.tree.read(path) : Result<Bytes>(Error{});
      if (!bytes) continue;
      OpenedScript& script = scripts_[path];
      script.text = **bytes;
      script.commands = parse(script.text).commands;
    }
    for (const auto& [path, script] : scripts_) take(path);
    for (auto& [name, target] : targets_) place(target);
  }

  std::vector<Change> share() const {
    Rewritten commands;
    for (const auto& [name, user] : targets_) {
      for (const Word& word : user.folders) {
        auto folder = folder_of(word);
        if (!folder || folder->is_within(word.script.parent())) continue;
        bool is_inherited = inherits(name, user, *folder, word.reach);
        std::string alias = is_inherited ? "" : alias_for(name, user, *folder);
        if (is_inherited || !alias.empty())
          note(commands, word, alias.empty() ? "" : other("target_link_libraries", name, word.reach, alias));
      }
    }
    return changes(commands);
  }

  std::vector<Change> unshare() const {
    Rewritten commands;
    for (const auto& [name, user] : targets_) {
      for (const Word& word : user.links) {
        for (const auto& [giver_name, giver] : targets_) {
          bool is_it = word.text == giver.alias && !user.links_plainly && giver.given.size() == 1 &&
                       gives_only_this(giver, giver.given.front().first);
          if (!is_it) continue;
          std::string path = relative_text(word.script.parent(), giver.given.front().first);
          if (path.find_first_of(" ;\"()#$\\") == std::string::npos)
            note(commands, word, other("target_include_directories", name, word.reach, path));
        }
      }
    }
    return changes(commands);
  }

 private:
  std::string_view text_of(const OpenedScript& script, const Argument& argument) const {
    return cut(script.text, argument.content);
  }

  void take(const RelPath& path) {
    OpenedScript& script = scripts_[path];
    std::size_t depth = 0;
    for (std::size_t i = 0; i < script.commands.size(); ++i) {
      const Command& command = script.commands[i];
      bool begins = command.name == "if" || command.name == "foreach" || command.name == "function" ||
                    command.name == "macro" || command.name == "while";
      bool ends = command.name.starts_with("end") && depth > 0;
      depth = begins ? depth + 1 : ends ? depth - 1 : depth;
      if (command.arguments.empty()) continue;
      std::string first(text_of(script, command.arguments[0]));
      if (command.name == "add_subdirectory") {
        auto folder = RelPath::resolve(path.parent(), first);
        if (!folder) continue;
        script.opens.insert(*folder / "CMakeLists.txt");
        if (depth == 0) script.always_opens.insert(*folder / "CMakeLists.txt");
      } else if (command.name == "add_library" || command.name == "add_executable") {
        declare(path, command, first, depth > 0);
      } else if (command.name == "target_include_directories" || command.name == "target_link_libraries") {
        take_words(path, i, depth > 0, targets_[first]);
      } else if (command.name.starts_with("target_")) {
        targets_[first].has_more = true;
      } else if (command.name.starts_with("set_target_prop") || command.name == "set_property") {
        for (const Argument& argument : command.arguments)
          if (auto at = targets_.find(std::string(text_of(script, argument))); at != targets_.end())
            at->second.has_more = true;
      }
    }
  }

  void declare(const RelPath& path, const Command& command, const std::string& name, bool is_conditional) {
    const OpenedScript& script = scripts_[path];
    auto word = [&](std::size_t i) {
      return i < command.arguments.size() ? text_of(script, command.arguments[i]) : std::string_view();
    };
    if (word(1) == "ALIAS") {
      TargetOf& target = targets_[std::string(word(2))];
      target.alias = is_conditional ? "" : name;
      return;
    }
    TargetOf& target = targets_[name];
    target.script = path;
    target.is_interface = word(1) == "INTERFACE" && command.arguments.size() == 2;
    bool is_first = declared_.insert(name).second;
    target.is_known = is_first && target.is_known && !is_conditional && name.find('$') == std::string::npos;
  }

  void take_words(const RelPath& path, std::size_t index, bool is_conditional, TargetOf& target) {
    const OpenedScript& script = scripts_[path];
    const Command& command = script.commands[index];
    bool is_link = command.name == "target_link_libraries";
    std::optional<Reach> reach;
    for (std::size_t i = 1; i < command.arguments.size(); ++i) {
      std::string_view text = text_of(script, command.arguments[i]);
      if (auto found = reach_of(text)) {
        reach = found;
        continue;
      }
      if (text == "SYSTEM" || text == "BEFORE" || text == "AFTER") {
        target.is_known = false;
        return;
      }
      if (is_link && !reach) target.links_plainly = true;
      (is_link ? target.links : target.folders)
          .push_back({path, std::string(text), reach.value_or(Reach::both), index, i, is_conditional});
    }
  }

  void place(TargetOf& target) {
    for (const Word& word : target.folders) {
      auto folder = folder_of(word);
      if (folder && !word.is_conditional)
        target.given.emplace_back(*folder, word.reach);
      else
        target.has_more = true;
    }
    if (!target.links.empty()) target.has_more = true;
  }

  // Nothing where the word must be evaluated.
  static std::optional<RelPath> folder_of(const Word& word) {
    std::string_view text = word.text;
    constexpr std::string_view kHere = "${CMAKE_CURRENT_SOURCE_DIR}", kBuilt = "$<BUILD_INTERFACE:";
    if (text.starts_with(kBuilt) && text.ends_with(">"))
      text = text.substr(kBuilt.size(), text.size() - kBuilt.size() - 1);
    if (text == kHere) return word.script.parent();
    if (text.starts_with(kHere) && text.substr(kHere.size()).starts_with("/"))
      text.remove_prefix(kHere.size() + 1);
    if (text.empty() || text.front() == '/' || text.find_first_of("$;\\") != std::string_view::npos)
      return std::nullopt;
    return RelPath::resolve(word.script.parent(), text);
  }

  // Whether a target that the user links gives it a folder.
  bool inherits(const std::string& name, const TargetOf& user, const RelPath& folder, Reach wanted) const {
    return std::any_of(targets_.begin(), targets_.end(), [&](const auto& one) {
      const TargetOf& giver = one.second;
      return one.first != name && !giver.alias.empty() && giver.is_known &&
             links(user, one.first, giver, wanted) &&
             std::any_of(giver.given.begin(), giver.given.end(), [&](const auto& given) {
               return given.first == folder && given.second != Reach::own;
             });
    });
  }

  // Of a library that gives the folder and nothing else; empty for none.
  std::string alias_for(const std::string& name, const TargetOf& user, const RelPath& folder) const {
    for (const auto& [other, giver] : targets_) {
      bool is_it = other != name && gives_only_this(giver, folder) && !user.links_plainly &&
                   is_always_there(user, giver);
      if (is_it) return giver.alias;
    }
    return "";
  }

  static bool links(const TargetOf& user, const std::string& name, const TargetOf& giver, Reach wanted) {
    return std::any_of(user.links.begin(), user.links.end(), [&](const Word& link) {
      return !link.is_conditional && (link.text == name || link.text == giver.alias) &&
             brings(link.reach, wanted);
    });
  }

  static bool gives_only_this(const TargetOf& giver, const RelPath& folder) {
    return giver.is_interface && giver.is_known && !giver.has_more && !giver.alias.empty() &&
           giver.given.size() == 1 && giver.given.front() == std::pair(folder, Reach::users);
  }

  std::set<RelPath> reached(const RelPath& top, bool always) const {
    std::set<RelPath> out;
    std::vector<RelPath> open = {top};
    while (!open.empty()) {
      RelPath path = open.back();
      open.pop_back();
      auto at = scripts_.find(path);
      if (at == scripts_.end() || !out.insert(path).second) continue;
      const std::set<RelPath>& next = always ? at->second.always_opens : at->second.opens;
      open.insert(open.end(), next.begin(), next.end());
    }
    return out;
  }

  // Whether every project that has the user has the giver, too.
  bool is_always_there(const TargetOf& user, const TargetOf& giver) const {
    std::set<RelPath> opened;
    for (const auto& [path, script] : scripts_) opened.insert(script.opens.begin(), script.opens.end());
    for (const auto& [path, script] : scripts_) {
      if (opened.contains(path) || !reached(path, false).contains(user.script)) continue;
      if (!reached(path, true).contains(giver.script)) return false;
    }
    return !user.script.is_root();
  }

  // What becomes of a command: the words that go, and the commands that follow it.
  struct Rewriting {
    std::set<std::size_t> removed;
    std::vector<std::string> added;
  };
  using Rewritten = std::map<std::pair<RelPath, std::size_t>, Rewriting>;

  static void note(Rewritten& commands, const Word& word, const std::string& added) {
    Rewriting& one = commands[{word.script, word.command}];
    one.removed.insert(word.argument);
    bool is_new = !added.empty() && std::find(one.added.begin(), one.added.end(), added) == one.added.end();
    if (is_new) one.added.push_back(added);
  }

  static std::string other(const std::string& command, const std::string& target, Reach reach,
                           const std::string& word) {
    const char* keyword = reach == Reach::own ? "PRIVATE" : reach == Reach::both ? "PUBLIC" : "INTERFACE";
    return command + "(" + target + " " + keyword + " " + word + ")";
  }

  std::vector<Change> changes(const Rewritten& commands) const {
    std::vector<Change> out;
    for (const auto& [at, rewriting] : commands) {
      const OpenedScript& script = scripts_.at(at.first);
      const Command& command = script.commands[at.second];
      std::string text = without(script, command, rewriting.removed);
      std::size_t line = command.span.begin;
      while (line > 0 && is_blank(script.text[line - 1])) --line;
      std::string indent = "\n" + script.text.substr(line, command.span.begin - line);
      for (const std::string& one : rewriting.added) text += (text.empty() ? "" : indent) + one;
      Span span = command.span;
      bool is_alone = (line == 0 || script.text[line - 1] == '\n') && span.end < script.text.size() &&
                      script.text[span.end] == '\n';
      if (text.empty() && is_alone) span = span_of(line, span.end + 1);
      out.push_back({{Edit{at.first, span, text}}});
    }
    return out;
  }

  // A command without some of its words, and without the keywords that nothing follows; empty if none is
  // left.
  std::string without(const OpenedScript& script, const Command& command,
                      const std::set<std::size_t>& removed) const {
    std::string out, keyword;
    bool any = false;
    std::size_t from = command.span.begin;
    for (std::size_t i = 0; i < command.arguments.size(); ++i) {
      std::string piece = script.text.substr(from, command.arguments[i].span.end - from);
      from = command.arguments[i].span.end;
      if (removed.contains(i)) continue;
      if (i > 0 && reach_of(text_of(script, command.arguments[i]))) {
        keyword = piece;
        continue;
      }
      out += keyword + piece;
      keyword.clear();
      any = any || i > 0;
    }
    return any ? out + script.text.substr(from, command.span.end - from) : "";
  }

  std::map<RelPath, OpenedScript> scripts_;
  std::map<std::string, TargetOf> targets_;
  std::set<std::string> declared_;
};

}  // namespace

std::vector<Change> share_includes(const ClaimedTree& before) {
  return Project(before).share();
}

std::vector<Change> unshare_includes(const ClaimedTree& before) {
  return Project(before).unshare();
}

}  // namespace yc::cmake
