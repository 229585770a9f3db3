#include "formats/shell/command_line.h"

#include <algorithm>
#include <map>
#include <set>

namespace yc::shell {

namespace {

TracedText restyled(const TracedText& text, WritingStyle style) {
  TracedText out;
  for (Piece piece : text.pieces()) {
    piece.style = style;
    out.append(std::move(piece));
  }
  return out;
}

// Lexes one traced line. Variables that the line itself sets are followed; all others are holes.
class Lexer {
 public:
  Lexer(const TracedText& line, const Base& base, const TreeReader& tree)
      : parts_(line), text_(line.text()), tree_(tree), base_(base) {}

  CommandLine run() {
    while (at_ < text_.size()) step();
    end_command();
    return std::move(out_);
  }

 private:
  void step() {
    char c = text_[at_];
    if (c == ' ' || c == '\t' || c == '\r') {
      end_word();
      ++at_;
    } else if (c == '#' && !in_word_) {
      at_ = std::min(text_.find('\n', at_), text_.size());
    } else if (c == '\n' || c == ';' || c == '&' || c == '|' || c == '(' || c == ')') {
      if (c == '&' && at_ > 0 && (text_[at_ - 1] == '>' || text_[at_ - 1] == '<')) {
        ++at_;
        return;
      }
      end_command();
      if (c == '(') folders_.push_back({base_, base_known_});
      if (c == ')' && !folders_.empty()) {
        std::tie(base_, base_known_) = folders_.back();
        folders_.pop_back();
      }
      ++at_;
    } else if (c == '>' || c == '<') {
      redirect();
    } else {
      word_part();
    }
  }

  void redirect() {
    // A number right before it is a file descriptor.
    if (in_word_ &&
        std::all_of(word_text().begin(), word_text().end(), [](char d) { return d >= '0' && d <= '9'; })) {
      words_.assign(1, TracedText());
      in_word_ = false;
    }
    end_word();
    while (at_ < text_.size() && (text_[at_] == '>' || text_[at_] == '<')) ++at_;
    redirecting_ = true;
  }

  void word_part() {
    char c = text_[at_];
    in_word_ = true;
    if (c == '\\') {
      std::size_t next = at_ + 1;
      if (next < text_.size() && text_[next] != '\n') {
        TracedText piece = parts_.part(next, 1);
        // Two bytes spell one, so this part cannot be edited.
        append(TracedText::plain(piece.text()));
      }
      at_ = std::min(at_ + 2, text_.size());
    } else if (c == '\'') {
      std::size_t end = std::min(text_.find('\'', at_ + 1), text_.size());
      append(restyled(parts_.part(at_ + 1, end - at_ - 1), kSingle));
      quoted_ = true;
      at_ = std::min(end + 1, text_.size());
    } else if (c == '"') {
      double_quoted();
    } else if (c == '$') {
      variable();
    } else if (c == '`') {
      std::size_t end = std::min(text_.find('`', at_ + 1), text_.size());
      at_ = std::min(end + 1, text_.size());
      append(TracedText::hole());
    } else {
      std::size_t end = std::min(text_.find_first_of(" \t\r\n;&|()<>\\'\"$`", at_), text_.size());
      append(restyled(parts_.part(at_, end - at_), kBare));
      at_ = end;
    }
  }

  void double_quoted() {
    ++at_;
    quoted_ = true;
    while (at_ < text_.size() && text_[at_] != '"') {
      char c = text_[at_];
      if (c == '\\' && at_ + 1 < text_.size()) {
        append(TracedText::plain(std::string(1, text_[at_ + 1])));
        at_ += 2;
      } else if (c == '$') {
        variable();
      } else if (c == '`') {
        std::size_t end = std::min(text_.find('`', at_ + 1), text_.size());
        at_ = std::min(end + 1, text_.size());
        append(TracedText::hole());
      } else {
        std::size_t end = std::min(text_.find_first_of("\"\\$`", at_), text_.size());
        append(restyled(parts_.part(at_, end - at_), kDouble));
        at_ = end;
      }
    }
    at_ = std::min(at_ + 1, text_.size());
  }

  void variable() {
    std::size_t begin = at_ + 1;
    std::string name;
    if (begin < text_.size() && text_[begin] == '(') {
      int depth = 0;
      std::size_t i = begin;
      for (; i < text_.size(); ++i) {
        if (text_[i] == '(') ++depth;
        if (text_[i] == ')' && --depth == 0) break;
      }
      at_ = std::min(i + 1, text_.size());
    } else if (begin < text_.size() && text_[begin] == '{') {
      std::size_t end = std::min(text_.find('}', begin), text_.size());
      name = text_.substr(begin + 1, end - begin - 1);
      at_ = std::min(end + 1, text_.size());
    } else {
      std::size_t end = begin;
      while (end < text_.size() &&
             (std::isalnum(static_cast<unsigned char>(text_[end])) || text_[end] == '_'))
        ++end;
      if (end == begin && end < text_.size()) ++end;
      name = text_.substr(begin, end - begin);
      at_ = end;
    }
    auto known = variables_.find(name);
    if (known == variables_.end() || known->second.empty()) {
      append(TracedText::hole());
      return;
    }
    std::vector<TracedText> grown;
    for (const TracedText& head : words_) {
      for (const TracedText& value : known->second) {
        TracedText both = head;
        both.append(value);
        if (grown.size() < 64) grown.push_back(std::move(both));
      }
    }
    words_ = std::move(grown);
  }

  void append(const TracedText& text) {
    for (TracedText& word : words_) word.append(text);
  }
  std::string word_text() const { return words_.front().text(); }

  void end_word() {
    if (!in_word_) return;
    for (TracedText& text : words_) {
      Word word{std::move(text), quoted_};
      if (redirecting_) {
        current_.redirects.push_back(std::move(word));
      } else {
        current_.words.push_back(std::move(word));
      }
    }
    redirecting_ = false;
    quoted_ = false;
    in_word_ = false;
    words_.assign(1, TracedText());
  }

  void end_command() {
    end_word();
    redirecting_ = false;
    Command command = std::move(current_);
    current_ = Command();
    strip_keywords(command);
    take_assignments(command);
    if (command.words.empty() && command.redirects.empty()) return;
    command.base = base_;
    command.base_known = base_known_;
    if (command.name() == "cd" || command.name() == "pushd") {
      change_folder(command);
    }
    out_.commands.push_back(std::move(command));
  }

  void strip_keywords(Command& command) {
    static const std::set<std::string> keywords = {"if",   "then",  "else",  "elif", "fi",  "do",
                                                   "done", "while", "until", "{",    "}",   "!",
                                                   "exec", "time",  "eval",  "esac", "case"};
    while (!command.words.empty()) {
      std::string first = command.words.front().text.text();
      if (first == "for" && command.words.size() > 2) {
        std::vector<TracedText> values;
        for (std::size_t i = 3; i < command.words.size(); ++i) values.push_back(command.words[i].text);
        variables_[command.words[1].text.text()] = expanded(values);
        command.words.erase(command.words.begin() + 1, command.words.begin() + 3 <= command.words.end()
                                                           ? command.words.begin() + 3
                                                           : command.words.end());
        return;
      }
      if (!keywords.contains(first)) return;
      command.words.erase(command.words.begin());
    }
  }

  // A wildcard in a loop's list stands for what it matches.
  std::vector<TracedText> expanded(const std::vector<TracedText>& values) const {
    std::vector<TracedText> out;
    for (const TracedText& value : values) {
      if (!has_wildcard(value.text())) {
        out.push_back(value);
        continue;
      }
      for (const RelPath& path : match_paths(tree_, base_.folder, value.text())) {
        out.push_back(TracedText::plain(relative_text(base_.folder, path)));
      }
    }
    return out;
  }

  void take_assignments(Command& command) {
    while (!command.words.empty()) {
      std::string text = command.words.front().text.text();
      std::size_t equals = text.find('=');
      if (equals == std::string::npos || equals == 0) return;
      bool is_name =
          std::all_of(text.begin(), text.begin() + static_cast<std::ptrdiff_t>(equals),
                      [](char c) { return std::isalnum(static_cast<unsigned char>(c)) || c == '_'; });
      if (!is_name) return;
      TracedText value = command.words.front().text.substr(equals + 1);
      variables_[text.substr(0, equals)] = {value};
      command.environment.emplace_back(text.substr(0, equals), Word{value, command.words.front().quoted});
      command.words.erase(command.words.begin());
    }
  }

  void change_folder(const Command& command) {
    if (command.words.size() < 2 || command.words[1].text.has_hole()) {
      base_known_ = false;
      return;
    }
    Place place = place_of(base_.folder, command.words[1].text.text(), base_.space);
    if (place.space == Space::outside) {
      base_known_ = false;
      return;
    }
    base_ = Base{place.path, kNoFile, place.space};
  }

  Cutter parts_;
  std::string text_;
  const TreeReader& tree_;
  Base base_;
  bool base_known_ = true;
  std::vector<std::pair<Base, bool>> folders_;
  std::size_t at_ = 0;
  std::vector<TracedText> words_ = {TracedText()};
  bool in_word_ = false;
  bool quoted_ = false;
  bool redirecting_ = false;
  Command current_;
  std::map<std::string, std::vector<TracedText>> variables_;
  CommandLine out_;
};

}  // namespace

std::string Command::name() const {
  if (words.empty()) return "";
  std::string text = words.front().text.text();
  while (!text.empty() && (text.front() == '@' || text.front() == '-' || text.front() == '+'))
    text.erase(0, 1);
  std::size_t cut = text.rfind('/');
  return cut == std::string::npos ? text : text.substr(cut + 1);
}

CommandLine read(const TracedText& line, const Base& base, const TreeReader& tree) {
  return Lexer(line, base, tree).run();
}

}  // namespace yc::shell
