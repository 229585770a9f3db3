// Texts of project files in XML: escapes, both separators of paths, lists between semicolons, and where the
// expressions $(…), %(…) and @(…) stand in them.
#pragma once

#include <functional>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "base/traced_text.h"
#include "tree/tree_reader.h"

namespace yc::msbuild {

// How a text spells its separators. The numbers are none that command lines use.
inline constexpr WritingStyle kSlash = 60, kBackslash = 61;

using Texts = std::vector<TracedText>;  // what a text may mean, by the values its expressions may have
inline constexpr std::size_t kMostTexts = 8;

// The characters of an XML text with its entities and %XX put in; separators are '/' in what it means.
// `habit` is the style of a text that has no separator.
TracedText decoded(std::string_view bytes, Span span, FileIndex file, WritingStyle habit);
// What most paths of a file are spelled with.
WritingStyle habit_of(std::string_view bytes);

// Puts in what `value_of` gives for each expression, known by what stands between its parentheses and by its
// sign; nothing there means a hole.
using ValueOf = std::function<std::optional<Texts>(char sign, std::string_view inner)>;
Texts expanded(const TracedText& text, const ValueOf& value_of);

// The words between separators, without blanks and quotes around them; empty ones are left out.
std::vector<TracedText> list_words(const TracedText& text, std::string_view separators = ";");

// `text` as it stands in a project file; nothing if it cannot be said there.
std::optional<std::string> written(std::string_view text, WritingStyle style);

// Whether a pattern with *, ? and ** takes in a path, letters alike in both cases.
bool takes_in(std::string_view pattern, std::string_view path);

}  // namespace yc::msbuild
