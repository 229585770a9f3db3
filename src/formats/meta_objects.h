// What Qt's generators take in by name and place, where CMake runs them: no word of a script names it.
//   moc  a header with meta-objects that lies beside the source of its name (gauge.h or gauge_p.h,
//   gauge.cpp), or is
//        listed among the sources: https://cmake.org/cmake/help/v3.25/prop_tgt/AUTOMOC.html
//   uic  a form that lies beside the source that includes ui_NAME.h, or in a folder that a property names:
//        https://cmake.org/cmake/help/v3.25/prop_tgt/AUTOUIC.html
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "base/edit.h"
#include "tree/moves.h"
#include "tree/tree_reader.h"

namespace yc {

// A header or form that a move takes away from beside the source through which it is found. Both before the
// move.
struct PartedInput {
  RelPath input, source;
  bool is_form = false;
  bool is_included =
      false;  // the source includes what moc makes of the header, so that listing it does not help
};

// In trees of which a CMake script has these generators run.
std::vector<PartedInput> parted_inputs(const TreeReader& before, const MoveSet& moves);

// Edits of "gauge.moc", "moc_gauge.cpp" and "ui_gauge.h" in sources, where what they are made of gets another
// name. `sources` are all that may include them.
std::vector<Edit> renamed_outputs(const TreeReader& before, const std::vector<RelPath>& sources,
                                  const MoveSet& moves);

}  // namespace yc
