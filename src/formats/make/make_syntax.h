// The statements of a makefile, before anything is expanded.
#pragma once

#include <memory>
#include <string>
#include <string_view>
#include <vector>

#include "base/traced_text.h"
#include "model/reference.h"

namespace yc::make {

struct Statement;
using Block = std::vector<Statement>;

// One side of a conditional. The last one of a conditional may be the `else` without a condition.
struct Branch {
  TracedText condition;  // text after ifeq, ifneq, ifdef, ifndef
  Block block;
};

struct Statement {
  enum class Kind : std::uint8_t { assign, rule, recipe, include, vpath, conditional, exported, bare };
  Kind kind = Kind::bare;
  Site site;
  TracedText name;   // assign: name; rule: targets; include and others: the arguments
  TracedText value;  // assign: value; rule: what follows the colon; recipe: the line without its tab
  std::string op;    // assign: "=", ":=", "+=", "?=", "!="; rule: ":", "::" or "&:"; include: the keyword
  bool is_override = false;
  bool is_export = false;
  std::vector<Branch> branches;
  bool has_else = false;
};

struct Syntax {
  Block block;
  std::vector<std::pair<std::uint32_t, std::string>> problems;  // offset, message
};

// Parses the bytes of a makefile. Never fails: what cannot be parsed is listed as a problem and left out.
// `automake` adds that language's own conditionals (if, else and endif with a name).
Syntax parse(std::string_view bytes, FileIndex file, bool automake = false);
// Parses text that $(eval) makes while a makefile is read; it keeps its trace.
Syntax parse_traced(const TracedText& text, Site site);

// Position after the reference that begins with the '$' at `at` ("$(…)", "${…}" or "$x").
std::size_t reference_end(std::string_view text, std::size_t at);
// First position of one of `wanted` outside of references, or npos.
std::size_t find_outside(std::string_view text, std::string_view wanted, std::size_t from = 0);

// Splits "name op value" of an assignment; false when the text is none.
bool split_assignment(const TracedText& text, Statement& out);

}  // namespace yc::make
