// Files that say something about paths, a pattern a line: .gitignore and .gitattributes (gitignore(5),
// gitattributes(5)), the paths in .gitmodules (gitmodules(5)), owners files, sections of .editorconfig
// (editorconfig.org), the lists of a translation (POTFILES) and of a packager (debhelper(7)), and options of
// a compiler (compile_flags.txt). A pattern with a slash is anchored to a folder and follows what it names;
// one without matches names anywhere and stays.
#pragma once

#include <memory>

#include "formats/format.h"

namespace yc {

std::unique_ptr<Format> path_lists_format();

}  // namespace yc
