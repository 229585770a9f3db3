#include "formats/modules/forwarding_modules.h"

#include <fmt/format.h>

#include <algorithm>

#include "formats/modules/module_resolver.h"
#include "formats/modules/module_scan.h"

namespace yc::modules {

namespace {

constexpr std::string_view kWords = "Forwarding module";
constexpr std::size_t kLargest = 1000;  // bytes; we write far less
constexpr std::size_t kMostNeighbours = 200;

// Whether relative specifiers write the ending; nothing if there are none.
std::optional<bool> writes_endings(const ModuleFacts& facts) {
  std::optional<bool> out;
  for (const Specifier& specifier : facts.specifiers) {
    bool relative = specifier.text.starts_with("./") || specifier.text.starts_with("../");
    if (!relative || specifier.kind != Specifier::Kind::import_from) continue;
    std::string ending = ending_of(specifier.text);
    if (ending == ".js" || ending == ".ts" || ending == ".mjs" || ending == ".tsx" || ending == ".jsx")
      return true;
    out = false;
  }
  return out;
}

// The ending that a specifier of such a file has here: as the file itself writes them, else as its neighbours
// do.
std::string ending_here(const TreeReader& tree, const ModuleFacts& facts, const RelPath& old_path,
                        const RelPath& path) {
  std::string_view ending = path.extension();
  std::string written = written_for(ending).empty() ? std::string(ending) : written_for(ending);
  std::optional<bool> habit = writes_endings(facts);
  std::size_t looked = 0;
  for (RelPath up = old_path.parent(); !habit; up = up.parent()) {
    for (const RelPath& file : tree.files()) {
      auto dialect = dialect_of(file);
      bool like = dialect && file.is_within(up) && file.extension() == old_path.extension() &&
                  !tree.find(file)->ignored;
      if (!like || habit || looked++ >= kMostNeighbours) continue;
      if (auto bytes = tree.read(file)) habit = writes_endings(scan_module(**bytes, *dialect));
    }
    if (up.is_root() || looked >= kMostNeighbours) break;
  }
  // What runs as it stands must be named in full.
  bool needs = ending == ".mjs" || ending == ".mts" || (!habit && ending == ".js");
  return habit.value_or(needs) || ending == ".mjs" || ending == ".mts" ? written : "";
}

}  // namespace

RelPath forwarding_place(const RelPath& old_path, const RelPath& new_path) {
  std::string ending(old_path.extension());
  RelPath folder = new_path.parent();
  bool promoted = dialect_of(old_path) && folder.str() + ending == old_path.str();
  return promoted && new_path.name() != "index" + ending ? folder / ("index" + ending) : old_path;
}

std::optional<std::string> forwarding_module(const TreeReader& tree, const RelPath& old_path,
                                             const RelPath& new_path, std::string_view bytes) {
  auto dialect = dialect_of(old_path);
  if (!dialect || !dialect_of(new_path) || is_declaration(old_path)) return std::nullopt;
  RelPath place = forwarding_place(old_path, new_path);
  std::string path = relative_text(place.parent(), new_path);
  if (!path.starts_with("../")) path = "./" + path;
  if (path.find_first_of("\"'`\\\n\r?!") != std::string::npos) return std::nullopt;
  ModuleFacts facts = scan_module(bytes, *dialect);
  path = path.substr(0, path.size() - new_path.extension().size()) +
         ending_here(tree, facts, old_path, new_path);
  const char* end = bytes.find("\r\n") != std::string_view::npos ? "\r\n" : "\n";
  std::string quote = bytes.find('"') < bytes.find('\'') ? "\"" : "'";
  std::string text = fmt::format("// {}: this module is now {}; import that.{}", kWords, path, end);
  bool exports =
      bytes.find("export ") != std::string_view::npos || bytes.find("export{") != std::string_view::npos;
  bool common = !exports && (bytes.find("module.exports") != std::string_view::npos ||
                             bytes.find("exports.") != std::string_view::npos);
  if (common) return text + fmt::format("module.exports = require({0}{1}{0});{2}", quote, path, end);
  text += fmt::format("export * from {0}{1}{0};{2}", quote, path, end);
  bool has_default = bytes.find("export default") != std::string_view::npos ||
                     bytes.find("as default") != std::string_view::npos;
  if (has_default) text += fmt::format("export {{ default }} from {0}{1}{0};{2}", quote, path, end);
  return text;
}

std::optional<RelPath> forwarded_to(const RelPath& path, std::string_view bytes) {
  auto dialect = dialect_of(path);
  if (!dialect || bytes.size() > kLargest || bytes.find(kWords) == std::string_view::npos)
    return std::nullopt;
  ModuleFacts facts = scan_module(bytes, *dialect);
  if (facts.specifiers.empty()) return std::nullopt;
  const std::string& text = facts.specifiers.front().text;
  bool one = std::all_of(facts.specifiers.begin(), facts.specifiers.end(),
                         [&](const Specifier& specifier) { return specifier.text == text; });
  // Besides the comment there are only the lines that we write.
  std::size_t lines = 0;
  for (std::size_t at = 0; at < bytes.size(); ++lines) {
    std::size_t end = std::min(bytes.find('\n', at), bytes.size());
    std::string_view line = bytes.substr(at, end - at);
    bool known = line.starts_with("// ") || line.starts_with("export * from ") ||
                 line.starts_with("export { default } from ") ||
                 line.starts_with("module.exports = require(");
    if (!known) return std::nullopt;
    at = end + 1;
  }
  if (!one || lines > 3) return std::nullopt;
  std::string target = text;
  std::string ending(path.extension());
  std::string written = written_for(ending);
  if (!written.empty() && target.ends_with(written)) target.resize(target.size() - written.size());
  if (!target.ends_with(ending)) target += ending;
  return RelPath::resolve(path.parent(), target);
}

}  // namespace yc::modules
