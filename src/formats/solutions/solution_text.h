// The text form of solutions ("Solution (.sln) file", Visual Studio documentation): which bytes name what.
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "base/span.h"

namespace yc::solutions {

struct Entry {
  std::string type, name, path, identifier;  // identifiers with their braces, in upper case
  Span line;                                 // from "Project(" to behind "EndProject" and its line end
  Span name_span, path_span;
  bool is_folder() const;  // a virtual one
};

struct Named {
  std::string text;
  Span span;
};

struct Solution {
  std::vector<Entry> entries;
  std::vector<Named> files;  // solution items, and shared items that projects import
  struct Nesting {
    std::string child, parent;  // identifiers
    Span line, parent_span;
  };
  std::vector<Nesting> nestings;
  std::uint32_t nestings_end = 0;  // where another one may be put; 0 if there is no such section
  std::uint32_t entries_end = 0;   // behind the last entry
};

Solution read_solution(std::string_view bytes);

}  // namespace yc::solutions
