#include "formats/shell/working_folder.h"

#include <algorithm>

namespace yc::shell {

namespace {

// The word that tells cd where to go, behind its options; null if there is none.
const TracedText* told_folder(const Command& command) {
  for (std::size_t i = 1; i < command.words.size(); ++i) {
    std::string text = command.words[i].text.text();
    bool is_option = text == "--" || text == "-P" || text == "-L" || text == "-e";
    if (!is_option) return &command.words[i].text;
  }
  return nullptr;
}

}  // namespace

void WorkingFolder::leave_subshell() {
  if (subshells_.empty()) return;
  std::tie(base_, is_known_, rounds_) = subshells_.back();
  subshells_.pop_back();
}

void WorkingFolder::leave_loop() {
  if (--loops_ < loop_of_rounds_) rounds_.clear();
}

void WorkingFolder::follow(const Command& command) {
  std::string name = command.name();
  Where before = here();
  bool back = name == "cd" && command.words.size() == 2 && command.words[1].text.text() == "-";
  if (name == "pushd") pushed_.push_back(before);
  if (back) {
    std::tie(base_, is_known_, rounds_) = last_;
  } else if (name == "cd" || name == "pushd") {
    change(command);
  } else if (name == "popd") {
    if (pushed_.empty()) {
      is_known_ = false;
    } else {
      std::tie(base_, is_known_, rounds_) = pushed_.back();
      pushed_.pop_back();
    }
  } else {
    return;
  }
  last_ = before;
}

void WorkingFolder::change(const Command& command) {
  std::vector<Command> each = command.by_round();
  const TracedText* first = told_folder(each.front());
  // "$run" may stand for cd in one round, and for another program in the next.
  if (!first) {
    is_known_ = false;
    return;
  }
  if (each.size() > 1 && rounds_.empty()) {
    rounds_.assign(each.size() - 1, base_);
    loop_of_rounds_ = loops_;
  }
  for (std::size_t i = 0; i < rounds_.size(); ++i) {
    const TracedText* word = told_folder(each[std::min(i + 1, each.size() - 1)]);
    if (rounds_[i]) rounds_[i] = word ? folder_from(*rounds_[i], *word) : std::nullopt;
  }
  auto folder = folder_from(base_, *first);
  // From anywhere, where it is a whole path.
  bool is_whole = first->text().starts_with(kTreeMark);
  is_known_ = (is_known_ || is_whole) && folder;
  if (folder) base_ = *folder;
  bool is_one = std::all_of(rounds_.begin(), rounds_.end(), [&](const std::optional<Base>& round) {
    return round && round->folder == base_.folder && round->space == base_.space;
  });
  if (is_one) rounds_.clear();
}

std::optional<Base> WorkingFolder::folder_from(const Base& base, const TracedText& word) const {
  if (word.has_hole()) return std::nullopt;
  Place place = place_of(base.folder, word.text(), base.space);
  if (place.space == Space::outside) return std::nullopt;
  bool own = script_ && place.space == Space::tree && place.path == script_->folder;
  return Base{place.path, own ? script_->anchor : kNoFile, place.space};
}

}  // namespace yc::shell
