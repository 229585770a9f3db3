// What a Rust source says of modules: those that it declares, what it imports, the paths that it writes, and
// what it lets others see (the Rust Reference, "Items", "Paths", "Visibility and Privacy", "Macros By
// Example"). Names are spans of the source's bytes.
#pragma once

#include <cstdint>
#include <string_view>
#include <vector>

#include "base/span.h"

namespace yc::rust {

// A module of the source, or a block in which something is imported or declared. The first is the source
// itself.
struct Scope {
  std::int32_t parent = -1;
  bool is_module = true;
  Span name;    // of an inline module
  Span folder;  // of an inline module: the text of its path attribute
};

struct Visibility {
  enum class Reach : std::uint8_t { own, parent, path, crate, everywhere };
  Reach reach = Reach::own;
  Span span;               // "pub(in crate::tide)"; empty if it says nothing
  std::vector<Span> path;  // if reach is path
};

// "mod tide;", or "mod tide { … }".
struct ModuleLine {
  Span name;
  Span whole;  // with its attributes and documentation
  Visibility visibility;
  std::int32_t scope = 0;
  std::int32_t inner = -1;       // the scope of an inline module
  std::vector<Span> paths;       // texts of path attributes; those of cfg_attr, too
  bool is_always_there = false;  // paths: one of them holds without a condition
  std::vector<Span> attributes;  // all but documentation and path
  bool in_macro = false;         // given to a macro, as cfg_if!
};

struct Segment {
  Span span;
  std::uint32_t group = 0;  // how many groups it stands in
};

// One name that an import binds.
struct Import {
  std::vector<Segment> segments;
  Span bound;  // the name; empty for "*" and "_"
  bool takes_all = false;
  bool is_global = false;  // "::tide"
  Visibility visibility;
  std::int32_t scope = 0;
  Span item;  // "use … ;" with its attributes
  struct Element {
    Span span;
    Span without;  // what to take away so that it is gone
  };
  std::vector<Element> elements;  // of the groups that it stands in, the innermost first
  std::uint32_t tail = 0;         // where what follows the last segment ends: " as gauge", "::*"
  bool in_macro = false;
  bool is_documentation = false;  // in an example: it binds nothing here
};

// A path of at least two segments in code; or of one, where only a module can be meant.
struct Path {
  enum class Kind : std::uint8_t { code, text, documentation };
  Kind kind = Kind::code;
  bool is_global = false;
  bool in_rules = false;  // in the body of macro_rules!
  std::int32_t scope = 0;
  std::vector<Span> segments;
  bool is_head = false;  // more segments follow, which a rule puts in
  bool is_cut = false;   // others follow, which are not asked for
};

// What a module declares beside modules and imports.
struct Item {
  Span name;
  Visibility visibility;
  std::int32_t scope = 0;
  Span owner;  // the type, of what is a part of one
  bool is_field = false;
};

// "pub(super)", "pub(in …)"
struct NarrowVisibility {
  Visibility visibility;
  std::int32_t scope = 0;
};

struct MacroRules {
  Span name;
  bool is_exported = false;
  std::int32_t scope = 0;
  bool makes_paths = false;  // of names that it is given: "$crate::$module::Level"
};

// What a macro is given: all between the brackets.
struct MacroCall {
  Span name, given;
};

// "extern crate tide_levels as levels;"
struct ExternCrate {
  Span name, bound;
  std::int32_t scope = 0;
};

// "#![deny(missing_docs)]"
struct InnerAttribute {
  Span span;
  std::int32_t scope = 0;
};

struct SourceFacts {
  std::vector<Scope> scopes;
  std::vector<ModuleLine> modules;
  std::vector<Import> imports;
  std::vector<Path> paths;
  std::vector<Item> items;
  std::vector<Item> members;             // fields, and what stands in impl blocks, if not for everybody
  std::vector<NarrowVisibility> narrow;  // of everything
  std::vector<MacroRules> macros;
  std::vector<MacroCall> calls;
  std::vector<ExternCrate> externs;
  std::vector<InnerAttribute> inner_attributes;
  std::vector<Span> documents;      // "#![doc = include_str!("…")]"
  bool has_hidden_modules = false;  // macro_rules! that declare modules
};

// Never fails; what it cannot make out says nothing.
SourceFacts scan_source(std::string_view bytes);

// All names in a source, in order, but for those in comments and strings.
std::vector<std::string_view> names_in(std::string_view bytes);

}  // namespace yc::rust
