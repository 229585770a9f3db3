#include "formats/go/go_commands.h"

#include <algorithm>

#include "base/text.h"
#include "formats/shell/command_line.h"
#include "words/go.h"

namespace yc::go {

namespace {

// What stands before a command in a recipe, a container file or a pipeline.
std::size_t command_begin(std::string_view line) {
  std::size_t at = 0;
  for (bool any = true; any;) {
    any = false;
    while (at < line.size() && (is_blank(line[at]) || line[at] == '@' || line[at] == '-' || line[at] == '+'))
      ++at;
    for (std::string_view head : {"RUN ", "run: ", "script: ", "cmd: "}) {
      if (!line.substr(at).starts_with(head)) continue;
      at += head.size();
      any = true;
    }
  }
  return at;
}

// "go", or a variable called so.
bool is_go(std::string_view bytes, const shell::Command& command) {
  if (command.words.size() < 2) return false;
  if (command.name() == "go") return true;
  Passage verb = command.words[1].text.first_origin();
  std::string_view before = trimmed(bytes.substr(0, verb.span.begin));
  return command.words[0].text.has_hole() &&
         (before.ends_with("$(GO)") || before.ends_with("${GO}") || before.ends_with("$GO"));
}

// Whether each line of a file is started in the file's own folder, as far as can be seen: a recipe's are,
// those of a script only before it goes elsewhere, those of a container where all of the folder is copied to
// where it works.
enum class Lines : std::uint8_t { apart, in_turn, nowhere_known };
Lines command_lines(const RelPath& path, std::string_view bytes) {
  std::string_view name = path.name();
  if (path.extension() == ".mk" || name.find("akefile") != std::string_view::npos) return Lines::apart;
  bool is_container =
      name.find("ockerfile") != std::string_view::npos || name.find("ontainerfile") != std::string_view::npos;
  if (is_container) {
    bool is_copied = bytes.find("COPY . .") != std::string_view::npos;
    return is_copied ? Lines::in_turn : Lines::nowhere_known;
  }
  return bytes.find("working-directory") == std::string_view::npos ? Lines::in_turn : Lines::nowhere_known;
}

class Finder {
 public:
  Finder(std::string_view bytes, FileIndex file, const Base& start, const TreeReader& tree)
      : bytes_(bytes), file_(file), start_(start), tree_(tree) {}

  std::vector<PackageWord> run(Lines lines) {
    if (lines == Lines::nowhere_known) return {};
    std::size_t end = 0;  // of what was read
    bool has_gone = false;
    for_each_line(bytes_, [&](std::string_view line, std::size_t begin) {
      if (begin < end) return;
      end = begin + line.size();
      while (end < bytes_.size() && end > 0 && bytes_[end - 1] == '\\') {
        std::size_t next = bytes_.find('\n', end + 1);
        end = next == std::string_view::npos ? bytes_.size() : next;
      }
      std::string_view text = bytes_.substr(begin, end - begin);
      if (has_gone) return;
      has_gone = lines == Lines::in_turn && text.find("cd ") != std::string_view::npos;
      if (text.find("go ") == std::string_view::npos && text.find("GO") == std::string_view::npos) return;
      std::size_t from = begin + command_begin(text);
      Span span = span_of(from, end);
      TracedText literal = TracedText::literal(std::string(cut(bytes_, span)), file_, span);
      for (const shell::Command& command : shell::read(literal, start_, tree_).commands) take(command);
    });
    return std::move(out_);
  }

 private:
  void take(const shell::Command& command) {
    if (!command.base_known || !is_go(bytes_, command)) return;
    if (!words::go::verbs().contains(command.words[1].text.text())) return;
    PackageWord word;
    word.base = command.base;
    // A hole has no place of its own.
    Span verb = command.words[1].text.first_origin().span;
    word.command = verb.begin;
    std::uint32_t last = verb.end;
    bool any = false;
    for (std::size_t i = 2; i < command.words.size(); ++i) {
      const TracedText& text = command.words[i].text;
      std::string plain = text.text();
      Passage at = text.first_origin();
      if (at.file != file_ || text.pieces().size() != 1) {
        any = any || !plain.starts_with('-');  // nobody knows what it names
        continue;
      }
      // A program's own arguments come behind its package.
      if (any && command.words[1].text.text() == "run") break;
      last = std::max(last, at.span.end + (command.words[i].quoted ? 1 : 0));
      if (plain.starts_with('-')) {
        // "-ldflags" and "--ldflags" are one.
        std::string flag = plain.substr(std::min(plain.find_first_not_of('-'), plain.size()));
        bool takes_next = words::go::flags_with_values().contains(flag);
        if (takes_next && i + 1 < command.words.size()) {
          ++i;
          Passage value = command.words[i].text.first_origin();
          if (value.file == file_) last = std::max(last, value.span.end + (command.words[i].quoted ? 1 : 0));
        }
        continue;
      }
      any = true;
      bool is_folder = plain == "." || plain.starts_with("./") || plain.starts_with("..");
      if (!is_folder || plain.ends_with("...") || plain.ends_with(".go")) continue;
      word.text = plain;
      word.span = at.span;
      out_.push_back(word);
      ++word.number;
    }
    if (any) return;
    word.is_implied = true;
    word.span = {last - 1, last};
    word.text = std::string(cut(bytes_, word.span));
    out_.push_back(word);
  }

  std::string_view bytes_;
  FileIndex file_;
  const Base& start_;
  const TreeReader& tree_;
  std::vector<PackageWord> out_;
};

}  // namespace

std::vector<PackageWord> package_words(const RelPath& path, std::string_view bytes, FileIndex file,
                                       const Base& start, const TreeReader& tree) {
  return Finder(bytes, file, start, tree).run(command_lines(path, bytes));
}

}  // namespace yc::go
