#include "plan/layout_kinds.h"

#include <algorithm>

#include "base/text.h"
#include "formats/unread_languages.h"
#include "words/layout.h"

namespace yc {

namespace {

// "test_tide.c", "tide_test.go", "tide.test.ts", "TideTests.cs"
bool is_test_name(const RelPath& path) {
  std::string stem = lowered(path.name().substr(0, path.name().size() - path.extension().size()));
  for (std::string_view word : {"test", "spec", "tests"}) {
    bool is_head = stem.starts_with(std::string(word) + "_") || stem.starts_with(std::string(word) + "-");
    std::string_view rest = stem;
    bool is_tail =
        rest.ends_with(word) && rest.size() > word.size() &&
        std::string_view("_-.").find(rest[rest.size() - word.size() - 1]) != std::string_view::npos;
    // "TideTests"
    bool is_camel = path.name().find("Tests.") != std::string_view::npos ||
                    path.name().find("Test.") != std::string_view::npos;
    if (is_head || is_tail || is_camel) return is_source_code(path);
  }
  return false;
}

bool holds_assets_only(const TreeReader& tree, const RelPath& folder) {
  bool any = false;
  for (const std::string& name : tree.children(folder)) {
    RelPath path = folder / name;
    const Entry* entry = tree.find(path);
    if (!entry || entry->ignored) continue;
    if (tree.is_folder(path)) {
      if (!holds_assets_only(tree, path)) return false;
    } else if (kind_of_file(path) != "asset") {
      return false;
    }
    any = true;
  }
  return any;
}

}  // namespace

const std::vector<std::string>& folder_kinds() {
  static const std::vector<std::string> all = {"test", "program", "private", "library", "asset"};
  return all;
}
const std::vector<std::string>& file_kinds() {
  static const std::vector<std::string> all = {"test",   "header",   "source", "style",
                                               "script", "document", "asset"};
  return all;
}

std::string kind_of_file(const RelPath& path) {
  std::string_view ending = path.extension();
  if (is_test_name(path)) return "test";
  if (words::layout::header_endings().contains(ending)) return "header";
  if (words::layout::style_endings().contains(ending)) return "style";
  if (words::layout::script_endings().contains(ending)) return "script";
  if (words::layout::document_endings().contains(ending)) return "document";
  if (is_source_code(path)) return "source";
  return words::layout::asset_endings().contains(ending) ? "asset" : "";
}

std::string kind_of_folder(const TreeReader& tree, const ReferenceGraph& graph, const RelPath& folder) {
  if (words::layout::test_folders().contains(lowered(folder.name()))) return "test";
  if (auto held = graph.holdings.find(folder); held != graph.holdings.end()) {
    const Holding& holding = held->second;
    if (holding.program) return "program";
    if (holding.library) {
      std::vector<std::string_view> parts = folder.components();
      bool is_inner = std::any_of(parts.begin(), parts.end(), [](std::string_view part) {
        return part == "internal" || part == "private";
      });
      return holding.is_private || is_inner ? "private" : "library";
    }
  }
  return holds_assets_only(tree, folder) ? "asset" : "";
}

}  // namespace yc
