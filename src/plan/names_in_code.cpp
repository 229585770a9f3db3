#include "plan/names_in_code.h"

#include <fmt/format.h>

#include <algorithm>
#include <cctype>
#include <map>
#include <optional>
#include <set>
#include <unordered_set>

#include "base/char_class.h"
#include "base/name_search.h"
#include "formats/unread_languages.h"
#include "plan/handed_folders.h"
#include "words/plan.h"

namespace yc {

namespace {

constexpr std::uint64_t kLargestSource = 4'000'000;
constexpr std::size_t kShortestName = 4;  // of names: "a.b" may mean anything

constexpr CharClass kCharsOfPaths = CharClass::alphanumeric_and("_./-+@");

// Data that a program may open by their name. What a build tool looks for is another matter.
bool is_data(const RelPath& path) {
  return !is_source_code(path) && !path.extension().empty() && path.name().size() >= kShortestName &&
         !words::plan::document_endings().contains(path.extension()) &&
         !words::plan::names_that_tools_look_for().contains(path.name());
}

// A string that ends in a name: the parts of it that are a path.
struct Found {
  Span span;
  std::string path;
  bool is_plain = false;  // it is all of the string
  bool is_resource =
      false;  // what a program carries within itself has such a name (Qt, "The Qt Resource System")
};

// Code that could open data: in a language that is read, or in one whose words are not even told apart.
bool is_code(const RelPath& path) {
  return is_source_code(path) || unread_source_language(path).has_value();
}

// Whether a place is behind the beginning of a comment on its line.
bool is_in_comment(std::string_view text, std::size_t at) {
  // A line that was put together by a program may be all of the text.
  constexpr std::size_t kLongestLine = 1'000;
  std::string_view line = text.substr(at - std::min(at, kLongestLine), std::min(at, kLongestLine));
  line.remove_prefix(line.rfind('\n') + 1);  // npos + 1 is the line's begin
  line.remove_prefix(std::min(line.find_first_not_of(" \t"), line.size()));
  bool is_whole =
      line.starts_with("//") || line.starts_with("#") || line.starts_with("*") || line.starts_with("/*");
  return is_whole || line.find(" //") != line.npos || line.find(" # ") != line.npos;
}

// Whether something stands right before a string that it is glued to: dir + "/low.txt", DIR "/low.txt".
bool is_glued(std::string_view text, std::size_t quote) {
  std::size_t last = quote == 0 ? text.npos : text.find_last_not_of(" \t\r\n", quote - 1);
  if (last == text.npos) return false;
  char before = text[last];
  bool is_name = std::isalnum(static_cast<unsigned char>(before)) || before == '_' || before == ')';
  // b"low.txt": a letter that belongs to the string.
  return before == '+' || before == '/' || (is_name && last + 1 < quote);
}

// What stands in a string before a place, from the quote on.
std::string_view head_of_string(std::string_view text, std::size_t at) {
  std::size_t begin = at;
  while (begin > 0 && std::string_view("\"'`\n").find(text[begin - 1]) == std::string_view::npos) --begin;
  return text.substr(begin, at - begin);
}

constexpr std::string_view kQuotes = "\"'`";
// Of languages whose strings are not told apart, also the words of lists: qw(low.txt high.txt).
constexpr std::string_view kEndsOfWords = "\"'` \t\r\n)]}|", kBeginsOfWords = "\"'` \t\r\n([{|<";

// The strings of a text that end in `name`, as what is quoted, or as what stands in it behind a value:
// "low.txt", "/low.txt", "%s/low.txt", `${dir}/low.txt`. What stands behind the name is one of `closers`.
std::vector<Found> strings_that_end_in(std::string_view text, std::string_view name,
                                       std::string_view closers) {
  std::vector<Found> out;
  for (std::size_t at = text.find(name); at != text.npos; at = text.find(name, at + 1)) {
    std::size_t end = at + name.size();
    bool is_closed = end < text.size() && closers.find(text[end]) != closers.npos;
    if (!is_closed || is_in_comment(text, at)) continue;
    std::size_t begin = at;
    while (begin > 0 && kCharsOfPaths.holds(text[begin - 1])) --begin;
    std::string_view head = head_of_string(text, at);
    if (head_of_string(text, begin).find("://") != text.npos || head.find("://") != text.npos) continue;
    bool is_resource = head.starts_with(":/") || head.starts_with("qrc:/");
    char before = begin > 0 ? text[begin - 1] : ' ';
    // "$dir/low.txt": the name of a variable is no part of a path.
    bool is_word = closers == kEndsOfWords && kBeginsOfWords.find(before) != kBeginsOfWords.npos;
    bool is_whole = before == text[end] || is_word;
    // By itself a path from the root of something: of a site, or of the system.
    if (is_whole && text[begin] == '/' && !is_glued(text, begin - 1)) continue;
    // Behind a value: what stands before the first slash is a part of it.
    if (!is_whole && before != '}' && before != ')') begin = text.find('/', begin);
    if (begin > at) continue;
    bool is_plain = is_whole && text[begin] != '/';
    while (text[begin] == '/' || text.substr(begin, 2) == "./") begin += text[begin] == '/' ? 1 : 2;
    std::size_t up = text.substr(begin, at - begin).rfind("../");
    if (up != text.npos) begin += up + 3;
    if (begin == at || text[at - 1] == '/')
      out.push_back(
          {span_of(begin, end), std::string(text.substr(begin, end - begin)), is_plain, is_resource});
  }
  return out;
}

// What stands before the `closers` in a text, back to a slash or to what is no part of a path. One pass: with
// many names, most of them are nowhere in it.
std::unordered_set<std::string_view> words_before(std::string_view text, std::string_view closers) {
  std::unordered_set<std::string_view> out;
  for (std::size_t end = text.find_first_of(closers); end != text.npos;
       end = text.find_first_of(closers, end + 1)) {
    std::size_t begin = end;
    while (begin > 0 && text[begin - 1] != '/' && kCharsOfPaths.holds(text[begin - 1])) --begin;
    if (begin < end) out.insert(text.substr(begin, end - begin));
  }
  return out;
}

// Whether a name can stand before a quote, given these words.
bool may_stand(const std::unordered_set<std::string_view>& words, std::string_view name) {
  bool is_word = std::all_of(name.begin(), name.end(), [](char c) { return kCharsOfPaths.holds(c); });
  return !is_word || words.contains(name);
}

// Whether a string that begins behind a quote goes on from a folder that is climbed to: path / ".." / "low".
bool climbs_before(std::string_view text, std::size_t quote) {
  std::size_t last = quote == 0 ? text.npos : text.find_last_not_of(" \t\r\n,/+", quote - 1);
  if (last == text.npos || last < 3 || (text[last] != '"' && text[last] != '\'')) return false;
  return text.substr(last - 2, 2) == ".." && text[last - 3] == text[last];
}

class NamesInCode {
 public:
  NamesInCode(const TreeReader& tree, const ReferenceGraph& graph, const ReferenceGraph& now,
              const MoveSet& moves)
      : tree_(tree), graph_(graph), now_(now), moves_(moves) {
    for (const Move& move : moves.files()) {
      if (is_data(move.from)) data_[std::string(move.from.name())].push_back(move);
    }
    for (const Move& move : moves.requested()) {
      if (tree.is_folder(move.from)) folders_[std::string(move.from.name())].push_back(move);
    }
  }

  std::vector<Blocker> run() {
    std::vector<std::string> names;
    for (const auto& [name, moved] : data_) names.push_back(name);
    for (const auto& [name, moved] : folders_) names.push_back(name);
    if (names.empty()) return {};
    NameSearch search(names);
    note_known();
    std::vector<Blocker> out;
    for (const RelPath& path : tree_.files()) {
      const Entry* entry = is_code(path) ? tree_.find(path) : nullptr;
      bool is_looked_at = entry && entry->kind == EntryKind::file && entry->size <= kLargestSource &&
                          !entry->guarded && !entry->ignored && tree_.may_hold(path, search);
      if (!is_looked_at) continue;
      if (auto item = in_source(path)) out.push_back(std::move(*item));
    }
    return out;
  }

 private:
  // What readers have read, by file: whatever it leads to, that is known.
  void note_known() {
    auto note = [&](const TracedText& text) {
      for (const Piece& piece : text.pieces()) {
        if (piece.has_origin()) known_[piece.file].push_back(piece.span);
      }
    };
    for (const Reference& reference : graph_.references) {
      note(reference.text);
      // What a command names by itself goes by its name alone from there on.
      for (const Target& target : reference.targets) {
        if (stands_in_commands(reference) && reference.role == Role::argument) named_.insert(target.path);
        if (is_in_resources(reference)) carried_.insert(target.path);
      }
    }
    for (const Hole& hole : graph_.holes) note(hole.text);
  }

  // A list of resources gives files names of their own, which stay.
  bool is_in_resources(const Reference& reference) const {
    FileIndex file = standing_of(reference).file;
    return file != kNoFile && graph_.files.path(file).extension() == ".qrc";
  }

  bool is_known(const RelPath& path, const Span& span) const {
    FileIndex file = graph_.files.find(path);
    auto spans = file == kNoFile ? known_.end() : known_.find(file);
    return spans != known_.end() &&
           std::any_of(spans->second.begin(), spans->second.end(),
                       [&](const Span& one) { return one.begin < span.end && span.begin < one.end; });
  }

  // Whether what `text`, the end of the path, means from some folder, it means from there no more.
  bool is_lost(const Move& move, const RelPath& source, const std::string& text) const {
    std::string from = move.from.str();
    bool is_end = from == text || (from.size() > text.size() && from.ends_with(text) &&
                                   from[from.size() - text.size() - 1] == '/');
    if (!is_end) return false;
    RelPath folder;
    if (from.size() > text.size())
      folder = RelPath::from_normal(from.substr(0, from.size() - text.size() - 1));
    auto image = moves_.map_folder(folder);
    if (image && move.to.is_within(*image) && move.to.below(*image) == text) return false;
    bool is_in_step =
        relative_text(source.parent(), move.from) == relative_text(moves_.map_file(source).parent(), move.to);
    bool keeps_name = move.to.str().ends_with("/" + text) || move.to.str() == text;
    bool is_told =
        named_.contains(move.from) || (is_installed(graph_, move.from) && is_installed(now_, move.to));
    return !is_in_step && !(keeps_name && is_told);
  }

  std::optional<Blocker> in_source(const RelPath& path) const {
    auto bytes = tree_.read(path);
    if (!bytes || (*bytes)->find('\0') != std::string::npos) return std::nullopt;
    std::string_view closers = is_source_code(path) ? kQuotes : kEndsOfWords;
    std::unordered_set<std::string_view> words = words_before(**bytes, closers);
    for (const auto& [name, moved] : folders_) {
      if (!may_stand(words, name)) continue;
      // The name of a folder may be any word, but for where one climbs before it.
      for (const Found& found : strings_that_end_in(**bytes, name, closers)) {
        bool counts = found.path == name && found.is_plain && climbs_before(**bytes, found.span.begin - 1) &&
                      !is_known(path, found.span);
        auto is_lost_here = [&](const Move& move) { return is_lost(move, path, found.path); };
        auto lost = counts ? std::find_if(moved.begin(), moved.end(), is_lost_here) : moved.end();
        if (lost != moved.end()) return told(path, found, lost->from);
      }
    }
    for (const auto& [name, moved] : data_) {
      if (!may_stand(words, name)) continue;
      for (const Found& found : strings_that_end_in(**bytes, name, closers)) {
        auto is_lost_here = [&](const Move& move) {
          // From the root of the tree: that was read, and taken for something else.
          bool is_from_root = found.is_plain && is_source_code(path) && move.from.str() == found.path &&
                              found.path.find('/') != std::string::npos;
          bool is_carried = found.is_resource && carried_.contains(move.from);
          return !is_from_root && !is_carried && is_lost(move, path, found.path);
        };
        auto lost = std::find_if(moved.begin(), moved.end(), is_lost_here);
        if (lost == moved.end() || is_known(path, found.span)) continue;
        return told(path, found, lost->from);
      }
    }
    return std::nullopt;
  }

  static Blocker told(const RelPath& path, const Found& found, const RelPath& meant) {
    Blocker item;
    item.id = "name-in-code";
    item.file = path;
    item.span = found.span;
    item.text = found.path;
    item.reason = fmt::format("may mean {}, in a folder that only the program knows", meant.str());
    item.next =
        "let the project's own build judge (… -- BUILD COMMAND), settle it for good if it means another file "
        "(--settle FILE:LINE), or add --accept-unseen to move anyway, unproved";
    return item;
  }

  const TreeReader& tree_;
  const ReferenceGraph& graph_;
  const ReferenceGraph& now_;
  const MoveSet& moves_;
  std::map<std::string, std::vector<Move>> data_;  // that move, by their names
  std::map<std::string, std::vector<Move>> folders_;
  std::map<FileIndex, std::vector<Span>> known_;
  std::set<RelPath> named_;    // by scripts
  std::set<RelPath> carried_;  // by programs, as resources
};

}  // namespace

std::vector<Blocker> names_left_in_code(const TreeReader& tree, const ReferenceGraph& graph,
                                        const ReferenceGraph& now, const MoveSet& moves) {
  return NamesInCode(tree, graph, now, moves).run();
}

}  // namespace yc
