#include "formats/pages/page_scan.h"

#include <algorithm>
#include <cctype>

#include "base/char_class.h"
#include "base/text.h"
#include "words/pages.h"

namespace yc::pages {

namespace {

constexpr CharClass kNameChars = CharClass::alphanumeric_and("-_:.@#*");

struct Attribute {
  std::string name;
  Span value;
};

class Scanner {
 public:
  explicit Scanner(std::string_view bytes) : bytes_(bytes) {}

  PageFacts run() {
    while (at_ < bytes_.size()) {
      at_ = bytes_.find('<', at_);
      if (at_ == std::string_view::npos) break;
      if (bytes_.substr(at_, 4) == "<!--") {
        std::size_t end = bytes_.find("-->", at_ + 4);
        // What a conditional comment holds is read by some.
        at_ = bytes_.substr(at_, 7) == "<!--[if" ? at_ + 4
              : end == std::string_view::npos    ? bytes_.size()
                                                 : end + 3;
      } else if (at_ + 1 < bytes_.size() && std::isalpha(static_cast<unsigned char>(bytes_[at_ + 1]))) {
        ++at_;
        element();
      } else {
        ++at_;
      }
    }
    return std::move(facts_);
  }

 private:
  void element() {
    std::size_t begin = at_;
    while (at_ < bytes_.size() && kNameChars.holds(bytes_[at_])) ++at_;
    std::string tag = lowered(bytes_.substr(begin, at_ - begin));
    std::vector<Attribute> attributes = read_attributes();
    if (at_ < bytes_.size()) ++at_;
    auto value = [&](std::string_view name) -> std::string {
      for (const Attribute& attribute : attributes) {
        if (attribute.name == name)
          return lowered(bytes_.substr(attribute.value.begin, attribute.value.size()));
      }
      return "";
    };
    for (const Attribute& attribute : attributes) take(tag, attribute, attributes);
    if (tag == "style" || tag == "script") {
      std::string end_tag = "</" + tag;
      std::size_t end = find_tag(end_tag, at_);
      Span inside = span_of(at_, end);
      std::string lang = value("lang");
      if (tag == "style" && lang.empty()) facts_.styles.push_back(inside);
      if (tag == "script" && value("type") == "importmap") facts_.import_maps.push_back(inside);
      at_ = end;
    }
  }

  std::size_t find_tag(std::string_view word, std::size_t from) const {
    auto same = [](char a, char b) { return std::tolower(static_cast<unsigned char>(a)) == b; };
    auto at = std::search(bytes_.begin() + static_cast<std::ptrdiff_t>(from), bytes_.end(), word.begin(),
                          word.end(), same);
    return static_cast<std::size_t>(at - bytes_.begin());
  }

  std::vector<Attribute> read_attributes() {
    std::vector<Attribute> out;
    while (at_ < bytes_.size() && bytes_[at_] != '>') {
      if (!kNameChars.holds(bytes_[at_])) {
        // Text of a template engine may hold a '>' of its own.
        if (bytes_.substr(at_, 2) == "{{" || bytes_.substr(at_, 2) == "{%" || bytes_.substr(at_, 2) == "<%") {
          std::string_view close = bytes_[at_] == '<' ? "%>" : bytes_[at_ + 1] == '{' ? "}}" : "%}";
          std::size_t end = bytes_.find(close, at_);
          at_ = end == std::string_view::npos ? bytes_.size() : end + 2;
        } else {
          ++at_;
        }
        continue;
      }
      std::size_t begin = at_;
      while (at_ < bytes_.size() && kNameChars.holds(bytes_[at_])) ++at_;
      Attribute attribute{lowered(bytes_.substr(begin, at_ - begin)), {}};
      std::size_t next = bytes_.find_first_not_of(" \t\r\n", at_);
      if (next == std::string_view::npos || bytes_[next] != '=') continue;
      next = bytes_.find_first_not_of(" \t\r\n", next + 1);
      if (next == std::string_view::npos) break;
      char quote = bytes_[next];
      std::size_t end;
      if (quote == '"' || quote == '\'') {
        ++next;
        end = std::min(bytes_.find(quote, next), bytes_.size());
        at_ = std::min(end + 1, bytes_.size());
      } else {
        end = std::min(bytes_.find_first_of(" \t\r\n>", next), bytes_.size());
        at_ = end;
      }
      attribute.value = span_of(next, end);
      out.push_back(std::move(attribute));
    }
    return out;
  }

  void take(const std::string& tag, const Attribute& attribute, const std::vector<Attribute>& all) {
    const std::string& name = attribute.name;
    if (tag == "base" && name == "href") {
      facts_.base = attribute.value;
    } else if (words::pages::url_attributes().contains(name) || (name == "data" && tag == "object")) {
      add(attribute.value, false);
    } else if (words::pages::likely_attributes().contains(name)) {
      add(attribute.value, true);
    } else if (name == "srcset" || name == "imagesrcset" || name == "data-srcset") {
      candidates(attribute.value);
    } else if (name == "style") {
      facts_.styles.push_back(attribute.value);
    } else if (name == "content" && tag == "meta") {
      bool shares = std::any_of(all.begin(), all.end(), [&](const Attribute& other) {
        std::string text = lowered(bytes_.substr(other.value.begin, other.value.size()));
        return (other.name == "property" || other.name == "name" || other.name == "itemprop") &&
               (text.find("image") != std::string::npos || text.find("url") != std::string::npos ||
                text.find("video") != std::string::npos || text.find("audio") != std::string::npos ||
                text.find("config") != std::string::npos);
      });
      if (shares) add(attribute.value, true);
    }
  }

  void add(Span span, bool likely) {
    while (span.begin < span.end && std::isspace(static_cast<unsigned char>(bytes_[span.begin])))
      ++span.begin;
    while (span.begin < span.end && std::isspace(static_cast<unsigned char>(bytes_[span.end - 1])))
      --span.end;
    if (span.size() > 0 && span.size() < 2000) facts_.urls.push_back({span, likely});
  }

  // "a.png 1x, b.png 2x"
  void candidates(Span span) {
    std::uint32_t at = span.begin;
    while (at < span.end) {
      while (at < span.end && (std::isspace(static_cast<unsigned char>(bytes_[at])) || bytes_[at] == ','))
        ++at;
      std::uint32_t begin = at;
      while (at < span.end && !std::isspace(static_cast<unsigned char>(bytes_[at]))) ++at;
      std::uint32_t end = at;
      while (end > begin && bytes_[end - 1] == ',') --end;
      add({begin, end}, false);
      if (end == at) {
        while (at < span.end && bytes_[at] != ',') ++at;
      }
    }
  }

  std::string_view bytes_;
  PageFacts facts_;
  std::size_t at_ = 0;
};

}  // namespace

PageFacts scan_page(std::string_view bytes) {
  if (bytes.size() > 0xFFFFFFF0U || bytes.find('\0') != std::string_view::npos) return {};
  PageFacts out = Scanner(bytes).run();
  out.templates = template_names(bytes);
  return out;
}

}  // namespace yc::pages
