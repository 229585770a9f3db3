#include "plan/written_includes.h"

#include <fmt/format.h>

#include <algorithm>
#include <optional>

#include "base/name_search.h"
#include "words/plan.h"

namespace yc {

namespace {

constexpr std::string_view kInclude = "include";
constexpr std::size_t kLongestInclude = 300;  // bytes

bool may_write_sources(const RelPath& path) {
  return path.extension().empty() || words::plan::writer_endings().contains(path.extension());
}

// The text between quotes or brackets, where "#include" stands before it.
std::optional<Span> include_at(std::string_view bytes, std::size_t word) {
  std::size_t hash = word;
  while (hash > 0 && (bytes[hash - 1] == ' ' || bytes[hash - 1] == '\t')) --hash;
  if (hash == 0 || bytes[hash - 1] != '#') return std::nullopt;
  std::size_t open = word + kInclude.size();
  while (open < bytes.size() && (bytes[open] == ' ' || bytes[open] == '\t' || bytes[open] == '\\')) ++open;
  if (open == bytes.size() || (bytes[open] != '"' && bytes[open] != '<')) return std::nullopt;
  std::size_t end = bytes.find_first_of("\"\\>\n", open + 1);
  if (end == bytes.npos || end - open > kLongestInclude) return std::nullopt;
  return span_of(open + 1, end);
}

// Whether a header may be meant: the text is how its path ends.
bool may_mean(std::string_view text, const RelPath& header) {
  while (text.starts_with("./") || text.starts_with("../")) text.remove_prefix(text.find('/') + 1);
  const std::string& path = header.str();
  return !text.empty() && path.ends_with(text) &&
         (path.size() == text.size() || path[path.size() - text.size() - 1] == '/');
}

// Whether a folder that compilers search still leads there by the same text: one that moves along, or
// another.
bool is_searched(const ReferenceGraph& graph, std::string_view text, const Move& header,
                 const MoveSet& moves) {
  auto leads = [&](const RelPath& folder, const RelPath& to) {
    auto path = RelPath::resolve(folder, text);
    return path && *path == to;
  };
  return std::any_of(graph.contexts.begin(), graph.contexts.end(), [&](const Context& context) {
    return std::any_of(context.roots.begin(), context.roots.end(), [&](const SearchRoot& root) {
      if (root.place.space != Space::tree) return false;
      auto image = leads(root.place.path, header.from) ? moves.map_folder(root.place.path) : std::nullopt;
      return leads(root.place.path, header.to) || (image && leads(*image, header.to));
    });
  });
}

// What readers know of a file.
std::vector<Span> known_in(const ReferenceGraph& graph, const RelPath& path) {
  std::vector<Span> out;
  FileIndex file = graph.files.find(path);
  for (const Reference& reference : graph.references) {
    for (const Piece& piece : reference.text.pieces()) {
      if (file != kNoFile && piece.file == file) out.push_back(piece.span);
    }
  }
  return out;
}

}  // namespace

std::vector<Blocker> written_includes(const TreeReader& tree, const ReferenceGraph& graph,
                                      const MoveSet& moves) {
  std::vector<Blocker> out;
  std::vector<const Move*> headers;
  std::vector<std::string> names;
  for (const Move& move : moves.files()) {
    if (!words::plan::include_endings().contains(move.from.extension())) continue;
    headers.push_back(&move);
    names.emplace_back(move.from.name());
  }
  if (headers.empty()) return out;
  NameSearch search(names);
  for (const RelPath& path : tree.files()) {
    if (!may_write_sources(path) || !tree.is_editable(path) || !tree.may_hold(path, search)) continue;
    auto bytes = tree.read(path);
    if (!bytes || (*bytes)->find('\0') != std::string::npos) continue;
    std::optional<std::vector<Span>> known;
    std::string_view text = **bytes;
    for (std::size_t at = text.find(kInclude); at != text.npos; at = text.find(kInclude, at + 1)) {
      auto span = include_at(text, at);
      if (!span) continue;
      std::string_view named = text.substr(span->begin, span->end - span->begin);
      auto meant = std::find_if(headers.begin(), headers.end(),
                                [&](const Move* move) { return may_mean(named, move->from); });
      if (meant == headers.end() || is_searched(graph, named, **meant, moves)) continue;
      if (!known) known = known_in(graph, path);
      bool is_known = std::any_of(known->begin(), known->end(), [&](const Span& other) {
        return other.begin < span->end && span->begin < other.end;
      });
      if (is_known) continue;
      Blocker one;
      one.id = "written-include";
      one.file = path;
      one.span = *span;
      one.text = std::string(named);
      one.reason =
          fmt::format("may be written into a source, which would not find {} by it", (*meant)->from.str());
      one.next =
          "let the project's own build judge (… -- BUILD COMMAND), settle it for good if nothing comes of it "
          "(--settle "
          "FILE:LINE), or add --accept-unseen to move anyway, unproved";
      out.push_back(std::move(one));
      break;
    }
  }
  return out;
}

}  // namespace yc
