// Asks the system whether anything happened in some folders since: Linux's inotify(7).
#pragma once

#include <memory>
#include <string>
#include <vector>

namespace yc {

// Folders that are watched for names that come and go, and for what is written into the files that they hold;
// not for what is written by another name of a file, elsewhere.
class FolderWatch {
 public:
  // `folders` are absolute. Null where the system does not tell, as of a network's file system that others
  // write to, or would not watch so many.
  static std::unique_ptr<FolderWatch> begin(const std::vector<std::string>& folders);
  ~FolderWatch();
  FolderWatch(const FolderWatch&) = delete;
  FolderWatch& operator=(const FolderWatch&) = delete;

  // Whether nothing happened since this was last asked, or since it began.
  bool is_quiet();

 private:
  explicit FolderWatch(int queue) : queue_(queue) {}
  int queue_;
};

}  // namespace yc
