#include "formats/shell/command_output.h"

namespace yc::shell {

namespace {

constexpr std::string_view kOpen = "$(dirname ";

std::optional<TracedText> working_folder(const Command& command) {
  if (!command.base_known || command.base.space != Space::tree) return std::nullopt;
  std::string folder = marked(Space::tree, command.base.folder);
  if (command.base.anchor == kNoFile) return TracedText::plain(folder);
  return TracedText::folder(Piece::Nature::tree_folder, command.base.anchor, folder);
}

}  // namespace

bool only_says_where(std::string_view program) {
  return program == "dirname" || program == "basename" || program == "realpath" || program == "readlink";
}

std::optional<TracedText> folder_above(const TracedText& path) {
  std::string text = path.text();
  if (path.has_hole() || !text.starts_with(kTreeMark)) return std::nullopt;
  // Of a folder that is all there is to it one climbs; the name of what lies in one goes.
  if (text.ends_with(kOwnName)) return path.substr(0, text.size() - kOwnName.size() - 1);
  bool is_bare = path.pieces().back().nature == Piece::Nature::tree_folder || text.ends_with("/..");
  if (!is_bare) return std::nullopt;
  TracedText out = path;
  out.append(TracedText::plain("/.."));
  return out;
}

std::optional<TracedText> output_of(const Command& command) {
  std::string name = command.name();
  if (name == "pwd") return working_folder(command);
  bool is_path = name == "dirname" || name == "realpath" || name == "readlink";
  if (!is_path || command.words.size() < 2) return std::nullopt;
  const TracedText& last = command.words.back().text;
  bool is_folder = !last.has_hole() && !last.empty() && last.text().starts_with(kTreeMark);
  if (!is_folder) return std::nullopt;
  return name == "dirname" ? folder_above(last) : last;
}

std::optional<std::string> climbing(std::string_view expression, int more) {
  auto inside = [](std::string_view text) -> std::optional<std::string> {
    if (!text.starts_with(kOpen) || !text.ends_with(')')) return std::nullopt;
    text = text.substr(kOpen.size(), text.size() - kOpen.size() - 1);
    bool is_quoted = text.size() > 2 && text.front() == '"' && text.back() == '"';
    if (is_quoted) text = text.substr(1, text.size() - 2);
    return text.starts_with("$") ? std::optional(std::string(text)) : std::nullopt;
  };
  std::string out(expression);
  if (!inside(out)) return std::nullopt;
  for (; more > 0; --more) out = std::string(kOpen) + "\"" + out + "\")";
  for (; more < 0; ++more) {
    auto fewer = inside(out);
    if (!fewer) return std::nullopt;
    out = std::move(*fewer);
  }
  return out;
}

}  // namespace yc::shell
