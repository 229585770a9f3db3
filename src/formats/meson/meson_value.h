// What expressions of a build script come to.
#pragma once

#include <map>
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "formats/guarded_variables.h"
#include "formats/stamps.h"
#include "model/graph.h"

namespace yc::meson {

struct RootWord {
  TracedText word;
  Place place;
};

// What a target, a dependency or a set of folders brings to those who use it.
struct Bundle {
  std::vector<RootWord> roots;
  std::vector<RelPath> sources;  // compiled by each of them
  std::vector<PathMacro> macros;
  std::vector<std::string> uses;  // names of targets that are linked
  bool open = false;              // it may bring more roots, which evaluation cannot know
};

struct Value;
using Values = std::vector<Value>;
using Entries = std::vector<std::pair<TracedText, Value>>;

// A value with what tells it apart from others.
struct Stamped {
  std::shared_ptr<const Value> value;
  Stamp stamp = 0;
};
using Variables = GuardedVariables<Stamped>;

struct Value {
  enum class Kind : unsigned char {
    unknown,     // evaluation cannot know it
    text,        // text
    number,      // number
    boolean,     // flag
    list,        // items
    dictionary,  // entries
    file,        // text, relative to base
    bundle,      // bundle
    made,        // what a target makes, known by site
    object,      // text says of what kind: "meson", "module fs", "program", ...; items the names of a program
    project,     // variables of a subproject
  };
  Kind kind = Kind::unknown;
  TracedText text;
  Base base;
  long number = 0;
  bool flag = false;
  Site site;
  std::shared_ptr<const Values> items;
  std::shared_ptr<const Entries> entries;
  std::shared_ptr<const Bundle> bundle;
  std::shared_ptr<const Variables> variables;

  static Value of(TracedText text);
  static Value of(long number);
  static Value of(bool flag);
  static Value of(Values items);
  static Value of(Entries entries);
  static Value of(Bundle bundle);
  static Value object(std::string what);

  bool is_object(std::string_view what) const;
  // The text it stands for; a hole if it has none.
  TracedText as_text() const;
  // Itself, or the members of a list, lists within it included.
  Values flat() const;
  // The same value, known to have come through `passage`.
  Value through(const Passage& passage) const;
  const Value* entry(const std::string& key) const;
};

// Whether two values are equal; nothing where that cannot be known.
std::optional<bool> equal(const Value& a, const Value& b);

}  // namespace yc::meson
