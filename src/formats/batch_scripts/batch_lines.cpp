#include "formats/batch_scripts/batch_lines.h"

#include <algorithm>
#include <map>

#include "base/text.h"

namespace yc::batch {

namespace {

bool parts_words(char c) {
  return c == ' ' || c == '\t' || c == '\r' || c == ',' || c == ';';
}

class Reader {
 public:
  Reader(std::string_view bytes, const Base& start, const Base& script)
      : bytes_(bytes), script_(script), base_(start) {}

  shell::CommandLine run() {
    while (at_ < bytes_.size()) {
      if (is_remark()) {
        at_ = std::min(bytes_.find('\n', at_), bytes_.size());
      } else {
        step();
      }
    }
    end_command();
    return std::move(out_);
  }

 private:
  // At the beginning of a command: a remark or a label.
  bool is_remark() const {
    if (in_word_ || !current_.words.empty()) return false;
    if (bytes_[at_] == ' ' || bytes_[at_] == '\t' || bytes_[at_] == '@') return false;
    std::string head = lowered(bytes_.substr(at_, 4));
    return bytes_[at_] == ':' || head == "rem " || head == "rem\t" || head == "rem\n" || head == "rem\r";
  }

  void step() {
    char c = bytes_[at_];
    if (parts_words(c)) {
      end_word();
      ++at_;
    } else if (c == '\n' || c == '&' || c == '|' || c == '(' || c == ')') {
      if (c == '|') current_.handed_on = bytes_.substr(at_, 2) != "||";
      end_command();
      ++at_;
    } else if (c == '>' || c == '<') {
      bool is_handle =
          in_word_ && word_.size() == 1 && std::isdigit(static_cast<unsigned char>(word_.text()[0]));
      if (is_handle) word_ = TracedText(), in_word_ = false;
      end_word();
      while (at_ < bytes_.size() && (bytes_[at_] == '>' || bytes_[at_] == '<')) ++at_;
      if (at_ < bytes_.size() && bytes_[at_] == '&') {
        at_ = std::min(at_ + 2, bytes_.size());
      } else {
        redirecting_ = true;
      }
    } else if (c == '^') {
      escape();
    } else if (c == '@' && !in_word_ && current_.words.empty()) {
      ++at_;
    } else {
      in_word_ = true;
      if (c == '"') {
        quoted();
      } else {
        plain(" \t\r\n,;&|()<>^\"%!", kSlash);
      }
    }
  }

  // "^" before a line end continues the line; before anything else it takes its meaning.
  void escape() {
    std::size_t next = at_ + 1;
    if (next < bytes_.size() && bytes_[next] == '\r') ++next;
    if (next < bytes_.size() && bytes_[next] == '\n') {
      end_word();
    } else if (next < bytes_.size()) {
      in_word_ = true;
      word_.append(TracedText::plain(std::string(1, bytes_[next])));
    }
    at_ = std::min(next + 1, bytes_.size());
  }

  void quoted() {
    ++at_;
    quoted_ = true;
    while (at_ < bytes_.size() && bytes_[at_] != '"' && bytes_[at_] != '\n') plain("\"\n%!", kQuotedSlash);
    if (at_ < bytes_.size() && bytes_[at_] == '"') ++at_;
  }

  // Literal bytes up to one of `stops`, or one variable.
  void plain(std::string_view stops, WritingStyle style) {
    if (bytes_[at_] == '%' || bytes_[at_] == '!') {
      variable();
      return;
    }
    std::size_t end = std::min(bytes_.find_first_of(stops, at_), bytes_.size());
    std::string text(bytes_.substr(at_, end - at_));
    if (text.find('\\') != std::string::npos) ++style;
    std::replace(text.begin(), text.end(), '\\', '/');
    word_.append(TracedText::literal(std::move(text), script_.anchor, span_of(at_, end), style));
    at_ = end;
  }

  // %NAME%, !NAME!, %1, %~1, %~dp0, %%f, %%~nf
  void variable() {
    char mark = bytes_[at_];
    std::size_t begin = at_ + 1;
    if (mark == '%' && begin < bytes_.size() && bytes_[begin] == '%') ++begin;  // of a loop
    bool of_loop = begin == at_ + 2;
    if (begin < bytes_.size() &&
        (bytes_[begin] == '~' || of_loop || std::isdigit(static_cast<unsigned char>(bytes_[begin])))) {
      std::size_t end = begin;
      bool modified = bytes_[end] == '~';
      if (modified) {
        ++end;
        // Letters are modifiers up to the digit, or the last letter for a loop's variable.
        while (end + 1 < bytes_.size() && std::isalpha(static_cast<unsigned char>(bytes_[end])) &&
               std::isalnum(static_cast<unsigned char>(bytes_[end + 1])))
          ++end;
      }
      std::string name = lowered(bytes_.substr(begin, end + 1 - begin));
      at_ = std::min(end + 1, bytes_.size());
      if (name == "~dp0" || name == "~p0" || name == "~pd0") {
        word_.append(TracedText::folder(Piece::Nature::tree_folder, script_.anchor,
                                        marked(Space::tree, script_.folder)));
        word_.append(TracedText::plain("/"));
      } else {
        word_.append(TracedText::hole());
      }
      return;
    }
    std::size_t end = bytes_.find(mark, begin);
    std::size_t line = std::min(bytes_.find('\n', begin), bytes_.size());
    if (end == std::string_view::npos || end > line || end == begin) {
      word_.append(TracedText::plain(std::string(1, mark)));
      at_ = begin;
      return;
    }
    std::string name = lowered(bytes_.substr(begin, end - begin));
    at_ = end + 1;
    auto known = variables_.find(name);
    if (name == "cd") {
      word_.append(TracedText::plain(marked(Space::tree, base_.folder)));
    } else {
      word_.append(known == variables_.end() ? TracedText::hole() : known->second);
    }
  }

  void end_word() {
    if (!in_word_) return;
    shell::Word word{std::move(word_), quoted_};
    (redirecting_ ? current_.redirects : current_.words).push_back(std::move(word));
    if (redirecting_) current_.handed_on = true;
    word_ = TracedText();
    in_word_ = quoted_ = redirecting_ = false;
  }

  std::string word_at(std::size_t i) const {
    return i < current_.words.size() ? lowered(current_.words[i].text.text()) : "";
  }

  void drop_words(std::size_t count) {
    count = std::min(count, current_.words.size());
    current_.words.erase(current_.words.begin(), current_.words.begin() + static_cast<std::ptrdiff_t>(count));
  }

  // What stands before the command proper: "if not exist FILE", "for %%f in", "else", "do", "in".
  void strip_keywords() {
    while (!current_.words.empty()) {
      std::string first = word_at(0);
      if (first == "else" || first == "do") {
        drop_words(1);
      } else if (first == "if") {
        std::size_t skip = 1;
        while (word_at(skip) == "/i" || word_at(skip) == "not") ++skip;
        if (word_at(skip) == "exist" && skip + 1 < current_.words.size()) {
          shell::Command asks;
          asks.words = {current_.words[skip], current_.words[skip + 1]};
          add(std::move(asks));
          drop_words(skip + 2);
        } else if (word_at(skip) == "defined" || word_at(skip) == "errorlevel") {
          drop_words(skip + 2);
        } else {
          // "a==b" or "a equ b"
          bool one = word_at(skip).find("==") != std::string::npos;
          drop_words(skip + (one ? 1 : 3));
        }
      } else if (first == "for") {
        current_.words.clear();
        in_list_ = true;
      } else {
        return;
      }
    }
  }

  void add(shell::Command command) {
    command.base = base_;
    command.base_known = base_known_;
    out_.commands.push_back(std::move(command));
  }

  void end_command() {
    end_word();
    redirecting_ = false;
    if (in_list_ && !current_.words.empty()) {
      // The words of a loop's list, between its parentheses.
      in_list_ = false;
      shell::Command list;
      list.words = std::move(current_.words);
      list.words.insert(list.words.begin(), {TracedText::plain("for"), false});
      add(std::move(list));
      current_ = {};
      return;
    }
    strip_keywords();
    shell::Command command = std::move(current_);
    current_ = {};
    if (command.words.empty() && command.redirects.empty()) return;
    std::string name = command.words.empty() ? "" : lowered(command.words.front().text.text());
    if (name == "set") {
      assign(command);
    } else if (name == "cd" || name == "chdir" || name == "pushd") {
      std::size_t folder = command.words.size() > 1 && lowered(command.words[1].text.text()) == "/d" ? 2 : 1;
      if (folder < command.words.size()) {
        if (name == "pushd") stack_.push_back({base_, base_known_});
        shell::Command names;
        names.words = {{TracedText::plain("cd"), false}, command.words[folder]};
        TracedText text = command.words[folder].text;
        add(std::move(names));
        enter(text);
      }
    } else if (name == "popd") {
      if (!stack_.empty()) {
        std::tie(base_, base_known_) = stack_.back();
        stack_.pop_back();
      }
    } else {
      // For a POSIX shell the same word means another thing.
      if (name == "type") command.words.front().text = TracedText::plain("cat");
      if (name == "echo" || name.starts_with("echo."))
        command.words.erase(command.words.begin() + 1, command.words.end());
      add(std::move(command));
    }
  }

  // "set NAME=value", also in quotes as a whole.
  void assign(shell::Command& command) {
    if (command.words.size() < 2) return;
    TracedText whole = command.words[1].text;
    std::string text = whole.text();
    std::size_t equals = text.find('=');
    if (text == "/p" || text == "/a" || equals == std::string::npos) return;
    TracedText value = whole.substr(equals + 1);
    variables_[lowered(text.substr(0, equals))] = value;
    shell::Command keeps;
    keeps.environment.emplace_back(text.substr(0, equals), shell::Word{value, true});
    add(std::move(keeps));
  }

  void enter(const TracedText& folder) {
    Place place = folder.has_hole() ? Place{} : place_of(base_.folder, folder.text(), base_.space);
    if (place.space == Space::outside) {
      base_known_ = false;
      return;
    }
    bool own = place.space == Space::tree && place.path == script_.folder;
    base_ = Base{place.path, own ? script_.anchor : kNoFile, place.space};
  }

  std::string_view bytes_;
  const Base& script_;
  Base base_;
  bool base_known_ = true;
  std::vector<std::pair<Base, bool>> stack_;
  std::size_t at_ = 0;
  TracedText word_;
  bool in_word_ = false, quoted_ = false, redirecting_ = false, in_list_ = false;
  shell::Command current_;
  std::map<std::string, TracedText> variables_;
  shell::CommandLine out_;
};

}  // namespace

shell::CommandLine read_lines(std::string_view bytes, const Base& start, const Base& script) {
  return Reader(bytes, start, script).run();
}

}  // namespace yc::batch
