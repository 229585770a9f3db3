#include "observe/watch.h"

#include <algorithm>
#include <filesystem>
#include <fstream>

#include "base/hash.h"
#include "observe/trace_reader.h"

namespace yc {

namespace {

namespace fs = std::filesystem;

// Calls by which a process starts another one, changes its folder, or names a file. Asking for a file is
// among them, since a build that looks for one in vain depends on that.
constexpr std::string_view kCalls[] = {
    "open",       "openat", "openat2", "creat",     "execve",     "execveat", "clone",
    "clone3",     "fork",   "vfork",   "chdir",     "fchdir",     "rename",   "renameat",
    "renameat2",  "link",   "linkat",  "symlink",   "symlinkat",  "stat",     "lstat",
    "newfstatat", "statx",  "access",  "faccessat", "faccessat2", "readlink", "readlinkat"};

}  // namespace

std::vector<std::string> watching(const std::string& log) {
  std::string calls;  // with "?", for not every machine has all of them
  for (std::string_view name : kCalls) calls += (calls.empty() ? "trace=?" : ",?") + std::string(name);
  // -y tells the folders that descriptors stand for; strings are cut off after -s bytes, lists of them
  // likewise.
  return {"strace", "-f", "--seccomp-bpf", "-q", "-y", "-s", "16384", "-e",
          calls,    "-e", "signal=none",   "-o", log,  "--"};
}

std::vector<RelPath> made_in(const std::string& folder, const TreeReader& tree) {
  std::vector<RelPath> out;
  std::error_code error;
  fs::recursive_directory_iterator entries(folder, fs::directory_options::skip_permission_denied, error);
  for (const fs::recursive_directory_iterator end; !error && entries != end; entries.increment(error)) {
    if (entries->is_directory(error) && !entries->is_symlink(error)) continue;
    std::string below = entries->path().string().substr(folder.size() + 1);
    RelPath path = RelPath::from_normal(below);
    if (!tree.find(path)) out.push_back(std::move(path));
  }
  std::sort(out.begin(), out.end());
  return out;
}

Result<Observation> observed(const std::string& command, const std::string& log, const std::string& folder,
                             const TreeReader& tree) {
  std::ifstream file(log, std::ios::binary);
  if (!file) return Error{Failure::io, log, "what the tracer saw cannot be read", ""};
  Observation out = read_trace(file, folder, tree);
  out.command = command;
  out.made = made_in(folder, tree);
  for (const ObservedProcess& process : out.processes) {
    for (const RelPath& path : process.read) {
      if (out.digests.contains(path)) continue;
      if (auto bytes = tree.read(path)) out.digests.emplace(path, content_hash(**bytes));
    }
  }
  return out;
}

}  // namespace yc
