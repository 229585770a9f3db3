#include "formats/property_lists/project_settings.h"
#include "words/property_lists.h"

#include <string>

namespace yc::plist {

SettingKind setting_kind(std::string_view name) {
  name = name.substr(0, name.find('['));  // "HEADER_SEARCH_PATHS[sdk=…]"
  if (words::property_lists::header_settings().contains(name)) return SettingKind::header_roots;
  if (words::property_lists::root_settings().contains(name)) return SettingKind::roots;
  if (words::property_lists::path_settings().contains(name)) return SettingKind::path;
  return words::property_lists::plain_settings().contains(name) ? SettingKind::no_path : SettingKind::other;
}

TracedText with_variables(const TracedText& text, FileIndex script, const RelPath& folder) {
  std::string all = text.text();
  Cutter cutter(text);
  TracedText out;
  std::size_t from = 0;
  for (std::size_t at = 0; at + 1 < all.size();) {
    if (all[at] != '$') {
      ++at;
      continue;
    }
    char open = all[at + 1];
    std::size_t begin = at + 1, end;
    if (open == '(' || open == '{') {
      ++begin;
      end = all.find(open == '(' ? ')' : '}', begin);
      if (end == std::string::npos) break;
    } else {
      end = all.find_first_not_of("ABCDEFGHIJKLMNOPQRSTUVWXYZ_", begin);
      if (end == std::string::npos) end = all.size();
      if (end == begin) {
        ++at;
        continue;
      }
    }
    std::string name = all.substr(begin, end - begin);
    std::size_t next = end + (open == '(' || open == '{' ? 1 : 0);
    if (from < at) out.append(cutter.part(from, at - from));
    TracedText expression = cutter.part(at, next - at);
    TracedText value =
        words::property_lists::folder_variables().contains(name)
            ? TracedText::folder(Piece::Nature::tree_folder, script, marked(Space::tree, folder))
            : TracedText::hole();
    Passage origin = expression.first_origin();
    if (origin.file != kNoFile) {
      origin.span.end = expression.pieces().back().span.end;
      value = value.through(origin);
    }
    out.append(value);
    at = from = next;
  }
  if (from < all.size()) out.append(cutter.part(from));
  return out;
}

std::vector<TracedText> setting_words(const TracedText& text) {
  std::string all = text.text();
  Cutter cutter(text);
  std::vector<TracedText> out;
  TracedText word;
  bool in_quotes = false, any = false;
  std::size_t from = 0;
  auto take = [&](std::size_t end) {
    if (from < end) word.append(cutter.part(from, end - from));
  };
  for (std::size_t at = 0; at <= all.size(); ++at) {
    bool ends = at == all.size() || (!in_quotes && (all[at] == ' ' || all[at] == '\t' || all[at] == '\n'));
    if (at < all.size() && all[at] == '"') {
      take(at);
      in_quotes = !in_quotes;
      from = at + 1;
      any = true;
    } else if (ends) {
      take(at);
      if (any || !word.empty()) out.push_back(std::move(word));
      word = {};
      any = false;
      from = at + 1;
    }
  }
  return out;
}

}  // namespace yc::plist
