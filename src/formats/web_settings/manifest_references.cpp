#include "formats/web_settings/manifest_references.h"

#include <algorithm>
#include <set>

#include "formats/capabilities/members.h"
#include "formats/capabilities/words.h"
#include "formats/modules/module_resolver.h"
#include "formats/outputs.h"
#include "formats/published_files.h"
#include "formats/shell/command_line.h"
#include "formats/shell/launchers.h"
#include "formats/web_settings/alias_tables.h"
#include "formats/web_settings/package_boundaries.h"
#include "formats/web_settings/package_folders.h"
#include "formats/web_settings/settings_paths.h"
#include "formats/web_settings/style_calls.h"
#include "words/web_settings.h"

namespace yc::web_settings {

namespace {

using json::StringValue;
using web_settings::Settings;

// Fields that name the file a package begins with, the ones that name sources first.
constexpr std::string_view kEntries[] = {"source", "module", "main", "types", "typings", "browser"};

struct ReadManifest {
  RelPath path;
  Bytes bytes;
  std::vector<StringValue> values;
  std::string name;
};

bool is_entry_field(std::string_view key) {
  return words::web_settings::entry_fields().contains(key);
}

class Reader {
 public:
  explicit Reader(const Reading& in) : in_(in), tree_(in.tree), self_(in.self), out_(in.out) {}

  void run() {
    for (const RelPath& path : in_.files) {
      auto bytes = tree_.read(path);
      if (!bytes) continue;
      ReadManifest manifest{path, *bytes, json::string_values(**bytes), ""};
      for (const StringValue& value : manifest.values) {
        if (value.path.size() == 1 && value.path[0] == "name") manifest.name = value.text;
      }
      manifests_.push_back(std::move(manifest));
    }
    for (const ReadManifest& manifest : manifests_) aliases(manifest);
    scopes_ = in_.scopes_by_now();
    modules::ModuleResolver resolver(tree_, scopes_);
    resolver_ = &resolver;
    for (const ReadManifest& manifest : manifests_) {
      references(manifest);
      scopes_.outputs = in_.scopes_by_now().outputs;
    }
    for (const ReadManifest& manifest : manifests_) bound(manifest);
  }

 private:
  // What lies below a manifest is one package, which depends on others of the tree by their names.
  void bound(const ReadManifest& manifest) {
    Boundary boundary{
        manifest.path, manifest.name, "package", true, {}, {}, web_settings::platforms_of(manifest.values)};
    if (boundary.name.empty()) boundary.name = manifest.path.str();
    for (const StringValue& value : manifest.values) {
      bool depends = value.path.size() == 2 && value.path[0].ends_with("ependencies");
      if (!depends) continue;
      for (const ReadManifest& other : manifests_) {
        if (!other.name.empty() && other.name == value.path[1]) boundary.uses.push_back(other.path);
      }
    }
    out_.graph().boundaries.push_back(std::move(boundary));
    out_.graph().holdings[manifest.path.parent()] = web_settings::held_by(manifest.values, *manifest.bytes);
  }

  // The names by which a package's modules are imported, from within and by its neighbours.
  void aliases(const ReadManifest& manifest) {
    RelPath folder = manifest.path.parent();
    bool exports = false;
    for (std::string_view field : kEntries) {
      for (const StringValue& value : manifest.values) {
        bool is_field = value.path.size() == 1 && value.path[0] == field;
        if (!is_field || out_.graph().entries.contains(folder)) continue;
        if (auto place = RelPath::resolve(folder, value.text)) out_.graph().entries[folder] = *place;
      }
    }
    for (const StringValue& value : manifest.values) {
      if (value.path.empty() || !value.text.starts_with("./")) continue;
      if (value.path[0] == "imports" && value.path.size() > 1 && value.path[1].starts_with("#")) {
        add(manifest, folder, value.path[1], value.text);
      } else if (value.path[0] == "exports" && !manifest.name.empty()) {
        exports = true;
        std::string key = value.path.size() > 1 && value.path[1].starts_with(".") ? value.path[1] : ".";
        add(manifest, {}, manifest.name + key.substr(1), value.text);
      }
    }
    style_calls(manifest);
    if (manifest.name.empty() || exports || folder.is_root()) return;
    Alias whole;
    whole.settings = manifest.path;
    whole.head = manifest.name;
    whole.place = folder;
    out_.graph().aliases.push_back(whole);
    whole.head += "/";
    whole.open = true;
    out_.graph().aliases.push_back(whole);
  }

  void style_calls(const ReadManifest& manifest) {
    Settings settings{tree_, out_, self_, manifest.path, out_.files().index(manifest.path), *manifest.bytes};
    for (const StringValue& value : manifest.values) {
      if (value.path.size() != 2 || value.path[0] != "scripts") continue;
      for (const shell::Command& command :
           shell::read(text_of(settings, value), settings.base(), tree_).commands) {
        if (command.base_known) web_settings::read_style_call(settings, command);
      }
    }
  }

  void add(const ReadManifest& manifest, const RelPath& scope, const std::string& name,
           const std::string& value) {
    Alias alias;
    alias.scope = scope;
    alias.settings = manifest.path;
    std::size_t star = name.find('*'), value_star = value.find('*');
    alias.open = star != std::string::npos && value_star != std::string::npos;
    if (!alias.open && (star != std::string::npos || value_star != std::string::npos)) return;
    alias.head = name.substr(0, star);
    std::string head = value.substr(0, value_star);
    std::size_t slash = head.rfind('/');
    auto place = RelPath::resolve(manifest.path.parent(), alias.open ? head.substr(0, slash + 1) : value);
    if (!place) return;
    alias.place = *place;
    if (alias.open) {
      alias.tail = name.substr(star + 1);
      alias.before = head.substr(slash + 1);
      alias.after = value.substr(value_star + 1);
    }
    out_.graph().aliases.push_back(alias);
  }

  void references(const ReadManifest& manifest) {
    Settings settings{tree_, out_, self_, manifest.path, out_.files().index(manifest.path), *manifest.bytes};
    current_ = &manifest;
    for (const StringValue& value : manifest.values) {
      const auto& path = value.path;
      if (path.empty()) continue;
      if (path[0] == "scripts" && path.size() == 2) {
        script(settings, value);
      } else if (is_entry_field(path[0])) {
        entry(settings, value);
      } else if (path[0] == "files" || path[0] == "sideEffects" || path[0] == "workspaces") {
        listed(settings, value);
      } else if (path == std::vector<std::string>{"repository", "directory"}) {
        web_settings::add_own_folder(settings, value);
      } else if (path[0] == "directories") {
        add_path(settings, value, Role::argument);
      } else if (path[0].ends_with("ependencies") || path[0] == "resolutions" || path[0] == "overrides") {
        for (std::string_view scheme : {"file:", "link:", "portal:"}) {
          if (value.text.starts_with(scheme)) add_package(settings, value, scheme.size());
        }
      } else if (path.size() > 1) {
        section(settings, value);
      }
    }
  }

  // Sections of tools: what resolves is likely meant. Some stand a mark for the package's own folder.
  void section(const Settings& settings, const StringValue& value) {
    std::size_t begin = value.text.starts_with("<rootDir>/") ? 10 : 0;
    if (web_settings::add_task_of_package(settings, value)) return;
    bool is_path = begin > 0 || value.text.find('/') != std::string::npos;
    if (!is_path || add_path(settings, value, Role::argument, Certainty::likely, begin)) return;
    add_pattern_head(settings, value, begin);
  }

  // A file, or what the compiler makes of one.
  void entry(const Settings& settings, const StringValue& value) {
    std::size_t star = value.text.find('*');
    if (star != std::string::npos) {
      if (!add_pattern_head(settings, value, 0, Role::search_root)) made_folder(settings, value, star);
      return;
    }
    auto place = RelPath::resolve(settings.folder(), value.text);
    if (!place || place->is_root()) return;
    const Entry* found = tree_.find(*place);
    std::vector<RelPath> sources =
        found && !found->ignored ? std::vector<RelPath>() : resolver_->sources_of(*place);
    Reference reference = reference_to(settings, value, Role::source, text_of(settings, value));
    if (!sources.empty()) {
      reference.kind = OwnSpelling{};
      reference.lead_to(sources.front(), Target::Kind::made);
    } else if (found && !found->ignored) {
      add_path(settings, value, Role::source);
      return;
    } else {
      std::vector<RelPath> files = found ? std::vector<RelPath>() : resolver_->files_at(*place, false);
      if (files.empty()) return;  // not there yet, and nobody knows what makes it
      reference.kind = OwnSpelling{};
      reference.lead_to(files);
    }
    out_.add(std::move(reference));
  }

  // "./dist/charts/*.js": the folder of what is made of the sources of a folder.
  void made_folder(const Settings& settings, const StringValue& value, std::size_t star) {
    std::size_t cut = value.text.rfind('/', star);
    if (cut == std::string::npos || cut == 0) return;
    auto place = RelPath::resolve(settings.folder(), value.text.substr(0, cut));
    if (!place) return;
    for (const OutputFolder& folder : scopes_.outputs) {
      if (!place->is_within(folder.outputs) || folder.outputs == folder.sources || *place == folder.outputs)
        continue;
      RelPath source = folder.sources / place->below(folder.outputs);
      if (!tree_.is_folder(source)) continue;
      Reference reference =
          reference_to(settings, value, Role::search_root, text_of(settings, value, 0, cut));
      reference.kind = OwnSpelling{};
      reference.lead_to(source, Target::Kind::made);
      out_.add(std::move(reference));
      return;
    }
  }

  // Files, folders and patterns of a list; in `files` a name may mean any depth, which follows by itself.
  void listed(const Settings& settings, const StringValue& value) {
    std::size_t begin = value.text.starts_with("!") ? 1 : 0;
    if (begin < value.text.size() && value.text[begin] == '/') ++begin;
    std::size_t star = value.text.find('*');
    bool members = value.path[0] == "workspaces" && star != std::string::npos;
    if (value.path[0] == "files" && published(settings, value, begin)) return;
    if (star == std::string::npos) {
      bool member = value.path[0] == "workspaces" && begin == 0;
      auto place = member ? RelPath::resolve(settings.folder(), value.text) : std::nullopt;
      if (place && !place->is_root() && tree_.is_folder(*place)) {
        Reference reference = reference_to(settings, value, Role::listed, text_of(settings, value));
        reference.construct = {{settings.file, list_of(value)}};
        reference.lead_to(*place);
        out_.add(std::move(reference));
      } else if (!add_path(settings, value, Role::listed, Certainty::certain, begin)) {
        entry(settings, value);
      }
    } else if (members && value.text.find("**") == std::string::npos) {
      workspace(settings, value, begin);
    } else {
      add_pattern_head(settings, value, begin);
    }
  }

  // What a word loses is not published any more. False, and nothing added, where it is not known what that
  // is.
  bool published(const Settings& settings, const StringValue& value, std::size_t begin) {
    auto found = published_by(tree_, settings.folder(), value.text.substr(begin));
    if (!found) return false;
    Reference reference = reference_to(settings, value, found->is_pattern ? Role::pattern : Role::listed,
                                       text_of(settings, value, begin, begin + found->head));
    if (found->is_deep) {
      bool is_folder = begin + found->head >= value.text.find_last_not_of('/') + 1;
      reference.kind = GlobPattern{GlobPattern::Kind::deep, found->names,
                                   is_folder ? reference.text : text_of(settings, value, begin)};
    } else if (found->is_pattern) {
      reference.kind = GlobPattern{};
    }
    // What takes something out of the list is no member of it.
    bool takes_out = value.text.starts_with("!");
    if (!takes_out) {
      for (const RelPath& left_out : left_out_of(settings, value)) std::erase(found->files, left_out);
    }
    reference.in_list = found->is_pattern || !takes_out;
    reference.may_gain = found->is_pattern;
    reference.excludes = found->is_pattern && takes_out;
    if (reference.in_list) reference.construct = {{settings.file, list_of(value)}};
    reference.lead_to(found->files);
    out_.add(std::move(reference));
    return true;
  }

  // What other words of a list take out of it, file by file.
  std::vector<RelPath> left_out_of(const Settings& settings, const StringValue& value) const {
    std::vector<RelPath> out;
    for (const StringValue& other : current_->values) {
      if (other.path.size() != value.path.size() || other.path[0] != value.path[0]) continue;
      if (!other.text.starts_with("!")) continue;
      auto found = published_by(tree_, settings.folder(), other.text.substr(1));
      if (found && !found->is_pattern) out.insert(out.end(), found->files.begin(), found->files.end());
    }
    return out;
  }

  // The words of a list are one construct, which stands where its first word does.
  std::uint32_t list_of(const StringValue& value) const {
    for (const StringValue& other : current_->values) {
      bool same = other.path.size() == value.path.size() &&
                  std::equal(other.path.begin(), other.path.end() - 1, value.path.begin());
      if (same) return other.span.begin;
    }
    return value.span.begin;
  }

  // "packages/*": every folder there that has a manifest.
  void workspace(const Settings& settings, const StringValue& value, std::size_t begin) {
    Reference reference = reference_to(settings, value, Role::pattern, text_of(settings, value, begin));
    reference.kind = GlobPattern{};
    reference.in_list = true;
    reference.construct = {{settings.file, list_of(value)}};
    reference.excludes = begin > 0 && value.text[0] == '!';
    for (const RelPath& place : match_paths(tree_, settings.folder(), value.text.substr(begin))) {
      if (tree_.is_file(place / "package.json")) reference.lead_to(place);
    }
    if (!reference.targets.empty()) out_.add(std::move(reference));
  }

  // A command line, run in the package's folder.
  void script(const Settings& settings, const StringValue& value) {
    script_line(settings, value, text_of(settings, value), 0);
  }

  void script_line(const Settings& settings, const StringValue& value, const TracedText& line, int depth) {
    constexpr int kDeepest = 3;  // command lines in command lines
    for (const shell::Command& command : shell::read(line, settings.base(), tree_).commands) {
      if (!command.base_known) continue;
      shell::Picked picked = shell::pick(command, tree_);
      std::set<std::string> known;
      for (Reference& reference : picked.references) {
        // "scss/:public/" is no file to be written.
        bool pair = !reference.targets.empty() && reference.targets.front().kind == Target::Kind::output &&
                    reference.text.text().find(':') != std::string::npos;
        if (pair) continue;
        if (is_made(reference)) continue;  // it follows its source, see part()
        reference.format = self_;
        reference.construct = {{settings.file, value.span.begin}};
        known.insert(reference.text.text());
        out_.add(std::move(reference));
      }
      shell::Launched launched = shell::launched(command);
      for (std::size_t i = 0; i < command.words.size(); ++i) {
        const shell::Word& word = command.words[i];
        if (launched.names.contains(i)) continue;
        if (launched.lines.contains(i) && depth < kDeepest) {
          script_line(settings, value, word.text, depth + 1);
          continue;
        }
        word_of_script(settings, value, command, word.text, known);
      }
    }
  }

  // Whether it leads to what the last build left there of a source that is known.
  bool is_made(const Reference& reference) const {
    return !reference.is_pattern() && !reference.targets.empty() &&
           std::all_of(reference.targets.begin(), reference.targets.end(), [&](const Target& target) {
             const Entry* entry = target.kind == Target::Kind::tree ? tree_.find(target.path) : nullptr;
             return entry && entry->ignored && !resolver_->sources_of(target.path).empty();
           });
  }

  // Words that the tools themselves expand, and files that the compiler makes.
  void word_of_script(const Settings& settings, const StringValue& value, const shell::Command& command,
                      const TracedText& word, const std::set<std::string>& known) {
    std::string text = word.text();
    if (known.contains(text) || word.has_hole() || text.empty()) return;
    std::size_t begin = 0;
    if (text[0] == '!') {  // "!src/skip.js": all but that
      part(settings, value, command, word.substr(1), true);
      return;
    }
    if (text[0] == '-') {  // --load-path=scss
      std::size_t equals = text.find('=');
      if (equals == std::string::npos || known.contains(text.substr(equals + 1))) return;
      begin = equals + 1;
    }
    std::size_t colon = text.find(':', begin);  // "scss/:public/css/": sources and what is made of them
    if (colon != std::string::npos && colon > begin + 1) {
      part(settings, value, command, word.substr(begin, colon - begin), true);
      begin = colon + 1;
    }
    part(settings, value, command, begin ? word.substr(begin) : word, begin > 0);
  }

  // `pair`: it stands beside the other part of "sources:outputs", or behind an option.
  void part(const Settings& settings, const StringValue& value, const shell::Command& command,
            TracedText text, bool pair) {
    std::string plain = text.text();
    std::size_t star = plain.find_first_of("*{");
    if (star != std::string::npos) {
      std::size_t cut = plain.rfind('/', star);
      if (cut == std::string::npos) return;
      text = text.substr(0, cut);
      plain.resize(cut);
    }
    while (plain.size() > 1 && plain.ends_with("/")) {
      plain.pop_back();
      text = text.substr(0, plain.size());
    }
    if (plain.find_first_not_of("./") == std::string::npos) return;
    Place place = place_of(command.base.folder, plain);
    if (place.space != Space::tree || place.path.is_root()) return;
    Reference reference = reference_to(settings, value, Role::argument, text);
    reference.base = command.base;
    const Entry* found = tree_.find(place.path);
    bool holds = found && (found->kind != EntryKind::folder || !tree_.children(place.path).empty());
    RelPath parent = place.path.parent();
    if (holds && !found->ignored) {
      reference.lead_to(place.path);
    } else if (std::vector<RelPath> sources = resolver_->sources_of(place.path); !sources.empty()) {
      reference.kind = OwnSpelling{};
      reference.lead_to(sources.front(), Target::Kind::made);
    } else if (pair && !parent.is_root() && tree_.is_folder(parent)) {
      reference.lead_to(place.path, Target::Kind::output);
    } else {
      return;
    }
    out_.add(std::move(reference));
  }

  const Reading& in_;
  const TreeReader& tree_;
  std::uint8_t self_;
  GraphBuilder& out_;
  Scopes scopes_;
  std::vector<ReadManifest> manifests_;
  const ReadManifest* current_ = nullptr;  // whose references are read
  const modules::ModuleResolver* resolver_ = nullptr;
};

}  // namespace

void read_manifests(const Reading& in) {
  Reader(in).run();
  in.count(in.files.size());
}

}  // namespace yc::web_settings
