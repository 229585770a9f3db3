#include "tree/file_list.h"

#include <algorithm>

namespace yc {

bool is_program_source(std::string_view ending) {
  static constexpr std::string_view kEndings[] = {
      ".c",  ".cc",  ".cjs", ".cpp", ".cs",  ".cts", ".cxx", ".go", ".h",   ".hh", ".hpp",   ".hxx", ".java",
      ".js", ".jsx", ".kt",  ".m",   ".mjs", ".mm",  ".mts", ".py", ".pyi", ".rs", ".swift", ".ts",  ".tsx"};
  return std::binary_search(std::begin(kEndings), std::end(kEndings), ending);
}

namespace {

// "Dockerfile.go" says what it builds, not what it is written in.
bool is_script(std::string_view name) {
  static constexpr std::string_view kScripts[] = {"Containerfile.", "Dockerfile.", "GNUmakefile.",
                                                  "Makefile.", "makefile."};
  return std::any_of(std::begin(kScripts), std::end(kScripts),
                     [&](std::string_view script) { return name.starts_with(script); });
}

}  // namespace

void FileList::add(RelPath path, EntryKind kind) {
  if (kind == EntryKind::link) links_.push_back(path);
  if (!is_program_source(path.extension()) || is_script(path.name())) beside_sources_.push_back(path);
  all_.push_back(std::move(path));
}

void FileList::settle() {
  for (std::vector<RelPath>* list : {&all_, &links_, &beside_sources_}) {
    if (!std::is_sorted(list->begin(), list->end())) std::sort(list->begin(), list->end());
  }
}

}  // namespace yc
