#include "plan/mentions.h"

#include <fmt/format.h>

#include <algorithm>
#include <functional>
#include <set>
#include <unordered_set>

#include "base/char_class.h"
#include "base/name_search.h"
#include "words/plan.h"

namespace yc {

namespace {

constexpr std::uint64_t kLargestMention = 1'000'000;
constexpr std::size_t kMostPerFile = 20;
constexpr std::size_t kMostHeads = 4, kShortestHead = 4;  // to search for them rather than for tokens

constexpr CharClass kPathChars = CharClass::alphanumeric_and("_./-+");

bool is_path_char(char c) {
  return kPathChars.holds(c);
}

// "${path.module}/files/a.txt", "$HERE/files/a.txt": cuts off what is no part of the path behind a variable,
// and tells its size. A name alone may be any.
std::size_t head_behind_variable(std::string& token, char before) {
  bool is_closed = before == '}' || before == ')' || before == '%';
  std::size_t slash = before == '$'                         ? token.find('/')
                      : is_closed && token.starts_with("/") ? 0
                                                            : std::string::npos;
  if (slash == std::string::npos || token.find('/', slash + 1) == std::string::npos) return 0;
  token.erase(0, slash + 1);
  return slash + 1;
}

// Hands each word of a text that has the look of a path to `found`, which tells whether to go on.
void each_path(const std::string& text, const std::function<bool(Span, const std::string&)>& found) {
  for (std::size_t at = 0; at < text.size();) {
    if (!is_path_char(text[at])) {
      ++at;
      continue;
    }
    std::size_t begin = at;
    bool dotted = false;
    while (at < text.size() && is_path_char(text[at])) {
      dotted = dotted || text[at] == '.' || text[at] == '/';
      ++at;
    }
    if (!dotted) continue;
    std::string token = text.substr(begin, at - begin);
    begin += head_behind_variable(token, begin > 0 ? text[begin - 1] : ' ');
    while (token.substr(0, 2) == "./") token.erase(0, 2), begin += 2;
    while (!token.empty() && (token.back() == '.' || token.back() == '/')) token.pop_back();
    if (!found(span_of(begin, begin + token.size()), token)) return;
  }
}

// Where names could stand in a text. What moves lies below few paths, so that a text is mostly leapt through
// in search of these; with many of them every token is looked at.
class MentionFinder {
 public:
  explicit MentionFinder(const MoveSet& moves) {
    for (const Move& move : moves.files()) names_.insert(move.from.str());
    for (const Move& move : moves.requested()) {
      if (move.from.str().find('/') != std::string::npos) names_.insert(move.from.str());
      heads_.insert(move.from.str());
    }
    // A name without a folder must at least look like a file's to be told from a word.
    std::erase_if(names_,
                  [](const std::string& name) { return name.find_first_of("/.") == std::string::npos; });
    if (heads_.size() > kMostHeads || std::any_of(heads_.begin(), heads_.end(), [](const auto& head) {
          return head.size() < kShortestHead;
        }))
      return;
    for (const std::string& head : heads_) searchers_.emplace_back(head.begin(), head.end());
  }

  // Hands each place of a name to `found`, which tells whether to go on.
  void find(const std::string& text, const std::function<bool(Span, const std::string&)>& found) const {
    if (!searchers_.empty() && !has_head(text)) return;
    each_path(text, [&](Span span, const std::string& token) {
      return !names_.contains(token) || found(span, token);
    });
  }

 private:
  bool has_head(const std::string& text) const {
    return std::any_of(searchers_.begin(), searchers_.end(), [&](const auto& searcher) {
      return std::search(text.begin(), text.end(), searcher) != text.end();
    });
  }

  std::unordered_set<std::string> names_;
  std::set<std::string> heads_;
  std::vector<std::boyer_moore_horspool_searcher<std::string::const_iterator>> searchers_;
};

}  // namespace

std::vector<Mention> find_mentions(const TreeReader& tree, const ReferenceGraph& graph, const MoveSet& moves,
                                   const IsFree& is_free) {
  MentionFinder finder(moves);
  std::vector<std::vector<Span>> known(graph.files.size());  // that readers have read, by file
  for (const Reference& reference : graph.references) {
    for (const Piece& piece : reference.text.pieces()) {
      if (piece.has_origin()) known[static_cast<std::size_t>(piece.file)].push_back(piece.span);
    }
  }
  std::vector<Mention> out;
  for (const RelPath& path : tree.files()) {
    if (is_free && is_free(path)) continue;
    const Entry* entry = tree.find(path);
    bool is_looked_at =
        entry->kind == EntryKind::file && entry->size <= kLargestMention && !entry->guarded && !entry->absent;
    if (!is_looked_at) continue;
    auto bytes = tree.read(path);
    if (!bytes) continue;
    std::vector<Mention> here;
    finder.find(**bytes, [&](Span span, const std::string& token) {
      FileIndex file = graph.files.find(path);
      auto meets = [&](const Span& other) { return other.begin < span.end && span.begin < other.end; };
      bool read = file != kNoFile && std::any_of(known[static_cast<std::size_t>(file)].begin(),
                                                 known[static_cast<std::size_t>(file)].end(), meets);
      if (!read) here.push_back({path, span, RelPath::from_normal(token)});
      return here.size() < kMostPerFile;
    });
    if (here.empty() || (*bytes)->find('\0') != std::string::npos) continue;
    out.insert(out.end(), here.begin(), here.end());
  }
  return out;
}

namespace {

// Whether what stands in a file is for people, or comes to nothing otherwise, by its name.
bool is_prose(const RelPath& path) {
  if (words::plan::prose_endings().contains(path.extension())) return true;
  const auto& names = words::plan::prose_names();
  return std::any_of(names.begin(), names.end(), [&](std::string_view name) {
    return path.name().starts_with(name) &&
           (path.name().size() == name.size() ||
            !std::isalpha(static_cast<unsigned char>(path.name()[name.size()])));
  });
}

// Whether some format claims a file.
bool any_format_claims(const ClaimedFiles& claimed, const RelPath& path) {
  return std::any_of(claimed.begin(), claimed.end(), [&](const std::vector<RelPath>& files) {
    return std::binary_search(files.begin(), files.end(), path);
  });
}

Blocker unread_mention(const RelPath& file, Span span, const RelPath& named, std::string next) {
  Blocker out;
  out.id = "unread-mention";
  out.file = file;
  out.span = span;
  out.reason = fmt::format("names {}, and this kind of file is not read", named.str());
  out.next =
      std::move(next) +
      "settle it for good if nothing comes of it (--settle FILE:LINE), let the project's own build judge "
      "(… -- BUILD COMMAND), or add --accept-unseen to move anyway, unproved";
  return out;
}

// Whether a file still finds another by the same path from its own folder.
bool go_in_step(const MoveSet& moves, const RelPath& user, const RelPath& named) {
  RelPath folder = moves.map_file(user).parent(), now = moves.map_file(named);
  return relative_text(user.parent(), named) == relative_text(folder, now);
}

}  // namespace

std::vector<Blocker> unread_mentions(const std::vector<Mention>& mentions, const ClaimedFiles& claimed) {
  std::vector<Blocker> out;
  for (const Mention& mention : mentions) {
    bool is_told = !out.empty() && out.back().file == mention.file;
    bool is_path = mention.named.str().find('/') != std::string::npos;
    if (is_told || !is_path || is_prose(mention.file) || any_format_claims(claimed, mention.file)) continue;
    out.push_back(
        unread_mention(mention.file, mention.span, mention.named, "have it rewritten (--mentions), "));
  }
  return out;
}

std::vector<Blocker> unread_neighbours(const TreeReader& tree, const MoveSet& moves,
                                       const ClaimedFiles& claimed) {
  std::vector<std::string> moved_names;
  std::unordered_set<RelPath> around;  // folders above what moves
  for (const Move& move : moves.files()) {
    moved_names.emplace_back(move.from.name());
    for (RelPath up = move.from.parent(); !up.is_root() && around.insert(up).second;) up = up.parent();
  }
  NameSearch search(moved_names);
  std::vector<Blocker> out;
  for (const RelPath& path : tree.files()) {
    RelPath folder = path.parent();
    bool may_name =
        !folder.is_root() && around.contains(folder) && (moves.moves(path) || tree.may_hold(path, search));
    if (!may_name || is_prose(path) || any_format_claims(claimed, path)) continue;
    const Entry* entry = tree.find(path);
    if (entry->kind != EntryKind::file || entry->size > kLargestMention || entry->guarded) continue;
    auto bytes = tree.read(path);
    if (!bytes || (*bytes)->find('\0') != std::string::npos) continue;
    each_path(**bytes, [&](Span span, const std::string& token) {
      auto named = RelPath::resolve(folder, token);
      bool is_there = named && *named != path && tree.is_file(*named) && !tree.find(*named)->ignored;
      if (!is_there || go_in_step(moves, path, *named)) return true;
      out.push_back(unread_mention(path, span, *named, ""));
      return false;
    });
  }
  return out;
}

}  // namespace yc
