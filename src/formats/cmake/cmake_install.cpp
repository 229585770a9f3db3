// What install() puts where (cmake-commands(7)), for whoever uses it there.
#include <fnmatch.h>

#include <algorithm>

#include "base/expression.h"
#include "formats/cmake/cmake_evaluation.h"
#include "words/cmake.h"

namespace yc::cmake {

// Of install(DIRECTORY): which of the files below a folder are taken.
class InstallFilter {
 public:
  void add(const std::string& keyword, const std::string& text) {
    if (keyword == "REGEX") {
      rules_.push_back({Expression::of(text), {}, false});
    } else {
      rules_.push_back({{}, text, false});
    }
  }
  void exclude_last() {
    if (!rules_.empty()) rules_.back().is_out = true;
  }
  void only_matches() { only_matches_ = true; }
  bool takes_all() const { return rules_.empty() && !only_matches_; }

  // `path` is a whole one; whatever stands behind `from` in it is looked at level by level.
  bool takes(const std::string& path, std::size_t from) const {
    bool is_in = !only_matches_;
    for (std::size_t end = path.find('/', from + 1);; end = path.find('/', end + 1)) {
      std::string level = path.substr(0, end);
      for (const Rule& rule : rules_) {
        if (!rule.matches(level)) continue;
        if (rule.is_out) return false;
        is_in = is_in || end == std::string::npos;
      }
      if (end == std::string::npos) return is_in;
    }
  }

 private:
  struct Rule {
    std::optional<Expression> expression;
    std::string pattern;  // of the path's end
    bool is_out = false;
    bool matches(const std::string& path) const {
      if (expression) return static_cast<bool>(expression->find(path));
      if (pattern.empty()) return false;
      // As many components as the pattern has.
      std::size_t at = path.size();
      for (auto parts = 1 + std::count(pattern.begin(), pattern.end(), '/'); parts > 0 && at > 0; --parts)
        at = path.rfind('/', at - 1);
      return at != std::string::npos && fnmatch(pattern.c_str(), path.c_str() + at + 1, FNM_PATHNAME) == 0;
    }
  };
  std::vector<Rule> rules_;
  bool only_matches_ = false;
};

struct Evaluation::Installing {
  Words files, folders, targets;
  std::optional<TracedText> destination;
  bool is_renamed = false;
  InstallFilter taken;
  std::optional<TracedText> last_pattern;
};

void Evaluation::do_install(const Command&, const Words& words) {
  Installing all;
  std::string keyword;
  std::string artifact;  // of targets: what the next destination is for
  for (std::size_t i = 0; i < words.size(); ++i) {
    const TracedText& word = words[i];
    std::string text = word.text();
    if (words::cmake::install_keywords().contains(text)) {
      keyword = text;
      all.is_renamed = all.is_renamed || text == "RENAME";
      if (text == "FILES_MATCHING") all.taken.only_matches();
      if (text == "EXCLUDE") {
        all.taken.exclude_last();
        if (all.last_pattern) refer_to_excluded(all.folders, *all.last_pattern);
      }
      if (words::cmake::installed_artifacts().contains(text)) artifact = text;
      if (text == "PUBLIC_HEADER") install_later(all.targets, text);
      continue;
    }
    if (keyword == "FILES" || keyword == "PROGRAMS") refer_here(word, Role::listed);
    if (keyword == "SCRIPT") refer_here(word, Role::argument);
    if (keyword == "DIRECTORY") refer_here(word, Role::listed, Certainty::certain, false);
    if (keyword == "PATTERN" || keyword == "REGEX") {
      all.taken.add(keyword, text);
      all.last_pattern = keyword == "PATTERN" ? std::optional(word) : std::nullopt;
    }
    if (keyword == "FILES") all.files.push_back(word);
    if (keyword == "DIRECTORY") all.folders.push_back(word);
    if (keyword == "TARGETS") {
      use_target(word);
      all.targets.push_back(word);
    }
    if (keyword == "FILE_SET") {
      install_later(all.targets, text);
      keyword.clear();
    }
    if (keyword != "DESTINATION" && keyword != "TYPE") continue;
    all.destination = text == "INCLUDE" && keyword == "TYPE" ? variable("CMAKE_INSTALL_INCLUDEDIR") : word;
    bool is_of_headers = (artifact == "PUBLIC_HEADER" || artifact == "FILE_SET") && !later_.empty();
    if (is_of_headers) later_.back().destination = *all.destination;
    if (keyword == "DESTINATION") keyword.clear();
  }
  if (all.destination && !all.is_renamed && all.targets.empty()) note_installed(all);
}

// PATTERN "old" EXCLUDE: what is so called in a folder that is installed stays out of it under its new name.
void Evaluation::refer_to_excluded(const Words& folders, const TracedText& name) {
  std::string text = name.text();
  if (name.has_hole() || text.empty() || has_wildcard(text)) return;
  for (const TracedText& word : folders) {
    for (const TracedText& value : values(word)) {
      Place place = place_of(base().folder, value.text());
      if (value.has_hole() || place.space != Space::tree) continue;
      for (const RelPath& file : tree_.files_below(place.path, "*")) {
        RelPath found = file;
        while (found.name() != text && found != place.path && !found.is_root()) found = found.parent();
        if (found == place.path || found.is_root()) continue;
        Reference reference =
            Reference::of(Role::argument, format_, key(), {found.parent(), kNoFile, Space::tree}, name)
                .likely()
                .in(ConstructPart::tagged(kLeftOut))
                .leading_to(found);
        reference.excludes = true;
        out_.add(std::move(reference));
        return;
      }
    }
  }
}

void Evaluation::install_later(const Words& targets, const std::string& what) {
  later_.push_back({targets, what, variable("CMAKE_INSTALL_INCLUDEDIR")});
}

void Evaluation::note_installed(const Installing& all) {
  auto each = [&](const TracedText& word, auto&& found) {
    for (const TracedText& value : values(word)) {
      Place place = place_of(base().folder, value.text());
      if (!value.has_hole() && place.space == Space::build)
        out_.install_made(place.path, *all.destination, place.path.name());
      if (!value.has_hole() && place.space == Space::tree) found(place.path, value.text().ends_with('/'));
    }
  };
  for (const TracedText& word : all.files)
    each(word, [&](const RelPath& path, bool) { out_.install(path, *all.destination, path.name()); });
  for (const TracedText& word : all.folders) {
    each(word, [&](const RelPath& path, bool is_content) {
      RelPath in = is_content ? RelPath() : RelPath::from_normal(std::string(path.name()));
      if (all.taken.takes_all())
        return out_.install(path, *all.destination, is_content ? std::string_view() : path.name());
      for (const RelPath& file : tree_.files_below(path, "*")) {
        if (all.taken.takes("/" + file.str(), path.str().size() + 1))
          out_.install(file, *all.destination, (in / file.below(path)).str());
      }
    });
  }
}

// Of targets, when all is known of them.
void Evaluation::emit_installed() {
  for (const InstalledHeaders& later : later_) {
    for (const TracedText& name : later.targets) {
      const TargetUnit* unit = target(name.text());
      if (!unit) continue;
      for (const TracedText& word : unit->public_headers) {
        if (later.what != "PUBLIC_HEADER") break;
        for (const TracedText& value : values(word)) {
          Place place = place_of(folders_[unit->folder].base.folder, value.text());
          if (place.space == Space::tree) out_.install(place.path, later.destination, place.path.name());
        }
      }
      for (const auto& [file, set] : unit->set_files) {
        if (later.what != set) continue;
        auto bases = unit->set_bases.find(set);
        if (bases == unit->set_bases.end()) continue;
        for (const RelPath& folder : bases->second) {
          if (file.is_within(folder)) out_.install(file, later.destination, file.below(folder));
        }
      }
    }
  }
}

}  // namespace yc::cmake
