// Where the strings of a JSON text stand (RFC 8259, with // and /* */ comments allowed). nlohmann-json parses
// but does not tell positions; this finds them beside it and changes nothing.
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "base/traced_text.h"

namespace yc::json {

struct StringValue {
  std::vector<std::string> path;  // keys that lead here; an array adds the index of the element
  Span span;                      // between the quotes
  std::string text;               // with escapes resolved
};

// All string values in the order of the text; keys are none, nor is a string that is the whole text: a path
// is never empty. What is not JSON ends the list early.
std::vector<StringValue> string_values(std::string_view bytes);

// All keys in the order of the text, each with the keys that lead to it.
std::vector<StringValue> string_keys(std::string_view bytes);

// A value of any kind, and the key that it has in an object.
struct Member {
  std::vector<std::string> path;  // of the value itself; empty for the whole text
  Span key;                       // with its quotes; empty in an array
  Span value;                     // with its quotes or brackets
};
// All values in the order of the text, each before those within it.
std::vector<Member> members(std::string_view bytes);

// The value as traced text: bytes that escapes wrote are kept apart, so that the rest can be edited.
TracedText traced(std::string_view bytes, const StringValue& value, FileIndex file);

// `text` as it stands between the quotes of a JSON string; nothing if it is not UTF-8, which JSON must be.
std::optional<std::string> escaped(std::string_view text);

}  // namespace yc::json
