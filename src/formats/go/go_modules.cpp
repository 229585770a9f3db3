#include "formats/go/go_modules.h"

#include <algorithm>

#include "base/text.h"

namespace yc::go {

namespace {

// The words of a line, without their quotes, up to a comment.
std::vector<FolderWord> words_of(std::string_view line, std::size_t begin) {
  std::vector<FolderWord> out;
  for (std::size_t at = 0; at < line.size();) {
    if (is_blank(line[at])) {
      ++at;
      continue;
    }
    if (line.substr(at, 2) == "//") break;
    bool quoted = line[at] == '"' || line[at] == '`';
    std::size_t from = quoted ? at + 1 : at, to = from;
    while (to < line.size() && (quoted ? line[to] != line[at] : !is_blank(line[to]))) ++to;
    out.push_back({std::string(line.substr(from, to - from)), span_of(begin + from, begin + to)});
    at = to + (quoted ? 1 : 0);
  }
  return out;
}

bool is_folder_word(const FolderWord& word) {
  return word.text == "." || word.text == ".." || word.text.starts_with("./") || word.text.starts_with("../");
}

}  // namespace

ModFacts scan_mod(std::string_view bytes) {
  ModFacts out;
  std::string block;  // the directive whose lines stand in parentheses
  for_each_line(bytes, [&](std::string_view line, std::size_t begin) {
    std::vector<FolderWord> words = words_of(line, begin);
    if (words.empty()) return;
    if (words.front().text == ")") {
      block.clear();
      return;
    }
    std::string directive = block.empty() ? words.front().text : block;
    if (block.empty()) {
      words.erase(words.begin());
      if (!words.empty() && words.front().text == "(") {
        block = directive;
        return;
      }
    }
    if (words.empty()) return;
    if (directive == "module" && out.module.empty()) out.module = words.front().text;
    if (directive == "use") {
      out.folders.push_back(words.front());
    } else if (directive == "replace") {
      auto arrow =
          std::find_if(words.begin(), words.end(), [](const FolderWord& word) { return word.text == "=>"; });
      if (arrow != words.end() && arrow + 1 != words.end() && is_folder_word(arrow[1]))
        out.folders.push_back(arrow[1]);
    }
  });
  return out;
}

const std::pair<const RelPath, std::string>* Modules::around(const RelPath& folder) const {
  for (RelPath up = folder;; up = up.parent()) {
    if (auto at = by_root_.find(up); at != by_root_.end()) return &*at;
    if (up.is_root()) return nullptr;
  }
}

std::optional<std::string> Modules::import_path(const RelPath& folder) const {
  const auto* module = around(folder);
  if (!module || module->second.empty()) return std::nullopt;
  std::string_view below = folder.below(module->first);
  return below.empty() ? module->second : module->second + "/" + std::string(below);
}

std::optional<RelPath> Modules::folder_of(std::string_view path) const {
  const std::pair<const RelPath, std::string>* best = nullptr;
  for (const auto& module : by_root_) {
    const std::string& head = module.second;
    bool fits =
        !head.empty() && path.starts_with(head) && (path.size() == head.size() || path[head.size()] == '/');
    if (fits && (!best || head.size() > best->second.size())) best = &module;
  }
  if (!best) return std::nullopt;
  if (path.size() == best->second.size()) return best->first;
  return RelPath::resolve(best->first, path.substr(best->second.size() + 1));
}

Modules modules_of(const std::vector<RelPath>& files,
                   const std::function<std::optional<std::string>(const RelPath&)>& read) {
  Modules out;
  for (const RelPath& file : files) {
    if (file.name() != "go.mod") continue;
    auto bytes = read(file);
    if (!bytes) continue;
    std::string module = scan_mod(*bytes).module;
    // What comes with Go is imported without its module's name.
    out.add({file.parent(), module == "std" ? std::string() : std::move(module)});
  }
  return out;
}

}  // namespace yc::go
