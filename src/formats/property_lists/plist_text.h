// Property lists in their text form (NeXTSTEP, "Old-Style ASCII Property Lists"): strings with or without
// quotes, arrays in parentheses, dictionaries in braces, comments; every value with the bytes that spell it.
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <utility>
#include <vector>

#include "base/traced_text.h"

namespace yc::plist {

// How a string is written. The numbers are none that commands use.
inline constexpr WritingStyle kBare = 70, kQuoted = 71;

struct Member;

struct Value {
  enum class Kind : std::uint8_t { string, array, dictionary } kind = Kind::string;
  std::string text;  // of a string, with escapes resolved
  Span span;         // of a string, without its quotes; of the others, with their brackets
  bool quoted = false;
  std::vector<Member> entries;  // of a dictionary, in the order of the text
  std::vector<Value> elements;  // of an array

  // The value of a key; null if there is none.
  const Value* get(std::string_view key) const;
  // Its text; empty if there is no string there.
  std::string get_text(std::string_view key) const;

  // Where the kinds that they hold are whole.
  Value();
  ~Value();
  Value(const Value&);
  Value(Value&&) noexcept;
  Value& operator=(const Value&);
  Value& operator=(Value&&) noexcept;
};

struct Member {
  std::string key;
  Value value;
};

// Nothing for a text that is no property list, or is nested too deep.
struct Parsed {
  std::optional<Value> value;
  std::uint32_t stopped = 0;  // where it could not be read on
};
Parsed parse(std::string_view bytes);

// A string as traced text: bytes that escapes wrote are kept apart.
TracedText traced(std::string_view bytes, const Value& value, FileIndex file);
// `text` as it stands at the span of a string of that style.
std::string written(std::string_view text, WritingStyle style);

}  // namespace yc::plist
