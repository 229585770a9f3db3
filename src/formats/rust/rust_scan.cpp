#include "formats/rust/rust_scan.h"

#include <algorithm>

#include "base/text.h"
#include "formats/rust/rust_cursor.h"
#include "formats/rust/rust_documentation.h"
#include "formats/rust/rust_imports.h"
#include "formats/rust/rust_tokens.h"
#include "words/rust.h"

namespace yc::rust {

namespace {

enum class Frame : std::uint8_t {
  items,    // of a module
  block,    // code
  members,  // of an impl block or a trait
  fields,
  call,   // what a macro is given
  rules,  // the body of macro_rules!
};

struct Open {
  Frame frame = Frame::items;
  std::int32_t scope = 0;
};

// What stands before an item and belongs to it.
struct Before {
  bool any = false;
  std::uint32_t begin = 0;
  Visibility visibility;
  std::vector<Span> attributes, paths;
  bool is_always_there = false, is_exported = false;
};

class Scanner : private Cursor {
 public:
  explicit Scanner(std::string_view bytes) : Cursor(bytes) {
    out_.scopes.emplace_back();
    open_.push_back({});
  }

  SourceFacts run() {
    while (kind() != TokenKind::end) step();
    return std::move(out_);
  }

 private:
  std::int32_t scope() const { return open_.back().scope; }
  Frame frame() const { return open_.back().frame; }
  bool in_macro() const { return frame() == Frame::call; }
  bool in_rules() const { return frame() == Frame::rules; }

  void start(std::uint32_t begin) {
    if (!before_.any) before_ = {true, begin, {}, {}, {}, false, false};
  }

  void step() {
    switch (kind()) {
      case TokenKind::outer_doc:
        start(token().begin);
        documentation();
        return;
      case TokenKind::inner_doc:
        documentation();
        return;
      case TokenKind::name:
        word();
        return;
      case TokenKind::path_joint:
        joint();
        return;
      case TokenKind::punctuation:
        mark();
        return;
      default:
        ++at_;
        return;
    }
  }

  void mark() {
    char c = bytes_[token().begin];
    if (c == '#' && is_mark('[', 1)) return attribute(1);
    if (c == '#' && is_mark('!', 1) && is_mark('[', 2)) return attribute(2);
    ++at_;
    before_.any = false;
    if (c == '(' || c == '[' || c == '{') {
      push(c);
    } else if (c == ')' || c == ']' || c == '}') {
      if (open_.size() > 1) open_.pop_back();
    } else if (c == ';') {
      next_ = Frame::block;
    }
  }

  void push(char c) {
    Open inner = open_.back();
    if (c == '{' && next_ != Frame::block && inner.frame != Frame::call && inner.frame != Frame::rules) {
      inner.frame = next_;
      next_ = Frame::block;
    } else if (inner.frame != Frame::call && inner.frame != Frame::rules) {
      if (c == '{') inner.scope = new_scope({scope(), false, {}, {}});
      inner.frame = Frame::block;
    }
    open_.push_back(inner);
  }

  std::int32_t new_scope(Scope scope) {
    out_.scopes.push_back(scope);
    return static_cast<std::int32_t>(out_.scopes.size() - 1);
  }

  // `bracket`: how many tokens before its "[".
  void attribute(std::size_t bracket) {
    std::size_t begin = at_, end = behind_group(at_ + bracket);
    Span span = span_of(tokens_[begin].begin, tokens_[end - 1].end);
    at_ += bracket + 1;
    std::string_view name = is_name() ? text() : "";
    bool is_path = name == "path", is_documentation = name == "doc";
    bool is_conditional = name == "cfg_attr";
    if (bracket == 1) {
      start(span.begin);
      before_.is_exported = before_.is_exported || name == "macro_export";
    } else if (!is_documentation) {
      out_.inner_attributes.push_back({span, scope()});
    }
    bool has_path = false;
    for (; at_ < end; ++at_) {
      if (kind() == TokenKind::text) {
        bool names_file = (is_path || is_conditional) && before() == '=' && at_ > 1 &&
                          cut(bytes_, tokens_[at_ - 2].span) == "path";
        if (names_file && bracket == 1) {
          before_.paths.push_back(token().span);
          has_path = true;
        } else if (!is_documentation) {
          text_path();
        } else if (before() == '(') {
          out_.documents.push_back(token().span);
        }
      } else if (is_name() && is_joint(1)) {
        path(Path::Kind::code);
        --at_;
      }
    }
    at_ = end;
    if (bracket != 1) return;
    before_.is_always_there = before_.is_always_there || is_path;
    if (!is_path && !is_documentation && !has_path) before_.attributes.push_back(span);
  }

  // with = "crate::tide", default = "tide::none"
  void text_path() {
    Span span = token().span;
    std::string_view whole = cut(bytes_, span);
    bool names_module = at_ > 1 && before() == '=' && cut(bytes_, tokens_[at_ - 2].span) == "with";
    if (whole.find("::") == std::string_view::npos && !names_module) return;
    Path out{Path::Kind::text, false, in_rules(), scope(), {}};
    std::size_t at = 0;
    while (at < whole.size()) {
      std::size_t end = at;
      while (end < whole.size() && is_name_byte(whole[end])) ++end;
      if (end == at) return;
      out.segments.push_back(span_of(span.begin + at, span.begin + end));
      if (end < whole.size() && whole.substr(end, 2) != "::") return;
      at = std::min(end + 2, whole.size());
    }
    if (!out.segments.empty()) out_.paths.push_back(std::move(out));
  }

  void documentation() { at_ = read_documentation(bytes_, tokens_, at_, scope(), out_); }

  void joint() {
    // "<T as Tide>::level", "levels::<T>::new": what follows is no module's. "-> ::std::fmt::Result" begins
    // anew.
    bool is_tail = at_ > 0 && tokens_[at_ - 1].end == token().begin &&
                   (before() == '>' || tokens_[at_ - 1].kind == TokenKind::name);
    ++at_;
    if (!is_name()) return;
    if (!is_tail && is_joint(1)) {
      path(Path::Kind::code, true);
    } else {
      ++at_;
      while (is_joint() && is_name(1)) at_ += 2;
    }
    before_.any = false;
  }

  // A path that begins at a name which "::" follows.
  void path(Path::Kind kind, bool is_global = false) {
    bool is_variable = before() == '$' && text() != "crate";
    Path out{kind, is_global, in_rules(), scope(), {}};
    out.segments.push_back(token().span);
    for (++at_; is_joint() && is_name(1); at_ += 2) out.segments.push_back(token(1).span);
    // "levels::$name": what a rule puts in comes behind it.
    bool is_head = in_rules() && is_joint() && is_mark('$', 1);
    out.is_head = is_head;
    bool is_known = !is_variable && (out.segments.size() > 1 || is_head);
    if (is_known) out_.paths.push_back(std::move(out));
  }

  void word() {
    std::string_view name = text();
    bool is_raw = token().begin != token().span.begin;
    if (!is_raw && words::rust::openers().contains(name) && opener(name)) return;
    // "for ::std::fmt::Debug": the keyword is no part of the path.
    bool begins_path = is_raw || !words::rust::keywords().contains(name) || name == "crate" ||
                       name == "self" || name == "super" || name == "Self" || name == "try";
    if (is_joint(1) && before() != '.' && begins_path) {
      path(Path::Kind::code);
      if (opens_call(0)) call(2);
    } else if (opens_call(1)) {
      call(3);
    } else {
      if (frame() == Frame::fields && is_mark(':', 1)) member(token().span);
      ++at_;
    }
    before_.any = false;
  }

  bool opens_call(std::size_t ahead) const {
    return is_mark('!', ahead) &&
           (is_mark('{', ahead + 1) || is_mark('(', ahead + 1) || is_mark('[', ahead + 1));
  }
  // `tokens`: how many up to what is behind the bracket; the name stands three before that.
  void call(std::size_t tokens) {
    std::size_t bracket = at_ + tokens - 1, end = behind_group(bracket);
    if (!in_rules() && bracket > 1 && end > bracket + 1)
      out_.calls.push_back(
          {tokens_[bracket - 2].span, span_of(tokens_[bracket].end, tokens_[end - 1].begin)});
    at_ += tokens;
    Open inner = open_.back();
    if (inner.frame != Frame::rules) inner.frame = Frame::call;
    open_.push_back(inner);
  }

  // Words that begin something of ours. False, with nothing taken, if this one does not.
  bool opener(std::string_view name) {
    if (name == "pub") return visibility();
    // "unsafe fn", "const fn": what stands before belongs to what follows.
    if (words::rust::modifiers().contains(name) && (is_name(1) || kind(1) == TokenKind::text) &&
        !(name == "const" && !words::rust::openers().contains(text(1))) &&
        !(name == "extern" && text(1) == "crate")) {
      start(token().begin);
      at_ += kind(1) == TokenKind::text ? 2 : 1;
      return true;
    }
    if (name == "mod") return module();
    if (name == "use") return import();
    if (name == "extern") return extern_crate();
    if (name == "macro_rules") return macro_rules();
    if (name == "impl") {
      if (at_ > 0 && !before_.any && std::string_view(";{}]").find(before()) == std::string_view::npos)
        return false;
      next_ = is_of_trait() ? Frame::block : Frame::members;
      ++at_;
      before_.any = false;
      return true;
    }
    return item(name);
  }

  // "impl Gauge for Tide": its names are the trait's, for all who know that. Notes the type.
  bool is_of_trait() {
    std::size_t ahead = 1, depth = 0;
    for (; kind(ahead) != TokenKind::end && !is_mark('{', ahead) && !is_mark(';', ahead); ++ahead) {
      if (is_mark('<', ahead)) ++depth;
      if (is_mark('>', ahead) && depth > 0 && bytes_[token(ahead).begin - 1] != '-') --depth;
      if (depth > 0 || !is_name(ahead)) continue;
      if (text(ahead) == "where") break;
      if (text(ahead) == "for" && !is_mark('<', ahead + 1)) return true;
      owner_ = token(ahead).span;
    }
    return false;
  }

  bool visibility() {
    start(token().begin);
    Visibility& out = before_.visibility;
    out = {Visibility::Reach::everywhere, token().span, {}};
    ++at_;
    // "pub (Tide, Level)" is a field of two.
    if (!is_mark('(') || !is_name(1) || !(is_mark(')', 2) || text(1) == "in")) return true;
    std::string_view word = text(1);
    std::size_t end = behind_group(at_);
    if (word == "in") {
      out.reach = Visibility::Reach::path;
      at_ += 2;
      if (is_joint()) ++at_;
      for (; at_ + 1 < end; ++at_) {
        if (is_name()) out.path.push_back(token().span);
      }
    } else if (word == "crate" || word == "super" || word == "self") {
      out.reach = word == "crate"   ? Visibility::Reach::crate
                  : word == "super" ? Visibility::Reach::parent
                                    : Visibility::Reach::own;
    } else {
      return true;
    }
    at_ = end;
    out.span.end = tokens_[end - 1].end;
    if (!in_rules() && (out.reach == Visibility::Reach::parent || out.reach == Visibility::Reach::path))
      out_.narrow.push_back({out, scope()});
    return true;
  }

  Visibility taken_visibility() { return before_.any ? before_.visibility : Visibility{}; }
  std::uint32_t item_begin() const { return before_.any ? before_.begin : token().begin; }

  bool module() {
    if (!is_name(1)) {
      if (is_mark('$', 1) && in_rules()) out_.has_hidden_modules = true;
      return false;
    }
    bool is_inline = is_mark('{', 2);
    if ((!is_inline && !is_mark(';', 2)) || before() == '$') return false;
    ModuleLine line;
    line.name = token(1).span;
    line.visibility = taken_visibility();
    line.scope = scope();
    line.in_macro = in_macro();
    if (before_.any) {
      line.paths = before_.paths;
      line.is_always_there = before_.is_always_there;
      line.attributes = before_.attributes;
    }
    line.whole = span_of(item_begin(), token(2).end);
    bool is_template = in_rules();
    if (is_template) out_.has_hidden_modules = true;
    at_ += 3;
    before_.any = false;
    next_ = Frame::block;
    if (is_inline) {
      Open inner = open_.back();
      if (!is_template) {
        line.inner = new_scope({scope(), true, line.name, line.paths.empty() ? Span{} : line.paths.front()});
        inner = {in_macro() ? Frame::call : Frame::items, line.inner};
      }
      open_.push_back(inner);
    }
    if (!is_template) out_.modules.push_back(std::move(line));
    return true;
  }

  bool import() {
    if (is_mark('<', 1) || is_mark('(', 1) || before() == '.') return false;
    Import common;
    common.visibility = taken_visibility();
    common.scope = scope();
    common.in_macro = in_macro();
    std::uint32_t begin = item_begin();
    std::vector<Import> found;
    std::size_t end = read_imports(bytes_, tokens_, at_ + 1, common, found);
    if (end == 0) return false;
    for (Import& one : found) {
      one.item = span_of(begin, tokens_[end - 1].end);
      if (!in_rules()) {
        out_.imports.push_back(std::move(one));
      } else {
        Path path{Path::Kind::code, one.is_global, true, scope(), {}};
        for (const Segment& segment : one.segments) {
          // What groups share cannot be told apart there.
          if (segment.group == 0) path.segments.push_back(segment.span);
        }
        if (!path.segments.empty()) out_.paths.push_back(std::move(path));
      }
    }
    at_ = end;
    before_.any = false;
    return true;
  }

  bool extern_crate() {
    if (text(1) != "crate" || !is_name(2)) return false;
    Span name = token(2).span, bound = name;
    at_ += 3;
    if (text() == "as" && is_name(1)) {
      bound = token(1).span;
      at_ += 2;
    }
    if (!in_rules()) out_.externs.push_back({name, bound, scope()});
    before_.any = false;
    return true;
  }

  bool macro_rules() {
    if (!is_mark('!', 1) || !is_name(2)) return false;
    bool is_exported = before_.any && before_.is_exported;
    MacroRules macro{token(2).span, is_exported, scope(), false};
    at_ += 3;
    if (is_mark('{') || is_mark('(') || is_mark('[')) {
      macro.makes_paths = makes_paths(at_, behind_group(at_));
      if (!in_rules()) out_.macros.push_back(macro);
      ++at_;
      open_.push_back({Frame::rules, scope()});
    }
    before_.any = false;
    return true;
  }

  // "$module::Level": what comes last in a path is no module.
  bool makes_paths(std::size_t begin, std::size_t end) const {
    for (std::size_t i = begin + 1; i + 1 < end; ++i) {
      bool is_variable = tokens_[i].kind == TokenKind::name && bytes_[tokens_[i - 1].begin] == '$' &&
                         cut(bytes_, tokens_[i].span) != "crate";
      if (!is_variable) continue;
      if (tokens_[i + 1].kind == TokenKind::path_joint) return true;
    }
    return false;
  }

  // fn, struct, enum, union, trait, type, const, static
  bool item(std::string_view word) {
    if (!is_name(1) || before() == '.' || before() == '$') return false;
    if (word == "union" && !(is_mark('{', 2) || is_mark('<', 2) || text(2) == "where")) return false;
    std::size_t name = word == "static" && (text(1) == "mut" || text(1) == "ref") ? 2 : 1;
    // "*const tide::Level" declares nothing.
    bool has_type = word == "const" || word == "static";
    if (has_type && !is_mark(':', name + 1)) return false;
    if (frame() == Frame::items || frame() == Frame::call) {
      out_.items.push_back({token(name).span, taken_visibility(), scope(), {}, false});
    } else if (frame() == Frame::members) {
      member(token(name).span);
    }
    bool has_fields = word == "struct" || word == "union";
    next_ = has_fields ? Frame::fields : Frame::block;
    if (has_fields) owner_ = token(name).span;
    at_ += name + 1;
    before_.any = false;
    if (word == "struct") tuple_fields(token_at(at_ - 1));
    return true;
  }

  // "struct Level(i32);": who sees no field of it can neither make nor open it. It counts as a part called
  // like the type.
  void tuple_fields(Span name) {
    std::size_t at = at_;
    if (is_mark('<')) {
      std::size_t depth = 0;
      for (; at + 1 < tokens_.size(); ++at) {
        char c = bytes_[tokens_[at].begin];
        bool is_arrow = c == '>' && bytes_[tokens_[at - 1].begin] == '-';
        if (c == '<') ++depth;
        if (c == '>' && !is_arrow && --depth == 0) break;
      }
      ++at;
    }
    if (at >= tokens_.size() || bytes_[std::min<std::size_t>(tokens_[at].begin, bytes_.size() - 1)] != '(')
      return;
    std::size_t depth = 0;
    bool begins = false, is_hidden = false;
    for (std::size_t i = at, end = behind_group(at); i < end; ++i) {
      char c = bytes_[tokens_[i].begin];
      bool is_open = c == '(' || c == '[' || c == '<', is_close = c == ')' || c == ']' || c == '>';
      if (begins && depth == 1 && !is_close && c != '#') {
        is_hidden = is_hidden || cut(bytes_, tokens_[i].span) != "pub" ||
                    (i + 2 < end && bytes_[tokens_[i + 1].begin] == '(' &&
                     cut(bytes_, tokens_[i + 2].span) != "crate");
        begins = false;
      }
      if (is_open) ++depth;
      if (is_close && depth > 0) --depth;
      begins = begins || (depth == 1 && (i == at || c == ','));
    }
    if (is_hidden) out_.members.push_back({name, {}, scope(), name, false});
  }
  Span token_at(std::size_t at) const { return tokens_[at].span; }

  void member(Span name) {
    Visibility visibility = taken_visibility();
    if (visibility.reach != Visibility::Reach::everywhere)
      out_.members.push_back({name, visibility, scope(), owner_, frame() == Frame::fields});
  }

  std::vector<Open> open_;
  Span owner_;                 // the type whose parts come next
  Frame next_ = Frame::block;  // what the next "{" opens
  Before before_;
  SourceFacts out_;
};

}  // namespace

SourceFacts scan_source(std::string_view bytes) {
  return Scanner(bytes).run();
}

std::vector<std::string_view> names_in(std::string_view bytes) {
  std::vector<std::string_view> out;
  Tokens tokens(bytes);
  for (Token token = tokens.next(); token.kind != TokenKind::end; token = tokens.next()) {
    if (token.kind == TokenKind::name) out.push_back(cut(bytes, token.span));
  }
  return out;
}

}  // namespace yc::rust
