// What something is tried for.
#pragma once

#include <cstdint>
#include <string>

#include "base/path.h"

namespace yc {

struct Problem {
  enum class Kind : std::uint8_t {
    folders,    // products of the script `path` that need folders
    gain,       // `path` has drifted into the reach of a pattern
    pattern,    // reference `number`, a pattern that takes in something else
    reference,  // reference `number` leads elsewhere
  };
  Kind kind = Kind::reference;
  std::int32_t number = -1;
  RelPath path = {};
  auto operator<=>(const Problem&) const = default;

  static Problem of_reference(std::int32_t number) { return {Kind::reference, number, {}}; }
  static Problem of_pattern(std::int32_t number) { return {Kind::pattern, number, {}}; }
  static Problem of_gain(RelPath path) { return {Kind::gain, -1, std::move(path)}; }
  static Problem of_folders(RelPath script) { return {Kind::folders, -1, std::move(script)}; }
  // For people who read what was tried.
  std::string str() const {
    switch (kind) {
      case Kind::folders:
        return "folders for " + path.str();
      case Kind::gain:
        return "gain " + path.str();
      case Kind::pattern:
        return "pattern " + std::to_string(number);
      case Kind::reference:
        break;
    }
    return "ref " + std::to_string(number);
  }
};

}  // namespace yc
