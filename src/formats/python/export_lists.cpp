#include "formats/python/export_lists.h"

#include <algorithm>

namespace yc::python {

namespace {

// "from .sea import level", for the module at `target` as seen from a package's folder or, if it lies
// elsewhere, from the folders that names are looked up in.
std::optional<std::string> import_line(const RewriteRequest& need, const RelPath& target,
                                       const std::string& name) {
  std::optional<std::string> dotted;
  std::string lead;
  if (target.is_within(need.new_base)) {
    dotted = dotted_name(target, need.new_base);
    lead = ".";
  } else {
    PythonResolver resolver(need.tree, need.graph);
    RelPath user = need.graph.files.path(need.reference.construct.front().file);
    for (const PythonResolver::Root& root : resolver.roots(user)) {
      RelPath folder =
          root.folder.is_root() ? root.folder : need.moves.map_folder(root.folder).value_or(root.folder);
      if (!dotted) dotted = dotted_name(target, folder);
    }
  }
  if (!dotted || dotted->empty()) return std::nullopt;
  std::size_t dot = dotted->rfind('.');
  std::string module = dot == std::string::npos ? *dotted : dotted->substr(dot + 1);
  std::string package = lead + (dot == std::string::npos ? "" : dotted->substr(0, dot));
  std::string line = package.empty() ? "import " + module : "from " + package + " import " + module;
  return line + (module == name ? "" : " as " + name);
}

}  // namespace

std::vector<Span> exported_names(std::string_view bytes, const PythonFacts& facts) {
  std::vector<Span> out;
  const std::vector<Token>& tokens = facts.tokens;
  auto text = [&](std::size_t i) {
    return i < tokens.size() ? bytes.substr(tokens[i].span.begin, tokens[i].span.size()) : std::string_view();
  };
  for (std::size_t i = 0; i + 2 < tokens.size(); ++i) {
    bool assigned = tokens[i].kind == Token::Kind::name && text(i) == "__all__" && text(i + 1).ends_with("=");
    if (!assigned) continue;
    // What the lexer takes for two signs may be one.
    std::size_t at = i + 2;
    if (text(at) == "=") ++at;
    if (text(at) != "[" && text(at) != "(") continue;
    for (++at; at < tokens.size() && text(at) != "]" && text(at) != ")"; ++at) {
      if (tokens[at].kind != Token::Kind::string) continue;
      StringShape shape = shape_of(bytes, tokens[at]);
      if (!shape.bytes && !shape.formatted && is_name(bytes.substr(shape.body.begin, shape.body.size())))
        out.push_back(shape.body);
    }
  }
  return out;
}

std::vector<Proposal> export_ways(const RewriteRequest& need) {
  const auto& pieces = need.reference.text.pieces();
  if (pieces.size() != 1 || need.wanted.size() != 1) return {};
  RelPath file = need.graph.files.path(pieces[0].file);
  auto bytes = need.tree.read(file);
  auto line = import_line(need, need.wanted[0].path, need.reference.text.text());
  if (!bytes || !line) return {};
  std::string text = *line + "\n";
  if (!(*bytes)->empty() && (*bytes)->back() != '\n') text.insert(0, "\n");
  std::uint32_t end = static_cast<std::uint32_t>((*bytes)->size());
  // First nothing: an import that brings the name may follow by itself.
  return {{}, {{Edit{file, {end, end}, text, text}}, ""}};
}

}  // namespace yc::python
