#include "observe/observation.h"

#include "words/observe.h"

namespace yc {

std::string program_name(const ObservedProcess& process) {
  std::size_t slash = process.program.rfind('/');
  return slash == std::string::npos ? process.program : process.program.substr(slash + 1);
}

const ObservedProcess& as_called(const Observation& observation, const ObservedProcess& process) {
  const ObservedProcess* out = &process;
  while (out->parent >= 0 && words::observe::passes().contains(program_name(*out)))
    out = &observation.processes[static_cast<std::size_t>(out->parent)];
  return *out;
}

std::optional<RelPath> named_by(const ObservedProcess& process, std::string_view word) {
  if (word.starts_with(kObservedRoot))
    return RelPath::resolve({}, word.substr(std::min(kObservedRoot.size() + 1, word.size())));
  return process.folder ? RelPath::resolve(*process.folder, word) : std::nullopt;
}

std::string command_text(const ObservedProcess& process, std::size_t most) {
  std::string out;
  for (const std::string& word : process.arguments) {
    std::string next = out.empty() ? word : " " + word;
    if (out.size() + next.size() > most) {
      if (out.empty()) out = next.substr(0, most);
      return out + " …";
    }
    out += next;
  }
  return out;
}

}  // namespace yc
