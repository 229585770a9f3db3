// The state folder of a tree: where its journals are. Anybody can put such a folder into a tree, so it is
// believed only if this user made it on this machine.
#pragma once

#include <string>
#include <string_view>

#include "carry/file_system.h"
#include "carry/seal.h"

namespace yc {

struct StatePlace {
  std::string root;    // of the tree
  std::string folder;  // the state folder
  std::string user;    // the user's own state folder, outside of all trees
};

class State {
 public:
  // Failure::unsettled, with what to do, for a state folder that is a link, another user's, tracked by
  // version control, or not signed by this user's key. One that is not there is well.
  static Result<State> open(FileSystem& disk, const StatePlace& place);
  // Makes the folder if it is not there.
  Status make(FileSystem& disk) const;
  // Signs it if that is not done. The lock must be held.
  Status sign_folder(FileSystem& disk);

  bool is_there() const { return is_there_; }
  const StatePlace& place() const { return place_; }
  const std::string& folder() const { return place_.folder; }
  std::string journals() const { return place_.folder + "/journals"; }
  // Signatures hold for this state folder only.
  std::string sign(std::string_view text) const { return seal_.sign(name_ + "\n" + std::string(text)); }
  bool fits(std::string_view text, std::string_view signature) const {
    return seal_.fits(name_ + "\n" + std::string(text), signature);
  }

 private:
  Status read_signature(FileSystem& disk);

  StatePlace place_;
  Seal seal_;
  std::string name_;  // random, so that no other state folder has it; empty if it is not signed yet
  bool is_there_ = false;
};

}  // namespace yc
