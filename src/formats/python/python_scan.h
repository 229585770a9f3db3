// What a Python source imports and names, from its bytes alone. Syntax: The Python Language Reference, 7.11
// ("The import statement"), 4.2 ("Naming and binding").
#pragma once

#include <cstdint>
#include <string>
#include <string_view>
#include <vector>

#include "base/span.h"
#include "formats/python/python_tokens.h"

namespace yc::python {

// One name of an import statement: `a.b as c`.
struct ImportName {
  std::string name;   // "a.b"; of a from-import one name; "*"
  Span span;          // of that
  Span whole;         // with what it is called here
  std::string bound;  // the name that it gets here: "c", "a"
};

struct Import {
  Span statement;
  bool from = false;
  std::size_t level = 0;  // dots before the module
  std::string module;     // of a from-import, without its dots; may be empty
  Span source;            // dots and module
  std::vector<ImportName> names;
  bool own_line = false;  // nothing but blanks stands before it on its line
  bool late = false;      // runs when a function is called, or never but for a type checker
};

// Names joined by dots, where the first is no member of anything: gauges.tide.level
struct Chain {
  std::string text;
  Span span;
};

// A name that gets a value within a function, so that it is none of the module's there.
struct LocalName {
  std::string name;
  Span scope;
  std::size_t value =
      0;  // the token that the only value it gets begins with; 0 if it gets several, or unknown ones
};

// What gives a name of the module its meaning.
struct Binding {
  std::string name;
  std::size_t at = 0;  // a token, or an import statement, by its number
};

// A function of the module that only gives a value back: "def beside(*names): return join(HERE, *names)".
struct Shorthand {
  std::string name;
  std::vector<std::string> parameters;
  bool takes_rest = false;  // the last one takes all arguments that are left
  std::size_t value = 0;    // the token that its value begins with
};

// A function of the module, by its parameters: what is called with a text may be opened in it.
struct FunctionBody {
  std::string name;
  std::vector<std::string> parameters;  // none of them is given another value
  std::size_t begin = 0, end = 0;       // tokens
};

struct PythonFacts {
  std::vector<Token> tokens;
  std::vector<Import> imports;
  std::vector<Chain> chains;
  std::vector<LocalName> locals;
  std::vector<Span> functions;      // that are called some time, not when the module is run
  std::vector<std::string> bound;   // names that the module itself binds, other than by imports; sorted
  std::vector<LocalName> bound_at;  // the same in the order of the text, each from where it is bound
  std::vector<Binding>
      constants;  // names that get a value once, at the top: the token their value begins with
  std::vector<Binding> local_names;  // of `locals`, by their numbers; sorted
  std::vector<Binding> brought;      // names that imports bring: the first statement that does; both sorted
  std::vector<Shorthand> shorthands;
  std::vector<FunctionBody> bodies;
  bool is_script = false;  // has a "__main__" guard or begins with "#!"
};

PythonFacts scan_python(std::string_view bytes);
// The one of a name; null if there is none.
const Binding* find_binding(const std::vector<Binding>& bindings, const std::string& name);

// Whether a text is names joined by dots.
bool is_dotted_name(std::string_view text);
// Whether a text can be the name of a module in an import statement.
bool is_name(std::string_view text);

}  // namespace yc::python
