#include "formats/unread_languages.h"

#include <algorithm>

#include "words/unread_languages.h"

namespace yc {

std::optional<std::string_view> unread_source_language(const RelPath& path) {
  return words::unread_languages::sources().find(path.extension());
}

std::optional<std::string_view> unread_build_tool(const RelPath& path) {
  // All paths of a tree are asked about.
  std::string_view name = path.name();
  if (auto tool = words::unread_languages::build_names().find(name)) return tool;
  // "build.gradle.kts": what a tool reads is its script, whatever language that is in.
  if (name.ends_with(".gradle.kts")) return "Gradle";
  return words::unread_languages::build_endings().find(path.extension());
}

bool is_source_code(const RelPath& path) {
  // "Dockerfile.go" says what it builds, not what it is written in.
  static constexpr std::string_view kScripts[] = {"Containerfile.", "Dockerfile.", "GNUmakefile.",
                                                  "Makefile.", "makefile."};
  return words::unread_languages::program_endings().contains(path.extension()) &&
         std::none_of(std::begin(kScripts), std::end(kScripts),
                      [&](std::string_view script) { return path.name().starts_with(script); });
}

}  // namespace yc
