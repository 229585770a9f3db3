#include "formats/meson/meson_proposals.h"

#include <algorithm>
#include <map>

#include "base/text.h"
#include "formats/meson/meson_evaluation.h"

namespace yc::meson {

namespace {

// What comes between two elements: a line end and the blanks before a word that is the first of its line,
// else one blank.
std::string gap_before(std::string_view bytes, std::uint32_t at) {
  std::size_t from = at;
  while (from > 0 && (bytes[from - 1] == ' ' || bytes[from - 1] == '\t')) --from;
  if (from == 0 || bytes[from - 1] != '\n') return " ";
  std::size_t line = from - (from > 1 && bytes[from - 2] == '\r' ? 2 : 1);
  return std::string(bytes.substr(line, at - line));
}

// The string whose members a method splits, if a literal stands in one.
const Node* split_string(const Node& node, Span literal) {
  if (!node.span.holds(literal)) return nullptr;
  bool splits = node.kind == Node::Kind::method && (node.text == "split" || node.text == "splitlines") &&
                node.children[0]->kind == Node::Kind::string && node.children[0]->content.holds(literal);
  if (splits) return node.children[0].get();
  for (const NodePtr& child : node.children) {
    if (const Node* found = split_string(*child, literal)) return found;
  }
  for (const Argument& argument : node.arguments) {
    if (const Node* found = split_string(*argument.value, literal)) return found;
  }
  return nullptr;
}

const Node* split_string(const Syntax& syntax, Span literal) {
  const Statement* statement = enclosing(syntax, literal).statement;
  return statement && statement->value ? split_string(*statement->value, literal) : nullptr;
}

bool is_element(const Enclosing& place) {
  return place.argument && place.argument->keyword.empty() && !place.argument->key;
}

std::string quoted(const Format& format, std::string_view text) {
  return format.write(text, kExpression).value_or("");
}

bool has_ternary(const Node& node) {
  if (node.kind == Node::Kind::ternary) return true;
  return std::any_of(node.children.begin(), node.children.end(),
                     [](const NodePtr& child) { return has_ternary(*child); }) ||
         std::any_of(node.arguments.begin(), node.arguments.end(),
                     [](const Argument& argument) { return has_ternary(*argument.value); });
}

}  // namespace

Span word_at(std::string_view bytes, Span literal) {
  Syntax syntax = parse(bytes);
  if (const Node* string = split_string(syntax, literal)) {
    Span out = literal;
    while (out.begin > string->content.begin && !is_space(bytes[out.begin - 1])) --out.begin;
    while (out.end < string->content.end && !is_space(bytes[out.end])) ++out.end;
    return out;
  }
  Enclosing place = enclosing(syntax, literal);
  if (place.argument) return place.argument->value->span;
  return place.statement && place.statement->value ? place.statement->value->span : literal;
}

std::optional<std::string> beside(const Format& format, std::string_view bytes, Span word,
                                  std::string_view text) {
  Syntax syntax = parse(bytes);
  if (split_string(syntax, word)) {
    auto written = format.write(text, kWordInString);
    return written ? std::optional(gap_before(bytes, word.begin) + *written) : std::nullopt;
  }
  std::string written = quoted(format, text);
  if (written.empty()) return std::nullopt;
  Enclosing place = enclosing(syntax, word);
  if (is_element(place) && place.argument->value->span == word && place.owner->kind != Node::Kind::dictionary)
    return "," + gap_before(bytes, word.begin) + written;
  const Node* node = node_at(syntax, word);
  if (!node || node->kind == Node::Kind::string) return std::nullopt;
  bool whole =
      (place.argument && place.argument->value->span == word) ||
      (!place.argument && place.statement && place.statement->value && place.statement->value->span == word);
  return whole ? std::optional(" + [" + written + "]") : std::nullopt;
}

std::optional<Span> without(std::string_view bytes, Span word) {
  Syntax syntax = parse(bytes);
  Span out = word;
  if (split_string(syntax, word)) {
    while (is_space(bytes[out.begin - 1])) --out.begin;
    return out;
  }
  Enclosing place = enclosing(syntax, word);
  if (!is_element(place) || place.argument->span != word) return std::nullopt;
  std::size_t next = bytes.find_first_not_of(" \t\r\n", word.end);
  bool comma_after = next != std::string_view::npos && bytes[next] == ',';
  if (comma_after) out.end = static_cast<std::uint32_t>(next) + 1;
  std::uint32_t begin = word.begin;
  while (begin > 0 && is_space(bytes[begin - 1])) --begin;
  bool own_line = bytes.substr(begin, word.begin - begin).find('\n') != std::string_view::npos;
  if (own_line) {
    if (comma_after || begin == 0 || bytes[begin - 1] != ',') {
      // The line goes, unless something else stands on it.
      std::size_t end = bytes.find_first_not_of(" \t\r", out.end);
      if (end == std::string_view::npos || bytes[end] == '\n' || bytes[end] == ')' || bytes[end] == ']')
        out.begin = static_cast<std::uint32_t>(bytes.rfind('\n', word.begin));
      if (out.begin > 0 && out.begin < word.begin && bytes[out.begin - 1] == '\r') --out.begin;
      return out;
    }
    out.begin = begin - 1;  // the last one without a comma: the one before it loses its own
    return out;
  }
  if (comma_after) {
    while (out.end < bytes.size() && (bytes[out.end] == ' ' || bytes[out.end] == '\t')) ++out.end;
  } else if (begin > 0 && bytes[begin - 1] == ',') {
    out.begin = begin - 1;
  }
  return out;
}

namespace {

// The name inside an expression that brought a part of a text, and what it brought.
struct Selector {
  Span span;
  std::string value;
};

// Whether an expression is a whole argument, element or assigned value, so that it needs no brackets of its
// own.
bool stands_alone(const Syntax& syntax, Span expression) {
  Enclosing place = enclosing(syntax, expression);
  if (place.argument) return place.argument->value->span == expression;
  return place.statement && place.statement->value && place.statement->value->span == expression;
}

std::vector<Selector> selectors_in(const Syntax& syntax, const Passage& outer, std::size_t level,
                                   const std::vector<Piece>& pieces) {
  std::vector<Selector> out;
  for (const Piece& piece : pieces) {
    for (std::size_t i = level + 1; i < piece.via.size(); ++i) {
      Passage inner = piece.via[i];
      if (inner.file != outer.file || !outer.span.holds(inner.span)) continue;
      const Node* name = node_at(syntax, inner.span);
      if (!name || (name->kind != Node::Kind::identifier && name->kind != Node::Kind::index)) continue;
      Selector found{inner.span, ""};
      for (const Piece& other : pieces) {
        if (other.via.size() > i && other.via[i] == inner) found.value += other.text;
      }
      bool known = std::any_of(out.begin(), out.end(),
                               [&](const Selector& other) { return other.span == found.span; });
      if (!known) out.push_back(std::move(found));
    }
  }
  return out;
}

}  // namespace

namespace {

// What else comes out of an expression and moves, told apart by the same name: by its value, and where it
// goes.
void add_sibling(const Format& format, const RewriteRequest& need, const Syntax& syntax, const Passage& outer,
                 std::size_t level, const Span& name, const Reference& other,
                 std::map<std::string, std::string>& table) {
  const std::vector<Piece>& pieces = other.text.pieces();
  bool comes_out = !pieces.empty() && !other.is_pattern() && other.targets.size() == 1 &&
                   other.targets[0].kind == Target::Kind::tree && need.moves.moves(other.targets[0].path) &&
                   std::all_of(pieces.begin(), pieces.end(), [&](const Piece& piece) {
                     return piece.via.size() > level && piece.via[level] == outer;
                   });
  if (!comes_out) return;
  std::string path = quoted(format, relative_text(need.new_base, need.moves.map_file(other.targets[0].path)));
  for (const Selector& selector : selectors_in(syntax, outer, level, pieces)) {
    std::string value = quoted(format, selector.value);
    if (selector.span == name && !value.empty() && !path.empty()) table.emplace(value, path);
  }
}

}  // namespace

std::vector<Proposal> by_absolute_path(const Format& format, const RewriteRequest& need) {
  const std::vector<Piece>& pieces = need.reference.text.pieces();
  if (pieces.size() != 1 || !pieces[0].has_origin() || need.wanted.size() != 1) return {};
  std::string written = quoted(format, relative_text(need.new_base, need.wanted[0].path));
  Span string{pieces[0].span.begin - 1, pieces[0].span.end + 1};
  const RelPath& file = need.graph.files.path(pieces[0].file);
  auto bytes = need.tree.read(file);
  if (!bytes || written.empty() || need.wanted[0].path.extension() != ".vala") return {};
  const Node* node = node_at(parse(**bytes), string);
  if (!node) return {};
  return {{{Edit{file, string, "meson.current_source_dir() / " + written}}, ""}};
}

std::vector<Proposal> single_out(const Format& format, const RewriteRequest& need) {
  std::vector<Proposal> by_condition, by_table;
  const auto& pieces = need.reference.text.pieces();
  if (pieces.empty() || need.wanted.size() != 1 || need.reference.is_pattern()) return {};
  std::string written = quoted(format, relative_text(need.new_base, need.wanted[0].path));
  if (written.empty()) return {};
  std::size_t levels = 0;
  while (std::all_of(pieces.begin(), pieces.end(), [&](const Piece& piece) {
    return piece.via.size() > levels && piece.via[levels] == pieces.front().via[levels];
  }))
    ++levels;
  // The innermost expression only: what stands around it may say more than this one text.
  for (std::size_t level = levels; level-- > 0 && by_condition.empty();) {
    Passage outer = pieces.front().via[level];
    const RelPath& file = need.graph.files.path(outer.file);
    auto bytes = need.tree.read(file);
    if (!bytes) continue;
    Syntax syntax = parse(**bytes);
    const Node* whole = node_at(syntax, outer.span);
    if (!whole || has_ternary(*whole) || whole->kind == Node::Kind::identifier) continue;
    for (const Selector& selector : selectors_in(syntax, outer, level, pieces)) {
      std::string name = (*bytes)->substr(selector.span.begin, selector.span.size());
      std::string value = quoted(format, selector.value);
      if (value.empty()) continue;
      std::map<std::string, std::string> table = {{value, written}};
      for (const Reference& other : need.graph.references)
        add_sibling(format, need, syntax, outer, level, selector.span, other, table);
      Span before{outer.span.begin, outer.span.begin}, after{outer.span.end, outer.span.end};
      auto add = [&](std::vector<Proposal>& ways, const std::string& opening, const std::string& closing) {
        ways.push_back({{Edit{file, before, opening, opening}}, ""});
        if (!closing.empty()) ways.back().edits.push_back(Edit{file, after, closing, opening});
      };
      std::string choice = name + " == " + value + " ? " + written + " : ";
      // Conditions cannot be put into each other; a table may tell many apart.
      if (table.size() == 1)
        add(by_condition, stands_alone(syntax, outer.span) ? choice : "(" + choice,
            stands_alone(syntax, outer.span) ? "" : ")");
      std::string entries;
      for (const auto& [key, path] : table) entries += (entries.empty() ? "" : ", ") + key + ": " + path;
      add(by_table, "{" + entries + "}.get(" + name + ", ", ")");
    }
  }
  by_condition.insert(by_condition.end(), by_table.begin(), by_table.end());
  return by_condition;
}

namespace {

// The subproject that a path lies in, by its folder; the root if it lies in none.
RelPath subproject_of(const RelPath& path) {
  for (RelPath up = path; !up.is_root(); up = up.parent()) {
    RelPath holder = up.parent();
    if (!holder.is_root() && holder.name() == "subprojects") return up;
  }
  return {};
}

}  // namespace

std::optional<Spellings::Reason> why_not(const ReferenceGraph& graph, const Reference& reference,
                                         const RelPath& new_base, const RelPath& target) {
  if (reference.role == Role::subfolder) {
    bool by_name = reference.base.anchor == kNoFile;
    if (by_name)
      return Spellings::Reason{"a subproject is looked for by its name in the folder of subprojects",
                               "leave it there; it can be renamed there"};
    if (target.is_within(new_base)) return std::nullopt;
    return Spellings::Reason{"a meson script can name only folders below its own",
                             "choose a place below it, or let another script name the folder first"};
  }
  if (reference.construct.empty() || reference.construct.back().file == kNoFile) return std::nullopt;
  if (subproject_of(graph.files.path(reference.construct.back().file)) == subproject_of(target))
    return std::nullopt;
  return Spellings::Reason{"a meson subproject takes no files from outside and gives none away",
                           "move it to a folder of the same subproject"};
}

std::vector<Proposal> add_search_root(const Format& format, const ReferenceGraph& graph, const Unit& unit,
                                      const RelPath& root, const TreeReader& tree) {
  return add_folder(format, graph, unit, relative_text(graph.files.path(unit.site.file).parent(), root),
                    tree);
}

std::vector<Proposal> add_folder(const Format& format, const ReferenceGraph& graph, const Unit& unit,
                                 const std::string& folder, const TreeReader& tree) {
  std::vector<Proposal> out;
  const RelPath& script = graph.files.path(unit.site.file);
  auto bytes = tree.read(script);
  if (!bytes) return out;
  // Units may be many, and their script long.
  Syntax syntax = parse_expression(**bytes, unit.site.offset);
  const Node* call = call_at(syntax, unit.site.offset);
  if (!call || call->arguments.empty()) return out;
  std::string written = quoted(format, folder);
  if (written.empty()) return out;
  for (const Argument& argument : call->arguments) {
    if (argument.keyword != "include_directories") continue;
    Span value = argument.value->span;
    if (argument.value->kind == Node::Kind::array && !argument.value->arguments.empty()) {
      Span last = argument.value->arguments.back().span;
      out.push_back(
          {{Edit{script, {last.end, last.end}, "," + gap_before(**bytes, last.begin) + written}}, ""});
    } else {
      out.push_back({{Edit{script, {value.begin, value.begin}, "["},
                      Edit{script, {value.end, value.end}, ", " + written + "]"}},
                     ""});
    }
    return out;
  }
  Span last = call->arguments.back().span;
  out.push_back({{Edit{script,
                       {last.end, last.end},
                       "," + gap_before(**bytes, last.begin) + "include_directories: " + written}},
                 ""});
  return out;
}

}  // namespace yc::meson
