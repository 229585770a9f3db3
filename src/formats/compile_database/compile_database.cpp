#include "formats/compile_database/compile_database.h"

#include <fmt/format.h>

#include <algorithm>
#include <map>

#include "formats/capabilities/spellings.h"
#include "formats/json/json_strings.h"
#include "formats/shell/command_line.h"

namespace yc {

namespace {

constexpr std::string_view kName = "compile_commands.json";

struct DatabaseEntry {
  const json::StringValue* directory = nullptr;
  const json::StringValue* file = nullptr;
  const json::StringValue* command = nullptr;
  std::vector<const json::StringValue*> arguments;
};

struct DatabaseFacts {
  std::vector<json::StringValue> strings;
};

std::vector<DatabaseEntry> entries_of(const DatabaseFacts& facts) {
  std::vector<DatabaseEntry> out;
  std::string current;
  for (const json::StringValue& value : facts.strings) {
    if (value.path.size() < 2) continue;
    if (out.empty() || value.path[0] != current) out.emplace_back();
    current = value.path[0];
    const std::string& key = value.path[1];
    if (key == "directory") out.back().directory = &value;
    if (key == "file") out.back().file = &value;
    if (key == "command") out.back().command = &value;
    if (key == "arguments") out.back().arguments.push_back(&value);
  }
  std::erase_if(out, [](const DatabaseEntry& entry) { return !entry.directory || !entry.file; });
  return out;
}

std::string absolute_file(const DatabaseEntry& entry) {
  const std::string& file = entry.file->text;
  return file.starts_with("/") ? file : entry.directory->text + "/" + file;
}

// The absolute path of the tree's root, which the database knows and the tree does not: what stands before
// the longest part of a file's path that is a file of the tree. The one that most entries agree on.
std::string root_of(const TreeReader& tree, const std::vector<DatabaseEntry>& entries) {
  constexpr std::size_t kEnough = 200;
  std::map<std::string, std::size_t> votes;
  for (std::size_t i = 0; i < std::min(entries.size(), kEnough); ++i) {
    std::string file = absolute_file(entries[i]);
    for (std::size_t at = 0; (at = file.find('/', at)) != std::string::npos; ++at) {
      auto path = RelPath::resolve({}, std::string_view(file).substr(at + 1));
      if (!path || path->is_root() || !tree.is_file(*path)) continue;
      ++votes[file.substr(0, at)];
      break;
    }
  }
  std::string best;
  std::size_t most = 0;
  for (const auto& [root, count] : votes) {
    if (count > most) best = root, most = count;
  }
  return best;
}

// A path as the database has it, as a place of the tree.
Place place_in(const std::string& root, const RelPath& folder, std::string_view text) {
  if (!text.starts_with("/")) return place_of(folder, text);
  if (text == root) return {Space::tree, {}};
  if (!text.starts_with(root + "/")) return {};
  auto path = RelPath::resolve({}, text.substr(root.size() + 1));
  return path ? Place{Space::tree, *path} : Place{};
}

// The text with the root's path as the folder that evaluation makes of it, so that what follows can be
// edited.
TracedText with_root(const TracedText& text, const std::string& root) {
  std::string all = text.text();
  TracedText out;
  std::size_t from = 0;
  for (std::size_t at = 0; (at = all.find(root, at)) != std::string::npos; at += root.size()) {
    std::size_t end = at + root.size();
    bool whole = end == all.size() || all[end] == '/' || all[end] == ' ' || all[end] == '"';
    bool begins = at == 0 || all[at - 1] != '/';
    if (!whole || !begins) continue;
    out.append(text.substr(from, at - from));
    out.append(TracedText::plain(std::string(kTreeMark)));
    from = end;
  }
  out.append(text.substr(from));
  return out;
}

class DatabaseReader {
 public:
  DatabaseReader(const TreeReader& tree, std::uint8_t self, const RelPath& path, std::string_view bytes,
                 GraphBuilder& out)
      : tree_(tree), self_(self), path_(path), bytes_(bytes), out_(out), file_(out.files().index(path)) {}

  void run(const DatabaseFacts& facts) {
    std::vector<DatabaseEntry> entries = entries_of(facts);
    root_ = root_of(tree_, entries);
    std::size_t missing = 0, strangers = 0;
    for (const DatabaseEntry& entry : entries) {
      Place file = place_in(root_, {}, absolute_file(entry));
      bool is_source = file.space == Space::tree && tree_.is_file(file.path);
      // What a build makes and compiles is not in the tree.
      bool is_made = file.space != Space::tree || is_below_ignored(file.path);
      strangers += !is_source && is_made;
      missing += !is_source && !is_made;
    }
    std::size_t named = entries.size() - strangers;
    if (root_.empty() || missing * 10 > named) {
      std::string why = root_.empty()
                            ? "names no file of this tree"
                            : fmt::format("names {} files of {} that are not in this tree", missing, named);
      out_.notice("stale-database", path_, std::nullopt,
                  why + ", so it is not used; let the build make it anew");
      return;
    }
    for (const DatabaseEntry& entry : entries) read_entry(entry);
  }

 private:
  bool is_below_ignored(const RelPath& path) const {
    for (RelPath up = path.parent(); !up.is_root(); up = up.parent()) {
      const Entry* entry = tree_.find(up);
      if (entry && entry->ignored) return true;
    }
    return false;
  }

  void read_entry(const DatabaseEntry& entry) {
    Place folder = place_in(root_, {}, entry.directory->text);
    Place file = place_in(root_, folder.path, entry.file->text);
    if (file.space != Space::tree || !tree_.is_file(file.path)) return;
    SiteChain key = {{file_, entry.file->span.begin}};
    // Relative paths from a folder outside lead nowhere that could be followed.
    bool is_inside = folder.space == Space::tree;
    Base base{folder.path, kNoFile, Space::tree};
    Reference named = Reference::of(Role::source, self_, key, base,
                                    with_root(json::traced(bytes_, *entry.file, file_), root_))
                          .leading_to(file.path);
    if (is_inside || entry.file->text.starts_with("/")) out_.add(std::move(named));
    std::vector<shell::Command> commands;
    if (entry.command) {
      TracedText line = with_root(json::traced(bytes_, *entry.command, file_), root_);
      commands = shell::read(line, base, tree_).commands;
    } else {
      shell::Command command;
      command.base = base;
      for (const json::StringValue* word : entry.arguments)
        command.words.push_back({with_root(json::traced(bytes_, *word, file_), root_), true});
      commands.push_back(std::move(command));
    }
    if (commands.empty()) return;
    shell::Picked picked = shell::pick(commands.front(), tree_);
    for (Reference& reference : picked.references) {
      bool is_absolute = reference.text.text().starts_with(kTreeMark);
      bool leads = !reference.targets.empty() && reference.targets.front().kind == Target::Kind::tree;
      if (!leads || (!is_inside && !is_absolute)) continue;
      reference.format = self_;
      reference.construct = key;
      reference.dangling = false;
      out_.add(std::move(reference));
    }
    if (!picked.compile) return;
    Context context;
    for (const SearchRoot& root : picked.compile->roots) {
      if (is_inside || root.place.space == Space::outside || is_marked(picked, root))
        context.roots.push_back(root);
    }
    context.forced = picked.compile->forced;
    context.start = is_inside ? Place{Space::tree, folder.path} : Place{};
    Unit unit;
    unit.name = file.path.str() + " (database)";
    unit.format = self_;
    unit.site = key.back();
    unit.root_words = picked.compile->root_words;
    out_.graph().units.push_back(std::move(unit));
    ContextIndex index = out_.context(std::move(context));
    out_.compile(file.path, index, static_cast<std::int32_t>(out_.graph().units.size()) - 1);
  }

  static bool is_marked(const shell::Picked& picked, const SearchRoot& root) {
    return std::any_of(picked.compile->root_words.begin(), picked.compile->root_words.end(),
                       [&](const TracedText& word) {
                         return word.text().starts_with(kTreeMark) && place_of({}, word.text()) == root.place;
                       });
  }

  const TreeReader& tree_;
  std::uint8_t self_;
  const RelPath& path_;
  std::string_view bytes_;
  GraphBuilder& out_;
  FileIndex file_;
  std::string root_;
};

class CompileDatabaseFormat : public Format, public SearchRoots {
 public:
  std::string_view name() const override { return "compilation database"; }
  ScopeSet gives() const override { return Scope::search_roots; }

  bool claims(const RelPath& path) const override { return path.name() == kName; }

  // The build's own, in ignored folders, are read too.
  void read(const Reading& in) const override {
    std::vector<RelPath> databases = compile_databases(in.tree);
    for (const RelPath& path : databases) {
      auto bytes = in.tree.read(path);
      if (!bytes) continue;
      auto facts = in.cache.get<DatabaseFacts>(
          in.self, *bytes, [](const std::string& text) { return DatabaseFacts{json::string_values(text)}; });
      DatabaseReader(in.tree, in.self, path, **bytes, in.out).run(*facts);
    }
    in.count(databases.size());
  }

  std::optional<std::string> write(std::string_view text, WritingStyle) const override {
    // In a command, a word of its own must stay one.
    if (text.find_first_of(" \t\n\"'\\$`;&|<>") != std::string_view::npos) return std::nullopt;
    return json::escaped(text);
  }

  // One more option at the end of the entry's command.
  std::vector<Proposal> add_search_root(const ReferenceGraph& graph, const Unit& unit, const RelPath& root,
                                        const TreeReader& tree) const override {
    const RelPath& path = graph.files.path(unit.site.file);
    auto bytes = tree.read(path);
    if (!bytes) return {};
    std::vector<json::StringValue> strings = json::string_values(**bytes);
    auto own = std::find_if(strings.begin(), strings.end(),
                            [&](const auto& value) { return value.span.begin == unit.site.offset; });
    if (own == strings.end() || own->path.empty()) return {};
    const std::string& directory_key = own->path[0];
    const json::StringValue *command = nullptr, *last = nullptr, *directory = nullptr;
    for (const json::StringValue& value : strings) {
      if (value.path.size() < 2 || value.path[0] != directory_key) continue;
      if (value.path[1] == "command") command = &value;
      if (value.path[1] == "arguments") last = &value;
      if (value.path[1] == "directory") directory = &value;
    }
    if (!directory || (!command && !last)) return {};
    DatabaseFacts facts{strings};
    std::string top = root_of(tree, entries_of(facts));
    auto written = write(root.is_root() ? top : top + "/" + root.str(), 0);
    if (!written) return {};
    std::uint32_t at = command ? command->span.end : last->span.end + 1;
    std::string text = command ? " -I" + *written : ", \"-I" + *written + "\"";
    return {{{Edit{path, {at, at}, text}}, ""}};
  }
};

}  // namespace

std::vector<RelPath> compile_databases(const TreeReader& tree) {
  std::vector<RelPath> out;
  auto take = [&](const RelPath& path) {
    const Entry* entry = tree.find(path);
    if (entry && entry->kind == EntryKind::file && !entry->guarded) out.push_back(path);
  };
  for (const RelPath& path : tree.files()) {
    if (path.str().ends_with(kName) && path.name() == kName) take(path);
  }
  for (const std::string& name : tree.children({})) {
    RelPath folder = RelPath::from_normal(name);
    const Entry* entry = tree.find(folder);
    if (!entry || !entry->ignored || name == "node_modules") continue;
    if (entry->kind == EntryKind::file && name == kName) take(folder);
    if (entry->kind != EntryKind::folder) continue;
    take(folder / kName);
    for (const std::string& below : tree.children(folder)) {
      if (tree.is_folder(folder / below)) take(folder / below / kName);
    }
  }
  std::sort(out.begin(), out.end());
  return out;
}

std::unique_ptr<Format> compile_database_format() {
  return std::make_unique<CompileDatabaseFormat>();
}

}  // namespace yc
