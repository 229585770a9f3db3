#include "plan/sidecars.h"

#include <algorithm>
#include <set>

namespace yc {

namespace {

constexpr std::string_view kLanguage = "{language}";

std::string with(std::string text, std::string_view mark, const std::string& value) {
  for (std::size_t at = text.find(mark); at != std::string::npos; at = text.find(mark, at + value.size()))
    text.replace(at, mark.size(), value);
  return text;
}

// The rule's name for one file, the language still open.
std::string name_for(const SidecarRule& rule, std::string_view name) {
  std::string ending = ending_of(name);
  std::string stem(name.substr(0, name.size() - ending.size()));
  return with(with(with(rule.pattern, "{name}", std::string(name)), "{stem}", stem), "{ending}", ending);
}

bool is_language(std::string_view text) {
  auto lower = [](char c) { return c >= 'a' && c <= 'z'; };
  auto upper = [](char c) { return c >= 'A' && c <= 'Z'; };
  bool plain = text.size() >= 2 && lower(text[0]) && lower(text[1]);
  bool region = text.size() == 5 && (text[2] == '-' || text[2] == '_') && upper(text[3]) && upper(text[4]);
  return plain && (text.size() == 2 || region);
}

// "__mocks__/gauge.js" from a folder.
RelPath place_beside(const RelPath& folder, const std::string& name) {
  std::size_t slash = name.find('/');
  return slash == std::string::npos ? folder / name : folder / name.substr(0, slash) / name.substr(slash + 1);
}

bool applies(const SidecarRule& rule, const RelPath& path) {
  return rule.endings.empty() ||
         std::find(rule.endings.begin(), rule.endings.end(), path.extension()) != rule.endings.end();
}

}  // namespace

const std::vector<SidecarRule>& known_sidecars() {
  static const std::vector<std::string> kPictures = {".png", ".jpg", ".jpeg", ".webp", ".gif", ".svg"};
  static const std::vector<std::string> kScripts = {".js", ".jsx", ".ts", ".tsx", ".mjs", ".cjs"};
  static const std::vector<std::string> kTranslated = {".png", ".jpg", ".svg", ".wav",
                                                       ".ogg", ".mp3", ".md",  ".txt"};
  static const std::vector<SidecarRule> all = {{"{name}.meta", {}},
                                               {"{name}.import", {}},
                                               {"{name}.license", {}},
                                               {"{name}.uid", {}},
                                               {"{name}.dvc", {}},
                                               {"{name}.aux.xml", {}},
                                               {"{stem}.pyi", {".py"}},
                                               {"{name}.filters", {".vcxproj"}},
                                               {"{name}.user", {".vcxproj", ".csproj", ".vbproj", ".fsproj"}},
                                               {"{stem}.stderr", {".rs"}},
                                               {"{stem}.stdout", {".rs"}},
                                               {"__snapshots__/{name}.snap", kScripts},
                                               {"__mocks__/{stem}.js", kScripts},
                                               {"__mocks__/{stem}.jsx", kScripts},
                                               {"__mocks__/{stem}.ts", kScripts},
                                               {"__mocks__/{stem}.tsx", kScripts},
                                               {"{stem}@2x{ending}", kPictures},
                                               {"{stem}@3x{ending}", kPictures},
                                               {"{stem}.{language}{ending}", kTranslated}};
  return all;
}

Result<SidecarRule> parse_sidecar_rule(const std::string& text, const std::string& place) {
  bool names = text.find("{name}") != std::string::npos || text.find("{stem}") != std::string::npos;
  if (!names || text == "{name}" || text.find('/') != std::string::npos)
    return Error{Failure::usage, place, text + " is no rule for the name of a file that accompanies another",
                 "for example \"{name}.meta\" or \"{stem}.notes.txt\""};
  return SidecarRule{text, {}};
}

std::vector<Move> with_sidecars(const TreeReader& tree, const std::vector<Move>& moves,
                                const std::vector<SidecarRule>& rules) {
  std::vector<Move> out = moves;
  std::set<RelPath> known;
  for (const Move& move : moves) known.insert(move.from);
  auto add = [&](const RelPath& from, const RelPath& to) {
    const Entry* entry = tree.find(from);
    if (!entry || entry->ignored || entry->guarded || from == to || !known.insert(from).second) return;
    out.push_back({from, to});
  };
  for (const Move& move : moves) {
    for (const SidecarRule& rule : rules) {
      if (!applies(rule, move.from)) continue;
      std::string old_name = name_for(rule, move.from.name()), new_name = name_for(rule, move.to.name());
      RelPath folder = move.from.parent();
      std::size_t mark = old_name.find(kLanguage);
      if (mark == std::string::npos) {
        add(place_beside(folder, old_name), place_beside(move.to.parent(), new_name));
        continue;
      }
      std::string head = old_name.substr(0, mark), tail = old_name.substr(mark + kLanguage.size());
      for (const std::string& name : tree.children(folder)) {
        if (name.size() <= head.size() + tail.size() || !name.starts_with(head) || !name.ends_with(tail))
          continue;
        std::string language = name.substr(head.size(), name.size() - head.size() - tail.size());
        if (is_language(language)) add(folder / name, move.to.parent() / with(new_name, kLanguage, language));
      }
    }
  }
  return out;
}

}  // namespace yc
