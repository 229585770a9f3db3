#include "formats/resource_scripts/resource_scripts.h"

#include <algorithm>
#include <cctype>
#include <set>

#include "base/utf16.h"
#include "formats/capabilities/members.h"

namespace yc {

namespace {

// How the separators of a path are spelled: "a\\b", "a\b" or "a/b"; and whether the file is UTF-16.
constexpr WritingStyle kDoubled = 1, kSingle = 2, kForward = 3, kBareWord = 4, kWide = 8;

bool is_resource_script(const RelPath& path) {
  return path.extension() == ".rc" || path.extension() == ".rc2" || path.extension() == ".RC";
}

class ResourceScriptReader {
 public:
  ResourceScriptReader(const TreeReader& tree, const RelPath& path, std::uint8_t format, GraphBuilder& out,
                       std::string_view bytes, const Utf16Text* wide)
      : tree_(tree),
        self_(format),
        out_(out),
        bytes_(wide ? wide->text : bytes),
        wide_(wide),
        file_(out.files().index(path)),
        folder_(path.parent()) {}

  void run() {
    for (std::size_t at = 0; at < bytes_.size();) {
      std::size_t end = std::min(bytes_.find('\n', at), bytes_.size());
      line(at, end);
      at = end + 1;
    }
  }

 private:
  // NAME TYPE file, or any string that leads to a file.
  void line(std::size_t begin, std::size_t end) {
    std::size_t first = bytes_.find_first_not_of(" \t", begin);
    if (first >= end || bytes_.substr(first, 2) == "//") return;
    // What others include is read with the sources, which are none in UTF-16.
    if (bytes_[first] == '#' && !wide_) return;
    std::size_t words = 0;
    for (std::size_t at = first; at < end;) {
      if (std::isspace(static_cast<unsigned char>(bytes_[at]))) {
        ++at;
      } else if (bytes_[at] == '"') {
        std::size_t close = std::min(bytes_.find('"', at + 1), end);
        quoted(at + 1, close);
        at = close + 1;
        ++words;
      } else {
        std::size_t stop = at;
        while (stop < end && !std::isspace(static_cast<unsigned char>(bytes_[stop])) && bytes_[stop] != '"')
          ++stop;
        if (words == 2 && bytes_.substr(at, stop - at).find('.') != std::string_view::npos) bare(at, stop);
        at = stop;
        ++words;
      }
    }
  }

  void quoted(std::size_t begin, std::size_t end) {
    std::string_view raw = bytes_.substr(begin, end - begin);
    if (raw.find('\\') == std::string_view::npos && !wide_) return;
    bool doubled = raw.find("\\\\") != std::string_view::npos;
    std::string text;
    for (std::size_t i = 0; i < raw.size(); ++i) {
      text += raw[i] == '\\' ? '/' : raw[i];
      if (doubled && raw[i] == '\\' && i + 1 < raw.size() && raw[i + 1] == '\\') ++i;
    }
    refer(text, begin, end,
          doubled                                   ? kDoubled
          : raw.find('/') != std::string_view::npos ? kForward
                                                    : kSingle);
  }

  void bare(std::size_t begin, std::size_t end) {
    std::string text(bytes_.substr(begin, end - begin));
    bool backslashes = text.find('\\') != std::string::npos;
    std::replace(text.begin(), text.end(), '\\', '/');
    refer(text, begin, end, backslashes ? kSingle : kBareWord);
  }

  void refer(const std::string& text, std::size_t begin, std::size_t end, WritingStyle style) {
    Place place = place_of(folder_, text);
    auto found =
        place.space == Space::tree && !place.path.is_root() ? find_any_case(tree_, place.path) : std::nullopt;
    if (!found || !tree_.is_file(*found) || tree_.find(*found)->ignored) return;
    Span span = span_of(begin, end);
    if (wide_) {
      span = {wide_->offsets[begin], wide_->offsets[end]};
      style |= kWide;
    }
    out_.add(Reference::of(Role::source, self_, {{file_, span.begin}}, {folder_, file_, Space::tree},
                           TracedText::literal(text, file_, span, style))
                 .in(ConstructPart::tagged("resource"))
                 .leading_to(*found));
  }

  const TreeReader& tree_;
  std::uint8_t self_;
  GraphBuilder& out_;
  std::string_view bytes_;
  const Utf16Text* wide_;  // if the file is so
  FileIndex file_;
  RelPath folder_;
};

class ResourceScriptsFormat : public Format, public IgnoresCase {
 public:
  std::string_view name() const override { return "resource scripts"; }

  bool claims(const RelPath& path) const override { return is_resource_script(path); }

  void read(const Reading& in) const override {
    in.each([&](const RelPath& path, const Bytes& bytes) {
      auto wide = read_utf16(*bytes);
      if (!wide && is_binary(*bytes)) return false;
      ResourceScriptReader(in.tree, path, in.self, in.out, *bytes, wide ? &*wide : nullptr).run();
      return true;
    });
  }

  std::optional<std::string> write(std::string_view text, WritingStyle style) const override {
    if (style & kWide) {
      auto narrow = write(text, static_cast<WritingStyle>(style & ~kWide));
      return narrow ? to_utf16(*narrow) : std::nullopt;
    }
    bool is_bare = style == kBareWord || style == kSingle;
    if (text.find_first_of("\"\n\r") != std::string_view::npos) return std::nullopt;
    if (is_bare && text.find(' ') != std::string_view::npos) return std::nullopt;
    std::string out;
    for (char c : text)
      out += c != '/' || style == kForward || style == kBareWord ? std::string(1, c)
             : style == kDoubled                                 ? "\\\\"
                                                                 : "\\";
    return out;
  }
};

}  // namespace

std::unique_ptr<Format> resource_scripts_format() {
  return std::make_unique<ResourceScriptsFormat>();
}

}  // namespace yc
