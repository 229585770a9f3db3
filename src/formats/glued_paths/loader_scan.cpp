#include "formats/glued_paths/loader_scan.h"

#include <algorithm>
#include <map>
#include <set>

#include "base/char_class.h"
#include "formats/glued_paths/word_chars.h"
#include "words/glued_paths.h"

namespace yc::glued_paths {

namespace {

constexpr std::size_t kFarthest = 4000;  // bytes from a head to what is looked at in its body

std::size_t back(std::string_view bytes, std::size_t at) {
  while (at > 0 && std::string_view(" \t\r\n").find(bytes[at - 1]) != kNone) --at;
  return at;
}

std::size_t ahead(std::string_view bytes, std::size_t at) {
  while (at < bytes.size() && std::string_view(" \t\r\n").find(bytes[at]) != kNone) ++at;
  return at;
}

char byte_at(std::string_view bytes, std::size_t at) {
  return at < bytes.size() ? bytes[at] : '\0';
}

std::string_view word_before(std::string_view bytes, std::size_t end) {
  std::size_t begin = end;
  while (begin > 0 && kWordChars.holds(bytes[begin - 1])) --begin;
  return bytes.substr(begin, end - begin);
}

std::string_view word_at(std::string_view bytes, std::size_t at) {
  std::size_t end = at;
  while (end < bytes.size() && kWordChars.holds(bytes[end])) ++end;
  return bytes.substr(at, end - at);
}

bool is_keyword(std::string_view word) {
  return words::glued_paths::keywords_before_brackets().contains(word);
}

// The opening bracket of the one that closes at `close`.
std::size_t opening_of(std::string_view bytes, std::size_t close) {
  std::size_t depth = 0;
  for (std::size_t at = close + 1; at > 0 && close - at + 1 < kFarthest; --at) {
    char c = bytes[at - 1];
    if (c == ')' || c == ']' || c == '}') ++depth;
    if ((c == '(' || c == '[' || c == '{') && --depth == 0) return at - 1;
  }
  return kNone;
}

std::size_t closing_of(std::string_view bytes, std::size_t open) {
  std::size_t depth = 0;
  for (std::size_t at = open; at < bytes.size(); ++at) {
    char c = bytes[at];
    if (c == '(' || c == '[' || c == '{') ++depth;
    if ((c == ')' || c == ']' || c == '}') && --depth == 0) return at;
  }
  return kNone;
}

// "name", "string name", "name: string", "const std::string& name = x", "this.name": whether that is
// `wanted`.
bool declares(std::string_view parameter, std::string_view wanted) {
  parameter = parameter.substr(0, parameter.find('='));
  std::string_view named = parameter.substr(0, parameter.find(':') == kNone || parameter.find("::") != kNone
                                                   ? parameter.size()
                                                   : parameter.find(':'));
  std::size_t end = back(named, named.size());
  if (word_before(named, end) == wanted) return true;
  return word_at(named, ahead(named, 0)) == wanted;  // Go: name string
}

// What is declared with the parameters that open at `open`: load(…) {, const load = (…) =>
std::optional<std::pair<std::string, std::size_t>> name_of_head(std::string_view bytes, std::size_t open) {
  std::size_t end = back(bytes, open);
  std::string_view word = word_before(bytes, end);
  if (!word.empty() && !is_keyword(word)) return std::pair(std::string(word), end - word.size());
  if (word == "async" || word == "function") end = back(bytes, end - word.size());
  if (word_before(bytes, end) == "async") end = back(bytes, end - 5);
  if (end == 0 || bytes[end - 1] != '=') return std::nullopt;
  end = back(bytes, end - 1);
  std::string_view given = word_before(bytes, end);
  if (given.empty() || is_keyword(given)) return std::nullopt;
  return std::pair(std::string(given), end - given.size());
}

// The head whose last byte stands before `end`, where a body begins behind it.
std::optional<Function> head_before(std::string_view bytes, std::size_t end, std::string_view parameter) {
  end = back(bytes, end);
  // name => …
  std::string_view single = word_before(bytes, end);
  if (single == parameter) {
    std::size_t begin = end - single.size();
    auto named = name_of_head(bytes, begin);
    bool is_assigned = back(bytes, begin) > 0 && bytes[back(bytes, begin) - 1] == '=';
    if (named && is_assigned) return Function{named->first, std::string(parameter), named->second, 0, false};
  }
  // A type may stand between the parameters and the body.
  std::size_t close = end;
  while (close > 0 && end - close < 80 &&
         (kWordChars.holds(bytes[close - 1]) ||
          std::string_view(" \t\r\n:<>&*.[]?|-,'").find(bytes[close - 1]) != kNone))
    --close;
  if (close == 0 || bytes[close - 1] != ')') return std::nullopt;
  std::size_t open = opening_of(bytes, close - 1);
  if (open == kNone) return std::nullopt;
  std::string_view parameters = bytes.substr(open + 1, close - open - 2);
  std::size_t first = 0, depth = 0;
  for (; first < parameters.size(); ++first) {
    char c = parameters[first];
    if (c == '(' || c == '<' || c == '[' || c == '{') ++depth;
    if ((c == ')' || c == '>' || c == ']' || c == '}') && depth > 0) --depth;
    if (c == ',' && depth == 0) break;
  }
  if (!declares(parameters.substr(0, first), parameter)) return std::nullopt;
  auto named = name_of_head(bytes, open);
  if (!named) return std::nullopt;
  return Function{named->first, std::string(parameter), named->second, 0, false};
}

// The constant before a sign, with its owners: where all of it begins, and the last part.
std::optional<Span> constant_before(std::string_view bytes, std::size_t end) {
  end = back(bytes, end);
  std::string_view name = word_before(bytes, end);
  if (name.empty() || (name[0] >= '0' && name[0] <= '9')) return std::nullopt;
  return span_of(end - name.size(), end);
}

class LoaderScan {
 public:
  LoaderScan(std::string_view bytes, const std::vector<Span>& strings, Language language, GlueFacts& out)
      : bytes_(bytes), strings_(strings), language_(language), out_(out) {}

  void run() {
    for (const PathConstant& constant : out_.constants) own_.insert(constant.name);
    for (std::size_t at = bytes_.find('+'); at != kNone; at = bytes_.find('+', at + 1)) plus(at);
    for (std::string_view call : words::glued_paths::joining_calls()) joining(call);
    if (language_ == Language::script) templates();
    settle();
    for (const Span& string : strings_) call(string);
    look_for_other_uses();
  }

 private:
  // ASSETS + name
  void plus(std::size_t at) {
    if (byte_at(bytes_, at + 1) == '+' || byte_at(bytes_, at + 1) == '=' || (at > 0 && bytes_[at - 1] == '+'))
      return;
    std::size_t from = ahead(bytes_, at + 1);
    auto constant = constant_before(bytes_, at);
    if (constant) take(*constant, from, false);
  }

  // join(ASSETS, name)
  void joining(std::string_view callee) {
    for (std::size_t at : places_of_word(bytes_, callee)) {
      std::size_t open = at + callee.size();
      if (byte_at(bytes_, open) != '(') continue;
      std::size_t comma = bytes_.find_first_of(",)(", open + 1);
      if (comma == kNone || bytes_[comma] != ',') continue;
      auto constant = constant_before(bytes_, comma);
      if (constant) take(*constant, ahead(bytes_, comma + 1), true);
    }
  }

  // `${ASSETS}${name}`, `${ASSETS}/${name}`
  void templates() {
    for (std::size_t at = bytes_.find("`${"); at != kNone; at = bytes_.find("`${", at + 3)) {
      std::size_t close = bytes_.find('}', at);
      if (close == kNone) return;
      std::size_t next = close + 1;
      bool separated = byte_at(bytes_, next) == '/';
      if (separated) ++next;
      auto constant = constant_before(bytes_, close);
      if (constant && bytes_.substr(next, 2) == "${") take(*constant, next + 2, separated);
    }
  }

  void take(Span constant, std::size_t from, bool separated) {
    std::string_view parameter = word_at(bytes_, from);
    std::size_t behind = ahead(bytes_, from + parameter.size());
    char next = byte_at(bytes_, behind);
    bool is_whole = next == ')' || next == ',' || next == ';' || next == '}' || next == '\0';
    if (parameter.empty() || is_keyword(parameter) || !is_whole) return;
    std::string_view name = bytes_.substr(constant.begin, constant.size());
    // Of a sum of numbers neither is a constant that the file has; what others export has a name that tells.
    constexpr std::size_t kShortest = 3;
    if (!own_.contains(name) && name.size() < kShortest) return;
    std::vector<GluePart> folder = {{true, std::string(name), constant, false}};
    if (auto around = function_with(bytes_, from, parameter)) {
      out_.loaders.push_back({around->name, std::move(folder), separated, around->head});
    } else {
      leave_open(folder);
    }
  }

  // What a constant of the file goes on with is not known here.
  void leave_open(const std::vector<GluePart>& folder) {
    if (own_.contains(folder.front().name)) out_.texts.push_back({folder, true, ""});
  }

  // A function that is defined twice, or used otherwise than by calls with texts, tells nothing.
  void settle() {
    std::set<std::string> seen, twice;
    for (const Loader& loader : out_.loaders) {
      if (!seen.insert(loader.function).second) twice.insert(loader.function);
    }
    std::erase_if(out_.loaders, [&](const Loader& loader) {
      if (twice.contains(loader.function)) leave_open(loader.folder);
      return twice.contains(loader.function);
    });
  }

  // A function that is called with more than texts opens what only the program knows.
  void look_for_other_uses() {
    if (out_.loaders.empty()) return;
    std::map<std::string_view, std::ptrdiff_t> uses;  // calls, but for those with texts
    for (const Loader& loader : out_.loaders) uses.emplace(loader.function, -1);  // its own head
    for (const LoaderCall& call : out_.calls) {
      if (auto at = uses.find(call.function); at != uses.end()) --at->second;
    }
    for (std::size_t at = 0; at < bytes_.size();) {
      std::string_view word = word_at(bytes_, at);
      auto known = word.empty() ? uses.end() : uses.find(word);
      at += std::max<std::size_t>(word.size(), 1);
      if (known != uses.end() && byte_at(bytes_, ahead(bytes_, at)) == '(') ++known->second;
    }
    for (const Loader& loader : out_.loaders) {
      // "load = (name) =>" and "load = name =>" are no calls of it.
      bool has_brackets = byte_at(bytes_, ahead(bytes_, loader.head + loader.function.size())) == '(';
      if (uses.at(loader.function) + (has_brackets ? 0 : 1) > 0) leave_open(loader.folder);
    }
  }

  void call(const Span& string) {
    if (string.begin == 0 || string.size() == 0 || string.size() > 200) return;
    std::string_view text = bytes_.substr(string.begin, string.size());
    if (text.find_first_of("./") == kNone || text.find_first_of(" \t\n\r\\{}%*?<>|$:;,=\"'") != kNone) return;
    char next = byte_at(bytes_, ahead(bytes_, string.end + 1));
    if (next != ')' && next != ',') return;
    std::string callee = callee_of(bytes_, string.begin - 1);
    bool takes_module = words::glued_paths::calls_of_modules().contains(callee);
    if (!callee.empty() && !takes_module) out_.calls.push_back({std::move(callee), string});
  }

  std::string_view bytes_;
  const std::vector<Span>& strings_;
  Language language_;
  GlueFacts& out_;
  std::set<std::string, std::less<>> own_;  // names of the file's constants
};

}  // namespace

std::vector<std::size_t> places_of_word(std::string_view bytes, std::string_view word) {
  std::vector<std::size_t> out;
  for (std::size_t at = bytes.find(word); at != kNone; at = bytes.find(word, at + 1)) {
    bool begins = at == 0 || !kWordChars.holds(bytes[at - 1]);
    bool ends = !kWordChars.holds(byte_at(bytes, at + word.size()));
    if (begins && ends) out.push_back(at);
  }
  return out;
}

bool may_define(std::string_view bytes, std::string_view function) {
  for (std::size_t at : places_of_word(bytes, function)) {
    std::string_view prior = word_before(bytes, back(bytes, at));
    std::size_t open = ahead(bytes, at + function.size());
    // import load from "./load.js", const load = require("./load.js")
    bool is_brought = prior == "import" ||
                      (byte_at(bytes, open) == '=' && word_at(bytes, ahead(bytes, open + 1)) == "require");
    if (is_brought) continue;
    if (!prior.empty() && (prior == "function" || !is_keyword(prior))) return true;
    std::size_t close =
        byte_at(bytes, open) == '(' ? closing_of(bytes.substr(0, open + kFarthest), open) : kNone;
    if (close != kNone && byte_at(bytes, ahead(bytes, close + 1)) == '{') return true;
  }
  return false;
}

std::optional<Function> function_with(std::string_view bytes, std::size_t at, std::string_view parameter) {
  // Outwards: over each brace that opens around the place, and over "=>" of the statement at hand.
  std::size_t depth = 0;
  for (std::size_t i = at; i > 0 && at - i < kFarthest; --i) {
    char c = bytes[i - 1];
    if (c == '}' || c == ')' || c == ']') ++depth;
    if (c == '(' || c == '[') depth = depth > 0 ? depth - 1 : 0;
    bool is_arrow = c == '>' && i > 1 && bytes[i - 2] == '=' && depth == 0;
    bool opens = c == '{' && depth == 0;
    if (c == '{' && depth > 0) --depth;
    if (!is_arrow && !opens) continue;
    auto found = head_before(bytes, is_arrow ? i - 2 : i - 1, parameter);
    if (!found && opens && i > 2) {  // (name) => {
      std::size_t end = back(bytes, i - 1);
      if (end > 1 && bytes.substr(end - 2, 2) == "=>") found = head_before(bytes, end - 2, parameter);
    }
    if (!found) continue;
    found->body = i;
    found->is_block = opens;
    return found;
  }
  return std::nullopt;
}

Span body_of(std::string_view bytes, const Function& function, std::size_t at) {
  std::size_t end = function.is_block ? closing_of(bytes, function.body - 1) : bytes.find_first_of(";\n", at);
  return span_of(function.body, end == kNone ? bytes.size() : end);
}

std::string callee_of(std::string_view bytes, std::size_t open) {
  while (open > 0 && (bytes[open - 1] == '@' || bytes[open - 1] == '$')) --open;
  std::size_t end = back(bytes, open);
  if (end == 0 || bytes[end - 1] != '(') return "";
  std::string_view word = word_before(bytes, back(bytes, end - 1));
  return is_keyword(word) ? "" : std::string(word);
}

void scan_loaders(std::string_view bytes, const std::vector<Span>& strings, Language language,
                  GlueFacts& out) {
  LoaderScan(bytes, strings, language, out).run();
}

}  // namespace yc::glued_paths
