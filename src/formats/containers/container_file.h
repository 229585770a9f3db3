// Container files ("Dockerfile reference"): which words of them name files of the build context.
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "base/span.h"
#include "base/traced_text.h"

namespace yc::containers {

// How a word is written: as it stands, or in a JSON array.
inline constexpr WritingStyle kWord = 80, kJson = 81;

struct Source {
  TracedText text;         // from the context's folder; variables are holes
  std::uint32_t site = 0;  // of its instruction
};

// What one instruction copies, as far as its words are plain.
struct Copy {
  std::vector<std::string> sources;  // from the context's folder
  std::string to;                    // in the container, from its root
  bool is_into = false;              // it is a folder for sure
};

// A command that is run in the container.
struct Run {
  TracedText line;                // for a shell; or
  std::vector<TracedText> words;  // a JSON array
  std::uint32_t site = 0;
  std::string folder;         // that it is run in, from the container's root
  std::vector<Copy> copies;   // what lies in the container then
  bool is_as_context = true;  // some of it lies there as it does in the context
};

struct ContainerFile {
  std::vector<Source> sources;  // of COPY and ADD that take no other stage and no address, and of bind mounts
  std::vector<Source> destinations;  // that repeat where the source lies
  // Where later instructions name such a destination: as a folder of work, in a command, as what another
  // stage takes over. What follows the destination in the path may be made in the container.
  std::vector<Source> uses;
  std::vector<Run> runs;
};
ContainerFile read_container_file(std::string_view bytes, FileIndex file);
// By its name.
bool is_container_file(std::string_view name);

}  // namespace yc::containers
