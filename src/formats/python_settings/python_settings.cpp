#include "formats/python_settings/python_settings.h"

#include <algorithm>
#include <set>

#include "formats/capabilities/companions.h"
#include "formats/capabilities/consequences.h"
#include "formats/capabilities/members.h"
#include "formats/capabilities/shared_definitions.h"
#include "formats/capabilities/spellings.h"
#include "formats/python/dotted_ways.h"
#include "formats/python/emission.h"
#include "formats/python/new_packages.h"
#include "formats/python/python_resolver.h"
#include "formats/python_settings/data_patterns.h"
#include "formats/python_settings/named_modules.h"
#include "formats/python_settings/packed_modules.h"
#include "formats/python_settings/settings_words.h"
#include "formats/python_settings/shared_sources.h"
#include "formats/values/values.h"
#include "words/python_settings.h"

namespace yc {

namespace {

using python_settings::DataPattern;
using python_settings::has;
using python_settings::is_dotted_key;
using python_settings::is_root_key;
using python_settings::is_settings;
using python_settings::keys_of;
using python_settings::last_of;
using python_settings::normal_key;
using python_settings::values_of;
using python_settings::words_of;
using values::Value;

// The name of an argument; no data file has any.
constexpr WritingStyle kArgument = 100;

class Settings {
 public:
  Settings(const TreeReader& tree, const RelPath& path, const Bytes& bytes, std::uint8_t format,
           GraphBuilder& out)
      : tree_(tree),
        path_(path),
        bytes_(bytes),
        self_(format),
        out_(out),
        file_(out.files().index(path)),
        values_(values_of(path, *bytes)) {}

  // The folders that modules are looked up in.
  void roots() {
    for (const Value& value : values_) {
      std::vector<std::string> keys = keys_of(value);
      for (const python_settings::Word& word : words_of(value, keys, path_.name() == "setup.py")) {
        if (!is_root_key(keys, word)) continue;
        auto place = RelPath::resolve(path_.parent(), word.text);
        if (!place || !tree_.is_folder(*place)) continue;
        // Folders of packages, as one backend wants them, stand in their root.
        bool packages = last_of(keys) == "packages" && has(keys, "hatch");
        out_.graph().module_roots.push_back({packages ? place->parent() : *place, path_.parent(), path_});
      }
    }
  }

  // Known once the references are read.
  const std::vector<DataPattern>& data_patterns() const { return data_patterns_; }

  void references(const python::PythonResolver& resolver) {
    for (const Value& value : values_) {
      std::vector<std::string> keys = keys_of(value);
      for (const python_settings::Word& word : words_of(value, keys, path_.name() == "setup.py")) {
        if (is_root_key(keys, word)) {
          folder(value, word);
        } else if (!dotted(resolver, value, word, keys)) {
          path(resolver, value, word, keys);
        }
      }
    }
    sections(resolver);
    if (path_.name() == "MANIFEST.in") manifest();
  }

  // What lists packages one by one must list new ones too: words to put behind the last package listed.
  std::optional<Proposal> list_new(const python::PythonResolver& resolver,
                                   const std::vector<RelPath>& folders) const {
    const Value* last = nullptr;
    std::set<std::string> listed;
    RelPath root;
    for (const Value& value : values_) {
      std::vector<std::string> keys = keys_of(value);
      bool listing = has(keys, "packages") && !has(keys, "find") && !has(keys, "hatch") && value.verbatim &&
                     python::is_dotted_name(value.text);
      auto found = listing ? resolver.absolute(path_, value.text) : std::nullopt;
      if (!found || !found->is_package) continue;
      listed.insert(value.text);
      last = &value;
      root = found->root;
    }
    if (!last) return std::nullopt;
    bool quoted = last->style != values::kBareLine;
    std::string text;
    for (const RelPath& folder : folders) {
      auto name = python::dotted_name(folder / "__init__.py", root);
      if (!name || !listed.insert(*name).second) continue;
      if (quoted) {
        std::string quote(1, (*bytes_)[last->span.end]);
        text += ", " + quote + *name + quote;
      } else {
        std::size_t line = bytes_->rfind('\n', last->span.begin) + 1;
        std::string_view indent = std::string_view(*bytes_).substr(line, last->span.begin - line);
        bool own_line = indent.find_first_not_of(" \t") == std::string_view::npos;
        text += "\n" + (own_line ? std::string(indent) : "    ") + *name;
      }
    }
    if (text.empty()) return std::nullopt;
    std::uint32_t at = last->span.end + (quoted ? 1 : 0);
    return Proposal{{{path_, {at, at}, text}}, ""};
  }

 private:
  Reference reference_at(Role role, Span span, const std::string& text, WritingStyle style) const {
    return Reference::of(role, self_, {{file_, span.begin}}, {path_.parent(), file_, Space::tree},
                         TracedText::literal(text, file_, span, style));
  }
  static Span span_within(const Value& value, std::size_t begin, std::size_t size) {
    auto at = value.span.begin + static_cast<std::uint32_t>(begin);
    return {at, at + static_cast<std::uint32_t>(size)};
  }

  void folder(const Value& value, const python_settings::Word& word) {
    std::string text = word.text;
    while (text.ends_with("/")) text.pop_back();
    auto place = RelPath::resolve(path_.parent(), text);
    if (!place || place->is_root() || !tree_.is_folder(*place)) return;
    Reference reference =
        reference_at(Role::argument, span_within(value, word.begin, text.size()), text, value.style);
    reference.lead_to(*place);
    out_.add(std::move(reference));
  }

  // "pole.app:main", "pole.units.*": the longest beginning that is a module.
  bool dotted(const python::PythonResolver& resolver, const Value& value, const python_settings::Word& word,
              const std::vector<std::string>& keys) {
    std::string name = word.text.substr(0, word.text.find(':'));
    while (name.ends_with(".*")) name.resize(name.size() - 2);
    if (!python::is_dotted_name(name)) return false;
    bool known = is_dotted_key(keys) || value.text.starts_with("attr:");
    bool attributes = !has(keys, "packages") && !has(keys, "py_modules");
    std::optional<python::Found> found;
    std::string head = name;
    while (true) {
      found = resolver.absolute(path_, head);
      std::size_t cut = head.rfind('.');
      if (found || !attributes || cut == std::string::npos) break;
      head.resize(cut);
    }
    bool telling = known || head.find('.') != std::string::npos;
    if (!found || !telling) return false;
    // What is built into a package, or lists it, means its folder, whatever the package itself holds.
    bool is_within = has(keys, "ext_modules") && head.size() < name.size();
    if ((is_within || has(keys, "packages")) && found->is_package) found->files = {python::folder_of(*found)};
    add_module(*found, head, span_within(value, word.begin, head.size()), value.style,
               known ? Certainty::certain : Certainty::likely);
    return true;
  }

  void add_module(const python::Found& found, const std::string& text, Span span, WritingStyle style,
                  Certainty certainty) {
    Reference reference = reference_at(Role::module, span, text, style);
    reference.certainty = certainty;
    reference.kind = OwnSpelling{};
    reference.search.push_back({found.root, kNoFile, Space::tree});
    reference.lead_to(found.files);
    out_.add(std::move(reference));
  }

  // Relative to the settings' folder, or to that of the package that the key names.
  void path(const python::PythonResolver& resolver, const Value& value, const python_settings::Word& word,
            const std::vector<std::string>& keys) {
    std::string text = word.text;
    bool looks = text.find('/') != std::string::npos || text.find('.') != std::string::npos ||
                 words::python_settings::path_keys().contains(last_of(keys));
    if (!looks || text.find("://") != std::string::npos || text.find('{') != std::string::npos) return;
    bool known = words::python_settings::path_keys().contains(last_of(keys));
    if (has(keys, "package_data") || has(keys, "exclude_package_data")) {
      std::string name = word.has_key ? word.key : value.path.empty() ? "" : value.path.back();
      if (name.find_first_not_of("0123456789") == std::string::npos && value.path.size() > 1)
        name = value.path[value.path.size() - 2];
      auto package = resolver.absolute(path_, name);
      if (!package || !package->is_package) return;
      if (auto span = key_before(name, span_within(value, word.begin, 0).begin))
        add_module(*package, name, *span,
                   is_argument(*span) ? kArgument : static_cast<WritingStyle>(values::kBareLine),
                   Certainty::certain);
      const RelPath& init = package->files.front();
      RelPath folder = init.name().starts_with("__init__.") ? init.parent() : init;
      bool regular = init.name().starts_with("__init__.");
      if (text.find_first_of("*?[") != std::string::npos && has(keys, "package_data"))
        data_patterns_.push_back({path_, folder, text});
      add_path({folder, regular ? out_.files().index(init) : kNoFile, Space::tree}, value, word, text,
               Certainty::certain);
      return;
    }
    add_path(own(), value, word, text, known ? Certainty::certain : Certainty::likely);
  }

  // The key that stands last before a value: "pole": […], pole = …, dict(pole=[…]). Each is given once.
  std::optional<Span> key_before(const std::string& key, std::uint32_t value) {
    auto is_part = [&](std::size_t at) {
      char c = at < bytes_->size() ? (*bytes_)[at] : ' ';
      return std::isalnum(static_cast<unsigned char>(c)) || c == '_' || c == '.' || c == '-';
    };
    for (std::size_t at = value;
         !key.empty() && at > 0 && (at = bytes_->rfind(key, at - 1)) != std::string::npos;) {
      std::size_t end = at + key.size();
      std::size_t sign = bytes_->find_first_not_of(" \t\"'", end);
      bool is_key = sign != std::string::npos && ((*bytes_)[sign] == ':' || (*bytes_)[sign] == '=') &&
                    !is_part(end) && (at == 0 || !is_part(at - 1));
      if (!is_key) continue;
      Span span = span_of(at, end);
      return keys_.insert(span.begin).second ? std::optional(span) : std::nullopt;
    }
    return std::nullopt;
  }

  // Whether a key is the name of an argument, which has no dots.
  bool is_argument(Span key) const {
    return path_.extension() == ".py" && bytes_->find_first_not_of(" \t", key.end) != std::string::npos &&
           (*bytes_)[bytes_->find_first_not_of(" \t", key.end)] == '=';
  }

  Base own() const { return {path_.parent(), file_, Space::tree}; }

  void add_path(const Base& base, const Value& value, const python_settings::Word& word, std::string text,
                Certainty certainty) {
    std::size_t star = text.find_first_of("*?[");
    if (star != std::string::npos) {
      std::size_t cut = text.rfind('/', star);
      if (cut == std::string::npos) return;
      text.resize(cut);
    }
    while (text.size() > 1 && text.ends_with("/")) text.pop_back();
    if (text.find_first_not_of("./") == std::string::npos) return;
    auto place = RelPath::resolve(base.folder, text);
    const Entry* entry = place && !place->is_root() ? tree_.find(*place) : nullptr;
    if (!entry && place && star != std::string::npos && certainty == Certainty::certain)
      out_.unmet({path_, span_within(value, word.begin, word.text.size()), "pattern", word.text, *place});
    if (!entry || entry->ignored) return;
    Reference reference =
        reference_at(Role::listed, span_within(value, word.begin, text.size()), text, value.style);
    reference.certainty = certainty;
    reference.base = base;
    reference.lead_to(*place);
    out_.add(std::move(reference));
  }

  // [mypy-pole.units.*]: a section for a module.
  void sections(const python::PythonResolver& resolver) {
    if (path_.extension() == ".py" || path_.extension() == ".toml" || path_.extension() == ".json") return;
    for (std::size_t at = bytes_->find("[mypy-"); at != std::string::npos;
         at = bytes_->find("[mypy-", at + 1)) {
      std::size_t begin = at + 6, close = bytes_->find(']', begin);
      while (close != std::string::npos && begin < close) {
        std::size_t end = std::min(bytes_->find(',', begin), close);
        std::string name = bytes_->substr(begin, end - begin);
        while (name.ends_with(".*")) name.resize(name.size() - 2);
        auto found = python::is_dotted_name(name) ? resolver.absolute(path_, name) : std::nullopt;
        if (found)
          add_module(*found, name, span_of(begin, begin + name.size()), values::kBareLine,
                     Certainty::certain);
        begin = end + 1;
      }
    }
  }

  // include a b, recursive-include folder *.json, graft folder
  void manifest() {
    for (const Value& line : values::read_lines(*bytes_)) {
      std::size_t blank = line.text.find_first_of(" \t");
      if (blank == std::string::npos) continue;
      std::string command = line.text.substr(0, blank);
      std::size_t index = 0;
      for (std::size_t at = blank; at < line.text.size(); ++index) {
        std::size_t first = line.text.find_first_not_of(" \t", at);
        if (first == std::string::npos) break;
        std::size_t end = std::min(line.text.find_first_of(" \t", first), line.text.size());
        at = end;
        bool first_only = command.starts_with("recursive-") || command == "graft" || command == "prune";
        bool global = command.starts_with("global-");
        if ((first_only && index > 0) || global) continue;
        python_settings::Word word;
        word.text = line.text.substr(first, end - first);
        word.begin = first;
        add_path(own(), line, word, word.text, Certainty::certain);
      }
    }
  }

  const TreeReader& tree_;
  RelPath path_;
  Bytes bytes_;
  std::uint8_t self_;
  GraphBuilder& out_;
  FileIndex file_;
  std::vector<Value> values_;
  std::set<std::uint32_t> keys_;  // where those stand that are taken
  std::vector<DataPattern> data_patterns_;
};

std::vector<Settings> settings_of(const TreeReader& tree, const std::vector<RelPath>& files,
                                  std::uint8_t self, GraphBuilder& out) {
  std::vector<Settings> all;
  for (const RelPath& path : files) {
    if (!is_settings(path)) continue;
    const Entry* entry = tree.find(path);
    auto bytes = tree.read(path);
    if (entry->kind != EntryKind::file || entry->ignored || !bytes) continue;
    all.emplace_back(tree, path, *bytes, self, out);
  }
  return all;
}

std::vector<DataPattern> data_patterns_of(const TreeView& view) {
  const TreeReader& tree = view.tree;
  GraphBuilder builder;
  std::vector<Settings> all = settings_of(tree, view.files, 0, builder);
  for (Settings& settings : all) settings.roots();
  python::PythonResolver resolver(tree, builder.graph());
  std::vector<DataPattern> out;
  for (Settings& settings : all) {
    settings.references(resolver);
    out.insert(out.end(), settings.data_patterns().begin(), settings.data_patterns().end());
  }
  return out;
}

class PythonSettingsFormat : public Format,
                             public Spellings,
                             public FollowingNames,
                             public SharedDefinitions,
                             public Consequences,
                             public DefinesScope {
 public:
  std::string_view name() const override { return "python settings"; }
  std::vector<Change> share(const ClaimedTree& before) const override {
    return python_settings::share_sources(before);
  }
  std::vector<Change> unshare(const ClaimedTree& before) const override {
    return python_settings::unshare_sources(before);
  }
  ScopeSet gives() const override { return Scope::module_roots; }
  bool defines_scope(const RelPath& path) const override {
    return is_settings(path) || path.name() == "conftest.py";
  }

  bool claims(const RelPath& path) const override {
    return is_settings(path) || python_settings::may_name_modules(path);
  }

  void read(const Reading& in) const override {
    const TreeReader& tree = in.tree;
    std::uint8_t self = in.self;
    GraphBuilder& out = in.out;
    std::vector<Settings> all = settings_of(tree, in.files, self, out);
    for (Settings& settings : all) settings.roots();
    const std::vector<RelPath>& files = tree.files();
    bool any = std::any_of(files.begin(), files.end(),
                           [](const RelPath& path) { return path.extension() == ".py"; });
    if (!any) return;
    in.count(all.size());
    const Scopes scopes = in.scopes_by_now();
    python::PythonResolver resolver(tree, scopes);
    for (Settings& settings : all) settings.references(resolver);
    python_settings::emit_named_modules(tree, in.files, resolver, self, out);
  }

  std::vector<Proposal> list_new_members(const ClaimedTree& before, const MoveSet& moves) const override {
    const TreeReader& tree = before.tree;
    std::vector<RelPath> folders = python_settings::packages_that_are_joined(before, moves);
    for (const auto& [path, bytes] : python::needed_packages(tree, moves)) folders.push_back(path.parent());
    std::vector<Proposal> out;
    if (folders.empty()) return out;
    GraphBuilder builder;
    std::vector<Settings> all = settings_of(tree, before.files, 0, builder);
    for (Settings& settings : all) settings.roots();
    python::PythonResolver resolver(tree, builder.graph());
    for (const Settings& settings : all) {
      if (auto way = settings.list_new(resolver, folders)) out.push_back(std::move(*way));
    }
    return out;
  }

  // What would be packed no more: nothing of the tree leads there, it is only missed once installed.
  std::vector<Blocker> consequences(const TreeView& before, const TreeView& planned,
                                    const MoveSet& moves) const override {
    std::vector<Blocker> out = python_settings::unpacked_files(before, planned, moves);
    bool any_data = std::any_of(moves.files().begin(), moves.files().end(), [](const Move& move) {
      return move.from.extension() != ".py" && move.from.extension() != ".pyi";
    });
    std::vector<DataPattern> then = any_data ? data_patterns_of(before) : std::vector<DataPattern>();
    if (then.empty()) return out;
    std::vector<DataPattern> now = data_patterns_of(planned);
    for (const Move& move : moves.files()) {
      auto taker = std::find_if(then.begin(), then.end(),
                                [&](const DataPattern& pattern) { return pattern.takes(move.from); });
      bool taken = std::any_of(now.begin(), now.end(),
                               [&](const DataPattern& pattern) { return pattern.takes(move.to); });
      if (taker == then.end() || taken || move.to.extension() == ".py") continue;
      out.push_back({"unpacked",
                     moves.map_file(taker->settings),
                     {},
                     taker->text,
                     "packs " + move.from.str() + " with its package, and would not pack " + move.to.str(),
                     "choose a place that the pattern reaches, or add it to the package's data first"});
    }
    return out;
  }

  std::vector<Proposal> own_proposals(const RewriteRequest& need) const override {
    std::vector<Proposal> out =
        python::dotted_ways(need, [](const python::PythonResolver::Root&) { return true; });
    // An argument has no dots.
    bool is_argument = need.reference.text.pieces().front().style == kArgument;
    std::erase_if(out, [&](const Proposal& way) {
      return is_argument && !way.edits.empty() && way.edits.front().text.find('.') != std::string::npos;
    });
    return out;
  }

  std::optional<std::string> write(std::string_view text, WritingStyle style) const override {
    return values::written(text, style);
  }
};

}  // namespace

std::unique_ptr<Format> python_settings_format() {
  return std::make_unique<PythonSettingsFormat>();
}

}  // namespace yc
