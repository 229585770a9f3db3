// Random small C projects in memory, and an independent reading of what they mean.
#pragma once

#include <map>
#include <random>
#include <set>
#include <string>
#include <vector>

#include "plan/plan.h"
#include "tree/memory_tree.h"
#include "tree/moves.h"

namespace yc::test {

enum class BuildKind { make, cmake };

struct GeneratedProject {
  MemoryTree tree;
  std::vector<RelPath> files;  // sources and headers
};

// Sources and headers in a few folders, includes spelled in several ways, one script at the root. Every file
// holds a marker of its own, by which it is known wherever it goes.
GeneratedProject generate(unsigned seed, BuildKind kind);

// A request that a person might make: files or folders to other places, renamed, swapped.
std::vector<Move> random_moves(const GeneratedProject& project, std::mt19937& random);

// Who leads to whom, by markers: "script" to each source it compiles, each file to what it includes. Written
// without the product's readers: it knows only the shapes that generate() makes.
using Meaning = std::map<std::string, std::multiset<std::string>>;
Meaning meaning(const TreeReader& tree, BuildKind kind);

std::map<std::string, std::string> contents(const TreeReader& tree);
// The planned tree as a tree of its own.
MemoryTree carried_out(const TreeReader& tree, const Plan& plan);

}  // namespace yc::test
