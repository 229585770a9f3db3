// Which runs of three bytes stand in files, roughly: enough to say of most files that a name is not in them,
// without looking at their bytes.
#pragma once

#include <array>
#include <cstdint>
#include <string_view>
#include <utility>
#include <vector>

#include "base/path.h"

namespace yc {

class NameSearch;

// Offered by trees that know of some files what is not in them.
class KnownTexts {
 public:
  virtual ~KnownTexts() = default;
  // For each of some files (sorted) whether it is known to hold none of the names: 0 where it may, or where
  // nobody knows.
  virtual std::vector<char> ruled_out(const std::vector<RelPath>& files, const NameSearch& names) const = 0;
};

// A filter by B. H. Bloom ("Space/time trade-offs in hash coding with allowable errors", 1970) for each file,
// with one hash: about a bit for each byte of the file. The filters of 64 files of a size lie across: a word
// holds the same bit of each, so that one look at a word asks all of them.
class TextSignatures : public KnownTexts {
 public:
  using Signature = std::vector<std::uint64_t>;
  static Signature of(std::string_view text);
  void keep(const RelPath& path, const Signature& signature);
  // The same of many, sorted by their paths, none of which is known.
  void keep_all(std::vector<std::pair<RelPath, Signature>> fresh);
  void forget(const RelPath& path);
  // Those of some files (sorted) that are not known; sorted.
  std::vector<RelPath> unknown(const std::vector<RelPath>& files) const;
  std::vector<char> ruled_out(const std::vector<RelPath>& files, const NameSearch& names) const override;

 private:
  static constexpr std::size_t kClasses = 11;  // of filters with 1, 2, 4, … 1024 words
  static constexpr std::size_t kAcross = 64;
  struct Column {
    std::uint32_t size_class = 0, number = 0;
  };
  struct Known {
    RelPath path;
    Column column;
  };
  struct Class {
    std::vector<std::vector<std::uint64_t>> blocks;  // each of 64 columns: a word for every bit of a filter
    std::vector<std::uint32_t> free;                 // columns that nobody has
  };
  std::vector<Known>::iterator place_of(const RelPath& path);
  Column put(const Signature& signature);
  void take_out(const Column& column);

  std::vector<Known> all_;  // sorted by path
  std::array<Class, kClasses> classes_;
};

}  // namespace yc
