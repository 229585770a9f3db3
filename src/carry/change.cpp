#include "carry/change.h"

#include <fmt/format.h>

#include <algorithm>
#include <set>

namespace yc {

namespace {

class Transaction {
 public:
  Transaction(FileSystem& disk, std::string root, std::string scratch)
      : disk_(disk), root_(std::move(root)), scratch_(std::move(scratch)) {}

  Status run(const Change& change) {
    Status status = forward(change);
    if (status) return status;
    Error error = status.error();
    error.failure = Failure::io;
    std::string trouble = back();
    if (trouble.empty()) {
      error.next = "the tree is as it was; mend the cause and try again";
    } else {
      error.message += "; and taking it back failed: " + trouble;
      error.next = "the originals are kept beside the journal";
    }
    return error;
  }

 private:
  std::string at(const RelPath& path) const { return root_ + "/" + path.str(); }
  std::string scratch_name(const char* kind, std::size_t number) const {
    return fmt::format("{}/{}-{}", scratch_, kind, number);
  }

  Status forward(const Change& change) {
    if (Status ok = stage(change); !ok) return ok;
    for (const RelPath& folder : change.make) {
      if (Status ok = disk_.make_folder(at(folder)); !ok) return ok;
      undo_.push_back([this, folder] { return disk_.remove_folder(at(folder)); });
    }
    if (Status ok = rename_all(change.moves); !ok) return ok;
    for (std::size_t i = 0; i < change.contents.size(); ++i) {
      if (Status ok = publish(change.contents[i], i); !ok) return ok;
    }
    for (const RelPath& folder : change.remove) {
      if (Status ok = disk_.remove_folder(at(folder)); !ok) return ok;
      undo_.push_back([this, folder] { return disk_.make_folder(at(folder)); });
    }
    if (Status ok = sync(change); !ok) return ok;
    // From here on nothing is taken back; what is left of the old contents is in the journal.
    undo_.clear();
    for (const std::string& path : replaced_) (void)disk_.remove_file(path);
    return {};
  }

  Status stage(const Change& change) {
    for (std::size_t i = 0; i < change.contents.size(); ++i) {
      std::string name = scratch_name("new", i);
      undo_.push_back([this, name] { return disk_.exists(name) ? disk_.remove_file(name) : Status(); });
      if (Status ok = disk_.write_new(name, change.contents[i].bytes, change.contents[i].mode); !ok)
        return ok;
    }
    return {};
  }

  Status move_one(const std::string& from, const std::string& to) {
    if (disk_.exists(to)) return Error{Failure::io, to, "appeared meanwhile and is not overwritten", ""};
    if (Status ok = disk_.rename(from, to); !ok) return ok;
    undo_.push_back([this, from, to] { return disk_.rename(to, from); });
    return {};
  }

  // A file whose target is still taken by another mover waits in the scratch folder.
  Status rename_all(const std::vector<Move>& moves) {
    std::set<RelPath> sources;
    for (const Move& move : moves) sources.insert(move.from);
    std::vector<std::pair<std::string, RelPath>> waiting;
    std::vector<const Move*> direct;
    for (const Move& move : moves) {
      if (!sources.contains(move.to)) {
        direct.push_back(&move);
        continue;
      }
      std::string aside = scratch_name("aside", waiting.size());
      if (Status ok = move_one(at(move.from), aside); !ok) return ok;
      waiting.emplace_back(aside, move.to);
    }
    for (const Move* move : direct) {
      if (Status ok = move_one(at(move->from), at(move->to)); !ok) return ok;
    }
    for (const auto& [aside, to] : waiting) {
      if (Status ok = move_one(aside, at(to)); !ok) return ok;
    }
    return {};
  }

  Status publish(const NewContent& content, std::size_t number) {
    std::string aside = scratch_name("old", number);
    std::string path = at(content.path);
    if (Status ok = disk_.rename(path, aside); !ok) return ok;
    undo_.push_back([this, aside, path] { return disk_.rename(aside, path); });
    std::string staged = scratch_name("new", number);
    if (Status ok = disk_.rename(staged, path); !ok) return ok;
    undo_.push_back([this, staged, path] { return disk_.rename(path, staged); });
    replaced_.push_back(aside);
    return {};
  }

  Status sync(const Change& change) {
    std::set<RelPath> folders;
    for (const RelPath& folder : change.make) folders.insert(folder.parent());
    for (const Move& move : change.moves) folders.insert(move.to.parent());
    for (const NewContent& content : change.contents) folders.insert(content.path.parent());
    for (const RelPath& folder : folders) {
      std::string name = folder.is_root() ? root_ : at(folder);
      if (!disk_.exists(name)) continue;
      if (Status ok = disk_.sync_folder(name); !ok) return ok;
    }
    return {};
  }

  std::string back() {
    std::string trouble;
    for (auto step = undo_.rbegin(); step != undo_.rend(); ++step) {
      Status ok = (*step)();
      if (!ok && trouble.empty()) trouble = ok.error().place + " " + ok.error().message;
    }
    undo_.clear();
    return trouble;
  }

  FileSystem& disk_;
  std::string root_;
  std::string scratch_;
  std::vector<std::function<Status()>> undo_;
  std::vector<std::string> replaced_;
};

}  // namespace

Status apply_change(FileSystem& disk, const std::string& root, const std::string& scratch,
                    const Change& change) {
  return Transaction(disk, root, scratch).run(change);
}

}  // namespace yc
