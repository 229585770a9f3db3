// Finds the include directives in the bytes of one source, without preprocessing it.
#pragma once

#include <map>
#include <string>
#include <string_view>
#include <vector>

#include "base/span.h"

namespace yc::c_family {

struct Include {
  enum class Form : std::uint8_t {
    quoted,
    angled,
    macro,
    searched  // by an assembler: in the folder that it is started in, and in search roots
  };
  Form form = Form::quoted;
  bool next = false;  // include_next: the search goes on after the folder that held this file
  bool test = false;  // __has_include and __has_embed: asks, does not include
  bool data = false;  // #embed: bytes, not source
  std::string text;   // the path, or the macro's name
  Span span;          // of the path inside its quotes
  std::uint32_t line_start = 0;
};

// A string literal that could be a path: one slash at least, and only characters that paths have.
struct PathLiteral {
  std::string text;
  Span span;  // between the quotes
};

struct IncludeFacts {
  std::vector<Include> includes;
  std::vector<PathLiteral> literals;
  // What a program writes into sources that it makes: "#include \\"net/tide.h\\"" in one of its strings; and
  // where it writes "#include \\"%s\\"", all its strings that are names of headers.
  std::vector<PathLiteral> written;
  // Macros whose body is one path: name -> the path's form, text and place.
  std::map<std::string, Include> path_macros;
};

// Bytes that hold a NUL have no facts.
IncludeFacts scan_includes(std::string_view bytes);

}  // namespace yc::c_family
