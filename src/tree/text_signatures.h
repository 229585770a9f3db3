// Which runs of three bytes stand in files, roughly: enough to say of most files that a name is not in them,
// without looking at their bytes.
#pragma once

#include <cstdint>
#include <string_view>
#include <unordered_map>
#include <vector>

#include "base/path.h"

namespace yc {

class NameSearch;

// Offered by trees that know of some files what is not in them.
class KnownTexts {
 public:
  virtual ~KnownTexts() = default;
  // Whether a file is known to hold none of the names. False where nobody knows.
  virtual bool rules_out(const RelPath& path, const NameSearch& names) const = 0;
};

// A filter by B. H. Bloom ("Space/time trade-offs in hash coding with allowable errors", 1970) for each file,
// with one hash: about a bit for each byte of the file.
class TextSignatures : public KnownTexts {
 public:
  using Signature = std::vector<std::uint64_t>;
  static Signature of(std::string_view text);
  void keep(const RelPath& path, Signature signature) { all_.insert_or_assign(path, std::move(signature)); }
  void forget(const RelPath& path) { all_.erase(path); }
  bool knows(const RelPath& path) const { return all_.contains(path); }
  bool rules_out(const RelPath& path, const NameSearch& names) const override;

 private:
  std::unordered_map<RelPath, Signature> all_;
};

}  // namespace yc
