#include "formats/data_files/path_bases.h"

#include <algorithm>
#include <map>

namespace yc::data_files {

namespace {

constexpr std::size_t kMostWitnesses = 400, kMostNamesakes = 60;

std::string without_lead(std::string path) {
  while (path.starts_with("./")) path.erase(0, 2);
  return path;
}

bool leads_to_file(const TreeReader& tree, const RelPath& base, const std::string& path) {
  auto place = RelPath::resolve(base, path);
  const Entry* entry = place && !place->is_root() ? tree.find(*place) : nullptr;
  return entry && !entry->ignored && entry->kind == EntryKind::file;
}

}  // namespace

NameIndex::NameIndex(const TreeReader& tree) {
  for (const RelPath& path : tree.files()) {
    const Entry* entry = tree.find(path);
    if (entry && !entry->ignored) by_name_[std::string(path.name())].push_back(path);
  }
}

std::vector<RelPath> NameIndex::bases_of(const std::string& path) const {
  std::vector<RelPath> out;
  std::string wanted = without_lead(path);
  if (wanted.starts_with("../") || wanted.starts_with("/")) return out;
  auto alike =
      by_name_.find(wanted.substr(wanted.rfind('/') == std::string::npos ? 0 : wanted.rfind('/') + 1));
  if (alike == by_name_.end() || alike->second.size() > kMostNamesakes) return out;
  for (const RelPath& file : alike->second) {
    const std::string& full = file.str();
    if (full == wanted) {
      out.emplace_back();
    } else if (full.size() > wanted.size() + 1 && full.ends_with(wanted) &&
               full[full.size() - wanted.size() - 1] == '/') {
      out.push_back(RelPath::from_normal(full.substr(0, full.size() - wanted.size() - 1)));
    }
  }
  return out;
}

bool looks_like_path(const std::string& text) {
  if (text.size() < 3 || text.size() > 300) return false;
  if (text.find_first_of("\n\r\t*?<>|\"{}$`\\") != std::string::npos) return false;
  if (text.find("://") != std::string::npos || text.starts_with("/") || text.starts_with("#")) return false;
  if (text.front() == ' ' || text.back() == ' ' || text.back() == '.') return false;
  if (text.find_first_not_of("0123456789./-+:,%") == std::string::npos) return false;
  return text.find('/') != std::string::npos || ending_of(text).size() > 1;
}

std::vector<RelPath> learn_bases(const TreeReader& tree, const NameIndex& index, const RelPath& file,
                                 const std::vector<std::string>& paths) {
  std::map<RelPath, std::size_t> votes;
  std::vector<RelPath> above;
  for (RelPath up = file.parent();; up = up.parent()) {
    above.push_back(up);
    if (up.is_root()) break;
  }
  std::size_t asked = 0;
  for (const std::string& path : paths) {
    if (++asked > kMostWitnesses) break;
    std::vector<RelPath> fitting = index.bases_of(path);
    for (const RelPath& up : above) {
      if (leads_to_file(tree, up, path)) fitting.push_back(up);
    }
    std::sort(fitting.begin(), fitting.end());
    fitting.erase(std::unique(fitting.begin(), fitting.end()), fitting.end());
    for (const RelPath& base : fitting) ++votes[base];
  }
  auto rank = [&](const RelPath& base) {
    return static_cast<std::size_t>(std::find(above.begin(), above.end(), base) - above.begin());
  };
  std::vector<RelPath> out;
  for (const auto& [base, count] : votes) {
    if (count > 1 || rank(base) < above.size()) out.push_back(base);
  }
  std::stable_sort(out.begin(), out.end(), [&](const RelPath& a, const RelPath& b) {
    return votes[a] != votes[b] ? votes[a] > votes[b] : rank(a) < rank(b);
  });
  // Two folders elsewhere that fit alike say nothing.
  auto is_elsewhere = [&](const RelPath& base) { return rank(base) == above.size(); };
  for (std::size_t i = 0; i + 1 < out.size();) {
    bool tie = votes[out[i]] == votes[out[i + 1]] && is_elsewhere(out[i]) && is_elsewhere(out[i + 1]);
    if (tie) {
      std::size_t count = votes[out[i]];
      std::erase_if(out, [&](const RelPath& base) { return votes[base] == count && is_elsewhere(base); });
    } else {
      ++i;
    }
  }
  return out;
}

}  // namespace yc::data_files
