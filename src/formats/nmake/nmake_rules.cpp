#include "formats/nmake/nmake_rules.h"

#include <algorithm>
#include <optional>

#include "base/text.h"
#include "formats/nmake/nmake_script.h"

namespace yc::nmake {

namespace {

bool ends_name(char c) {
  return std::string_view("\\/}\" \t\r\n").find(c) != std::string_view::npos;
}

// Where a line names a folder, as a whole component that no file's name follows.
std::vector<std::size_t> uses_of(std::string_view line, std::string_view folder) {
  std::vector<std::size_t> out;
  for (std::size_t at = line.find(folder); at != std::string_view::npos; at = line.find(folder, at + 1)) {
    std::size_t end = at + folder.size();
    bool begins = at > 0 && (line[at - 1] == '\\' || line[at - 1] == '/');
    bool ends = end == line.size() || ends_name(line[end]);
    bool is_last = end == line.size() || (line[end] != '\\' && line[end] != '/') || end + 1 == line.size() ||
                   ends_name(line[end + 1]);
    if (begins && ends && is_last) out.push_back(at);
  }
  return out;
}

std::string with_folder(std::string_view line, std::string_view folder, const std::string& now) {
  std::string out(line);
  std::vector<std::size_t> uses = uses_of(line, folder);
  for (auto at = uses.rbegin(); at != uses.rend(); ++at) out.replace(*at, folder.size(), now);
  return out;
}

// A rule of inference with its commands, whole lines.
struct Block {
  Span span;
  InferenceHeader header;
};

std::vector<Block> blocks_of(std::string_view bytes) {
  std::vector<Block> out;
  bool is_open = false;
  for (const Line& line : lines_of(bytes)) {
    auto end = static_cast<std::uint32_t>(std::min(bytes.find('\n', line.span.end), bytes.size() - 1) + 1);
    if (is_open && line.is_indented) {
      out.back().span.end = end;
      continue;
    }
    auto header = inference_header(bytes, line.span);
    is_open = header.has_value();
    if (header) out.push_back({{line.span.begin, end}, *header});
  }
  return out;
}

// The folder below that of `rule` which another rule is for: "vtls" for {..\lib\}.c and {..\lib\vtls\}.c.
std::string neighbour_of(std::string_view bytes, const Block& rule, const std::vector<Block>& all) {
  std::string_view own = cut(bytes, rule.header.folder);
  while (!own.empty() && (own.back() == '\\' || own.back() == '/')) own.remove_suffix(1);
  for (const Block& other : all) {
    std::string_view folder = cut(bytes, other.header.folder);
    while (!folder.empty() && (folder.back() == '\\' || folder.back() == '/')) folder.remove_suffix(1);
    bool is_below = other.header.from == rule.header.from && other.header.to == rule.header.to &&
                    folder.size() > own.size() + 1 && folder.starts_with(own) &&
                    (folder[own.size()] == '\\' || folder[own.size()] == '/');
    std::string_view name = is_below ? folder.substr(own.size() + 1) : std::string_view();
    if (!name.empty() && name.find_first_of("\\/$") == std::string_view::npos) return std::string(name);
  }
  return "";
}

Edit behind(const RelPath& path, Span span, std::string text) {
  return {path, {span.end, span.end}, std::move(text)};
}

// All that is said of a folder beside, once more for another.
Proposal as_neighbour(const RelPath& path, std::string_view bytes, const std::vector<Block>& blocks,
                      const std::string& neighbour, const std::string& folder, const std::string& end) {
  Proposal like;
  for (const Block& block : blocks) {
    if (uses_of(cut(bytes, block.header.folder), neighbour).empty()) continue;
    like.edits.push_back(
        behind(path, block.span, end + with_folder(cut(bytes, block.span), neighbour, folder)));
  }
  for (const Line& line : lines_of(bytes)) {
    bool in_block = std::any_of(blocks.begin(), blocks.end(), [&](const Block& block) {
      return line.span.begin >= block.span.begin && line.span.begin < block.span.end;
    });
    std::string_view text = cut(bytes, line.span);
    if (in_block || text.find('\n') != std::string_view::npos || uses_of(text, neighbour).empty()) continue;
    auto after = static_cast<std::uint32_t>(bytes.find('\n', line.span.end) + 1);
    like.edits.push_back(behind(path, {line.span.begin, after}, with_folder(text, neighbour, folder) + end));
  }
  return like;
}

// Whether an object's name stands as a word of its own: "tide.obj", "tide$(O)".
bool is_listed_by_name(std::string_view bytes, std::string_view stem) {
  for (std::size_t at = bytes.find(stem); at != std::string_view::npos; at = bytes.find(stem, at + 1)) {
    std::string_view rest = bytes.substr(at + stem.size());
    bool begins = at == 0 || std::string_view(" \t=+\r\n").find(bytes[at - 1]) != std::string_view::npos;
    if (begins && (rest.starts_with(".obj") || rest.starts_with("$("))) return true;
  }
  return false;
}

// The line of the rule for an object that has no commands of its own.
std::optional<Span> bare_rule(std::string_view bytes, std::string_view stem) {
  std::optional<Span> out;
  for (const Line& line : lines_of(bytes)) {
    if (out && line.is_indented) return std::nullopt;
    if (out) return out;
    std::string_view text = cut(bytes, line.span);
    std::size_t colon = text.find(':');
    std::string_view target =
        text.substr(0, std::min(text.find_last_not_of(" \t", colon == 0 ? 0 : colon - 1) + 1, colon));
    bool is_own = colon != std::string_view::npos && target.starts_with(stem) &&
                  (target.substr(stem.size()) == ".obj" || target.substr(stem.size()).starts_with("$("));
    if (is_own && !line.is_indented)
      out = Span{line.span.begin, static_cast<std::uint32_t>(bytes.find('\n', line.span.end) + 1)};
  }
  return out;
}

// The commands of a rule with the source named.
std::string commands_for(std::string_view rule, const std::string& ending, const std::string& source,
                         const std::string& end) {
  std::string out(rule.substr(std::min(rule.find('\n'), rule.size() - 1) + 1));
  for (const std::string& mark : {"$*" + ending, std::string("$<")}) {
    for (std::size_t at = out.find(mark); at != std::string::npos; at = out.find(mark, at + source.size()))
      out.replace(at, mark.size(), source);
  }
  return out.ends_with('\n') ? out : out + end;
}

}  // namespace

std::string stem_of(const RelPath& path) {
  std::string name(path.name());
  name.resize(name.size() - ending_of(name).size());
  return name;
}

std::vector<Span> object_names(std::string_view bytes, std::string_view stem) {
  std::vector<Span> out;
  for (std::size_t at = bytes.find(stem); at != std::string_view::npos; at = bytes.find(stem, at + 1)) {
    std::string_view rest = bytes.substr(at + stem.size());
    bool begins = at == 0 || std::string_view(" \t=+\\/\r\n").find(bytes[at - 1]) != std::string_view::npos;
    if (begins && (rest.starts_with(".obj") || rest.starts_with("$(")))
      out.push_back(span_of(at, at + stem.size()));
  }
  return out;
}

std::vector<Proposal> rule_ways(const RelPath& path, std::string_view bytes, std::uint32_t rule,
                                const Homeless& what) {
  std::vector<Block> blocks = blocks_of(bytes);
  auto own = std::find_if(blocks.begin(), blocks.end(),
                          [&](const Block& block) { return block.span.begin == rule; });
  if (own == blocks.end() || !bytes.ends_with('\n')) return {};
  const std::string end = bytes.find("\r\n") != std::string_view::npos ? "\r\n" : "\n";
  auto written = [&](std::string text) {
    bool slashes =
        bytes.find("..\\") == std::string_view::npos && bytes.find("../") != std::string_view::npos;
    if (!slashes) std::replace(text.begin(), text.end(), '/', '\\');
    return text;
  };
  std::vector<Proposal> out;
  std::string neighbour = neighbour_of(bytes, *own, blocks);
  if (!neighbour.empty() && what.way.find("..") == std::string::npos)
    out.push_back(as_neighbour(path, bytes, blocks, neighbour, written(what.way), end));
  if (what.is_renamed || !is_listed_by_name(bytes, what.stem)) return out;
  // "$*" in a command would name the source beside the object.
  std::string_view text = cut(bytes, own->span);
  if (text.find("$*") == std::string_view::npos) {
    std::string folder(cut(bytes, own->header.folder));
    if (!folder.empty() && folder.back() != '\\' && folder.back() != '/') folder += '\\';
    std::size_t rest = own->header.folder.end - own->span.begin + (own->header.folder.size() > 0 ? 1 : 0);
    out.push_back(
        {{behind(path, own->span,
                 end + "{" + folder + written(what.way + "/") + "}" + std::string(text.substr(rest)))},
         ""});
  }
  if (auto place = bare_rule(bytes, what.stem))
    out.push_back(
        {{behind(path, *place, commands_for(text, own->header.from, written(what.source), end))}, ""});
  return out;
}

}  // namespace yc::nmake
