// Imports in code within strings: doctests, and what other interpreters are handed.
#include <algorithm>

#include "formats/python/module_spelling.h"
#include "formats/python/python_references.h"

namespace yc::python {

// "from gauges import tide, level" in code within a string, where what the code is handed must keep its name.
std::vector<Way> taken_ways(const Need& need, const PythonResolver& resolver, const std::string& bytes) {
  constexpr std::size_t kLongest = 2000;  // of a statement
  std::uint32_t begin = need.reference.key.front().offset;
  const PythonFacts facts = scan_python(std::string_view(bytes).substr(begin, kLongest));
  if (facts.imports.empty() || facts.imports.front().statement.begin != 0) return {};
  const Import& statement = facts.imports.front();
  const std::string bound = need.reference.instance.str().substr(kTakenInString.size());
  auto one = std::find_if(statement.names.begin(), statement.names.end(),
                          [&](const ImportName& name) { return name.bound == bound; });
  if (one == statement.names.end()) return {};
  const RelPath& file = need.graph.files.path(need.reference.key.front().file);
  auto edit = [&](Span span, std::string text) {
    return Edit{file, {begin + span.begin, begin + span.end}, std::move(text)};
  };
  RelPath old_package = place_of_module(need.reference.targets.front().path).parent();
  RelPath new_place = place_of_module(need.wanted.front().path);
  bool goes_along = need.moves.map_folder(old_package) == new_place.parent();
  std::vector<RelPath> roots;
  if (!need.reference.search.empty()) roots.push_back(need.reference.search.front().folder);
  std::vector<Way> out;
  for (const Manner& manner : manners(need, resolver, false, roots)) {
    auto text = manner.relative ? std::nullopt : spelled(manner, need.new_base, need.wanted.front().path);
    std::size_t dot = text ? text->rfind('.') : std::string::npos;
    if (dot == std::string::npos) continue;
    std::string package = text->substr(0, dot), name = text->substr(dot + 1);
    Way way;
    if (statement.names.size() > 1 && package != statement.module && !goes_along) {
      // The name leaves the list, for a statement of its own.
      bool last = one + 1 == statement.names.end();
      Span gone =
          last ? Span{(one - 1)->whole.end, one->whole.end} : Span{one->whole.begin, (one + 1)->whole.begin};
      std::string alone =
          "from " + package + " import " + (name == bound ? name : name + " as " + bound) + "; ";
      way.edits = {edit(gone, ""), edit({0, 0}, alone)};
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
