#include "tree/repository_files.h"

#include <fmt/format.h>
#include <git2.h>
#include <sys/stat.h>

#include <cstdlib>
#include <filesystem>
#include <sstream>

#include "tree/beneath.h"

namespace yc {

namespace {

namespace fs = std::filesystem;

constexpr std::uint64_t kMostBytes = 16'000'000;  // of a settings file
constexpr int kMostIncludes = 10;                 // one in the other, as git has it

// What is said of a file that is there and no plain one, where `follows` says whether a link may lead to it.
std::string oddity(const fs::path& path, bool follows) {
  struct stat info {};
  if (lstat(path.c_str(), &info) != 0) return "";
  if (S_ISLNK(info.st_mode)) {
    if (!follows) return path.string() + " is a symbolic link";
    if (stat(path.c_str(), &info) != 0) return "";
  }
  if (S_ISREG(info.st_mode) || S_ISDIR(info.st_mode)) return "";
  return path.string() + " is a pipe, a socket or a device";
}

std::string first_line(const fs::path& path) {
  auto folder = Beneath::open(path.parent_path().string());
  auto text =
      folder ? read_beneath(*folder, path.filename().string(), 4096) : Result<std::string>(folder.error());
  return text ? text->substr(0, text->find_first_of("\r\n")) : "";
}

std::string full_path(const fs::path& path) {
  std::error_code error;
  return fs::weakly_canonical(path, error).string();
}

// The value in a line of settings: `key = value`, with or without quotes.
std::string value_of(const std::string& line) {
  std::size_t at = line.find('=');
  if (at == std::string::npos) return "";
  std::string out = line.substr(at + 1);
  out.erase(0, std::min(out.find_first_not_of(" \t\""), out.size()));
  out.erase(out.find_last_not_of(" \t\r\"") + 1);
  return out;
}

// Settings take other files in; each is looked at before the library opens it.
std::string settings_problem(const fs::path& file, int depth = 0) {
  if (std::string odd = oddity(file, depth > 0); !odd.empty()) return odd;
  std::error_code error;
  auto folder = Beneath::open(full_path(file.parent_path()));
  fs::path real = depth > 0 ? fs::path(full_path(file)) : file;
  if (depth > 0) folder = Beneath::open(real.parent_path().string());
  auto text = folder ? read_beneath(*folder, real.filename().string(), kMostBytes)
                     : Result<std::string>(folder.error());
  if (!text) return fs::exists(file, error) ? file.string() + " " + text.error().message : "";
  bool in_include = false;
  std::istringstream lines(*text);
  for (std::string line; std::getline(lines, line);) {
    std::size_t begin = line.find_first_not_of(" \t");
    if (begin == std::string::npos) continue;
    std::string low = line.substr(begin, 8);
    for (char& c : low) c = static_cast<char>(c >= 'A' && c <= 'Z' ? c + 32 : c);
    if (low[0] == '[') in_include = low == "[include";
    std::size_t equals = line.find('=');
    if (!in_include || equals == std::string::npos) continue;
    std::string value = value_of(line);
    const char* home = std::getenv("HOME");
    if (value.starts_with("~/")) value = (home ? home : "") + value.substr(1);
    if (value.empty()) continue;
    if (depth >= kMostIncludes) return file.string() + " takes in too many other settings";
    if (std::string odd = settings_problem(file.parent_path() / value, depth + 1); !odd.empty()) return odd;
  }
  return "";
}

// The value of core.worktree, read without the library, which would act on it.
std::string worktree_setting(const fs::path& file) {
  auto folder = Beneath::open(full_path(file.parent_path()));
  auto text = folder ? read_beneath(*folder, file.filename().string(), kMostBytes)
                     : Result<std::string>(folder.error());
  if (!text) return "";
  std::istringstream lines(*text);
  for (std::string line; std::getline(lines, line);) {
    std::size_t begin = line.find_first_not_of(" \t");
    if (begin != std::string::npos && line.compare(begin, 8, "worktree") == 0) return value_of(line);
  }
  return "";
}

// A `.git` file leads elsewhere. That place must know of this one, or any tree could have any repository
// written to: a further working tree's data name its `.git` file, a submodule's its folder.
std::string leads_back(const std::string& top, const fs::path& own) {
  std::string back = first_line(own / "gitdir");
  if (!back.empty() && full_path(own / back) == full_path(fs::path(top) / ".git")) return "";
  std::string worktree = worktree_setting(own / "config");
  if (!worktree.empty() && full_path(own / worktree) == full_path(top)) return "";
  return fmt::format(
      "{0}/.git leads to {1}, which does not know of this folder (if it is its own: git --git-dir={1} "
      "config core.worktree {0})",
      top, own.string());
}

}  // namespace

std::string repository_files_problem(const std::string& top, const std::string& folder) {
  for (fs::path up = folder;; up = up.parent_path()) {
    for (const char* name : {".gitignore", ".gitattributes"}) {
      if (std::string odd = oddity(up / name, true); !odd.empty()) return odd;
    }
    if (up == fs::path(top) || up == up.parent_path()) break;
  }
  fs::path own = fs::path(top) / ".git";
  if (std::string odd = oddity(own, false); !odd.empty()) return odd;
  std::error_code error;
  if (!fs::is_directory(own, error)) {
    constexpr std::string_view kHead = "gitdir: ";
    std::string line = first_line(own);
    if (!line.starts_with(kHead)) return "";  // the library says what it thinks of that
    own = full_path(fs::path(top) / line.substr(kHead.size()));
    if (!fs::is_directory(own, error)) return "";
    if (std::string other = leads_back(top, own); !other.empty()) return other;
  }
  fs::path common = own;
  if (std::string line = first_line(own / "commondir"); !line.empty()) common = full_path(own / line);
  for (const char* name : {"HEAD", "index", "commondir", "gitdir", "config.worktree"}) {
    if (std::string odd = oddity(own / name, false); !odd.empty()) return odd;
  }
  for (const char* name : {"config", "packed-refs", "objects", "refs", "info"}) {
    if (std::string odd = oddity(common / name, false); !odd.empty()) return odd;
  }
  for (const char* name : {"info/exclude", "info/attributes", "objects/info/alternates"}) {
    if (std::string odd = oddity(common / name, true); !odd.empty()) return odd;
  }
  if (std::string odd = settings_problem(common / "config"); !odd.empty()) return odd;
  // The library does not read them, and only this one would matter.
  fs::path further = own / "config.worktree";
  if (!worktree_setting(further).empty()) return further.string() + " sets another working tree";
  return settings_problem(further);
}

std::string configured_files_problem(git_repository* repository) {
  git_config* config = nullptr;
  if (git_repository_config_snapshot(&config, repository) != 0) return "";
  std::string out;
  for (const char* key : {"core.excludesfile", "core.attributesfile"}) {
    git_buf path = {};
    if (git_config_get_path(&path, config, key) == 0 && path.ptr && out.empty()) out = oddity(path.ptr, true);
    git_buf_dispose(&path);
  }
  git_config_free(config);
  return out;
}

}  // namespace yc
