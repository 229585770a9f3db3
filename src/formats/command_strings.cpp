#include "formats/command_strings.h"

#include <algorithm>
#include <optional>
#include <set>

#include "formats/shell/command_line.h"
#include "formats/shell/programs.h"

namespace yc {

namespace {

constexpr std::size_t kLongest = 1000;  // bytes of a text that is looked at

bool may_be_command(const TracedText& text) {
  std::string plain = text.text();
  std::size_t blank = plain.find(' ');
  return plain.size() <= kLongest && blank != std::string::npos &&
         shell::may_start_own(std::string_view(plain).substr(0, blank)) &&
         plain.find_first_of("\n\r\t") == std::string::npos;
}

// Whether the first of the commands starts what is there: other texts with blanks and slashes are prose.
bool starts_what_is_there(const shell::Command& command, const TreeReader& tree) {
  auto at = shell::started_word(command);
  if (!at || command.words.size() < 2) return false;
  std::string text = command.words[*at].text.text();
  if (text.find_first_of("/.") == std::string::npos) return false;
  // "icons/pole.png is at the mouth" starts nothing.
  bool is_led_to = *at > 0 || text.starts_with("./") || text.starts_with("../");
  static const std::set<std::string_view> kScripts = {"", ".sh", ".bash", ".py", ".pl", ".rb", ".js"};
  if (!is_led_to && !kScripts.contains(ending_of(text))) return false;
  Place place = place_of(command.base.folder, text, command.base.space);
  const Entry* entry = place.space == Space::tree ? tree.find(place.path) : nullptr;
  return entry && !entry->ignored && entry->kind == EntryKind::file;
}

}  // namespace

std::vector<Reference> command_in_string(const TreeReader& tree, const RelPath& user, const TracedText& text,
                                         Site site, std::uint8_t format) {
  std::vector<Reference> out;
  if (!may_be_command(text)) return out;
  WritingStyle style = text.pieces().front().style;
  for (RelPath up = user.parent();; up = up.parent()) {
    std::vector<shell::Command> commands = shell::read(text, {up, kNoFile, Space::tree}, tree).commands;
    bool is_here = !commands.empty() && starts_what_is_there(commands.front(), tree);
    for (const shell::Command& command : is_here ? commands : std::vector<shell::Command>()) {
      for (Reference& reference : shell::pick(command, tree).references) {
        bool is_there = std::any_of(reference.targets.begin(), reference.targets.end(),
                                    [](const auto& target) { return target.kind == Target::Kind::tree; });
        if (!is_there || reference.is_pattern()) continue;
        reference.text = reference.text.through({}, style);
        reference.format = format;
        reference.construct = {site};
        reference.construct_part = ConstructPart::of(up);
        reference.certainty = Certainty::likely;
        reference.in_list = false;
        out.push_back(std::move(reference));
      }
    }
    if (is_here || up.is_root()) return out;
  }
}

bool wants_any_word(const GraphBuilder& out, std::string_view text) {
  for (std::size_t at = 0; at < text.size();) {
    std::size_t end = std::min(text.find(' ', at), text.size());
    if (out.wants_any_name(std::string(text.substr(at, end - at)))) return true;
    at = end + 1;
  }
  return false;
}

}  // namespace yc
