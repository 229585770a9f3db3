// Commands that print which files there are.

#include <algorithm>
#include <cctype>
#include <utility>

#include "formats/shell/command_line.h"
#include "words/shell.h"

namespace yc::shell {

bool lists_files(const Command& command) {
  return words::shell::listing_programs().contains(command.name());
}

namespace {

struct Asked {
  std::vector<TracedText> starts;
  std::string filter;                 // of names, if it finds
  std::vector<std::string> left_out;  // other names
  bool leaves_out(const RelPath& path) const {
    return std::any_of(left_out.begin(), left_out.end(),
                       [&](const std::string& names) { return name_matches(names, path.name()); });
  }
};

// What "ls" or "echo" is asked for; nothing where that is not known in full.
std::optional<Asked> asked_of_list(const Command& command) {
  Asked out;
  for (std::size_t i = 1; i < command.words.size(); ++i) {
    const TracedText& word = command.words[i].text;
    std::string text = word.text();
    bool is_option = text[0] == '-';
    if (word.has_hole() || (is_option && text != "-1" && text != "-d")) return std::nullopt;
    if (!is_option) out.starts.push_back(word);
  }
  return out.starts.empty() ? std::nullopt : std::optional(std::move(out));
}

// A pattern that matches the same names in capitals and small letters: "*.[pP][yY]".
std::string in_any_case(std::string_view pattern) {
  std::string out;
  for (char c : pattern) {
    auto byte = static_cast<unsigned char>(c);
    if (!std::isalpha(byte)) {
      out += c;
      continue;
    }
    out += '[';
    out += static_cast<char>(std::tolower(byte));
    out += static_cast<char>(std::toupper(byte));
    out += ']';
  }
  return out;
}

// What "find" is asked for (IEEE Std 1003.1, "find"): names that are sought, and names that are not.
std::optional<Asked> asked_of_find(const Command& command) {
  Asked out;
  bool is_not = false;
  for (std::size_t i = 1; i < command.words.size(); ++i) {
    const TracedText& word = command.words[i].text;
    std::string text = word.text();
    std::string next = i + 1 < command.words.size() ? command.words[i + 1].text.text() : "";
    if (word.has_hole()) return std::nullopt;
    if ((text == "-name" || text == "-iname") && !next.empty() && (is_not || out.filter.empty())) {
      if (text == "-iname" && next.find('[') != std::string::npos) return std::nullopt;
      std::string names = text == "-iname" ? in_any_case(next) : next;
      if (is_not)
        out.left_out.push_back(std::move(names));
      else
        out.filter = std::move(names);
      is_not = false;
      ++i;
    } else if (text == "!" || text == "-not") {
      if (std::exchange(is_not, true)) return std::nullopt;
    } else if (text == "-type" && next == "f" && !is_not) {
      ++i;
    } else if (text == "-print" || text == "-L" || text == "-a" || text == "-and") {
      continue;
    } else if (text[0] == '-' || text[0] == '(') {
      return std::nullopt;
    } else {
      out.starts.push_back(word);
    }
  }
  bool is_known = !out.starts.empty() && !out.filter.empty() && !is_not;
  return is_known ? std::optional(std::move(out)) : std::nullopt;
}

}  // namespace

std::optional<std::vector<TracedText>> listed_files(const Command& command, const TreeReader& tree,
                                                    const std::function<void(Reference)>& found) {
  std::string name = command.name();
  if ((name != "find" && name != "ls" && name != "echo") || !command.base_known) return std::nullopt;
  auto asked = name == "find" ? asked_of_find(command) : asked_of_list(command);
  if (!asked) return std::nullopt;
  const std::vector<TracedText>& starts = asked->starts;
  const std::string& filter = asked->filter;
  std::vector<TracedText> out;
  for (const TracedText& start : starts) {
    std::string text = start.text();
    Reference reference = Reference::of(Role::pattern, 0, {}, command.base, start);
    if (name == "find") {
      reference.kind = GlobPattern{GlobPattern::Kind::deep, filter};
    } else if (has_wildcard(text)) {
      reference.kind = GlobPattern{};
    }
    reference.in_list = true;
    std::vector<RelPath> paths;
    if (name == "find") {
      Place place = place_of(command.base.folder, text, command.base.space);
      if (place.space == Space::tree && tree.is_file(place.path) && name_matches(filter, place.path.name())) {
        paths.push_back(place.path);
      } else {
        paths = match_deep(tree, command.base.folder, text + "/" + filter);
      }
      std::erase_if(paths, [&](const RelPath& path) { return asked->leaves_out(path); });
      for (const RelPath& path : paths) {
        TracedText word = start;
        std::string_view below = path.below(place.path);
        if (!below.empty())
          word.append(TracedText::plain((text.back() == '/' ? "" : "/") + std::string(below)));
        out.push_back(std::move(word));
      }
    } else {
      paths = match_paths(tree, command.base.folder, text);
      if (!reference.is_pattern() && paths.size() == 1 && tree.is_folder(paths[0])) return std::nullopt;
      for (const RelPath& path : paths) {
        out.push_back(reference.is_pattern() ? TracedText::plain(relative_text(command.base.folder, path))
                                             : start);
      }
    }
    reference.lead_to(paths);
    if (!reference.targets.empty()) found(std::move(reference));
  }
  return out;
}

}  // namespace yc::shell
