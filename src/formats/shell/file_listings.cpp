// Commands that print which files there are.

#include "formats/shell/command_line.h"
#include "words/shell.h"

namespace yc::shell {

bool lists_files(const Command& command) {
  return words::shell::listing_programs().contains(command.name());
}

namespace {

struct Asked {
  std::vector<TracedText> starts;
  std::string filter;  // of names, if it finds
};

// What a command is asked for; nothing where that is not known in full.
std::optional<Asked> asked_for(const Command& command, bool finds) {
  std::vector<TracedText> starts;
  std::string filter;
  for (std::size_t i = 1; i < command.words.size(); ++i) {
    const TracedText& word = command.words[i].text;
    std::string text = word.text();
    if (word.has_hole()) return std::nullopt;
    if (!finds) {
      if (text[0] == '-') {
        if (text != "-1" && text != "-d") return std::nullopt;
        continue;
      }
      starts.push_back(word);
    } else if (text == "-name" && i + 1 < command.words.size() && filter.empty()) {
      filter = command.words[++i].text.text();
    } else if (text == "-type" && i + 1 < command.words.size() && command.words[i + 1].text.text() == "f") {
      ++i;
    } else if (text == "-print" || text == "-L") {
      continue;
    } else if (text[0] == '-' || text[0] == '!' || text[0] == '(') {
      return std::nullopt;
    } else {
      starts.push_back(word);
    }
  }
  if (starts.empty() || (finds && filter.empty())) return std::nullopt;
  return Asked{std::move(starts), std::move(filter)};
}

}  // namespace

std::optional<std::vector<TracedText>> listed_files(const Command& command, const TreeReader& tree,
                                                    const std::function<void(Reference)>& found) {
  std::string name = command.name();
  if ((name != "find" && name != "ls" && name != "echo") || !command.base_known) return std::nullopt;
  auto asked = asked_for(command, name == "find");
  if (!asked) return std::nullopt;
  const auto& [starts, filter] = *asked;
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
