// Prints what the scanner of Rust sources finds in the files named on standard input, one a line, for
// bench/rust-scan: "F path", then "M within name kind visibility path" for each module, "U visibility path
// bound" for each import, "E path" for each embedded file. What macros are given is left out, but for
// embedded files. With -q only the speed.
#include "scan_files.h"

#include "base/text.h"
#include "formats/code_paths/string_scan.h"
#include "formats/rust/rust_scan.h"

namespace {

using namespace yc;
using namespace yc::rust;

const char* name_of(const Visibility& visibility) {
  static const char* const names[] = {"own", "parent", "path", "crate", "everywhere"};
  return names[static_cast<int>(visibility.reach)];
}

std::string within(const std::string& text, const SourceFacts& facts, std::int32_t scope) {
  std::string out;
  for (; scope > 0; scope = facts.scopes[static_cast<std::size_t>(scope)].parent) {
    const Scope& one = facts.scopes[static_cast<std::size_t>(scope)];
    if (one.is_module) out = std::string(cut(text, one.name)) + (out.empty() ? "" : "::" + out);
  }
  return out;
}

void print(const std::string& text, const SourceFacts& facts) {
  for (const ModuleLine& line : facts.modules) {
    if (line.in_macro) continue;
    std::cout << "M " << within(text, facts, line.scope) << " " << cut(text, line.name) << " "
              << (line.inner >= 0 ? "inline" : "file") << " " << name_of(line.visibility) << " "
              << (line.is_always_there ? cut(text, line.paths.back()) : "-") << "\n";
  }
  for (const Import& import : facts.imports) {
    if (import.in_macro || import.is_documentation) continue;
    std::cout << "U " << name_of(import.visibility) << " ";
    for (std::size_t i = 0; i < import.segments.size(); ++i)
      std::cout << (i > 0 ? "::" : "") << cut(text, import.segments[i].span);
    std::cout << " "
              << (import.takes_all          ? "*"
                  : import.bound.size() > 0 ? cut(text, import.bound)
                                            : "-")
              << "\n";
  }
  for (const Path& path : facts.paths) {
    if (path.kind != Path::Kind::code) continue;
    std::cout << "P ";
    for (std::size_t i = 0; i < path.segments.size(); ++i)
      std::cout << (i > 0 ? "::" : "") << cut(text, path.segments[i]);
    std::cout << "\n";
  }
  for (const code_paths::CodeString& one : code_paths::scan_strings(text, code_paths::Language::rust)) {
    std::string_view before = one.before;
    for (std::string_view call : {"include_str!", "include_bytes!", "include!"}) {
      if (!before.ends_with(std::string(call) + "(") && !before.ends_with(std::string(call) + "[") &&
          !before.ends_with(std::string(call) + "{"))
        continue;
      char left = before.size() > call.size() + 1 ? before[before.size() - call.size() - 2] : ' ';
      if (!std::isalnum(static_cast<unsigned char>(left)) && left != '_')
        std::cout << "E " << cut(text, one.span) << "\n";
    }
  }
}

}  // namespace

int main(int argc, char** argv) {
  return scan_files(
      argc, argv, [](const std::string& text) { return scan_source(text); },
      [](const std::string& path, const std::string& text, const SourceFacts& facts) {
        std::cout << "F " << path << "\n";
        print(text, facts);
      });
}
