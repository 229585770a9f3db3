#include "formats/glued_paths/glue_scan.h"

#include <algorithm>
#include <optional>
#include <set>

#include "base/char_class.h"
#include "formats/glued_paths/loader_scan.h"
#include "formats/glued_paths/word_chars.h"
#include "words/glued_paths.h"

namespace yc::glued_paths {

namespace {

bool is_digit(char c) {
  return c >= '0' && c <= '9';
}

// Calls that join the parts of a path.
bool joins(std::string_view callee) {
  return words::glued_paths::joining_calls().contains(callee);
}

class Scanner {
 public:
  Scanner(std::string_view bytes, const std::vector<Span>& strings, const std::vector<std::uint32_t>& open,
          Language language)
      : bytes_(bytes), strings_(strings), open_(open), language_(language) {}

  GlueFacts run() {
    for (std::size_t i = 0; i < strings_.size();) i = take(i);
    if (language_ == Language::script) templates();
    // Only what a separator follows is a folder: "xz" "dec" is a word.
    std::set<std::string> folders, others;
    for (const Glue& text : out_.texts) {
      if (!text.parts.front().is_name || text.parts.size() < 2) continue;
      bool is_folder = text.parts[1].separated || at(text.parts[1].span.begin) == '/';
      (is_folder ? folders : others).insert(text.parts.front().name);
    }
    for (PathConstant& constant : out_.constants) {
      bool ends = !constant.value.back().is_name && before(constant.value.back().span.end) == '/';
      constant.is_glued_to = folders.contains(constant.name) || (ends && others.contains(constant.name));
    }
    return std::move(out_);
  }

 private:
  struct Name {
    std::string_view name;
    Span span;              // of the last component
    std::size_t begin = 0;  // of the whole path of names
  };

  // The offset behind the last byte before `at` that is no blank.
  std::size_t back(std::size_t at) const {
    while (at > 0 && std::string_view(" \t\r\n").find(bytes_[at - 1]) != kNone) --at;
    return at;
  }
  std::size_t ahead(std::size_t at, std::string_view blanks = " \t\r\n") const {
    while (at < bytes_.size() && blanks.find(bytes_[at]) != kNone) ++at;
    return at;
  }
  char before(std::size_t at) const { return at > 0 && at <= bytes_.size() ? bytes_[at - 1] : '\0'; }
  char at(std::size_t i) const { return i < bytes_.size() ? bytes_[i] : '\0'; }

  // Where the literal begins whose text does at `begin`, with what marks its kind.
  std::size_t opening(std::size_t begin) const {
    std::size_t out = begin - 1;
    // Raw strings have a few quotes, and a few marks before them; what has more is none.
    constexpr std::size_t kMost = 16;
    std::size_t least = out > kMost ? out - kMost : 0;
    while (out > least && before(out) == '"' && before(out - 1) == '"') --out;
    while (out > least && (before(out) == '@' || (language_ == Language::csharp && before(out) == '$')))
      --out;
    return out;
  }

  std::string_view word_before(std::size_t end) const {
    std::size_t begin = end;
    while (begin > 0 && kWordChars.holds(bytes_[begin - 1])) --begin;
    return bytes_.substr(begin, end - begin);
  }

  // "assets", "this.assets", "Assets::kRoot", or one of them in a conversion: std::string(kRoot).
  std::optional<Name> name_before(std::size_t end) const {
    end = back(end);
    bool converted = before(end) == ')';
    if (converted) end = back(end - 1);
    std::string_view last = word_before(end);
    if (last.empty() || is_digit(last.front())) return std::nullopt;
    Name out{last, {}, end - last.size()};
    out.span = span_of(out.begin, end);
    auto over_owners = [&] {
      while (true) {
        std::size_t dot = out.begin;
        if (before(dot) == '.') {
          --dot;
        } else if (dot >= 2 && (bytes_.substr(dot - 2, 2) == "::" || bytes_.substr(dot - 2, 2) == "->")) {
          dot -= 2;
        } else {
          return;
        }
        std::string_view owner = word_before(dot);
        if (owner.empty()) return;
        out.begin = dot - owner.size();
      }
    };
    over_owners();
    if (converted) {
      std::size_t open = back(out.begin);
      if (before(open) != '(') return std::nullopt;
      std::string_view callee = word_before(open - 1);
      if (callee.empty()) return std::nullopt;
      out.begin = open - 1 - callee.size();
      over_owners();
    }
    while (before(out.begin) == '&' && before(out.begin - 1) != '&') --out.begin;
    return out;
  }

  // Whether an expression can begin at `at`: nothing is glued before it.
  bool begins_value(std::size_t at) const {
    at = back(at);
    if (at == 0) return true;
    if (std::string_view("(,=[{:?;&|!<>}").find(bytes_[at - 1]) != kNone) return true;
    std::string_view word = word_before(at);
    return word == "return" || word == "case" || word == "yield" || word == "await" || word == "throw" ||
           is_defined_here(at);
  }

  // #define NAME, of which the value begins at `at`
  bool is_defined_here(std::size_t at) const {
    if (language_ != Language::c) return false;
    std::string_view name = word_before(back(at));
    std::size_t directive = back(back(at) - name.size());
    return !name.empty() && word_before(directive) == "define";
  }

  // The constant that the string, of which the literal begins at `open`, is glued to.
  std::optional<Name> head(std::size_t open, bool& separated, std::size_t& begin) const {
    std::size_t end = back(open);
    char sign = before(end);
    separated = false;
    std::optional<Name> name;
    if (sign == '+' && before(end - 1) != '+' && language_ != Language::rust) {
      name = name_before(end - 1);
    } else if (language_ == Language::c && kWordChars.holds(sign)) {
      std::string_view word = word_before(end);
      bool prefix = end == open && (word == "L" || word == "u" || word == "U" || word == "u8" ||
                                    word == "R" || word == "LR" || word == "u8R");
      if (!prefix) name = name_before(end);
    } else if (sign == '/' && language_ == Language::c) {
      name = name_before(end - 1);
      separated = true;
    } else if (sign == ',' || sign == '(') {
      separated = true;
      // join(ASSETS, "x")  or  ASSETS.join("x"), Path::new(ASSETS).join("x")
      std::size_t paren = end - 1;
      if (sign == ',') {
        name = name_before(end - 1);
        paren = name ? back(name->begin) - 1 : 0;
      }
      if (paren == 0 || at(paren) != '(') return std::nullopt;
      std::size_t callee_end = back(paren);
      if (language_ == Language::rust && sign == '(' && before(callee_end) == '!') {
        // assets!("x")
        separated = false;
        name = name_before(callee_end - 1);
        if (!name || !begins_value(name->begin)) return std::nullopt;
        begin = name->begin;
        return name;
      }
      std::string_view callee = word_before(callee_end);
      if (!joins(callee)) return std::nullopt;
      if (sign == '(') {
        std::size_t dot = callee_end - callee.size();
        if (before(dot) != '.') return std::nullopt;
        name = name_before(dot - 1);
      } else if (name) {
        // The call, with its owners, is where the expression begins.
        Name call = *name_before(callee_end);
        begin = call.begin;
        if (word_before(back(begin)) == "new") begin = back(begin) - 3;
        return begins_value(begin) ? name : std::nullopt;
      }
    }
    if (!name || !begins_value(name->begin)) return std::nullopt;
    begin = name->begin;
    return name;
  }

  // The string that goes on with what ends at `end`, behind a closing quote; nothing if none does.
  std::optional<std::size_t> next_part(std::size_t i, std::size_t end, bool& separated) const {
    if (i >= strings_.size()) return std::nullopt;
    std::size_t open = opening(strings_[i].begin);
    if (open < end || open - end > 40) return std::nullopt;
    std::string code;
    for (char c : bytes_.substr(end, open - end)) {
      if (std::string_view(" \t\r\n").find(c) == kNone) code += c;
    }
    bool adjacent = code.empty() && language_ == Language::c;
    separated = code == "," || code == ").join(" || code == ").resolve(" || code == ").append(" ||
                (code == "/" && language_ == Language::c);
    return adjacent || separated || code == "+" ? std::optional(i) : std::nullopt;
  }

  static GluePart string_part(Span span, bool separated) { return {false, "", span, separated}; }

  // Whether a value ends behind `end`, the closing quote.
  bool is_whole(std::size_t end) const {
    std::size_t here = ahead(end, " \t\r");
    while (at(here) == ')' || at(here) == '}') here = ahead(here + 1, " \t\r");
    // A string that nothing closes ends behind the file.
    std::string_view rest = bytes_.substr(std::min(here, bytes_.size()), 2);
    if (rest.empty() || rest[0] == ';' || rest[0] == ',') return true;
    bool line_ends = rest[0] == '\n' || rest == "//" || rest == "/*";
    if (!line_ends) return false;
    char next = at(ahead(here));
    return rest[0] != '\n' || (next != '+' && next != '.' && next != '"');
  }

  // The name that a value which begins at `begin` is given: const NAME: string = …, #define NAME …
  std::string name_given(std::size_t begin) const {
    std::size_t end = back(begin);
    if (is_defined_here(begin)) return std::string(word_before(end));
    while (before(end) == '(' || before(end) == '{') {
      bool made = before(end) == '{' || language_ == Language::c;
      std::size_t open = back(end - 1);
      std::string_view word = word_before(open);
      if (is_defined_here(open)) return std::string(word);  // #define NAME ("x")
      // const std::string kRoot{"x"}, fs::path root("x")
      std::size_t type = back(open - word.size());
      std::string_view type_word = word_before(type);
      bool declares = language_ == Language::c && made && !word.empty() && type < open - word.size() &&
                      (!type_word.empty() || before(type) == '>') && type_word != "return" &&
                      type_word != "new" && type_word != "throw" && type_word != "else";
      if (declares) return std::string(word);
      if (word.empty()) return "";
      // NAME = std::string("x")
      std::size_t call = open - word.size();
      if (auto path = name_before(open)) call = path->begin;
      end = back(call);
    }
    if (before(end) != '=') return "";
    char prior = before(end - 1);
    if (std::string_view("=!<>+-*/%&|^~").find(prior) != kNone && prior != '\0') return "";
    end = back(prior == ':' ? end - 2 : end - 1);
    if (before(end) == ']') {
      std::size_t open = bytes_.rfind('[', end - 1);
      if (open == kNone) return "";
      end = back(open);
    }
    std::string_view name = word_before(end);
    // var root string = "x"
    if (language_ == Language::go && name == "string") {
      std::string_view named = word_before(back(end - name.size()));
      if (!named.empty()) name = named;
    }
    // A type may stand between: NAME: &'static str
    bool annotates =
        language_ == Language::script || language_ == Language::rust || language_ == Language::java;
    std::size_t type = end;
    while (annotates && end - type < 40 && type > 0 &&
           (kWordChars.holds(bytes_[type - 1]) ||
            std::string_view("'& .<>[]|?").find(bytes_[type - 1]) != kNone))
      --type;
    if (annotates && before(type) == ':' && before(type - 1) != ':') {
      std::string_view annotated = word_before(back(type - 1));
      if (!annotated.empty()) name = annotated;
    }
    return name.empty() || is_digit(name.front()) ? "" : std::string(name);
  }

  // macro_rules! NAME { ($path:literal) => { concat!("x", $path) }; }
  std::string macro_given(const Span& string) const {
    if (language_ != Language::rust || !bytes_.substr(0, string.begin - 1).ends_with("concat!(")) return "";
    std::size_t comma = ahead(string.end + 1);
    if (at(comma) != ',' || at(ahead(comma + 1)) != '$') return "";
    constexpr std::string_view kMark = "macro_rules!";
    std::size_t mark = bytes_.rfind(kMark, string.begin);
    if (mark == kNone || string.begin - mark > 200) return "";
    std::size_t from = ahead(mark + kMark.size()), to = from;
    while (kWordChars.holds(at(to))) ++to;
    return std::string(bytes_.substr(from, to - from));
  }

  // One string, or several that belong together; gives the next one.
  std::size_t take(std::size_t i) {
    const Span& string = strings_[i];
    if (string.begin == 0) return i + 1;
    std::size_t open = opening(string.begin), begin = open;
    std::vector<GluePart> parts;
    bool separated = false, is_open = false;
    std::size_t text_begin = string.begin;
    if (std::string given = macro_given(string); !given.empty())
      out_.constants.push_back({given, {string_part(string, false)}, false});
    bool goes_on = std::binary_search(open_.begin(), open_.end(), string.begin);
    bool is_format = language_ == Language::rust &&
                     bytes_.substr(string.begin, string.size()).find('{') != kNone;  // and no own macro's
    if (auto hole = hole_at(string)) {
      parts.push_back({true, std::string(hole->name), hole->span, false});
      text_begin = hole->begin;
    } else if (auto name = is_format ? std::nullopt : head(open, separated, begin)) {
      parts.push_back({true, std::string(name->name), name->span, false});
    }
    bool glued = !parts.empty();
    if (!glued) separated = false;
    if (!glued && (goes_on ? add_open(string) : open_head(string))) return i + 1;
    is_open = goes_on;
    // What a format leaves open further on.
    std::string tail;
    std::size_t text_end = string.end;
    if (glued) {
      bool verbs = language_ == Language::c || language_ == Language::go;
      std::size_t more = bytes_.substr(0, string.end).find_first_of(verbs ? "%\\" : "{$%\\", text_begin);
      if (more != kNone) text_end = more, is_open = true, tail = tail_of(string);
    }
    if (text_end > text_begin) parts.push_back(string_part(span_of(text_begin, text_end), separated));
    std::size_t next = i + 1, end = string.end + 1;
    // No path is glued of more: what follows is left open.
    constexpr std::size_t kMostParts = 40;
    while (!is_open) {
      if (parts.size() >= kMostParts) {
        is_open = true;
        break;
      }
      bool apart = false;
      auto more = next_part(next, end, apart);
      if (!more || (apart && !separated)) break;
      parts.push_back(string_part(strings_[*more], apart));
      end = strings_[*more].end + 1;
      next = *more + 1;
    }
    std::size_t behind = ahead(end);
    if (at(behind) == '+') is_open = true;
    if (separated && at(behind) == ',' && !is_open) is_open = true;
    if (!glued) {
      if (next > i + 1) return i + 1;  // texts only
    } else if (parts.size() > 1 || !tail.empty()) {
      out_.texts.push_back({parts, is_open, next == i + 1 ? tail : ""});
    }
    if (!is_open && !parts.empty() && is_whole(end)) {
      std::string given = name_given(begin);
      if (!given.empty() && (glued || parts.size() == 1)) out_.constants.push_back({given, parts, false});
    }
    return glued ? next : i + 1;
  }

  // $"assets/{name}", format!("assets/{}", name), "assets/$name": of what a text begins with, the folder is
  // known.
  bool open_head(const Span& string) {
    std::string_view text = bytes_.substr(string.begin, string.size());
    std::size_t hole = kNone;
    if (language_ == Language::csharp) {
      hole = text.find('{');
      bool numbered = hole != kNone && hole + 1 < text.size() && is_digit(text[hole + 1]);
      if (before(string.begin - 1) != '$' && !numbered) return false;
    }
    if (language_ == Language::c) hole = std::min(text.find('%'), text.find('{'));
    if (language_ == Language::rust && before(back(string.begin - 1)) == '(') hole = text.find('{');
    if (language_ == Language::go) hole = text.find('%');
    if (language_ == Language::java) hole = text.find_first_of("$\\%");
    if (hole == kNone || text.substr(0, hole).find('/') == kNone) return false;
    add_open({string.begin, string.begin + static_cast<std::uint32_t>(hole)}, tail_of(string));
    out_.texts.back().head_is_read = language_ == Language::c;
    return language_ != Language::c;
  }

  bool add_open(Span head, std::string tail = "") {
    out_.texts.push_back({{string_part(head, false)}, true, std::move(tail)});
    return true;
  }

  // What stands behind the last placeholder of a format: ".csv" of "tides/%s.csv". Nothing where the text
  // goes on behind the string.
  std::string tail_of(const Span& string) const {
    char next = at(ahead(string.end + 1));
    bool goes_on = next == '+' || (language_ == Language::c && (next == '"' || kWordChars.holds(next)));
    std::string_view text = bytes_.substr(string.begin, string.size());
    std::size_t verb = text.rfind('%'), brace = text.rfind('}');
    if (goes_on || (verb == kNone) == (brace == kNone)) return "";
    std::size_t end = brace;
    if (verb != kNone) end = text.find_first_not_of("-+ #0123456789.*lhzjtqL", verb + 1);
    std::string tail(text.substr(std::min(end == kNone ? end : end + 1, text.size())));
    return tail.find_first_of(" \t\\$") == std::string::npos ? tail : "";
  }

  // A string that begins with what stands for a constant: $"{Root}/x", format!("{ROOT}/x"), "$root/x".
  std::optional<Name> hole_at(const Span& string) const {
    std::string_view text = bytes_.substr(string.begin, string.size());
    std::size_t open = 0, close = 0;
    if (language_ == Language::csharp && before(string.begin - 1) == '$' && text.starts_with("{")) {
      open = 1, close = text.find('}');
    } else if (language_ == Language::rust && text.starts_with("{")) {
      std::size_t call = back(string.begin - 1);
      if (before(call) != '(' || before(call - 1) != '!') return std::nullopt;
      open = 1, close = text.find('}');
      if (close == 1) return first_argument(string);
    } else if (language_ == Language::java && text.starts_with("${")) {
      open = 2, close = text.find('}');
    } else if (language_ == Language::java && text.starts_with("\\(")) {
      open = 2, close = text.find(')');
    } else if (language_ == Language::java && text.starts_with("$")) {
      open = 1, close = 1;
      while (close < text.size() && kWordChars.holds(text[close])) ++close;
      return named(string.begin + open, string.begin + close, string.begin + close);
    }
    if (close == kNone || close <= open) return std::nullopt;
    return named(string.begin + open, string.begin + close, string.begin + close + 1);
  }

  // The name between two offsets; `begin` of it is where the text goes on.
  std::optional<Name> named(std::size_t from, std::size_t to, std::size_t behind) const {
    std::string_view path = bytes_.substr(from, to - from);
    std::string_view last = path.substr(path.find_last_of(".:") + 1);
    bool is_name = !last.empty() && !is_digit(last.front()) &&
                   std::all_of(path.begin(), path.end(),
                               [](char c) { return kWordChars.holds(c) || c == '.' || c == ':'; });
    if (!is_name) return std::nullopt;
    return Name{last, span_of(to - last.size(), to), behind};
  }

  // format!("{}/x", ROOT)
  std::optional<Name> first_argument(const Span& string) const {
    std::size_t comma = ahead(string.end + 1);
    if (at(comma) != ',') return std::nullopt;
    std::size_t from = ahead(comma + 1), to = from;
    while (kWordChars.holds(at(to)) || at(to) == ':' || at(to) == '.') ++to;
    char end = at(ahead(to));
    return end == ')' || end == ',' ? named(from, to, string.begin + 2) : std::nullopt;
  }

  // `${assets}/x.png`
  void templates() {
    for (std::size_t i = 0; (i = bytes_.find("`${", i)) != kNone; i += 3) {
      std::size_t close = bytes_.find('}', i);
      if (close == kNone) return;
      auto name = named(i + 3, close, close + 1);
      if (!name) continue;
      std::size_t end = bytes_.find_first_of("`$\\", close + 1);
      if (end == kNone) return;
      if (end == close + 1) continue;
      std::vector<GluePart> parts = {{true, std::string(name->name), name->span, false},
                                     string_part(span_of(close + 1, end), false)};
      bool is_open = bytes_[end] != '`' || at(ahead(end + 1)) == '+';
      out_.texts.push_back({parts, is_open, ""});
      std::string given = is_open ? "" : name_given(i);
      if (!given.empty() && is_whole(end + 1)) out_.constants.push_back({given, parts, false});
    }
  }

  std::string_view bytes_;
  const std::vector<Span>& strings_;
  const std::vector<std::uint32_t>& open_;
  Language language_;
  GlueFacts out_;
};

}  // namespace

GlueFacts scan_glue(std::string_view bytes, const std::vector<Span>& strings, Language language,
                    const std::vector<std::uint32_t>& open) {
  GlueFacts out = Scanner(bytes, strings, open, language).run();
  scan_loaders(bytes, strings, language, out);
  for (std::size_t i = 0; i < out.constants.size(); ++i) out.by_name[out.constants[i].name].push_back(i);
  return out;
}

}  // namespace yc::glued_paths
