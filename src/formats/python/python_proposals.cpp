// Spelling imports and dotted names anew. The names that a file binds stay the same, so that its code does.
#include <algorithm>
#include <set>

#include "formats/python/export_lists.h"
#include "formats/python/module_spelling.h"
#include "formats/python/python_references.h"

namespace yc::python {

namespace {

struct ImportPiece {
  bool stays = true;
  std::string module, name;  // from `module` import `name`; an import has no module
};

// What a file says before the move. One is asked for again and again.
std::shared_ptr<const PythonFacts> facts_in(const RewriteRequest& need, const RelPath& path) {
  if (need.cache) return facts_of(need.tree, *need.cache, need.reference.format, path);
  auto text = need.tree.is_folder(path) ? Result<Bytes>(Error{}) : need.tree.read(path);
  return text ? std::make_shared<const PythonFacts>(scan_python(**text)) : nullptr;
}

class Respelling {
 public:
  Respelling(const RewriteRequest& need, const PythonResolver& resolver, const std::string& bytes,
             const Import& statement)
      : need_(need),
        resolver_(resolver),
        bytes_(bytes),
        statement_(statement),
        file_(need.graph.files.path(need.reference.construct.front().file)) {}

  std::vector<Proposal> run(const PythonFacts& facts) {
    std::vector<Proposal> out;
    Imported old = resolve_import(resolver_, file_, statement_,
                                  [&](const RelPath& path) { return facts_in(need_, path); });
    std::vector<RelPath> roots;
    if (old.module) roots.push_back(old.module->root);
    for (const auto& name : old.names) {
      if (name) roots.push_back(name->root);
    }
    if (statement_.level > 0) roots.clear();
    for (const Manner& manner : manners(need_, resolver_, statement_.level > 0, roots)) {
      auto edits = statement_.from ? from_import(old, manner) : plain_import(old, manner, facts);
      // Nothing to do if the root follows.
      if (edits) out.push_back({std::move(*edits), ""});
    }
    return out;
  }

 private:
  std::optional<std::string> new_name(const Found& found, const Manner& manner) const {
    auto image = image_of(need_, found.files.front());
    return image ? spelled(manner, need_.new_base, *image) : std::nullopt;
  }

  // Whether a module, spelled as it is, is still meant: nothing of it and of the user has moved.
  bool stays(const Found& found) const {
    auto image = image_of(need_, found.files.front());
    bool user_stays = statement_.level == 0 || need_.moves.map_file(file_).parent() == file_.parent();
    bool root_stays = need_.moves.map_folder(found.root).value_or(found.root) == found.root;
    return image && *image == found.files.front() && user_stays && root_stays;
  }

  Edit edit(Span span, std::string text) const { return {file_, span, std::move(text)}; }

  // What stands between one statement put before this one, and this one.
  std::string separator() const {
    if (!statement_.own_line) return "; ";
    std::size_t line = bytes_.rfind('\n', statement_.statement.begin);
    line = line == std::string::npos || statement_.statement.begin == 0 ? 0 : line + 1;
    std::string indent = bytes_.substr(line, statement_.statement.begin - line);
    if (indent.starts_with("\xEF\xBB\xBF")) indent.erase(0, 3);
    bool crlf = line >= 2 && bytes_[line - 2] == '\r';
    return (crlf ? "\r\n" : "\n") + indent;
  }

  static std::string called(const std::string& name, const std::string& bound) {
    return name == bound ? name : name + " as " + bound;
  }

  static std::pair<std::string, std::string> parted(const std::string& dotted) {
    std::size_t cut = dotted.rfind('.');
    if (cut == std::string::npos) return {"", dotted};
    bool dots_only = dotted.find_first_not_of('.') > cut;
    return {dotted.substr(0, dots_only ? cut + 1 : cut), dotted.substr(cut + 1)};
  }

  // A statement of its own for one name.
  static std::string alone(const std::string& dotted, const std::string& bound) {
    auto [module, name] = parted(dotted);
    return module.empty() ? "import " + called(name, bound)
                          : "from " + module + " import " + called(name, bound);
  }

  // Deletes the names of a list that leave it: from each run of them also the comma before or behind.
  void take_out(const std::vector<bool>& leaves, std::vector<Edit>& out) const {
    const auto& names = statement_.names;
    for (std::size_t i = 0; i < names.size(); ++i) {
      if (!leaves[i]) continue;
      std::size_t last = i;
      while (last + 1 < names.size() && leaves[last + 1]) ++last;
      if (last + 1 < names.size()) {
        out.push_back(edit({names[i].whole.begin, names[last + 1].whole.begin}, ""));
      } else {
        out.push_back(edit({names[i - 1].whole.end, names[last].whole.end}, ""));
      }
      i = last;
    }
  }

  // What an imported name is to be called: its module, and its name in that.
  struct Part {
    std::string module, name;
  };

  // The parts of all names of a statement, and the module that it goes on importing from.
  struct NewParts {
    std::vector<std::optional<Part>> parts;
    std::string module;
  };
  std::optional<NewParts> new_parts(const Imported& old, const Manner& manner,
                                    const std::string& old_module) const {
    const auto& names = statement_.names;
    // What stays in the statement, and looks into its module, decides what that is called.
    std::optional<std::string> module;
    std::vector<std::optional<Part>> parts(names.size());
    for (std::size_t i = 0; i < names.size(); ++i) {
      if (old.names[i] && stays(*old.names[i])) {
        parts[i] = Part{old_module, names[i].name};
      } else if (old.names[i]) {
        auto dotted = new_name(*old.names[i], manner);
        if (!dotted) return std::nullopt;
        auto [package, name] = parted(*dotted);
        if (name.empty()) return std::nullopt;
        parts[i] = Part{package, name};
      } else if (!module) {
        module = old.module && !stays(*old.module) ? new_name(*old.module, manner) : old_module;
        if (!module) return std::nullopt;
      }
    }
    for (std::size_t i = 0; i < parts.size() && !module; ++i) {
      if (parts[i] && parts[i]->module == old_module) module = old_module;
    }
    if (!module) module = parts.front()->module;
    return NewParts{std::move(parts), std::move(*module)};
  }

  std::optional<std::vector<Edit>> from_import(const Imported& old, const Manner& manner) const {
    std::string old_module = bytes_.substr(statement_.source.begin, statement_.source.size());
    auto now = new_parts(old, manner, old_module);
    if (!now) return std::nullopt;
    if (now->module.empty()) return at_top(now->parts);
    std::vector<Edit> out;
    const auto& names = statement_.names;
    std::vector<bool> leaves(names.size());
    std::map<std::string, std::string> others;  // names by the module they go to
    std::vector<std::string> order;
    for (std::size_t i = 0; i < names.size(); ++i) {
      const std::optional<Part>& part = now->parts[i];
      if (!part) continue;
      std::string text = called(part->name, names[i].bound);
      leaves[i] = part->module != now->module;
      if (leaves[i]) {
        auto [slot, fresh] = others.try_emplace(part->module, text);
        if (fresh) {
          order.push_back(part->module);
        } else {
          slot->second += ", " + text;
        }
      } else if (part->name != names[i].name) {
        out.push_back(edit(names[i].whole, text));
      }
    }
    std::string before;
    for (const std::string& other : order)
      before += (other.empty() ? "import " : "from " + other + " import ") + others[other] + separator();
    take_out(leaves, out);
    if (now->module != old_module) out.push_back(edit(statement_.source, spaced(now->module)));
    if (!before.empty())
      out.push_back(edit({statement_.statement.begin, statement_.statement.begin}, before));
    return out;
  }

  // All that is left is a module at the top.
  std::vector<Edit> at_top(const std::vector<std::optional<Part>>& parts) const {
    std::string text;
    for (std::size_t i = 0; i < parts.size(); ++i) {
      std::string name = called(parts[i]->name, statement_.names[i].bound);
      std::string one =
          parts[i]->module.empty() ? "import " + name : "from " + parts[i]->module + " import " + name;
      text += (text.empty() ? "" : separator()) + one;
    }
    return {edit(statement_.statement, text)};
  }

  // "from.import x" has no blank around its dots.
  std::string spaced(const std::string& module) const {
    const Span& source = statement_.source;
    bool tight = source.begin > 0 && bytes_[source.begin - 1] != ' ' && bytes_[source.begin - 1] != '\t' &&
                 !module.starts_with(".");
    bool tight_behind = source.end < bytes_.size() && bytes_[source.end] == 'i' && !module.ends_with(".");
    return (tight ? " " : "") + module + (tight_behind ? " " : "");
  }

  std::optional<std::vector<Edit>> plain_import(const Imported& old, const Manner& manner,
                                                const PythonFacts& facts) const {
    const auto& names = statement_.names;
    std::vector<Edit> out;
    std::vector<bool> leaves(names.size());
    std::string before;
    bool any_left = false;
    for (std::size_t i = 0; i < names.size(); ++i) {
      if (!old.names[i] || stays(*old.names[i])) {
        any_left = true;
        continue;
      }
      auto dotted = new_name(*old.names[i], manner);
      if (!dotted) return std::nullopt;
      bool renamed = names[i].whole != names[i].span;  // import a.b as c
      bool single = names[i].name.find('.') == std::string::npos;
      bool is_relative = dotted->starts_with(".");
      if (*dotted == names[i].name) {
        any_left = true;
      } else if (!is_relative && (renamed || (!single && !renamed))) {
        std::string text = *dotted;
        if (std::string package = renamed ? "" : package_needed(names[i], *dotted, facts); !package.empty())
          text = package + ", " + text;
        out.push_back(edit(names[i].span, text));
        any_left = true;
      } else if (!is_relative && single && dotted->find('.') == std::string::npos) {
        out.push_back(edit(names[i].whole, called(*dotted, names[i].bound)));
        any_left = true;
      } else if (single || renamed) {
        leaves[i] = true;
        before += alone(*dotted, names[i].bound) + separator();
      } else {
        return std::nullopt;  // "import a.b" has no relative form
      }
    }
    if (!any_left) {
      before.erase(before.size() - separator().size());
      return std::vector<Edit>{edit(statement_.statement, before)};
    }
    take_out(leaves, out);
    if (!before.empty())
      out.push_back(edit({statement_.statement.begin, statement_.statement.begin}, before));
    return out;
  }

  // "import a.b.c" also loads a and a.b, and binds a. Where code uses other things of them, and nothing else
  // brings them, the innermost one must still be imported; empty if none must.
  static std::string package_needed(const ImportName& name, const std::string& dotted,
                                    const PythonFacts& facts) {
    auto is_within = [](const std::string& text, const std::string& package) {
      return text == package || text.starts_with(package + ".");
    };
    std::string package = name.name;
    while (package.find('.') != std::string::npos) {
      package.resize(package.rfind('.'));
      if (is_within(dotted, package)) return "";
      bool brought = std::any_of(facts.imports.begin(), facts.imports.end(), [&](const Import& other) {
        return !other.from &&
               std::any_of(other.names.begin(), other.names.end(), [&](const ImportName& each) {
                 return each.span != name.span && each.whole == each.span && is_within(each.name, package);
               });
      });
      bool used = std::any_of(facts.chains.begin(), facts.chains.end(), [&](const Chain& chain) {
        return is_within(chain.text, package) && !is_within(chain.text, name.name);
      });
      if (used) return brought ? "" : package;
    }
    return "";
  }

  const RewriteRequest& need_;
  const PythonResolver& resolver_;
  const std::string& bytes_;
  const Import& statement_;
  RelPath file_;
};

// A path below a package as a dotted name; empty if it cannot be one.
std::string dotted_below(const RelPath& place, const RelPath& package) {
  if (!place.is_within(package) || place == package) return "";
  std::string below(place.below(package));
  std::replace(below.begin(), below.end(), '/', '.');
  return is_dotted_name(below) ? below : "";
}

// The name of a module in its own package, which some import of it binds there.
std::optional<std::string> name_in_own_package(const RewriteRequest& need, const std::string& old) {
  RelPath file = need.graph.files.path(need.reference.text.pieces().front().file);
  if (!file.name().starts_with("__init__.")) return std::nullopt;
  std::string below =
      dotted_below(place_of_module(need.wanted.front().path), need.moves.map_file(file).parent());
  return below.empty() || below == old ? std::nullopt : std::optional(below);
}

// gauges.tide, where tide leaves the package: by what another import binds, or by one put before the first.
std::vector<Proposal> member_ways(const RewriteRequest& need, const PythonResolver& resolver,
                                  const PythonFacts& facts, const std::string& bytes) {
  std::vector<Proposal> out;
  const auto& piece = need.reference.text.pieces().front();
  RelPath file = need.graph.files.path(piece.file);
  std::string old = need.reference.text.text();
  std::string head = old.substr(0, old.find('.'));
  RelPath wanted = need.wanted.front().path;
  // The package that the name stands for, if it has moved as a whole and still holds the module.
  const Import* binder = nullptr;
  const ImportName* bound = nullptr;
  for (const Import& statement : facts.imports) {
    for (const ImportName& name : statement.names) {
      if (name.bound == head && !binder) binder = &statement, bound = &name;
    }
  }
  if (!binder) {
    if (auto text = name_in_own_package(need, old)) out.push_back({{{file, piece.span, *text}}, ""});
    return out;
  }
  std::vector<std::string> texts;
  std::vector<RelPath> roots;
  if (!need.reference.search.empty()) roots.push_back(need.reference.search.front().folder);
  std::vector<Manner> all = manners(need, resolver, false, roots);
  Imported imported =
      resolve_import(resolver, file, *binder, [&](const RelPath& path) { return facts_in(need, path); });
  auto at = static_cast<std::size_t>(bound - binder->names.data());
  bool whole = binder->from || bound->whole != bound->span;
  if (imported.names[at] && whole) {
    auto package = image_of(need, imported.names[at]->files.front());
    RelPath folder = package ? place_of_module(*package) : RelPath();
    std::string below = package ? dotted_below(place_of_module(wanted), folder) : "";
    if (!below.empty()) texts.push_back(head + "." + below);
  }
  // First nothing, for what binds it may follow; that has as many ways as there are manners.
  out.resize(all.size());
  for (const std::string& text : texts) {
    if (text != old) out.push_back({{{file, piece.span, text}}, ""});
  }
  for (const Manner& manner : all) {
    if (manner.relative) continue;
    auto dotted = dotted_name(wanted, manner.root);
    if (!dotted || *dotted == old) continue;
    out.push_back({{{file, piece.span, *dotted}}, ""});
    std::size_t line = bytes.rfind('\n', binder->statement.begin);
    line = line == std::string::npos ? 0 : line + 1;
    if (!binder->own_line) continue;
    std::string indent = bytes.substr(line, binder->statement.begin - line);
    std::string text = "import " + *dotted + "\n" + indent;
    out.push_back(
        {{{file, piece.span, *dotted}, {file, {binder->statement.begin, binder->statement.begin}, text}},
         ""});
  }
  return out;
}

}  // namespace

std::vector<Proposal> joined_ways(const RewriteRequest& need) {
  const auto& pieces = need.reference.text.pieces();
  std::vector<std::size_t> parts;
  std::string head;
  FileIndex file = need.reference.construct.empty() ? kNoFile : need.reference.construct.front().file;
  for (std::size_t i = 0; i < pieces.size(); ++i) {
    bool own =
        pieces[i].has_origin() && pieces[i].file == file && pieces[i].verbatim && pieces[i].via.empty();
    if (own) {
      parts.push_back(i);
    } else if (parts.empty()) {
      head += pieces[i].text;
    } else if (pieces[i].text != "/") {
      return {};
    }
  }
  if (parts.size() < 2 || need.wanted.size() != 1) return {};
  // The folder that the parts begin in, after the move.
  Place place = head.empty() ? Place{Space::tree, need.reference.base.folder}
                             : place_of(need.reference.base.folder, head);
  if (place.space != Space::tree) return {};
  bool own_folder = place.path == need.graph.files.path(file).parent() && !head.empty() && head[0] == '/';
  RelPath folder = own_folder ? need.moves.map_file(need.graph.files.path(file)).parent()
                              : need.moves.map_folder(place.path).value_or(place.path);
  std::string path = relative_text(folder, need.wanted.front().path);
  std::vector<std::string> names;
  for (std::size_t at = 0; at <= path.size();) {
    std::size_t end = std::min(path.find('/', at), path.size());
    names.push_back(path.substr(at, end - at));
    at = end + 1;
  }
  if (names.size() < parts.size()) return {};
  Proposal way;
  RelPath user = need.graph.files.path(file);
  for (std::size_t i = parts.size(); i-- > 0;) {
    std::string text = names.back();
    names.pop_back();
    // The first takes all that is left.
    while (i == 0 && !names.empty()) text = names.back() + "/" + text, names.pop_back();
    const auto& piece = pieces[parts[i]];
    auto written = format_at(need.reference.format).write(text, piece.style);
    if (!written) return {};
    if (*written != piece.text) way.edits.push_back({user, piece.span, *written});
  }
  if (way.edits.empty()) return {};
  return {std::move(way)};
}

std::vector<Proposal> python_ways(const RewriteRequest& need) {
  std::vector<Proposal> out;
  const Reference& reference = need.reference;
  if (reference.text.pieces().size() != 1 || need.wanted.size() != 1) return out;
  const auto& piece = reference.text.pieces().front();
  RelPath file = need.graph.files.path(piece.file);
  auto bytes = need.tree.read(file);
  if (!bytes) return out;
  PythonResolver resolver(need.tree, need.graph);
  const std::string& kind = reference.construct_part.tag;
  if (kind == "export") return export_ways(need);
  if (kind.starts_with(kTakenInString)) return taken_ways(need, resolver, **bytes);
  if (!kind.starts_with(kInString) && kind != kWithinPackage) {
    auto facts = facts_in(need, file);
    if (!facts) return out;
    if (kind == "member") return member_ways(need, resolver, *facts, **bytes);
    for (const Import& statement : facts->imports) {
      if (statement.statement.begin == reference.construct.front().offset)
        return Respelling(need, resolver, **bytes, statement).run(*facts);
    }
    return out;
  }
  std::string old = reference.text.text();
  // In a pattern the dots are escaped.
  std::size_t slash = old.find('\\');
  std::string escape = slash == std::string::npos ? "" : old.substr(slash, old.find('.', slash) - slash);
  std::vector<RelPath> roots;
  if (!reference.search.empty()) roots.push_back(reference.search.front().folder);
  for (const Manner& manner : manners(need, resolver, old.starts_with("."), roots)) {
    if (manner.relative != old.starts_with(".")) continue;
    auto text = spelled(manner, need.new_base, need.wanted.front().path);
    if (!text) continue;
    for (std::size_t at = 0; !escape.empty() && (at = text->find('.', at)) != std::string::npos;) {
      text->insert(at, escape);
      at += escape.size() + 1;
    }
    if (*text == old) {
      out.push_back({});  // for its root may follow
    } else {
      out.push_back({{{file, piece.span, *text}}, ""});
    }
  }
  return out;
}

}  // namespace yc::python
