#include "formats/cmake/cmake_syntax.h"

#include <algorithm>
#include <cctype>

namespace yc::cmake {

namespace {

bool is_name(char c) {
  return std::isalnum(static_cast<unsigned char>(c)) || c == '_';
}

class Parser {
 public:
  explicit Parser(std::string_view bytes) : bytes_(bytes) {
    if (bytes_.substr(0, 3) == "\xEF\xBB\xBF") at_ = 3;
  }

  Syntax run() {
    while (true) {
      skip_space();
      if (at_ >= bytes_.size()) break;
      if (!is_name(bytes_[at_])) {
        problem(at_, "a command was expected here");
        at_ = std::min(bytes_.find('\n', at_), bytes_.size());
        continue;
      }
      command();
    }
    return std::move(out_);
  }

 private:
  void problem(std::size_t at, const char* message) {
    out_.problems.emplace_back(static_cast<std::uint32_t>(at), message);
  }
  static Span span(std::size_t begin, std::size_t end) { return span_of(begin, end); }

  // At "[==[": the number of '=', else -1.
  int bracket_level(std::size_t at) const {
    if (at >= bytes_.size() || bytes_[at] != '[') return -1;
    std::size_t i = at + 1;
    while (i < bytes_.size() && bytes_[i] == '=') ++i;
    return i < bytes_.size() && bytes_[i] == '[' ? static_cast<int>(i - at - 1) : -1;
  }

  std::size_t bracket_end(std::size_t at, int level) const {
    std::string close = "]" + std::string(static_cast<std::size_t>(level), '=') + "]";
    std::size_t end = bytes_.find(close, at + static_cast<std::size_t>(level) + 2);
    return end == std::string_view::npos ? bytes_.size() : end + close.size();
  }

  void skip_space() {
    while (at_ < bytes_.size()) {
      char c = bytes_[at_];
      if (c == ' ' || c == '\t' || c == '\n' || c == '\r' || c == ';') {
        ++at_;
      } else if (c == '#') {
        int level = bracket_level(at_ + 1);
        at_ = level >= 0 ? bracket_end(at_ + 1, level) : std::min(bytes_.find('\n', at_), bytes_.size());
      } else {
        return;
      }
    }
  }

  void command() {
    Command out;
    std::size_t begin = at_;
    while (at_ < bytes_.size() && is_name(bytes_[at_]))
      out.name += static_cast<char>(std::tolower(static_cast<unsigned char>(bytes_[at_++])));
    while (at_ < bytes_.size() && (bytes_[at_] == ' ' || bytes_[at_] == '\t')) ++at_;
    if (at_ >= bytes_.size() || bytes_[at_] != '(') {
      problem(begin, "a command needs its arguments in parentheses");
      at_ = std::min(bytes_.find('\n', at_), bytes_.size());
      return;
    }
    ++at_;
    int depth = 1;
    while (true) {
      skip_space();
      if (at_ >= bytes_.size()) {
        problem(begin, "the parenthesis of this command is not closed");
        return;
      }
      char c = bytes_[at_];
      if (c == ')' && --depth == 0) {
        ++at_;
        break;
      }
      if (c == '(') ++depth;
      if (c == '(' || c == ')') {
        out.arguments.push_back({Argument::Kind::unquoted, span(at_, at_ + 1), span(at_, at_ + 1)});
        ++at_;
      } else {
        argument(out);
      }
    }
    out.span = span(begin, at_);
    out_.commands.push_back(std::move(out));
  }

  void argument(Command& out) {
    std::size_t begin = at_;
    int level = bracket_level(at_);
    if (level >= 0) {
      at_ = bracket_end(at_, level);
      std::size_t mark = static_cast<std::size_t>(level) + 2;
      std::size_t inner = begin + mark;
      std::size_t end = at_ >= inner + mark ? at_ - mark : inner;
      out.arguments.push_back({Argument::Kind::bracket, span(begin, at_),
                               span(std::min(inner, at_), std::max(std::min(inner, at_), end))});
      return;
    }
    if (bytes_[at_] == '"') {
      ++at_;
      while (at_ < bytes_.size() && bytes_[at_] != '"') at_ += bytes_[at_] == '\\' ? 2 : 1;
      at_ = std::min(at_, bytes_.size());
      if (at_ == bytes_.size()) {
        problem(begin, "this quote is not closed");
        out.arguments.push_back({Argument::Kind::quoted, span(begin, at_), span(begin + 1, at_)});
        return;
      }
      out.arguments.push_back({Argument::Kind::quoted, span(begin, at_ + 1), span(begin + 1, at_)});
      ++at_;
      return;
    }
    // Legacy unquoted arguments may hold quoted parts and $(MAKE)-style references.
    while (at_ < bytes_.size()) {
      char c = bytes_[at_];
      if (c == ' ' || c == '\t' || c == '\n' || c == '\r' || c == '(' || c == ')' || c == '#' || c == ';')
        break;
      if (c == '\\') {
        at_ = std::min(at_ + 2, bytes_.size());
      } else if (c == '"') {
        std::size_t end = at_ + 1;
        while (end < bytes_.size() && bytes_[end] != '"') end += bytes_[end] == '\\' ? 2 : 1;
        at_ = std::min(end + 1, bytes_.size());
      } else {
        ++at_;
      }
    }
    if (at_ == begin) ++at_;  // a stray character; go on behind it
    out.arguments.push_back({Argument::Kind::unquoted, span(begin, at_), span(begin, at_)});
  }

  std::string_view bytes_;
  std::size_t at_ = 0;
  Syntax out_;
};

}  // namespace

Syntax parse(std::string_view bytes) {
  return Parser(bytes).run();
}

}  // namespace yc::cmake
