#include "formats/python/path_values.h"

#include <set>

#include "base/path.h"

namespace yc::python {

Value known(TracedText text, bool is_path, bool literal) {
  Value out;
  out.text = std::move(text);
  out.known = true;
  out.is_path = is_path;
  out.literal = literal;
  return out;
}

TracedText text_of(const Value& value) {
  return value.known ? value.text : TracedText::hole();
}

Value join(const std::vector<Value>& parts) {
  TracedText out;
  bool literal = false;
  for (const Value& part : parts) {
    TracedText text = text_of(part);
    std::string plain = text.text();
    literal = literal || part.literal;
    bool absolute = plain.starts_with("/");
    if (absolute) out = {};
    if (!out.empty() && !out.text().ends_with("/")) out.append(TracedText::plain("/"));
    if (out.pieces().size() + text.pieces().size() > kMostPieces) return {};
    out.append(text);
  }
  return known(std::move(out), true, literal);
}

// What a formatted text leaves open: "%s", "%(name)s", "{}".
TracedText with_holes(const TracedText& text, const std::string& kind) {
  TracedText out;
  std::string plain = text.text();
  std::size_t at = 0;
  while (at < plain.size()) {
    std::size_t mark = plain.find(kind == "%" ? '%' : '{', at);
    if (mark == std::string::npos) break;
    std::size_t end = mark + 1;
    if (kind == "%") {
      if (end < plain.size() && plain[end] == '(') end = plain.find(')', end);
      end = end == std::string::npos ? end : plain.find_first_of("sdifrxg%", end);
    } else {
      end = plain.find('}', end);
    }
    if (end == std::string::npos) break;
    out.append(text.substr(at, mark - at));
    out.append(TracedText::hole());
    at = end + 1;
  }
  out.append(text.substr(at));
  return out;
}

Value parent_of(Value value) {
  std::string plain = value.text.text();
  std::size_t cut = plain.rfind('/');
  bool in_mark = plain.starts_with(kTreeMark) && cut != std::string::npos && cut < kTreeMark.size();
  const auto& pieces = value.text.pieces();
  // The name of the file itself goes; above its folder one climbs.
  bool cuts_folder = pieces.size() == 1 && pieces[0].nature == Piece::Nature::tree_folder;
  bool climbs = plain.ends_with("/..");
  if (cut == std::string::npos || cuts_folder || climbs || in_mark) {
    value.text.append(TracedText::plain("/.."));
  } else {
    value.text = value.text.substr(0, cut);
  }
  return value;
}

bool is_package_data(const std::string& method) {
  const std::set<std::string> kKnown = {"get_data",        "resource_filename", "resource_string",
                                        "resource_stream", "open_text",         "open_binary",
                                        "read_text",       "read_binary",       "path",
                                        "is_resource",     "resource_exists",   "resource_listdir"};
  return kKnown.contains(method);
}

}  // namespace yc::python
