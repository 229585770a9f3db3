#include "formats/cargo/cargo_config.h"

#include <algorithm>

#include "formats/values/values.h"
#include "model/add_reference.h"

namespace yc::cargo {

namespace {

using Keys = std::vector<std::string>;

enum class Means : std::uint8_t {
  crate,    // a folder with a manifest
  file,     // a file or a folder
  program,  // a program: a path only with a "/", else it is looked for
  flag,     // of the compiler, which may hold the path of a linker script
  none,
};

bool is_program(const std::string& key) {
  return key == "rustc" || key == "rustc-wrapper" || key == "rustc-workspace-wrapper" || key == "rustdoc" ||
         key == "linker" || key == "runner" || key == "ar";
}

Means meaning_of(const Keys& keys, bool is_relative) {
  const std::string& first = keys.front();
  const std::string& last = keys.back();
  if (first == "paths" && keys.size() == 2) return Means::crate;
  if (first == "patch" && keys.size() == 4 && last == "path") return Means::crate;
  if (first == "source" && (last == "directory" || last == "local-registry")) return Means::file;
  if (first == "env" && last == "value" && is_relative) return Means::file;
  if (std::find(keys.begin(), keys.end(), "rustflags") != keys.end()) return Means::flag;
  if ((first == "build" || first == "target") && is_program(last)) return Means::program;
  return Means::none;
}

// The path in "-Tlink/memory.x" or "link-arg=-Tlink/memory.x".
std::size_t path_in_flag(std::string_view text) {
  std::size_t at = text.find("-T");
  return at == std::string_view::npos ? text.size() : at + 2;
}

}  // namespace

bool is_config(const RelPath& path) {
  RelPath folder = path.parent();
  return folder.name() == ".cargo" && (path.name() == "config.toml" || path.name() == "config");
}

void add_config_references(const Reading& in, const RelPath& path, const Bytes& bytes) {
  FileIndex file = in.out.files().index(path);
  std::vector<values::Switch> switches = values::read_toml_switches(*bytes);
  for (const values::Value& value : values::read_toml(*bytes)) {
    if (value.path.empty() || !value.verbatim) continue;
    Keys relative = value.path;
    relative.back() = "relative";
    bool is_relative = std::any_of(switches.begin(), switches.end(), [&](const values::Switch& one) {
      return one.is_on && one.path == relative;
    });
    Means means = meaning_of(value.path, is_relative);
    std::size_t begin = means == Means::flag ? path_in_flag(value.text) : 0;
    bool is_path = means != Means::none && begin < value.text.size() &&
                   (means != Means::program || value.text.find('/') != std::string::npos);
    if (!is_path) continue;
    TracedText text = TracedText::literal(
        value.text.substr(begin), file,
        {value.span.begin + static_cast<std::uint32_t>(begin), value.span.end}, value.style);
    Reference reference =
        Reference::of(means == Means::crate ? Role::subfolder : Role::listed, in.self,
                      {{file, value.span.begin}}, {path.ancestor(2), file, Space::tree, 2}, std::move(text));
    auto folder = RelPath::resolve(path.ancestor(2), value.text);
    if (means == Means::crate && folder && in.tree.is_file(*folder / "Cargo.toml")) {
      reference = std::move(reference).spelled_by_format();
      reference.lead_to(*folder / "Cargo.toml");
      in.out.add(std::move(reference));
    } else {
      add_leading(in.out, in.tree, std::move(reference));
    }
  }
}

}  // namespace yc::cargo
