#include "report/edited_lines.h"

#include <algorithm>

#include "base/utf16.h"
#include "report/positions.h"

namespace yc::report {

namespace {

std::vector<std::string> numbered_lines(std::string_view text) {
  std::vector<std::string> out;
  while (!text.empty()) {
    std::size_t end = std::min(text.find('\n'), text.size());
    std::string_view line = text.substr(0, end);
    if (!line.empty() && line.back() == '\r') line.remove_suffix(1);
    out.emplace_back(line);
    text.remove_prefix(std::min(end + 1, text.size()));
  }
  return out;
}

// Lines of little-endian UTF-16, which were parted behind the first byte of each line's end, in UTF-8.
void narrow(std::vector<std::string>& lines) {
  constexpr std::string_view kMark = "\xFF\xFE";
  for (std::string& line : lines) {
    std::string_view units = line;
    if (units.starts_with('\0')) units.remove_prefix(1);
    if (units.starts_with(kMark)) units.remove_prefix(kMark.size());
    if (auto text = read_utf16(std::string(kMark) + std::string(units))) {
      line = std::move(text->text);
      if (line.ends_with('\r')) line.pop_back();
    }
  }
}

void drop_common(EditedLines& lines) {
  while (!lines.before.empty() && !lines.after.empty() && lines.before.front() == lines.after.front()) {
    lines.before.erase(lines.before.begin());
    lines.after.erase(lines.after.begin());
    ++lines.line;
  }
  while (!lines.before.empty() && !lines.after.empty() && lines.before.back() == lines.after.back()) {
    lines.before.pop_back();
    lines.after.pop_back();
  }
}

}  // namespace

std::vector<EditedLines> edited_lines(const Plan& plan, const TreeReader& tree) {
  std::vector<EditedLines> out;
  const Positions positions(tree);
  for (std::size_t i = 0; i < plan.edit_list.size();) {
    const RelPath& file = plan.edit_list[i].file;
    auto bytes = tree.read(file);
    if (!bytes) {
      ++i;
      continue;
    }
    const std::string& text = **bytes;
    auto line_begin = [&](std::size_t at) {
      std::size_t cut = at == 0 ? std::string::npos : text.rfind('\n', at - 1);
      return cut == std::string::npos ? 0 : cut + 1;
    };
    auto line_end = [&](std::size_t at) { return std::min(text.find('\n', at), text.size()); };
    std::size_t begin = line_begin(plan.edit_list[i].span.begin);
    std::size_t end = line_end(plan.edit_list[i].span.end);
    EditedLines lines;
    lines.file = file;
    lines.line = positions.at(file, static_cast<std::uint32_t>(begin)).value_or(Position()).line;
    lines.likely = true;
    std::string after;
    std::size_t at = begin;
    while (i < plan.edit_list.size() && plan.edit_list[i].file == file &&
           plan.edit_list[i].span.begin <= end) {
      const PlannedEdit& edit = plan.edit_list[i];
      after += text.substr(at, edit.span.begin - at) + edit.after;
      at = edit.span.end;
      end = std::max(end, line_end(edit.span.end));
      lines.likely = lines.likely && edit.likely;
      ++i;
    }
    after += text.substr(at, end - at);
    lines.before = numbered_lines(text.substr(begin, end - begin));
    lines.after = numbered_lines(after);
    if (text.starts_with("\xFF\xFE")) narrow(lines.before), narrow(lines.after);
    drop_common(lines);
    out.push_back(std::move(lines));
  }
  return out;
}

}  // namespace yc::report
