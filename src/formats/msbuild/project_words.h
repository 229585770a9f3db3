// Words of lists in project files: where they begin and end, and how one is put beside or taken out.
#pragma once

#include <optional>
#include <string>
#include <string_view>

#include "base/edit.h"
#include "base/path.h"
#include "base/span.h"
#include "base/traced_text.h"
#include "formats/xml/xml_places.h"

namespace yc::msbuild {

// A span with its indent and its line end, if it is alone on its lines.
Span lines_around(std::string_view bytes, Span span);
Span word_at(std::string_view bytes, Span literal);
std::optional<std::string> beside(std::string_view bytes, Span word, std::string_view text);
// The word with its semicolon; if it is all that its item names, the whole item with its line.
std::optional<Span> without(std::string_view bytes, Span word);

// Where words that keep files out of an item's pattern are put: at the end of its list of them, or as an
// attribute of its own. `at` is within the item's start tag.
struct ExclusionPoint {
  std::uint32_t at = 0;
  bool is_list = false;
};
std::optional<ExclusionPoint> exclusion_point(std::string_view bytes, std::uint32_t at);

// Adds a value of an item: as an attribute in a new-style project, as an element within the item in an old
// one.
Edit metadata_beside(const RelPath& project, std::string_view bytes, const xml::Element& item,
                     const std::string& name, const std::string& value, bool is_new_style);

// Where a new group of items is put: before the end tag of the project. With the blanks that its lines begin
// with, and the line ends of the file.
struct InsertPoint {
  std::uint32_t at = 0;
  std::string indent = "  ", line_end = "\n";
};
InsertPoint end_of_project(std::string_view bytes);
// The line "<Type Attribute="…" />" of a group; the text is written already.
std::string item_line(const InsertPoint& place, const std::string& type, const std::string& attribute,
                      const std::string& text, const std::string& more = "");
// A group around such lines.
std::string group_around(const InsertPoint& place, const std::string& lines);

}  // namespace yc::msbuild
