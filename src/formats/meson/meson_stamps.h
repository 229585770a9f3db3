// What tells the values of a project apart.
#pragma once

#include <memory>

#include "formats/meson/meson_value.h"
#include "formats/stamps.h"

namespace yc::meson {

class ValueStamps {
 public:
  Stamped stamped(Value value);

 private:
  Stamp stamp_of(const Value& value);
  Stamps stamps_;
};

}  // namespace yc::meson
