// A temporary tree for one test, and the built program run in it. The folder bears the test's name.
#pragma once

#include <map>
#include <string>
#include <utility>
#include <vector>

namespace yc::test {

struct Outcome {
  int status = -1;
  std::string out;
  std::string err;
  std::string told;  // command, folder, status and both streams, for a failure's message
};

using Files = std::vector<std::pair<std::string, std::string>>;

class Workspace {
 public:
  Workspace();
  explicit Workspace(const Files& files);
  ~Workspace();
  Workspace(const Workspace&) = delete;
  Workspace& operator=(const Workspace&) = delete;

  const std::string& root() const { return root_; }
  void write(const std::string& path, const std::string& bytes);
  std::string read(const std::string& path) const;
  bool exists(const std::string& path) const;
  // Every file and folder with bytes and permissions; the program's own state and .git are left out.
  std::map<std::string, std::string> contents() const;

  Outcome shell(const std::string& command) const;               // in the root
  Outcome run(const std::vector<std::string>& arguments) const;  // the program, in the root

 private:
  std::string root_;
};

// Moves with a sheet, one "old -> new" a line. The build must succeed before the move and, from clean, after
// it; undo must give the tree back byte for byte. Returns what the program said.
Outcome expect_move_keeps_build(const Workspace& tree, const std::string& sheet, const std::string& build);
// The same, and what the program said must hold each of these lines.
Outcome expect_move_says(const Workspace& tree, const std::string& sheet,
                         const std::vector<std::string>& lines, const std::string& build);
// The move must be refused with status 3, name each of the texts, and leave the tree untouched.
Outcome expect_refusal(const Workspace& tree, const std::string& sheet,
                       const std::vector<std::string>& texts);

}  // namespace yc::test
