#include "carry/workshop.h"

#include <fmt/format.h>
#include <signal.h>
#include <sys/stat.h>
#include <unistd.h>

#include <cerrno>
#include <cstring>
#include <filesystem>
#include <fstream>
#include <iterator>

namespace yc {

namespace {

namespace fs = std::filesystem;
constexpr std::string_view kWorkshopHead = "work-";

void clear_dead(const std::string& user_folder) {
  std::error_code error;
  for (const auto& item : fs::directory_iterator(user_folder, error)) {
    std::string name = item.path().filename().string();
    int process = 0;
    if (!name.starts_with(kWorkshopHead) ||
        std::sscanf(name.c_str() + kWorkshopHead.size(), "%d-", &process) != 1)
      continue;
    if (process > 0 && kill(process, 0) != 0 && errno == ESRCH) fs::remove_all(item.path(), error);
  }
}

}  // namespace

Result<Workshop> Workshop::open(const std::string& user_folder) {
  clear_dead(user_folder);
  std::string name = fmt::format("{}/{}{}-XXXXXX", user_folder, kWorkshopHead, getpid());
  if (!mkdtemp(name.data()))
    return Error{Failure::io, name, std::string("cannot be made: ") + std::strerror(errno), ""};
  return Workshop(name);
}

Workshop::~Workshop() {
  std::error_code ignored;
  if (!folder_.empty()) fs::remove_all(folder_, ignored);
}

Result<std::string> Workshop::put(const std::string& name, const std::string& bytes) const {
  std::string path = folder_ + "/" + name;
  std::ofstream file(path, std::ios::binary);
  file << bytes;
  file.close();
  if (!file) return Error{Failure::io, path, "cannot be written", ""};
  return path;
}

Result<std::string> Workshop::get(const std::string& name) const {
  std::string path = folder_ + "/" + name;
  std::ifstream file(path, std::ios::binary);
  std::string out(std::istreambuf_iterator<char>(file), {});
  if (file.bad() || !file.is_open()) return Error{Failure::io, path, "cannot be read", ""};
  return out;
}

}  // namespace yc
