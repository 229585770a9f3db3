#include "formats/json/json_members.h"

#include <algorithm>

#include "base/text.h"

namespace yc::json {

namespace {

std::vector<const Member*> children_of(const std::vector<Member>& members, const Member& object) {
  std::vector<const Member*> out;
  for (const Member& one : members) {
    bool is_child = one.path.size() == object.path.size() + 1 && object.value.begin < one.value.begin &&
                    one.value.end <= object.value.end;
    if (is_child) out.push_back(&one);
  }
  return out;
}

std::string line_end_of(std::string_view bytes) {
  return bytes.find("\r\n") != std::string_view::npos ? "\r\n" : "\n";
}

// The value with its later lines as far in as `indent`.
std::string laid_out(std::string_view bytes, const std::string& value, const std::string& indent) {
  std::string out;
  for (char c : value) out += c == '\n' ? line_end_of(bytes) + indent : std::string(1, c);
  return out;
}

// Nothing but blanks stands before a place on its line.
bool begins_line(std::string_view bytes, std::size_t at) {
  std::size_t begin = line_begin(bytes, at);
  return bytes.substr(begin, at - begin).find_first_not_of(" \t") == std::string_view::npos;
}

std::string indent_of(std::string_view bytes, std::size_t at) {
  std::size_t begin = line_begin(bytes, at);
  std::size_t first = std::min(bytes.find_first_not_of(" \t", begin), bytes.size());
  return std::string(bytes.substr(begin, first - begin));
}

}  // namespace

const Member* member_at(const std::vector<Member>& members, const std::vector<std::string>& path) {
  auto at = std::find_if(members.begin(), members.end(), [&](const Member& one) { return one.path == path; });
  return at == members.end() ? nullptr : &*at;
}

std::string indent_step(std::string_view bytes) {
  std::vector<Member> all = members(bytes);
  for (const Member& one : all) {
    if (one.path.size() == 1 && one.key.size() > 0 && begins_line(bytes, one.key.begin))
      return indent_of(bytes, one.key.begin);
  }
  return "  ";
}

std::optional<Edit> put_member(const RelPath& file, std::string_view bytes,
                               const std::vector<std::string>& object, const std::string& name,
                               const std::string& value) {
  std::vector<Member> all = members(bytes);
  const Member* into = member_at(all, object);
  if (!into || bytes[into->value.begin] != '{' || bytes[into->value.end - 1] != '}') return std::nullopt;
  std::vector<const Member*> others = children_of(all, *into);
  std::string entry = "\"" + escaped(name).value_or(name) + "\": ";
  if (others.empty()) {
    std::string outer = indent_of(bytes, into->value.begin), inner = outer + indent_step(bytes);
    std::string line = line_end_of(bytes);
    return Edit{file, into->value,
                "{" + line + inner + entry + laid_out(bytes, value, inner) + line + outer + "}"};
  }
  const Member* last = nullptr;  // that stands before it
  bool in_order = std::is_sorted(others.begin(), others.end(), [](const Member* one, const Member* other) {
    return one->path.back() < other->path.back();
  });
  for (const Member* one : others) {
    if (one->path.back() == name) return std::nullopt;
    if (!in_order || one->path.back() < name) last = one;
  }
  const Member& like = last ? *last : *others.front();
  bool own_line = begins_line(bytes, like.key.begin);
  std::string indent = own_line ? indent_of(bytes, like.key.begin) : "";
  std::string text = entry + laid_out(bytes, value, indent);
  std::string gap = own_line ? line_end_of(bytes) + indent : " ";
  if (last) return Edit{file, {last->value.end, last->value.end}, "," + gap + text, text};
  return Edit{file, {like.key.begin, like.key.begin}, text + "," + gap, text};
}

std::optional<Edit> put_in_section(const RelPath& file, std::string_view bytes,
                                   const std::vector<std::string>& section, const std::string& name,
                                   const std::string& value) {
  std::vector<Member> all = members(bytes);
  if (section.empty() || member_at(all, section)) return put_member(file, bytes, section, name, value);
  std::vector<std::string> around(section.begin(), section.end() - 1);
  const Member* into = member_at(all, around);
  if (!into || bytes[into->value.begin] != '{') return std::nullopt;
  std::string own = "{\n" + indent_step(bytes) + "\"" + escaped(name).value_or(name) + "\": " + value + "\n}";
  // Sections have no order by name; the new one goes to the end.
  std::vector<const Member*> others = children_of(all, *into);
  if (others.empty()) return put_member(file, bytes, around, section.back(), own);
  const Member& last = *others.back();
  std::string indent = indent_of(bytes, last.key.begin);
  return Edit{
      file,
      {last.value.end, last.value.end},
      "," + line_end_of(bytes) + indent + "\"" + section.back() + "\": " + laid_out(bytes, own, indent),
      name};
}

std::optional<Edit> drop_member(const RelPath& file, std::string_view bytes,
                                const std::vector<std::string>& path) {
  std::vector<Member> all = members(bytes);
  const Member* gone = member_at(all, path);
  if (!gone || path.empty()) return std::nullopt;
  const Member* around = member_at(all, {path.begin(), path.end() - 1});
  std::vector<const Member*> others = around ? children_of(all, *around) : std::vector<const Member*>();
  auto at = std::find(others.begin(), others.end(), gone);
  if (at == others.end()) return std::nullopt;
  auto begin_of = [](const Member& one) { return one.key.size() > 0 ? one.key.begin : one.value.begin; };
  if (others.size() == 1) return Edit{file, {around->value.begin + 1, around->value.end - 1}, ""};
  // From behind the one before it, or up to the one behind it.
  if (at != others.begin()) return Edit{file, {(*(at - 1))->value.end, gone->value.end}, ""};
  return Edit{file, {begin_of(*gone), begin_of(**(at + 1))}, ""};
}

}  // namespace yc::json
