// The command invocations of a CMake file, before anything is expanded.
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "base/span.h"

namespace yc::cmake {

struct Argument {
  enum class Kind : std::uint8_t { unquoted, quoted, bracket };
  Kind kind = Kind::unquoted;
  Span span;     // with quotes or brackets
  Span content;  // without
};

struct Command {
  std::string name;  // lower case
  Span span;         // from the name to the closing parenthesis
  std::vector<Argument> arguments;
};

struct Syntax {
  std::vector<Command> commands;
  std::vector<std::pair<std::uint32_t, std::string>> problems;  // offset, message
};

// Never fails: what cannot be parsed is listed as a problem and left out.
Syntax parse(std::string_view bytes);

}  // namespace yc::cmake
