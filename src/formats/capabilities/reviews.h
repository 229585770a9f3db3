// What only a look at a whole tree shows, whether it moves or not. Only `check` asks for it.
#pragma once

#include <string>
#include <vector>

#include "base/edit.h"
#include "formats/capabilities/consequences.h"

namespace yc {

struct Remark {
  Notice notice;                      // its id is told in docs/checks.md
  std::string meant;                  // the likeliest file that was meant; may be empty
  bool is_note = false;               // worth knowing, and nothing to mend
  std::vector<Edit> mend{};           // that takes it away, where that is plain
  std::string unit = {}, lacks = {};  // the unit that lacks a reference to another one, if that is it
};

class Reviews {
 public:
  virtual ~Reviews() = default;
  virtual std::vector<Remark> review(const TreeView& view) const = 0;
};

}  // namespace yc
