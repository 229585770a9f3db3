// Paths in variables that no script expands: CMake itself, one of its modules or a template reads them, as
// CPACK_RESOURCE_FILE_LICENSE, CMAKE_PROJECT_INCLUDE and CMAKE_AUTOUIC_SEARCH_PATHS.
#include <algorithm>

#include "formats/cmake/cmake_evaluation.h"
#include "words/cmake.h"

namespace yc::cmake {

namespace {

// Whether a value that is relative may be a path: where CMake's own variables name files they may be.
bool is_cmakes_own(const std::string& name) {
  const auto& heads = words::cmake::own_variable_heads();
  return std::any_of(heads.begin(), heads.end(),
                     [&](std::string_view head) { return name.starts_with(head); });
}

}  // namespace

void Evaluation::note_set(const std::string& name, const Words& words) {
  if (expanded_.contains(name) || words::cmake::known_path_variables().contains(name)) return;
  for (const TracedText& word : words) {
    for (const TracedText& value : values(word)) {
      if (value.has_hole() || value.pieces().empty()) continue;
      std::string text = value.text();
      bool is_path =
          text.starts_with(kTreeMark) || (base().space == Space::tree && is_cmakes_own(name) &&
                                          text.find_first_of("/.") != std::string::npos && text[0] != '/');
      Place place = is_path ? place_of(base().folder, text) : Place{};
      if (is_path && place.space == Space::tree && !place.path.is_root() && tree_.find(place.path))
        set_paths_.push_back({name, value, key(), base()});
    }
  }
}

void Evaluation::emit_unread_values() {
  for (const SetPath& one : set_paths_) {
    if (expanded_.contains(one.name)) continue;
    here_ = one.site.back();
    calls_.assign(one.site.begin(), one.site.end() - 1);
    Place place = place_of(one.base.folder, one.value.text());
    Role role = tree_.is_folder(place.path) ? Role::search_root : Role::argument;
    refer(one.value, role, Certainty::certain, one.base, false);
  }
  calls_.clear();
}

}  // namespace yc::cmake
