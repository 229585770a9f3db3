// A folder of the user's own, outside of all trees, in which a library that works on files by their names can
// do so: nobody else can put a link there. Gone with the object.
#pragma once

#include <string>

#include "base/result.h"

namespace yc {

class Workshop {
 public:
  // In the user's state folder (absolute). What a program that died left there is cleared away.
  static Result<Workshop> open(const std::string& user_folder);
  ~Workshop();
  Workshop(Workshop&& other) noexcept : folder_(std::move(other.folder_)) { other.folder_.clear(); }
  Workshop(const Workshop&) = delete;
  Workshop& operator=(const Workshop&) = delete;
  Workshop& operator=(Workshop&&) = delete;

  // The path of a file there that holds these bytes.
  Result<std::string> put(const std::string& name, const std::string& bytes) const;
  Result<std::string> get(const std::string& name) const;

 private:
  explicit Workshop(std::string folder) : folder_(std::move(folder)) {}
  std::string folder_;
};

}  // namespace yc
