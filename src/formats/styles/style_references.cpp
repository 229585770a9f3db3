#include "formats/styles/style_references.h"

#include <algorithm>

#include "formats/site_paths.h"

namespace yc::styles {

namespace {

using StyleKind = StyleName::Kind;

bool is_sheet(const TreeReader& tree, const RelPath& path) {
  const Entry* entry = tree.find(path);
  return entry && entry->kind == EntryKind::file;
}

// What a name means in a folder: with or without its ending and the underscore of a partial, or the index of
// a folder (Sass: "Partials", "Index Files"; Less: "Import At-Rules").
std::optional<RelPath> module_in(const TreeReader& tree, const RelPath& folder, const std::string& text,
                                 Dialect dialect) {
  auto place = RelPath::resolve(folder, text);
  if (!place || place->is_root()) return std::nullopt;
  if (dialect == Dialect::less || dialect == Dialect::css) {
    if (is_sheet(tree, *place)) return place;
    RelPath less = RelPath::from_normal(place->str() + ".less");
    return dialect == Dialect::less && is_sheet(tree, less) ? std::optional(less) : std::nullopt;
  }
  std::string_view ending = place->extension();
  bool told = ending == ".scss" || ending == ".sass" || ending == ".css";
  std::string name(place->name());
  RelPath parent = place->parent();
  for (const char* more : {"", ".scss", ".sass", ".css"}) {
    if (told != !*more) continue;
    for (const char* mark : {"", "_"}) {
      RelPath file = parent / (mark + name + more);
      if (is_sheet(tree, file)) return file;
    }
  }
  for (const char* index :
       {"_index.scss", "index.scss", "_index.sass", "index.sass", "_index.css", "index.css"}) {
    if (!told && is_sheet(tree, *place / index)) return *place / index;
  }
  return std::nullopt;
}

class Emitter {
 public:
  Emitter(const Sheet& sheet, const Variables& variables, const Reading& in)
      : sheet_(sheet),
        variables_(variables),
        tree_(in.tree),
        self_(in.self),
        scopes_(in.scopes),
        out_(in.out),
        file_(in.out.files().index(sheet.path)),
        whole_(in.out.wants(sheet.path)) {
    for (const StyleVariable& variable : sheet.facts->variables) own_[variable.name] = variable.value;
  }

  void run() {
    for (const StyleName& name : sheet_.facts->names) {
      TracedText text = text_of(name);
      std::string plain = text.text();
      if (text.has_hole()) {
        bool says_something = plain.find('/') != std::string::npos || plain.find('.') != std::string::npos;
        if (says_something && plain.find(':') == std::string::npos)
          out_.hole(text, {sheet_.path.parent(), file_, Space::tree}, self_);
        continue;
      }
      if (plain.empty() || (!whole_ && !out_.wants_stem(path_of(plain)))) continue;
      if (name.kind == StyleKind::module) {
        module(name, text);
      } else if (!name.role.empty()) {
        in_role_folder(name, text);
      } else {
        url(name, text);
      }
    }
  }

 private:
  static std::string_view path_of(std::string_view url) {
    return url.substr(0, std::min(url.find_first_of("?#"), url.size()));
  }

  std::string cut(const Bytes& bytes, Span span) const { return bytes->substr(span.begin, span.size()); }

  TracedText text_of(const StyleName& name) const {
    TracedText out;
    for (const StyleName::Part& part : name.parts) {
      if (part.variable.empty()) {
        out.append(TracedText::literal(cut(sheet_.bytes, part.span), file_, part.span));
        continue;
      }
      TracedText value = TracedText::hole();
      auto known = variables_.find(part.variable);
      if (auto own = own_.find(part.variable); own != own_.end()) {
        value = TracedText::literal(cut(sheet_.bytes, own->second), file_, own->second);
      } else if (known != variables_.end()) {
        if (auto bytes = tree_.read(known->second.first)) {
          const Span& span = known->second.second.value;
          value = TracedText::literal(cut(*bytes, span), out_.files().index(known->second.first), span);
        }
      }
      out.append(value.through({file_, part.span}));
    }
    return out;
  }

  Reference reference_at(Role role, const StyleName& name, TracedText text) const {
    return Reference::of(role, self_, {{file_, name.parts.front().span.begin}},
                         {sheet_.path.parent(), file_, Space::tree}, std::move(text));
  }

  void add(Reference reference, const RelPath& target) {
    const Entry* entry = tree_.find(target);
    if (!entry || target == sheet_.path) return;
    reference.lead_to(target);
    out_.add(std::move(reference));
  }

  // A file that a helper looks up in the folder that the settings give that role.
  void in_role_folder(const StyleName& name, const TracedText& text) {
    const RoleFolder* nearest = nullptr;
    for (const RoleFolder& role : scopes_.roles) {
      bool is_nearer = !nearest || role.scope.components().size() > nearest->scope.components().size();
      if (role.role == name.role && sheet_.path.is_within(role.scope) && is_nearer) nearest = &role;
    }
    if (!nearest) return;
    std::string plain(path_of(text.text()));
    auto place = RelPath::resolve(nearest->folder, plain);
    if (!place) return;
    const Entry* entry = tree_.find(*place);
    if (!entry && !name.parts.empty())
      out_.unmet({sheet_.path, name.parts.front().span, "file", plain, *place});
    if (!entry || entry->ignored) return;
    Reference reference = reference_at(Role::argument, name, text.substr(0, plain.size()));
    reference.base = {nearest->folder, kNoFile, Space::tree};
    add(std::move(reference), *place);
  }

  void module(const StyleName& name, const TracedText& text) {
    std::string plain = text.text();
    if (plain.starts_with("sass:") || plain.starts_with("http:") || plain.starts_with("https:") ||
        plain.starts_with("//"))
      return;
    Reference reference = reference_at(Role::module, name, text);
    if (text.pieces().size() == 1) reference.kind = OwnSpelling{};
    if (auto found = module_in(tree_, sheet_.path.parent(), plain, sheet_.dialect)) {
      add(std::move(reference), *found);
      return;
    }
    for (const Alias& alias : scopes_.aliases) {
      if (!alias.styles || !sheet_.path.is_within(alias.scope)) continue;
      auto found = module_in(tree_, alias.place, plain, sheet_.dialect);
      if (!found) continue;
      reference.search.push_back({alias.place, kNoFile, Space::tree});
      add(std::move(reference), *found);
      return;
    }
    if (by_alias(plain, reference)) return;
    bool relative = plain.starts_with("./") || plain.starts_with("../");
    reference.dangling = relative;
    auto wanted = relative || plain.empty() ? std::nullopt : RelPath::resolve(sheet_.path.parent(), plain);
    if (wanted && !name.parts.empty()) {
      RelPath partial = wanted->parent() / ("_" + std::string(wanted->name()));
      for (const RelPath& one : {*wanted, partial})
        out_.unmet({sheet_.path,
                    name.parts.front().span,
                    "module",
                    plain,
                    one,
                    {".scss", ".sass", ".less", ".css"}});
    }
    out_.add(std::move(reference));
  }

  // "~pole/scss/all", "@/styles/all": through the names that modules have. A mark before it says so.
  bool by_alias(const std::string& plain, Reference reference) {
    std::string mark = plain.starts_with("~") ? "~" : "";
    std::string rest = plain.substr(mark.size());
    if (rest.starts_with("/")) rest.erase(0, 1), mark += "/";
    const Alias* best = nullptr;
    RelPath target;
    for (const Alias& alias : scopes_.aliases) {
      bool longer = !best || alias.head.size() > best->head.size();
      if (alias.styles || !alias.open || !alias.before.empty() || !alias.after.empty() || !longer ||
          !rest.starts_with(alias.head) || !sheet_.path.is_within(alias.scope))
        continue;
      std::string star = rest.substr(alias.head.size());
      auto found = module_in(tree_, alias.place, star,
                             sheet_.dialect == Dialect::css ? Dialect::scss : sheet_.dialect);
      auto place = RelPath::resolve(alias.place, star);
      if (!found && place && is_sheet(tree_, *place)) found = place;
      if (!found) continue;
      best = &alias;
      target = *found;
    }
    if (!best) return false;
    reference.search.push_back({best->place, kNoFile, Space::tree});
    reference.kind = OwnSpelling{mark + best->head};
    add(std::move(reference), target);
    return true;
  }

  // The folders that the URLs of this sheet are relative to: where what is made of it goes, if that is known;
  // its own; those above, for a part of a sheet that stands there.
  std::vector<Base> folders() const {
    std::vector<Base> out;
    bool compiled = sheet_.dialect != Dialect::css;
    for (const OutputFolder& folder : scopes_.outputs) {
      if (!compiled || !sheet_.path.is_within(folder.sources)) continue;
      bool scripts = folder.settings.extension() == ".json" && folder.settings.name() != "package.json";
      if (scripts) continue;
      std::string_view below = sheet_.path.below(folder.sources);
      std::size_t cut = below.rfind('/');
      if (cut != std::string_view::npos)
        out.push_back({folder.outputs / below.substr(0, cut), kNoFile, Space::tree});
      out.push_back({folder.outputs, kNoFile, Space::tree});
    }
    out.push_back({sheet_.path.parent(), file_, Space::tree});
    if (compiled) {
      RelPath up = sheet_.path.parent();
      for (int i = 0; i < 3 && !up.is_root(); ++i) {
        up = up.parent();
        out.push_back({up, kNoFile, Space::tree});
      }
    }
    return out;
  }

  void url(const StyleName& name, const TracedText& text) {
    std::string plain = text.text();
    if (plain.starts_with("~") || plain.starts_with("@")) {
      Reference reference = reference_at(Role::argument, name, text);
      std::string path(path_of(plain));
      reference.text = text.substr(0, path.size());
      by_alias(path, std::move(reference));
      return;
    }
    auto part = local_part(plain);
    if (!part) return;
    plain.resize(part->end);
    auto found = find_site_path(tree_, scopes_, sheet_.path, url_decoded(plain), folders());
    if (!found) return;
    if (text.pieces().size() == 1) {
      const Piece& piece = text.pieces().front();
      Reference reference = site_reference(
          *found, piece.file, plain, {piece.span.begin, piece.span.begin + part->end}, piece.style, self_);
      reference.construct = {{file_, name.parts.front().span.begin}};
      if (name.kind == StyleKind::css) reference.role = Role::module;
      out_.add(std::move(reference));
      return;
    }
    Reference reference =
        reference_at(Role::argument, name, text.substr(found->lead.size(), part->end - found->lead.size()));
    reference.base = found->base;
    if (found->source || found->left_out) return;
    add(std::move(reference), found->target);
  }

  const Sheet& sheet_;
  const Variables& variables_;
  const TreeReader& tree_;
  std::uint8_t self_;
  const Scopes& scopes_;
  GraphBuilder& out_;
  FileIndex file_;
  bool whole_;
  std::map<std::string, Span> own_;
};

bool is_index(std::string_view name) {
  return name.starts_with("_index.") || name.starts_with("index.");
}

// How `path` may be named, the manner of the old name first.
std::vector<std::string> spellings(const std::string& path, const std::string& old,
                                   const RelPath& old_target) {
  std::vector<std::string> out;
  std::size_t slash = path.rfind('/');
  std::string folder = slash == std::string::npos ? "" : path.substr(0, slash + 1);
  std::string name = slash == std::string::npos ? path : path.substr(slash + 1);
  std::string ending = ending_of(name);
  std::string old_name = old.substr(old.rfind('/') == std::string::npos ? 0 : old.rfind('/') + 1);
  bool marked = old_name.starts_with("_");
  bool told = !ending_of(old_name).empty() && ending_of(old_name) == old_target.extension();
  if (!marked && name.starts_with("_")) name.erase(0, 1);
  std::string bare = name.substr(0, name.size() - ending.size());
  bool by_folder = is_index(old_target.name()) && old_name.find("index") == std::string::npos;
  bool indexed = bare == "index" || bare == "_index";
  if (indexed && (by_folder || !is_index(old_target.name())) && !told && !folder.empty())
    out.push_back(folder.substr(0, folder.size() - 1));
  if (!told && ending != ".css") out.push_back(folder + bare);
  out.push_back(folder + name);
  if (ending == ".less" && !told) out.push_back(folder + bare);
  return out;
}

}  // namespace

void emit_style(const Sheet& sheet, const Variables& variables, const Reading& in) {
  Emitter(sheet, variables, in).run();
}

std::vector<Proposal> style_ways(const RewriteRequest& need) {
  const Reference& reference = need.reference;
  bool is_url = reference.role != Role::module && reference.search.empty();
  if (is_url || need.wanted.front().kind != Target::Kind::tree) return site_ways(need);
  std::vector<Proposal> out;
  if (reference.text.pieces().size() != 1 || need.wanted.size() != 1 || reference.targets.size() != 1)
    return out;
  const Piece& piece = reference.text.pieces().front();
  const RelPath& wanted = need.wanted.front().path;
  RelPath file = need.graph.files.path(piece.file);
  std::string old = reference.text.text();
  auto propose = [&](const std::string& text) {
    auto written = format_at(reference.format).write(text, piece.style);
    if (!written || text.empty()) return;
    if (text == old) {
      out.push_back({});
    } else {
      out.push_back({{{file, piece.span, *written}}, ""});
    }
  };
  const RelPath& old_target = reference.targets.front().path;
  auto all = [&](const RelPath& folder, std::string_view lead) {
    for (const std::string& text : spellings(relative_text(folder, wanted), old, old_target))
      propose(std::string(lead) + text);
  };
  if (!reference.search.empty()) {
    const RelPath& search = reference.search.front().folder;
    auto folder = search.is_root() ? std::optional(search) : need.moves.map_folder(search);
    out.push_back({});  // for the folder may follow
    if (folder && wanted.is_within(*folder)) all(*folder, reference.lead());
    for (const Alias& alias : need.graph.aliases) {
      bool same_kind = alias.styles == reference.lead().empty() && alias.open && alias.before.empty() &&
                       alias.after.empty();
      auto place = alias.place.is_root() ? std::optional(alias.place) : need.moves.map_folder(alias.place);
      if (!same_kind || !place || !wanted.is_within(*place) || (alias.head.empty() && !alias.styles))
        continue;
      all(*place, (reference.lead().starts_with("~") ? "~" : "") + alias.head);
    }
    all(need.new_base, "");
    return out;
  }
  std::string lead = old.starts_with("./") ? "./" : "";
  for (const std::string& text : spellings(relative_text(need.new_base, wanted), old, old_target))
    propose(text.starts_with("../") ? text : lead + text);
  return out;
}

}  // namespace yc::styles
