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

Hash128 hash_of(const Result<Bytes>& bytes, std::uint64_t seed) {
  return bytes ? seeded_hash(**bytes, seed) : Hash128{};
}

}  // namespace

Hash128 Answers::ask(const TreeReader& tree, Question question, const RelPath& path, std::uint64_t seed) {
  switch (question) {
    case Question::names:
      return hash_of(tree.children(path), seed);
    case Question::bytes:
      return hash_of(tree.read(path), seed);
    default:
      return hash_of(tree.find(path));
  }
}

bool Answers::are_given_by(const TreeReader& tree, std::uint64_t seed) const {
  return std::all_of(all.begin(), all.end(),
                     [&](const Answer& one) { return ask(tree, one.question, one.path, seed) == one.hash; });
}

bool AskedTree::is_new(Answers::Question question, const RelPath& path) const {
  std::lock_guard lock(mutex_);
  std::uint8_t& known = asked_[path];
  auto bit = static_cast<std::uint8_t>(1U << static_cast<unsigned>(question));
  bool fresh = (known & bit) == 0;
  known = static_cast<std::uint8_t>(known | bit);
  return fresh;
}

void AskedTree::note(Answers::Question question, const RelPath& path, Hash128 hash) const {
  std::lock_guard lock(mutex_);
  answers_.all.push_back({question, path, hash});
}

const Entry* AskedTree::find(const RelPath& path) const {
  const Entry* entry = tree_.find(path);
  if (is_new(Answers::Question::entry, path)) note(Answers::Question::entry, path, hash_of(entry));
  return entry;
}

std::vector<std::string> AskedTree::children(const RelPath& folder) const {
  std::vector<std::string> names = tree_.children(folder);
  if (is_new(Answers::Question::names, folder)) note(Answers::Question::names, folder, hash_of(names, seed_));
  return names;
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
  if (is_new(Answers::Question::bytes, path)) note(Answers::Question::bytes, path, hash_of(bytes, seed_));
  return bytes;
}

std::optional<Answers> AskedTree::answers() const {
  std::lock_guard lock(mutex_);
  return asked_for_all_ ? std::nullopt : std::optional(answers_);
}

}  // namespace yc
