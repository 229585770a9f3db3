// What a build was seen to do: the processes it started, and what each of them read, looked for and wrote in
// the tree. Kept as docs/observations.md says.
#pragma once

#include <cstdint>
#include <map>
#include <optional>
#include <string>
#include <vector>

#include "base/path.h"

namespace yc {

// How the folder of the tree is spelled in the arguments of a process, wherever the build stood.
inline constexpr std::string_view kObservedRoot = "<tree>";

struct ObservedProcess {
  std::int32_t parent = -1;            // index in Observation::processes, always a smaller one
  bool is_started = false;             // it runs a program of its own, not the one that it was split off from
  std::string program;                 // from the root of the tree if it lies in it, else absolute
  std::vector<std::string> arguments;  // with the program's name as it was called
  std::optional<RelPath> folder;       // it was started in; nothing outside of the tree
  std::optional<int> status;           // with which it ended; nothing if a signal ended it
  // Sorted. What is read, listed and looked for in vain is of the tree as it was before the build; what is
  // written is any path within it.
  std::vector<RelPath> read;
  std::vector<RelPath> listed;
  std::vector<RelPath> missed;
  std::vector<RelPath> wrote;

  bool is_in_tree() const { return !program.empty() && program.front() != '/'; }
};

struct Observation {
  std::string command;
  std::vector<ObservedProcess> processes;  // in the order in which they began
  std::vector<RelPath> made;               // files that are there afterwards and were not before, sorted
  std::map<RelPath, std::string> digests;  // of the files of the tree that were read, as they were before
};

// The last part of the program's path.
std::string program_name(const ObservedProcess& process);
// The process that a person would name: for a pass of a compiler or a linker, what started it.
const ObservedProcess& as_called(const Observation& observation, const ObservedProcess& process);
// The path in the tree that a word of a process's arguments names; nothing if it names none.
std::optional<RelPath> named_by(const ObservedProcess& process, std::string_view word);
// The command of a process as a person would type it, cut off after about `most` bytes.
std::string command_text(const ObservedProcess& process, std::size_t most);

}  // namespace yc
