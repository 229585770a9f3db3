// What a C# source says of namespaces (ECMA-334, "Namespaces"): those that it declares, and those whose types
// it uses by a using directive or by a full name.
#pragma once

#include <cstdint>
#include <set>
#include <string>
#include <string_view>
#include <vector>

namespace yc::csharp {

struct Namespaces {
  std::set<std::string> declared, used;
  std::set<std::string>
      types;  // names by which others use it: of types, and of the methods of static classes
  std::set<std::string> words;  // all names in it, without their dots
};
Namespaces namespaces_of(std::string_view bytes);

// A type that stands in no other type.
struct TypeName {
  std::string space,
      name;  // namespace, empty for none; the name with the number of its parameters: "Level`1"
  bool is_partial = false;
  std::uint32_t offset = 0;  // of the name
};
// Nothing for a source with conditional lines: which of them count is not known.
std::vector<TypeName> types_of(std::string_view bytes);

// What only its own assembly may name ("Accessibility levels"): types that are not public, and what is said
// to be internal. Last names alone; what is private is left out, since no other source names it at all.
std::set<std::string> hidden_names(std::string_view bytes);
// Whether it has usings that count for all sources beside it: "global using".
bool has_global_using(std::string_view bytes);

}  // namespace yc::csharp
