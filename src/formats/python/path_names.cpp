// The names in expressions of Python: constants of this module, of others and of functions, parameters, and
// functions that only put a path together.
#include <algorithm>

#include "formats/python/path_expressions.h"
#include "words/python.h"

namespace yc::python {

namespace {

const Shorthand* find_shorthand(const PythonFacts& facts, const std::string& name) {
  for (const Shorthand& each : facts.shorthands) {
    if (each.name == name) return &each;
  }
  return nullptr;
}

// Most names are none: of those the module need not be scanned.
bool may_be_constant(const std::string& bytes, const std::string& name) {
  return bytes.find(name) != std::string::npos && bytes.find("\nclass " + name) == std::string::npos &&
         bytes.find("\ndef " + name) == std::string::npos;
}

}  // namespace

Value PathExpressions::constant(const std::string& name) {
  const Binding* own = find_binding(source_.facts->constants, name);
  const Binding* brought = own ? nullptr : find_binding(source_.facts->brought, name);
  if ((!own && !brought) || depth_ > kDeepest) return {};
  auto [slot, fresh] = memo_.try_emplace({source_.path, name});
  if (!fresh) return slot->second;
  Value value = own ? at_token(own->at) : imported(source_.facts->imports[brought->at], name);
  return memo_[{source_.path, name}] = std::move(value);
}

TracedText PathExpressions::own_file() const {
  TracedText out =
      TracedText::folder(Piece::Nature::tree_folder, file_, marked(Space::tree, source_.path.parent()));
  out.append(TracedText::plain("/" + std::string(source_.path.name())));
  return out;
}

Value PathExpressions::name() {
  std::string word(text(at_));
  Span span = tokens_[at_].span;
  ++at_;
  // "return (HERE / 'tides').glob('*.csv')" calls nothing of that name.
  if (is_op("(") && words::python::keywords_before_values().contains(word)) return nested_sum();
  if (auto argument = given_.find(word); argument != given_.end())
    return argument->second.empty() ? Value() : argument->second.front();
  if (word == "__file__") return known(own_file(), true, false);
  if (word == "__package__" || word == "__name__") {
    Value out;
    out.name = "__package__";
    return out;
  }
  bool call_or_member = is_op("(") || is_op(".");
  const LocalName* local = local_of(word, span);
  Value value = local ? local_constant(*local) : constant(word);
  if (value.known) {
    value.text = value.text.through({file_, span});
    value.literal = false;  // it stands where it is named
    return value;
  }
  Value out;
  if (call_or_member) out.name = called(word);
  return out;
}

std::string PathExpressions::called(const std::string& name) const {
  const Binding* brought = find_binding(source_.facts->brought, name);
  if (!brought) return name;
  const Import& statement = source_.facts->imports[brought->at];
  static const std::set<std::string_view> kLibraries = {"os", "os.path", "posixpath"};
  for (const ImportName& each : statement.names) {
    if (each.bound != name || statement.level > 0) continue;
    const std::string& module = statement.from ? statement.module : each.name;
    if (!kLibraries.contains(module)) break;
    // "import os.path" binds os, and "import os.path as osp" the module itself.
    if (!statement.from) return each.name.starts_with(name + ".") ? name : each.name;
    return module + "." + each.name;
  }
  return name;
}

const LocalName* PathExpressions::local_of(const std::string& name, Span at) const {
  const LocalName* out = nullptr;
  const Binding* first = find_binding(source_.facts->local_names, name);
  const auto& all = source_.facts->local_names;
  for (const Binding* one = first; first && one != all.data() + all.size() && one->name == name; ++one) {
    const LocalName& local = source_.facts->locals[one->at];
    if (local.scope.holds(at) && (!out || out->scope.holds(local.scope))) out = &local;
  }
  return out;
}

Value PathExpressions::local_constant(const LocalName& local) {
  if (local.value == 0 || depth_ > kDeepest) return {};
  std::pair key{source_.path, local.name + "@" + std::to_string(local.value)};
  if (!given_.empty()) return at_token(local.value);  // it may depend on the arguments
  auto [slot, fresh] = memo_.try_emplace(key);
  if (!fresh) return slot->second;
  Value value = at_token(local.value);
  return memo_[key] = std::move(value);
}

Value PathExpressions::given_back(const std::string& name, const std::vector<Value>& arguments) {
  if (depth_ > kDeepest || name.empty()) return {};
  if (const Shorthand* own = find_shorthand(*source_.facts, name)) return apply(source_, *own, arguments);
  Value out;
  with_function(name, [&](const Source& there, const std::string& its_name) {
    if (const Shorthand* other = find_shorthand(*there.facts, its_name))
      out = apply(there, *other, arguments);
  });
  return out;
}

void PathExpressions::with_function(const std::string& name,
                                    const std::function<void(const Source&, const std::string&)>& take) {
  const Binding* brought = find_binding(source_.facts->brought, name);
  if (!brought) return;
  const Import& statement = source_.facts->imports[brought->at];
  for (const ImportName& each : statement.names) {
    if (!statement.from || each.bound != name) continue;
    auto module = resolve(statement, statement.module);
    if (!module || source_.tree.is_folder(module->files.front()) || module->files.front() == source_.path)
      return;
    auto bytes = source_.tree.read(module->files.front());
    if (!bytes || (*bytes)->find("def " + each.name) == std::string::npos) return;
    auto facts = facts_of(source_.tree, source_.cache, source_.format, module->files.front());
    if (!facts) return;
    Source there{source_.tree,          source_.cache, source_.format, source_.resolver,
                 module->files.front(), *bytes,        facts};
    return take(there, each.name);
  }
}

namespace {

const FunctionBody* find_body(const PythonFacts& facts, const std::string& name) {
  const FunctionBody* out = nullptr;
  for (const FunctionBody& each : facts.bodies) {
    if (each.name != name) continue;
    if (out) return nullptr;  // which of the two is called hangs on what ran before
    out = &each;
  }
  return out;
}

bool could_be_path(const Value& value) {
  constexpr std::size_t kLongest = 200;
  if (!value.known || !value.literal || value.text.has_hole() || value.text.size() > kLongest) return false;
  std::string text = value.text.text();
  return text.find_first_of("./") != std::string::npos && text.find_first_of(" \n:") == std::string::npos;
}

}  // namespace

std::set<std::size_t> PathExpressions::opened_by(const std::string& name, const std::vector<Value>& arguments,
                                                 const std::vector<std::size_t>& firsts) {
  bool any = !is_inlined_ && std::any_of(arguments.begin(), arguments.end(), could_be_path);
  if (!any || name.empty() || name.find('.') != std::string::npos) return {};
  if (const FunctionBody* own = find_body(*source_.facts, name))
    return opened_in(source_, *own, arguments, firsts);
  std::set<std::size_t> out;
  with_function(name, [&](const Source& there, const std::string& its_name) {
    if (const FunctionBody* other = find_body(*there.facts, its_name))
      out = opened_in(there, *other, arguments, firsts);
  });
  return out;
}

std::set<std::size_t> PathExpressions::opened_in(const Source& source, const FunctionBody& function,
                                                 const std::vector<Value>& arguments,
                                                 const std::vector<std::size_t>& firsts) {
  std::set<std::size_t> out;
  // Only what the function itself puts before the text makes it another one.
  auto take = [&](const Value& value, std::size_t) {
    if (value.text.empty()) return;
    const Piece& last = value.text.pieces().back();
    bool is_here = last.has_origin() && last.file == file_;
    for (std::size_t i = 0; is_here && i < arguments.size(); ++i) {
      if (!could_be_path(arguments[i]) || out.contains(i)) continue;
      const TracedText& given = arguments[i].text;
      bool holds = value.text.size() > given.size() && last.span == given.pieces().back().span;
      if (!holds || value.text.has_hole()) continue;
      // "file " + name is a message.
      std::string head = value.text.text();
      head.resize(head.size() - std::min(head.size(), given.text().size()));
      if (!head.ends_with('/') || head.find(' ') != std::string::npos) continue;
      out.insert(i);
      emit_(value, firsts[i]);
    }
  };
  PathExpressions body(source, out_, memo_, depth_ + 1, take);
  body.is_inlined_ = true;
  body.sweep_body(function, arguments);
  return out;
}

void PathExpressions::sweep_body(const FunctionBody& function, const std::vector<Value>& arguments) {
  for (std::size_t i = 0; i < function.parameters.size() && i < arguments.size(); ++i) {
    if (!function.parameters[i].empty()) given_[function.parameters[i]] = {arguments[i]};
  }
  at_ = function.begin;
  sweep(std::min(function.end, tokens_.size()));
}

Value PathExpressions::apply(const Source& source, const Shorthand& function,
                             const std::vector<Value>& arguments) {
  PathExpressions body(source, out_, memo_, depth_ + 1, nullptr);
  for (std::size_t i = 0; i < function.parameters.size(); ++i) {
    std::vector<Value>& slot = body.given_[function.parameters[i]];
    bool rest = function.takes_rest && i + 1 == function.parameters.size();
    for (std::size_t k = i; k < arguments.size() && (rest || k == i); ++k) slot.push_back(arguments[k]);
  }
  Value out = body.expression(function.value);
  bool any =
      std::any_of(arguments.begin(), arguments.end(), [](const Value& value) { return value.literal; });
  // A text that only repeats what it was given says no more than that.
  if (!out.known || !out.is_path || !out.text.text().starts_with(kTreeMark)) return {};
  out.literal = any;
  return out;
}

Value PathExpressions::imported(const Import& statement, const std::string& bound) {
  if (!statement.from) return {};
  for (const ImportName& each : statement.names) {
    if (each.bound != bound) continue;
    auto module = resolve(statement, statement.module);
    return module ? constant_of(*module, each.name) : Value();
  }
  return {};
}

std::optional<Found> PathExpressions::resolve(const Import& statement, const std::string& name) const {
  return statement.level > 0 ? source_.resolver.relative(source_.path, statement.level, name)
                             : source_.resolver.absolute(source_.path, name);
}

Value PathExpressions::constant_of(const Found& module, const std::string& name) {
  const RelPath& path = module.files.front();
  if (path == source_.path || source_.tree.is_folder(path)) return {};
  if (auto known = memo_.find({path, name}); known != memo_.end()) return known->second;
  auto bytes = source_.tree.read(path);
  if (!bytes || !may_be_constant(**bytes, name)) return memo_[{path, name}] = {};
  auto facts = facts_of(source_.tree, source_.cache, source_.format, path);
  Source other{source_.tree, source_.cache, source_.format, source_.resolver, path, *bytes, facts};
  return PathExpressions(other, out_, memo_, depth_ + 1, nullptr).constant(name);
}

Value PathExpressions::member_constant(const std::string& module_name, const std::string& name) {
  const Binding* brought = find_binding(source_.facts->brought, module_name);
  if (!brought || depth_ > kDeepest) return {};
  const Import& statement = source_.facts->imports[brought->at];
  for (const ImportName& each : statement.names) {
    if (each.bound != module_name) continue;
    std::string dotted = each.name;
    if (statement.from) dotted = statement.module + (statement.module.empty() ? "" : ".") + each.name;
    auto module = resolve(statement, dotted);
    return module ? constant_of(*module, name) : Value();
  }
  return {};
}

Value PathExpressions::package_folder(const Value& argument) {
  if (argument.name == "__package__")
    return known(
        TracedText::folder(Piece::Nature::tree_folder, file_, marked(Space::tree, source_.path.parent())),
        true, false);
  std::string dotted = argument.known ? argument.text.text() : "";
  auto found = is_dotted_name(dotted) ? source_.resolver.absolute(source_.path, dotted) : std::nullopt;
  if (!found && is_dotted_name(dotted)) found = source_.resolver.data_package(source_.path, dotted);
  if (!found || !found->is_package) return {};
  const RelPath& init = found->files.front();
  // A package that is no more than a folder.
  if (source_.tree.is_folder(init))
    return known(TracedText::folder(Piece::Nature::tree_folder, kNoFile, marked(Space::tree, init)), true,
                 false);
  return known(TracedText::folder(Piece::Nature::tree_folder, out_.files().index(init),
                                  marked(Space::tree, init.parent())),
               true, false);
}

}  // namespace yc::python
