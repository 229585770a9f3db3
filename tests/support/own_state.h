// The user's state folder while tests run: one for the process, gone with it, never that of the person who
// tests.
#pragma once

#include <string>

namespace yc::test {

// Where the program keeps its key (absolute). The first call makes it and has every program that is started
// from here use it.
const std::string& own_state();

}  // namespace yc::test
