#include "serve/completion.h"

#include <algorithm>
#include <set>

#include "base/utf8.h"
#include "report/text.h"

namespace yc::serve {

namespace {

constexpr std::size_t kMostItems = 500;
enum Kind : int { kFile = 17, kFolder = 19 };

// How references of one kind spell the names of what they lead to, as those show that lead somewhere.
struct Habit {
  std::set<std::string> endings;   // that their targets have
  std::set<std::string> left_out;  // endings that the texts leave out
  bool drops_underscore = false;   // "_tide.scss" is called "tide"
  char separator = '/';
};

// Folders that a text is looked up in.
using Bases = std::vector<RelPath>;

std::string last_part(const std::string& text, char separator) {
  return text.substr(text.rfind(separator) + 1);
}

void learn(const Seen& seen, Habit& habit) {
  if (seen.targets.size() != 1 || seen.targets.front().is_root()) return;
  const RelPath& target = seen.targets.front();
  std::string ending(target.extension()), name(target.name());
  std::string stem = name.substr(0, name.size() - ending.size());
  habit.endings.insert(ending);
  std::string said = last_part(seen.text, '/');
  if (said == name) return;
  if (stem == said || "_" + said == stem) habit.left_out.insert(ending);
  if ("_" + said == stem || "_" + said == name) habit.drops_underscore = true;
  // A dotted name of a module.
  bool is_dotted = seen.text.find('/') == std::string::npos && seen.text.find('.') != std::string::npos;
  if (is_dotted && last_part(seen.text, '.') == stem && "." + last_part(seen.text, '.') != ending) {
    habit.left_out.insert(ending);
    habit.separator = '.';
  }
}

// From the references of the same file first; where they show nothing, from all.
Habit habit_of(const Asked& asked, const RelPath& file, const Reference& like) {
  const ReferenceGraph& graph = asked.workspace.graph();
  Habit out;
  auto take = [&](const Reference& reference) {
    if (reference.format == like.format && reference.role == like.role) learn(as_seen(graph, reference), out);
  };
  for (std::size_t i : asked.workspace.standing_in(file)) take(graph.references[i]);
  if (!out.endings.empty()) return out;
  for (const Reference& reference : graph.references) take(reference);
  return out;
}

Bases bases_of(const ReferenceGraph& graph, const RelPath& file, const Reference& reference) {
  Bases out;
  auto add = [&](const RelPath& folder) {
    if (std::find(out.begin(), out.end(), folder) == out.end()) out.push_back(folder);
  };
  if (!reference.is_angled() && reference.base.space == Space::tree) add(reference.base.folder);
  for (const Base& base : reference.search) {
    if (base.space == Space::tree) add(base.folder);
  }
  for (const InContext& in : reference.contexts) {
    if (in.context == kNoContext) continue;
    for (const SearchRoot& root : graph.contexts[static_cast<std::size_t>(in.context)].roots) {
      bool counts = root.place.space == Space::tree && (!root.quoted_only || !reference.is_angled());
      if (counts) add(root.place.path);
    }
  }
  if (reference.role == Role::module) {
    for (const ModuleRoot& root : graph.module_roots) {
      if (file.is_within(root.scope)) add(root.folder);
    }
  }
  return out;
}

// The folder that the typed head of a text means: through an alias, or from each base.
Bases folders_offered(const ReferenceGraph& graph, const RelPath& file, const Reference& reference,
                      const std::string& head, char separator) {
  Bases out;
  std::string path = head;
  if (separator == '.') {
    std::size_t dots = std::min(path.find_first_not_of('.'), path.size());
    std::string up = dots == 0 ? "" : dots == 1 ? "./" : "";
    for (std::size_t i = 1; i < dots; ++i) up += "../";
    path = path.substr(dots);
    std::replace(path.begin(), path.end(), '.', '/');
    path = up + path;
  }
  if (reference.role == Role::module && !path.starts_with('.')) {
    for (const Alias& alias : graph.aliases) {
      if (!alias.open || !file.is_within(alias.scope) || alias.head.empty() || !path.starts_with(alias.head))
        continue;
      if (auto folder = RelPath::resolve(alias.place, path.substr(alias.head.size()))) out.push_back(*folder);
    }
    if (!out.empty()) return out;
  }
  for (const RelPath& base : bases_of(graph, file, reference)) {
    if (auto folder = RelPath::resolve(base, path.empty() ? "." : path)) out.push_back(*folder);
  }
  return out;
}

// The name as the place spells it; nothing for what no reference of this kind leads to.
std::optional<std::string> spelled(const Habit& habit, const std::string& name) {
  RelPath path = RelPath::from_normal(name);
  std::string ending(path.extension());
  if (!habit.endings.empty() && !habit.endings.contains(ending)) return std::nullopt;
  std::string out = habit.left_out.contains(ending) ? name.substr(0, name.size() - ending.size()) : name;
  if (habit.drops_underscore && out.starts_with('_')) out.erase(0, 1);
  return out;
}

}  // namespace

json completion(const Asked& asked, const RelPath& file, const json& position) {
  FileTexts texts(asked);
  const std::string* bytes = texts.bytes(file);
  auto offset = texts.offset(file, position);
  if (!bytes || !offset) return nullptr;
  const ReferenceGraph& graph = asked.workspace.graph();
  std::vector<std::size_t> here = references_at(asked.workspace, file, *offset);
  if (here.empty()) return nullptr;
  const Reference& reference = graph.references[here.front()];
  Span span = standing_of(reference).span;
  Habit habit = habit_of(asked, file, reference);
  std::string typed = bytes->substr(span.begin, *offset - span.begin);
  std::size_t last = typed.rfind(habit.separator);
  std::string head = last == std::string::npos ? "" : typed.substr(0, last + 1);
  auto begin = static_cast<std::uint32_t>(span.begin + head.size());
  json where = texts.range(file, {begin, std::max(begin, *offset)});
  std::map<std::string, std::pair<Kind, RelPath>> found;
  const TreeReader& tree = asked.workspace.tree();
  for (const RelPath& folder : folders_offered(graph, file, reference, head, habit.separator)) {
    for (const std::string& name : tree.children(folder)) {
      const Entry* entry = tree.find(folder / name);
      if (!entry || entry->ignored || name.starts_with('.') || folder / name == file) continue;
      bool is_folder = entry->kind == EntryKind::folder;
      auto text =
          is_folder ? std::optional(name + (habit.separator == '/' ? "/" : "")) : spelled(habit, name);
      if (text && is_utf8(*text) && found.size() < kMostItems)
        found.emplace(*text, std::pair(is_folder ? kFolder : kFile, folder / name));
    }
  }
  json items = json::array();
  for (const auto& [text, what] : found) {
    items.push_back({{"label", report::printable(text)},
                     {"kind", static_cast<int>(what.first)},
                     {"detail", report::printable(what.second.str())},
                     {"textEdit", {{"range", where}, {"newText", text}}}});
  }
  return {{"isIncomplete", found.size() >= kMostItems}, {"items", std::move(items)}};
}

}  // namespace yc::serve
