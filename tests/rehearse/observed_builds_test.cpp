// Kept observations: the last one of a command is given back, another form is passed over, a foreign one
// refused.
#include "rehearse/observed_builds.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <fstream>

#include "support/own_state.h"
#include "support/scratch_folder.h"

namespace yc::test {
namespace {

class ObservedBuilds : public ::testing::Test {
 protected:
  void SetUp() override {
    Observation one;
    one.command = "make";
    one.made = {RelPath::from_normal("tide")};
    ASSERT_TRUE(keep_observation(disk_, place_, one));
  }

  std::string kept_file() const { return place_.folder + "/observations/" + names()->front(); }
  Result<std::vector<std::string>> names() const { return disk_.list(place_.folder + "/observations"); }
  // Puts `text` in the place of the kept one, signed as by this user.
  void sign_and_write(const std::string& text) {
    auto state = State::open(disk_, place_);
    ASSERT_TRUE(state);
    std::ofstream(kept_file()) << state->sign(text) << "\n" << text << "\n";
  }

  ScratchFolder folder_;
  StatePlace place_{folder_.path(), folder_.path() + "/.yellow-compass", own_state()};
  mutable DiskFileSystem disk_{{folder_.path(), own_state()}};
};

TEST_F(ObservedBuilds, the_last_one_of_a_command_is_kept) {
  Observation again;
  again.command = "make";
  again.made = {RelPath::from_normal("ebb")};
  ASSERT_TRUE(keep_observation(disk_, place_, again));
  auto kept = kept_observations(disk_, place_);
  ASSERT_TRUE(kept);
  ASSERT_EQ(kept->size(), 1u);
  EXPECT_EQ(kept->front().made, again.made);
}

TEST_F(ObservedBuilds, what_another_version_kept_is_passed_over) {
  sign_and_write("{\"observation\": 99}");
  auto kept = kept_observations(disk_, place_);
  ASSERT_TRUE(kept) << kept.error().message;
  EXPECT_TRUE(kept->empty());
}

TEST_F(ObservedBuilds, what_nobody_here_signed_is_refused) {
  std::ofstream(kept_file(), std::ios::app) << "more\n";
  auto kept = kept_observations(disk_, place_);
  ASSERT_FALSE(kept);
  EXPECT_THAT(kept.error().message, ::testing::HasSubstr("not written by you"));
}

}  // namespace
}  // namespace yc::test
