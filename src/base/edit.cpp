#include "base/edit.h"

#include <algorithm>

namespace yc {

bool FileEdits::add(Span span, const std::string& text, const std::string& pair) {
  Item item{span, text, pair};
  auto at = std::lower_bound(edits_.begin(), edits_.end(), item);
  if (at != edits_.end() && *at == item) return true;
  auto clash = [&](const Item& other) {
    // Two insertions at one place have no order of their own, so they count as a clash unless equal.
    if (other.span == span) return span.size() > 0 || other.pair.empty() || pair.empty();
    if (span.size() == 0 || other.span.size() == 0) return false;
    return other.span.begin < span.end && span.begin < other.span.end;
  };
  if (at != edits_.end() && clash(*at)) return false;
  if (at != edits_.begin() && clash(*std::prev(at))) return false;
  auto strictly_inside = [](const Span& outer, std::uint32_t point) {
    return outer.begin < point && point < outer.end;
  };
  // Among insertions at places of their own, what overlaps lies right beside: the nearest replacement before,
  // and whatever begins before this one ends.
  for (auto other = at; other != edits_.begin();) {
    --other;
    if (other->span.size() == 0) {
      if (strictly_inside(span, other->span.begin)) return false;
      continue;
    }
    if (other->span.end > span.begin && clash(*other)) return false;
    if (span.size() == 0 && strictly_inside(other->span, span.begin)) return false;
    break;
  }
  for (auto other = at; other != edits_.end() && other->span.begin < span.end; ++other) {
    if (clash(*other) || (other->span.size() == 0 && strictly_inside(span, other->span.begin))) return false;
  }
  put(at, std::move(item));
  return true;
}

namespace {

std::int64_t growth(const FileEdits::Item& edit) {
  return static_cast<std::int64_t>(edit.text.size()) - edit.span.size();
}

}  // namespace

void FileEdits::put(std::vector<Item>::iterator at, Item item) {
  auto behind = grown_.begin() + (at - edits_.begin());
  std::int64_t by = growth(item);
  behind = grown_.insert(behind, *behind);
  for (auto later = behind + 1; later != grown_.end(); ++later) *later += by;
  edits_.insert(at, std::move(item));
}

bool FileEdits::has(Span span, const std::string& text, const std::string& pair) const {
  return std::binary_search(edits_.begin(), edits_.end(), Item{span, text, pair});
}

void FileEdits::remove(Span span, const std::string& text, const std::string& pair) {
  Item item{span, text, pair};
  auto at = std::lower_bound(edits_.begin(), edits_.end(), item);
  if (at == edits_.end() || *at != item) return;
  auto behind = grown_.erase(grown_.begin() + (at - edits_.begin()));
  for (; behind != grown_.end(); ++behind) *behind -= growth(item);
  edits_.erase(at);
}

std::string FileEdits::apply(std::string_view old_bytes) const {
  std::string out;
  std::size_t at = 0;
  for (const Item& edit : edits_) {
    out += old_bytes.substr(at, edit.span.begin - at);
    out += edit.text;
    at = edit.span.end;
  }
  out += old_bytes.substr(std::min(at, old_bytes.size()));
  return out;
}

std::uint32_t FileEdits::map(std::uint32_t offset) const {
  auto next = std::partition_point(edits_.begin(), edits_.end(), [&](const Item& edit) {
    return edit.span.begin < offset || (edit.span.begin == offset && edit.span.size() == 0);
  });
  return static_cast<std::uint32_t>(offset + grown_[static_cast<std::size_t>(next - edits_.begin())]);
}

// How many edits begin at a byte of the new text or before it.
std::size_t FileEdits::behind(std::uint32_t new_offset) const {
  std::size_t low = 0, high = edits_.size();
  while (low < high) {
    std::size_t middle = (low + high) / 2;
    bool begins = edits_[middle].span.begin + grown_[middle] <= new_offset;
    (begins ? low : high) = begins ? middle + 1 : middle;
  }
  return low;
}

std::optional<std::uint32_t> FileEdits::unmap(std::uint32_t offset) const {
  if (bringer(offset)) return std::nullopt;
  return static_cast<std::uint32_t>(offset - grown_[behind(offset)]);
}

const FileEdits::Item* FileEdits::bringer(std::uint32_t offset) const {
  std::size_t next = behind(offset);
  if (next == 0) return nullptr;
  const Item& edit = edits_[next - 1];
  std::int64_t begin = edit.span.begin + grown_[next - 1];
  return offset < begin + static_cast<std::int64_t>(edit.text.size()) ? &edit : nullptr;
}

std::optional<Edit> edit_between(const RelPath& file, std::string_view before, std::string_view after) {
  if (before == after) return std::nullopt;
  std::size_t most = std::min(before.size(), after.size()), head = 0, tail = 0;
  while (head < most && before[head] == after[head]) ++head;
  while (tail < most - head && before[before.size() - 1 - tail] == after[after.size() - 1 - tail]) ++tail;
  return Edit{file, span_of(head, before.size() - tail),
              std::string(after.substr(head, after.size() - tail - head))};
}

}  // namespace yc
