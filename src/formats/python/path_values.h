// What expressions come to that make paths.
#pragma once

#include <string>
#include <vector>

#include "base/traced_text.h"

namespace yc::python {

struct Value {
  TracedText text;
  bool known = false;    // it is text, perhaps with holes
  bool is_path = false;  // it was joined or taken for a path, so that a name alone means a file or folder
  bool literal = false;  // a string of this file is in it
  std::string name;      // of a function or module that is not text: "os.path.join"
};

// No path has more pieces; what comes to more, as a text that doubles again and again, is unknown.
inline constexpr std::size_t kMostPieces = 60;

// The writing style of a text that must be a name, as Path.with_name() takes it.
inline constexpr WritingStyle kNameAlone = 1;

Value known(TracedText text, bool is_path, bool literal);
// The text, or a hole if it is unknown.
TracedText text_of(const Value& value);
// As os.path.join() and the "/" of pathlib do.
Value join(const std::vector<Value>& parts);
// What a formatted text leaves open becomes holes: "%s", "%(name)s" for the kind "%", "{}" for "{".
TracedText with_holes(const TracedText& text, const std::string& kind);
// As os.path.dirname() and .parent do.
Value parent_of(Value value);
// Whether a function takes a package and a path in it (importlib.resources, pkgutil, pkg_resources).
bool is_package_data(const std::string& function);

}  // namespace yc::python
