#include "formats/meson/meson_carver.h"

#include <algorithm>

#include "formats/meson/meson_evaluation.h"
#include "formats/meson/meson_proposals.h"
#include "formats/meson/meson_syntax.h"
#include "words/meson.h"

namespace yc::meson {

namespace {

constexpr const char* kSettings = "!settings";

bool makes_target(const std::string& name) {
  return words::meson::target_functions().contains(name);
}

void note_node(const Node& node, std::string_view bytes, ScriptPart& part) {
  if (node.kind == Node::Kind::identifier) part.uses.insert(node.text);
  if (node.kind == Node::Kind::call) {
    if (makes_target(node.text)) part.uses.insert(kSettings), part.is_list = true;
    if (node.text.starts_with("add_project_") || node.text.starts_with("add_global_") ||
        node.text == "add_languages")
      part.sets.insert(kSettings);
    if (node.text == "project") part.is_fixed = part.is_head = true;
    const Node* first = node.arguments.empty() ? nullptr : node.arguments.front().value.get();
    bool named = first && first->kind == Node::Kind::string;
    std::string name(named ? bytes.substr(first->content.begin, first->content.size()) : std::string_view());
    if (node.text == "set_variable" && named) part.sets.insert(name);
    if (node.text == "get_variable" && named) part.uses.insert(name);
    if (node.text == "subdir" && named) part.enters = name;
  }
  for (const NodePtr& child : node.children) note_node(*child, bytes, part);
  for (const Argument& argument : node.arguments) {
    if (argument.key) note_node(*argument.key, bytes, part);
    note_node(*argument.value, bytes, part);
  }
}

void note_statement(const Statement& statement, std::string_view bytes, ScriptPart& part) {
  if (statement.value) note_node(*statement.value, bytes, part);
  if (!statement.name.empty()) part.sets.insert(statement.name);
  if (statement.kind == Statement::Kind::append) part.uses.insert(statement.name);
  for (const std::string& name : statement.variables) part.sets.insert(name);
  for (const Branch& branch : statement.branches) {
    if (branch.condition) note_node(*branch.condition, bytes, part);
    for (const Statement& inner : branch.body) note_statement(inner, bytes, part);
  }
  for (const Statement& inner : statement.body) note_statement(inner, bytes, part);
}

class MesonCarver : public Carver {
 public:
  explicit MesonCarver(const Format& format) : format_(format) {}

  bool is_script(const RelPath& path) const override { return path.name() == "meson.build"; }
  std::string script_name(std::string_view) const override { return "meson.build"; }
  bool is_relative() const override { return true; }
  bool shares_names() const override { return true; }

  std::vector<ScriptPart> parts(std::string_view bytes) const override {
    std::vector<ScriptPart> out;
    Syntax syntax = parse(bytes);
    for (const Statement& statement : syntax.statements) {
      ScriptPart part;
      note_statement(statement, bytes, part);
      bool is_block = statement.kind == Statement::Kind::branches || statement.kind == Statement::Kind::loop;
      if (statement.kind != Statement::Kind::expression) part.enters.clear();
      part.is_list =
          part.is_list || (statement.value && statement.value->kind == Node::Kind::array) ||
          (statement.value && statement.value->kind == Node::Kind::call && statement.value->text == "files");
      if (is_block) part.is_list = false;
      part.sentence = statement.span;
      part.span = lines_of(bytes, statement.span);
      if (!out.empty() && out.back().span.end > part.span.begin) part.span.begin = out.back().span.end;
      out.push_back(std::move(part));
    }
    return out;
  }

  std::string call(const std::string& folder, const std::string&) const override {
    return "subdir(" + format_.write(folder, kExpression).value_or("''") + ")\n";
  }

  bool is_own_folder(std::string_view expression) const override {
    return expression.find("current_source_dir") != std::string_view::npos;
  }

  std::vector<Edit> keep_build_folder(const RelPath& script, std::string_view bytes, const Span& span,
                                      const std::string& way, bool is_top) const override {
    constexpr std::string_view kCall = "current_build_dir()";
    std::vector<Edit> out;
    for (std::size_t at = span.begin; (at = bytes.find(kCall, at)) < span.end; at += kCall.size()) {
      std::uint32_t begin = static_cast<std::uint32_t>(at),
                    end = static_cast<std::uint32_t>(at + kCall.size());
      if (is_top)
        out.push_back({script, {begin, end}, "project_build_root()"});
      else
        out.push_back({script, {end, end}, " / '" + way + "'"});
    }
    return out;
  }

  // Meson looks in the folder of the script by itself.
  std::vector<Edit> look_above(const ReferenceGraph& graph, const Unit& unit, const TreeReader& tree,
                               const std::string& way) const override {
    std::vector<Proposal> ways = add_folder(format_, graph, unit, way, tree);
    return ways.empty() ? std::vector<Edit>() : std::move(ways.front().edits);
  }

  // The list gets a variable in the place of the words; the folder's script sets it.
  std::optional<ScriptSplit> split(const RelPath& script, std::string_view bytes, const ScriptPart&,
                                   const std::vector<Span>& words, const std::vector<std::string>& paths,
                                   const std::string& folder, const std::string&) const override {
    ScriptSplit out;
    std::string name = folder;
    for (char& c : name) c = std::isalnum(static_cast<unsigned char>(c)) ? c : '_';
    name += "_sources";
    if (std::isdigit(static_cast<unsigned char>(name.front()))) name.insert(0, "_");
    if (bytes.find(name) != std::string_view::npos) return std::nullopt;
    out.text = name + " = files(\n";
    for (std::size_t i = 0; i < words.size(); ++i) {
      Span word = word_at(bytes, words[i]);
      auto gap = i == 0 ? std::optional(word) : without(bytes, word);
      if (!gap) return std::nullopt;
      out.edits.push_back({script, *gap, i == 0 ? name : ""});
      auto written = format_.write(paths[i], kExpression);
      if (!written) return std::nullopt;
      out.text += "  " + *written + ",\n";
    }
    out.text += ")\n";
    out.sets.insert(name);
    return out;
  }

  std::string keeps_apart(std::string_view child, std::string_view) const override {
    return child.find("subdir_done") != std::string_view::npos
               ? "it ends early (subdir_done), for itself alone"
               : "";
  }

 private:
  const Format& format_;
};

}  // namespace

const Carver& carver(const Format& format) {
  static const MesonCarver one(format);
  return one;
}

}  // namespace yc::meson
