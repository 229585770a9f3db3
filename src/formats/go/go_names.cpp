#include "formats/go/go_names.h"

#include <algorithm>
#include <map>
#include <set>

#include "base/text.h"
#include "formats/go/go_modules.h"
#include "formats/go/go_packages.h"
#include "formats/go/go_scan.h"
#include "words/go.h"

namespace yc::go {

namespace {

bool is_name_char(char c) {
  auto byte = static_cast<unsigned char>(c);
  return std::isalnum(byte) || c == '_' || byte >= 0x80;
}

// Behind a string or a rune that begins at `at`.
std::size_t behind_literal(std::string_view bytes, std::size_t at) {
  char quote = bytes[at];
  for (++at; at < bytes.size() && bytes[at] != quote; ++at) {
    if (quote != '`' && bytes[at] == '\\') ++at;
  }
  return std::min(at + 1, bytes.size());
}

// Calls take(span, behind a dot) for each name outside of strings and comments.
template <typename Take>
void each_name(std::string_view bytes, const Take& take) {
  bool behind_dot = false;
  for (std::size_t at = 0; at < bytes.size();) {
    at = behind_space(bytes, at);
    if (at >= bytes.size()) return;
    char c = bytes[at];
    if (c == '"' || c == '`' || c == '\'') {
      at = behind_literal(bytes, at);
      behind_dot = false;
    } else if (is_name_char(c)) {
      std::size_t end = at;
      while (end < bytes.size() && is_name_char(bytes[end])) ++end;
      take(span_of(at, end), behind_dot);
      at = end;
      behind_dot = false;
    } else {
      // "...Option" takes any number of them.
      bool is_ellipsis = bytes.substr(at, 3) == "...";
      behind_dot = c == '.' && !is_ellipsis;
      at += is_ellipsis ? 3 : 1;
    }
  }
}

// A package whose name follows.
struct Renamed {
  RelPath from, to;
  std::string package, now;
};

class Following {
 public:
  Following(const ClaimedTree& before, const MoveSet& moves) : before_(before), moves_(moves) {}

  std::vector<Proposal> run() {
    std::map<RelPath, Renamed> packages = renamed();
    std::vector<Proposal> out;
    if (packages.empty()) return out;
    Modules modules = modules_of(before_.files, [&](const RelPath& path) -> std::optional<std::string> {
      auto bytes = before_.tree.read(path);
      return bytes ? std::optional(**bytes) : std::nullopt;
    });
    std::map<RelPath, std::vector<Edit>> edits;
    for (const RelPath& path : before_.files) {
      if (!is_source(path) || !before_.tree.is_editable(path)) continue;
      auto bytes = before_.tree.read(path);
      if (!bytes) continue;
      SourceFacts facts = scan_source(**bytes);
      if (auto own = packages.find(path.parent()); own != packages.end())
        clause(path, **bytes, facts, own->second, edits[path.parent()]);
      for (const Import& import : facts.imports) {
        auto folder = import.name ? std::nullopt : modules.folder_of(import.path);
        auto used = folder ? packages.find(*folder) : packages.end();
        if (used == packages.end()) continue;
        const Renamed& package = used->second;
        // Others give the import the old name.
        if (auto places = qualifiers(before_.tree, path, package.package, package.now)) {
          for (const Span& span : *places) edits[*folder].push_back({path, span, package.now});
        }
      }
    }
    for (auto& [folder, list] : edits) out.push_back({std::move(list), ""});
    return out;
  }

 private:
  std::map<RelPath, Renamed> renamed() const {
    std::map<RelPath, Renamed> out;
    for (const Move& move : moves_.files()) {
      RelPath from = move.from.parent(), to = move.to.parent();
      bool is_package =
          is_source(move.from) && constraint_of(move.from.name()).find("_test") == std::string::npos;
      if (!is_package || from == to || out.contains(from)) continue;
      auto bytes = before_.tree.read(move.from);
      if (!bytes) continue;
      std::string package = scan_source(**bytes).package;
      if (auto now = following_name(package, from, to)) out[from] = {from, to, package, *now};
    }
    return out;
  }

  static void clause(const RelPath& path, std::string_view bytes, const SourceFacts& facts,
                     const Renamed& package, std::vector<Edit>& out) {
    bool is_test = facts.package == package.package + "_test";
    if (facts.package != package.package && !is_test) return;
    bool behind_word = false, done = false;
    each_name(bytes, [&](Span span, bool) {
      std::string_view name = cut(bytes, span);
      if (behind_word && !done) {
        if (name == facts.package) out.push_back({path, span, package.now + (is_test ? "_test" : "")});
        done = true;
      }
      behind_word = behind_word || name == "package";
    });
  }

  const ClaimedTree& before_;
  const MoveSet& moves_;
};

}  // namespace

std::optional<std::string> following_name(const std::string& package, const RelPath& from,
                                          const RelPath& to) {
  std::string name(to.name());
  bool is_name = !name.empty() && std::all_of(name.begin(), name.end(), is_name_char) &&
                 !std::isdigit(static_cast<unsigned char>(name.front())) &&
                 !words::go::keywords().contains(name);
  if (package.empty() || package != from.name() || name == package || !is_name || package == "main" ||
      name == "main")
    return std::nullopt;
  return name;
}

std::optional<std::vector<Span>> qualifiers_in(std::string_view text, std::string_view package) {
  std::vector<Span> out;
  bool is_clear = true;
  each_name(text, [&](Span span, bool behind_dot) {
    if (behind_dot || cut(text, span) != package) return;
    std::size_t next = behind_space(text, span.end);
    if (next < text.size() && text[next] == '.' && text.substr(next, 3) != "...") {
      out.push_back(span);
    } else {
      // Its own package may be called so.
      is_clear = is_clear && trimmed(text.substr(0, span.begin)).ends_with("package");
    }
  });
  if (!is_clear) return std::nullopt;
  return out;
}

std::optional<std::vector<Span>> qualifiers(const TreeReader& tree, const RelPath& user,
                                            const std::string& package, const std::string& new_name) {
  std::optional<std::vector<Span>> out;
  for (const std::string& name : tree.children(user.parent())) {
    RelPath beside = user.parent() / name;
    auto bytes = is_source(beside) && tree.is_file(beside) ? tree.read(beside) : Result<Bytes>(Error{});
    if (!bytes) continue;
    // What a package declares, none of its sources can import something as.
    auto others = qualifiers_in(**bytes, new_name);
    if (!others || (beside == user && !others->empty())) return std::nullopt;
    if (beside == user) out = qualifiers_in(**bytes, package);
  }
  return out;
}

std::vector<Proposal> renamed_packages(const ClaimedTree& before, const MoveSet& moves) {
  return Following(before, moves).run();
}

}  // namespace yc::go
