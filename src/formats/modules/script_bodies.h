// Code of a module that is gone through with values that stand elsewhere in it: what a function does for each
// of its calls, what a loop does for each text of a list (ECMA-262, "Function Definitions", "for-in and
// for-of").
#pragma once

#include <map>
#include <string>
#include <string_view>
#include <vector>

#include "formats/modules/script_tokens.h"

namespace yc::modules {

struct ScriptBody {
  std::vector<std::string> parameters;
  bool takes_rest = false;                       // the last parameter stands for all further arguments
  bool is_value = false;                         // what it begins with is what a call gives
  std::size_t begin = 0, end = 0;                // tokens
  std::vector<std::vector<std::size_t>> rounds;  // of a loop: the tokens of the texts, one for each parameter
};

struct ScriptBodies {
  std::map<std::string, ScriptBody, std::less<>> functions;  // declared once, by name
  std::vector<ScriptBody> loops;
};

// function f(name) { … }, const f = (name) => …, for (const name of ["a", "b"]) …, ["a", "b"].forEach(…)
ScriptBodies script_bodies(const ScriptCode& code);

}  // namespace yc::modules
