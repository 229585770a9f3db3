// Where the values of data files stand, and how they are written. Libraries parse; where they tell places
// only roughly, the places are found from there. Formats: JSON (RFC 8259, with comments), TOML 1.0, YAML 1.1
// as libyaml reads it, XML 1.0, INI files (sections, "key = value", lines that go on), CSV (RFC 4180, also
// with
// ";" or tabs), and lists with a value a line.
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "base/path.h"
#include "base/traced_text.h"

namespace yc::values {

enum class Language : std::uint8_t { json, toml, yaml, xml, ini, csv, lines };

// How a value is written. The numbers are none that other formats use.
enum Style : WritingStyle {
  kJson = 40,
  kTomlBasic,
  kTomlLiteral,
  kYamlPlain,
  kYamlSingle,
  kYamlDouble,
  kXml,
  kBareLine,  // INI files and lists: to the end of the line
  kCsvBare,
  kCsvQuoted,
  kWord,  // between blanks
};

struct Value {
  std::vector<std::string> path;  // keys that lead here; an element of a list adds its index
  Span span;                      // without quotes
  std::string text;               // what it means
  WritingStyle style = 0;
  bool verbatim = true;  // the bytes at `span` are exactly `text`
};

// By its name; nothing for a file of another kind. Lists are known by nothing but a common ending.
std::optional<Language> language_of(const RelPath& path);
// In the order of the text. What cannot be parsed has no values.
std::vector<Value> read(std::string_view bytes, Language language);
// A value as traced text.
TracedText traced(const Value& value, FileIndex file);
// What stands at the span of a value that means `text`; nothing if that style cannot say it.
std::optional<std::string> written(std::string_view text, WritingStyle style);

std::vector<Value> read_toml(std::string_view bytes);
// Values that are true or false.
struct Switch {
  std::vector<std::string> path;  // keys that lead here
  Span span;
  bool is_on = false;
};
std::vector<Switch> read_toml_switches(std::string_view bytes);
std::vector<Value> read_yaml(std::string_view bytes);
std::vector<Value> read_ini(std::string_view bytes);
std::vector<Value> read_csv(std::string_view bytes);
std::vector<Value> read_lines(std::string_view bytes);

}  // namespace yc::values
