// The files that a container holds, as far as its file copies them from the build context ("Dockerfile
// reference", COPY and ADD): a tree of their paths in the container.
#pragma once

#include <optional>
#include <vector>

#include "formats/containers/container_file.h"
#include "tree/tree_reader.h"

namespace yc::containers {

class ContainerTree : public TreeReader {
 public:
  // The tree must outlive this.
  ContainerTree(const TreeReader& tree, const RelPath& context, const std::vector<Copy>& copies);

  // What of the tree was copied to a path; nothing for a folder that is only made.
  std::optional<RelPath> source_of(const RelPath& path) const;

  const Entry* find(const RelPath& path) const override;
  std::vector<std::string> children(const RelPath& folder) const override;
  const FileList& listing() const override { return none_; }
  Result<Bytes> read(const RelPath& path) const override;

 private:
  struct Placed {
    RelPath path, source;
  };
  void add(const Copy& copy);

  const TreeReader& tree_;
  RelPath context_;
  std::vector<Placed> placed_;  // in the order of the file: later ones replace
  Entry folder_;
  FileList none_;
};

}  // namespace yc::containers
