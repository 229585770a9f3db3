// The kept form of an observation gives back what was put in, and refuses anything else.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "observe/observation_text.h"

namespace yc {
namespace {

using ::testing::HasSubstr;

Observation sample() {
  Observation out;
  out.command = "make \"all\"";
  ObservedProcess make;
  make.program = "/usr/bin/make";
  make.arguments = {"make", "all"};
  make.folder = RelPath();
  make.read = {RelPath::from_normal("Makefile"), RelPath::from_normal("na\xFFme\n\xC3\xA9")};
  make.status = 0;
  ObservedProcess cc;
  cc.parent = 0;
  cc.program = "tools/gen";
  cc.missed = {RelPath::from_normal("gone")};
  cc.wrote = {RelPath::from_normal("out.h")};
  cc.listed = {RelPath()};
  out.processes = {make, cc};
  out.made = {RelPath::from_normal("out.h")};
  out.digests = {{RelPath::from_normal("Makefile"), "0123"}};
  return out;
}

TEST(ObservationText, what_is_kept_comes_back) {
  Observation before = sample();
  std::string text = observation_text(before);
  EXPECT_EQ(text.find('\n'), std::string::npos);
  auto after = parse_observation(text, "here");
  ASSERT_TRUE(after) << after.error().message;
  EXPECT_EQ(observation_text(*after), text);
  ASSERT_EQ(after->processes.size(), 2u);
  EXPECT_EQ(after->processes[0].read, before.processes[0].read);
  EXPECT_EQ(after->processes[0].folder, RelPath());
  EXPECT_FALSE(after->processes[1].folder);
  EXPECT_EQ(after->processes[1].parent, 0);
  EXPECT_EQ(after->digests, before.digests);
  EXPECT_EQ(after->made, before.made);
}

TEST(ObservationText, every_cut_and_every_other_shape_is_refused) {
  std::string text = observation_text(sample());
  for (std::size_t size = 0; size < text.size(); ++size)
    EXPECT_FALSE(parse_observation(text.substr(0, size), "here")) << size;
  for (const char* other :
       {"[]", "{}", "3", R"({"observation":2})", R"({"observation":"1"})",
        R"({"observation":1,"command":"a","processes":[{"parent":0}],"made":[],"digests":[],"texts":[]})",
        R"({"observation":1,"command":"a","processes":[],"made":[3],"digests":[],"texts":["a"]})",
        R"({"observation":1,"command":"a","processes":[],"made":[0],"digests":[],"texts":["../a"]})",
        R"({"observation":1,"command":"a","processes":[],"made":[0],"digests":[],"texts":["/a"]})",
        R"({"observation":1,"command":"a","processes":[],"made":[-1],"digests":[],"texts":["a"]})",
        R"({"observation":1,"command":"a","processes":[],"made":[],"digests":[[0]],"texts":["a"]})"}) {
    auto refused = parse_observation(other, "here");
    ASSERT_FALSE(refused) << other;
    EXPECT_EQ(refused.error().place, "here");
    EXPECT_THAT(refused.error().next, HasSubstr("rehearse"));
  }
}

}  // namespace
}  // namespace yc
