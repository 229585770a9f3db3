#include "formats/role_settings/role_settings.h"

#include <algorithm>
#include <cctype>
#include <map>

#include "formats/capabilities/members.h"
#include "model/add_reference.h"
#include "words/role_settings.h"

namespace yc {

namespace {

// One assignment of one string.
struct Assigned {
  std::string name, text;
  Span span;  // of the text
};

bool is_role_settings(const RelPath& path) {
  std::string_view ending = path.extension(), name = path.name();
  bool is_script = ending == ".rb" || ending == ".lua";
  return is_script &&
         (name.find("config") != std::string_view::npos || name.find("settings") != std::string_view::npos);
}

bool is_name_char(char c) {
  return std::isalnum(static_cast<unsigned char>(c)) || c == '_';
}

// `name = "text"`, `config.name = 'text'`, `set :name, "text"`, one a line; a comment may follow.
std::optional<Assigned> assignment(std::string_view line, std::size_t offset) {
  std::size_t at = line.find_first_not_of(" \t");
  if (at == std::string_view::npos || line[at] == '#' || line[at] == '-') return std::nullopt;
  bool is_call = line.substr(at).starts_with("set :");
  if (is_call) at += 5;
  std::size_t begin = at;
  while (at < line.size() && (is_name_char(line[at]) || line[at] == '.')) ++at;
  std::string_view dotted = line.substr(begin, at - begin);
  std::size_t cut = dotted.rfind('.');
  std::string_view name = cut == std::string_view::npos ? dotted : dotted.substr(cut + 1);
  std::size_t sign = line.find_first_not_of(" \t", at);
  if (name.empty() || sign == std::string_view::npos || line[sign] != (is_call ? ',' : '='))
    return std::nullopt;
  std::size_t open = line.find_first_not_of(" \t", sign + 1);
  if (open == std::string_view::npos || (line[open] != '"' && line[open] != '\'')) return std::nullopt;
  std::size_t close = line.find(line[open], open + 1);
  if (close == std::string_view::npos) return std::nullopt;
  std::string_view text = line.substr(open + 1, close - open - 1);
  std::size_t behind = line.find_first_not_of(" \t\r;,", close + 1);
  bool is_alone =
      behind == std::string_view::npos || line[behind] == '#' || line.substr(behind).starts_with("--");
  if (!is_alone || text.find_first_of("\\#$\n") != std::string_view::npos) return std::nullopt;
  return Assigned{std::string(name), std::string(text), span_of(offset + open + 1, offset + close)};
}

std::vector<Assigned> assignments(std::string_view bytes) {
  std::vector<Assigned> out;
  std::map<std::string, std::size_t> times;
  for (std::size_t at = 0; at < bytes.size();) {
    std::size_t end = std::min(bytes.find('\n', at), bytes.size());
    if (auto one = assignment(bytes.substr(at, end - at), at)) {
      ++times[one->name];
      out.push_back(std::move(*one));
    }
    at = end + 1;
  }
  std::erase_if(out, [&](const Assigned& one) { return times[one.name] > 1; });
  return out;
}

// What the folder of a setting is for: "" for a folder without a role that is known. Nothing for what is no
// folder.
std::optional<std::string> role_of(const std::string& name) {
  for (std::string_view ending : words::role_settings::folder_endings()) {
    if (!name.ends_with(ending) || name.size() == ending.size()) continue;
    std::string head = name.substr(0, name.size() - ending.size());
    while (head.ends_with('_')) head.pop_back();
    return std::string(words::role_settings::roles().find(head).value_or(""));
  }
  return std::nullopt;
}

class RoleSettingsFormat : public Format, public ReadsWhole {
 public:
  std::string_view name() const override { return "role settings"; }
  ScopeSet gives() const override { return ScopeSet(Scope::roles) | Scope::outputs; }
  bool claims(const RelPath& path) const override { return is_role_settings(path); }

  void read(const Reading& in) const override {
    in.each([&](const RelPath& path, const Bytes& bytes) {
      return !is_binary(*bytes) && read_settings(in, path, *bytes);
    });
  }

  std::optional<std::string> write(std::string_view text, WritingStyle) const override {
    if (text.find_first_of("\"'\\#$\n\r") != std::string_view::npos) return std::nullopt;
    return std::string(text);
  }

 private:
  static bool read_settings(const Reading& in, const RelPath& path, std::string_view bytes) {
    FileIndex file = in.out.files().index(path);
    std::map<std::string, RelPath> folders;  // by role
    bool any = false;
    for (const Assigned& one : assignments(bytes)) {
      auto role = role_of(one.name);
      auto place = role ? RelPath::resolve(path.parent(), one.text) : std::nullopt;
      if (!place || place->is_root() || one.text.empty() || one.text.starts_with("/")) continue;
      any = true;
      if (!role->empty()) folders.emplace(*role, *place);
      bool is_there = add_leading(
          in.out, in.tree,
          Reference::of(Role::listed, in.self, {{file, one.span.begin}}, {path.parent(), file, Space::tree},
                        TracedText::literal(one.text, file, one.span)));
      // What is made is put into a folder that need not be there.
      if (!is_there && *role != "css" && !in.tree.find(*place))
        in.out.unmet({path, one.span, "folder", one.text, *place});
    }
    auto styles = folders.find("styles"), css = folders.find("css");
    if (styles != folders.end() && css != folders.end())
      in.out.graph().outputs.push_back({path, styles->second, css->second});
    for (const auto& [role, folder] : folders)
      in.out.graph().roles.push_back({path.parent(), path, role, folder});
    return any;
  }
};

}  // namespace

std::unique_ptr<Format> role_settings_format() {
  return std::make_unique<RoleSettingsFormat>();
}

}  // namespace yc
