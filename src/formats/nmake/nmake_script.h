// What a makefile of nmake says, with all macros put in.
#pragma once

#include <map>
#include <string>
#include <string_view>
#include <vector>

#include "base/traced_text.h"
#include "model/graph.h"
#include "tree/tree_reader.h"

namespace yc::nmake {

// How a path spells its separators.
inline constexpr WritingStyle kSlash = 0, kBackslash = 1;

// A line with those that continue it, without its comment and line end.
struct Line {
  Span span;
  bool is_indented = false;
};
std::vector<Line> lines_of(std::string_view bytes);

struct Word {
  enum class Kind : std::uint8_t {
    target,
    prerequisite,  // of a rule with commands
    dependency,    // of one without: inference finds by the target's name what is compiled
    other
  };
  TracedText text;  // separators are '/'
  Kind kind = Kind::other;
  Site site;  // of the rule, macro or directive
};

// "{..\lib\}.c{obj\}.obj::", or ".c.obj:", whose folder is the one that the makefile is started in.
struct Inference {
  TracedText folder;   // empty for the folder of the start
  std::string ending;  // of the sources: ".c"
  Site site;
};

struct Script {
  std::vector<Word> words;
  std::vector<Inference> inferences;
  std::vector<Word> includes;                // of files that are there, from the folders beside
  std::vector<RelPath> included_from;        // the folder that each was found from
  std::set<std::string> own_commands;        // targets that have commands of their own
  std::set<std::string> objects;             // that words name, without their folders and endings
  bool is_garbled = false;                   // it follows another language
  std::set<std::string, std::less<>> names;  // all identifiers in the makefile and what it includes
};

// `path` must be readable. Work is taken from the budget of `out`; what is beyond it is left out, and said,
// as are macros with too many values.
Script read_script(const TreeReader& tree, const RelPath& path, GraphBuilder& out);

// Lines of the braces' rule: "{folder}.from{folder}.to:"; where the first folder and the header's end stand.
struct InferenceHeader {
  Span folder;  // between the braces; empty for none
  Span made;    // the same of what is made
  std::string from, to;
};
std::optional<InferenceHeader> inference_header(std::string_view bytes, Span line);

}  // namespace yc::nmake
