// Path algebra on text alone: no function here looks at a disk.
#pragma once

#include <atomic>
#include <compare>
#include <functional>
#include <optional>
#include <string>
#include <string_view>
#include <utility>
#include <vector>

namespace yc {

// A path from the root of the tree: '/' between components, no "." or "..", no leading or trailing '/'.
// The root itself is the empty path. Bytes are kept as they are (names need not be UTF-8).
//
// Graphs hold each path of a tree many times, and look it up more often still: copies share their text, which
// never changes, and its hash is computed once. Copies may be used by several threads.
class RelPath {
 public:
  RelPath() = default;
  RelPath(const RelPath& other) noexcept : shared_(other.shared_) { hold(); }
  RelPath(RelPath&& other) noexcept : shared_(std::exchange(other.shared_, nullptr)) {}
  RelPath& operator=(const RelPath& other) noexcept {
    RelPath copy(other);
    std::swap(shared_, copy.shared_);
    return *this;
  }
  RelPath& operator=(RelPath&& other) noexcept {
    std::swap(shared_, other.shared_);
    return *this;
  }
  ~RelPath() { let_go(); }
  // Takes text that is already in normal form.
  static RelPath from_normal(std::string text);
  // Normalises `text` below `base`; nothing when it climbs out of the root or is absolute.
  static std::optional<RelPath> resolve(const RelPath& base, std::string_view text);

  const std::string& str() const { return shared_ ? shared_->text : root_text(); }
  bool is_root() const { return !shared_; }
  RelPath parent() const;                      // the root's parent is the root
  RelPath ancestor(std::size_t levels) const;  // its parent's parent's … parent; itself for none
  std::string_view name() const&;              // last component
  std::string_view extension() const&;         // of the name, with its dot; empty if none
  std::string_view name() && = delete;         // would view a path that is gone
  std::string_view extension() && = delete;
  bool is_within(const RelPath& folder) const;  // equal to it or below it
  // The part below `folder`, which must hold this path; empty if equal.
  std::string_view below(const RelPath& folder) const&;
  std::string_view below(const RelPath& folder) && = delete;
  RelPath operator/(std::string_view below) const;
  std::vector<std::string_view> components() const&;
  std::vector<std::string_view> components() && = delete;

  std::size_t hash() const;

  std::strong_ordering operator<=>(const RelPath& other) const {
    return shared_ == other.shared_ ? std::strong_ordering::equal : str() <=> other.str();
  }
  bool operator==(const RelPath& other) const {
    return shared_ == other.shared_ || (shared_ && other.shared_ && str() == other.str());
  }

 private:
  struct Shared {
    explicit Shared(std::string own) : text(std::move(own)) {}
    const std::string text;
    mutable std::atomic<std::size_t> hash{0};  // 0 until it is asked for
    mutable std::atomic<std::uint32_t> users{1};
  };
  static const std::string& root_text();

  void hold() const noexcept {
    if (shared_) shared_->users.fetch_add(1, std::memory_order_relaxed);
  }
  void let_go() noexcept {
    if (shared_ && shared_->users.fetch_sub(1, std::memory_order_acq_rel) == 1) delete shared_;
  }

  const Shared* shared_ = nullptr;  // null for the root
};

// The ending of a path's last component, with its dot; empty if it has none.
std::string ending_of(std::string_view path);

// The text that leads from `folder` to `path`, with as many "../" as it takes; "." when they are equal.
std::string relative_text(const RelPath& folder, const RelPath& path);

// How a path was written, so that its successor can be written alike.
struct PathStyle {
  std::string lead;  // "./" or empty
  bool trailing_slash = false;
  bool backslashes = false;
  static PathStyle of(std::string_view text);
  std::string apply(std::string path) const;
};

// Absolute texts that evaluation makes for folders of the tree and of its build tree. No real path begins so.
inline constexpr std::string_view kTreeMark = "/\x01tree";
inline constexpr std::string_view kBuildMark = "/\x01made";

enum class Space : unsigned char { tree, build, outside };

// Where a text leads, before anyone looks whether something is there.
struct Place {
  Space space = Space::outside;
  RelPath path;  // for tree and build
  bool operator==(const Place&) const = default;
};
Place place_of(const RelPath& base, std::string_view text, Space base_space = Space::tree);
// Whether a text that leads to the root says so: by climbing there, or as the folder that evaluation made of
// it.
bool climbs_to_root(std::string_view text);
// The absolute text (with its mark) of a folder or file of the tree or the build tree.
std::string marked(Space space, const RelPath& path);

}  // namespace yc

template <>
struct std::hash<yc::RelPath> {
  // Not noexcept, by which the standard library takes it for cheap and hashes again at each look-up.
  std::size_t operator()(const yc::RelPath& path) const { return path.hash(); }
};
