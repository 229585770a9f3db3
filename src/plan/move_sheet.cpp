#include "plan/move_sheet.h"

#include <fmt/format.h>

#include <optional>

namespace yc {

namespace {

constexpr std::string_view kBlanks = " \t\r";

class LineReader {
 public:
  LineReader(std::string_view line, std::string_view sheet, std::size_t number)
      : line_(line), sheet_(sheet), number_(number) {}

  void skip_blanks() {
    while (at_ < line_.size() && kBlanks.find(line_[at_]) != std::string_view::npos) ++at_;
  }
  bool at_end() {
    skip_blanks();
    return at_ >= line_.size() || line_[at_] == '#';
  }
  bool take_arrow() {
    skip_blanks();
    if (line_.substr(at_, 2) != "->") return false;
    at_ += 2;
    return true;
  }
  Error fail(std::string message, std::string next = "write one move a line: old/path -> new/path") const {
    return Error{Failure::usage, fmt::format("{}:{}:{}", sheet_, number_, at_ + 1), std::move(message),
                 std::move(next)};
  }

  Result<std::string> path() {
    skip_blanks();
    if (at_ < line_.size() && line_[at_] == '"') return quoted();
    // A bare path ends where the arrow or a comment begins, each after a blank, or with the line.
    std::size_t begin = at_;
    while (at_ < line_.size()) {
      bool blank = kBlanks.find(line_[at_]) != std::string_view::npos;
      std::size_t next = line_.find_first_not_of(kBlanks, at_);
      if (blank && (next == std::string_view::npos || line_[next] == '#' || line_.substr(next, 2) == "->"))
        break;
      if (blank)
        return fail("a path with a blank in it needs quotes", "write \"like this\" -> \"like that\"");
      ++at_;
    }
    if (at_ == begin) return fail("a path is missing here");
    return std::string(line_.substr(begin, at_ - begin));
  }

 private:
  Result<std::string> quoted() {
    std::string out;
    for (++at_; at_ < line_.size(); ++at_) {
      char c = line_[at_];
      if (c == '"') {
        ++at_;
        if (out.empty()) return fail("a path is empty");
        return out;
      }
      if (c == '\\' && at_ + 1 < line_.size()) {
        char next = line_[++at_];
        if (next == 'n')
          out += '\n';
        else if (next == 't')
          out += '\t';
        else if (next == '"' || next == '\\')
          out += next;
        else
          return fail("only \\n, \\t, \\\" and \\\\ may follow a backslash in quotes");
        continue;
      }
      out += c;
    }
    return fail("this quote is not closed", "close it with \"");
  }

  std::string_view line_;
  std::string_view sheet_;
  std::size_t number_;
  std::size_t at_ = 0;
};

Result<RelPath> to_path(const std::string& text, const LineReader& reader) {
  if (text.front() == '/') return reader.fail("paths start from the root of the tree, without a leading /");
  auto path = RelPath::resolve({}, text);
  if (!path) return reader.fail("leads out of the tree: " + text);
  if (path->is_root()) return reader.fail("names the root of the tree");
  return *path;
}

}  // namespace

Result<std::vector<Move>> parse_sheet(std::string_view text, std::string_view name, const TreeReader& tree) {
  std::vector<Move> out;
  if (text.substr(0, 3) == "\xEF\xBB\xBF") text.remove_prefix(3);
  std::size_t number = 0;
  while (!text.empty()) {
    std::size_t end = std::min(text.find('\n'), text.size());
    LineReader line(text.substr(0, end), name, ++number);
    text.remove_prefix(std::min(end + 1, text.size()));
    if (line.at_end()) continue;
    auto from = line.path();
    if (!from) return from.error();
    if (!line.take_arrow()) return line.fail("an arrow -> is missing here");
    auto to = line.path();
    if (!to) return to.error();
    if (!line.at_end()) return line.fail("something follows the second path");
    auto old_path = to_path(*from, line);
    if (!old_path) return old_path.error();
    auto new_path = to_path(*to, line);
    if (!new_path) return new_path.error();
    if (from->back() == '/' && tree.is_file(*old_path))
      return line.fail(*from + " is a file, not a folder", "leave out the trailing /");
    out.push_back({*old_path, *new_path});
  }
  return out;
}

Result<std::vector<Move>> moves_from_arguments(const TreeReader& tree, const std::vector<RelPath>& from,
                                               const RelPath& to, bool into) {
  std::vector<Move> out;
  bool folder = into || to.is_root() || tree.is_folder(to);
  if (from.size() > 1 && !folder) {
    return Error{Failure::usage, to.str(), "several files can only be moved into a folder",
                 "end it with / to have the folder made"};
  }
  if (folder && tree.is_file(to)) return Error{Failure::usage, to.str(), "is a file, not a folder", ""};
  for (const RelPath& path : from) out.push_back({path, folder ? to / path.name() : to});
  return out;
}

std::string sheet_text(const RelPath& path) {
  const std::string& text = path.str();
  bool plain = text.find_first_of(" \t\n\"\\#") == std::string::npos && text.find("->") == std::string::npos;
  if (plain) return text;
  std::string out = "\"";
  for (char c : text) {
    if (c == '\n')
      out += "\\n";
    else if (c == '\t')
      out += "\\t";
    else if (c == '"' || c == '\\')
      out += std::string("\\") + c;
    else
      out += c;
  }
  return out + "\"";
}

}  // namespace yc
