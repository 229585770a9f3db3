#include "carry/seal.h"

#include <fcntl.h>
#include <fmt/format.h>
#include <sodium.h>
#include <sys/stat.h>
#include <unistd.h>

#include <cerrno>
#include <cstring>
#include <filesystem>

#include "base/handle.h"

namespace yc {

namespace {

namespace fs = std::filesystem;

Error seal_failure(const std::string& path, const std::string& what) {
  return Error{Failure::io, path, what + ": " + std::strerror(errno),
               "set XDG_STATE_HOME to a folder of yours outside of the tree"};
}

// Writes a new key under a name of its own, then gives it the name that counts: so a key is there whole or
// not at all, and of two programs that do it at once the first one's stays.
Status make_key(const std::string& folder, const std::string& name, std::size_t size) {
  std::error_code error;
  fs::create_directories(fs::path(folder).parent_path(), error);
  if (mkdir(folder.c_str(), 0700) != 0 && errno != EEXIST) return seal_failure(folder, "cannot be made");
  std::string key(size, '\0');
  randombytes_buf(key.data(), key.size());
  std::string draft = fmt::format("{}.{}", name, getpid());
  (void)unlink(draft.c_str());
  Handle file(open(draft.c_str(), O_WRONLY | O_CREAT | O_EXCL | O_NOFOLLOW | O_CLOEXEC, 0600));
  if (!file) return seal_failure(draft, "cannot be written");
  bool whole = write(file.get(), key.data(), key.size()) == static_cast<ssize_t>(key.size()) &&
               fsync(file.get()) == 0 && file.close() == 0;
  bool placed = whole && (link(draft.c_str(), name.c_str()) == 0 || errno == EEXIST);
  Status out = placed ? Status() : seal_failure(name, "cannot be written");
  (void)unlink(draft.c_str());
  if (Handle parent(open(folder.c_str(), O_RDONLY | O_DIRECTORY | O_CLOEXEC)); parent)
    (void)fsync(parent.get());
  return out;
}

}  // namespace

Result<Seal> Seal::of(const std::string& folder, const std::string& root, bool make) {
  if (sodium_init() < 0) return Error{Failure::io, folder, "no random numbers are to be had", ""};
  if (folder.empty() || folder.front() != '/')
    return Error{Failure::unsettled, folder, "is no place for the key that signs the records of moves",
                 "set HOME, or XDG_STATE_HOME, to a folder of yours"};
  std::error_code error;
  std::string full = fs::weakly_canonical(folder, error).string();
  if (full == root || full.starts_with(root == "/" ? root : root + "/"))
    return Error{Failure::unsettled, folder,
                 "holds the key that signs the records of moves, but lies in the tree",
                 "set XDG_STATE_HOME to a folder of yours outside of the tree"};
  std::string name = full + "/key";
  if (make && access(name.c_str(), F_OK) != 0) {
    if (Status ok = make_key(full, name, kBytes); !ok) return ok.error();
  }
  Handle file(open(name.c_str(), O_RDONLY | O_NOFOLLOW | O_NONBLOCK | O_CLOEXEC));
  struct stat info {};
  if (!file || fstat(file.get(), &info) != 0) return seal_failure(name, "cannot be read");
  if (!S_ISREG(info.st_mode) || info.st_uid != geteuid() || (info.st_mode & 077) != 0)
    return Error{Failure::unsettled, name, "signs the records of moves, but is not this user's alone",
                 "make it a file of yours with mode 600, or move it away to begin with a new key"};
  Seal out;
  if (read(file.get(), out.key_.data(), out.key_.size()) != static_cast<ssize_t>(kBytes))
    return Error{Failure::unsettled, name, "is no key: it is too short",
                 "move it away to begin with a new one; moves signed by the old one cannot be undone then"};
  return out;
}

std::string Seal::sign(std::string_view text) const {
  unsigned char out[crypto_generichash_BYTES];
  crypto_generichash(out, sizeof out, reinterpret_cast<const unsigned char*>(text.data()), text.size(),
                     key_.data(), key_.size());
  return fmt::format("{:02x}", fmt::join(out, out + sizeof out, ""));
}

bool Seal::fits(std::string_view text, std::string_view signature) const {
  std::string own = sign(text);
  return own.size() == signature.size() && sodium_memcmp(own.data(), signature.data(), own.size()) == 0;
}

}  // namespace yc
