// Makefiles that configure puts together of templates which lie elsewhere, one behind the other:
// "AC_CONFIG_FILES([Makefile:conf/head.in:conf/rules.mk])" (Autoconf manual, "Configuration Files").
#pragma once

#include <optional>
#include <vector>

#include "formats/format.h"

namespace yc::make {

struct Assembled {
  RelPath made;
  RelPath script;               // beside which configure comes to lie
  std::vector<RelPath> inputs;  // in order; those that are there
};
// The makefile that a file is a part of; nothing if it stands for itself, or for a makefile beside it.
std::optional<Assembled> assembled_from(const Reading& in, const RelPath& file);

}  // namespace yc::make
