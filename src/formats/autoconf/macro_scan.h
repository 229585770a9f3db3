// The macro calls of a configure.ac, by M4's rules as Autoconf sets them: [quotes], NAME(arguments), dnl.
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "base/span.h"

namespace yc::autoconf {

struct Word {
  std::string text;
  Span span;
};

struct MacroCall {
  std::string name;
  std::uint32_t begin = 0;
  // Of each argument its words, quotes taken off.
  std::vector<std::vector<Word>> arguments;
};

struct Facts {
  std::vector<MacroCall> calls;  // those inside arguments too
  std::vector<Word> words;       // that look like paths, outside of comments
  std::vector<Word> folders;     // behind which a variable stands for the rest: "make/$i"
};

// Never fails; what is not closed ends at the end.
Facts scan(std::string_view bytes);

}  // namespace yc::autoconf
