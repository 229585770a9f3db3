#include "formats/property_lists/project_settings.h"

#include <set>
#include <string>

namespace yc::plist {

SettingKind setting_kind(std::string_view name) {
  name = name.substr(0, name.find('['));  // "HEADER_SEARCH_PATHS[sdk=…]"
  static const std::set<std::string_view> kHeaders = {"HEADER_SEARCH_PATHS", "USER_HEADER_SEARCH_PATHS",
                                                      "SYSTEM_HEADER_SEARCH_PATHS"};
  static const std::set<std::string_view> kRoots = {"LIBRARY_SEARCH_PATHS", "FRAMEWORK_SEARCH_PATHS",
                                                    "SWIFT_INCLUDE_PATHS", "REZ_SEARCH_PATHS"};
  static const std::set<std::string_view> kPaths = {"INFOPLIST_FILE",          "GCC_PREFIX_HEADER",
                                                    "CODE_SIGN_ENTITLEMENTS",  "SWIFT_OBJC_BRIDGING_HEADER",
                                                    "MODULEMAP_FILE",          "EXPORTED_SYMBOLS_FILE",
                                                    "UNEXPORTED_SYMBOLS_FILE", "ORDER_FILE",
                                                    "DEVELOPMENT_ASSET_PATHS", "INFOPLIST_PREFIX_HEADER",
                                                    "MODULEMAP_PRIVATE_FILE",  "DEFINES_FILE"};
  static const std::set<std::string_view> kNames = {"PRODUCT_NAME",
                                                    "PRODUCT_BUNDLE_IDENTIFIER",
                                                    "OTHER_CFLAGS",
                                                    "OTHER_LDFLAGS",
                                                    "GCC_PREPROCESSOR_DEFINITIONS",
                                                    "SDKROOT",
                                                    "ARCHS",
                                                    "INSTALL_PATH",
                                                    "SYMROOT",
                                                    "OBJROOT",
                                                    "DSTROOT"};
  if (kHeaders.contains(name)) return SettingKind::header_roots;
  if (kRoots.contains(name)) return SettingKind::roots;
  if (kPaths.contains(name)) return SettingKind::path;
  return kNames.contains(name) ? SettingKind::no_path : SettingKind::other;
}

TracedText with_variables(const TracedText& text, FileIndex script, const RelPath& folder) {
  static const std::set<std::string_view> kFolder = {"SRCROOT", "PROJECT_DIR", "SOURCE_ROOT", "PROJECT_ROOT"};
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
    TracedText value = kFolder.contains(name) ? TracedText::folder(Piece::Nature::tree_folder, script,
                                                                   marked(Space::tree, folder))
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
