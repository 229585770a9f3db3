#include "tree/commit_tree.h"

#include <fmt/format.h>
#include <git2.h>

#include <algorithm>

#include "tree/git_library.h"

namespace yc {

namespace {

// Objects of the library, freed on every way out.
template <typename Thing, void (*Free)(Thing*)>
class Owned {
 public:
  Owned() = default;
  ~Owned() { Free(thing_); }
  Owned(const Owned&) = delete;
  Owned& operator=(const Owned&) = delete;
  Thing** out() { return &thing_; }
  Thing* get() const { return thing_; }

 private:
  Thing* thing_ = nullptr;
};

std::string text_of(const git_oid* id) {
  char text[GIT_OID_HEXSZ + 1];
  return git_oid_tostr(text, sizeof text, id);
}

}  // namespace

CommitTree::CommitTree() = default;
CommitTree::~CommitTree() = default;

// Gathers the entries of a commit, those outside the prefix left out.
struct CommitWalk {
  CommitTree& tree;
  std::string prefix;

  static int visit(const char* folder, const git_tree_entry* item, void* payload) {
    auto& self = *static_cast<CommitWalk*>(payload);
    std::string full = std::string(folder) + git_tree_entry_name(item);
    bool is_folder = git_tree_entry_type(item) == GIT_OBJECT_TREE;
    if (full.compare(0, self.prefix.size(), self.prefix) != 0) {
      // Into folders on the way to the prefix, past all others.
      return is_folder && self.prefix.compare(0, full.size() + 1, full + "/") != 0 ? 1 : 0;
    }
    RelPath path = RelPath::from_normal(full.substr(self.prefix.size()));
    if (path.is_root()) return 0;
    CommitTree::Node node;
    node.is_nested = git_tree_entry_type(item) == GIT_OBJECT_COMMIT;
    node.entry.kind = is_folder || node.is_nested                          ? EntryKind::folder
                      : git_tree_entry_filemode(item) == GIT_FILEMODE_LINK ? EntryKind::link
                                                                           : EntryKind::file;
    if (node.entry.kind != EntryKind::folder) {
      node.blob = text_of(git_tree_entry_id(item));
      self.tree.files_.add(path, node.entry.kind);
    }
    self.tree.children_[path.parent()].emplace_back(path.name());
    self.tree.nodes_[path] = std::move(node);
    return 0;
  }
};

Result<std::unique_ptr<CommitTree>> CommitTree::of(const std::string& root, const std::string& revision) {
  auto out = std::unique_ptr<CommitTree>(new CommitTree());
  out->repository_ = Repository::around(root);
  if (!out->repository_)
    return Error{Failure::usage, root, "is in no repository, so nothing tells what was where", ""};
  git_repository* handle = out->repository_->handle();
  Owned<git_object, git_object_free> object;
  std::string tree_of = revision + "^{tree}";
  if (git_revparse_single(object.out(), handle, tree_of.c_str()) != 0)
    return Error{Failure::usage, "", fmt::format("{} is no commit of this repository", revision), ""};
  out->nodes_[RelPath()].entry.kind = EntryKind::folder;
  CommitWalk walk{*out, out->repository_->prefix()};
  auto* tree = reinterpret_cast<git_tree*>(object.get());
  if (git_tree_walk(tree, GIT_TREEWALK_PRE, CommitWalk::visit, &walk) != 0)
    return Error{Failure::io, root, fmt::format("the files of {} cannot be listed", revision), ""};
  out->files_.settle();
  for (auto& [folder, names] : out->children_) std::sort(names.begin(), names.end());
  return out;
}

const Entry* CommitTree::find(const RelPath& path) const {
  auto at = nodes_.find(path);
  return at == nodes_.end() ? nullptr : &at->second.entry;
}

std::vector<std::string> CommitTree::children(const RelPath& folder) const {
  auto at = children_.find(folder);
  return at == children_.end() ? std::vector<std::string>() : at->second;
}

std::string CommitTree::blob(const RelPath& path) const {
  auto at = nodes_.find(path);
  return at == nodes_.end() ? "" : at->second.blob;
}

bool CommitTree::is_nested_repository(const RelPath& path) const {
  auto at = nodes_.find(path);
  return at != nodes_.end() && at->second.is_nested;
}

Result<Bytes> CommitTree::read(const RelPath& path) const {
  std::lock_guard lock(mutex_);
  if (auto at = contents_.find(path); at != contents_.end()) return at->second;
  git_oid id;
  Owned<git_blob, git_blob_free> blob;
  std::string name = this->blob(path);
  if (name.empty() || git_oid_fromstr(&id, name.c_str()) != 0 ||
      git_blob_lookup(blob.out(), repository_->handle(), &id) != 0)
    return Error{Failure::io, path.str(), "is not in the commit", ""};
  auto bytes = std::make_shared<const std::string>(static_cast<const char*>(git_blob_rawcontent(blob.get())),
                                                   static_cast<std::size_t>(git_blob_rawsize(blob.get())));
  contents_.emplace(path, bytes);
  return Bytes(bytes);
}

std::string blob_id(const std::string& bytes) {
  use_git_library();
  git_oid id;
  if (git_odb_hash(&id, bytes.data(), bytes.size(), GIT_OBJECT_BLOB) != 0) return "";
  return text_of(&id);
}

}  // namespace yc
