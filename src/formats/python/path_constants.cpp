#include "formats/python/path_constants.h"

#include <algorithm>
#include <set>

#include "formats/python/python_scan.h"

namespace yc::python {

namespace {

// The string token whose text begins at an offset; null if none does.
const Token* string_at(const PythonFacts& facts, std::string_view bytes, std::uint32_t begin) {
  for (const Token& token : facts.tokens) {
    if (token.kind == Token::Kind::string && shape_of(bytes, token).body.begin == begin) return &token;
  }
  return nullptr;
}

// Where a new top-level statement goes: behind the imports, or before everything but what must be first.
struct Slot {
  std::uint32_t at = 0;
  bool behind_imports = false;
};
Slot slot_of(const PythonFacts& facts, std::string_view bytes) {
  Slot out;
  for (const Import& statement : facts.imports) {
    bool top = statement.own_line && !statement.late &&
               (statement.statement.begin == 0 || bytes[statement.statement.begin - 1] == '\n');
    if (!top || (out.behind_imports && statement.statement.end - out.at > 4000)) continue;
    std::size_t end = bytes.find('\n', statement.statement.end);
    out = {static_cast<std::uint32_t>(end == std::string_view::npos ? bytes.size() : end), true};
  }
  if (out.behind_imports) return out;
  for (std::size_t i = 0; i < facts.tokens.size(); ++i) {
    const Token& token = facts.tokens[i];
    if (token.kind == Token::Kind::string || token.kind == Token::Kind::newline) continue;
    out.at = token.span.begin;
    break;
  }
  return out;
}

}  // namespace

std::vector<Edit> through_constant(const TreeReader& tree, const ReferenceGraph& graph,
                                   const std::vector<const Reference*>& references, const std::string& name,
                                   const RelPath& folder) {
  std::vector<Edit> out;
  RelPath file = graph.files.path(standing_of(*references.front()).file);
  auto bytes = tree.read(file);
  if (!bytes) return out;
  PythonFacts facts = scan_python(**bytes);
  if (std::binary_search(facts.bound.begin(), facts.bound.end(), name)) return out;
  Slot slot = slot_of(facts, **bytes);
  std::string prefix;  // that all texts have
  char quote = '"';
  std::set<std::uint32_t> done;
  for (const Reference* reference : references) {
    const auto& pieces = reference->text.pieces();
    for (std::size_t i = 0; i < pieces.size(); ++i) {
      const Piece& piece = pieces[i];
      if (!piece.has_origin() || !piece.verbatim || !piece.via.empty()) continue;
      // From what stands before the piece to the folder.
      std::string head;
      for (std::size_t k = 0; k < i; ++k) head += pieces[k].text;
      Place base = place_of(reference->base.folder, head);
      if (head.empty()) base = {Space::tree, reference->base.folder};
      if (base.space != Space::tree) break;
      std::string text = relative_text(base.path, folder) + "/";
      // The folder alone is named before a part that only the program knows.
      bool below = (*bytes)->compare(piece.span.begin, text.size(), text) == 0;
      if (!below || (!prefix.empty() && prefix != text)) break;
      const Token* token = string_at(facts, **bytes, piece.span.begin);
      if (!token || token->span.begin < slot.at || !done.insert(token->span.begin).second) break;
      prefix = text;
      quote = shape_of(**bytes, *token).quote;
      std::size_t last = (*bytes)->find_last_not_of(" \t", token->span.begin - 1);
      bool joined = last != std::string::npos && (**bytes)[last] == '/';
      out.push_back({file, {token->span.begin, token->span.begin}, name + (joined ? " / " : " + ")});
      out.push_back(
          {file, {piece.span.begin, piece.span.begin + static_cast<std::uint32_t>(text.size())}, ""});
      break;
    }
  }
  if (out.empty()) return out;
  std::string constant = name + " = " + quote + prefix + quote;
  out.push_back({file, {slot.at, slot.at}, slot.behind_imports ? "\n\n" + constant : constant + "\n\n"});
  return out;
}

}  // namespace yc::python
