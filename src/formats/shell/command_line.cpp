#include "formats/shell/command_line.h"

#include "formats/shell/command_output.h"
#include "formats/shell/script_place.h"
#include "formats/shell/working_folder.h"
#include "words/shell.h"

#include <algorithm>
#include <map>
#include <set>
#include <utility>

namespace yc::shell {

namespace {

constexpr std::size_t kLongestWord = 60'000;  // bytes
constexpr std::size_t kMostPieces = 2'000;
constexpr int kDeepest = 20;  // commands in commands

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
  Lexer(const TracedText& line, const Base& base, const TreeReader& tree, const ScriptPlace* script = nullptr)
      : parts_(line),
        text_(line.text()),
        tree_(tree),
        folder_(base, script ? &script->base() : nullptr),
        script_(script) {}

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
      current_.handed_on = c == '|' && hands_on();
      end_command();
      if (c == '\n') pass_documents();
      if (c == '(') folder_.enter_subshell();
      if (c == ')') folder_.leave_subshell();
      ++at_;
    } else if (c == '>' || c == '<') {
      redirect();
    } else {
      word_part();
    }
  }

  // At a pipe: whether the command behind it could care in which order it is given lines.
  bool hands_on() const {
    std::size_t begin = text_.find_first_not_of(" \t|&\r\n\\", at_);
    if (begin == std::string::npos || text_.substr(at_, 2) == "||") return false;
    std::string next = text_.substr(begin, text_.find_first_of(" \t\r\n;&|()<>", begin) - begin);
    return next != "wc" && next != "sort";
  }

  void redirect() {
    // A number right before it is a file descriptor.
    if (in_word_ &&
        std::all_of(word_text().begin(), word_text().end(), [](char d) { return d >= '0' && d <= '9'; })) {
      words_.assign(1, TracedText());
      in_word_ = false;
    }
    end_word();
    std::size_t begin = at_;
    is_written_ = text_[at_] == '>';
    writes_ = writes_ || is_written_;
    while (at_ < text_.size() && (text_[at_] == '>' || text_[at_] == '<')) ++at_;
    if (script_ && at_ - begin == 2 && text_[begin] == '<') return note_document();
    redirecting_ = true;
  }

  // "<<EOF" or "<<-'EOF'": its body comes after this line.
  void note_document() {
    if (at_ < text_.size() && text_[at_] == '-') ++at_;
    while (at_ < text_.size() && (text_[at_] == ' ' || text_[at_] == '\t')) ++at_;
    std::size_t end = std::min(text_.find_first_of(" \t\r\n;&|()<>", at_), text_.size());
    std::string mark = text_.substr(at_, end - at_);
    std::erase_if(mark, [](char c) { return c == '\'' || c == '"' || c == '\\'; });
    documents_.push_back(std::move(mark));
    at_ = end;
  }

  // At a line end: moves to the last line of the bodies that were announced on this line.
  void pass_documents() {
    for (const std::string& mark : std::exchange(documents_, {})) {
      std::size_t body = at_ + 1, last = text_.size();
      while (at_ < text_.size()) {
        std::size_t begin = at_ + 1, end = std::min(text_.find('\n', begin), text_.size());
        std::string line = begin < text_.size() ? text_.substr(begin, end - begin) : "";
        at_ = end;
        std::size_t first = line.find_first_not_of('\t');
        last = begin;
        if (first != std::string::npos && line.substr(first) == mark) break;
      }
      if (body < last && last <= text_.size()) document(body, last);
    }
  }

  // A body: commands for a shell that is handed it, else text in which paths may stand.
  void document(std::size_t begin, std::size_t end) {
    static const std::set<std::string> shells = {"sh", "bash", "dash", "ksh", "zsh"};
    bool is_script = !out_.commands.empty() && shells.contains(out_.commands.back().name());
    if (is_script) {
      TracedText body = parts_.part(begin, end - begin);
      CommandLine inner = Lexer(body, folder_.base(), tree_, script_).run();
      for (Command& command : inner.commands) {
        command.base_known = command.base_known && folder_.is_known();
        out_.commands.push_back(std::move(command));
      }
      return;
    }
    // What is only printed is prose.
    bool is_printed = !out_.commands.empty() && out_.commands.back().name() == "cat" &&
                      out_.commands.back().redirects.empty() && !out_.commands.back().handed_on;
    if (is_printed) return;
    Command command;
    command.base = folder_.base();
    command.deep_globs = deep_globs_;
    command.base_known = folder_.is_known();
    command.words.push_back({TracedText::plain("<<"), true});
    constexpr std::string_view kAround = " \t\r\n\"'`=:;,()[]{}<>|&";
    for (std::size_t at = begin; at < end;) {
      std::size_t word = std::min(text_.find_first_not_of(kAround, at), end);
      std::size_t stop = std::min(text_.find_first_of(kAround, word), end);
      std::string_view token = std::string_view(text_).substr(word, stop - word);
      // Prose has many words; with a slash one is likely a path.
      if (token.find('/') != std::string_view::npos && token.find_first_of("$*\\") == std::string_view::npos)
        command.words.push_back({restyled(parts_.part(word, stop - word), kBare), true});
      at = std::max(stop, word + 1);
    }
    if (command.words.size() > 1) out_.commands.push_back(std::move(command));
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
      variable(true);
    } else if (c == '`') {
      std::size_t end = std::min(text_.find('`', at_ + 1), text_.size());
      run_inside(at_ + 1, end);
      at_ = std::min(end + 1, text_.size());
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
        variable(false);
      } else if (c == '`') {
        std::size_t end = std::min(text_.find('`', at_ + 1), text_.size());
        run_inside(at_ + 1, end);
        at_ = std::min(end + 1, text_.size());
      } else {
        // A backslash that is the last of all stands for itself.
        std::size_t end = std::min(text_.find_first_of("\"\\$`", at_ + 1), text_.size());
        append(restyled(parts_.part(at_, end - at_), kDouble));
        at_ = end;
      }
    }
    at_ = std::min(at_ + 1, text_.size());
  }

  // Without quotes the shell splits what a variable holds into words.
  void variable(bool splits) {
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
      if (begin < i) run_inside(begin + 1, i);
      return;
    } else if (begin < text_.size() && text_[begin] == '{') {
      std::size_t end = std::min(text_.find('}', begin), text_.size());
      name = text_.substr(begin + 1, end - begin - 1);
      at_ = std::min(end + 1, text_.size());
      if (auto own = script_ ? script_->cut(name) : std::nullopt) {
        append(*own);
        return;
      }
      if (take_default(name, begin + 1) || take_folder(name)) return;
    } else {
      std::size_t end = begin;
      while (end < text_.size() &&
             (std::isalnum(static_cast<unsigned char>(text_[end])) || text_[end] == '_'))
        ++end;
      if (end == begin && end < text_.size()) ++end;
      name = text_.substr(begin, end - begin);
      at_ = end;
    }
    const std::vector<TracedText>* known = value_of(name);
    if (!known || known->empty()) {
      auto told = script_ && !known ? script_->variable(name) : std::nullopt;
      append(told ? *told : TracedText::hole());
      return;
    }
    bool one = words_.size() == 1 && known->size() == 1;
    if (splits && one && known->front().text().find_first_of(" \t\n") != std::string::npos) {
      std::vector<TracedText> parts = known->front().words();
      for (std::size_t i = 0; i < parts.size(); ++i) {
        if (i > 0) end_word();
        in_word_ = true;
        append(parts[i]);
      }
      return;
    }
    std::vector<TracedText> grown;
    for (const TracedText& head : words_) {
      for (const TracedText& value : *known) {
        if (grown.size() == 64) break;
        bool is_too_long = head.size() + value.size() > kLongestWord;
        grown.push_back(is_too_long ? TracedText::hole() : head);
        if (!is_too_long) grown.back().append(value);
      }
    }
    words_ = std::move(grown);
  }

  // Null if nobody set the variable.
  const std::vector<TracedText>* value_of(const std::string& name) const {
    for (const Lexer* at = this; at; at = at->outer_) {
      if (auto known = at->variables_.find(name); known != at->variables_.end()) return &known->second;
    }
    return nullptr;
  }

  // "${1:-lib/gauge.sh}" (XCU 2.6.2): what stands there for a value that nobody gives. False if it is no
  // plain text, or the variable has a value.
  bool take_default(const std::string& inside, std::size_t begin) {
    std::size_t end = inside.find_first_of(":-=");
    if (end == std::string::npos || end == 0) return false;
    std::size_t value = inside[end] == ':' ? end + 2 : end + 1;
    bool is_default = value <= inside.size() && (inside[value - 1] == '-' || inside[value - 1] == '=');
    bool is_plain = is_default && inside.find_first_of("$`'\"\\ \t\n", value) == std::string::npos;
    const std::vector<TracedText>* known = value_of(inside.substr(0, end));
    if (!is_plain || value == inside.size() || (known && !known->empty())) return false;
    TracedText given = restyled(parts_.part(begin + value, inside.size() - value), kBare);
    if (inside[value - 1] == '=') variables_[inside.substr(0, end)] = {given};
    append(given);
    return true;
  }

  // "${SELF%/*}" (XCU 2.6.2), where it is known what lies in which folder.
  bool take_folder(const std::string& inside) {
    constexpr std::string_view kCut = "%/*";
    if (!inside.ends_with(kCut)) return false;
    const std::vector<TracedText>* known = value_of(inside.substr(0, inside.size() - kCut.size()));
    auto folder = known && known->size() == 1 ? folder_above(known->front()) : std::nullopt;
    if (folder) append(*folder);
    return folder.has_value();
  }

  // A command whose output becomes a part of the word.
  void run_inside(std::size_t begin, std::size_t end) {
    TracedText result = result_of(text_.substr(begin, end - begin));
    if (depth_ >= kDeepest) return append(result);
    TracedText command_text = parts_.part(begin, end - begin);
    Lexer inside(command_text, folder_.base(), tree_, script_);
    inside.depth_ = depth_ + 1;
    inside.outer_ = this;
    inside.folder_.set_known(folder_.is_known());
    std::vector<Command> commands = inside.run().commands;
    bool is_asked = script_ && result.has_hole() && inside.last_ends_at_ < commands.size();
    auto told = is_asked ? output_of(commands[inside.last_ends_at_]) : std::nullopt;
    append(told ? told->through(passage_of(begin, end)) : result);
    for (Command& command : commands) {
      command.base_known = command.base_known && folder_.is_known();
      inside_.push_back(std::move(command));
    }
  }

  // Where an expansion stands whose command does at [begin, end).
  Passage passage_of(std::size_t begin, std::size_t end) const {
    std::size_t open = text_[begin - 1] == '(' ? 2 : 1;
    TracedText whole = parts_.part(begin - open, end + 1 - (begin - open));
    Passage first = whole.first_origin();
    const Piece& last = whole.pieces().back();
    if (first.file != kNoFile && last.file == first.file) first.span.end = last.span.end;
    return first;
  }

  // What a command prints, where that is the folder of the script or the one that the script works in.
  TracedText result_of(const std::string& command) const {
    if (!script_) return TracedText::hole();
    if (auto own = script_->printed_by(command)) return *own;
    // What it makes lies elsewhere, whatever it is called.
    if (command == "mktemp" || command.starts_with("mktemp -")) return TracedText::plain("/tmp/made");
    const Base& base = folder_.base();
    bool here = command == "pwd" || command == "pwd -P";
    if (!here || !folder_.is_known() || base.space != Space::tree) return TracedText::hole();
    std::string folder = marked(Space::tree, base.folder);
    return base.anchor == kNoFile ? TracedText::plain(folder)
                                  : TracedText::folder(Piece::Nature::tree_folder, base.anchor, folder);
  }

  void append(const TracedText& text) {
    for (TracedText& word : words_) {
      // Values that double themselves name nothing.
      if (word.pieces().size() > kMostPieces || word.size() + text.size() > kLongestWord)
        word = TracedText::hole();
      else
        word.append(text);
    }
  }
  std::string word_text() const { return words_.front().text(); }

  void end_word() {
    if (!in_word_) return;
    bool is_next = false;
    for (TracedText& text : words_) {
      Word word{std::move(text), quoted_};
      word.is_next = std::exchange(is_next, true);
      if (redirecting_) {
        word.written = is_written_;
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
    command.handed_on = command.handed_on || writes_;
    writes_ = false;
    strip_keywords(command);
    take_assignments(command);
    take_declarations(command);
    if (script_) script_->read_loads(command);
    std::vector<Command> inside = std::exchange(inside_, {});
    bool is_empty =
        command.words.empty() && command.redirects.empty() && (!script_ || command.environment.empty());
    if (!is_empty) finish(std::move(command));
    std::move(inside.begin(), inside.end(), std::back_inserter(out_.commands));
  }

  void finish(Command command) {
    last_ends_at_ = out_.commands.size();
    command.base = folder_.base();
    command.deep_globs = deep_globs_;
    command.base_known = folder_.is_known();
    WorkingFolder::Rounds rounds = folder_.rounds();
    folder_.follow(command);
    bool is_option = command.name() == "shopt" && command.words.size() > 2;
    if (is_option && command.words[2].text.text() == "globstar")
      deep_globs_ = command.words[1].text.text() == "-s";
    copied_ += rounds.size() * command.words.size();
    if (rounds.empty() || copied_ > kMostCopied) {
      out_.commands.push_back(std::move(command));
      return;
    }
    std::vector<Command> each = command.by_round();
    for (std::size_t round = 0; round <= rounds.size(); ++round) {
      if (round > 0 && !rounds[round - 1]) continue;
      Command one = each[std::min(round, each.size() - 1)];
      if (round > 0) one.base = *rounds[round - 1];
      out_.commands.push_back(std::move(one));
    }
  }

  void strip_keywords(Command& command) {
    while (!command.words.empty()) {
      std::string first = command.words.front().text.text();
      if (first == "for" && command.words.size() > 2) {
        std::vector<TracedText> values;
        for (std::size_t i = 3; i < command.words.size(); ++i) values.push_back(command.words[i].text);
        variables_[command.words[1].text.text()] = expanded(values);
        folder_.enter_loop();
        command.words.erase(command.words.begin() + 1, command.words.begin() + 3 <= command.words.end()
                                                           ? command.words.begin() + 3
                                                           : command.words.end());
        return;
      }
      if (first == "@test") return strip_title(command);
      if (!words::shell::keywords().contains(first)) return;
      if (first == "while" || first == "until") folder_.enter_loop();
      if (first == "done") folder_.leave_loop();
      command.words.erase(command.words.begin());
    }
  }

  // @test "shows what there is" {
  static void strip_title(Command& command) {
    auto opens = [](const Word& word) { return !word.quoted && word.text.text() == "{"; };
    auto open = std::find_if(command.words.begin(), command.words.end(), opens);
    command.words.erase(command.words.begin(), open == command.words.end() ? open : open + 1);
  }

  // A wildcard in a loop's list stands for what it matches.
  std::vector<TracedText> expanded(const std::vector<TracedText>& values) const {
    std::vector<TracedText> out;
    for (const TracedText& value : values) {
      if (!has_wildcard(value.text())) {
        out.push_back(value);
        continue;
      }
      for (const RelPath& path : match_paths(tree_, folder_.base().folder, value.text())) {
        out.push_back(TracedText::plain(relative_text(folder_.base().folder, path)));
      }
    }
    return out;
  }

  // "export TABLES=$HERE/tables"
  void take_declarations(Command& command) {
    bool declares =
        command.words.size() > 1 && words::shell::declarations().contains(command.words.front().text.text());
    for (std::size_t i = 1; declares && i < command.words.size(); ++i) {
      Command one;
      one.words.push_back(command.words[i]);
      take_assignments(one);
      std::move(one.environment.begin(), one.environment.end(), std::back_inserter(command.environment));
    }
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

  Cutter parts_;
  std::size_t last_ends_at_ = 0;  // the place of the last command that is no other one's part
  std::string text_;
  const TreeReader& tree_;
  WorkingFolder folder_;
  const ScriptPlace* script_;  // where the text stands, if it is a script of its own
  std::vector<std::string> documents_;
  bool deep_globs_ = false;
  // Of words, for the rounds of loops: a long script in a long loop is read for the first round alone.
  static constexpr std::size_t kMostCopied = 50'000;
  std::size_t copied_ = 0;
  std::size_t at_ = 0;
  std::vector<TracedText> words_ = {TracedText()};
  bool in_word_ = false;
  bool quoted_ = false;
  bool redirecting_ = false, is_written_ = false;
  bool writes_ = false;  // the current command has a redirection of its output
  Command current_;
  std::map<std::string, std::vector<TracedText>> variables_;
  int depth_ = 0;
  const Lexer* outer_ = nullptr;  // of the command that this one stands in
  std::vector<Command> inside_;   // commands in words of the one that is read
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

std::vector<Command> Command::by_round() const {
  std::vector<std::vector<Word>> places;  // for each word that is written what stands there in each round
  std::size_t rounds = 1;
  for (const Word& word : words) {
    if (!word.is_next || places.empty()) places.emplace_back();
    places.back().push_back(word);
    places.back().back().is_next = false;
    rounds = std::max(rounds, places.back().size());
  }
  std::vector<Command> out;
  for (std::size_t round = 0; round < rounds; ++round) {
    Command& one = out.emplace_back(*this);
    one.words.clear();
    for (const std::vector<Word>& place : places)
      one.words.push_back(place[std::min(round, place.size() - 1)]);
  }
  return out;
}

CommandLine read(const TracedText& line, const Base& base, const TreeReader& tree) {
  return Lexer(line, base, tree).run();
}

CommandLine read_script(const TracedText& text, const Base& start, const Script& script,
                        const TreeReader& tree) {
  ScriptPlace place(script, tree);
  return Lexer(text, start, tree, &place).run();
}

}  // namespace yc::shell
