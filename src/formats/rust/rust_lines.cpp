#include "formats/rust/rust_lines.h"

#include <algorithm>

#include "base/text.h"
#include "formats/rust/rust_attributes.h"

namespace yc::rust {

namespace {

using LineReach = Visibility::Reach;

std::string joined(const ModulePath& path) {
  std::string out = "crate";
  for (const std::string& name : path) out += "::" + name;
  return out;
}

ModulePath common_head(const ModulePath& a, const ModulePath& b) {
  auto ends = std::mismatch(a.begin(), a.end(), b.begin(), b.end());
  return {a.begin(), ends.first};
}

// Where "mod" or "pub" begins, behind attributes and documentation.
std::uint32_t keyword_at(const Source& source, const ModuleLine& line) {
  if (line.visibility.span.size() > 0) return line.visibility.span.begin;
  return static_cast<std::uint32_t>(source.bytes->rfind("mod", line.name.begin));
}

bool is_blank_line(std::string_view text, std::size_t begin) {
  std::size_t end = text.find_first_not_of(" \t\r", begin);
  return end != std::string_view::npos && text[end] == '\n';
}

// The whole lines of a module line, with a comment behind it, if nothing else stands in them.
Span lines_named(std::string_view text, Span whole) {
  std::size_t begin = line_begin(text, whole.begin);
  if (!trimmed(text.substr(begin, whole.begin - begin)).empty()) return whole;
  std::size_t end = std::min(text.find('\n', whole.end), text.size());
  std::string_view rest = trimmed(text.substr(whole.end, end - whole.end));
  if (!rest.empty() && !rest.starts_with("//")) return whole;
  end = std::min(end + 1, text.size());
  // Of two blank lines one is enough.
  bool is_blank_before = begin == 0 || is_blank_line(text, line_begin(text, begin - 1));
  if (is_blank_before && end < text.size() && is_blank_line(text, end)) end = text.find('\n', end) + 1;
  return span_of(begin, end);
}

// Behind what a source says of itself: a licence, its documentation, its attributes.
std::size_t behind_head(const Source& source) {
  std::string_view text = *source.bytes;
  std::size_t at = text.starts_with("\xEF\xBB\xBF") ? 3 : 0, out = at;
  bool says_of_itself = false;
  while (at < text.size()) {
    std::size_t next = text.find_first_not_of(" \t\r\n", at);
    if (next == std::string_view::npos) return out;
    bool ends_block = std::count(text.begin() + static_cast<std::ptrdiff_t>(at),
                                 text.begin() + static_cast<std::ptrdiff_t>(next), '\n') > 1;
    if (ends_block || says_of_itself) out = line_begin(text, next);
    auto attribute =
        std::find_if(source.facts->inner_attributes.begin(), source.facts->inner_attributes.end(),
                     [&](const InnerAttribute& one) { return one.span.begin == next; });
    std::string_view mark = text.substr(next, 3);
    says_of_itself = attribute != source.facts->inner_attributes.end() || mark == "//!" || mark == "/*!";
    if (attribute != source.facts->inner_attributes.end()) {
      at = attribute->span.end;
    } else if (mark == "///" || mark == "/**" || behind_comment(text, next) == next) {
      return out;
    } else {
      at = behind_comment(text, next);
    }
    if (says_of_itself) out = std::min(text.find('\n', at), text.size() - 1) + 1;
  }
  return std::max(out, says_of_itself ? text.size() : out);
}

// The new line, in the source of the module that declares it then.
Edit inserted(const Source& into, const std::string& text, std::uint32_t avoid_begin, bool is_same) {
  const ModuleLine* last = nullptr;
  for (const ModuleLine& line : into.facts->modules) {
    bool is_leaving = is_same && line.whole.begin == avoid_begin;
    if (line.scope == 0 && line.inner < 0 && !line.in_macro && !is_leaving) last = &line;
  }
  if (last) {
    Span lines = lines_named(*into.bytes, last->whole);
    std::size_t end = std::min(into.bytes->find('\n', last->whole.end), into.bytes->size());
    if (lines.begin == last->whole.begin && lines.end == last->whole.end) end = last->whole.end;
    return {into.path, span_of(end, end), "\n" + text};
  }
  std::size_t at = behind_head(into);
  std::string gap = at > 0 && (*into.bytes)[at - 1] != '\n' ? "\n" : "";
  bool is_apart = at >= into.bytes->size() || is_blank_line(*into.bytes, at);
  return {into.path, span_of(at, at), gap + text + "\n" + (is_apart ? "" : "\n")};
}

std::string without_indent(std::string_view text, std::string_view indent) {
  std::string out;
  for (std::size_t at = 0; at < text.size();) {
    std::size_t end = std::min(text.find('\n', at), text.size() - 1) + 1;
    std::string_view line = text.substr(at, end - at);
    if (at > 0 && line.starts_with(indent)) line.remove_prefix(indent.size());
    out += line;
    at = end;
  }
  return out;
}

// How far a module is seen, as it is to be said where it is declared now.
std::optional<std::string> line_visibility(const Crates& crates, const Relocation& moved, int module,
                                           int new_parent, const ModulePath& where) {
  int declared_in = crates.module(module).parent;
  const ModuleLine& line =
      crates.source_of(declared_in).facts->modules[static_cast<std::size_t>(crates.module(module).line)];
  auto reach = crates.reach_of(declared_in, line.visibility);
  // What only the crate could name does not come to be part of what it offers.
  bool is_library = crates.crates()[static_cast<std::size_t>(crates.module(module).crate)].is_library;
  bool is_inner = !reach && is_library && !crates.is_exported(module) && crates.is_exported(new_parent);
  if (is_inner) reach = crates.root_of(crates.module(module).crate);
  if (!reach) return std::string(crates.source_of(declared_in).text(line.visibility.span)) + " ";
  auto reach_path = moved.path_to(*reach);
  if (!reach_path) return std::nullopt;
  std::string out = visibility_text(*reach_path, where);
  return out.empty() ? out : out + " ";
}

std::optional<std::vector<Edit>> named_by_path(const Crates& crates, const Relocation& moved, int module) {
  const Module& one = crates.module(module);
  const Source& source = crates.source_of(one.parent);
  const ModuleLine& line = source.facts->modules[static_cast<std::size_t>(one.line)];
  // What stands in an inline module is counted from the folder that is called like it.
  auto base = crates.is_file(one.parent) ? std::optional(moved.image_of(one.parent).parent())
                                         : moved.folder_of(one.parent);
  if (!base) return std::nullopt;
  // A path may climb out of it only while it is there.
  if (!crates.is_file(one.parent) && !moved.will_hold_something(*base)) return std::nullopt;
  RelPath image = moved.image_of(module);
  if (one.is_by_path && RelPath::resolve(*base, source.text(one.path)) == image) return std::vector<Edit>();
  std::string text = relative_text(*base, image);
  if (text.find_first_of("\"\\\n") != std::string::npos) return std::nullopt;
  if (one.is_by_path) return std::vector<Edit>{{source.path, one.path, text}};
  std::uint32_t at = keyword_at(source, line);
  std::string indent(indent_at(*source.bytes, at));
  return std::vector<Edit>{{source.path, {at, at}, "#[path = \"" + text + "\"]\n" + indent}};
}

}  // namespace

std::string visibility_text(const ModulePath& reach, const ModulePath& where) {
  ModulePath up = common_head(reach, where);
  if (up.size() == where.size()) return "";
  if (up.empty()) return "pub(crate)";
  return up.size() + 1 == where.size() ? "pub(super)" : "pub(in " + joined(up) + ")";
}

std::optional<std::vector<Edit>> line_edits(const Crates& crates, const Relocation& moved, int module) {
  const Module& one = crates.module(module);
  auto place = moved.place_of(module);
  if (one.parent < 0 || !place) return std::nullopt;
  if (place->is_by_path || one.is_by_path) return named_by_path(crates, moved, module);
  const Source& source = crates.source_of(one.parent);
  const ModuleLine& line = source.facts->modules[static_cast<std::size_t>(one.line)];
  if (place->parent == one.parent) {
    if (place->name == one.name) return std::vector<Edit>();
    return std::vector<Edit>{{source.path, line.name, place->name}};
  }
  auto where = moved.path_to(place->parent);
  auto visibility = where ? line_visibility(crates, moved, module, place->parent, *where) : std::nullopt;
  if (!visibility || line.in_macro) return std::nullopt;
  Span lines = lines_named(*source.bytes, line.whole);
  std::uint32_t keyword = keyword_at(source, line);
  std::string head =
      without_indent(source.text({line.whole.begin, keyword}), indent_at(*source.bytes, line.whole.begin));
  std::string_view comment =
      lines.end > line.whole.end ? source.text({line.whole.end, lines.end}) : std::string_view();
  comment = comment.substr(0, comment.find('\n'));
  // Attributes stand on lines of their own, before what the line has.
  std::string conditions;
  for (const std::string& condition : conditions_to_keep(crates, crates.module(module).parent, place->parent))
    conditions += condition + "\n";
  std::string text = conditions + head + *visibility + "mod " + place->name + ";" + std::string(comment);
  const Source& into = crates.source_of(place->parent);
  return std::vector<Edit>{{source.path, lines, ""},
                           inserted(into, text, line.whole.begin, into.path == source.path)};
}

void add_visibility_edits(const Crates& crates, const Relocation& moved, int module, std::vector<Edit>& out) {
  for (int i = 0; i < static_cast<int>(crates.modules().size()); ++i) {
    if (!crates.is_file(i) || !crates.is_within(i, module)) continue;
    const Source& source = crates.source_of(i);
    for (const NarrowVisibility& narrow : source.facts->narrow) {
      int where = crates.module_at(i, narrow.scope);
      auto reach = crates.reach_of(where, narrow.visibility);
      auto now = moved.path_to(where), reach_now = reach ? moved.path_to(*reach) : std::nullopt;
      if (!now || !reach_now) continue;
      // What stands there may say the same: "pub(super)" of a module whose parent came along.
      ModulePath up = common_head(*reach_now, *now), means = *now;
      if (narrow.visibility.reach == LineReach::path) {
        means = crates.path_to(*reach);
      } else if (!means.empty()) {
        means.pop_back();
      }
      std::string text = visibility_text(*reach_now, *now);
      if (means != up && !text.empty()) out.push_back({source.path, narrow.visibility.span, text});
    }
  }
}

}  // namespace yc::rust
