#include "rehearse/observed_builds.h"

#include "base/hash.h"
#include "carry/lock.h"
#include "observe/observation_text.h"

namespace yc {

namespace {

std::string folder_of_build(const State& state) {
  return state.folder() + "/observations";
}

}  // namespace

Status keep_observation(FileSystem& disk, const StatePlace& place, const Observation& observation) {
  auto state = State::open(disk, place);
  if (!state) return state.error();
  if (Status ok = state->make(disk); !ok) return ok;
  auto lock = Lock::take(disk, state->folder());
  if (!lock) return lock.error();
  if (Status ok = state->sign_folder(disk); !ok) return ok;
  std::string folder = folder_of_build(*state);
  if (!disk.exists(folder)) {
    if (Status ok = disk.make_folder(folder, 0); !ok) return ok;
  }
  std::string path = folder + "/" + content_hash(observation.command), draft = path + ".draft";
  if (disk.exists(draft)) {
    if (Status ok = disk.remove_file(draft); !ok) return ok;
  }
  std::string text = observation_text(observation);
  if (Status ok = disk.write_new(draft, state->sign(text) + "\n" + text + "\n", 0600); !ok) return ok;
  return disk.rename(draft, path);
}

Result<std::vector<Observation>> kept_observations(FileSystem& disk, const StatePlace& place) {
  std::vector<Observation> out;
  auto state = State::open(disk, place);
  if (!state) return state.error();
  if (!state->is_there() || !disk.exists(folder_of_build(*state))) return out;
  auto names = disk.list(folder_of_build(*state));
  if (!names) return names.error();
  for (const std::string& name : *names) {
    if (name.ends_with(".draft")) continue;
    std::string path = folder_of_build(*state) + "/" + name;
    auto bytes = disk.read(path);
    if (!bytes) return bytes.error();
    std::size_t end = bytes->find('\n');
    std::string_view text = std::string_view(*bytes).substr(std::min(end, bytes->size() - 1) + 1);
    if (text.ends_with('\n')) text.remove_suffix(1);
    if (end == std::string::npos || !state->fits(text, std::string_view(*bytes).substr(0, end)))
      return Error{Failure::unsettled, path, "was not written by you on this machine, so it is not believed",
                   "delete it and rehearse again"};
    // What this user signed and cannot be read was kept by another version of this program.
    if (auto one = parse_observation(text, path)) out.push_back(std::move(*one));
  }
  return out;
}

}  // namespace yc
