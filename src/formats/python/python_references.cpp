#include "formats/python/python_references.h"

#include <algorithm>
#include <set>

#include "formats/python/export_lists.h"

namespace yc::python {

namespace {

// Calls whose first string is the name of a module.
bool takes_module(std::string_view call) {
  static const std::set<std::string_view> kKnown = {
      "import_module",     "__import__",      "patch",           "run_module", "find_spec",
      "importorskip",      "find_loader",     "load_module",     "get_data",   "files",
      "resource_string",   "import_string",   "import_name",     "open_text",  "open_binary",
      "resource_filename", "read_text",       "read_binary",     "get_loader", "path",
      "resource_dir",      "resource_stream", "resource_listdir"};
  return kKnown.contains(call);
}

constexpr std::size_t kLongestCode = 100'000;  // bytes of a string that may hold a program

class Emitter {
 public:
  Emitter(const Source& source, GraphBuilder& out)
      : source_(source), out_(out), file_(out.files().index(source.path)), whole_(out.wants(source.path)) {}

  void run() {
    for (const Import& statement : source_.facts->imports) import(statement);
    for (const Chain& chain : source_.facts->chains) member(chain);
    const std::vector<Token>& tokens = source_.facts->tokens;
    if (source_.path.name().starts_with("__init__.")) exports();
    // What that one says is read as settings.
    if (source_.path.name() == "setup.py") return;
    for (std::size_t i = 0; i < tokens.size(); ++i) {
      if (tokens[i].kind == Token::Kind::string) string(i);
      if (tokens[i].kind == Token::Kind::name) walk(i);
      if (tokens[i].kind == Token::Kind::name) computed_import(i);
      if (tokens[i].kind == Token::Kind::name && !own_modules_.empty()) own_module(i);
    }
  }

  void run_sessions() { session({0, static_cast<std::uint32_t>(source_.bytes->size())}); }

 private:
  bool wants(const std::string& dotted) const {
    if (whole_ || !out_.focus()) return true;
    for (std::size_t at = 0; at <= dotted.size();) {
      std::size_t end = std::min(dotted.find('.', at), dotted.size());
      if (out_.focus()->stems.contains(dotted.substr(at, end - at))) return true;
      at = end + 1;
    }
    return false;
  }

  Reference reference_at(std::uint32_t site, Span span) const {
    Reference out;
    out.format = source_.format;
    out.role = Role::module;
    out.own_spelling = true;
    out.key = {{file_, site}};
    out.base = {source_.path.parent(), file_, Space::tree};
    out.text = TracedText::literal(source_.bytes->substr(span.begin, span.size()), file_, span);
    return out;
  }

  void lead(Reference reference, const Found& found) {
    bool relative = reference.text.text()[0] == '.';
    if (!found.root.is_root() || !relative) reference.search.push_back({found.root, kNoFile, Space::tree});
    for (const RelPath& file : found.files) {
      // A module that names itself by dots alone goes on doing so wherever it goes.
      if (file != source_.path || !relative) reference.targets.push_back({Target::Kind::tree, file, {}});
    }
    if (!reference.targets.empty()) out_.add(std::move(reference));
  }

  // A module that is not found where its own start would look, is another one that its start from elsewhere
  // finds: the instance says which names are bound, and that.
  static RelPath binding(const std::string& name, bool outer) {
    return RelPath::from_normal((outer ? "started elsewhere as " : "as ") + name);
  }

  void import(const Import& statement) {
    auto facts = [&](const RelPath& path) {
      return facts_of(source_.tree, source_.cache, source_.format, path);
    };
    bool wanted = wants(statement.module);
    bool by_package = statement.from && statement.module.empty() && out_.focus() &&
                      out_.focus()->stems.contains("__init__");
    // What packages are called is needed for what is said of their members.
    Imported found = resolve_import(source_.resolver, source_.path, statement, facts);
    if (found.module) note_own_module(*found.module);
    bool any_attribute = false;
    for (std::size_t i = 0; i < statement.names.size(); ++i) {
      const ImportName& name = statement.names[i];
      const auto& module = found.names[i];
      if (!module) {
        any_attribute = true;
        continue;
      }
      note_own_module(*module);
      bool whole_name = statement.from || name.bound != name.name.substr(0, name.name.find('.')) ||
                        name.name.find('.') == std::string::npos;
      std::string first = name.name.substr(0, name.name.find('.'));
      if (whole_name) {
        note_binding(name.bound, *module);
      } else if (auto head = source_.resolver.at(module->root / first); head) {
        head->root = module->root;
        note_binding(name.bound, *head);
      }
      if (!wanted && !wants(name.name)) continue;
      // That the module is imported is one thing, what it is called another: "import a.b" binds only what
      // leads to b.
      Reference reference = reference_at(statement.statement.begin, name.span);
      reference.instance = module->outer ? binding("", true) : RelPath::from_normal("module");
      bool plain = !statement.from && name.whole == name.span && name.name.find('.') != std::string::npos;
      if (!plain) {
        Reference called = reference;
        called.instance = binding(name.bound, module->outer);
        called.may_gain = true;
        lead(std::move(called), *module);
      }
      lead(std::move(reference), *module);
    }
    if (!statement.from || !any_attribute || !(wanted || by_package)) return;
    Reference reference = reference_at(statement.statement.begin, statement.source);
    if (!found.module) {
      reference.dangling = statement.level > 0 && any_attribute;
      if (reference.dangling) out_.add(std::move(reference));
      return;
    }
    if (found.module->outer) reference.instance = binding("", true);
    lead(std::move(reference), *found.module);
  }

  // Each name that a star import of this package brings: a module that is imported here, or else one of its
  // own.
  void exports() {
    for (const Span& span : exported_names(*source_.bytes, *source_.facts)) {
      std::string name = source_.bytes->substr(span.begin, span.size());
      if (!wants(name) && modules_.empty() && packages_.empty()) continue;
      std::optional<Found> found;
      if (auto module = modules_.find(name); module != modules_.end()) found = module->second;
      if (auto package = packages_.find(name); package != packages_.end()) found = package->second;
      bool bound = find_binding(source_.facts->brought, name) ||
                   std::binary_search(source_.facts->bound.begin(), source_.facts->bound.end(), name);
      if (!found && !bound) found = source_.resolver.at(source_.path.parent() / name);
      if (!found) continue;
      Reference reference = reference_at(span.begin, span);
      reference.instance = RelPath::from_normal("export");
      reference.may_gain = true;
      lead(std::move(reference), *found);
    }
  }

  void note_binding(const std::string& name, const Found& found) {
    (found.is_package ? packages_ : modules_)[name] = found;
  }

  // Whoever imports a module of a package binds its name there: "from .tide import level" in an __init__ also
  // gives that the name tide.
  void note_own_module(const Found& module) {
    RelPath folder = source_.path.parent();
    const RelPath& file = module.files.front();
    if (!source_.path.name().starts_with("__init__.") || !file.is_within(folder) || file == source_.path)
      return;
    std::string_view below = file.below(folder);
    std::string name(below.substr(0, below.find_first_of("/.")));
    bool bound = packages_.contains(name) || modules_.contains(name) ||
                 find_binding(source_.facts->brought, name) ||
                 std::binary_search(source_.facts->bound.begin(), source_.facts->bound.end(), name);
    auto found = bound ? std::nullopt : source_.resolver.at(folder / name);
    if (!found) return;
    found->root = module.root;
    note_binding(name, *found);
    own_modules_.insert(name);
  }

  // Whether the name at `index` stands where a value is used: not where a function, a parameter or an
  // argument is called so.
  bool is_used(std::size_t index) const {
    static const std::set<std::string_view> before = {"(", ",", "[", "=", "return", "del", "in", "is", "not"};
    std::string_view next = word_at(index + 1);
    if (index == 0 || !before.contains(word_at(index - 1)) || next == "." || next == "=" || next == ":")
      return false;
    std::size_t depth = 0;
    for (std::size_t i = index; i-- > 0;) {
      const Token& token = source_.facts->tokens[i];
      std::string_view word = word_at(i);
      if (token.kind == Token::Kind::newline || word == "lambda" || word == "for")
        return token.kind == Token::Kind::newline;
      if (word == ")" || word == "]" || word == "}") ++depth;
      bool opens = word == "(" || word == "[" || word == "{";
      if (opens && depth == 0 && i > 1 && word_at(i - 2) == "def") return false;
      if (opens && depth > 0) --depth;
    }
    return true;
  }

  // Such a name alone, as in "del tide"; with more behind it, it is read as any other.
  void own_module(std::size_t index) {
    std::string name(word_at(index));
    if (!own_modules_.contains(name) || !wants(name) || !is_used(index)) return;
    const Span& span = source_.facts->tokens[index].span;
    bool imports = std::any_of(source_.facts->imports.begin(), source_.facts->imports.end(),
                               [&](const Import& statement) { return statement.statement.holds(span); });
    if (imports || is_local(name, span)) return;
    auto module = modules_.find(name);
    auto package = packages_.find(name);
    if (module != modules_.end()) add_member({name, span}, name.size(), module->second);
    if (package != packages_.end()) add_member({name, span}, name.size(), package->second);
  }

  static RelPath folder_of(const Found& package) {
    const RelPath& file = package.files.front();
    bool init = file.name() == "__init__.py" || file.name() == "__init__.pyi";
    return init ? file.parent() : file;
  }

  // gauges.tide.level, where gauges is a package that is bound here: the module that the names lead to.
  void member(const Chain& chain) {
    std::size_t dot = chain.text.find('.');
    auto module = modules_.find(chain.text.substr(0, dot));
    if (module != modules_.end() && !packages_.contains(module->first) && wants(chain.text)) {
      if (is_local(module->first, chain.span)) return;
      add_member(chain, dot, module->second);
      return;
    }
    auto package = packages_.find(chain.text.substr(0, dot));
    if (package == packages_.end() || !wants(chain.text)) return;
    if (is_local(package->first, chain.span)) return;
    std::optional<Found> best;
    std::size_t end = 0;
    Found at = package->second;
    while (dot != std::string::npos && at.is_package) {
      std::size_t next = chain.text.find('.', dot + 1);
      std::string name = chain.text.substr(dot + 1, next == std::string::npos ? next : next - dot - 1);
      if (auto facts = facts_of(source_.tree, source_.cache, source_.format, at.files.front());
          facts && hides(*facts, folder_of(at), name))
        break;
      auto found = source_.resolver.at(folder_of(at) / name);
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
    return std::any_of(source_.facts->locals.begin(), source_.facts->locals.end(),
                       [&](const LocalName& local) { return local.name == name && local.scope.holds(at); });
  }

  void add_member(const Chain& chain, std::size_t size, const Found& found) {
    Span span{chain.span.begin, chain.span.begin + static_cast<std::uint32_t>(size)};
    Reference reference = reference_at(chain.span.begin, span);
    reference.instance = RelPath::from_normal("member");
    lead(std::move(reference), found);
  }

  // An interactive session in a text, as doctest runs it: what its lines import, and modules they name.
  void session(Span body) {
    std::string_view text = std::string_view(*source_.bytes).substr(body.begin, body.size());
    for (std::size_t at = 0; at < text.size();) {
      std::size_t end = std::min(text.find('\n', at), text.size());
      std::size_t begin = text.find_first_not_of(" \t", at);
      at = end + 1;
      if (begin >= end || !(text.substr(begin).starts_with(">>> ") || text.substr(begin).starts_with("... ")))
        continue;
      begin += 4;
      std::uint32_t offset = body.begin + static_cast<std::uint32_t>(begin);
      PythonFacts facts = scan_python(text.substr(begin, end - begin));
      for (const Import& statement : facts.imports) {
        if (statement.level == 0 && statement.from) taken_by_code(statement, offset);
        for (const ImportName& name : statement.names) {
          if (!statement.from)
            imported_by_code(name.name, {offset + name.span.begin, offset + name.span.end});
        }
      }
      for (const Chain& chain : facts.chains) named_by_code(chain.text, offset + chain.span.begin);
      for (const Token& token : facts.tokens) {
        if (token.kind != Token::Kind::string) continue;
        StringShape shape = shape_of(text.substr(begin, end - begin), token);
        if (!shape.bytes && !shape.triple && !shape.formatted)
          named_by_code(std::string(text.substr(begin + shape.body.begin, shape.body.size())),
                        offset + shape.body.begin);
      }
    }
  }

  // gauges.tide.level: the module that it begins with, if that is within a package.
  void named_by_code(std::string dotted, std::uint32_t at) {
    while (is_dotted_name(dotted) && dotted.find('.') != std::string::npos) {
      if (source_.resolver.absolute(source_.path, dotted)) {
        imported_by_code(dotted, {at, at + static_cast<std::uint32_t>(dotted.size())});
        return;
      }
      dotted.resize(dotted.rfind('.'));
    }
  }

  // Code within a string, that another Python is handed: what it imports by absolute names.
  void code(Span body) {
    std::string_view text = std::string_view(*source_.bytes).substr(body.begin, body.size());
    std::size_t at = text.find("import ");
    bool starts =
        at == 0 || (at != std::string_view::npos &&
                    (text.starts_with("from ") || text.find("\nimport ") != std::string_view::npos ||
                     text.find("\nfrom ") != std::string_view::npos));
    if (!starts) return;
    // "from pole.tide import " + names: whatever comes behind.
    bool open = text.ends_with(" import ") || text.ends_with(" import");
    std::string whole(text);
    if (open) whole += " _";
    for (const Import& statement : scan_python(whole).imports) {
      if (statement.level > 0) continue;
      if (statement.from) {
        taken_by_code(statement, body.begin);
        continue;
      }
      for (const ImportName& name : statement.names)
        imported_by_code(name.name, {body.begin + name.span.begin, body.begin + name.span.end});
    }
  }

  // "from gauges import tide, level": of each name that is a module, the word that is respelled: the package,
  // if the module is imported alone. `offset` is where the code stands.
  void taken_by_code(const Import& statement, std::uint32_t offset) {
    Span from{offset + statement.source.begin, offset + statement.source.end};
    bool any = false;
    std::size_t taken = 0;
    for (const ImportName& name : statement.names) {
      std::string dotted = statement.module + "." + name.name;
      if (source_.resolver.absolute(source_.path, dotted)) ++taken;
      auto package = wants(dotted) ? source_.resolver.absolute(source_.path, statement.module) : std::nullopt;
      auto module =
          package && package->is_package ? source_.resolver.absolute(source_.path, dotted) : std::nullopt;
      if (!module) continue;
      any = true;
      Span word = statement.names.size() == 1 ? from : Span{offset + name.span.begin, offset + name.span.end};
      // Escapes in a string may hide what it says.
      bool plain = source_.bytes->substr(from.begin, from.size()) == statement.module &&
                   source_.bytes->substr(offset + name.span.begin, name.span.size()) == name.name;
      if (!plain) {
        unseen(folder_of(*package), from);
        return;
      }
      Reference reference = reference_at(offset + statement.statement.begin, word);
      reference.certainty = Certainty::likely;
      reference.instance = RelPath::from_normal(std::string(kTakenInString) + name.bound);
      reference.search.push_back({module->root, kNoFile, Space::tree});
      // A module may show how it is imported itself.
      for (const RelPath& file : module->files) reference.targets.push_back({Target::Kind::tree, file, {}});
      out_.add(std::move(reference));
    }
    // Other names are the package's own.
    if (!any || taken < statement.names.size()) imported_by_code(statement.module, from);
  }

  void imported_by_code(const std::string& dotted, Span span) {
    if (!wants(dotted)) return;
    auto found = source_.resolver.absolute(source_.path, dotted);
    if (!found || source_.bytes->substr(span.begin, span.size()) != dotted) return;
    Reference reference = reference_at(span.begin, span);
    reference.certainty = Certainty::likely;
    reference.instance = RelPath::from_normal("string");
    lead(std::move(reference), *found);
  }

  // "pole.intake.tide", "pole.intake:main": the module that a dotted name begins with.
  void string(std::size_t index) {
    const std::vector<Token>& tokens = source_.facts->tokens;
    const Token& token = tokens[index];
    if (token.span.size() < 4 || token.span.size() > kLongestCode) return;
    StringShape shape = shape_of(*source_.bytes, token);
    if (shape.triple && source_.bytes->find(">>> ", shape.body.begin) < shape.body.end)
      session(shape.body);
    else
      code(shape.body);
    if (!shape.bytes) patterns(shape.body);
    if (shape.bytes || shape.triple || token.span.size() > 300) return;
    std::string_view text = std::string_view(*source_.bytes).substr(shape.body.begin, shape.body.size());
    if (shape.formatted) {  // f"pole.plugins.{name}"
      text = text.substr(0, text.find('{'));
      if (!text.ends_with(".")) return;
    }
    std::string_view name = text.substr(0, text.find(':'));
    bool open = name.ends_with(".") && name.size() > 1;  // "pole.plugins." + name
    if (open) name.remove_suffix(1);
    std::size_t dots = std::min(name.find_first_not_of('.'), name.size());
    if (name == "." && index > 1 && tokens[index - 1].kind == Token::Kind::op && is_imported_by_name(index)) {
      unseen(source_.path.parent(), shape.body);
      return;
    }
    if (!is_dotted_name(name.substr(dots))) return;
    std::string dotted(name.substr(dots));
    auto word = [&](std::size_t back) {
      return index >= back ? std::string_view(*source_.bytes)
                                 .substr(tokens[index - back].span.begin, tokens[index - back].span.size())
                           : std::string_view();
    };
    bool called = word(1) == "(" && takes_module(word(2));
    // k.startswith("gauges.") asks what a text is, and names no module.
    static const std::set<std::string_view> asks = {"startswith", "endswith",   "removeprefix", "partition",
                                                    "split",      "rpartition", "replace",      "count",
                                                    "find",       "index",      "removesuffix", "rfind"};
    bool asked = word(1) == "(" && asks.contains(word(2));
    if (open && dots == 0 && !asked) {
      auto package = source_.resolver.absolute(source_.path, dotted);
      if (package && package->is_package) unseen(folder_of(*package), shape.body);
    }
    if (!wants(dotted) || (dots > 0 && !called)) return;
    bool attributes = !open && (word(2) == "patch" || text.size() > name.size());
    std::optional<Found> found;
    std::size_t end = dotted.size();
    while (true) {
      std::string head = dotted.substr(0, end);
      found = dots > 0 ? source_.resolver.relative(source_.path, dots, head)
                       : source_.resolver.absolute(source_.path, head);
      if (found && source_.tree.is_folder(found->files.front())) found.reset();
      std::size_t cut = head.rfind('.');
      if (found || cut == std::string::npos || open || (called && !attributes)) break;
      end = cut;
    }
    // A word with a dot in it is most often something else.
    bool telling = called || dotted.substr(0, end).find('.') != std::string::npos;
    if (!found || !telling) return;
    Span span{shape.body.begin, shape.body.begin + static_cast<std::uint32_t>(dots + end)};
    Reference reference = reference_at(token.span.begin, span);
    if (!called) reference.certainty = Certainty::likely;
    reference.instance = RelPath::from_normal("string");
    lead(std::move(reference), *found);
  }

  // r"pole\.tide\.Level: .*": names in a pattern, whose dots are escaped.
  void patterns(Span body) {
    const std::string& bytes = *source_.bytes;
    auto is_part = [&](std::size_t at) {
      char c = bytes[at];
      return std::isalnum(static_cast<unsigned char>(c)) || c == '_';
    };
    for (std::size_t at = bytes.find("\\.", body.begin); at < body.end; at = bytes.find("\\.", at)) {
      // In a text that is not raw the backslash is escaped itself.
      if (at > body.begin && bytes[at - 1] == '\\') --at;
      const std::string dot = bytes.substr(at, bytes.find('.', at) + 1 - at);
      std::size_t begin = at;
      while (begin > body.begin && is_part(begin - 1)) --begin;
      std::vector<std::size_t> ends;  // of the names
      std::string dotted = bytes.substr(begin, at - begin);
      std::size_t end = at;
      while (end + dot.size() < body.end && bytes.compare(end, dot.size(), dot) == 0 &&
             is_part(end + dot.size())) {
        std::size_t next = end + dot.size();
        while (next < body.end && is_part(next)) ++next;
        dotted += "." + bytes.substr(end + dot.size(), next - end - dot.size());
        end = next;
        ends.push_back(end);
      }
      at = std::max(end, at + dot.size());
      while (is_dotted_name(dotted) && !ends.empty()) {
        auto found = wants(dotted) ? source_.resolver.absolute(source_.path, dotted) : std::nullopt;
        if (found) {
          Span span{static_cast<std::uint32_t>(begin), static_cast<std::uint32_t>(ends.back())};
          Reference reference = reference_at(span.begin, span);
          reference.certainty = Certainty::likely;
          reference.instance = RelPath::from_normal("string");
          lead(std::move(reference), *found);
          break;
        }
        ends.pop_back();
        dotted.resize(dotted.rfind('.'));
      }
    }
  }

  bool is_imported_by_name(std::size_t index) const {
    const Token& call = source_.facts->tokens[index - 2];
    return std::string_view(*source_.bytes).substr(call.span.begin, call.span.size()) == "import_module";
  }

  // pkgutil.iter_modules(__path__): all modules of a package are taken for what they are called.
  void walk(std::size_t index) {
    const std::vector<Token>& tokens = source_.facts->tokens;
    auto word = [&](std::size_t i) {
      return i < tokens.size()
                 ? std::string_view(*source_.bytes).substr(tokens[i].span.begin, tokens[i].span.size())
                 : std::string_view();
    };
    if ((word(index) != "iter_modules" && word(index) != "walk_packages") || word(index + 1) != "(") return;
    std::size_t at = index + 2;
    if (word(at + 1) == "=") at += 2;
    if (word(at) == "[") ++at;
    if (word(at) == "__path__") {
      unseen(source_.path.parent(), tokens[at].span);
      return;
    }
    auto package = packages_.find(std::string(word(at)));
    if (package == packages_.end()) return;
    RelPath folder = folder_of(package->second);
    while (word(at + 1) == "." && word(at + 2) != "__path__") {
      folder = folder / word(at + 2);
      at += 2;
    }
    if (word(at + 2) == "__path__" && source_.tree.is_folder(folder)) unseen(folder, tokens[at].span);
  }

  std::string_view word_at(std::size_t index) const {
    const std::vector<Token>& tokens = source_.facts->tokens;
    if (index >= tokens.size()) return "";
    return std::string_view(*source_.bytes).substr(tokens[index].span.begin, tokens[index].span.size());
  }

  // The tokens of each argument of the call whose paren stands at `open`; [first, last).
  std::vector<std::pair<std::size_t, std::size_t>> arguments(std::size_t open) const {
    std::vector<std::pair<std::size_t, std::size_t>> out;
    std::size_t first = open + 1, depth = 0;
    for (std::size_t i = open + 1; i < source_.facts->tokens.size() && i < open + 200; ++i) {
      std::string_view word = word_at(i);
      if (word == "(" || word == "[" || word == "{") ++depth;
      bool ends = depth == 0 && word == ")";
      if (ends || (depth == 0 && word == ",")) {
        if (i > first) out.emplace_back(first, i);
        first = i + 1;
      }
      if (ends) return out;
      if (word == ")" || word == "]" || word == "}") --depth;
    }
    return {};
  }

  // The folder of the package that a call names: __name__ and __package__ stand for the file's own one.
  std::optional<RelPath> package_named(std::size_t first, std::size_t last) const {
    if (word_at(first + 1) == "=") first += 2;
    if (last != first + 1) return std::nullopt;
    if (word_at(first) == "__name__" || word_at(first) == "__package__") return source_.path.parent();
    const Token& token = source_.facts->tokens[first];
    if (token.kind != Token::Kind::string) return std::nullopt;
    Span body = shape_of(*source_.bytes, token).body;
    auto package = source_.resolver.absolute(source_.path, source_.bytes->substr(body.begin, body.size()));
    return package && package->is_package ? std::optional(folder_of(*package)) : std::nullopt;
  }

  // import_module(name, __package__), __import__(__name__, fromlist=[name]), import_module(__name__ + "." +
  // name): some module of a package that is known.
  void computed_import(std::size_t index) {
    std::string_view call = word_at(index);
    if ((call != "import_module" && call != "__import__") || word_at(index + 1) != "(") return;
    auto args = arguments(index + 1);
    if (args.empty()) return;
    auto [first, last] = args[0];
    bool literal = last == first + 1 && source_.facts->tokens[first].kind == Token::Kind::string &&
                   !shape_of(*source_.bytes, source_.facts->tokens[first]).formatted;
    std::optional<RelPath> folder;
    auto keyword = [&](std::string_view name) {
      return std::find_if(args.begin(), args.end(), [&](const auto& arg) {
        return word_at(arg.first) == name && word_at(arg.first + 1) == "=";
      });
    };
    bool own = last > first + 1 && (word_at(first) == "__name__" || word_at(first) == "__package__");
    if (!literal && source_.facts->tokens[first].kind == Token::Kind::string)
      own = own || word_at(first).find("{__name__}.") != std::string_view::npos ||
            word_at(first).find("{__package__}.") != std::string_view::npos;
    if (own) folder = source_.path.parent();
    if (call == "import_module" && !literal && !folder) {
      auto package = keyword("package");
      if (package == args.end() && args.size() > 1) package = args.begin() + 1;
      if (package != args.end()) folder = package_named(package->first, package->second);
    }
    if (call == "__import__") {
      auto level = keyword("level");
      bool beside = (level != args.end() && word_at(level->first + 2) == "1") ||
                    (args.size() > 4 && word_at(args[4].first) == "1");
      if (beside && !literal) folder = source_.path.parent();
      auto list = keyword("fromlist");
      if (list == args.end() && args.size() > 3) list = args.begin() + 3;
      auto package = package_named(first, last);
      for (std::size_t i = list == args.end() ? 0 : list->first;
           package && list != args.end() && i < list->second; ++i) {
        const Token& token = source_.facts->tokens[i];
        bool is_keyword = i == list->first && word_at(i + 1) == "=";
        if (token.kind == Token::Kind::name && !is_keyword && !folder) folder = package;
        if (token.kind != Token::Kind::string) continue;
        // What a name that is spelled gets bound to depends on the code around.
        Span body = shape_of(*source_.bytes, token).body;
        std::string name = source_.bytes->substr(body.begin, body.size());
        if (source_.tree.is_file(*package / (name + ".py"))) unseen(*package, token.span, name);
      }
    }
    if (folder && source_.tree.is_folder(*folder)) unseen(*folder, source_.facts->tokens[index].span);
  }

  // A module of that package, whose name is known only when the program runs, but for how it begins.
  void unseen(const RelPath& folder, Span span, const std::string& name = "") {
    Piece piece;
    piece.text = marked(Space::tree, folder) + "/" + name;
    piece.file = file_;
    piece.span = span;
    piece.verbatim = false;
    TracedText text;
    text.append(std::move(piece));
    text.append(TracedText::hole());
    text.append(TracedText::plain(".py"));  // what else lies there is no module
    out_.hole(text, {source_.path.parent(), kNoFile, Space::tree}, source_.format);
  }

  const Source& source_;
  GraphBuilder& out_;
  FileIndex file_;
  bool whole_;
  std::map<std::string, Found> packages_, modules_;  // by the names they have here
  std::set<std::string> own_modules_;                // those of them that only imports from them bind
};

// Whether a folder can be the package of a dotted name.
bool ends_with_name(const RelPath& folder, std::string name) {
  std::replace(name.begin(), name.end(), '.', '/');
  const std::string& path = folder.str();
  return path == name || path.ends_with("/" + name);
}

}  // namespace

std::shared_ptr<const PythonFacts> facts_of(const TreeReader& tree, FactsCache& cache, std::uint8_t format,
                                            const RelPath& path) {
  auto bytes = tree.is_folder(path) ? Result<Bytes>(Error{}) : tree.read(path);
  if (!bytes) return nullptr;
  return cache.get<PythonFacts>(format, *bytes, [](const std::string& text) { return scan_python(text); });
}

bool hides(const PythonFacts& package, const RelPath& folder, const std::string& name) {
  if (std::binary_search(package.bound.begin(), package.bound.end(), name)) return true;
  for (const Import& statement : package.imports) {
    for (const ImportName& each : statement.names) {
      // "from . import tide" and "from pole import tide" are how a package gets its own module.
      bool own = statement.from && each.name == name &&
                 ((statement.level == 1 && statement.module.empty()) ||
                  (statement.level == 0 && ends_with_name(folder, statement.module)));
      if (each.bound == name && !own && !statement.late) return true;
    }
  }
  return false;
}

Imported resolve_import(const PythonResolver& resolver, const RelPath& user, const Import& statement,
                        const std::function<std::shared_ptr<const PythonFacts>(const RelPath&)>& facts) {
  Imported out;
  out.names.resize(statement.names.size());
  auto resolve = [&](const std::string& name) {
    return statement.level > 0 ? resolver.relative(user, statement.level, name)
                               : resolver.absolute(user, name);
  };
  if (!statement.from) {
    for (std::size_t i = 0; i < statement.names.size(); ++i) out.names[i] = resolve(statement.names[i].name);
    return out;
  }
  out.module = resolve(statement.module);
  if (!out.module || !out.module->is_package) return out;
  const RelPath& init = out.module->files.front();
  bool same_file = init == user;
  auto package = facts(out.module->files.front());
  for (std::size_t i = 0; i < statement.names.size(); ++i) {
    const std::string& name = statement.names[i].name;
    if (name == "*" || (package && !same_file && hides(*package, init.parent(), name))) continue;
    auto found = resolve(statement.module.empty() ? name : statement.module + "." + name);
    if (!found) continue;
    // It is looked for in that package, and nowhere else.
    RelPath folder = init.name().starts_with("__init__.") ? init.parent() : init;
    if (!found->files.front().is_within(folder)) continue;
    out.names[i] = std::move(found);
  }
  return out;
}

void emit_sessions(const Source& source, GraphBuilder& out) {
  Emitter(source, out).run_sessions();
}

void emit_imports(const Source& source, GraphBuilder& out) {
  Emitter(source, out).run();
}

}  // namespace yc::python
