// Parts of readings in a database of the user's, between runs of the program: docs/cache.md describes it.
#pragma once

#include <cstdint>
#include <functional>
#include <memory>
#include <string>

#include "base/part_shelf.h"

namespace yc {

class PartStore {
 public:
  // `file` is the database, which is made when it is needed first; an empty one keeps nothing. `program`
  // gives what tells programs apart, nothing if that is not known: what another one kept is dropped.
  PartStore(std::string file, std::function<std::string()> program);
  ~PartStore();
  PartStore(const PartStore&) = delete;
  PartStore& operator=(const PartStore&) = delete;

  // Whether the database is or would be in a tree, which it must not change.
  bool lies_in(const std::string& root) const;
  // For the readings of one tree. The store must outlive it.
  std::shared_ptr<PartShelf> shelf(const std::string& root);
  // Writes down what was kept; what comes after is not. False if that failed, and nothing was.
  bool close();

 private:
  class Database;
  class Shelf;
  Database* opened();

  std::string file_;
  std::function<std::string()> program_;
  bool is_tried_ = false;
  std::unique_ptr<Database> database_;
};

}  // namespace yc
