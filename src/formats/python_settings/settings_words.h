// What settings of Python projects hold: which files are such, their keys, the words of their values.
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "base/path.h"
#include "formats/values/values.h"

namespace yc::python_settings {

bool is_settings(const RelPath& path);
// What a settings file says; of setup.py, what its call of setup() does.
std::vector<values::Value> values_of(const RelPath& path, std::string_view bytes);

// In small letters, with underscores.
std::string normal_key(std::string key);
// The keys that lead to a value, outermost first: "tool", "pytest" of [tool:pytest].
std::vector<std::string> keys_of(const values::Value& value);
const std::string& last_of(const std::vector<std::string>& keys);
bool has(const std::vector<std::string>& keys, std::string_view key);

// A part of a value: "main = pole.app:main" holds a dotted name, "src tests" two words.
struct Word {
  std::string text;
  std::size_t begin = 0;  // in the value's text
  std::string key;        // before an equals sign in it
  bool has_key = false;
};

// `in_program`: the value is an argument in a program, where keys are said in strings.
std::vector<Word> words_of(const values::Value& value, const std::vector<std::string>& keys, bool in_program);
// Whether a value there is a folder that modules are looked up in.
bool is_root_key(const std::vector<std::string>& keys, const Word& word);
// Whether a value there is a dotted name of a module.
bool is_dotted_key(const std::vector<std::string>& keys);

}  // namespace yc::python_settings
