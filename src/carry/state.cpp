#include "carry/state.h"

#include <fmt/format.h>
#include <sodium.h>
#include <unistd.h>

#include <algorithm>

#include "tree/git_library.h"

namespace yc {

namespace {

constexpr std::string_view kStateMagic = "yellow-compass state 1 ";
constexpr std::size_t kNameSize = 32, kSignatureSize = 64;

std::string random_name() {
  unsigned char bytes[kNameSize / 2];
  randombytes_buf(bytes, sizeof bytes);
  return fmt::format("{:02x}", fmt::join(bytes, bytes + sizeof bytes, ""));
}

// What a state folder may hold that is not signed yet.
bool is_beginning(const std::string& name) {
  return name == ".gitignore" || name == "lock" || name == "signature.draft" || name == "rehearsals";
}

Error foreign(const std::string& folder, const std::string& what) {
  return Error{Failure::unsettled, folder, what + ", so its records are not believed",
               "look at what it holds, then move it away to go on without it"};
}

}  // namespace

Result<State> State::open(FileSystem& disk, const StatePlace& place) {
  State out;
  out.place_ = place;
  out.is_there_ = disk.exists(place.folder);
  if (out.is_there_) {
    auto info = disk.info(place.folder);
    if (!info) return info.error();
    if (info->kind != EntryKind::folder) return foreign(place.folder, "is no folder but a link or a file");
    if (info->owner != geteuid())
      return foreign(place.folder, fmt::format("belongs to another user (id {})", info->owner));
    if (is_tracked(place.root, place.folder)) return foreign(place.folder, "is tracked by version control");
  }
  std::string signature = place.folder + "/signature";
  bool is_signed = out.is_there_ && disk.exists(signature);
  if (out.is_there_ && !is_signed) {
    auto names = disk.list(place.folder);
    if (!names) return names.error();
    if (!std::all_of(names->begin(), names->end(), is_beginning))
      return foreign(place.folder,
                     "was not made by you on this machine: it came with the tree, or an older version "
                     "made it");
  }
  if (!is_signed) return out;
  if (Status ok = out.read_signature(disk); !ok) return ok.error();
  return out;
}

Status State::read_signature(FileSystem& disk) {
  std::string path = place_.folder + "/signature";
  auto seal = Seal::of(place_.user, place_.root, false);
  if (!seal && seal.error().failure == Failure::io)
    return foreign(place_.folder,
                   "was not made by you on this machine: no key of yours is at " + place_.user);
  if (!seal) return seal.error();
  auto info = disk.info(path);
  if (!info) return info.error();
  std::string text;
  if (info->kind == EntryKind::file &&
      info->size == kStateMagic.size() + kNameSize + 1 + kSignatureSize + 1) {
    auto bytes = disk.read(path);
    if (!bytes) return bytes.error();
    text = *bytes;
  }
  bool has_shape = text.size() == info->size && text.starts_with(kStateMagic) && text.back() == '\n';
  std::string name = has_shape ? text.substr(kStateMagic.size(), kNameSize) : "";
  if (!has_shape || !seal->fits("state " + name, std::string_view(text).substr(
                                                     kStateMagic.size() + kNameSize + 1, kSignatureSize)))
    return foreign(place_.folder, "was not made by you on this machine: its signature does not fit");
  seal_ = *seal;
  name_ = name;
  return {};
}

Status State::make(FileSystem& disk) const {
  if (!disk.exists(place_.folder)) {
    // Another program may do the same at this moment.
    Status made = disk.make_folder(place_.folder, 0);
    if (!made && !disk.exists(place_.folder)) return made;
  }
  // A state folder in the tree itself keeps out of version control by its own ignore file.
  if (last_name(place_.folder) == ".yellow-compass" && !disk.exists(place_.folder + "/.gitignore")) {
    Status made = disk.write_new(place_.folder + "/.gitignore", "*\n", 0644);
    if (!made && !disk.exists(place_.folder + "/.gitignore")) return made;
  }
  return {};
}

Status State::sign_folder(FileSystem& disk) {
  is_there_ = true;
  if (!name_.empty()) return {};
  // Perhaps it was signed while this program waited for the lock.
  if (disk.exists(place_.folder + "/signature")) return read_signature(disk);
  auto seal = Seal::of(place_.user, place_.root, true);
  if (!seal) return seal.error();
  std::string name = random_name(), draft = place_.folder + "/signature.draft";
  if (disk.exists(draft)) {
    if (Status ok = disk.remove_file(draft); !ok) return ok;
  }
  std::string text = std::string(kStateMagic) + name + " " + seal->sign("state " + name) + "\n";
  if (Status ok = disk.write_new(draft, text, 0600); !ok) return ok;
  if (Status ok = disk.rename_new(draft, place_.folder + "/signature"); !ok) return ok;
  if (Status ok = disk.sync_folder(place_.folder); !ok) return ok;
  seal_ = *seal;
  name_ = name;
  return {};
}

}  // namespace yc
