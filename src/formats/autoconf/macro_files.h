// Files of macros that aclocal finds by what they define, in the folders that it is told of (Automake manual,
// "Invoking aclocal").
#pragma once

#include <string_view>
#include <vector>

#include "tree/tree_reader.h"

namespace yc::autoconf {

// Of the *.m4 files of `folders`, those that define what `script`, a configure.ac, uses, or what another one
// of them that is used does.
std::vector<RelPath> used_macro_files(const TreeReader& tree, std::string_view script,
                                      const std::vector<RelPath>& folders);

// The folder that a configure.ac stands for: its own, or the one above if only that has the `configure` that
// is made of it ("autoconf -o ../configure").
RelPath configured_folder(const TreeReader& tree, const RelPath& script);

// The folders that ACLOCAL_AMFLAGS in a Makefile.am adds, relative to that.
std::vector<std::string> aclocal_folders(std::string_view makefile);

}  // namespace yc::autoconf
