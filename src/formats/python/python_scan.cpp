#include "formats/python/python_scan.h"

#include <algorithm>
#include <array>
#include <map>
#include <optional>

#include "base/char_class.h"

namespace yc::python {

namespace {

using Kind = Token::Kind;

constexpr CharClass kNameChars = CharClass::alphanumeric_and("_").and_beyond_ascii();
constexpr std::array<std::string_view, 33> kKeywords = {
    "False", "None",   "True", "and",   "as",     "assert",   "break", "class", "continue",
    "def",   "del",    "elif", "else",  "except", "finally",  "for",   "from",  "global",
    "if",    "import", "in",   "is",    "lambda", "nonlocal", "not",   "or",    "pass",
    "raise", "return", "try",  "while", "with",   "yield"};

bool is_keyword(std::string_view word) {
  return std::binary_search(kKeywords.begin(), kKeywords.end(), word) || word == "async" || word == "await";
}

class Scanner {
 public:
  Scanner(std::string_view bytes, PythonFacts& out) : bytes_(bytes), out_(out), tokens_(out.tokens) {}

  void run() {
    out_.is_script = bytes_.starts_with("#!");
    while (at_ < tokens_.size()) logical_line();
    while (!blocks_.empty()) close_block(static_cast<std::uint32_t>(bytes_.size()));
    std::sort(out_.bound.begin(), out_.bound.end());
    out_.bound.erase(std::unique(out_.bound.begin(), out_.bound.end()), out_.bound.end());
  }

 private:
  // A suite that is indented below a line: its kind, and what its function binds.
  struct Block {
    std::size_t indent = 0;  // of the line that opens it
    bool function = false, type_only = false, is_class = false;
    std::uint32_t begin = 0;
    std::vector<std::pair<std::string, std::size_t>> names;  // with the token of the value, 0 if unknown
    std::vector<std::string> globals;
    Shorthand shorthand;      // of a function; its name is empty if it is none
    std::size_t returns = 0;  // statements that give a value back
    FunctionBody whole;       // of a function of the module itself
    std::vector<std::string> parameters;
  };

  std::string_view text(const Token& token) const {
    return bytes_.substr(token.span.begin, token.span.size());
  }
  bool is_op(std::size_t i, std::string_view op) const {
    return i < tokens_.size() && tokens_[i].kind == Kind::op && text(tokens_[i]) == op;
  }
  bool is_word(std::size_t i, std::string_view word) const {
    return i < tokens_.size() && tokens_[i].kind == Kind::name && text(tokens_[i]) == word;
  }

  std::size_t indent_of(std::uint32_t offset) const {
    std::size_t begin = bytes_.rfind('\n', offset == 0 ? 0 : offset - 1);
    begin = begin == std::string_view::npos ? 0 : begin + 1;
    if (begin > offset) begin = offset;
    std::size_t out = 0;
    for (std::size_t i = begin; i < offset; ++i) {
      if (bytes_[i] == '\t') {
        out = (out / 8 + 1) * 8;
      } else {
        ++out;
      }
    }
    return out;
  }

  // From the first token of a logical line to behind its end.
  void logical_line() {
    if (tokens_[at_].kind == Kind::newline) {
      ++at_;
      return;
    }
    std::size_t begin = at_, end = at_;
    while (end < tokens_.size() && tokens_[end].kind != Kind::newline) ++end;
    std::uint32_t start = tokens_[begin].span.begin;
    std::size_t indent = indent_of(start);
    while (!blocks_.empty() && indent <= blocks_.back().indent) close_block(start);
    Block block;
    block.indent = indent;
    block.begin = start;
    std::size_t head = begin;
    if (is_word(head, "async")) ++head;
    block.function = is_word(head, "def");
    block.is_class = is_word(head, "class");
    if (is_word(begin, "if")) {
      for (std::size_t i = begin; i < end; ++i) {
        if (is_word(i, "TYPE_CHECKING")) block.type_only = true;
        if (is_word(i, "__name__")) out_.is_script = out_.is_script || names_main(begin, end);
      }
    }
    if ((block.function || block.is_class) && head + 1 < end) bind(text(tokens_[head + 1]));
    if (block.function && blocks_.empty() && head == begin && head + 1 < end)
      block.shorthand.name = block.whole.name = text(tokens_[head + 1]);
    std::size_t body = body_of(begin, end);
    block.whole.begin = body;
    // One that is written on one line ends with it.
    bool opens = body == end && end > begin && is_op(end - 1, ":");
    bool one_line = body < end && body > begin;
    if (opens || one_line) blocks_.push_back(std::move(block));
    if (blocks_.size() > 0 && (opens || one_line) && blocks_.back().function) parameters(head, end);
    statement_parts(begin, end, body);
    if (one_line) close_block(tokens_[end - 1].span.end);
    at_ = end;
  }

  bool names_main(std::size_t begin, std::size_t end) const {
    return std::any_of(tokens_.begin() + static_cast<std::ptrdiff_t>(begin),
                       tokens_.begin() + static_cast<std::ptrdiff_t>(end), [&](const Token& token) {
                         return token.kind == Kind::string &&
                                text(token).find("__main__") != std::string_view::npos;
                       });
  }

  // Where the statements begin: behind the colon of a compound one, else at the first token.
  std::size_t body_of(std::size_t begin, std::size_t end) const {
    static constexpr std::array<std::string_view, 15> kCompound = {
        "if",   "elif", "else",  "for",   "while", "try",  "except", "finally",
        "with", "def",  "class", "async", "match", "case", "lambda"};
    bool compound =
        tokens_[begin].kind == Kind::name &&
        std::find(kCompound.begin(), kCompound.end() - 1, text(tokens_[begin])) != kCompound.end() - 1;
    if (!compound) return begin;
    std::size_t nest = 0, lambdas = 0;
    for (std::size_t i = begin; i < end; ++i) {
      if (tokens_[i].kind == Kind::field) ++nest;
      if (tokens_[i].kind == Kind::field_end && nest > 0) --nest;
      if (tokens_[i].kind == Kind::name && nest == 0 && text(tokens_[i]) == "lambda") ++lambdas;
      if (tokens_[i].kind != Kind::op) continue;
      char c = bytes_[tokens_[i].span.begin];
      if (c == '(' || c == '[' || c == '{') ++nest;
      if ((c == ')' || c == ']' || c == '}') && nest > 0) --nest;
      if (nest == 0 && text(tokens_[i]) == ":") {
        if (lambdas == 0) return i + 1;
        --lambdas;
      }
    }
    return begin;
  }

  void bind(std::string_view name, std::size_t value = 0) {
    if (name.empty() || is_keyword(name)) return;
    for (auto block = blocks_.rbegin(); block != blocks_.rend(); ++block) {
      if (block->is_class) return;
      if (block->function) {
        block->names.emplace_back(name, value);
        return;
      }
    }
    out_.bound.emplace_back(name);
    auto at = static_cast<std::uint32_t>(name.data() - bytes_.data());
    out_.bound_at.push_back({std::string(name), {at, at}, 0});
  }

  void close_block(std::uint32_t end) {
    Block block = std::move(blocks_.back());
    blocks_.pop_back();
    if (!block.function) return;
    out_.functions.push_back({block.begin, end});
    if (block.returns == 1 && !block.shorthand.name.empty())
      out_.shorthands.push_back(std::move(block.shorthand));
    std::map<std::string, std::size_t> times;
    for (const auto& item : block.names) ++times[item.first];
    keep_body(block, times, end);
    for (auto& [name, value] : block.names) {
      bool global = std::find(block.globals.begin(), block.globals.end(), name) != block.globals.end();
      std::size_t only = times[name] == 1 ? value : 0;
      if (!global) out_.locals.push_back({std::move(name), {block.begin, end}, only});
    }
  }

  void keep_body(Block& block, std::map<std::string, std::size_t>& times, std::uint32_t end) {
    FunctionBody& whole = block.whole;
    if (whole.name.empty()) return;
    for (std::string& parameter : block.parameters) {
      if (times[parameter] == 1) whole.parameters.push_back(parameter);
      if (times[parameter] != 1) whole.parameters.emplace_back();
    }
    whole.end = std::max(whole.begin, at_);
    while (whole.end < tokens_.size() && tokens_[whole.end].span.begin < end) ++whole.end;
    if (!whole.parameters.empty()) out_.bodies.push_back(std::move(whole));
  }

  void parameters(std::size_t head, std::size_t end) {
    std::size_t nest = 0;
    bool expects = false;
    for (std::size_t i = head + 2; i < end; ++i) {
      if (tokens_[i].kind == Kind::op) {
        std::string_view op = text(tokens_[i]);
        if (op == "(" || op == "[" || op == "{") {
          if (nest == 0) expects = true;
          ++nest;
          continue;
        }
        if (op == ")" || op == "]" || op == "}") {
          if (--nest == 0) return;
          continue;
        }
        if (nest == 1 && op == ",") expects = true;
        if (nest == 1 && op == "*") blocks_.back().shorthand.takes_rest = true;
        if (nest == 1 && op == "**") blocks_.back().shorthand.name.clear();
        if (op == "*" || op == "**") continue;
        if (op != ",") expects = false;
      } else if (tokens_[i].kind == Kind::name && expects && nest == 1) {
        bind(text(tokens_[i]));
        Shorthand& shorthand = blocks_.back().shorthand;
        // What follows the rest is given by name only.
        bool follows = shorthand.takes_rest && !is_op(i - 1, "*");
        if (follows) shorthand.name.clear();
        shorthand.parameters.emplace_back(text(tokens_[i]));
        if (!shorthand.takes_rest) blocks_.back().parameters.emplace_back(text(tokens_[i]));
        expects = false;
      }
    }
  }

  bool is_late() const {
    return std::any_of(blocks_.begin(), blocks_.end(),
                       [](const Block& block) { return block.function || block.type_only; });
  }

  void statement_parts(std::size_t begin, std::size_t end, std::size_t body) {
    std::size_t nest = 0;
    bool starts = true;
    for (std::size_t i = begin; i < end; ++i) {
      const Token& token = tokens_[i];
      if (i == body) starts = true;
      if (token.kind == Kind::op) {
        char c = bytes_[token.span.begin];
        if (c == '(' || c == '[' || c == '{') ++nest;
        if ((c == ')' || c == ']' || c == '}') && nest > 0) --nest;
        if (nest == 0 && c == ';') {
          starts = true;
          continue;
        }
        if (text(token) == ":=" && i > begin) bind(text(tokens_[i - 1]));
      } else if (token.kind == Kind::name) {
        std::string_view word = text(token);
        bool at_import = starts && (word == "import" || (word == "from" && i >= body));
        if (at_import) {
          i = import(i, end) - 1;
          starts = false;
          continue;
        }
        if (starts && word == "global") {
          for (std::size_t k = i + 1; k < end && !is_op(k, ";"); ++k) {
            if (tokens_[k].kind == Kind::name && !blocks_.empty()) globals(text(tokens_[k]));
          }
        }
        if (starts && i >= body) assignment(i, end);
        if (starts && word == "return" && !blocks_.empty() && i + 1 < end) {
          Block& block = blocks_.back();
          block.shorthand.value = i + 1;
          // One that is not the function's own statement depends on something.
          if (block.function) {
            ++block.returns;
          } else {
            for (Block& outer : blocks_) outer.shorthand.name.clear();
          }
        }
        if (word == "for" || word == "as") bind_targets(i + 1, end);
        bool member = i > begin && is_op(i - 1, ".");
        if (!member && !is_keyword(word) && is_op(i + 1, ".")) i = chain(i, end);
      }
      starts = false;
    }
  }

  void globals(std::string_view name) {
    for (auto block = blocks_.rbegin(); block != blocks_.rend(); ++block) {
      if (block->function) {
        block->globals.emplace_back(name);
        return;
      }
    }
  }

  // for a, (b, c) in …; as x
  void bind_targets(std::size_t i, std::size_t end) {
    for (; i < end; ++i) {
      if (tokens_[i].kind == Kind::name) {
        if (is_keyword(text(tokens_[i]))) return;
        if (!is_op(i + 1, ".") && !is_op(i + 1, "[") && !is_op(i + 1, "(")) bind(text(tokens_[i]));
      } else if (tokens_[i].kind != Kind::op || text(tokens_[i]) == ":" || text(tokens_[i]) == "=" ||
                 text(tokens_[i]) == "." || text(tokens_[i]) == "{") {
        return;
      }
    }
  }

  // a = …, a, b = …, a: T = …
  void assignment(std::size_t begin, std::size_t end) {
    std::size_t nest = 0;
    std::vector<std::size_t> names;
    for (std::size_t i = begin; i < end; ++i) {
      const Token& token = tokens_[i];
      if (token.kind == Kind::op) {
        std::string_view op = text(token);
        if (op == "(" || op == "[" || op == "{") ++nest;
        if ((op == ")" || op == "]" || op == "}") && nest > 0) --nest;
        if (nest == 0 && (op == "=" || op == ":")) {
          // Of "name = …" the value is known by where it stands.
          bool plain = op == "=" && names.size() == 1 && i == begin + 1;
          for (std::size_t k : names) bind(text(tokens_[k]), plain ? i + 1 : 0);
          return;
        }
        if (op == ";" || (nest == 0 && op != "," && op != "*" && op != ")" && op != "]")) return;
      } else if (token.kind == Kind::name && !is_keyword(text(token))) {
        bool plain = !is_op(i + 1, ".") && !is_op(i + 1, "[") && !is_op(i + 1, "(");
        if (plain && (i == begin || !is_op(i - 1, "."))) names.push_back(i);
      } else {
        return;
      }
    }
  }

  std::size_t chain(std::size_t i, std::size_t end) {
    Chain out;
    out.span = tokens_[i].span;
    while (i + 2 < end && is_op(i + 1, ".") && tokens_[i + 2].kind == Kind::name &&
           tokens_[i + 1].span.begin == tokens_[i].span.end &&
           tokens_[i + 2].span.begin == tokens_[i + 1].span.end) {
      i += 2;
      out.span.end = tokens_[i].span.end;
    }
    out.text = std::string(bytes_.substr(out.span.begin, out.span.size()));
    if (out.text.find('.') != std::string::npos) out_.chains.push_back(std::move(out));
    return i;
  }

  // Reads dots and names; sets the span and gives the text without blanks.
  std::string dotted(std::size_t& i, std::size_t end, Span& span) const {
    std::string out;
    span = i < end ? Span{tokens_[i].span.begin, tokens_[i].span.begin} : Span{};
    while (i < end) {
      bool dot = is_op(i, ".");
      bool name = tokens_[i].kind == Kind::name && (out.empty() || out.back() == '.') &&
                  (!is_keyword(text(tokens_[i])) || text(tokens_[i]) == "async");
      if (!dot && !name) break;
      out += text(tokens_[i]);
      span.end = tokens_[i].span.end;
      ++i;
    }
    return out;
  }

  // At `import` or `from`; gives the token behind the statement.
  std::size_t import(std::size_t i, std::size_t end) {
    Import out;
    std::size_t first = i;
    out.statement.begin = tokens_[i].span.begin;
    out.late = is_late();
    std::size_t line = bytes_.rfind('\n', out.statement.begin);
    line = line == std::string_view::npos ? 0 : line + 1;
    std::string_view before = bytes_.substr(line, out.statement.begin - line);
    if (before.starts_with("\xEF\xBB\xBF")) before.remove_prefix(3);
    out.own_line = before.find_first_not_of(" \t\f") == std::string_view::npos;
    out.from = text(tokens_[i]) == "from";
    ++i;
    if (out.from) {
      std::uint32_t begin = i < end ? tokens_[i].span.begin : 0, last = begin;
      while (is_op(i, ".") || is_op(i, "...")) {
        out.level += tokens_[i].span.size();
        last = tokens_[i].span.end;
        ++i;
      }
      Span module;
      out.module = dotted(i, end, module);
      out.source = {begin, out.module.empty() ? last : module.end};
      if (!is_word(i, "import")) return std::max(i, first + 1);
      ++i;
    }
    bool parens = is_op(i, "(");
    if (parens) ++i;
    while (i < end) {
      ImportName name;
      if (is_op(i, "*") && out.from) {
        name.name = "*";
        name.span = tokens_[i].span;
        ++i;
      } else {
        name.name = dotted(i, end, name.span);
      }
      if (name.name.empty()) break;
      name.whole = name.span;
      name.bound = name.name.substr(0, name.name.find('.'));
      if (is_word(i, "as") && i + 1 < end) {
        name.bound = std::string(text(tokens_[i + 1]));
        name.whole.end = tokens_[i + 1].span.end;
        i += 2;
      }
      out.names.push_back(std::move(name));
      if (!is_op(i, ",")) break;
      ++i;
    }
    if (parens && is_op(i, ")")) ++i;
    out.statement.end = tokens_[i - 1].span.end;
    if (!out.names.empty()) out_.imports.push_back(std::move(out));
    return i;
  }

  std::string_view bytes_;
  PythonFacts& out_;
  const std::vector<Token>& tokens_;
  std::size_t at_ = 0;
  std::vector<Block> blocks_;
};

}  // namespace

namespace {

void sort_by_name(std::vector<Binding>& bindings) {
  std::stable_sort(bindings.begin(), bindings.end(),
                   [](const Binding& a, const Binding& b) { return a.name < b.name; });
}

// Names that get a value at the top, and only once.
void find_constants(std::string_view bytes, PythonFacts& out) {
  const auto& tokens = out.tokens;
  for (std::size_t i = 0; i + 2 < tokens.size(); ++i) {
    bool starts = i == 0 || tokens[i - 1].kind == Kind::newline;
    if (!starts || tokens[i].kind != Kind::name) continue;
    bool top = tokens[i].span.begin == 0 || bytes[tokens[i].span.begin - 1] == '\n';
    bool assigned = tokens[i + 1].kind == Kind::op && bytes[tokens[i + 1].span.begin] == '=' &&
                    tokens[i + 1].span.size() == 1;
    if (top && assigned)
      out.constants.push_back(
          {std::string(bytes.substr(tokens[i].span.begin, tokens[i].span.size())), i + 2});
  }
  sort_by_name(out.constants);
  std::vector<Binding> once;
  for (std::size_t i = 0; i < out.constants.size();) {
    std::size_t end = i + 1;
    while (end < out.constants.size() && out.constants[end].name == out.constants[i].name) ++end;
    if (end == i + 1) once.push_back(std::move(out.constants[i]));
    i = end;
  }
  out.constants = std::move(once);
}

void find_brought(PythonFacts& out) {
  for (std::size_t i = 0; i < out.imports.size(); ++i) {
    for (const ImportName& name : out.imports[i].names) out.brought.push_back({name.bound, i});
  }
  sort_by_name(out.brought);
  for (std::size_t i = 0; i < out.locals.size(); ++i) out.local_names.push_back({out.locals[i].name, i});
  sort_by_name(out.local_names);
}

}  // namespace

const Binding* find_binding(const std::vector<Binding>& bindings, const std::string& name) {
  auto at = std::lower_bound(bindings.begin(), bindings.end(), name,
                             [](const Binding& one, const std::string& wanted) { return one.name < wanted; });
  return at != bindings.end() && at->name == name ? &*at : nullptr;
}

bool is_name(std::string_view text) {
  bool plain =
      !text.empty() && std::all_of(text.begin(), text.end(), [](char c) { return kNameChars.holds(c); });
  return plain && (text[0] < '0' || text[0] > '9') && !is_keyword(text);
}

bool is_dotted_name(std::string_view text) {
  while (true) {
    std::size_t dot = text.find('.');
    if (!is_name(text.substr(0, dot))) return false;
    if (dot == std::string_view::npos) return true;
    text.remove_prefix(dot + 1);
  }
}

PythonFacts scan_python(std::string_view bytes) {
  PythonFacts out;
  out.tokens = tokenize(bytes);
  Scanner(bytes, out).run();
  find_constants(bytes, out);
  find_brought(out);
  return out;
}

}  // namespace yc::python
