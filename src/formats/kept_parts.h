// Parts of a reading that are used again where nothing they rest on has changed: in the tree that a move
// makes, and, with a shelf, in later runs of the program.
#pragma once

#include <list>
#include <map>
#include <memory>
#include <string>
#include <string_view>
#include <vector>

#include "base/part_shelf.h"
#include "formats/asked_tree.h"
#include "model/graph.h"

namespace yc {

class ArchiveTables;

// What a format made of one part of a tree.
struct KeptPart {
  Answers answers;
  ReferenceGraph graph;  // without its table of files: numbers are those of the table of all parts
  std::string more;      // what the format keeps beside it, packed
};

class KeptParts {
 public:
  explicit KeptParts(std::shared_ptr<PartShelf> shelf = nullptr);
  // The numbers of files in all parts.
  const std::shared_ptr<FileTable>& files() const { return files_; }
  std::uint64_t seed() const { return seed_; }
  // The part under a key that the tree would be read to once more; null if there is none.
  std::shared_ptr<const KeptPart> find(const std::string& key, const TreeReader& tree);
  std::shared_ptr<const KeptPart> keep(const std::string& key, KeptPart part);
  // For what formats pack (see graph_archive.h).
  ArchiveTables tables() const;

 private:
  std::shared_ptr<PartShelf> shelf_;
  std::shared_ptr<FileTable> files_ = std::make_shared<FileTable>();
  std::uint64_t seed_;
  struct Slot {
    bool is_loaded = false;               // from the shelf
    std::list<std::string> packed_parts;  // from there, and not looked into
    std::list<std::shared_ptr<const KeptPart>> parts;
  };
  std::map<std::string, Slot> slots_;
};

}  // namespace yc
