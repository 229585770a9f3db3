#include "plan/indexes.h"

#include <algorithm>
#include <map>

#include "formats/capabilities/companions.h"
#include "formats/format.h"

namespace yc {

namespace {

// What a forwarder says without the comment that begins it.
std::string without_comment(const std::string& text) {
  std::size_t end = text.find('\n');
  return text.starts_with("//") && end != std::string::npos ? text.substr(end + 1) : text;
}

// Whether a file has lines that hand on, comments and nothing else.
bool only_hands_on(std::string_view bytes) {
  bool any = false;
  for (std::size_t at = 0; at < bytes.size();) {
    std::size_t end = std::min(bytes.find('\n', at), bytes.size());
    std::string_view line = bytes.substr(at, end - at);
    at = end + 1;
    bool hands_on = line.starts_with("export * from ") || line.starts_with("export {") ||
                    line.starts_with("export type {") || line.starts_with("@forward ");
    bool is_blank_line = line.find_first_not_of(" \t\r") == std::string_view::npos;
    if (!hands_on && !is_blank_line && !line.starts_with("//")) return false;
    any = any || hands_on;
  }
  return any;
}

}  // namespace

Indexes leave_indexes(const TreeReader& tree, const MoveSet& moves) {
  Indexes out;
  std::map<RelPath, std::string> added;  // to indexes that are there
  for (const Move& move : moves.files()) {
    auto bytes = tree.read(move.from);
    RelPath folder = move.to.parent();
    if (!bytes || folder.is_root() || folder == move.from.parent()) continue;
    // The module that the folder would be, if it were one file.
    RelPath as_file = RelPath::from_normal(folder.str() + std::string(move.from.extension()));
    for (const auto& format : all_that_offer<Forwarding>()) {
      RelPath index = format->forwarder_place(as_file, move.to);
      bool stays = moves.unmap_file(index) == index && index != as_file && index != move.to;
      auto text = stays ? format->forwarder(tree, as_file, move.to, **bytes) : std::nullopt;
      if (!text) continue;
      std::string line = without_comment(*text);
      auto there = tree.read(index);
      if (!tree.find(index) && move.from == as_file) {
        out.changes.made[index] = std::move(line);
        out.changes.stand_ins[index] = move.to;
      } else if (there && tree.is_editable(index) && only_hands_on(**there) &&
                 (*there)->find(line) == std::string::npos) {
        added[index] += line;
      }
    }
  }
  for (auto& [index, lines] : added) {
    auto there = tree.read(index);
    auto end = static_cast<std::uint32_t>((*there)->size());
    bool is_open = end > 0 && !(*there)->ends_with("\n");
    out.edits.push_back({index, {end, end}, (is_open ? "\n" : "") + lines});
  }
  return out;
}

}  // namespace yc
