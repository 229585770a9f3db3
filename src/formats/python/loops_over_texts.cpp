#include "formats/python/loops_over_texts.h"

#include <map>
#include <optional>
#include <set>

namespace yc::python {

namespace {

constexpr std::size_t kMostTexts = 100;
constexpr std::size_t kLongestLoop = 1'000;  // tokens
constexpr std::size_t kMostAgain = 50'000;   // tokens that are gone through again

class LoopFinder {
 public:
  LoopFinder(std::string_view bytes, const std::vector<Token>& tokens) : bytes_(bytes), tokens_(tokens) {}

  std::vector<TextLoop> run() {
    for (std::size_t i = 0; i < tokens_.size(); ++i) {
      if (begins_line(i)) note_list(i);
      if (is(i, "for") && is_name(i + 1) && is(i + 2, "in")) loop(i);
    }
    return std::move(out_);
  }

 private:
  using Kind = Token::Kind;
  using Texts = std::vector<std::size_t>;

  std::string_view text(std::size_t i) const {
    return i < tokens_.size() ? bytes_.substr(tokens_[i].span.begin, tokens_[i].span.size())
                              : std::string_view();
  }
  bool is(std::size_t i, std::string_view word) const { return text(i) == word; }
  bool is_name(std::size_t i) const { return i < tokens_.size() && tokens_[i].kind == Kind::name; }
  bool is_end(std::size_t i) const { return i >= tokens_.size() || tokens_[i].kind == Kind::newline; }
  bool begins_line(std::size_t i) const { return i == 0 || tokens_[i - 1].kind == Kind::newline; }
  static bool opens(std::string_view op) { return op == "(" || op == "[" || op == "{"; }
  static bool closes(std::string_view op) { return op == ")" || op == "]" || op == "}"; }

  std::size_t column(std::size_t i) const {
    std::size_t at = tokens_[i].span.begin;
    return at == 0 ? 0 : at - (bytes_.rfind('\n', at - 1) + 1);  // npos + 1 is the begin of the text
  }

  // ["a", "b"], ("a", "b"), {"a", "b"}, from the token at `at`, which goes behind it.
  std::optional<Texts> list(std::size_t& at) const {
    Texts out;
    if (!opens(text(at))) return std::nullopt;
    for (++at; at < tokens_.size() && tokens_[at].kind == Kind::string && out.size() < kMostTexts;) {
      if (shape_of(bytes_, tokens_[at]).formatted) return std::nullopt;
      out.push_back(at++);
      if (is(at, ",")) ++at;
    }
    if (out.empty() || !closes(text(at))) return std::nullopt;
    ++at;
    return out;
  }

  // NAMES = ["a", "b"], once in the text.
  void note_list(std::size_t i) {
    if (!is_name(i) || !is(i + 1, "=")) return;
    std::string name(text(i));
    std::size_t at = i + 2;
    auto texts = list(at);
    bool is_first = named_.insert(name).second;
    if (texts && is_first && is_end(at))
      lists_[name] = std::move(*texts);
    else
      lists_.erase(name);
  }

  void loop(std::size_t i) {
    std::size_t at = i + 3;
    auto texts = list(at);
    if (!texts && is_name(at)) {
      auto known = lists_.find(std::string(text(at)));
      if (known == lists_.end()) return;
      texts = known->second;
      ++at;
    }
    if (!texts) return;
    TextLoop out{std::string(text(i + 1)), std::move(*texts), 0, 0};
    bool is_statement = begins_line(i) && is(at, ":");
    if (is_statement) {
      out.begin = at + 1;
      out.end = end_of_block(i, at + 1);
    } else if (!begins_line(i)) {
      out.begin = begin_of_display(i);
      out.end = i;
    }
    again_ += (out.end - out.begin) * out.texts.size();
    if (out.begin < out.end && out.end - out.begin <= kLongestLoop && again_ <= kMostAgain)
      out_.push_back(std::move(out));
  }

  // Behind the lines that stand further in than the loop.
  std::size_t end_of_block(std::size_t loop, std::size_t at) const {
    if (!is_end(at)) {
      while (!is_end(at)) ++at;
      return at;
    }
    for (; at < tokens_.size(); ++at) {
      if (begins_line(at) && tokens_[at].kind != Kind::newline && column(at) <= column(loop)) break;
    }
    return at;
  }

  // Behind the bracket that a display begins with.
  std::size_t begin_of_display(std::size_t at) const {
    std::size_t nest = 0;
    for (std::size_t i = at; i-- > 0 && at - i < kLongestLoop;) {
      if (closes(text(i))) ++nest;
      if (opens(text(i)) && nest-- == 0) return i + 1;
    }
    return at;
  }

  std::string_view bytes_;
  const std::vector<Token>& tokens_;
  std::map<std::string, Texts> lists_;
  std::set<std::string> named_;
  std::size_t again_ = 0;
  std::vector<TextLoop> out_;
};

}  // namespace

std::vector<TextLoop> loops_over_texts(std::string_view bytes, const std::vector<Token>& tokens) {
  return LoopFinder(bytes, tokens).run();
}

}  // namespace yc::python
