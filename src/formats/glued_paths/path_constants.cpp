#include "formats/glued_paths/path_constants.h"

#include <algorithm>

#include "base/name_search.h"
#include "base/text.h"
#include "formats/build_copies.h"
#include "formats/glued_paths/loader_scan.h"
#include "formats/literal_paths.h"

namespace yc::glued_paths {

namespace {

constexpr std::size_t kDeepest = 4;  // constants made of constants

// "assets", as a constant that is called after what it holds: kAssetDir, ROOT, data_path.
bool is_called_a_folder(std::string name) {
  name = lowered(name);
  for (const char* word : {"dir", "root", "path", "folder", "base", "prefix"}) {
    if (name.find(word) != std::string::npos) return true;
  }
  return false;
}

// Whether a folder between that of `file` and the root has a folder of this name.
bool is_folder_above(const TreeReader& tree, const RelPath& file, const std::string& name) {
  for (RelPath up = file.parent();; up = up.parent()) {
    auto place = RelPath::resolve(up, name);
    if (place && !place->is_root() && tree.is_folder(*place)) return true;
    if (up.is_root()) return false;
  }
}

}  // namespace

void PathConstants::take_loaders(const RelPath& file, const GlueFacts& facts) {
  for (const Loader& loader : facts.loaders) loaders_[loader.function].push_back({file, loader});
}

void PathConstants::see_macros(const Scopes& scopes) {
  for (std::size_t i = 0; i < scopes.contexts.size(); ++i) {
    for (const PathMacro& macro : scopes.contexts[i].macros) {
      const Base& base = macro.definition.base;
      Place place = place_of(base.folder, macro.value.text(), base.space);
      bool is_known = !macro.value.has_hole() && !macro.angled && place.space == Space::tree;
      if (is_known) macros_[macro.name].emplace(static_cast<ContextIndex>(i), place.path);
    }
  }
  if (macros_.empty()) return;
  for (const Compilation& one : scopes.compilations) compiled_in_[one.source].insert(one.context);
}

std::optional<TracedText> PathConstants::macro(const RelPath& file, const std::string& name) const {
  auto known = macros_.find(name);
  if (known == macros_.end()) return std::nullopt;
  auto contexts = compiled_in_.find(file);
  std::set<RelPath> paths;
  for (const auto& [context, path] : known->second) {
    if (contexts == compiled_in_.end() || contexts->second.contains(context)) paths.insert(path);
  }
  if (paths.size() != 1) return std::nullopt;
  return TracedText::folder(Piece::Nature::tree_folder, kNoFile, marked(Space::tree, *paths.begin()));
}

void PathConstants::look_for_functions(const std::set<std::string>& functions) {
  std::vector<std::string> wanted;
  for (const std::string& name : functions) {
    if (!loaders_.contains(name)) wanted.push_back(name);
  }
  if (wanted.empty()) return;
  NameSearch search(wanted);
  for (const RelPath& path : files_) {
    auto bytes = tree_.read(path);
    if (!bytes || !search.finds_any(**bytes)) continue;
    bool defines = std::any_of(wanted.begin(), wanted.end(),
                               [&](const std::string& name) { return may_define(**bytes, name); });
    auto facts = defines ? facts_of_(path) : nullptr;
    for (const Loader& loader : facts ? facts->loaders : std::vector<Loader>()) {
      if (functions.contains(loader.function)) loaders_[loader.function].push_back({path, loader});
    }
  }
}

void PathConstants::look_up(const UnknownNames& names) {
  std::set<std::string> wanted = names.constants;
  if (names.is_confined) look_for_functions(names.functions);
  for (const auto& [function, found] : loaders_) {
    // Of those that nobody calls with a text it does not matter what they go on from.
    bool is_asked_for = names.functions.contains(function) && found.size() == 1;
    if (is_asked_for) wanted.insert(found.front().loader.folder.front().name);
  }
  for (std::size_t round = 0; round < kDeepest && !wanted.empty(); ++round) {
    NameSearch search(std::vector<std::string>(wanted.begin(), wanted.end()));
    std::set<std::string> next;
    for (const std::string& name : wanted) elsewhere_[name];
    for (const RelPath& path : files_) {
      auto bytes = tree_.read(path);
      if (!bytes || !search.finds_any(**bytes)) continue;
      auto facts = facts_of_(path);
      if (!facts) continue;
      for (const PathConstant& constant : facts->constants) {
        if (!wanted.contains(constant.name)) continue;
        elsewhere_[constant.name].push_back({path, constant.value});
        for (const GluePart& part : constant.value) {
          if (part.is_name && !elsewhere_.contains(part.name)) next.insert(part.name);
        }
      }
    }
    wanted = std::move(next);
  }
}

std::optional<PathConstants::Definition> PathConstants::find(const RelPath& file, const GlueFacts& facts,
                                                             const std::string& name) const {
  if (auto own = facts.by_name.find(name); own != facts.by_name.end()) {
    if (own->second.size() > 1) return std::nullopt;
    return Definition{file, facts.constants[own->second.front()].value};
  }
  auto at = elsewhere_.find(name);
  if (at == elsewhere_.end() || at->second.size() != 1) return std::nullopt;
  return at->second.front();
}

std::optional<PathConstants::FoundLoader> PathConstants::find_loader(const RelPath& file,
                                                                     const GlueFacts& facts,
                                                                     const std::string& function) const {
  for (const Loader& loader : facts.loaders) {
    if (loader.function == function) return FoundLoader{file, loader};
  }
  auto at = loaders_.find(function);
  if (at == loaders_.end() || at->second.size() != 1) return std::nullopt;
  return at->second.front();
}

std::optional<TracedText> PathConstants::spelled(const RelPath& file, const GlueFacts& facts,
                                                 const std::vector<GluePart>& parts, FileTable& table,
                                                 std::size_t depth) const {
  if (depth > kDeepest) return std::nullopt;
  TracedText out;
  for (const GluePart& part : parts) {
    TracedText text;
    auto defined = part.is_name ? macro(file, part.name) : std::nullopt;
    if (defined) {
      text = std::move(*defined);
    } else if (part.is_name) {
      auto definition = find(file, facts, part.name);
      if (!definition) return std::nullopt;
      auto other = definition->file == file ? nullptr : facts_of_(definition->file);
      if (definition->file != file && !other) return std::nullopt;
      auto value = spelled(definition->file, other ? *other : facts, definition->value, table, depth + 1);
      if (!value) return std::nullopt;
      text = std::move(*value);
    } else {
      auto bytes = tree_.read(file);
      if (!bytes) return std::nullopt;
      std::string plain = (*bytes)->substr(part.span.begin, part.span.size());
      if (plain.find_first_of(" \t\n\r\\{}%*?<>|$:;,=\"'") != std::string::npos) return std::nullopt;
      // What is no folder, as "icon-" before "pole.png", stays what it is.
      bool is_fixed =
          depth > 0 && plain.find('/') == std::string::npos && !is_folder_above(tree_, file, plain);
      text = is_fixed ? TracedText::plain(std::move(plain))
                      : TracedText::literal(std::move(plain), table.index(file), part.span);
    }
    bool apart =
        part.separated && !out.empty() && !out.text().ends_with("/") && !text.text().starts_with("/");
    if (apart) out.append(TracedText::plain("/"));
    out.append(text);
    if (out.size() > 300) return std::nullopt;
  }
  return out;
}

std::optional<Reference> PathConstants::reference(const RelPath& user, const TracedText& text, Site site,
                                                  std::uint8_t format) const {
  // Behind a folder that a script tells.
  if (std::string plain = text.text(); plain.starts_with(kTreeMark)) {
    Place place = place_of({}, plain);
    const Entry* entry = place.path.is_root() ? nullptr : tree_.find(place.path);
    if (!entry || entry->ignored) return std::nullopt;
    return Reference::of(Role::argument, format, {site}, {user.parent(), kNoFile, Space::tree}, text)
        .likely()
        .in(ConstructPart::tagged("macro"))
        .leading_to(place.path);
  }
  CopyUse copy = scopes_ ? copied_path(*scopes_, *table_, tree_, text, site, format) : CopyUse{};
  return copy.any ? std::move(copy.reference) : literal_path(tree_, user, text, site, format);
}

void note_unknown_names(const GlueFacts& facts, std::string_view bytes, const RelPath& file,
                        const GraphBuilder& out, UnknownNames& names) {
  for (const Glue& glue : facts.texts) {
    if (!glue.parts.front().is_name) continue;
    const std::string& name = glue.parts.front().name;
    bool own = facts.by_name.contains(name);
    const Span& last = glue.parts.back().span;
    std::string text(bytes.substr(last.begin, last.size()));
    bool wanted = out.wants(file) || glue.is_open || out.wants_any_name(text);
    if (!own && wanted && text.find_first_of(" \t\n\\<>") == std::string::npos) names.constants.insert(name);
  }
  names.is_confined = out.focus() != nullptr;
  for (const LoaderCall& call : facts.calls) {
    bool wanted =
        out.wants(file) || out.wants_any_name(std::string(bytes.substr(call.text.begin, call.text.size())));
    if (wanted) names.functions.insert(call.function);
  }
}

namespace {

class Emitter {
 public:
  Emitter(const TreeReader& tree, const RelPath& file, const GlueFacts& facts, PathConstants& constants,
          std::uint8_t format, bool tells_holes, GraphBuilder& out)
      : tree_(tree),
        path_(file),
        file_(out.files().index(file)),
        facts_(facts),
        constants_(constants),
        format_(format),
        tells_holes_(tells_holes),
        out_(out) {}

  std::set<std::uint32_t> run() {
    for (const Glue& glue : facts_.texts) {
      auto text = constants_.spelled(path_, facts_, glue.parts, out_.files());
      Site site{file_, glue.parts.back().span.begin};
      bool taken = text && (glue.is_open ? open(*text, glue, site) : add(*text, site));
      if (!taken) continue;
      for (const GluePart& part : glue.parts) {
        if (part.is_name) continue;
        taken_.insert(part.span.begin);
      }
      stand_for_folders(path_, facts_, glue.parts, 0);
    }
    for (const LoaderCall& call : facts_.calls) loaded(call);
    for (const PathConstant& constant : facts_.constants) folder(constant);
    return std::move(taken_);
  }

 private:
  bool add(const TracedText& text, Site site) {
    if (!out_.wants(path_) && !out_.wants_any_name(text.text())) return false;
    auto found = constants_.reference(path_, text, site, format_);
    if (found) out_.add(std::move(*found));
    return found.has_value();
  }

  // load("tides.csv"), where load() glues what it is given to a folder.
  void loaded(const LoaderCall& call) {
    if (taken_.contains(call.text.begin)) return;
    auto found = constants_.find_loader(path_, facts_, call.function);
    if (!found) return;
    auto other = found->file == path_ ? nullptr : constants_.facts_of(found->file);
    if (found->file != path_ && !other) return;
    const GlueFacts& theirs = other ? *other : facts_;
    // A function of the file's own is called, whatever another file calls so.
    auto bytes = other ? tree_.read(path_) : Result<Bytes>(Error{});
    if (bytes && may_define(**bytes, call.function)) return;
    auto text = constants_.spelled(found->file, theirs, found->loader.folder, out_.files());
    std::vector<GluePart> own = {{false, "", call.text, false}};
    auto rest = text ? constants_.spelled(path_, facts_, own, out_.files()) : std::nullopt;
    if (!rest) return;
    if (found->loader.separated && !text->text().ends_with("/")) text->append(TracedText::plain("/"));
    text->append(*rest);
    Site site{file_, call.text.begin};
    auto reference = constants_.reference(found->file, *text, site, format_);
    if (!reference) return;
    taken_.insert(call.text.begin);
    if (out_.wants(path_) || out_.wants_any_name(text->text())) out_.add(std::move(*reference));
    stand_for_folders(found->file, theirs, found->loader.folder, 0);
  }

  // Of "icons/" + name the folder is known.
  bool open(const TracedText& text, const Glue& glue, Site site) {
    std::string plain = text.text();
    std::size_t cut = plain.rfind('/');
    if (glue.parts.size() == 1 && glue.parts.front().is_name && !plain.ends_with("/")) cut = plain.size();
    if (cut == std::string::npos || cut == 0) return false;
    auto found = constants_.reference(path_, text.substr(0, cut), site, format_);
    if (!found || found->targets.front().kind != Target::Kind::tree ||
        !tree_.is_folder(found->targets.front().path))
      return false;
    if (tells_holes_) {
      TracedText whole = text;
      Base base = found->base;
      if (base.space == Space::build) {  // what is named is a copy of what is in the tree
        Piece piece;
        piece.text = marked(Space::tree, found->targets.front().path) + plain.substr(cut);
        piece.file = site.file;
        piece.span = glue.parts.back().span;
        piece.verbatim = false;
        whole = {};
        whole.append(std::move(piece));
        base = {path_.parent(), kNoFile, Space::tree};
      }
      if (cut == plain.size()) whole.append(TracedText::plain("/"));
      whole.append(TracedText::hole());
      if (!glue.tail.empty()) whole.append(TracedText::plain(glue.tail));
      out_.hole(whole, base, format_);
    }
    if (glue.head_is_read) return false;
    if (out_.wants(path_) || out_.wants_any_name(found->targets.front().path.str()))
      out_.add(std::move(*found));
    return true;
  }

  // A constant that something is glued to goes on standing for the folder that it stands for, whoever else
  // may use it.
  void stand_for_folders(const RelPath& file, const GlueFacts& facts, const std::vector<GluePart>& parts,
                         std::size_t depth) {
    for (const GluePart& part : parts) {
      auto definition = part.is_name ? constants_.find(file, facts, part.name) : std::nullopt;
      if (!definition || depth > kDeepest) continue;
      bool here = definition->file == file;
      auto other = here ? nullptr : constants_.facts_of(definition->file);
      if (!here && !other) continue;
      const GlueFacts& theirs = here ? facts : *other;
      Site site{out_.files().index(definition->file), definition->value.back().span.begin};
      if (!constants_.is_first(site)) continue;
      stand_for_folders(definition->file, theirs, definition->value, depth + 1);
      auto text = constants_.spelled(definition->file, theirs, definition->value, out_.files());
      std::size_t cut = text ? text->text().rfind('/') : std::string::npos;
      if (!text) continue;
      auto found = constants_.reference(definition->file, *text, site, format_);
      if (!found && cut != std::string::npos)
        found = constants_.reference(definition->file, text->substr(0, cut), site, format_);
      if (found) out_.add(std::move(*found));
    }
  }

  // A constant that stands for a folder, where nothing that is glued to it tells more.
  void folder(const PathConstant& constant) {
    if (constant.value.size() != 1 || constant.value.front().is_name) return;
    if (!constant.is_glued_to && !is_called_a_folder(constant.name)) return;
    auto text = constants_.spelled(path_, facts_, constant.value, out_.files());
    if (!text) return;
    std::string plain = text->text();
    if (plain.ends_with("..") || plain == ".") return;
    if (plain.ends_with("/")) *text = text->substr(0, plain.size() - 1);
    if (text->empty() || (!out_.wants(path_) && !out_.wants_any_name(plain))) return;
    auto found = constants_.reference(path_, *text, {file_, constant.value.front().span.begin}, format_);
    bool is_folder = found && found->targets.front().kind == Target::Kind::tree &&
                     tree_.is_folder(found->targets.front().path);
    if (!is_folder) return;
    taken_.insert(constant.value.front().span.begin);
    if (constants_.is_first(found->construct.front())) out_.add(std::move(*found));
  }

  const TreeReader& tree_;
  const RelPath& path_;
  FileIndex file_;
  const GlueFacts& facts_;
  PathConstants& constants_;
  std::uint8_t format_;
  bool tells_holes_;
  GraphBuilder& out_;
  std::set<std::uint32_t> taken_;
};

}  // namespace

std::set<std::uint32_t> emit_glued(const TreeReader& tree, const RelPath& file, const GlueFacts& facts,
                                   PathConstants& constants, std::uint8_t format, bool tells_holes,
                                   GraphBuilder& out) {
  return Emitter(tree, file, facts, constants, format, tells_holes, out).run();
}

}  // namespace yc::glued_paths
