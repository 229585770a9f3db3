// What a C# source says of namespaces (ECMA-334, "Namespaces"): those that it declares, and those whose types
// it uses by a using directive or by a full name.
#pragma once

#include <set>
#include <string>
#include <string_view>

namespace yc::assemblies {

struct Namespaces {
  std::set<std::string> declared, used;
  std::set<std::string>
      types;  // names by which others use it: of types, and of the methods of static classes
  std::set<std::string> words;  // all names in it, without their dots
};
Namespaces namespaces_of(std::string_view bytes);

}  // namespace yc::assemblies
