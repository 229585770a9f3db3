#include "formats/make/assembled.h"

#include <algorithm>

#include "formats/autoconf/macro_files.h"
#include "formats/autoconf/macro_scan.h"

namespace yc::make {

namespace {

// "out:in1:in2", from the folder that configure is started in.
std::optional<Assembled> assembled_by(const TreeReader& tree, const RelPath& folder,
                                      const std::string& word) {
  Assembled out;
  for (std::size_t at = 0; at <= word.size();) {
    std::size_t end = std::min(word.find(':', at), word.size());
    auto path = RelPath::resolve(folder, word.substr(at, end - at));
    if (!path) return std::nullopt;
    if (at == 0)
      out.made = std::move(*path);
    else if (tree.is_file(*path))
      out.inputs.push_back(std::move(*path));
    at = end + 1;
  }
  bool is_elsewhere = std::any_of(out.inputs.begin(), out.inputs.end(),
                                  [&](const RelPath& input) { return input.parent() != out.made.parent(); });
  return is_elsewhere ? std::optional(std::move(out)) : std::nullopt;
}

std::optional<Assembled> assembled_in(const Reading& in, const RelPath& script, const RelPath& file) {
  auto bytes = in.tree.read(script);
  // Few scripts do, and all makefiles ask.
  if (!bytes || (*bytes)->find(':') == std::string::npos) return std::nullopt;
  RelPath folder = autoconf::configured_folder(in.tree, script);
  auto facts = in.cache.get<autoconf::Facts>(in.self, *bytes,
                                             [](const std::string& text) { return autoconf::scan(text); });
  for (const autoconf::MacroCall& call : facts->calls) {
    bool makes_files = call.name == "AC_CONFIG_FILES" || call.name == "AC_OUTPUT";
    if (!makes_files || call.arguments.empty()) continue;
    for (const autoconf::Word& word : call.arguments.front()) {
      if (word.text.find(':') == std::string::npos) continue;
      auto found = assembled_by(in.tree, folder, word.text);
      if (!found || std::find(found->inputs.begin(), found->inputs.end(), file) == found->inputs.end())
        continue;
      found->script = in.tree.is_file(folder / "configure") ? folder / "configure" : script;
      return found;
    }
  }
  return std::nullopt;
}

}  // namespace

std::optional<Assembled> assembled_from(const Reading& in, const RelPath& file) {
  for (RelPath folder = file.parent();; folder = folder.parent()) {
    for (const char* name : {"configure.ac", "configure.in"}) {
      if (!in.tree.is_file(folder / name)) continue;
      if (auto found = assembled_in(in, folder / name, file)) return found;
    }
    if (folder.is_root()) return std::nullopt;
  }
}

}  // namespace yc::make
