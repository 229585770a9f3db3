// Names below a folder that is held open, reached without following a link anywhere on the way. So nothing
// outside that folder can be named: not by a link that came with a tree, nor by one that somebody puts on the
// way meanwhile.
#pragma once

#include <string>

#include "base/handle.h"
#include "base/result.h"

namespace yc {

class Beneath {
 public:
  Beneath() = default;
  // Holds `folder` open, which is absolute and canonical: where a link is on the way to it by now, it fails.
  static Result<Beneath> open(const std::string& folder);

  // Opens `below`, a path without `.`, `..` or empty parts; the folder itself if it is empty. `flags` are
  // those of open(2). What is no plain file is opened without waiting for another program. On failure the
  // handle is none, and errno says why: ELOOP for a link on the way.
  Handle open_at(const std::string& below, int flags) const;
  // The folder that `below` stands in, for calls that take a folder and a name in it.
  Handle parent_of(const std::string& below) const;

  const std::string& folder() const { return folder_; }

 private:
  std::string folder_;
  Handle handle_;
};

// The last part of a path.
std::string last_name(const std::string& path);
// What errno says, in the words of a message; a link on the way is named as such.
std::string why_not_opened(int error);

// All bytes of a plain file beneath a folder, or the text of a link. Anything else (a pipe, a device, a
// socket) is an error, as is a file of more than `limit` bytes.
Result<std::string> read_beneath(const Beneath& from, const std::string& below, std::uint64_t limit);

}  // namespace yc
