#include "formats/python/python_references.h"

#include <algorithm>
#include <map>
#include <set>

#include "formats/python/computed_imports.h"
#include "formats/python/emission.h"
#include "formats/python/export_lists.h"
#include "formats/python/names_in_strings.h"

namespace yc::python {

namespace {

class ImportEmitter {
 public:
  ImportEmitter(const Source& source, GraphBuilder& out) : to_(source, out) {}

  void run() {
    for (const Import& statement : source().facts->imports) import(statement);
    for (const Chain& chain : source().facts->chains) member(chain);
    const std::vector<Token>& tokens = source().facts->tokens;
    if (source().path.name().starts_with("__init__.")) exports();
    // What that one says is read as settings.
    if (source().path.name() == "setup.py") return;
    NamesInStrings strings(to_);
    for (std::size_t i = 0; i < tokens.size(); ++i) {
      if (tokens[i].kind == Token::Kind::string) strings.string(i);
      if (tokens[i].kind != Token::Kind::name) continue;
      emit_computed_import(to_, i, packages_);
      if (!own_modules_.empty()) own_module(i);
    }
  }

 private:
  const Source& source() const { return to_.source(); }

  // A module that is not found where its own start would look, is another one that its start from elsewhere
  // finds: the instance says which names are bound, and that.
  static ConstructPart binding(const std::string& name, bool outer) {
    return ConstructPart::tagged((outer ? "started elsewhere as " : "as ") + name);
  }

  // Names that lead nowhere. Of a package that is here all else must be here too; what is not found at all
  // may be installed.
  void note_unmet(const Import& statement, const Imported& found) {
    if (statement.level > 0 || statement.late) return;
    if (statement.from && !found.module) note_unmet(statement.module, statement.source);
    for (std::size_t i = 0; i < statement.names.size(); ++i) {
      const ImportName& name = statement.names[i];
      if (found.names[i]) continue;
      if (!statement.from) note_unmet(name.name, name.span);
      bool may_be_member = !found.module || !found.module->is_package || name.name == "*" ||
                           is_member(*found.module, name.name);
      if (statement.from && !may_be_member) note_unmet(statement.module + "." + name.name, name.span);
    }
  }

  // The longest beginning of a name that is there, with its length; nothing if that is all of it.
  std::optional<std::pair<Found, std::size_t>> found_part(const std::string& name) const {
    for (std::size_t cut = name.rfind('.'); cut != std::string::npos && cut > 0;
         cut = name.rfind('.', cut - 1)) {
      if (auto found = source().resolver.absolute(source().path, name.substr(0, cut))) return {{*found, cut}};
    }
    return std::nullopt;
  }

  void note_unmet(const std::string& name, Span span) {
    if (is_standard_module(name.substr(0, name.find('.')))) return;
    auto part = found_part(name);
    if (part && !part->first.is_package) return;
    std::string rest = part ? name.substr(part->second + 1) : name;
    std::replace(rest.begin(), rest.end(), '.', '/');
    RelPath wanted = (part ? folder_of(part->first) : source().path.parent()) / rest;
    to_.unmet({source().path, span, "import", name, wanted, {".py", "/__init__.py"}, !part});
  }

  // "import pole._native": what is built or made is not there, and the package that it is put into is.
  void follow_package(const Import& statement, const std::string& name, Span span) {
    if (source().bytes->compare(span.begin, span.size(), name) != 0) return;
    auto part = found_part(name);
    if (!part || !part->first.is_package) return;
    auto& [package, size] = *part;
    if (!statement.from) {
      std::string first = name.substr(0, name.find('.'));
      if (auto head = source().resolver.at(package.root / first); head) {
        head->root = package.root;
        note_binding(first, *head);
      }
    }
    // Its folder is meant, whatever the package itself holds.
    package.files = {folder_of(package)};
    refer_within(statement.statement.begin, span.begin, *part);
    if (!statement.from) unfound_.emplace(name, *part);
  }

  void refer_within(std::uint32_t construct, std::uint32_t begin, const std::pair<Found, std::size_t>& part) {
    Span span{begin, begin + static_cast<std::uint32_t>(part.second)};
    if (!to_.wants(source().bytes->substr(span.begin, span.size()))) return;
    Reference reference = to_.reference_at(construct, span);
    reference.construct_part = ConstructPart::tagged(kWithinPackage);
    to_.lead(std::move(reference), part.first);
  }

  // Whether the package may bind a name itself.
  bool is_member(const Found& package, const std::string& name) const {
    const RelPath& init = package.files.front();
    auto facts = facts_of(source().tree, source().cache, source().format, init);
    if (!facts) return false;  // a namespace: it holds modules and nothing else
    bool brings_all = std::any_of(facts->imports.begin(), facts->imports.end(), [](const Import& each) {
      return !each.names.empty() && each.names.front().name == "*";
    });
    bool computes = std::binary_search(facts->bound.begin(), facts->bound.end(), "__getattr__");
    return brings_all || computes || init == source().path || find_binding(facts->brought, name) ||
           hides(*facts, init.parent(), name);
  }

  void import(const Import& statement) {
    auto facts = [&](const RelPath& path) {
      return facts_of(source().tree, source().cache, source().format, path);
    };
    bool wanted = to_.wants(statement.module);
    bool by_package = statement.from && statement.module.empty() && to_.is_confined_to("__init__");
    // What packages are called is needed for what is said of their members.
    Imported found = resolve_import(source().resolver, source().path, statement, facts);
    if (found.module) note_own_module(*found.module);
    note_unmet(statement, found);
    bool any_attribute = false;
    for (std::size_t i = 0; i < statement.names.size(); ++i) {
      const ImportName& name = statement.names[i];
      const auto& module = found.names[i];
      if (!module) {
        any_attribute = true;
        if (!statement.from) follow_package(statement, name.name, name.span);
        continue;
      }
      note_own_module(*module);
      bool whole_name = statement.from || name.bound != name.name.substr(0, name.name.find('.')) ||
                        name.name.find('.') == std::string::npos;
      std::string first = name.name.substr(0, name.name.find('.'));
      if (whole_name) {
        note_binding(name.bound, *module);
      } else if (auto head = source().resolver.at(module->root / first); head) {
        head->root = module->root;
        note_binding(name.bound, *head);
      }
      if (!wanted && !to_.wants(name.name)) continue;
      // That the module is imported is one thing, what it is called another: "import a.b" binds only what
      // leads to b.
      Reference reference = to_.reference_at(statement.statement.begin, name.span);
      reference.construct_part = module->outer ? binding("", true) : ConstructPart::tagged("module");
      bool plain = !statement.from && name.whole == name.span && name.name.find('.') != std::string::npos;
      if (!plain) {
        Reference called = reference;
        called.construct_part = binding(name.bound, module->outer);
        called.may_gain = true;
        to_.lead(std::move(called), *module);
      }
      to_.lead(std::move(reference), *module);
    }
    bool is_unfound = statement.from && !found.module;
    if (!statement.from || !any_attribute || !(wanted || by_package || is_unfound)) return;
    Reference reference = to_.reference_at(statement.statement.begin, statement.source);
    if (!found.module) {
      reference.dangling = statement.level > 0 && any_attribute;
      if (reference.dangling) to_.add(std::move(reference));
      if (statement.level == 0) follow_package(statement, statement.module, statement.source);
      return;
    }
    if (found.module->outer) reference.construct_part = binding("", true);
    to_.lead(std::move(reference), *found.module);
  }

  // Each name that a star import of this package brings: a module that is imported here, or else one of its
  // own.
  void exports() {
    for (const Span& span : exported_names(*source().bytes, *source().facts)) {
      std::string name = source().bytes->substr(span.begin, span.size());
      if (!to_.wants(name) && modules_.empty() && packages_.empty()) continue;
      std::optional<Found> found;
      if (auto module = modules_.find(name); module != modules_.end()) found = module->second;
      if (auto package = packages_.find(name); package != packages_.end()) found = package->second;
      bool bound = find_binding(source().facts->brought, name) ||
                   std::binary_search(source().facts->bound.begin(), source().facts->bound.end(), name);
      if (!found && !bound) found = source().resolver.at(source().path.parent() / name);
      if (!found) continue;
      Reference reference = to_.reference_at(span.begin, span);
      reference.construct_part = ConstructPart::tagged("export");
      reference.may_gain = true;
      to_.lead(std::move(reference), *found);
    }
  }

  void note_binding(const std::string& name, const Found& found) {
    (found.is_package ? packages_ : modules_)[name] = found;
  }

  // Whoever imports a module of a package binds its name there: "from .tide import level" in an __init__ also
  // gives that the name tide.
  void note_own_module(const Found& module) {
    RelPath folder = source().path.parent();
    const RelPath& file = module.files.front();
    if (!source().path.name().starts_with("__init__.") || !file.is_within(folder) || file == source().path)
      return;
    std::string_view below = file.below(folder);
    std::string name(below.substr(0, below.find_first_of("/.")));
    bool bound = packages_.contains(name) || modules_.contains(name) ||
                 find_binding(source().facts->brought, name) ||
                 std::binary_search(source().facts->bound.begin(), source().facts->bound.end(), name);
    auto found = bound ? std::nullopt : source().resolver.at(folder / name);
    if (!found) return;
    found->root = module.root;
    note_binding(name, *found);
    own_modules_.insert(name);
  }

  // Whether the name at `index` stands where a value is used: not where a function, a parameter or an
  // argument is called so.
  bool is_used(std::size_t index) const {
    static const std::set<std::string_view> before = {"(", ",", "[", "=", "return", "del", "in", "is", "not"};
    std::string_view next = to_.word_at(index + 1);
    if (index == 0 || !before.contains(to_.word_at(index - 1)) || next == "." || next == "=" || next == ":")
      return false;
    std::size_t depth = 0;
    for (std::size_t i = index; i-- > 0;) {
      const Token& token = source().facts->tokens[i];
      std::string_view word = to_.word_at(i);
      if (token.kind == Token::Kind::newline || word == "lambda" || word == "for")
        return token.kind == Token::Kind::newline;
      if (word == ")" || word == "]" || word == "}") ++depth;
      bool opens = word == "(" || word == "[" || word == "{";
      if (opens && depth == 0 && i > 1 && to_.word_at(i - 2) == "def") return false;
      if (opens && depth > 0) --depth;
    }
    return true;
  }

  // Such a name alone, as in "del tide"; with more behind it, it is read as any other.
  void own_module(std::size_t index) {
    std::string name(to_.word_at(index));
    if (!own_modules_.contains(name) || !to_.wants(name) || !is_used(index)) return;
    const Span& span = source().facts->tokens[index].span;
    bool imports = std::any_of(source().facts->imports.begin(), source().facts->imports.end(),
                               [&](const Import& statement) { return statement.statement.holds(span); });
    if (imports || is_local(name, span)) return;
    auto module = modules_.find(name);
    auto package = packages_.find(name);
    if (module != modules_.end()) add_member({name, span}, name.size(), module->second);
    if (package != packages_.end()) add_member({name, span}, name.size(), package->second);
  }

  // gauges.tide.level, where gauges is a package that is bound here: the module that the names lead to.
  void member(const Chain& chain) {
    for (const auto& [name, part] : unfound_) {
      if (chain.text == name || chain.text.starts_with(name + "."))
        return refer_within(chain.span.begin, chain.span.begin, part);
    }
    std::size_t dot = chain.text.find('.');
    auto module = modules_.find(chain.text.substr(0, dot));
    if (module != modules_.end() && !packages_.contains(module->first) && to_.wants(chain.text)) {
      if (is_local(module->first, chain.span)) return;
      add_member(chain, dot, module->second);
      return;
    }
    auto package = packages_.find(chain.text.substr(0, dot));
    if (package == packages_.end() || !to_.wants(chain.text)) return;
    if (is_local(package->first, chain.span)) return;
    std::optional<Found> best;
    std::size_t end = 0;
    Found at = package->second;
    while (dot != std::string::npos && at.is_package) {
      std::size_t next = chain.text.find('.', dot + 1);
      std::string name = chain.text.substr(dot + 1, next == std::string::npos ? next : next - dot - 1);
      if (auto facts = facts_of(source().tree, source().cache, source().format, at.files.front());
          facts && hides(*facts, folder_of(at), name))
        break;
      auto found = source().resolver.at(folder_of(at) / name);
      if (!found) break;
      found->root = package->second.root;
      best = found;
      at = *found;
      end = next == std::string::npos ? chain.text.size() : next;
      dot = next;
    }
    if (best) add_member(chain, end, *best);
  }

  bool is_local(const std::string& name, Span at) const {
    return std::any_of(source().facts->locals.begin(), source().facts->locals.end(),
                       [&](const LocalName& local) { return local.name == name && local.scope.holds(at); });
  }

  void add_member(const Chain& chain, std::size_t size, const Found& found) {
    Span span{chain.span.begin, chain.span.begin + static_cast<std::uint32_t>(size)};
    Reference reference = to_.reference_at(chain.span.begin, span);
    reference.construct_part = ConstructPart::tagged("member");
    to_.lead(std::move(reference), found);
  }

  Emission to_;
  std::map<std::string, std::pair<Found, std::size_t>> unfound_;  // whole names, with what is found of each
  std::map<std::string, Found> packages_, modules_;               // by the names they have here
  std::set<std::string> own_modules_;  // those of them that only imports from them bind
};

}  // namespace

void emit_sessions(const Source& source, GraphBuilder& out) {
  Emission to(source, out);
  NamesInStrings(to).session({0, static_cast<std::uint32_t>(source.bytes->size())});
}

void emit_imports(const Source& source, GraphBuilder& out) {
  ImportEmitter(source, out).run();
}

}  // namespace yc::python
