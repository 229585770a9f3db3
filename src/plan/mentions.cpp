#include "plan/mentions.h"

#include <fmt/format.h>

#include <algorithm>
#include <functional>
#include <set>
#include <unordered_set>

#include "base/char_class.h"
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
      if (!names_.contains(token)) continue;
      Span span = span_of(begin, begin + token.size());
      if (!found(span, token)) return;
    }
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

}  // namespace

std::vector<Blocker> unread_mentions(const std::vector<Mention>& mentions, const ClaimedFiles& claimed) {
  auto is_read = [&](const RelPath& path) {
    return std::any_of(claimed.begin(), claimed.end(), [&](const std::vector<RelPath>& files) {
      return std::binary_search(files.begin(), files.end(), path);
    });
  };
  std::vector<Blocker> out;
  for (const Mention& mention : mentions) {
    bool is_told = !out.empty() && out.back().file == mention.file;
    bool is_path = mention.named.str().find('/') != std::string::npos;
    if (is_told || !is_path || is_prose(mention.file) || is_read(mention.file)) continue;
    Blocker one;
    one.id = "unread-mention";
    one.file = mention.file;
    one.span = mention.span;
    one.reason = fmt::format("names {}, and this kind of file is not read", mention.named.str());
    one.next =
        "have it rewritten (--mentions), settle it for good if nothing comes of it (--settle FILE:LINE), let "
        "the project's "
        "own build judge (… -- BUILD COMMAND), or add --accept-unseen to move anyway, unproved";
    out.push_back(std::move(one));
  }
  return out;
}

}  // namespace yc
