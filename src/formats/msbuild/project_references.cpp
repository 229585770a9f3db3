#include "formats/msbuild/project_references.h"

#include <algorithm>
#include <set>

#include "formats/msbuild/build_events.h"
#include "formats/msbuild/default_items.h"
#include "formats/msbuild/output_places.h"
#include "formats/msbuild/project_files.h"
#include "formats/msbuild/setting_kinds.h"
#include "model/add_reference.h"

namespace yc::msbuild {

namespace {

bool is_wild(std::string_view text) {
  return text.find_first_of("*?") != std::string_view::npos;
}

class Emitter {
 public:
  Emitter(const TreeReader& tree, const Project& project, std::uint8_t format, GraphBuilder& out)
      : tree_(tree), project_(project), self_(format), out_(out), own_(project.parts.front()) {
    base_ = {own_.path.parent(), own_.file, Space::tree};
  }

  void run() {
    for (const Import& import : project_.imports) refer_to_import(import);
    for (const Value& value : project_.cycles) {
      out_.notice("include-cycle", project_.parts[value.part].path, value.span,
                  "imports a file that imports this one; the second time is left out");
    }
    for (const RelPath& path : project_.implied) refer_to_implied(path);
    collect_removed();
    for (const Item& item : project_.items) refer_to_item(item);
    for (const DefaultItems& items : default_items(tree_, project_)) refer_to_defaults(items);
    for (const Setting& setting : project_.settings) refer_to_setting(setting);
    for (const Setting& condition : project_.conditions) {
      for (const TracedText& text : condition.value.texts)
        add_path(text, base_, chain(condition.value), Role::argument, Certainty::likely);
    }
    note_copies(tree_, project_, out_);
    compile();
    Boundary boundary{own_.path, std::string(own_.path.name()), "project", false, members_, uses_, {}};
    boundary.name.resize(boundary.name.size() - own_.path.extension().size());
    if (!is_project(own_.path) || own_.path.extension() == ".vsprops") return;
    out_.graph().boundaries.push_back(std::move(boundary));
    hold();
  }

 private:
  // A value of an imported file is used by each project that imports it.
  SiteChain chain(const Value& value) const {
    const Part& part = project_.parts[value.part];
    if (value.part == 0) return {{part.file, value.site}};
    return {{own_.file, 0}, {part.file, value.site}};
  }

  // All items of a type are one construct: it is the same whichever element says what is compiled.
  Reference item_reference(const std::string& type, const char* what = "") const {
    Reference reference = Reference::of(Role::listed, self_, {{own_.file, 0}}, base_, {})
                              .in(ConstructPart::tagged("#" + type + what));
    return reference;
  }

  std::optional<RelPath> lead(const TracedText& text, const Base& base) const {
    Place place = place_of(base.folder, text.text(), base.space);
    bool nowhere = place.path.is_root() && text.text().find("..") == std::string::npos;
    if (place.space != Space::tree || nowhere) return std::nullopt;
    auto path = find_any_case(tree_, place.path);
    if (!path || tree_.find(*path)->ignored) return std::nullopt;
    return path;
  }

  bool add_path(const TracedText& text, const Base& base, const SiteChain& key, Role role,
                Certainty certainty) {
    if (text.has_hole()) {
      add_unseen(out_, tree_, text, base, self_, key);
      return false;
    }
    auto path = lead(text, base);
    if (!path || text.first_origin().file == kNoFile) return false;
    Reference reference = Reference::of(role, self_, key, base, text).as_sure_as(certainty).leading_to(*path);
    reference.in_list = role == Role::search_root;
    out_.add(std::move(reference));
    return true;
  }

  // <Import Project="props\*.props" />
  void refer_to_imports(const TracedText& text, const Base& base, const Import& import) {
    if (text.text().find("**") != std::string::npos) return;
    Reference reference = Reference::of(Role::pattern, self_, chain(import.value), base, text);
    reference.kind = GlobPattern{};
    for (const RelPath& path : match_paths(tree_, base.folder, text.text())) {
      if (tree_.is_file(path)) reference.lead_to(path);
    }
    if (!reference.targets.empty()) out_.add(std::move(reference));
  }

  void refer_to_import(const Import& import) {
    const Part& part = project_.parts[import.value.part];
    Base base{import.folder, part.file, Space::tree};
    for (const TracedText& text : import.value.texts) {
      if (text.has_hole()) {
        add_unseen(out_, tree_, text, base, self_, chain(import.value));
        continue;
      }
      if (is_wild(text.text())) {
        refer_to_imports(text, base, import);
        continue;
      }
      if (add_path(text, base, chain(import.value), Role::script, Certainty::certain)) continue;
      Place place = place_of(base.folder, text.text());
      if (place.space != Space::tree || is_wild(text.text()) || import.found) continue;
      const xml::Element& element = (*part.elements)[import.value.element];
      Reference reference = Reference::of(Role::script, self_, chain(import.value), base, text);
      reference.dangling = !element.attribute("Condition");
      out_.add(std::move(reference));
    }
  }

  void refer_to_implied(const RelPath& path) {
    Reference reference = item_reference("implied ", std::string(path.name()).c_str());
    reference.role = Role::script;
    reference.text = TracedText::plain(relative_text(base_.folder, path));
    reference.lead_to(path);
    out_.add(std::move(reference));
  }

  // What Exclude and Remove take out again, by the type of the items.
  void collect_removed() {
    for (const Item& item : project_.items) {
      if (item.act != Item::Act::exclude && item.act != Item::Act::remove) continue;
      for (const TracedText& text : item.value.texts) {
        for (const TracedText& word : list_words(text, project_.separators)) {
          if (!word.has_hole()) removed_.push_back({item.type, item.act, item.number, word.text()});
        }
      }
    }
  }

  bool is_removed(const std::string& type, std::size_t number, const RelPath& file) const {
    return std::any_of(removed_.begin(), removed_.end(), [&](const Removed& removed) {
      bool counts = removed.type == type && (removed.act == Item::Act::remove || removed.number == number);
      if (!counts) return false;
      std::string text = relative_text(base_.folder, file);
      if (is_wild(removed.text)) {
        Place place = place_of(base_.folder, removed.text);
        return takes_in(place.space == Space::tree ? place.path.str() : removed.text, file.str());
      }
      return place_of(base_.folder, removed.text) == Place{Space::tree, file};
    });
  }

  void refer_to_item(const Item& item) {
    ItemKind kind = item_kind(item.type);
    if (kind == ItemKind::no_path) return;
    for (const TracedText& text : item.value.texts) {
      for (const TracedText& word : list_words(text, project_.separators)) {
        if (word.text().find_first_not_of("\x03") == std::string::npos) continue;
        if (word.has_hole()) {
          add_unseen(out_, tree_, word, base_, self_, {{own_.file, item.value.site}});
        } else if (is_wild(word.text())) {
          refer_to_pattern(item, word);
        } else {
          refer_to_file(item, kind, word);
        }
      }
    }
  }

  void refer_to_file(const Item& item, ItemKind kind, const TracedText& word) {
    bool takes_out = item.act == Item::Act::remove || item.act == Item::Act::exclude;
    const char* what = takes_out ? " taken out" : item.act == Item::Act::update ? " changed" : "";
    Reference reference = item_reference(item.type, what);
    reference.role = item.type == "ProjectReference" ? Role::subfolder
                     : kind == ItemKind::compiled    ? Role::source
                                                     : Role::listed;
    reference.text = word;
    reference.in_list = true;
    reference.excludes = takes_out;
    reference.may_gain = item.act != Item::Act::include;
    auto path = lead(word, base_);
    bool named = word.first_origin().file != kNoFile;
    if (path && named) {
      if (kind == ItemKind::file && tree_.is_folder(*path) && word.text().find('/') == std::string::npos)
        return;
      reference.lead_to(*path);
      if (item.act == Item::Act::include && reference.role == Role::source) members_.insert(*path);
      if (item.act == Item::Act::include && reference.role == Role::subfolder) uses_.push_back(*path);
      if (item.type == "ClCompile" && item.act == Item::Act::include)
        sources_.push_back({*path, item.number});
    } else {
      bool wanted = kind == ItemKind::compiled && item.act == Item::Act::include && named;
      Place place = place_of(base_.folder, word.text());
      if (wanted && place.space == Space::outside && word.text().starts_with("..")) {
        Passage origin = word.first_origin();
        out_.notice(
            "outside-root", out_.files().path(origin.file), origin.span,
            "names " + word.text() + ", which lies outside of the tree: a fresh clone does not have it");
      }
      if (!wanted || place.space != Space::tree) return;
      reference.dangling = true;
    }
    out_.add(std::move(reference));
  }

  void refer_to_pattern(const Item& item, const TracedText& word) {
    std::string text = word.text();
    std::size_t deep = text.find("**");
    bool takes_out = item.act == Item::Act::remove || item.act == Item::Act::exclude;
    Place place = place_of(base_.folder, text);
    if (place.space != Space::tree || item.act == Item::Act::update) return;
    if (takes_out) {  // its folder is followed
      std::size_t cut = text.rfind('/', text.find_first_of("*?"));
      if (cut == std::string::npos || cut == 0) return;
      if (add_path(word.substr(0, cut), base_, {{own_.file, item.value.site}}, Role::argument,
                   Certainty::certain))
        out_.graph().references[out_.added().back()].excludes = true;
      return;
    }
    Reference reference = item_reference(item.type);
    reference.role = Role::pattern;
    reference.kind = GlobPattern{};
    reference.in_list = true;
    std::vector<RelPath> found;
    if (deep == std::string::npos) {
      reference.text = word;
      found = match_paths(tree_, base_.folder, text);
    } else {
      std::string head = text.substr(0, deep == 0 ? 0 : deep - 1);
      std::string rest = deep + 3 < text.size() ? text.substr(deep + 3) : "*";
      if (is_wild(head) || rest.find('/') != std::string::npos) return;
      if (rest == "*.*") rest = "*";
      reference.kind = GlobPattern{GlobPattern::Kind::deep, rest, word};
      reference.text = word.substr(0, head.size());
      found = match_deep(tree_, base_.folder, head.empty() ? rest : head + "/" + rest);
    }
    for (const RelPath& file : found) {
      const Entry* entry = tree_.find(file);
      if (!entry || entry->ignored || entry->kind == EntryKind::folder) continue;
      if (is_removed(item.type, item.number, file)) continue;
      reference.lead_to(file);
      members_.insert(file);
      if (item.type == "ClCompile") sources_.push_back({file, item.number});
    }
    out_.add(std::move(reference));
  }

  void refer_to_defaults(const DefaultItems& items) {
    Reference reference = item_reference(items.type);
    reference.role = Role::pattern;
    reference.kind = GlobPattern{GlobPattern::Kind::deep, items.pattern};
    reference.may_gain = items.type == "Content";
    for (const RelPath& file : items.files) {
      if (is_removed(items.type, static_cast<std::size_t>(-1), file)) continue;
      reference.lead_to(file);
      members_.insert(file);
    }
    out_.add(std::move(reference));
  }

  void refer_to_setting(const Setting& setting) {
    ValueKind kind = kind_of(setting.owner, setting.name);
    if (kind == ValueKind::no_path) return;
    // A value with $(X) in it is told of once for each thing that it may mean.
    for (const TracedText& text : setting.value.texts) {
      if (kind == ValueKind::command) {
        refer_from_command(setting, text);
        continue;
      }
      Base base = kind == ValueKind::beside_item ? base_of_item(setting) : base_;
      for (const TracedText& word : list_words(text, project_.separators)) {
        std::string plain = word.text();
        if (plain.find_first_not_of("\x03./") == std::string::npos && !climbs_to_root(plain)) continue;
        if (kind == ValueKind::output) {
          refer_to_output(setting, word);
        } else if (kind == ValueKind::search_roots) {
          refer_to_root(setting, word);
        } else if (is_wild(plain)) {
          continue;
        } else if (kind == ValueKind::path || kind == ValueKind::beside_item) {
          add_path(word, base, chain(setting.value), Role::argument, Certainty::certain);
        } else if (could_be_path(word)) {
          add_path(word, base, chain(setting.value), Role::argument, Certainty::likely);
        }
      }
    }
  }

  bool could_be_path(const TracedText& word) const {
    std::string plain = word.text();
    bool is_sentence = plain.find_first_of(" \n|=<>\"") != std::string::npos && !lead(word, base_);
    if (is_sentence || word.size() > 400) return false;
    if (plain.find('/') != std::string::npos) return true;
    auto path = word.has_hole() ? std::nullopt : lead(word, base_);
    return path && tree_.is_file(*path) && plain.find('.') != std::string::npos;
  }

  // The file that an item names: what depends on it is beside it.
  Base base_of_item(const Setting& setting) const {
    for (const Item& item : project_.items) {
      if (item.number != setting.item || item.value.texts.empty()) continue;
      auto path = lead(item.value.texts.front(), base_);
      if (path) return {path->parent(), out_.files().index(*path), Space::tree};
    }
    return base_;
  }

  void refer_to_output(const Setting& setting, const TracedText& word) {
    // Up to the first part that differs from configuration to configuration.
    std::size_t end = 0;
    for (const Piece& piece : word.pieces()) {
      bool varies = piece.nature == Piece::Nature::hole ||
                    (piece.nature == Piece::Nature::literal && !piece.has_origin() && piece.text != "/");
      if (varies) break;
      end += piece.text.size();
    }
    std::string plain = word.text();
    if (end < plain.size()) {
      std::size_t cut = plain.rfind('/', end);
      if (cut == std::string::npos || cut == 0 || cut > end) return;
      end = cut;
    }
    plain.resize(end);
    TracedText head = word.substr(0, end);
    while (plain.size() > 1 && plain.back() == '/') {
      plain.pop_back();
      head = head.substr(0, plain.size());
    }
    Place place = place_of(base_.folder, plain);
    bool is_spelled = std::any_of(head.pieces().begin(), head.pieces().end(), [](const Piece& piece) {
      return piece.has_origin() && piece.text.find_first_not_of("/") != std::string::npos;
    });
    if (place.space != Space::tree || place.path.is_root() || place.path == base_.folder || !is_spelled)
      return;
    const Entry* entry = tree_.find(place.path);
    Reference reference = Reference::of(Role::argument, self_, chain(setting.value), base_, head);
    bool is_there = entry && !entry->ignored;
    // What is made below the project's folder goes where the project goes.
    if (!is_there && !climbs_to_root(plain)) return;
    reference.targets.push_back({is_there ? Target::Kind::tree : Target::Kind::output, place.path, {}});
    out_.add(std::move(reference));
  }

  void refer_to_root(const Setting& setting, const TracedText& word) {
    TracedText folder = word;
    while (folder.size() > 1 && folder.text().ends_with("/")) folder = folder.substr(0, folder.size() - 1);
    bool is_compiler = setting.owner == "ClCompile" || setting.owner == "ItemDefinitionGroup" ||
                       setting.owner == "PropertyGroup" || setting.owner == "ResourceCompile";
    Place place = place_of(base_.folder, folder.text());
    bool leads = !folder.has_hole() && place.space == Space::tree && tree_.is_folder(place.path);
    if (leads && place.path == base_.folder && folder.text() == ".") {
      // The project's own folder goes where it goes.
    } else {
      add_path(folder, base_, chain(setting.value), Role::search_root, Certainty::certain);
    }
    if (!is_compiler || setting.name.find("nclude") == std::string::npos) return;
    if (leads) roots_.push_back({setting.item, {{Space::tree, place.path}, false}});
    bool is_system = folder.has_hole() && folder.is_only_holes();
    open_ = open_ || (folder.has_hole() && !is_system);
    if (leads && setting.item == static_cast<std::size_t>(-1)) root_words_.push_back(word);
  }

  void refer_from_command(const Setting& setting, const TracedText& text) {
    // The events of managed projects run in the folder of the output.
    bool elsewhere = setting.owner == "PropertyGroup" && own_.path.extension() != ".vcxproj";
    Base start = elsewhere ? Base{{}, kNoFile, Space::outside} : base_;
    for (const shell::Command& command : command_lines(text, start).commands) {
      shell::Picked picked = shell::pick(command, tree_);
      for (Reference& reference : picked.references) {
        Passage origin = reference.text.first_origin();
        if (origin.file == kNoFile) continue;
        reference.role = Role::argument;
        reference.certainty = Certainty::likely;
        reference.may_gain = true;
        reference.dangling = false;
        reference.format = self_;
        reference.construct = chain(setting.value);
        reference.construct_part = ConstructPart::tagged("command");
        out_.add(std::move(reference));
      }
    }
  }

  // "<OutputType>Exe</OutputType>", or another application.
  void hold() {
    bool is_program = false;
    for (const auto& [name, texts] : project_.properties) {
      bool says = name == "outputtype" || name == "configurationtype";
      for (const TracedText& text : says ? texts : std::vector<TracedText>())
        is_program = is_program || text.text() == "Application" || text.text().ends_with("Exe");
    }
    Holding& holding = out_.graph().holdings[own_.path.parent()];
    (is_program ? holding.program : holding.library) = true;
  }

  // Sources of C and C++ with the folders that they look for headers in.
  void compile() {
    if (sources_.empty()) return;
    std::string name(own_.path.name());
    Unit unit{name, self_, {own_.file, 0}, root_words_};
    out_.graph().units.push_back(std::move(unit));
    auto number = static_cast<std::int32_t>(out_.graph().units.size()) - 1;
    std::set<std::size_t> special;
    for (const auto& [item, root] : roots_) {
      if (item != static_cast<std::size_t>(-1)) special.insert(item);
    }
    auto context_of = [&](std::size_t item) {
      Context context;
      for (bool own : {true, false}) {
        for (const auto& [owner, root] : roots_) {
          bool counts = own ? owner == item : owner == static_cast<std::size_t>(-1);
          bool known = std::find(context.roots.begin(), context.roots.end(), root) != context.roots.end();
          if (counts && !known) context.roots.push_back(root);
        }
      }
      context.open = open_;
      context.start = {Space::tree, base_.folder};
      return out_.context(std::move(context));
    };
    ContextIndex common = context_of(static_cast<std::size_t>(-2));
    // A source may stand in an item for each configuration.
    std::set<std::pair<RelPath, ContextIndex>> seen;
    for (const auto& [source, item] : sources_) {
      ContextIndex context = special.contains(item) ? context_of(item) : common;
      if (seen.emplace(source, context).second) out_.compile(source, context, number);
    }
  }

  struct Removed {
    std::string type;
    Item::Act act;
    std::size_t number;
    std::string text;
  };
  const TreeReader& tree_;
  const Project& project_;
  std::uint8_t self_;
  GraphBuilder& out_;
  const Part& own_;
  Base base_;
  std::vector<Removed> removed_;
  std::set<RelPath> members_;
  std::vector<RelPath> uses_;                              // other projects
  std::vector<std::pair<RelPath, std::size_t>> sources_;   // with the number of the item
  std::vector<std::pair<std::size_t, SearchRoot>> roots_;  // of an item, or of all
  std::vector<TracedText> root_words_;
  bool open_ = false;
};

}  // namespace

void emit_project(const TreeReader& tree, const Project& project, std::uint8_t format, GraphBuilder& out) {
  if (!project.parts.empty()) Emitter(tree, project, format, out).run();
}

}  // namespace yc::msbuild
