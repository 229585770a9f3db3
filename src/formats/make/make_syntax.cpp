#include "formats/make/make_syntax.h"

#include <algorithm>

namespace yc::make {

std::size_t reference_end(std::string_view text, std::size_t at) {
  if (at + 1 >= text.size()) return text.size();
  char open = text[at + 1];
  if (open != '(' && open != '{') return at + 2;
  char close = open == '(' ? ')' : '}';
  int depth = 0;
  for (std::size_t i = at + 1; i < text.size(); ++i) {
    if (text[i] == open) ++depth;
    if (text[i] == close && --depth == 0) return i + 1;
  }
  return text.size();
}

std::size_t find_outside(std::string_view text, std::string_view wanted, std::size_t from) {
  for (std::size_t i = from; i < text.size();) {
    if (text[i] == '$') {
      i = reference_end(text, i);
      continue;
    }
    if (wanted.find(text[i]) != std::string_view::npos) return i;
    ++i;
  }
  return std::string::npos;
}

namespace {

constexpr std::string_view kBlanks = " \t";

// A line after joining continued ones, with its trace.
struct Line {
  TracedText text;
  std::uint32_t offset = 0;
  bool tab = false;
};

// Takes lines out of bytes; a backslash at a line's end joins the next one by a single space.
class FileLines {
 public:
  FileLines(std::string_view bytes, FileIndex file) : bytes_(bytes), file_(file) {
    if (bytes_.substr(0, 3) == "\xEF\xBB\xBF") at_ = 3;
  }

  bool next(Line& line, bool raw) {
    if (at_ >= bytes_.size()) return false;
    line = Line();
    line.offset = static_cast<std::uint32_t>(at_);
    line.tab = bytes_[at_] == '\t';
    bool recipe = line.tab && !raw;
    while (at_ < bytes_.size()) {
      std::size_t end = std::min(bytes_.find('\n', at_), bytes_.size());
      std::size_t stop = end;
      if (stop > at_ && bytes_[stop - 1] == '\r') --stop;
      bool continued = ends_in_odd_backslashes(at_, stop) && end < bytes_.size();
      std::size_t text_end = continued ? stop - 1 : stop;
      add(line.text, at_, text_end);
      at_ = std::min(end + 1, bytes_.size());
      if (end == bytes_.size()) at_ = bytes_.size();
      if (!continued) break;
      line.text.append(TracedText::plain(" "));
      while (!recipe && at_ < bytes_.size() && kBlanks.find(bytes_[at_]) != std::string_view::npos) ++at_;
      if (recipe && at_ < bytes_.size() && bytes_[at_] == '\t') ++at_;
    }
    return true;
  }

 private:
  bool ends_in_odd_backslashes(std::size_t begin, std::size_t end) const {
    std::size_t count = 0;
    while (end > begin && bytes_[end - 1] == '\\') --end, ++count;
    return count % 2 == 1;
  }
  void add(TracedText& text, std::size_t begin, std::size_t end) const {
    if (begin >= end) return;
    text.append(
        TracedText::literal(std::string(bytes_.substr(begin, end - begin)), file_, span_of(begin, end)));
  }

  std::string_view bytes_;
  FileIndex file_;
  std::size_t at_ = 0;
};

// Cuts a comment off; "\#" is a '#' that begins none.
TracedText without_comment(const TracedText& line) {
  std::string text = line.text();
  for (std::size_t i = 0; i < text.size();) {
    if (text[i] == '$') {
      i = reference_end(text, i);
    } else if (text[i] == '\\' && i + 1 < text.size()) {
      i += 2;
    } else if (text[i] == '#') {
      return line.substr(0, i);
    } else {
      ++i;
    }
  }
  return line;
}

std::string first_word(std::string_view text) {
  std::size_t begin = std::min(text.find_first_not_of(kBlanks), text.size());
  std::size_t end = std::min(text.find_first_of(" \t(\"'", begin), text.size());
  return std::string(text.substr(begin, end - begin));
}

TracedText after_word(const TracedText& line, std::string_view word) {
  std::string text = line.text();
  return line.substr(text.find(word) + word.size()).trimmed(kBlanks);
}

bool is_include(std::string_view word) {
  return word == "include" || word == "-include" || word == "sinclude";
}
bool is_condition(std::string_view word) {
  return word == "ifeq" || word == "ifneq" || word == "ifdef" || word == "ifndef";
}

// Whether an indented line behind a rule is no command: where the rule stands on a side of a conditional and
// the line on another, make never sees them together. No shell knows "NAME = value" or "ifdef NAME".
bool no_shell_reads(std::string_view line) {
  std::string word = first_word(line);
  if (is_condition(word) || word == "endif") return true;
  bool is_name = !word.empty() && std::all_of(word.begin(), word.end(), [](char c) {
    return std::isalnum(static_cast<unsigned char>(c)) || c == '_';
  });
  if (!is_name) return false;
  std::string_view rest = line.substr(line.find(word) + word.size());
  std::string op = first_word(rest);
  bool is_apart = !rest.empty() && kBlanks.find(rest.front()) != std::string_view::npos;
  return is_apart && (op == "=" || op == "+=" || op == ":=" || op == "?=");
}

}  // namespace

bool split_assignment(const TracedText& traced, Statement& out) {
  std::string text = traced.text();
  std::size_t at = find_outside(text, "=:");
  while (at != std::string::npos && text[at] == ':') {
    std::size_t colons = at;
    while (colons < text.size() && text[colons] == ':') ++colons;
    if (colons < text.size() && text[colons] == '=') {
      at = colons;
      break;
    }
    return false;
  }
  if (at == std::string::npos) return false;
  std::size_t begin = at;
  while (begin > 0 && text[begin - 1] == ':') --begin;
  if (begin == at && begin > 0 &&
      (text[begin - 1] == '?' || text[begin - 1] == '+' || text[begin - 1] == '!'))
    --begin;
  out.op = begin < at && text[begin] == ':' ? ":=" : text.substr(begin, at + 1 - begin);
  TracedText name = traced.substr(0, begin).trimmed(kBlanks);
  while (true) {
    std::string word = first_word(name.text());
    if (word.size() == name.text().size()) break;
    if (word == "override") {
      out.is_override = true;
    } else if (word == "export") {
      out.is_export = true;
    } else if (word != "private" && word != "define") {
      return false;
    }
    name = after_word(name, word);
  }
  if (name.empty()) return false;
  out.kind = Statement::Kind::assign;
  out.name = name;
  std::string rest = text.substr(at + 1);
  std::size_t value = std::min(rest.find_first_not_of(kBlanks), rest.size());
  out.value = traced.substr(at + 1 + value);
  return true;
}

namespace {

class Parser {
 public:
  template <typename Next>
  Syntax run(Next next) {
    std::vector<Frame> frames;
    frames.push_back({});
    Line line;
    while (next(line, false)) {
      bool is_indented_statement = line.tab && in_rule_ && no_shell_reads(line.text.text());
      if (line.tab && in_rule_ && !is_indented_statement) {
        Statement recipe;
        recipe.kind = Statement::Kind::recipe;
        recipe.site = {file_, line.offset};
        recipe.value = line.text.substr(1);
        frames.back().block().push_back(std::move(recipe));
        continue;
      }
      TracedText text = without_comment(line.text).trimmed();
      if (text.empty()) continue;
      std::string word = first_word(text.text());
      if (word == "define" || ((word == "override" || word == "export") &&
                               first_word(after_word(text, word).text()) == "define")) {
        frames.back().block().push_back(read_define(text, line, next));
      } else if (is_condition(word) || (automake_ && word == "if")) {
        Frame frame;
        frame.statement.kind = Statement::Kind::conditional;
        frame.statement.site = {file_, line.offset};
        frame.statement.branches.push_back({after_word(text, word), {}});
        frame.is_conditional = true;
        frames.push_back(std::move(frame));
      } else if (word == "else") {
        open_else(frames, after_word(text, word), line);
      } else if (word == "endif") {
        close(frames, line);
      } else {
        frames.back().block().push_back(statement(text, word, line));
      }
      in_rule_ = in_rule_ || is_indented_statement;
    }
    while (frames.size() > 1) {
      problems_.emplace_back(frames.back().statement.site.offset, "this conditional has no endif");
      Statement open = std::move(frames.back().statement);
      frames.pop_back();
      frames.back().block().push_back(std::move(open));
    }
    return {std::move(frames.front().top), std::move(problems_)};
  }

  explicit Parser(FileIndex file, bool automake) : file_(file), automake_(automake) {}

 private:
  struct Frame {
    Statement statement;
    Block top;
    bool is_conditional = false;
    Block& block() { return is_conditional ? statement.branches.back().block : top; }
  };

  void open_else(std::vector<Frame>& frames, const TracedText& rest, const Line& line) {
    if (frames.size() == 1) {
      problems_.emplace_back(line.offset, "else without a conditional");
      return;
    }
    std::string word = first_word(rest.text());
    bool has_condition = is_condition(word);
    frames.back().statement.branches.push_back({has_condition ? after_word(rest, word) : TracedText(), {}});
    frames.back().statement.has_else = !has_condition;
  }

  void close(std::vector<Frame>& frames, const Line& line) {
    if (frames.size() == 1) {
      problems_.emplace_back(line.offset, "endif without a conditional");
      return;
    }
    Statement done = std::move(frames.back().statement);
    frames.pop_back();
    frames.back().block().push_back(std::move(done));
  }

  template <typename Next>
  Statement read_define(TracedText head, const Line& first, Next next) {
    Statement out;
    out.site = {file_, first.offset};
    out.kind = Statement::Kind::assign;
    for (std::string word = first_word(head.text());
         word == "override" || word == "export" || word == "define"; word = first_word(head.text())) {
      head = after_word(head, word);
      if (word == "define") break;
    }
    out.op = "=";
    out.name = head;
    Statement with_op;
    if (split_assignment(head, with_op)) {
      out.name = with_op.name;
      out.op = with_op.op;
    }
    int depth = 1;
    Line line;
    while (next(line, true)) {
      std::string word = first_word(line.text.text());
      if (word == "define") ++depth;
      if (word == "endef" && --depth == 0) break;
      if (!out.value.empty()) out.value.append(TracedText::plain("\n"));
      out.value.append(line.text);
    }
    if (depth > 0) problems_.emplace_back(first.offset, "this define has no endef");
    in_rule_ = false;
    return out;
  }

  Statement statement(const TracedText& text, const std::string& word, const Line& line) {
    Statement out;
    out.site = {file_, line.offset};
    if (split_assignment(text, out)) {
      in_rule_ = false;
      return out;
    }
    out.name = after_word(text, word);
    out.op = word;
    if (is_include(word)) {
      out.kind = Statement::Kind::include;
      in_rule_ = false;
      return out;
    }
    if (word == "vpath" || word == "export" || word == "unexport" || word == "undefine") {
      out.kind = word == "vpath"    ? Statement::Kind::vpath
                 : word == "export" ? Statement::Kind::exported
                                    : Statement::Kind::bare;
      in_rule_ = false;
      return out;
    }
    return rule_or_bare(text, std::move(out));
  }

  Statement rule_or_bare(const TracedText& text, Statement out) {
    std::string all = text.text();
    std::size_t colon = find_outside(all, ":");
    if (colon == std::string::npos) {
      out.kind = Statement::Kind::bare;
      out.value = text;
      in_rule_ = false;
      return out;
    }
    out.kind = Statement::Kind::rule;
    bool grouped = colon > 0 && all[colon - 1] == '&';
    bool twice = colon + 1 < all.size() && all[colon + 1] == ':';
    out.op = grouped ? "&:" : twice ? "::" : ":";
    out.name = text.substr(0, grouped ? colon - 1 : colon).trimmed(kBlanks);
    out.value = text.substr(colon + (twice ? 2 : 1)).trimmed(kBlanks);
    in_rule_ = true;
    return out;
  }

  FileIndex file_;
  bool automake_;
  bool in_rule_ = false;
  std::vector<std::pair<std::uint32_t, std::string>> problems_;
};

}  // namespace

Syntax parse(std::string_view bytes, FileIndex file, bool automake) {
  FileLines lines(bytes, file);
  return Parser(file, automake).run([&](Line& line, bool raw) { return lines.next(line, raw); });
}

Syntax parse_traced(const TracedText& text, Site site) {
  std::vector<TracedText> lines = text.split('\n');
  std::size_t at = 0;
  return Parser(site.file, false).run([&](Line& line, bool) {
    if (at >= lines.size()) return false;
    line = Line();
    line.text = lines[at++];
    line.offset = site.offset;
    line.tab = line.text.text().substr(0, 1) == "\t";
    return true;
  });
}

}  // namespace yc::make
