// Which file is made from which: explicit rules, pattern rules and search paths (manual, sections 4.5
// and 10.8).
#include <algorithm>

#include "formats/make/make_evaluation.h"

namespace yc::make {

std::string Evaluation::spelled(const TracedText& name) const {
  Place place = place_of(base_.folder, name.text(), base_.space);
  if (place.space == Space::outside) return name.text();
  return marked(place.space, place.path);
}

std::vector<TracedText> Evaluation::vpath_for(const std::string& name) const {
  std::vector<TracedText> out;
  if (vpaths_.empty()) return out;
  TracedText word = TracedText::plain(name);
  for (const auto& [pattern, folders] : vpaths_) {
    if (match_percent(pattern, word)) out.insert(out.end(), folders.begin(), folders.end());
  }
  return out;
}

// The folder of the search path that a file of this name is found in.
std::optional<TracedText> Evaluation::vpath_folder(const std::string& name) const {
  if (name.empty() || name.front() == '/') return std::nullopt;
  for (const TracedText& folder : vpath_for(name)) {
    Place place = place_of(base_.folder, folder.text() + "/" + name);
    if (place.space == Space::tree && tree_.is_file(place.path)) return folder;
  }
  return std::nullopt;
}

std::optional<TracedText> Evaluation::find_in_vpath(const TracedText& name) const {
  if (vpaths_.empty()) return std::nullopt;
  auto path = vpath_folder(name.text());
  if (!path) return std::nullopt;
  path->append(TracedText::plain("/"));
  path->append(name);
  return path;
}

// Whether a file of this name is there or can be made.
Evaluation::Found Evaluation::look_for(const std::string& name, int depth) {
  Place place = place_of(base_.folder, name, base_.space);
  if (place.space == Space::tree) {
    const Entry* entry = tree_.find(place.path);
    if (entry && entry->kind == EntryKind::file && !entry->ignored) return {true, {}};
  }
  if (rules_by_target_.contains(place.space == Space::outside ? name : marked(place.space, place.path)))
    return {true, {}};
  if (!vpaths_.empty()) {
    if (auto folder = vpath_folder(name)) return {true, std::move(*folder)};
  }
  if (depth < kMostRules && application(name, depth + 1)) return {true, {}};
  return {};
}

// Applies one pattern rule, if every prerequisite is there. Rules whose stem would not be shorter than `best`
// are not looked at.
std::optional<Evaluation::Application> Evaluation::apply(std::size_t index, const std::string& name,
                                                         int depth, std::size_t best) {
  const Rule& rule = rules_[index];
  if (rule.recipe.lines.empty()) return std::nullopt;  // such a rule only cancels another
  for (std::size_t i = 0; i < rule.targets.size(); ++i) {
    const std::string& form = rule.target_texts[i];
    std::size_t percent = form.find('%');
    if (percent == std::string::npos) continue;
    std::string_view tail = std::string_view(form).substr(percent + 1);
    if (!name.ends_with(tail)) continue;
    if (form == "%" && rule.is_built_in && ending_of(name) != "") continue;
    Application out;
    out.rule = index;
    if (form.find('/') == std::string::npos && name.rfind('/') != std::string::npos)
      out.folder = name.rfind('/') + 1;
    std::string_view subject = std::string_view(name).substr(out.folder);
    if (subject.size() <= percent + tail.size() ||
        !subject.starts_with(std::string_view(form).substr(0, percent)))
      continue;
    out.stem_begin = out.folder + percent;
    out.stem_size = subject.size() - percent - tail.size();
    if (out.folder + out.stem_size >= best) continue;
    bool complete = true;
    for (const TracedText& form_of : rule.prerequisites) {
      std::string needed = form_of.text();
      std::size_t gap = needed.find('%');
      if (gap != std::string::npos) {
        needed = name.substr(0, out.folder) + needed.substr(0, gap) +
                 name.substr(out.stem_begin, out.stem_size) + needed.substr(gap + 1);
      }
      Found found = look_for(needed, depth);
      complete = found.there;
      if (!complete) break;
      out.searched.push_back(std::move(found.folder));
    }
    if (complete) return out;
  }
  return std::nullopt;
}

const Evaluation::Application* Evaluation::application(const std::string& name, int depth) {
  auto& known = applications_[static_cast<std::size_t>(depth)];
  auto [at, fresh] = known.try_emplace(name);  // a name is not derived from itself
  if (!fresh) return at->second ? &*at->second : nullptr;
  std::optional<Application>& best = at->second;  // stays where it is while others come
  Place place = place_of(base_.folder, name, base_.space);
  if (phony_.contains(place.space == Space::outside ? name : marked(place.space, place.path))) return nullptr;
  std::optional<Application> shortest;
  for (std::size_t index : pattern_rules_) {
    // The shortest stem wins; among equals the first, and rules of the makefile stand before built-in ones.
    std::size_t limit = shortest ? shortest->folder + shortest->stem_size : std::string::npos;
    if (auto found = apply(index, name, depth, limit)) shortest = std::move(found);
  }
  best = std::move(shortest);
  return best ? &*best : nullptr;
}

// How a name is made, traced: its parts keep the places where the name was written.
std::optional<Evaluation::Derived> Evaluation::derive(const TracedText& name, int depth) {
  if (name.has_hole() || name.empty()) return std::nullopt;
  const Application* found = application(name.text(), depth);
  if (!found) return std::nullopt;
  Derived out;
  out.rule = &rules_[found->rule];
  out.folder = name.substr(0, found->folder);
  TracedText stem = name.substr(found->stem_begin, found->stem_size);
  out.stem = out.folder;
  out.stem.append(stem);
  for (std::size_t i = 0; i < out.rule->prerequisites.size(); ++i) {
    const TracedText& form = out.rule->prerequisites[i];
    TracedText word = form;
    if (form.text().find('%') != std::string::npos) {
      word = out.folder;
      word.append(fill_percent(form, stem));
    }
    TracedText path = word;
    if (!found->searched[i].empty()) {
      path = found->searched[i];
      path.append(TracedText::plain("/"));
      path.append(word);
    }
    out.prerequisites.push_back(std::move(word));
    out.found.push_back(std::move(path));
  }
  return out;
}

bool Evaluation::is_product(const TracedText& name) {
  if (rules_by_target_.contains(spelled(name))) return true;
  return !name.has_hole() && !name.empty() && application(name.text(), 0);
}

bool Evaluation::is_folder_made(const RelPath& folder) const {
  const Entry* entry = tree_.find(folder);
  return (entry && !entry->ignored) || makes_folders_at_once_ || made_folders_.contains(folder.str()) ||
         rules_by_target_.contains(marked(Space::tree, folder));
}

bool Evaluation::folder_is_there(const TracedText& product, const Rule& rule) const {
  Place place = place_of(base_.folder, product.text(), base_.space);
  if (place.space != Space::tree) return true;
  RelPath folder = place.path.parent();
  const Entry* entry = tree_.find(folder);
  if (entry && !entry->ignored) return true;
  if (makes_target_folder(rule)) return true;
  if (made_folders_.contains(folder.str())) return true;
  return rules_by_target_.contains(marked(Space::tree, folder));
}

}  // namespace yc::make
