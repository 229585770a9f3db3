#include "formats/qmake/qmake_script.h"

#include <algorithm>
#include <cctype>

#include "base/text.h"

namespace yc::qmake {

namespace {

constexpr std::size_t kMostFiles = 200;
constexpr std::size_t kDeepest = 16;  // calls within calls

bool in_name(char c) {
  return std::isalnum(static_cast<unsigned char>(c)) || c == '_' || c == '.';
}
std::uint32_t narrow(std::size_t offset) {
  return static_cast<std::uint32_t>(offset);
}

class Reader {
 public:
  Reader(const TreeReader& tree, const RelPath& project, GraphBuilder& out)
      : tree_(tree), project_(project), project_file_(out.files().index(project)), out_(out) {}

  Script run() {
    scan(project_);
    if (gave_up_)
      out_.incomplete(Unread::cut_short, "runaway-script", project_, std::nullopt,
                      "was given up: it runs too long");
    return std::move(script_);
  }

 private:
  // Where in which file the reader is.
  struct Cursor {
    RelPath path;
    FileIndex file;
    Bytes bytes;
    std::size_t at = 0;
    bool in_list = false;  // of an assignment, where a comment takes its line only
    bool is_end() const { return at >= bytes->size(); }
    char here() const { return (*bytes)[at]; }
    std::string_view rest() const { return std::string_view(*bytes).substr(at); }
  };

  void scan(const RelPath& path) {
    bool is_known = std::find(script_.files.begin(), script_.files.end(), path) != script_.files.end();
    gave_up_ = gave_up_ || script_.files.size() == kMostFiles;
    auto bytes = is_known || gave_up_ ? Result<Bytes>(Error{}) : tree_.read(path);
    if (!bytes) return;
    script_.files.push_back(path);
    out_.admit(path, (*bytes)->size());
    Cursor cursor{path, out_.files().index(path), *bytes, 0, false};
    while (!cursor.is_end() && !gave_up_) {
      gave_up_ = !out_.spend(1);
      statement(cursor);
    }
  }

  // The bytes of a backslash that continues a line, to behind the line's end; blanks and a comment may stand
  // behind it. 0 if `rest` begins with none.
  static std::size_t continuation(std::string_view rest) {
    if (!rest.starts_with('\\')) return 0;
    std::size_t next = rest.find_first_not_of(" \t\r", 1);
    if (next == std::string_view::npos) return rest.size();
    if (rest[next] == '#') next = std::min(rest.find('\n', next), rest.size() - 1);
    return rest[next] == '\n' || next + 1 == rest.size() ? next + 1 : 0;
  }

  // Skips blanks, line ends that are continued, and comments; true at the end of a line.
  static bool skip_blanks(Cursor& cursor) {
    while (!cursor.is_end()) {
      char c = cursor.here();
      std::string_view rest = cursor.rest();
      if (c == '#') {
        std::size_t end = std::min(cursor.bytes->find('\n', cursor.at), cursor.bytes->size());
        bool is_continued = cursor.in_list && begins_line(cursor);
        cursor.at = is_continued ? std::min(end + 1, cursor.bytes->size()) : end;
      } else if (std::size_t size = continuation(rest); size > 0) {
        cursor.at += size;
      } else if (c == ' ' || c == '\t' || c == '\r') {
        ++cursor.at;
      } else {
        return c == '\n';
      }
    }
    return true;
  }

  static bool begins_line(const Cursor& cursor) {
    return cursor.bytes->find_first_not_of(" \t", line_begin(*cursor.bytes, cursor.at)) == cursor.at;
  }

  void statement(Cursor& cursor) {
    cursor.in_list = false;
    if (skip_blanks(cursor)) {
      ++cursor.at;
      return;
    }
    std::size_t begin = cursor.at;
    while (!cursor.is_end() && (in_name(cursor.here()) || cursor.here() == '-')) ++cursor.at;
    std::string name = cursor.bytes->substr(begin, cursor.at - begin);
    skip_blanks(cursor);
    std::string_view rest = cursor.rest();
    if (!name.empty() && rest.starts_with("(")) {
      call(cursor, name, narrow(begin), 0);
      return;
    }
    bool is_two =
        rest.size() > 1 && rest[1] == '=' && std::string_view("+-*~").find(rest[0]) != std::string_view::npos;
    if (!name.empty() && (rest.starts_with("=") || is_two)) {
      cursor.at += is_two ? 2 : 1;
      assign(cursor, name, narrow(begin), is_two && rest[0] == '-');
    } else if (cursor.at == begin) {
      ++cursor.at;  // of a scope: ':', '{', '}', '!', '|'
    }
  }

  void assign(Cursor& cursor, const std::string& name, std::uint32_t site, bool removes) {
    cursor.in_list = true;
    std::vector<Word> found;
    while (!skip_blanks(cursor) && cursor.here() != '}') {
      std::size_t before = cursor.at;
      for (TracedText& text : word(cursor, " \t\r\n#", 0))
        found.push_back({std::move(text), cursor.file, {cursor.file, site}});
      if (cursor.at == before) ++cursor.at;
    }
    cursor.in_list = false;
    append(removes ? script_.arguments : script_.variables[name], std::move(found));
  }

  static void append(std::vector<Word>& to, std::vector<Word> more) {
    std::move(more.begin(), more.end(), std::back_inserter(to));
  }

  // name(a, b), at the parenthesis. Gives what the call stands for: of files(), its pattern, which a project
  // counts from its own folder.
  std::vector<TracedText> call(Cursor& cursor, const std::string& name, std::uint32_t site,
                               std::size_t depth) {
    std::vector<TracedText> given;
    bool is_prose =
        name == "message" || name == "warning" || name == "error" || name == "log" || name == "requires";
    ++cursor.at;
    while (!cursor.is_end() && cursor.here() != ')') {
      if (skip_blanks(cursor) && !cursor.is_end()) {
        ++cursor.at;  // a call may go over lines
        continue;
      }
      if (cursor.is_end() || cursor.here() == ')') break;
      std::size_t before = cursor.at;
      for (TracedText& text : word(cursor, " \t\r\n,)", depth + 1)) {
        Word argument{std::move(text), cursor.file, {cursor.file, site}};
        given.push_back(argument.text);
        if (name == "include") {
          include(argument);
        } else if (!is_prose) {
          script_.arguments.push_back(std::move(argument));
        }
      }
      if (cursor.at == before) ++cursor.at;
    }
    if (!cursor.is_end()) ++cursor.at;
    bool is_listing = name == "files" && given.size() == 1 && cursor.path == project_;
    return is_listing ? given : std::vector<TracedText>{TracedText::hole()};
  }

  void include(const Word& word) {
    std::string text = word.text.text();
    Place place = word.text.has_hole() ? Place() : place_of(out_.files().path(word.file).parent(), text);
    if (place.space != Space::tree || !tree_.is_file(place.path)) {
      if (word.text.has_hole()) script_.arguments.push_back(word);
      return;
    }
    script_.includes.push_back(word);
    scan(place.path);
  }

  // One word, up to one of `ends`; several where a variable that is a list stands for it alone.
  std::vector<TracedText> word(Cursor& cursor, std::string_view ends, std::size_t depth) {
    TracedText text;
    std::vector<TracedText> list;
    std::size_t parts = 0;
    auto take = [&](std::size_t end, WritingStyle style) {
      if (end > cursor.at) {
        Span span{narrow(cursor.at), narrow(end)};
        text.append(
            TracedText::literal(cursor.bytes->substr(cursor.at, end - cursor.at), cursor.file, span, style));
        ++parts;
      }
      cursor.at = end;
    };
    bool quoted = false;
    while (!cursor.is_end()) {
      char c = cursor.here();
      if (c == '"') {
        quoted = !quoted;
        ++cursor.at;
      } else if (!quoted && (ends.find(c) != std::string_view::npos || continuation(cursor.rest()) > 0)) {
        break;
      } else if (quoted && c == '\n') {
        break;
      } else if (cursor.rest().starts_with("$$")) {
        std::vector<TracedText> values = value(cursor, depth);
        ++parts;
        if (values.size() == 1) {
          text.append(values.front());
        } else if (parts == 1) {
          list = std::move(values);
        } else if (!values.empty()) {
          text.append(TracedText::hole());
        }
      } else {
        std::size_t end = cursor.at + 1;
        while (end < cursor.bytes->size() && (*cursor.bytes)[end] != '"' &&
               std::string_view(*cursor.bytes).substr(end, 2) != "$$" && (*cursor.bytes)[end] != '\n' &&
               (quoted || continuation(std::string_view(*cursor.bytes).substr(end)) == 0) &&
               (quoted || ends.find((*cursor.bytes)[end]) == std::string_view::npos))
          ++end;
        take(end, quoted ? kQuoted : kBare);
      }
    }
    if (parts == 1 && !list.empty()) return list;
    if (!list.empty()) return {TracedText::hole()};
    if (text.empty()) return {};
    return {std::move(text)};
  }

  // $$NAME, $${NAME}, $$(ENVIRONMENT), $$[property], $$function(…).
  std::vector<TracedText> value(Cursor& cursor, std::size_t depth) {
    std::size_t begin = cursor.at;
    cursor.at += 2;
    char open = cursor.is_end() ? ' ' : cursor.here();
    if (open == '(' || open == '[') {
      std::size_t close = cursor.bytes->find(open == '(' ? ')' : ']', cursor.at);
      cursor.at = close == std::string::npos ? cursor.bytes->size() : close + 1;
      return {TracedText::hole()};
    }
    if (open == '{') ++cursor.at;
    std::size_t from = cursor.at;
    while (!cursor.is_end() && in_name(cursor.here())) ++cursor.at;
    std::string name = cursor.bytes->substr(from, cursor.at - from);
    if (open == '{' && !cursor.is_end() && cursor.here() == '}') ++cursor.at;
    if (!cursor.is_end() && cursor.here() == '(') {
      if (depth == kDeepest) {
        gave_up_ = true;
        cursor.at = cursor.bytes->size();
      } else {
        return call(cursor, name, narrow(begin), depth);
      }
      return {TracedText::hole()};
    }
    return named(name, {cursor.file, {narrow(begin), narrow(cursor.at)}}, cursor.path);
  }

  std::vector<TracedText> named(const std::string& name, const Passage& passage, const RelPath& path) {
    if (name == "PWD") return {folder(Piece::Nature::tree_folder, Space::tree, passage.file, path.parent())};
    if (name == "_PRO_FILE_PWD_")
      return {folder(Piece::Nature::tree_folder, Space::tree, project_file_, project_.parent())};
    if (name == "_PRO_FILE_") return {TracedText::hole()};
    if (name == "OUT_PWD")
      return {folder(Piece::Nature::build_folder, Space::build, project_file_, project_.parent())};
    auto known = script_.variables.find(name);
    if (known == script_.variables.end()) return {TracedText::hole()};
    std::vector<TracedText> out;
    for (const Word& word : known->second) out.push_back(word.text.through(passage));
    gave_up_ = gave_up_ || !out_.spend(out.size());
    if (gave_up_) return {};
    return out;
  }

  static TracedText folder(Piece::Nature nature, Space space, FileIndex anchor, const RelPath& path) {
    return TracedText::folder(nature, anchor, marked(space, path));
  }

  const TreeReader& tree_;
  RelPath project_;
  FileIndex project_file_;
  GraphBuilder& out_;
  Script script_;
  bool gave_up_ = false;
};

}  // namespace

Script read_script(const TreeReader& tree, const RelPath& path, GraphBuilder& out) {
  return Reader(tree, path, out).run();
}

}  // namespace yc::qmake
