// Imports in code within strings: doctests, and what other interpreters are handed.
#include <algorithm>

#include "formats/python/module_spelling.h"
#include "formats/python/python_references.h"

namespace yc::python {

namespace {

// "from gauges import tide, level, Mean" where some of the modules leave the package: statements of their own
// for those, before what is left of this one. All of them are told at once, for each of them gets the same
// answer.
std::optional<std::vector<Edit>> parted(const RewriteRequest& need, const PythonResolver& resolver,
                                        const Import& statement, const RelPath& file, std::uint32_t begin,
                                        const Manner& manner) {
  const auto& names = statement.names;
  std::string alone;
  std::vector<bool> leaves(names.size());
  std::vector<Edit> out;
  auto edit = [&](Span span, std::string text) {
    out.push_back({file, {begin + span.begin, begin + span.end}, std::move(text), {}});
  };
  for (std::size_t i = 0; i < names.size(); ++i) {
    auto found = resolver.absolute(file, statement.module + "." + names[i].name);
    auto image = found ? image_of(need, found->files.front()) : std::nullopt;
    auto text = image ? spelled(manner, need.new_base, *image) : std::nullopt;
    std::size_t dot = text ? text->rfind('.') : std::string::npos;
    if (found && dot == std::string::npos) return std::nullopt;
    if (!found) continue;
    std::string last = text->substr(dot + 1);
    std::string called = last == names[i].bound ? last : last + " as " + names[i].bound;
    leaves[i] = text->substr(0, dot) != statement.module;
    if (leaves[i]) {
      alone += (alone.empty() ? "from " : "; from ") + text->substr(0, dot) + " import " + called;
    } else if (last != names[i].name) {
      edit(names[i].whole, called);
    }
  }
  if (alone.empty()) return std::nullopt;
  if (std::all_of(leaves.begin(), leaves.end(), [](bool each) { return each; })) {
    out.clear();
    edit({0, names.back().whole.end}, alone);
    return out;
  }
  edit({0, 0}, alone + "; ");
  for (std::size_t i = 0; i < names.size(); ++i) {
    if (!leaves[i]) continue;
    std::size_t last = i;
    while (last + 1 < names.size() && leaves[last + 1]) ++last;
    edit(last + 1 < names.size() ? Span{names[i].whole.begin, names[last + 1].whole.begin}
                                 : Span{names[i - 1].whole.end, names[last].whole.end},
         "");
    i = last;
  }
  return out;
}

}  // namespace

// "from gauges import tide, level" in code within a string, where what the code is handed must keep its name.
std::vector<Proposal> taken_ways(const RewriteRequest& need, const PythonResolver& resolver,
                                 const std::string& bytes) {
  constexpr std::size_t kLongest = 2000;  // of a statement
  std::uint32_t begin = need.reference.construct.front().offset;
  const PythonFacts facts = scan_python(std::string_view(bytes).substr(begin, kLongest));
  if (facts.imports.empty() || facts.imports.front().statement.begin != 0) return {};
  const Import& statement = facts.imports.front();
  const std::string bound = need.reference.construct_part.tag.substr(kTakenInString.size());
  auto one = std::find_if(statement.names.begin(), statement.names.end(),
                          [&](const ImportName& name) { return name.bound == bound; });
  if (one == statement.names.end()) return {};
  const RelPath& file = need.graph.files.path(need.reference.construct.front().file);
  auto edit = [&](Span span, std::string text) {
    return Edit{file, {begin + span.begin, begin + span.end}, std::move(text)};
  };
  RelPath old_package = place_of_module(need.reference.targets.front().path).parent();
  RelPath new_place = place_of_module(need.wanted.front().path);
  bool goes_along = need.moves.map_folder(old_package) == new_place.parent();
  std::vector<RelPath> roots;
  if (!need.reference.search.empty()) roots.push_back(need.reference.search.front().folder);
  std::vector<Proposal> out;
  for (const Manner& manner : manners(need, resolver, false, roots)) {
    auto text = manner.relative ? std::nullopt : spelled(manner, need.new_base, need.wanted.front().path);
    std::size_t dot = text ? text->rfind('.') : std::string::npos;
    if (dot == std::string::npos) continue;
    std::string package = text->substr(0, dot), name = text->substr(dot + 1);
    Proposal way;
    if (statement.names.size() > 1 && package != statement.module && !goes_along) {
      auto edits = parted(need, resolver, statement, file, begin, manner);
      if (!edits) continue;
      way.edits = std::move(*edits);
    } else {
      if (package != statement.module) way.edits.push_back(edit(statement.source, package));
      if (name != one->name)
        way.edits.push_back(edit(one->whole, name == bound ? name : name + " as " + bound));
    }
    out.push_back(std::move(way));
  }
  return out;
}

}  // namespace yc::python
