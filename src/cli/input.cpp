#include "cli/input.h"

#include <cstdio>
#include <filesystem>
#include <fstream>
#include <sstream>

namespace yc::cli {

Result<std::string> read_input(const std::string& name) {
  std::error_code error;
  if (name != "-" && std::filesystem::is_directory(name, error))
    return Error{Failure::usage, name, "is a folder, not a file", ""};
  std::ifstream file;
  if (name != "-") file.open(name, std::ios::binary);
  if (name != "-" && !file) return Error{Failure::usage, name, "cannot be read", ""};
  if (name != "-") {
    std::ostringstream text;
    text << file.rdbuf();
    // Nothing to read is no failure, though the stream calls it one.
    if (file.bad()) return Error{Failure::usage, name, "cannot be read", ""};
    return text.str();
  }
  std::string out;
  char buffer[4096];
  for (std::size_t got; (got = std::fread(buffer, 1, sizeof buffer, stdin)) > 0;) out.append(buffer, got);
  return out;
}

Status write_output(const std::string& name, const std::string& text) {
  if (name == "-") {
    std::fwrite(text.data(), 1, text.size(), stdout);
    return {};
  }
  // A link that came with the tree could lead anywhere; those of the system are for this.
  std::error_code error;
  bool is_system = name.starts_with("/dev/") || name.starts_with("/proc/");
  if (!is_system && std::filesystem::is_symlink(name, error))
    return Error{Failure::usage, name, "is a symbolic link, and nothing is written through one",
                 "name the file itself"};
  std::ofstream file(name, std::ios::binary);
  file << text;
  file.close();
  if (!file) return Error{Failure::io, name, "cannot be written", ""};
  return {};
}

}  // namespace yc::cli
