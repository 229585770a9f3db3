#include "cli/input.h"

#include <cstdio>
#include <fstream>
#include <iterator>

namespace yc::cli {

Result<std::string> read_input(const std::string& name) {
  std::ifstream file;
  if (name != "-") file.open(name, std::ios::binary);
  if (name != "-" && !file) return Error{Failure::usage, name, "cannot be read", ""};
  if (name != "-") return std::string(std::istreambuf_iterator<char>(file), {});
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
  std::ofstream file(name, std::ios::binary);
  file << text;
  file.close();
  if (!file) return Error{Failure::io, name, "cannot be written", ""};
  return {};
}

}  // namespace yc::cli
