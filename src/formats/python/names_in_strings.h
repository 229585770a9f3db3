// Dotted names of modules in strings, and code that a string holds for another interpreter.
#pragma once

#include <functional>
#include <optional>
#include <string>

#include "formats/python/emission.h"

namespace yc::python {

class NamesInStrings {
 public:
  explicit NamesInStrings(Emission& to) : to_(to) {}

  // The string that is the token at `index`.
  void string(std::size_t index);
  // An interactive session in a text, as doctest runs it: what its lines import, and modules they name.
  void session(Span body);

 private:
  const Source& source() const { return to_.source(); }
  void named_by_code(std::string dotted, std::uint32_t at);
  void code(Span body);
  void taken_by_code(const Import& statement, std::uint32_t offset);
  void imported_by_code(const std::string& dotted, Span span);
  void patterns(Span body);
  bool is_imported_by_name(std::size_t index) const;
  bool is_in_module_list(std::size_t index) const;
  bool is_package_beside(std::size_t index) const;
  std::optional<std::string> package_beside(std::size_t index) const;
  static std::optional<Found> longest_found(
      const std::string& dotted, std::size_t& end, bool may_be_one_word, bool may_be_attributes,
      const std::function<std::optional<Found>(const std::string&)>& find);
  std::optional<Found> relative(const std::optional<std::string>& package, std::size_t dots,
                                const std::string& name) const;

  Emission& to_;
};

}  // namespace yc::python
