#include "formats/web_settings/settings_paths.h"
#include "model/add_reference.h"

#include <algorithm>

namespace yc::web_settings {

TracedText text_of(const Settings& settings, const json::StringValue& value, std::size_t begin,
                   std::size_t end) {
  TracedText whole = json::traced(settings.bytes, value, settings.file);
  end = std::min(end, whole.size());
  return whole.substr(begin, end - begin);
}

Reference reference_to(const Settings& settings, const json::StringValue& value, Role role, TracedText text) {
  return Reference::of(role, settings.format, {{settings.file, value.span.begin}}, settings.base(),
                       std::move(text));
}

bool add_path(const Settings& settings, const json::StringValue& value, Role role, Certainty certainty,
              std::size_t begin, std::size_t end) {
  end = std::min(end, value.text.size());
  while (end > begin + 1 && value.text[end - 1] == '/') --end;
  std::string text = value.text.substr(begin, end - begin);
  if (text.find_first_not_of("./") == std::string::npos) return false;
  Reference reference = reference_to(settings, value, role, text_of(settings, value, begin, end));
  reference.certainty = certainty;
  return add_leading(settings.out, settings.tree, std::move(reference));
}

void add_package(const Settings& settings, const json::StringValue& value, std::size_t begin) {
  std::size_t end = value.text.size();
  while (end > begin + 1 && value.text[end - 1] == '/') --end;
  Reference reference = reference_to(settings, value, Role::subfolder, text_of(settings, value, begin, end));
  add_leading(settings.out, settings.tree, std::move(reference), IfMissing::dangling);
}

bool add_pattern_head(const Settings& settings, const json::StringValue& value, std::size_t begin,
                      Role role) {
  std::size_t wild = value.text.find_first_of("*?[{(", begin);
  std::size_t cut = wild == std::string::npos ? value.text.size() : value.text.rfind('/', wild);
  if (cut == std::string::npos || cut <= begin) return false;
  return add_path(settings, value, role, Certainty::certain, begin, cut);
}

}  // namespace yc::web_settings
