// Which file is made from which: explicit rules, pattern rules and search paths (manual, sections 4.5
// and 10.8).
#include <fmt/format.h>

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
  TracedText word = TracedText::plain(name);
  for (const auto& [pattern, folders] : vpaths_) {
    if (match_percent(pattern, word)) out.insert(out.end(), folders.begin(), folders.end());
  }
  return out;
}

std::optional<TracedText> Evaluation::find_in_vpath(const TracedText& name) {
  std::string text = name.text();
  if (text.empty() || text.front() == '/') return std::nullopt;
  for (const TracedText& folder : vpath_for(text)) {
    TracedText path = folder;
    path.append(TracedText::plain("/"));
    path.append(name);
    Place place = place_of(base_.folder, path.text());
    if (place.space == Space::tree && tree_.is_file(place.path)) return path;
  }
  return std::nullopt;
}

std::optional<TracedText> Evaluation::find_prerequisite(const TracedText& name, int depth) {
  Place place = place_of(base_.folder, name.text(), base_.space);
  if (place.space == Space::tree && tree_.is_file(place.path)) {
    const Entry* entry = tree_.find(place.path);
    if (!entry->ignored) return name;
  }
  if (rules_by_target_.contains(spelled(name))) return name;
  if (auto found = find_in_vpath(name)) return found;
  if (depth < 2 && derive(name, depth + 1)) return name;
  return std::nullopt;
}

// A quick look, on text alone, whether find_prerequisite could succeed. It may say yes too often.
bool Evaluation::may_be_there(const std::string& text, int depth) const {
  Place place = place_of(base_.folder, text, base_.space);
  if (place.space == Space::tree && tree_.is_file(place.path)) return true;
  if (!vpaths_.empty() ||
      rules_by_target_.contains(place.space == Space::outside ? text : marked(place.space, place.path)))
    return true;
  if (depth >= 2) return false;
  bool has_ending = ending_of(text) != "";
  return std::any_of(rules_.begin(), rules_.end(), [&](const Rule& rule) {
    return rule.is_pattern &&
           std::any_of(rule.target_texts.begin(), rule.target_texts.end(), [&](const std::string& form) {
             if (form == "%" && rule.is_built_in && has_ending) return false;
             std::size_t percent = form.find('%');
             return text.ends_with(
                 std::string_view(form).substr(percent == std::string::npos ? 0 : percent + 1));
           });
  });
}

std::optional<Evaluation::Derived> Evaluation::derive_by(const Rule& rule, const TracedText& name,
                                                         int depth) {
  if (rule.recipe.lines.empty()) return std::nullopt;  // such a rule only cancels another
  const std::string name_text = name.text();
  for (std::size_t i = 0; i < rule.targets.size(); ++i) {
    const TracedText& pattern = rule.targets[i];
    const std::string& form = rule.target_texts[i];
    std::size_t percent = form.find('%');
    if (!name_text.ends_with(std::string_view(form).substr(percent == std::string::npos ? 0 : percent + 1)))
      continue;
    Derived out;
    out.rule = &rule;
    TracedText subject = name;
    if (form == "%" && rule.is_built_in && ending_of(name_text) != "") continue;
    if (form.find('/') == std::string::npos) {
      std::size_t cut = name_text.rfind('/');
      if (cut != std::string::npos) {
        out.folder = name.substr(0, cut + 1);
        subject = name.substr(cut + 1);
      }
    }
    auto stem = match_percent(pattern, subject);
    if (!stem || stem->empty()) continue;
    out.stem = out.folder;
    out.stem.append(*stem);
    bool complete = true;
    for (const TracedText& form_of : rule.prerequisites) {
      TracedText prerequisite;
      std::string needed = form_of.text();
      std::size_t gap = needed.find('%');
      if (gap != std::string::npos) {
        needed = out.folder.text() + needed.substr(0, gap) + stem->text() + needed.substr(gap + 1);
        complete = may_be_there(needed, depth);
        if (!complete) break;
        prerequisite = out.folder;
        prerequisite.append(fill_percent(form_of, *stem));
      } else {
        prerequisite = form_of;
      }
      auto found = find_prerequisite(prerequisite, depth);
      if (!found) {
        complete = false;
        break;
      }
      out.prerequisites.push_back(std::move(prerequisite));
      out.found.push_back(std::move(*found));
    }
    if (complete) return out;
  }
  return std::nullopt;
}

std::optional<Evaluation::Derived> Evaluation::derive(const TracedText& name, int depth) {
  if (name.has_hole() || name.empty()) return std::nullopt;
  if (phony_.contains(spelled(name))) return std::nullopt;
  // What was derived keeps the trace of its name, so names that stand elsewhere are others.
  std::string memo = name.text() + "\n" + std::to_string(depth);
  for (const Piece& piece : name.pieces()) {
    memo += fmt::format(" {}:{}", piece.file, piece.span.begin);
    for (const Passage& passage : piece.via) memo += fmt::format("<{}:{}", passage.file, passage.span.begin);
  }
  if (auto at = derivations_.find(memo); at != derivations_.end()) return at->second;
  derivations_[memo] = std::nullopt;  // a name is not derived from itself
  std::optional<Derived> best;
  for (const Rule& rule : rules_) {
    if (!rule.is_pattern) continue;
    auto found = derive_by(rule, name, depth);
    // The shortest stem wins; among equals the first, and rules of the makefile stand before built-in ones.
    if (found && (!best || found->stem.size() < best->stem.size())) best = std::move(found);
  }
  derivations_[memo] = best;
  return best;
}

bool Evaluation::is_product(const TracedText& name) {
  return rules_by_target_.contains(spelled(name)) || derive(name, 0).has_value();
}

bool Evaluation::folder_is_there(const TracedText& product, const std::string& recipe) {
  Place place = place_of(base_.folder, product.text(), base_.space);
  if (place.space != Space::tree) return true;
  RelPath folder = place.path.parent();
  const Entry* entry = tree_.find(folder);
  if (entry && !entry->ignored) return true;
  if (recipe.find("mkdir") != std::string::npos || recipe.find("install -d") != std::string::npos)
    return true;
  if (made_folders_.contains(folder.str())) return true;
  return rules_by_target_.contains(marked(Space::tree, folder));
}

}  // namespace yc::make
