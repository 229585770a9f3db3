#include "formats/unread_languages.h"

#include <gtest/gtest.h>

namespace yc::test {
namespace {

TEST(UnreadLanguages, scripts_are_no_sources_whatever_they_build) {
  for (const char* name : {"a.c", "web/a.ts", "intake/a.py", "Makefile_test.go"})
    EXPECT_TRUE(is_source_code(RelPath::from_normal(name))) << name;
  for (const char* name :
       {"Dockerfile.go", "deploy/Dockerfile.py", "Makefile.js", "a.cmake", "a", "Makefile", "a.json"})
    EXPECT_FALSE(is_source_code(RelPath::from_normal(name))) << name;
}

}  // namespace
}  // namespace yc::test
