#include "formats/asked_tree.h"

#include <algorithm>

namespace yc {

namespace {

Hash128 hash_of(const Entry* entry) {
  if (!entry) return {};
  // What readers look at. A file's size and time change with bytes that they may never ask for.
  return {1, static_cast<std::uint64_t>(entry->kind) | (entry->ignored ? 0x100U : 0U) |
                 (entry->guarded ? 0x200U : 0U)};
}

Hash128 hash_of(const std::vector<std::string>& names, std::uint64_t seed) {
  std::string all;
  for (const std::string& name : names) all.append(name).push_back('/');
  return seeded_hash(all, seed);
}

Hash128 hash_of(const std::vector<RelPath>& paths, std::uint64_t seed) {
  std::string all;
  for (const RelPath& path : paths) all.append(path.str()).push_back('\0');
  return seeded_hash(all, seed);
}

Hash128 hash_of(const Result<Bytes>& bytes, std::uint64_t seed) {
  return bytes ? seeded_hash(**bytes, seed) : Hash128{};
}

Hash128 hash_of(bool answer) {
  return {answer ? 1U : 0U, 0};
}

}  // namespace

Hash128 Answers::ask(const TreeReader& tree, const Answer& about, std::uint64_t seed) {
  switch (about.question) {
    case Question::names:
      return hash_of(tree.children(about.path), seed);
    case Question::bytes:
      return hash_of(tree.read(about.path), seed);
    case Question::below:
      return hash_of(tree.files_below(about.path, about.name), seed);
    case Question::known:
      return hash_of(tree.has_folder_called(about.name));
    case Question::entry:
      break;
  }
  return hash_of(tree.find(about.path));
}

bool Answers::are_given_by(const TreeReader& tree, std::uint64_t seed) const {
  return std::all_of(all.begin(), all.end(),
                     [&](const Answer& one) { return ask(tree, one, seed) == one.hash; });
}

bool AskedTree::is_new(Answers::Question question, const RelPath& path, const std::string& name) const {
  std::lock_guard lock(mutex_);
  if (!name.empty()) return asked_by_name_.emplace(path, name).second;
  std::uint8_t& known = asked_[path];
  auto bit = static_cast<std::uint8_t>(1U << static_cast<unsigned>(question));
  bool fresh = (known & bit) == 0;
  known = static_cast<std::uint8_t>(known | bit);
  return fresh;
}

void AskedTree::note(Answers::Answer answer) const {
  std::lock_guard lock(mutex_);
  answers_.all.push_back(std::move(answer));
}

const Entry* AskedTree::find(const RelPath& path) const {
  const Entry* entry = tree_.find(path);
  if (is_new(Answers::Question::entry, path)) note({Answers::Question::entry, path, "", hash_of(entry)});
  return entry;
}

std::vector<std::string> AskedTree::children(const RelPath& folder) const {
  std::vector<std::string> names = tree_.children(folder);
  if (is_new(Answers::Question::names, folder))
    note({Answers::Question::names, folder, "", hash_of(names, seed_)});
  return names;
}

std::vector<RelPath> AskedTree::files_below(const RelPath& folder, const std::string& name_pattern) const {
  std::vector<RelPath> found = tree_.files_below(folder, name_pattern);
  if (is_new(Answers::Question::below, folder, "*" + name_pattern))
    note({Answers::Question::below, folder, name_pattern, hash_of(found, seed_)});
  return found;
}

bool AskedTree::has_folder_called(const std::string& name) const {
  bool answer = tree_.has_folder_called(name);
  if (is_new(Answers::Question::known, {}, "/" + name))
    note({Answers::Question::known, {}, name, hash_of(answer)});
  return answer;
}

const FileList& AskedTree::listing() const {
  std::lock_guard lock(mutex_);
  asked_for_all_ = true;
  return tree_.listing();
}

std::vector<RelPath> AskedTree::unreadable() const {
  std::lock_guard lock(mutex_);
  asked_for_all_ = true;
  return tree_.unreadable();
}

Result<Bytes> AskedTree::read(const RelPath& path) const {
  Result<Bytes> bytes = tree_.read(path);
  if (is_new(Answers::Question::bytes, path))
    note({Answers::Question::bytes, path, "", hash_of(bytes, seed_)});
  return bytes;
}

std::optional<Answers> AskedTree::answers() const {
  std::lock_guard lock(mutex_);
  return asked_for_all_ ? std::nullopt : std::optional(answers_);
}

}  // namespace yc
