// Where the values of an XML text stand (XML 1.0). pugixml parses; it tells where elements and texts begin,
// and the attributes are found from there.
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "base/traced_text.h"

namespace yc::xml {

struct Attribute {
  std::string name;
  std::string value;
  Span span;  // between the quotes
};

struct Element {
  std::string name;
  std::string parent;            // its name
  std::vector<Attribute> outer;  // attributes of the parent
  std::uint32_t name_end = 0;    // just behind the name, where another attribute may be put
  std::uint32_t begin = 0;       // of the name
  std::vector<Attribute> attributes;
  std::string text;  // that it holds directly, blanks at both ends taken off
  Span text_span;
  std::int32_t up = -1;  // the parent among all elements; -1 for the root

  const Attribute* attribute(std::string_view wanted) const;
};

// All elements in the order of the text, or nothing if it is not well-formed UTF-8 XML.
std::optional<std::vector<Element>> elements(std::string_view bytes);

// From an element's '<' to behind its end tag.
Span extent(std::string_view bytes, const Element& element);

// A value as traced text; what entities spell cannot be edited and has no origin.
TracedText traced(std::string_view bytes, Span span, FileIndex file);

// `text` as it stands in an attribute or between tags.
std::string escaped(std::string_view text);

}  // namespace yc::xml
