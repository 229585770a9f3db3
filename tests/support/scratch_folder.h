// A temporary folder for one test of the core.
#pragma once

#include <map>
#include <string>

namespace yc::test {

class ScratchFolder {
 public:
  ScratchFolder();
  ~ScratchFolder();
  ScratchFolder(const ScratchFolder&) = delete;
  ScratchFolder& operator=(const ScratchFolder&) = delete;

  const std::string& path() const { return path_; }
  void write(const std::string& name, const std::string& bytes) const;
  // Files with permissions and bytes, folders, links; the program's own state and .git are left out.
  std::map<std::string, std::string> contents() const;

 private:
  std::string path_;
};

std::map<std::string, std::string> folder_contents(const std::string& root);

}  // namespace yc::test
