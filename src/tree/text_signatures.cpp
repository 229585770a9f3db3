#include "tree/text_signatures.h"

#include <algorithm>
#include <bit>

#include "base/name_search.h"

namespace yc {

namespace {

constexpr std::size_t kRun = 3;
constexpr std::size_t kLeast = 1, kMostSigned = 1024;  // words of 64 bits; a file with many runs is read

// Of the run that begins at `at`.
std::uint32_t hash_at(std::string_view text, std::size_t at) {
  auto byte = [&](std::size_t i) {
    return static_cast<std::uint32_t>(static_cast<unsigned char>(text[at + i]));
  };
  return (byte(0) | byte(1) << 8 | byte(2) << 16) * 0x9E3779B1U;
}

}  // namespace

TextSignatures::Signature TextSignatures::of(std::string_view text) {
  std::size_t words = std::bit_ceil(std::clamp(text.size() / 64, kLeast, kMostSigned));
  Signature out(words);
  auto shift = static_cast<unsigned>(32 - std::countr_zero(words * 64));
  for (std::size_t at = 0; at + kRun <= text.size(); ++at) {
    std::uint32_t bit = hash_at(text, at) >> shift;
    out[bit / 64] |= std::uint64_t{1} << (bit % 64);
  }
  return out;
}

std::vector<TextSignatures::Known>::iterator TextSignatures::place_of(const RelPath& path) {
  return std::lower_bound(all_.begin(), all_.end(), path,
                          [](const Known& known, const RelPath& wanted) { return known.path < wanted; });
}

TextSignatures::Column TextSignatures::put(const Signature& signature) {
  auto size_class = static_cast<std::uint32_t>(std::countr_zero(signature.size()));
  Class& here = classes_[size_class];
  if (here.free.empty()) {
    auto first = static_cast<std::uint32_t>(here.blocks.size() * kAcross);
    here.blocks.emplace_back(signature.size() * 64);
    for (std::uint32_t i = kAcross; i > 0; --i) here.free.push_back(first + i - 1);
  }
  std::uint32_t number = here.free.back();
  here.free.pop_back();
  std::vector<std::uint64_t>& block = here.blocks[number / kAcross];
  for (std::size_t word = 0; word < signature.size(); ++word) {
    for (std::uint64_t left = signature[word]; left != 0; left &= left - 1)
      block[word * 64 + static_cast<std::size_t>(std::countr_zero(left))] |= std::uint64_t{1}
                                                                             << number % kAcross;
  }
  return {size_class, number};
}

void TextSignatures::take_out(const Column& column) {
  Class& here = classes_[column.size_class];
  for (std::uint64_t& word : here.blocks[column.number / kAcross])
    word &= ~(std::uint64_t{1} << column.number % kAcross);
  here.free.push_back(column.number);
}

void TextSignatures::keep(const RelPath& path, const Signature& signature) {
  forget(path);
  all_.insert(place_of(path), Known{path, put(signature)});
}

void TextSignatures::keep_all(std::vector<std::pair<RelPath, Signature>> fresh) {
  auto middle = static_cast<std::ptrdiff_t>(all_.size());
  for (auto& [path, signature] : fresh) all_.push_back({std::move(path), put(signature)});
  std::inplace_merge(all_.begin(), all_.begin() + middle, all_.end(),
                     [](const Known& a, const Known& b) { return a.path < b.path; });
}

void TextSignatures::forget(const RelPath& path) {
  auto at = place_of(path);
  if (at == all_.end() || at->path != path) return;
  take_out(at->column);
  all_.erase(at);
}

std::vector<RelPath> TextSignatures::unknown(const std::vector<RelPath>& files) const {
  std::vector<RelPath> out;
  auto at = all_.begin();
  for (const RelPath& path : files) {
    while (at != all_.end() && at->path < path) ++at;
    if (at == all_.end() || at->path != path) out.push_back(path);
  }
  return out;
}

std::vector<char> TextSignatures::ruled_out(const std::vector<RelPath>& files,
                                            const NameSearch& names) const {
  // For each block a bit for every column: whether the file may hold one of the names.
  std::array<std::vector<std::uint64_t>, kClasses> may_hold;
  for (std::size_t i = 0; i < kClasses; ++i) {
    auto shift = static_cast<unsigned>(32 - std::countr_zero(std::size_t{64} << i));
    for (const std::vector<std::uint64_t>& block : classes_[i].blocks) {
      std::uint64_t any = 0;
      for (const std::string& name : names.names()) {
        std::uint64_t here = ~std::uint64_t{0};  // also for a name that is shorter than a run
        for (std::size_t at = 0; at + kRun <= name.size() && here != 0; ++at)
          here &= block[hash_at(name, at) >> shift];
        any |= here;
      }
      may_hold[i].push_back(any);
    }
  }
  std::vector<char> out(files.size());
  auto at = all_.begin();
  for (std::size_t i = 0; i < files.size(); ++i) {
    while (at != all_.end() && at->path < files[i]) ++at;
    if (at == all_.end() || at->path != files[i]) continue;
    const Column& column = at->column;
    out[i] = (may_hold[column.size_class][column.number / kAcross] >> column.number % kAcross & 1) == 0;
  }
  return out;
}

}  // namespace yc
