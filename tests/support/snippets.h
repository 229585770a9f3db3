// One small file of every format, each naming what the files beside it are called: seeds for tests that
// change them.
#pragma once

#include <string>
#include <utility>
#include <vector>

namespace yc::test {

using Snippet = std::pair<std::string, std::string>;  // path and content
const std::vector<Snippet>& snippets();
// The files that they name.
std::vector<Snippet> companions();

}  // namespace yc::test
