#include "formats/cmake/cmake_meta_objects.h"

#include <algorithm>
#include <optional>

#include "formats/cmake/cmake_syntax.h"
#include "formats/meta_objects.h"

namespace yc::cmake {

namespace {

constexpr std::string_view kOwnFolders[] = {"${CMAKE_CURRENT_SOURCE_DIR}/", "${CMAKE_CURRENT_LIST_DIR}/"};

struct SourceWord {
  RelPath script;
  Span span;           // with quotes
  std::string prefix;  // "${CMAKE_CURRENT_SOURCE_DIR}/", or empty
};

// The words of a script, spelled from its folder, that lead to `path`.
std::vector<SourceWord> words_for(const TreeReader& tree, const RelPath& script, const RelPath& path) {
  std::vector<SourceWord> out;
  auto bytes = tree.read(script);
  if (!bytes || (*bytes)->find(path.name()) == std::string::npos) return out;
  for (const Command& command : parse(**bytes).commands) {
    for (const Argument& argument : command.arguments) {
      if (argument.kind == Argument::Kind::bracket) continue;
      std::string text = (*bytes)->substr(argument.content.begin, argument.content.size()), prefix;
      for (std::string_view own : kOwnFolders) {
        if (text.starts_with(own)) prefix = own;
      }
      auto leads_to = RelPath::resolve(script.parent(), text.substr(prefix.size()));
      if (leads_to && *leads_to == path) out.push_back({script, argument.span, prefix});
    }
  }
  return out;
}

// In the nearest scripts that have any: those of one folder.
std::vector<SourceWord> nearest_words(const TreeReader& tree, const RelPath& path) {
  for (RelPath folder = path.parent();; folder = folder.parent()) {
    std::vector<SourceWord> out;
    for (const std::string& name : tree.children(folder)) {
      RelPath script = folder / name;
      bool is_script = name == "CMakeLists.txt" || script.extension() == ".cmake";
      if (!is_script || !tree.is_editable(script)) continue;
      std::vector<SourceWord> more = words_for(tree, script, path);
      out.insert(out.end(), more.begin(), more.end());
    }
    if (!out.empty() || folder.is_root()) return out;
  }
}

}  // namespace

std::vector<Proposal> listed_headers(const ListWords& words, const ClaimedTree& before,
                                     const MoveSet& moves) {
  std::vector<Proposal> out;
  for (const PartedInput& parted : parted_inputs(before.tree, moves)) {
    if (parted.is_form || parted.is_included || !nearest_words(before.tree, parted.input).empty()) continue;
    std::vector<SourceWord> found = nearest_words(before.tree, parted.source);
    if (found.size() != 1) continue;
    const SourceWord& word = found.front();
    auto bytes = before.tree.read(word.script);
    RelPath folder = moves.map_file(word.script).parent();
    std::string text = word.prefix + relative_text(folder, moves.map_file(parted.input));
    auto beside = bytes ? words.beside(**bytes, word.span, text) : std::nullopt;
    if (beside) out.push_back({{{word.script, {word.span.end, word.span.end}, *beside}}, ""});
  }
  return out;
}

}  // namespace yc::cmake
