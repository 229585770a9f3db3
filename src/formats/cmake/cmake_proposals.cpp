#include "formats/cmake/cmake_proposals.h"

#include <algorithm>
#include <map>

#include "base/joint.h"
#include "formats/capabilities/words.h"
#include "formats/cmake/cmake_evaluation.h"

namespace yc::cmake {

// The blanks before a word if it is the first of its line, else nothing.
std::optional<std::string> indent_of(std::string_view bytes, std::uint32_t at) {
  std::size_t begin = at;
  while (begin > 0 && (bytes[begin - 1] == ' ' || bytes[begin - 1] == '\t')) --begin;
  if (begin == 0 || bytes[begin - 1] != '\n') return std::nullopt;
  bool crlf = begin >= 2 && bytes[begin - 2] == '\r';
  return (crlf ? "\r\n" : "\n") + std::string(bytes.substr(begin, at - begin));
}

namespace {

// The command that puts a text together, or else the one that uses it.
struct Home {
  FileIndex file = kNoFile;
  std::uint32_t offset = 0;
  bool is_joint = false;
  bool operator==(const Home&) const = default;
};

Home home_of(const Reference& reference) {
  if (auto joint = joint_of(reference.text)) return {joint->file, joint->whole.begin, true};
  if (reference.construct.empty()) return {};
  return {reference.construct.back().file, reference.construct.back().offset, false};
}

std::optional<Command> command_at(std::string_view bytes, const Home& home) {
  for (Command& command : parse(bytes).commands) {
    bool found = home.is_joint ? command.span.begin < home.offset && home.offset < command.span.end
                               : command.span.begin == home.offset;
    if (found) return std::move(command);
  }
  return std::nullopt;
}

// A variable that gives a part of an argument, and what it holds where the reference was met.
struct Given {
  std::string name;
  std::string value;
};

// The variables that are written in `argument` and bring parts of `text`, outermost expansions only.
std::vector<Given> given_parts(std::string_view bytes, const TracedText& text, const Argument& argument,
                               FileIndex file) {
  std::vector<std::pair<Span, Given>> found;
  for (const Piece& piece : text.pieces()) {
    for (const Passage& passage : piece.via) {
      if (passage.file != file || !argument.content.holds(passage.span) || passage.span.size() < 4) continue;
      std::string name(bytes.substr(passage.span.begin + 2, passage.span.size() - 3));
      if (name.find_first_of("${}<>") != std::string::npos || piece.nature != Piece::Nature::literal) break;
      if (!found.empty() && found.back().first == passage.span) {
        found.back().second.value += piece.text;
      } else {
        found.push_back({passage.span, {name, piece.text}});
      }
      break;
    }
  }
  std::vector<Given> out;
  for (auto& [span, given] : found) out.push_back(std::move(given));
  return out;
}

}  // namespace

namespace {

// Which variable tells the one file of many apart that a command names, and what it is named as after the
// move.
struct Branch {
  std::string variable, value, respelled;
};

// One for each variable that a part of the argument comes from.
std::vector<Branch> branches_of(const Format& format, const Reference& reference, const std::string& bytes,
                                const Argument& argument, const RelPath& new_base, const RelPath& target) {
  std::vector<Branch> out;
  FileIndex file = home_of(reference).file;
  auto path = format.write(relative_text(new_base, target),
                           argument.kind == Argument::Kind::quoted ? kQuoted : kUnquoted);
  if (!path || reference.text.pieces().empty()) return out;
  bool absolute = reference.text.pieces().front().nature == Piece::Nature::tree_folder;
  for (const Given& part : given_parts(bytes, reference.text, argument, file)) {
    auto value = format.write(part.value, kQuoted);
    if (!value || value->find(';') != std::string::npos) continue;
    out.push_back({part.name, *value, (absolute ? "${CMAKE_CURRENT_SOURCE_DIR}/" : "") + *path});
  }
  return out;
}

}  // namespace

std::vector<Proposal> find_module(const Format& format, const RewriteRequest& need) {
  std::vector<Proposal> out;
  const Reference& reference = need.reference;
  bool is_module = reference.role == Role::script && reference.base.anchor == kNoFile &&
                   !reference.construct.empty() && reference.construct.back().file != kNoFile &&
                   need.wanted.size() == 1;
  if (!is_module) return out;
  const RelPath& target = need.wanted[0].path;
  const RelPath& script = need.graph.files.path(reference.construct.back().file);
  auto bytes = need.tree.read(script);
  auto command = bytes ? command_at(**bytes, {0, reference.construct.back().offset, false}) : std::nullopt;
  if (!command || command->arguments.empty()) return out;
  RelPath folder = need.moves.map_file(script).parent();
  if (command->name == "include") {
    const Argument& name = command->arguments[0];
    WritingStyle style = name.kind == Argument::Kind::quoted ? kQuoted : kUnquoted;
    auto path = format.write(relative_text(folder, target), style);
    for (const char* base : {"", "${CMAKE_CURRENT_LIST_DIR}/"}) {
      if (path) out.push_back({{Edit{script, name.content, base + *path}}, ""});
    }
  }
  // One more folder beside the one in which it was found.
  for (const Reference& root : need.graph.references) {
    bool is_root = root.role == Role::search_root && root.construct == reference.construct &&
                   root.targets.size() == 1 && root.targets[0].path == reference.base.folder &&
                   !root.text.pieces().empty();
    if (!is_root || !root.text.pieces().back().has_origin()) continue;
    const Piece& last = root.text.pieces().back();
    const RelPath& file = need.graph.files.path(last.file);
    auto text = need.tree.read(file);
    auto path = format.write(relative_text(need.moves.map_file(file).parent(), target.parent()), kUnquoted);
    if (!text || !path) continue;
    Span word = offer<ListWords>(format)->word_at(**text, last.span);
    out.push_back({{Edit{file, {word.end, word.end}, " ${CMAKE_CURRENT_SOURCE_DIR}/" + *path}}, ""});
  }
  return out;
}

// The command is put into a conditional with a side for each file that it names in a round of its loop and
// that moves, so that all of them come to the same edit.
std::vector<Proposal> single_out(const Format& format, const RewriteRequest& need) {
  std::vector<Proposal> out;
  if (need.wanted.empty() || need.reference.is_pattern()) return out;
  Home home = home_of(need.reference);
  if (home.file == kNoFile) return out;
  const RelPath& file = need.graph.files.path(home.file);
  auto bytes = need.tree.read(file);
  if (!bytes) return out;
  auto command = command_at(**bytes, home);
  bool keeps = command && (command->name == "set" || command->name == "list");
  if (!command || (keeps && !home.is_joint)) return out;
  std::string text = (*bytes)->substr(command->span.begin, command->span.size());
  std::string indent = indent_of(**bytes, command->span.begin).value_or("\n");
  for (const Argument& argument : command->arguments) {
    for (const Branch& own :
         branches_of(format, need.reference, **bytes, argument, need.new_base, need.wanted.front().path)) {
      std::map<std::string, std::string> sides = {{own.value, own.respelled}};
      for (const Reference& other : need.graph.references) {
        bool moves = other.targets.size() == 1 && !other.is_pattern() &&
                     other.targets.front().kind == Target::Kind::tree &&
                     need.moves.moves(other.targets.front().path);
        if (!moves || !(home_of(other) == home)) continue;
        RelPath target = need.moves.map_file(other.targets.front().path);
        for (const Branch& side : branches_of(format, other, **bytes, argument, need.new_base, target)) {
          if (side.variable == own.variable) sides.emplace(side.value, side.respelled);
        }
      }
      std::string head = text.substr(0, argument.content.begin - command->span.begin),
                  tail = text.substr(argument.content.end - command->span.begin), before;
      for (const auto& [value, respelled] : sides) {
        before += std::string(before.empty() ? "if" : "elseif") + "(\"${" + own.variable + "}\" STREQUAL \"" +
                  value + "\")" + indent + "  " + head + respelled + tail + indent;
      }
      before += "else()" + indent + "  ";
      out.push_back({{Edit{file, {command->span.begin, command->span.begin}, before},
                      Edit{file, {command->span.end, command->span.end}, indent + "endif()"}},
                     ""});
    }
  }
  return out;
}

std::optional<Proposal> exclude(const Format& format, const ReferenceGraph& graph, const Reference& pattern,
                                const std::string& path, const TreeReader& tree) {
  Site site = pattern.construct.back();
  const RelPath& file = graph.files.path(site.file);
  auto bytes = tree.read(file);
  if (!bytes) return std::nullopt;
  for (const Command& command : parse(**bytes).commands) {
    if (command.span.begin != site.offset || command.name != "file" || command.arguments.size() < 2) continue;
    Span name = command.arguments[1].content;
    auto written = format.write(path, kUnquoted);
    if (!written) return std::nullopt;
    std::string indent = indent_of(**bytes, command.span.begin).value_or("\n");
    std::string line = indent + "list(REMOVE_ITEM " + (*bytes)->substr(name.begin, name.size()) +
                       " ${CMAKE_CURRENT_SOURCE_DIR}/" + *written + ")";
    return Proposal{{Edit{file, {command.span.end, command.span.end}, line}}, ""};
  }
  return std::nullopt;
}

std::vector<Proposal> add_search_root(const Format& format, const ReferenceGraph& graph, const Unit& unit,
                                      const RelPath& root, const TreeReader& tree) {
  std::vector<Proposal> out;
  const RelPath& script = graph.files.path(unit.site.file);
  for (auto word = unit.root_words.rbegin(); word != unit.root_words.rend(); ++word) {
    Passage origin = word->first_origin();
    const Piece* last = nullptr;
    for (const Piece& piece : word->pieces()) {
      if (piece.has_origin() && piece.via.empty()) last = &piece;
    }
    if (!last || origin.file == kNoFile) continue;
    const RelPath& file = graph.files.path(last->file);
    auto bytes = tree.read(file);
    if (!bytes) continue;
    const ListWords& words = *offer<ListWords>(format);
    Span span = words.word_at(**bytes, last->span);
    // What is given to those who use an installed target too must not name the source tree.
    std::string_view raw = std::string_view(**bytes).substr(span.begin, span.size());
    if (raw.starts_with('"')) raw.remove_prefix(1);
    if (raw.starts_with("$<INSTALL_INTERFACE:")) continue;
    std::string folder = relative_text(file.parent(), root);
    auto text = words.beside(**bytes, span, folder);
    if (!text) continue;
    if (raw.starts_with("$<BUILD_")) {
      std::size_t at = text->rfind(folder);
      if (at == std::string::npos) continue;
      text->replace(at, folder.size(), "$<BUILD_INTERFACE:${CMAKE_CURRENT_SOURCE_DIR}/" + folder + ">");
    }
    out.push_back({{Edit{file, {span.end, span.end}, *text}}, ""});
    break;
  }
  auto bytes = tree.read(script);
  if (!bytes) return out;
  for (const Command& command : parse(**bytes).commands) {
    if (command.span.begin != unit.site.offset || command.arguments.empty()) continue;
    Span name = command.arguments[0].span;
    auto folder = format.write(relative_text(script.parent(), root), kUnquoted);
    if (!folder) break;
    std::string line = indent_of(**bytes, command.span.begin).value_or("\n") + "target_include_directories(" +
                       (*bytes)->substr(name.begin, name.size()) + " PRIVATE " + *folder + ")";
    out.push_back({{Edit{script, {command.span.end, command.span.end}, line}}, ""});
  }
  return out;
}

}  // namespace yc::cmake
