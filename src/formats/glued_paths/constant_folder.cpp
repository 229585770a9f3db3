#include "formats/glued_paths/constant_folder.h"

#include <fmt/format.h>

#include <algorithm>
#include <optional>
#include <set>

#include "base/char_class.h"
#include "formats/glued_paths/word_chars.h"

namespace yc::glued_paths {

namespace {

bool has_word(std::string_view bytes, std::string_view word) {
  for (std::size_t at = bytes.find(word); at != kNone; at = bytes.find(word, at + 1)) {
    bool begins = at == 0 || !kWordChars.holds(bytes[at - 1]);
    bool ends = at + word.size() >= bytes.size() || !kWordChars.holds(bytes[at + word.size()]);
    if (begins && ends) return true;
  }
  return false;
}

// Where a new statement goes, and what stands around it.
struct Slot {
  std::uint32_t at = 0;
  std::string before, after;
};

struct Line {
  std::size_t begin = 0, end = 0;
  std::string_view text;  // without blanks at its ends
};

std::vector<Line> line_spans(std::string_view bytes) {
  std::vector<Line> out;
  for (std::size_t at = 0; at < bytes.size();) {
    std::size_t end = std::min(bytes.find('\n', at), bytes.size());
    std::string_view text = bytes.substr(at, end - at);
    std::size_t first = text.find_first_not_of(" \t\r"), last = text.find_last_not_of(" \t\r");
    out.push_back({at, end, first == kNone ? std::string_view() : text.substr(first, last - first + 1)});
    at = end + 1;
  }
  return out;
}

bool starts_with_any(std::string_view text, std::initializer_list<std::string_view> heads) {
  return std::any_of(heads.begin(), heads.end(),
                     [&](std::string_view head) { return text.starts_with(head); });
}

// Where a program's own statements begin, behind those that must come first.
class TopOfFile {
 public:
  TopOfFile(std::string_view bytes, Language language) : lines_(line_spans(bytes)), language_(language) {}

  std::optional<Slot> slot() const { return language_ == Language::c ? behind_includes() : behind_imports(); }

 private:
  // Behind the last include that no condition holds.
  std::optional<Slot> behind_includes() const {
    std::optional<Slot> out;
    std::size_t depth = 0;
    for (const Line& line : lines_) {
      if (!line.text.starts_with("#")) continue;
      std::string_view directive =
          line.text.substr(std::min(line.text.find_first_not_of("# \t"), line.text.size()));
      if (directive.starts_with("if")) ++depth;
      if (directive.starts_with("endif") && depth > 0) --depth;
      if (depth == 0 && starts_with_any(directive, {"include", "import"}))
        out = Slot{static_cast<std::uint32_t>(line.end), "\n\n", ""};
    }
    return out ? out : behind_imports();
  }

  std::optional<Slot> behind_imports() const {
    std::optional<Slot> out;
    bool in_comment = false;
    for (std::size_t i = 0; i < lines_.size(); ++i) {
      std::string_view text = lines_[i].text;
      if (in_comment) {
        in_comment = text.find("*/") == kNone;
        continue;
      }
      if (text.empty() || starts_with_any(text, {"//", "#!", "'use ", "\"use "})) continue;
      if (text.starts_with("/*")) {
        in_comment = text.find("*/", 2) == kNone;
        continue;
      }
      if (!is_import(text)) {
        if (!out) out = Slot{static_cast<std::uint32_t>(lines_[i].begin), "", "\n\n"};
        return out;
      }
      // Over the rest of one that takes several lines.
      std::string_view end = text.find('(') != kNone && language_ == Language::go ? ")" : ends_by(text);
      while (!end.empty() && lines_[i].text.find_first_of(end) == kNone && i + 1 < lines_.size()) ++i;
      out = Slot{static_cast<std::uint32_t>(lines_[i].end), "\n\n", ""};
    }
    return out;
  }

  bool is_import(std::string_view text) const {
    switch (language_) {
      case Language::script:
        return starts_with_any(text, {"import ", "import{", "import\"", "import'"}) ||
               (starts_with_any(text, {"const ", "let ", "var "}) && text.find("require(") != kNone);
      case Language::rust:
        return starts_with_any(text, {"use ", "pub use ", "extern crate ", "mod ", "pub mod "});
      default:
        return starts_with_any(text, {"import ", "package ", "@file", "library ", "export ", "part "});
    }
  }

  // What the last line of an import holds.
  std::string_view ends_by(std::string_view text) const {
    if (language_ == Language::rust) return ";}";
    if (language_ != Language::script) return "";
    return text.starts_with("import") ? "'\"" : ")";
  }

  std::vector<Line> lines_;
  Language language_;
};

// Behind the brace that opens the first type which holds all of [first, last).
std::optional<Slot> slot_in_type(std::string_view bytes, std::size_t first, std::size_t last) {
  for (std::string_view keyword : {"class ", "struct ", "record "}) {
    for (std::size_t at = bytes.find(keyword); at != kNone && at < first; at = bytes.find(keyword, at + 1)) {
      if (at > 0 && kWordChars.holds(bytes[at - 1])) continue;
      std::size_t line = bytes.rfind('\n', at);
      std::string_view head = bytes.substr(line == kNone ? 0 : line + 1, at - (line == kNone ? 0 : line + 1));
      if (head.find_first_of("/*\"") != kNone) continue;  // of a comment or a text
      std::size_t open = bytes.find_first_of("{;", at);
      if (open == kNone || open >= first || bytes[open] == ';') continue;
      int depth = 0;
      std::size_t end = open;
      for (; end < bytes.size(); ++end) {
        if (bytes[end] == '{') ++depth;
        if (bytes[end] == '}' && --depth == 0) break;
      }
      if (end < last) continue;
      std::size_t next = bytes.find_first_not_of(" \t\r\n", open + 1);
      std::size_t indent = next == kNone ? open + 1 : bytes.rfind('\n', next) + 1;
      std::string blanks(next != kNone && indent > open ? bytes.substr(indent, next - indent) : "    ");
      return Slot{static_cast<std::uint32_t>(open + 1), "\n" + blanks, ""};
    }
  }
  return std::nullopt;
}

std::string statement(std::string_view ending, Language language, const std::string& name,
                      const std::string& prefix, char quote, bool semicolons) {
  switch (language) {
    case Language::c:
      return fmt::format("#define {} \"{}\"", name, prefix);
    case Language::csharp:
      return fmt::format("private const string {} = \"{}\";", name, prefix);
    case Language::go:
      return fmt::format("const {} = \"{}\"", name, prefix);
    case Language::rust:
      return fmt::format(
          "macro_rules! {} {{\n    ($path:literal) => {{\n        concat!(\"{}\", $path)\n    }};\n}}", name,
          prefix);
    case Language::script:
      return fmt::format("const {} = {}{}{}{}", name, quote, prefix, quote, semicolons ? ";" : "");
    case Language::java:
      break;
  }
  if (ending == ".kt") return fmt::format("private const val {} = \"{}\"", name, prefix);
  if (ending == ".swift") return fmt::format("private let {} = \"{}\"", name, prefix);
  if (ending == ".dart") return fmt::format("const {} = {}{}{};", name, quote, prefix, quote);
  return fmt::format("private static final String {} = \"{}\";", name, prefix);
}

// Whether an expression may stand in the place of the literal that fills `literal`.
bool may_be_glued(std::string_view bytes, const Span& literal, Language language) {
  std::size_t last = literal.begin == 0 ? kNone : bytes.find_last_not_of(" \t\r\n", literal.begin - 1);
  char before = last == kNone ? '\0' : bytes[last];
  std::size_t next = bytes.find_first_not_of(" \t\r\n", literal.end);
  char behind = next == kNone ? '\0' : bytes[next];
  if (language == Language::c) {
    std::size_t line = bytes.rfind('\n', literal.begin);
    std::string_view head =
        bytes.substr(line == kNone ? 0 : line + 1, literal.begin - (line == kNone ? 0 : line + 1));
    std::size_t sharp = head.find_first_not_of(" \t");
    bool directive = sharp != kNone && head[sharp] == '#' && head.find("define") == kNone;
    bool prefixed = last + 1 == literal.begin && kWordChars.holds(before);
    return !directive && !prefixed && before != '"' && head.find("asm") == kNone;
  }
  if (language == Language::rust) return bytes.substr(next == kNone ? bytes.size() : next, 2) != "=>";
  if (std::string_view(".[(?`").find(behind) != kNone && behind != '\0') return false;
  if (before == '*' || before == '-' || before == '%') return false;
  if (language != Language::script) return true;
  bool is_key = behind == ':' && (before == '{' || before == ',');
  bool is_attribute =
      before == '=' && last + 1 == literal.begin && last > 0 && kWordChars.holds(bytes[last - 1]);
  bool is_tagged = bytes[literal.begin] == '`' && last + 1 == literal.begin && kWordChars.holds(before);
  return !is_key && !is_attribute && !is_tagged && before != '`';
}

// Whether statements end with semicolons, as most that could do.
bool ends_statements(std::string_view bytes) {
  std::size_t semicolons = 0, lines = 0;
  for (const Line& line : line_spans(bytes)) {
    semicolons += line.text.ends_with(";");
    lines += line.text.ends_with(")") || line.text.ends_with("'") || line.text.ends_with("\"");
  }
  return semicolons >= lines;
}

}  // namespace

std::vector<Edit> through_constant(const TreeReader& tree, const ReferenceGraph& graph,
                                   const std::vector<const Reference*>& references, const std::string& name,
                                   const RelPath& folder, Language language) {
  RelPath file = graph.files.path(standing_of(*references.front()).file);
  std::string_view ending = file.extension();
  bool is_header = ending == ".h" || ending == ".hh" || ending == ".hpp";
  auto read = tree.read(file);
  if (!read || is_header || ending == ".scala" || has_word(**read, name)) return {};
  std::string_view bytes = **read;
  struct Use {
    Span literal, cut;
  };
  std::vector<Use> uses;
  std::set<std::uint32_t> done;
  std::string prefix;
  for (const Reference* reference : references) {
    const auto& pieces = reference->text.pieces();
    bool plain = reference->certainty == Certainty::likely && !pieces.empty() && pieces[0].has_origin() &&
                 pieces[0].verbatim && pieces[0].via.empty() && graph.files.path(pieces[0].file) == file;
    if (!plain || pieces[0].span.begin == 0) continue;
    const Span& span = pieces[0].span;
    std::string text = relative_text(reference->base.folder, folder) + "/";
    if (bytes.compare(span.begin, text.size(), text) != 0 || (!prefix.empty() && prefix != text)) continue;
    std::uint32_t open = span.begin - 1;
    char quote = bytes[open];
    if (quote != '"' && quote != '\'' && quote != '`') continue;
    if (language == Language::csharp) {
      if (open > 0 && bytes[open - 1] == '$') continue;
      if (open > 0 && bytes[open - 1] == '@') --open;
    }
    std::size_t close = bytes.find(quote, span.begin);
    if (close == kNone) continue;
    Span literal{open, static_cast<std::uint32_t>(close + 1)};
    if (!may_be_glued(bytes, literal, language) || !done.insert(open).second) continue;
    prefix = text;
    uses.push_back({literal, {span.begin, span.begin + static_cast<std::uint32_t>(text.size())}});
  }
  if (uses.empty()) return {};
  auto by_place = [](const Use& a, const Use& b) { return a.literal.begin < b.literal.begin; };
  std::sort(uses.begin(), uses.end(), by_place);
  char first = bytes[uses.front().literal.begin];
  auto constant = constant_at(file, bytes, language, name, prefix, first == '`' ? '\'' : first,
                              {uses.front().literal.begin, uses.back().literal.end});
  if (!constant) return {};
  std::erase_if(uses, [&](const Use& use) { return use.literal.begin < constant->span.begin; });
  if (uses.empty()) return {};
  std::vector<Edit> out;
  for (const Use& use : uses) {
    std::string glue = language == Language::c ? " " : language == Language::rust ? "!(" : " + ";
    out.push_back({file, {use.literal.begin, use.literal.begin}, name + glue});
    out.push_back({file, use.cut, ""});
    if (language == Language::rust) out.push_back({file, {use.literal.end, use.literal.end}, ")"});
  }
  out.push_back(std::move(*constant));
  return out;
}

std::optional<Edit> constant_at(const RelPath& file, std::string_view bytes, Language language,
                                const std::string& name, const std::string& prefix, char quote, Span seen) {
  std::string_view ending = file.extension();
  bool in_type = language == Language::csharp || (language == Language::java && ending == ".java");
  std::optional<Slot> slot =
      in_type ? slot_in_type(bytes, seen.begin, seen.end) : TopOfFile(bytes, language).slot();
  if (!slot) return std::nullopt;
  std::string made = statement(ending, language, name, prefix, quote, ends_statements(bytes));
  return Edit{file, {slot->at, slot->at}, slot->before + made + slot->after};
}

}  // namespace yc::glued_paths
