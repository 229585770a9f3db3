#include "serve/documents.h"

#include <algorithm>
#include <nlohmann/json.hpp>

namespace yc::serve {

namespace {

Place place_in(const nlohmann::json& position) {
  return {position.at("line").get<std::uint32_t>(), position.at("character").get<std::uint32_t>()};
}

}  // namespace

Status Documents::change(const std::string& path, std::int64_t version, const nlohmann::json& changes,
                         Encoding encoding) {
  auto at = all_.find(path);
  if (at == all_.end()) return Error{Failure::usage, path, "is not open", "open it with didOpen first"};
  Document& document = at->second;
  std::string now = *document.text;
  for (const nlohmann::json& one : changes) {
    const std::string& text = one.at("text").get_ref<const std::string&>();
    if (!one.contains("range")) {
      now = text;
      continue;
    }
    TextPlaces places(now, encoding);
    std::uint32_t begin = places.offset_of(now, place_in(one.at("range").at("start")));
    std::uint32_t end = places.offset_of(now, place_in(one.at("range").at("end")));
    now.replace(std::min(begin, end), std::max(begin, end) - std::min(begin, end), text);
  }
  document.text = std::make_shared<const std::string>(std::move(now));
  document.version = version;
  return {};
}

const Document* Documents::find(const std::string& path) const {
  auto at = all_.find(path);
  return at == all_.end() ? nullptr : &at->second;
}

}  // namespace yc::serve
