// Texts that a program glues to a constant: ASSETS "icons/x.png", assets + "icons/x.png",
// path.join(assets, "icons"), `${assets}/x.png`; and the constants themselves. For languages with curly
// braces. Not a parser: what does not look like one of these is passed over.
#pragma once

#include <cstdint>
#include <string>
#include <string_view>
#include <unordered_map>
#include <vector>

#include "base/span.h"

namespace yc::glued_paths {

enum class Language : std::uint8_t { c, csharp, rust, go, java, script };

struct GluePart {
  bool is_name = false;    // of a constant; else a string
  std::string name;        // its last component: "Root" of "Assets.Root"
  Span span;               // of the name, or between the quotes of the string
  bool separated = false;  // whether a separator is put before it
};

// An expression that begins with a constant, or with a folder that something unknown is glued to.
struct Glue {
  std::vector<GluePart> parts;
  bool is_open = false;       // goes on with what only the program knows
  std::string tail;           // what stands behind that, where the text ends
  bool head_is_read = false;  // by another reader, which has the folder that it begins with follow
};

struct PathConstant {
  std::string name;
  std::vector<GluePart> value;
  bool is_glued_to = false;  // in the same file, as a folder
};

// A function that glues its first parameter to a constant.
struct Loader {
  std::string function;
  std::vector<GluePart> folder;  // the constant
  bool separated = false;        // whether a separator is put between the two
  std::size_t head = 0;          // where it is declared
};
// A call of a function whose first argument is a text that could be a path.
struct LoaderCall {
  std::string function;
  Span text;
};

struct GlueFacts {
  std::vector<PathConstant> constants;  // in the order of the text; a name may occur twice
  std::unordered_map<std::string, std::vector<std::size_t>> by_name;  // where each stands among them
  std::vector<Glue> texts;
  std::vector<Loader> loaders;
  std::vector<LoaderCall> calls;
};

// `strings`: the spans between the quotes of strings without escapes, in order. `open`: where those of them
// begin that go on with something unknown, in order.
GlueFacts scan_glue(std::string_view bytes, const std::vector<Span>& strings, Language language,
                    const std::vector<std::uint32_t>& open = {});

}  // namespace yc::glued_paths
