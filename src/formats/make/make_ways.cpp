#include "formats/make/make_ways.h"

#include <map>
#include <set>

#include "formats/make/make_syntax.h"

namespace yc::make {

std::vector<Way> further_ways(const Need&) { return {}; }

std::optional<Way> exclude(const ReferenceGraph& graph, const Reference& pattern, const std::string& path, const TreeReader& tree) {
  if (!pattern.feeds_list || pattern.key.empty()) return std::nullopt;
  Site call = pattern.key.back();
  if (call.file == kNoFile) return std::nullopt;
  auto bytes = tree.read(graph.files.path(call.file));
  if (!bytes || call.offset >= (*bytes)->size() || (**bytes)[call.offset] != '$') return std::nullopt;
  std::uint32_t end = static_cast<std::uint32_t>(reference_end(**bytes, call.offset));
  const RelPath& file = graph.files.path(call.file);
  return Way{{Edit{file, {call.offset, call.offset}, "$(filter-out " + path + ","}, Edit{file, {end, end}, ")"}}, ""};
}

std::vector<Way> provide_folders(const RelPath& script, const std::string& bytes, const std::vector<const Reference*>& products) {
  std::map<std::string, std::set<std::string>> by_folder;
  for (const Reference* product : products) {
    std::string name = product->text.text();
    std::size_t cut = name.rfind('/');
    if (cut == std::string::npos) return {};
    by_folder[name.substr(0, cut)].insert(name);
  }
  std::string text = bytes.empty() || bytes.back() == '\n' ? "" : "\n";
  std::string folders;
  for (const auto& [folder, names] : by_folder) {
    text += "\n";
    for (const std::string& name : names) text += (name == *names.begin() ? "" : " ") + name;
    text += ": | " + folder + "\n";
    folders += (folders.empty() ? "" : " ") + folder;
  }
  text += "\n" + folders + ":\n\tmkdir -p $@\n";
  std::uint32_t end = static_cast<std::uint32_t>(bytes.size());
  return {Way{{Edit{script, {end, end}, text}}, ""}};
}

namespace {

const Statement* find_flags(const Block& block, std::string_view name) {
  for (const Statement& statement : block) {
    if (statement.kind == Statement::Kind::assign && statement.name.text() == name && statement.op != "?=") return &statement;
  }
  return nullptr;
}

}  // namespace

std::vector<Way> add_search_root(const ReferenceGraph& graph, const Unit& unit, const RelPath& root,
                                 const TreeReader& tree) {
  std::vector<Way> out;
  const RelPath& makefile = graph.files.path(unit.site.file);
  std::string folder = relative_text(makefile.parent(), root);
  for (auto word = unit.root_words.rbegin(); word != unit.root_words.rend(); ++word) {
    const auto& pieces = word->pieces();
    if (pieces.empty() || !pieces.back().has_origin() || graph.files.path(pieces.back().file) != makefile) continue;
    std::uint32_t end = pieces.back().span.end;
    out.push_back({{Edit{makefile, {end, end}, " -I" + folder}}, ""});
    break;
  }
  auto bytes = tree.read(makefile);
  if (!bytes) return out;
  Syntax syntax = parse(**bytes, 0);
  for (std::string_view name : {"CPPFLAGS", "CFLAGS", "CXXFLAGS"}) {
    const Statement* flags = find_flags(syntax.block, name);
    if (!flags || flags->value.empty()) continue;
    TracedText trimmed = flags->value.trimmed();
    if (trimmed.empty() || !trimmed.pieces().back().has_origin()) continue;
    std::uint32_t end = trimmed.pieces().back().span.end;
    out.push_back({{Edit{makefile, {end, end}, " -I" + folder}}, ""});
  }
  std::uint32_t top = 0;
  for (const Statement& statement : syntax.block) {
    if (statement.kind == Statement::Kind::rule) {
      top = statement.site.offset;
      break;
    }
  }
  out.push_back({{Edit{makefile, {top, top}, "CPPFLAGS += -I" + folder + "\n"}}, ""});
  return out;
}

}  // namespace yc::make
