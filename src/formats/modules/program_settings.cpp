#include "formats/modules/program_settings.h"

#include <algorithm>

namespace yc::modules {

namespace {

constexpr std::string_view kRootDir = "<rootDir>/";

// Of an entry { find: "@", replacement: … }: what is found.
std::string found_before(std::string_view bytes, std::size_t at) {
  std::size_t from = at > 200 ? at - 200 : 0;
  std::size_t find = bytes.substr(0, at).rfind("find:");
  if (find == std::string_view::npos || find < from) return "";
  std::size_t open = bytes.find_first_of("'\"", find);
  if (open == std::string_view::npos || open > at) return "";
  std::size_t close = bytes.find(bytes[open], open + 1);
  return close == std::string_view::npos ? "" : std::string(bytes.substr(open + 1, close - open - 1));
}

class Adder {
 public:
  Adder(const TreeReader& tree, const RelPath& path, std::string_view bytes, GraphBuilder& out)
      : tree_(tree), path_(path), bytes_(bytes), out_(out) {}

  void add(std::string key, std::string value, std::size_t at) {
    if (key == "replacement") key = found_before(bytes_, at);
    if (key.empty()) return;
    if (value.starts_with(kRootDir)) value.erase(0, kRootDir.size());
    // '^@/(.*)$': '<rootDir>/src/$1'
    if (key.starts_with("^")) {
      std::size_t group = key.find("(.*)");
      std::size_t one = value.find("$1");
      if (group == std::string::npos || one == std::string::npos) return;
      std::string head = key.substr(1, group - 1);
      std::erase(head, '\\');
      std::size_t slash = value.rfind('/', one);
      if (slash == std::string::npos) return;
      put(head, value.substr(0, slash), true, value.substr(slash + 1, one - slash - 1),
          value.substr(one + 2));
      return;
    }
    bool exact = key.ends_with("$");
    if (exact) key.pop_back();
    put(key, value, false, "", "");
    if (!exact) put(key.ends_with("/") ? key : key + "/", value, true, "", "");
  }

 private:
  void put(const std::string& head, const std::string& value, bool open, const std::string& before,
           const std::string& after) {
    auto place = RelPath::resolve(path_.parent(), value);
    if (!place || head.empty() || head == "/" || (!open && place->is_root())) return;
    const Entry* entry = tree_.find(*place);
    if (open && !tree_.is_folder(*place)) return;
    if (entry && entry->ignored) return;
    Alias alias;
    alias.scope = path_.parent();
    alias.settings = path_;
    alias.head = head;
    alias.open = open;
    alias.place = *place;
    alias.before = before;
    alias.after = after;
    out_.graph().aliases.push_back(std::move(alias));
  }

  const TreeReader& tree_;
  const RelPath& path_;
  std::string_view bytes_;
  GraphBuilder& out_;
};

}  // namespace

bool is_program_settings(const RelPath& path) {
  std::string_view name = path.name();
  return name.find("config") != std::string_view::npos || name.find("rc.") != std::string_view::npos ||
         name.starts_with("webpack") || name.starts_with("rollup") || name.starts_with("vite") ||
         name.starts_with("jest");
}

void add_program_aliases(const TreeReader& tree, const RelPath& path, const ModuleFacts& facts,
                         std::string_view bytes, GraphBuilder& out) {
  Adder adder(tree, path, bytes, out);
  for (const Joined& joined : facts.joined) {
    std::string value;
    for (const Span& part : joined.parts)
      value += (value.empty() ? "" : "/") + std::string(bytes.substr(part.begin, part.size()));
    if (!value.empty()) adder.add(joined.key, value, joined.statement);
  }
  for (const PathText& text : facts.texts) {
    bool relative =
        text.text.starts_with("./") || text.text.starts_with("../") || text.text.starts_with(kRootDir);
    if (relative && !text.key.empty()) adder.add(text.key, text.text, text.span.begin);
  }
}

}  // namespace yc::modules
