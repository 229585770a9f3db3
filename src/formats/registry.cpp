#include "formats/c_family/c_family.h"
#include "formats/cmake/cmake.h"
#include "formats/format.h"
#include "formats/make/make.h"

namespace yc {

const std::vector<std::unique_ptr<Format>>& formats() {
  static const auto all = [] {
    std::vector<std::unique_ptr<Format>> list;
    list.push_back(make_format());
    list.push_back(cmake_format());
    list.push_back(cmake_presets_format());
    list.push_back(c_family_format());  // after everything that gives contexts
    return list;
  }();
  return all;
}

const Format& format_at(std::uint8_t index) { return *formats()[index]; }

std::vector<Way> Format::further_ways(const Need&) const { return {}; }

std::optional<Way> Format::exclude(const ReferenceGraph&, const Reference&, const std::string&, const TreeReader&) const {
  return std::nullopt;
}

std::vector<Way> Format::provide_folders(const RelPath&, const std::string&, const std::vector<const Reference*>&) const {
  return {};
}

std::vector<Way> Format::add_search_root(const ReferenceGraph&, const Unit&, const RelPath&, const TreeReader&) const {
  return {};
}

ReferenceGraph read_graph(const TreeReader& tree, FactsCache& cache) {
  GraphBuilder builder;
  for (std::size_t i = 0; i < formats().size(); ++i) {
    formats()[i]->read(tree, cache, static_cast<std::uint8_t>(i), builder);
  }
  return builder.finish();
}

}  // namespace yc
