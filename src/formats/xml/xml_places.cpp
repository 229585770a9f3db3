#include "formats/xml/xml_places.h"

#include <algorithm>
#include <cstring>
#include <pugixml.hpp>
#include <unordered_map>

#include "base/text.h"

namespace yc::xml {

namespace {

// Attributes from just behind an element's name to the end of its tag.
std::vector<Attribute> attributes_at(std::string_view bytes, std::size_t at) {
  std::vector<Attribute> out;
  while (at < bytes.size() && bytes[at] != '>' && bytes[at] != '/') {
    if (is_space(bytes[at])) {
      ++at;
      continue;
    }
    std::size_t equals = bytes.find('=', at);
    if (equals == std::string_view::npos) break;
    std::size_t open = bytes.find_first_of("\"'", equals);
    std::size_t close = open == std::string_view::npos ? open : bytes.find(bytes[open], open + 1);
    if (close == std::string_view::npos) break;
    std::size_t name_end = equals;
    while (name_end > at && is_space(bytes[name_end - 1])) --name_end;
    Attribute found;
    found.name = bytes.substr(at, name_end - at);
    found.value = bytes.substr(open + 1, close - open - 1);
    found.span = span_of(open + 1, close);
    out.push_back(std::move(found));
    at = close + 1;
  }
  return out;
}

class Collector : public pugi::xml_tree_walker {
 public:
  explicit Collector(std::string_view bytes) : bytes_(bytes) {}
  std::vector<Element> take() { return std::move(out_); }

  bool for_each(pugi::xml_node& node) override {
    if (node.type() != pugi::node_element || node.offset_debug() < 0) return true;
    Element element;
    element.name = node.name();
    element.begin = static_cast<std::uint32_t>(node.offset_debug());
    element.name_end = element.begin + static_cast<std::uint32_t>(std::strlen(node.name()));
    element.attributes = attributes_at(bytes_, element.name_end);
    pugi::xml_node parent = node.parent();
    if (parent.type() == pugi::node_element && parent.offset_debug() >= 0) {
      element.parent = parent.name();
      auto known = numbers_.find(parent.offset_debug());
      if (known != numbers_.end()) element.up = known->second;
      element.outer =
          attributes_at(bytes_, static_cast<std::size_t>(parent.offset_debug()) + element.parent.size());
    }
    pugi::xml_node text = node.first_child();
    if (text.type() == pugi::node_pcdata && text.offset_debug() >= 0) {
      std::size_t begin = static_cast<std::size_t>(text.offset_debug());
      std::size_t end = std::min(bytes_.find('<', begin), bytes_.size());
      while (begin < end && is_space(bytes_[begin])) ++begin;
      while (end > begin && is_space(bytes_[end - 1])) --end;
      element.text = bytes_.substr(begin, end - begin);
      element.text_span = span_of(begin, end);
    }
    numbers_[node.offset_debug()] = static_cast<std::int32_t>(out_.size());
    out_.push_back(std::move(element));
    return true;
  }

 private:
  std::string_view bytes_;
  std::vector<Element> out_;
  std::unordered_map<std::ptrdiff_t, std::int32_t> numbers_;  // of elements, by where they begin
};

}  // namespace

const Attribute* Element::attribute(std::string_view wanted) const {
  for (const Attribute& attribute : attributes) {
    if (attribute.name == wanted) return &attribute;
  }
  return nullptr;
}

std::optional<std::vector<Element>> elements(std::string_view bytes) {
  pugi::xml_document document;
  pugi::xml_parse_result result =
      document.load_buffer(bytes.data(), bytes.size(), pugi::parse_default, pugi::encoding_utf8);
  if (!result) return std::nullopt;
  Collector collector(bytes);
  document.traverse(collector);
  return collector.take();
}

Span extent(std::string_view bytes, const Element& element) {
  Span out{element.begin > 0 ? element.begin - 1 : 0, static_cast<std::uint32_t>(bytes.size())};
  std::size_t at = element.attributes.empty() ? element.name_end : element.attributes.back().span.end + 1;
  std::size_t close = bytes.find('>', at);
  if (close == std::string_view::npos) return out;
  out.end = static_cast<std::uint32_t>(close + 1);
  if (bytes[close - 1] == '/') return out;
  // Elements of the same name may be nested.
  std::string open_tag = "<" + element.name, end_tag = "</" + element.name;
  std::size_t depth = 1;
  for (at = close + 1; depth > 0;) {
    std::size_t next = bytes.find('<', at);
    if (next == std::string_view::npos) return {out.begin, static_cast<std::uint32_t>(bytes.size())};
    std::size_t end = std::min(bytes.find('>', next), bytes.size() - 1);
    auto is_tag = [&](const std::string& tag) {
      if (!bytes.substr(next).starts_with(tag)) return false;
      char after = next + tag.size() < bytes.size() ? bytes[next + tag.size()] : '>';
      return after == '>' || after == '/' || is_space(after);
    };
    if (is_tag(end_tag)) --depth;
    if (is_tag(open_tag) && bytes[end - 1] != '/') ++depth;
    at = end + 1;
  }
  out.end = static_cast<std::uint32_t>(at);
  return out;
}

TracedText traced(std::string_view bytes, Span span, FileIndex file) {
  static constexpr std::pair<std::string_view, char> kEntities[] = {
      {"&amp;", '&'}, {"&lt;", '<'}, {"&gt;", '>'}, {"&quot;", '"'}, {"&apos;", '\''}};
  TracedText out;
  std::uint32_t from = span.begin;
  auto literal = [&](std::uint32_t end) {
    if (from < end)
      out.append(TracedText::literal(std::string(bytes.substr(from, end - from)), file, {from, end}));
  };
  for (std::uint32_t at = span.begin; at < span.end;) {
    if (bytes[at] != '&') {
      ++at;
      continue;
    }
    literal(at);
    std::size_t end = bytes.find(';', at);
    if (end == std::string_view::npos || end >= span.end) end = span.end - 1;
    TracedText meant = TracedText::hole();
    for (const auto& [entity, c] : kEntities) {
      if (bytes.substr(at, end + 1 - at) == entity) meant = TracedText::plain(std::string(1, c));
    }
    out.append(meant);
    at = static_cast<std::uint32_t>(end + 1);
    from = at;
  }
  literal(span.end);
  return out;
}

std::string escaped(std::string_view text) {
  std::string out;
  for (char c : text) {
    if (c == '&')
      out += "&amp;";
    else if (c == '<')
      out += "&lt;";
    else if (c == '"')
      out += "&quot;";
    else
      out += c;
  }
  return out;
}

}  // namespace yc::xml
