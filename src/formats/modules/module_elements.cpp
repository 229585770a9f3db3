// Elements within modules (JSX).
#include "formats/modules/module_scanner.h"

namespace yc::modules {

// Whether the '<' here, where an expression may begin, begins an element rather than a list of type
// parameters.
bool Scanner::begins_element() const {
  std::size_t at = at_ + 1;
  if (at >= bytes_.size()) return false;
  if (bytes_[at] == '>') return bytes_.find("</", at) != std::string_view::npos;
  if (!kNameChars.holds(bytes_[at]) || is_digit(bytes_[at])) return false;
  std::size_t end = at;
  while (end < bytes_.size() && kTagChars.holds(bytes_[end])) ++end;
  if (dialect_ == Dialect::script) return true;
  std::string_view name = bytes_.substr(at, end - at);
  std::size_t next = bytes_.find_first_not_of(" \t\r\n", end);
  if (next == std::string_view::npos || bytes_[next] == ',' || bytes_[next] == '=') return false;
  if (name == "const" && kNameChars.holds(bytes_[next])) return false;
  bool constrained = bytes_.substr(next, 7) == "extends" && next + 7 < bytes_.size() &&
                     !kNameChars.holds(bytes_[next + 7]) && bytes_[next + 7] != '=' &&
                     bytes_[next + 7] != '>' && bytes_[next + 7] != '/';
  if (constrained) return false;
  if (bytes_[next] == '>') {
    // <T>(x: T) => …: an element of this name would be closed somewhere.
    std::size_t after = bytes_.find_first_not_of(" \t\r\n", next + 1);
    if (after == std::string_view::npos || bytes_[after] != '(') return true;
    return bytes_.find("</" + std::string(name), next) != std::string_view::npos;
  }
  return true;
}

// An element from behind its '<': name, attributes, and then its children or its end.
void Scanner::element() {
  skip_blank();
  while (at_ < bytes_.size() && (kTagChars.holds(bytes_[at_]) || kNameChars.holds(bytes_[at_]))) ++at_;
  if (peek() == '<') skip_type_arguments();
  attributes();
}

void Scanner::skip_blank() {
  while (at_ < bytes_.size()) {
    char c = bytes_[at_];
    if (c == ' ' || c == '\t' || c == '\r' || c == '\n') {
      ++at_;
    } else if (c == '/' && peek(1) == '/') {
      skip_line();
    } else if (c == '/' && peek(1) == '*') {
      std::size_t end = bytes_.find("*/", at_ + 2);
      at_ = end == std::string_view::npos ? bytes_.size() : end + 2;
    } else {
      return;
    }
  }
}

void Scanner::skip_type_arguments() {
  std::size_t depth = 0;
  while (at_ < bytes_.size()) {
    char c = bytes_[at_];
    if (c == '"' || c == '\'') {
      std::size_t begin = at_ + 1;
      at_ = begin;
      while (at_ < bytes_.size() && bytes_[at_] != c && bytes_[at_] != '\n')
        at_ += bytes_[at_] == '\\' ? 2 : 1;
      if (on_string_ && at_ < bytes_.size()) tell(begin, at_);
    } else if (c == '<') {
      ++depth;
    } else if (c == '>' && bytes_[at_ - 1] != '=' && --depth == 0) {
      ++at_;
      return;
    }
    ++at_;
  }
}

void Scanner::tell(std::size_t begin, std::size_t end) const {
  (*on_string_)(span_of(begin, end));
}

// Attributes up to the end of the tag. A '{' leaves for the tokens of an expression; its '}' comes back
// here.
void Scanner::attributes() {
  while (at_ < bytes_.size()) {
    skip_blank();
    char c = peek();
    if (c == '{') {
      open(Nest::Kind::attribute_hole);
      ++at_;
      punctuation('{');
      return;
    }
    if (c == '"' || c == '\'') {
      std::size_t begin = at_ + 1;
      std::size_t end = bytes_.find(c, begin);
      if (end == std::string_view::npos) end = bytes_.size();
      take_attribute(begin, end);
      at_ = end + 1;
    } else if (c == '/' && peek(1) == '>') {
      at_ += 2;
      end_element();
      return;
    } else if (c == '>') {
      ++at_;
      open(Nest::Kind::children);
      return;
    } else if (c == '<') {
      // An element as an attribute's value.
      ++at_;
      value_depth_.push_back(stack_.size());
      element();
      return;
    } else {
      ++at_;
    }
    if (at_ > bytes_.size()) at_ = bytes_.size();
  }
}

// After an element: the children around it go on, or the attributes of the one whose value it was, or the
// expression.
void Scanner::end_element() {
  if (!value_depth_.empty() && value_depth_.back() == stack_.size()) {
    value_depth_.pop_back();
    attributes();
    return;
  }
  if (stack_.back().kind == Nest::Kind::children) return;
  shift();
  last_ = '>';
  before_[3] = Word{"/>", at32() - 1};
  last_ = '"';
  operand_ = true;
  line_break_ = false;
}

void Scanner::child_text() {
  while (at_ < bytes_.size() && bytes_[at_] != '{' && bytes_[at_] != '<') ++at_;
  if (at_ >= bytes_.size()) return;
  if (bytes_[at_] == '{') {
    open(Nest::Kind::child_hole);
    ++at_;
    punctuation('{');
    return;
  }
  std::size_t next = at_ + 1;
  ++at_;
  skip_blank();
  if (peek() == '/') {
    std::size_t end = bytes_.find('>', next);
    at_ = end == std::string_view::npos ? bytes_.size() : end + 1;
    stack_.pop_back();
    end_element();
    return;
  }
  element();
}

}  // namespace yc::modules
