// Which side of each conditional a symbolic run takes. A script is run several times; over all runs every
// side of every conditional that was met is taken, however deep it is nested, in about as many runs as the
// widest of them has leaves. Where sides of several conditionals set one variable, of which a run would only
// see the last value, further runs take each of those sides without the others.
#pragma once

#include <functional>
#include <map>
#include <set>
#include <string>
#include <vector>

#include "model/graph.h"

namespace yc {

class BranchExplorer {
 public:
  // What runs are made for: each side, or also each value that a variable may have behind the conditionals.
  enum class Wanted : std::uint8_t { sides, values };
  explicit BranchExplorer(std::size_t most, Wanted wanted = Wanted::values) : most_(most), wanted_(wanted) {}
  // Begins one more run. False when there is nothing new to see, or after `most` runs.
  bool next();
  std::size_t runs() const { return runs_; }
  // The scripts in which sides of conditionals stand that no run has taken, or values that no run kept.
  std::set<FileIndex> left_out() const;
  // At a conditional: the side to run, from 0 to sides - 1. Each call needs its leave() once that side was
  // run.
  unsigned enter(Site site, unsigned sides);
  void leave();
  // Where in loops something stands: each loop, outermost first, and which of its rounds is being run.
  using Rounds = std::vector<std::pair<Site, std::size_t>>;
  // To be told of each value that a variable gets, where not added to the one it has. `matters` says whether
  // the value that it had before could lead anywhere, and is asked at most once for it. A variable that has
  // no value of its own here yet has the one of the first of `outer` that has: variables of the scopes
  // around.
  void set(const std::string& variable, const std::function<bool()>& matters, const Rounds& rounds = {},
           const std::vector<std::string>& outer = {});
  // To be told of each value that is made of the one before, or may be.
  void change(const std::string& variable);

 private:
  // A conditional is told apart by where it stands and how often this run has met it, as in a loop.
  using Key = std::pair<Site, unsigned>;
  struct Frame {
    Key key;
    unsigned side = 0;
    bool complete = true;  // every conditional inside was seen from all sides
  };
  using Side = std::pair<Key, unsigned>;
  using Branch = std::vector<Side>;  // the sides that lead to an assignment, outermost first
  // A run that has a variable keep the value of one assignment.
  struct Request {
    Branch hold;
    std::set<Side> avoid;
  };
  Branch way() const;
  bool is_set_in_any_case(const std::string& variable, const Branch& branch, int depth) const;
  bool is_set_on_all_sides(const std::string& variable, Branch branch, const Key& key, int depth) const;
  bool is_replaced_in_any_case(const std::string& variable, const Branch& before) const;
  void take_requests();
  bool go_where_one_is_untaken();

  static constexpr std::size_t kMostIdle = 3;  // runs in a row that see no new side
  std::size_t idle_ = 0, last_taken_ = 0;
  std::size_t in_vain_ = 0;  // runs in a row that went where a side is untaken, and took none
  std::size_t most_;
  Wanted wanted_;
  std::size_t runs_ = 0;
  bool seen_all_ = true;
  std::map<Key, std::vector<bool>> seen_;
  std::vector<std::vector<Side>> trails_;  // of each run the sides that it took, in their order
  // Where each conditional was met first: the run, and how many sides that had taken. A run that takes the
  // same ones gets there again, also where other sides return before it.
  std::map<Key, std::pair<std::size_t, std::size_t>> first_met_;
  std::set<Side> taken_;  // in any run
  std::set<Side> tried_;  // by a run of its own, that may not have got there
  std::map<Site, unsigned> met_;
  std::vector<Frame> open_;
  std::map<std::string, std::pair<Branch, Rounds>> last_;  // of each variable, in this run
  std::map<std::string, std::set<Branch>> setters_;        // of each variable, in all runs
  std::map<std::string, std::string> outer_;               // whose value a variable had at first
  // Values that were replaced: whether it mattered, and where that was first.
  struct Lost {
    bool matters = false;
    Branch by;
  };
  std::map<std::pair<std::string, Branch>, Lost> lost_;
  std::vector<std::pair<std::string, Branch>> pending_;
  std::vector<std::pair<std::string, Branch>> later_;  // the same, for when nothing else is left to see
  std::map<Key, unsigned> held_;                       // in this run
  std::set<Side> avoided_;
};

// Says of scripts that not every side of their conditionals was taken, so that they may name more than is
// known.
void tell_left_out(GraphBuilder& out, const std::set<FileIndex>& scripts);

}  // namespace yc
