#include "formats/python/names_in_strings.h"
#include "formats/python/path_values.h"
#include "words/python.h"

#include <algorithm>

namespace yc::python {

namespace {

// Calls whose first string is the name of a module.
bool takes_module(std::string_view call) {
  return words::python::module_takers().contains(call);
}

constexpr std::size_t kLongestCode = 100'000;  // bytes of a string that may hold a program

// What is only found where some other program starts is another reference than what the file itself finds.
ConstructPart part_of(const Found& found) {
  return ConstructPart::tagged(std::string(kInString) + (found.outer ? ", started elsewhere" : ""));
}

// Whether a call reads what lies in a package, which need be no more than a folder.
bool takes_package(std::string_view call) {
  return call == "files" || is_package_data(std::string(call));
}

}  // namespace

void NamesInStrings::session(Span body) {
  std::string_view text = std::string_view(*source().bytes).substr(body.begin, body.size());
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
        if (!statement.from) imported_by_code(name.name, {offset + name.span.begin, offset + name.span.end});
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
void NamesInStrings::named_by_code(std::string dotted, std::uint32_t at) {
  while (is_dotted_name(dotted) && dotted.find('.') != std::string::npos) {
    auto found = source().resolver.absolute(source().path, dotted);
    if (found && !is_hidden(source().tree, source().cache, source().format, dotted, *found)) {
      imported_by_code(dotted, {at, at + static_cast<std::uint32_t>(dotted.size())});
      return;
    }
    dotted.resize(dotted.rfind('.'));
  }
}

// Code within a string, that another Python is handed: what it imports by absolute names.
void NamesInStrings::code(Span body) {
  std::string_view text = std::string_view(*source().bytes).substr(body.begin, body.size());
  std::size_t at = text.find("import ");
  bool starts = at == 0 || (at != std::string_view::npos &&
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
void NamesInStrings::taken_by_code(const Import& statement, std::uint32_t offset) {
  Span from{offset + statement.source.begin, offset + statement.source.end};
  bool any = false;
  std::size_t taken = 0;
  for (const ImportName& name : statement.names) {
    std::string dotted = statement.module + "." + name.name;
    if (source().resolver.absolute(source().path, dotted)) ++taken;
    auto package =
        to_.wants(dotted) ? source().resolver.absolute(source().path, statement.module) : std::nullopt;
    auto module =
        package && package->is_package ? source().resolver.absolute(source().path, dotted) : std::nullopt;
    if (!module || is_hidden(source().tree, source().cache, source().format, dotted, *module)) continue;
    any = true;
    Span word = statement.names.size() == 1 ? from : Span{offset + name.span.begin, offset + name.span.end};
    // Escapes in a string may hide what it says.
    bool plain = source().bytes->substr(from.begin, from.size()) == statement.module &&
                 source().bytes->substr(offset + name.span.begin, name.span.size()) == name.name;
    if (!plain) {
      to_.unseen(folder_of(*package), from);
      return;
    }
    Reference reference = to_.reference_at(offset + statement.statement.begin, word);
    reference.certainty = Certainty::likely;
    reference.construct_part = ConstructPart::tagged(std::string(kTakenInString) + name.bound);
    reference.search.push_back({module->root, kNoFile, Space::tree});
    // A module may show how it is imported itself.
    reference.lead_to(module->files);
    to_.add(std::move(reference));
  }
  // Other names are the package's own.
  if (!any || taken < statement.names.size()) imported_by_code(statement.module, from);
}

void NamesInStrings::imported_by_code(const std::string& dotted, Span span) {
  if (!to_.wants(dotted)) return;
  auto found = source().resolver.absolute(source().path, dotted);
  if (!found || source().bytes->substr(span.begin, span.size()) != dotted) return;
  Reference reference = to_.reference_at(span.begin, span);
  reference.certainty = Certainty::likely;
  reference.construct_part = part_of(*found);
  to_.lead(std::move(reference), *found);
}

// "pole.intake.tide", "pole.intake:main": the module that a dotted name begins with.
void NamesInStrings::string(std::size_t index) {
  const std::vector<Token>& tokens = source().facts->tokens;
  const Token& token = tokens[index];
  if (token.span.size() < 4 || token.span.size() > kLongestCode) return;
  StringShape shape = shape_of(*source().bytes, token);
  std::string_view inside = std::string_view(*source().bytes).substr(shape.body.begin, shape.body.size());
  if (shape.triple && inside.find(">>> ") != std::string_view::npos)
    session(shape.body);
  else
    code(shape.body);
  if (!shape.bytes) patterns(shape.body);
  if (shape.bytes || shape.triple || token.span.size() > 300) return;
  std::string_view text = std::string_view(*source().bytes).substr(shape.body.begin, shape.body.size());
  if (shape.formatted) {  // f"pole.plugins.{name}"
    text = text.substr(0, text.find('{'));
    if (!text.ends_with(".")) return;
  }
  std::string_view name = text.substr(0, text.find(':'));
  bool open = name.ends_with(".") && name.size() > 1;  // "pole.plugins." + name
  if (open) name.remove_suffix(1);
  std::size_t dots = std::min(name.find_first_not_of('.'), name.size());
  if (name == "." && index > 1 && tokens[index - 1].kind == Token::Kind::op && is_imported_by_name(index)) {
    to_.unseen(source().path.parent(), shape.body);
    return;
  }
  if (!is_dotted_name(name.substr(dots))) return;
  std::string dotted(name.substr(dots));
  auto word = [&](std::size_t back) {
    return index >= back ? to_.word_at(index - back) : std::string_view();
  };
  bool is_beside = is_package_beside(index);
  bool called = (word(1) == "(" && takes_module(word(2))) || is_beside, listed = false;
  // k.startswith("gauges.") asks what a text is, and names no module.
  bool asked = word(1) == "(" && words::python::text_questions().contains(word(2));
  if (open && dots == 0 && !asked) {
    auto package = source().resolver.absolute(source().path, dotted);
    if (package && package->is_package) to_.unseen(folder_of(*package), shape.body);
  }
  if (!to_.wants(dotted) || (dots > 0 && !called)) return;
  if (!called && dots == 0 && is_in_module_list(index)) called = listed = true;
  bool attributes = !open && (listed || word(2) == "patch" || text.size() > name.size());
  std::optional<std::string> package = dots > 0 ? package_beside(index) : std::nullopt;
  std::size_t end = dotted.size();
  auto found =
      longest_found(dotted, end, called, !open && (!called || attributes), [&](const std::string& head) {
        auto out = dots > 0 ? relative(package, dots, head) : source().resolver.absolute(source().path, head);
        bool may_be_folder = word(1) == "(" && takes_package(word(2));
        if (may_be_folder && !out) out = source().resolver.data_package(source().path, head);
        if (out && !is_beside && !may_be_folder && source().tree.is_folder(out->files.front())) out.reset();
        return out;
      });
  if (!found) return;
  // Modules are looked for in its folder, whatever the package itself holds.
  if (is_beside && found->is_package) found->files = {folder_of(*found)};
  Span span{shape.body.begin, shape.body.begin + static_cast<std::uint32_t>(dots + end)};
  Reference reference = to_.reference_at(token.span.begin, span);
  if (!called) reference.certainty = Certainty::likely;
  reference.construct_part = part_of(*found);
  if (auto folder = package ? source().resolver.absolute(source().path, *package) : std::nullopt)
    reference.base = {folder_of(*folder), kNoFile, Space::tree};
  to_.lead(std::move(reference), *found);
}

// What a name leads to, or, where attributes may stand behind, the longest beginning of it that leads
// somewhere; `end` is set to where that ends.
std::optional<Found> NamesInStrings::longest_found(
    const std::string& dotted, std::size_t& end, bool may_be_one_word, bool may_be_attributes,
    const std::function<std::optional<Found>(const std::string&)>& find) {
  while (true) {
    std::string head = dotted.substr(0, end);
    std::size_t cut = head.rfind('.');
    // A word without a dot in it is most often something else.
    if (!may_be_one_word && cut == std::string::npos) return std::nullopt;
    if (auto found = find(head)) return found;
    if (cut == std::string::npos || !may_be_attributes) return std::nullopt;
    end = cut;
  }
}

// INSTALLED_APPS = ["gauges", "pole.apps.Pole"]: whether a string is one of such a list.
bool NamesInStrings::is_in_module_list(std::size_t index) const {
  constexpr std::size_t kMostBack = 400;
  const std::vector<Token>& tokens = source().facts->tokens;
  std::size_t at = index;
  while (at > 0 && index - at < kMostBack &&
         (to_.word_at(at - 1) == "," || tokens[at - 1].kind == Token::Kind::string))
    --at;
  if (at < 3 || (to_.word_at(at - 1) != "[" && to_.word_at(at - 1) != "(")) return false;
  std::size_t sign = at - 2;
  if (to_.word_at(sign) != "=" && to_.word_at(sign) != "+=") return false;
  if (to_.word_at(sign - 1) == "+" && sign > 1) --sign;
  return words::python::module_lists().contains(to_.word_at(sign - 1));
}

// Whether a string is the package that a relative name before it is counted from.
bool NamesInStrings::is_package_beside(std::size_t index) const {
  const std::vector<Token>& tokens = source().facts->tokens;
  if (index >= tokens.size() || tokens[index].kind != Token::Kind::string) return false;
  if (to_.word_at(index + 1) != ")" && to_.word_at(index + 1) != ",") return false;
  std::size_t comma = index - 1;
  if (index >= 6 && to_.word_at(index - 1) == "=" && to_.word_at(index - 2) == "package") comma = index - 3;
  if (index < 4 || to_.word_at(comma) != "," || tokens[comma - 1].kind != Token::Kind::string) return false;
  return to_.word_at(comma - 2) == "(" && to_.word_at(comma - 3) == "import_module" &&
         source().bytes->compare(shape_of(*source().bytes, tokens[comma - 1]).body.begin, 1, ".") == 0;
}

// import_module(".tide", "pole.intake"): the package that a relative name is counted from, where one is named
// beside.
std::optional<std::string> NamesInStrings::package_beside(std::size_t index) const {
  std::size_t at = index + 2;
  if (to_.word_at(at) == "package" && to_.word_at(at + 1) == "=") at += 2;
  if (!is_package_beside(at)) return std::nullopt;
  Span body = shape_of(*source().bytes, source().facts->tokens[at]).body;
  return source().bytes->substr(body.begin, body.size());
}

std::optional<Found> NamesInStrings::relative(const std::optional<std::string>& package, std::size_t dots,
                                              const std::string& name) const {
  if (!package) return source().resolver.relative(source().path, dots, name);
  std::string from = *package;
  for (std::size_t i = 1; i < dots; ++i) {
    std::size_t cut = from.rfind('.');
    if (cut == std::string::npos) return std::nullopt;
    from.resize(cut);
  }
  return source().resolver.absolute(source().path, from + "." + name);
}

// r"pole\.tide\.Level: .*": names in a pattern, whose dots are escaped.
void NamesInStrings::patterns(Span body) {
  // What stands behind the string is not looked at: there may be much of it.
  const std::string_view bytes = std::string_view(*source().bytes).substr(0, body.end);
  auto is_part = [&](std::size_t at) {
    char c = bytes[at];
    return std::isalnum(static_cast<unsigned char>(c)) || c == '_';
  };
  for (std::size_t at = bytes.find("\\.", body.begin); at < body.end; at = bytes.find("\\.", at)) {
    // In a text that is not raw the backslash is escaped itself.
    if (at > body.begin && bytes[at - 1] == '\\') --at;
    const std::string dot(bytes.substr(at, bytes.find('.', at) + 1 - at));
    std::size_t begin = at;
    while (begin > body.begin && is_part(begin - 1)) --begin;
    std::vector<std::size_t> ends;  // of the names
    std::string dotted(bytes.substr(begin, at - begin));
    std::size_t end = at;
    while (end + dot.size() < body.end && bytes.compare(end, dot.size(), dot) == 0 &&
           is_part(end + dot.size())) {
      std::size_t next = end + dot.size();
      while (next < body.end && is_part(next)) ++next;
      dotted += '.';
      dotted += bytes.substr(end + dot.size(), next - end - dot.size());
      end = next;
      ends.push_back(end);
    }
    at = std::max(end, at + dot.size());
    while (is_dotted_name(dotted) && !ends.empty()) {
      auto found = to_.wants(dotted) ? source().resolver.absolute(source().path, dotted) : std::nullopt;
      if (found) {
        Span span = span_of(begin, ends.back());
        Reference reference = to_.reference_at(span.begin, span);
        reference.certainty = Certainty::likely;
        reference.construct_part = part_of(*found);
        to_.lead(std::move(reference), *found);
        break;
      }
      ends.pop_back();
      dotted.resize(dotted.rfind('.'));
    }
  }
}

bool NamesInStrings::is_imported_by_name(std::size_t index) const {
  const Token& call = source().facts->tokens[index - 2];
  return std::string_view(*source().bytes).substr(call.span.begin, call.span.size()) == "import_module";
}

}  // namespace yc::python
