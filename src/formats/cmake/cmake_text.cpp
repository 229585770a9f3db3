// Expansion of arguments, and of generator expressions, keeping the trace.
#include <algorithm>

#include "formats/cmake/cmake_evaluation.h"
#include "words/cmake.h"

namespace yc::cmake {

namespace {

constexpr std::size_t kValueLimit = 4'000'000;  // bytes of one value
constexpr std::size_t kPieceLimit = 200'000;

}  // namespace

TracedText Evaluation::variable(const std::string& name) const {
  if (const TracedText* known = variables_.find(name)) return *known;
  const Base& here = folders_[folder_].base;
  if (name == "CMAKE_CURRENT_SOURCE_DIR")
    return TracedText::folder(Piece::Nature::tree_folder, here.anchor, marked(Space::tree, here.folder));
  if (name == "CMAKE_CURRENT_BINARY_DIR")
    return TracedText::folder(Piece::Nature::build_folder, here.anchor, marked(Space::build, here.folder));
  if (name == "CMAKE_CURRENT_LIST_DIR" || name == "CMAKE_CURRENT_LIST_FILE" ||
      name == "CMAKE_CURRENT_FUNCTION_LIST_DIR") {
    FileIndex file = scripts_.back()->file;
    const RelPath path = out_.files().path(file);
    TracedText out = TracedText::folder(Piece::Nature::tree_folder, file, marked(Space::tree, path.parent()));
    if (name == "CMAKE_CURRENT_LIST_FILE") out.append(TracedText::plain("/" + std::string(path.name())));
    return out;
  }
  // An argument that a call does not give.
  bool is_argument = name.starts_with("ARGV") && !calls_.empty() && name.size() > 4 &&
                     name.find_first_not_of("0123456789", 4) == std::string::npos;
  if (is_argument || words::cmake::empty_variables().contains(name)) return {};
  if (words::cmake::outside_variables().contains(name)) return TracedText::plain("/outside");
  return TracedText::hole();
}

TracedText Evaluation::expand(const Argument& argument) {
  std::string_view text =
      std::string_view(*scripts_.back()->bytes).substr(argument.content.begin, argument.content.size());
  if (argument.kind == Argument::Kind::bracket) {
    return TracedText::literal(std::string(text), scripts_.back()->file, argument.content, kBracket);
  }
  WritingStyle style = argument.kind == Argument::Kind::quoted ? kQuoted : kUnquoted;
  return expand_text(text, argument.content.begin, style, true);
}

// The name of a variable that is put together of others.
std::string Evaluation::inner_text(std::string_view text, std::uint32_t offset, WritingStyle style) {
  ++nesting_;
  std::string out = expand_text(text, offset, style, false).text();
  --nesting_;
  return out;
}

namespace {

// What an escaped character stands for.
std::string without_escapes(char c, WritingStyle style) {
  if (c == '\n') return "";  // a continued line in quotes
  if (c == ';' && style == kUnquoted) return ";";
  return std::string(1, c == 'n' ? '\n' : c == 't' ? '\t' : c == 'r' ? '\r' : c);
}

// Where the brace closes that opens at `open`; the end if it does not.
std::size_t closing_brace(std::string_view text, std::size_t open) {
  int depth = 0;
  for (std::size_t at = open; at < text.size(); ++at) {
    if (text[at] == '{') ++depth;
    if (text[at] == '}' && --depth == 0) return at;
  }
  return text.size();
}

}  // namespace

// Whether a value is small enough to go on with; said if not.
bool Evaluation::is_bounded(const TracedText& value, std::size_t read, const Passage& where) {
  bool is_affordable = out_.spend(read + value.size() + 16 * value.pieces().size());
  if (value.size() <= kValueLimit && value.pieces().size() <= kPieceLimit && is_affordable) return true;
  out_.incomplete(Unread::cut_short, "runaway-script", out_.files().path(where.file), where.span,
                  "a value was given up: it grows too large");
  return false;
}

TracedText Evaluation::expand_text(std::string_view text, std::uint32_t offset, WritingStyle style,
                                   bool unescape) {
  constexpr int kDeepest = 50;  // names of variables in names of variables
  if (nesting_ > kDeepest) {
    give_up("a name was given up: it nests too deeply");
    return TracedText::hole();
  }
  FileIndex file = scripts_.back()->file;
  TracedText out;
  std::size_t at = 0;
  auto literal = [&](std::size_t begin, std::size_t end) {
    if (begin < end) {
      out.append(TracedText::literal(
          std::string(text.substr(begin, end - begin)), file,
          {offset + static_cast<std::uint32_t>(begin), offset + static_cast<std::uint32_t>(end)}, style));
    }
  };
  std::size_t from = 0;
  while (at < text.size()) {
    char c = text[at];
    if (c == '\\' && unescape && at + 1 < text.size()) {
      literal(from, at);
      out.append(TracedText::plain(without_escapes(text[at + 1], style)));
      at += 2;
      from = at;
      continue;
    }
    bool is_env = text.substr(at, 5) == "$ENV{" || text.substr(at, 7) == "$CACHE{";
    if (c == '$' && (text.substr(at, 2) == "${" || is_env)) {
      std::size_t open = text.find('{', at), end = closing_brace(text, open);
      if (end >= text.size()) break;  // not closed: kept as text
      literal(from, at);
      TracedText value;
      if (is_env) {
        value = TracedText::hole();
      } else {
        std::string_view inner = text.substr(open + 1, end - open - 1);
        std::string name = inner.find('$') == std::string_view::npos
                               ? std::string(inner)
                               : inner_text(inner, offset + static_cast<std::uint32_t>(open) + 1, style);
        expanded_.insert(name);
        value = variable(name);
      }
      Passage passage{
          file, {offset + static_cast<std::uint32_t>(at), offset + static_cast<std::uint32_t>(end) + 1}};
      out.append(value.through(passage));
      at = end + 1;
      from = at;
      continue;
    }
    if (c == '"' && style == kUnquoted) {
      // A quoted part inside an unquoted argument: the quotes stay in the value, as CMake keeps them.
      literal(from, at + 1);
      from = ++at;
      continue;
    }
    ++at;
  }
  literal(from, text.size());
  return is_bounded(out, text.size(), {file, {offset, offset}}) ? out : TracedText::hole();
}

Words Evaluation::words_of(const Command& command) {
  Words out;
  for (const Argument& argument : command.arguments) {
    TracedText text = expand(argument);
    if (argument.kind != Argument::Kind::unquoted) {
      out.push_back(std::move(text));
      continue;
    }
    if (text.text().find(';') == std::string::npos) {
      if (!text.empty()) out.push_back(std::move(text));
      continue;
    }
    // A list inside a generator expression stays in it.
    std::string all = text.text();
    // Each item is cut out of all pieces.
    auto items = static_cast<std::size_t>(std::count(all.begin(), all.end(), ';'));
    if (!out_.spend(items * (1 + text.pieces().size() / 8))) {
      give_up("a list was given up: it grows too large");
      continue;
    }
    int depth = 0;
    std::size_t from = 0;
    const Cutter cutter(text);
    for (std::size_t i = 0; i <= all.size(); ++i) {
      if (all.compare(i, 2, "$<") == 0) ++depth;
      if (i < all.size() && all[i] == '>' && depth > 0) --depth;
      if (i < all.size() && (all[i] != ';' || depth > 0)) continue;
      TracedText part = cutter.part(from, i - from);
      if (!part.empty()) out.push_back(std::move(part));
      from = i + 1;
    }
  }
  return out;
}

namespace {

std::size_t expression_end(const std::string& text, std::size_t at) {
  int depth = 0;
  for (std::size_t i = at; i < text.size(); ++i) {
    if (text.compare(i, 2, "$<") == 0) ++depth;
    if (text[i] == '>' && --depth == 0) return i + 1;
  }
  return text.size();
}

// First of `wanted` outside of nested expressions.
std::size_t find_level(const std::string& text, char wanted, std::size_t from, std::size_t to) {
  for (std::size_t i = from; i < to;) {
    if (text.compare(i, 2, "$<") == 0) {
      i = expression_end(text, i);
      continue;
    }
    if (text[i] == wanted) return i;
    ++i;
  }
  return std::string::npos;
}

void open_expressions(const TracedText& word, Words& out, int depth) {
  std::string text = word.text();
  std::size_t begin = text.find("$<");
  if (begin == std::string::npos || depth > 12) {
    for (TracedText& part : word.split(';')) {
      if (!part.empty()) out.push_back(std::move(part));
    }
    return;
  }
  std::size_t end = expression_end(text, begin);
  std::size_t inner_end = end > begin + 2 && text[end - 1] == '>' ? end - 1 : end;
  std::size_t colon = find_level(text, ':', begin + 2, inner_end);
  TracedText head = word.substr(0, begin), tail = word.substr(end);
  auto with = [&](const TracedText& middle) {
    TracedText whole = head;
    whole.append(middle);
    whole.append(tail);
    open_expressions(whole, out, depth + 1);
  };
  std::string name = text.substr(begin + 2, (colon == std::string::npos ? inner_end : colon) - begin - 2);
  if (name == "INSTALL_INTERFACE") return;
  // What a target is made into is no file of the tree, wherever it is put.
  if (begin == 0 && words::cmake::product_expressions().contains(name)) {
    with(TracedText::plain("/outside"));
    return;
  }
  if (colon == std::string::npos || name.substr(0, 6) == "TARGET" || name == "CONFIG" ||
      name == "CXX_COMPILER_ID" || name == "PLATFORM_ID" || name == "COMPILE_LANGUAGE" || name == "BOOL" ||
      name == "NOT" || name == "AND" || name == "OR" || name == "STREQUAL") {
    with(TracedText::hole());
    return;
  }
  if (name == "IF") {
    std::size_t first = find_level(text, ',', colon + 1, inner_end);
    std::size_t second = first == std::string::npos ? first : find_level(text, ',', first + 1, inner_end);
    if (second != std::string::npos) {
      with(word.substr(first + 1, second - first - 1));
      with(word.substr(second + 1, inner_end - second - 1));
      return;
    }
  }
  // "$<condition:content>": the content counts, whatever the condition. It may be a list.
  TracedText content = word.substr(colon + 1, inner_end - colon - 1);
  Words parts;
  std::string inner = content.text();
  std::size_t from = 0;
  while (from <= inner.size()) {
    std::size_t cut = std::min(find_level(inner, ';', from, inner.size()), inner.size());
    parts.push_back(content.substr(from, cut - from));
    from = cut + 1;
  }
  for (const TracedText& part : parts) with(part);
}

}  // namespace

Words Evaluation::values(const TracedText& word) const {
  Words out;
  open_expressions(word, out, 0);
  return out;
}

}  // namespace yc::cmake
