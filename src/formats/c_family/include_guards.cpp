#include "formats/c_family/include_guards.h"

#include <algorithm>
#include <set>
#include <unordered_map>

#include "base/text.h"
#include "formats/c_family/forwarding_headers.h"
#include "formats/c_family/include_resolver.h"

namespace yc::c_family {

namespace {

bool in_name(char c) {
  return (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z') || (c >= '0' && c <= '9') || c == '_';
}

// A path as guards spell it.
std::string spelled(std::string_view path) {
  std::string out;
  for (char c : path) {
    bool lower = c >= 'a' && c <= 'z';
    out += lower ? static_cast<char>(c - 'a' + 'A') : in_name(c) ? c : '_';
  }
  return out;
}

std::string last_components(const RelPath& path, std::size_t count) {
  std::vector<std::string_view> parts = path.components();
  std::string out;
  for (std::size_t i = parts.size() - std::min(count, parts.size()); i < parts.size(); ++i)
    out += (out.empty() ? "" : "/") + std::string(parts[i]);
  return out;
}

// The words of the next preprocessing directive from `at`; comments and blank lines are passed over. Empty at
// any other text.
std::vector<std::string> next_directive(std::string_view bytes, std::size_t& at) {
  if (at == 0 && bytes.starts_with("\xEF\xBB\xBF")) at = 3;
  at = behind_space(bytes, at);
  std::vector<std::string> words;
  if (at >= bytes.size() || bytes[at] != '#') return words;
  std::size_t end = std::min(bytes.find('\n', at), bytes.size());
  for (std::size_t i = at + 1; i < end;) {
    std::size_t stop = i;
    while (stop < end && in_name(bytes[stop])) ++stop;
    if (stop > i) words.emplace_back(bytes.substr(i, stop - i));
    i = std::max(stop, i + 1);
  }
  at = end;
  return words;
}

std::vector<Span> whole_words(std::string_view bytes, const std::string& word) {
  std::vector<Span> out;
  for (std::size_t at = 0; (at = bytes.find(word, at)) != std::string_view::npos; at += word.size()) {
    std::size_t end = at + word.size();
    bool whole = (at == 0 || !in_name(bytes[at - 1])) && (end == bytes.size() || !in_name(bytes[end]));
    if (whole) out.push_back(span_of(at, end));
  }
  return out;
}

struct Candidate {
  RelPath path;
  std::string guard, wanted;
};

}  // namespace

std::optional<std::string> guard_of(std::string_view bytes) {
  std::size_t at = 0;
  std::vector<std::string> test = next_directive(bytes, at), define = next_directive(bytes, at);
  bool tests = test.size() == 2 && test[0] == "ifndef";
  if (test.size() == 3 && test[0] == "if" && test[1] == "defined") {
    tests = true;
    test.erase(test.begin() + 1);
  }
  bool is_guard = tests && define.size() >= 2 && define[0] == "define" && define[1] == test[1];
  return is_guard ? std::optional(test[1]) : std::nullopt;
}

std::optional<GuardShape> shape_of(const std::string& guard, const RelPath& path) {
  for (std::size_t count = path.components().size(); count > 0; --count) {
    std::string text = spelled(last_components(path, count));
    std::size_t at = guard.find(text);
    if (at == std::string::npos) continue;
    // What stands before a name must end where the name begins.
    if (at > 0 && guard[at - 1] != '_') continue;
    return GuardShape{guard.substr(0, at), guard.substr(at + text.size()), count};
  }
  return std::nullopt;
}

std::string guard_for(const GuardShape& shape, const RelPath& old_path, const RelPath& new_path) {
  RelPath root = old_path;
  for (std::size_t i = 0; i < shape.components; ++i) root = root.parent();
  // Below the folder that the old guard counted from, the new one counts from there too.
  bool below = shape.components > 1 && new_path.is_within(root);
  std::string text = below ? std::string(new_path.below(root)) : last_components(new_path, shape.components);
  return shape.lead + spelled(text) + shape.tail;
}

std::vector<Proposal> follow_guards(const TreeReader& tree, const MoveSet& moves) {
  std::vector<Candidate> candidates;
  std::set<std::string, std::less<>> names;  // old guards and new ones
  for (const Move& move : moves.files()) {
    if (!is_header(move.from)) continue;
    auto bytes = tree.read(move.from);
    auto guard = bytes ? guard_of(**bytes) : std::nullopt;
    auto shape = guard ? shape_of(*guard, move.from) : std::nullopt;
    if (!shape) continue;
    std::string wanted = guard_for(*shape, move.from, move.to);
    if (wanted == *guard || std::isdigit(static_cast<unsigned char>(wanted[0]))) continue;
    candidates.push_back({move.from, *guard, wanted});
    names.insert({*guard, wanted});
  }
  if (candidates.empty()) return {};
  std::unordered_map<std::string, std::set<RelPath>> users;
  std::size_t guarded = 0, shaped = 0;
  for (const RelPath& path : tree.files()) {
    if (!is_source(path) || tree.find(path)->kind != EntryKind::file) continue;
    auto bytes = tree.read(path);
    if (!bytes) continue;
    if (auto guard = is_header(path) ? guard_of(**bytes) : std::nullopt) {
      ++guarded;
      if (shape_of(*guard, path)) ++shaped;
    }
    for (std::size_t at = 0, size = (*bytes)->size(); at < size;) {
      std::size_t end = at;
      while (end < size && in_name((**bytes)[end])) ++end;
      if (end - at > 3) {
        auto known = names.find(std::string_view(**bytes).substr(at, end - at));
        if (known != names.end()) users[*known].insert(path);
      }
      at = std::max(end, at + 1);
    }
  }
  std::vector<Proposal> out;
  if (shaped * 2 <= guarded) return out;  // the project does otherwise
  for (const Candidate& one : candidates) {
    bool alone = users[one.guard].size() == 1 && users[one.wanted].empty();
    bool unique = std::count_if(candidates.begin(), candidates.end(),
                                [&](const Candidate& other) { return other.wanted == one.wanted; }) == 1;
    if (!alone || !unique) continue;
    auto bytes = tree.read(one.path);
    Proposal way;
    for (const Span& span : whole_words(**bytes, one.guard))
      way.edits.push_back(Edit{one.path, span, one.wanted});
    out.push_back(std::move(way));
  }
  return out;
}

}  // namespace yc::c_family
