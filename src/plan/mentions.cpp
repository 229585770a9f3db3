#include "plan/mentions.h"

#include <fmt/format.h>

#include <algorithm>
#include <set>
#include <unordered_set>

#include "base/char_class.h"

namespace yc {

namespace {

constexpr std::uint64_t kLargest = 1'000'000;
constexpr std::size_t kMostPerFile = 20;

constexpr CharClass kPathChars = CharClass::alphanumeric_and("_./-+");

bool is_path_char(char c) {
  return kPathChars.holds(c);
}

}  // namespace

std::vector<Notice> find_mentions(const TreeReader& tree, const ReferenceGraph& graph, const MoveSet& moves) {
  std::unordered_set<std::string> names;
  for (const Move& move : moves.files()) names.insert(move.from.str());
  for (const Move& move : moves.requested()) {
    if (move.from.str().find('/') != std::string::npos) names.insert(move.from.str());
  }
  // A name without a folder must at least look like a file's to be told from a word.
  std::erase_if(names, [](const std::string& name) { return name.find_first_of("/.") == std::string::npos; });
  std::map<RelPath, std::vector<Span>> known;
  for (const Reference& reference : graph.references) {
    for (const Piece& piece : reference.text.pieces()) {
      if (piece.has_origin()) known[graph.files.path(piece.file)].push_back(piece.span);
    }
  }
  std::vector<Notice> out;
  for (const RelPath& path : tree.files()) {
    const Entry* entry = tree.find(path);
    if (entry->kind != EntryKind::file || entry->size > kLargest || entry->guarded) continue;
    auto bytes = tree.read(path);
    if (!bytes || (*bytes)->find('\0') != std::string::npos) continue;
    const std::string& text = **bytes;
    const std::vector<Span>& spans = known[path];
    std::size_t found = 0;
    for (std::size_t at = 0; at < text.size() && found < kMostPerFile;) {
      if (!is_path_char(text[at])) {
        ++at;
        continue;
      }
      std::size_t end = at;
      bool dotted = false;
      while (end < text.size() && is_path_char(text[end]))
        dotted = dotted || text[end] == '.' || text[end] == '/', ++end;
      std::size_t begin = at;
      at = end;
      if (!dotted) continue;
      std::string token = text.substr(begin, end - begin);
      while (token.substr(0, 2) == "./") token.erase(0, 2), begin += 2;
      while (!token.empty() && (token.back() == '.' || token.back() == '/')) token.pop_back(), --end;
      if (!names.contains(token)) continue;
      Span span{static_cast<std::uint32_t>(begin), static_cast<std::uint32_t>(end)};
      bool read = std::any_of(spans.begin(), spans.end(), [&](const Span& other) {
        return other.begin < span.end && span.begin < other.end;
      });
      if (read) continue;
      out.push_back({"mention", path, span, true, fmt::format("mentions {}", token)});
      ++found;
    }
  }
  return out;
}

}  // namespace yc
