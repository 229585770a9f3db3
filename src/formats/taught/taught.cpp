#include "formats/taught/taught.h"

#include <algorithm>

#include "base/expression.h"
#include "formats/capabilities/members.h"
#include "model/add_reference.h"

namespace yc {

namespace {

using values::Value;

const RelPath kConfiguration = RelPath::from_normal("yellow-compass.toml");
constexpr WritingStyle kAsItIs = 60;  // found by an expression

bool fits_lesson(const std::vector<std::string>& parts, std::size_t p,
                 const std::vector<std::string_view>& names, std::size_t n) {
  if (p == parts.size()) return n == names.size();
  if (parts[p] == "**")
    return fits_lesson(parts, p + 1, names, n) || (n < names.size() && fits_lesson(parts, p, names, n + 1));
  return n < names.size() && name_matches(parts[p], names[n]) && fits_lesson(parts, p + 1, names, n + 1);
}

std::vector<std::string> parts_of_lesson(const std::string& pattern) {
  std::vector<std::string> out;
  for (std::size_t at = pattern.starts_with("/") ? 1 : 0; at <= pattern.size();) {
    std::size_t end = std::min(pattern.find('/', at), pattern.size());
    out.push_back(pattern.substr(at, end - at));
    at = end + 1;
  }
  return out;
}

bool key_fits(const std::vector<std::string>& wanted, const std::vector<std::string>& key) {
  return wanted.size() == key.size() &&
         std::equal(wanted.begin(), wanted.end(), key.begin(),
                    [](const std::string& a, const std::string& b) { return a == "*" || a == b; });
}

// What an expression finds in a text.
std::vector<Value> matches_of(const std::string& text, const std::string& bytes) {
  std::vector<Value> out;
  auto expression = Expression::of(text, true);
  auto group = expression ? expression->group("path") : std::nullopt;
  if (!group) return out;
  for (std::size_t at = 0; at <= bytes.size();) {
    Expression::Match match = expression->find(bytes, at);
    if (!match) break;
    auto path = *group < match.groups.size() ? match.groups[*group] : std::nullopt;
    if (path && path->size() > 0)
      out.push_back({{}, *path, bytes.substr(path->begin, path->size()), kAsItIs, true});
    std::size_t end = match.groups[0] ? match.groups[0]->end : at;
    at = end > at ? end : at + 1;
  }
  return out;
}

class TaughtFormat : public Format, public DefinesScope {
 public:
  std::string_view name() const override { return "taught references"; }
  bool defines_scope(const RelPath& path) const override { return path == kConfiguration; }

  bool claims(const RelPath& path) const override { return path == kConfiguration; }

  // What the configuration teaches is in files of its own choice.
  void read(const Reading& in) const override {
    const TreeReader& tree = in.tree;
    std::uint8_t self = in.self;
    GraphBuilder& out = in.out;
    if (!tree.is_file(kConfiguration)) return;
    auto configuration = tree.read(kConfiguration);
    if (!configuration) return;
    auto all = parse_taught(**configuration, kConfiguration.str());
    if (!all || all->empty()) return;
    std::size_t count = 0;
    for (const RelPath& path : tree.files()) {
      const Entry* entry = tree.find(path);
      if (entry->kind != EntryKind::file || entry->ignored || path == kConfiguration) continue;
      std::vector<std::string_view> names = path.components();
      bool any = false;
      for (const TaughtReference& rule : *all) {
        bool applies = std::any_of(rule.files.begin(), rule.files.end(), [&](const std::string& pattern) {
          return fits_lesson(parts_of_lesson(pattern), 0, names, 0);
        });
        auto bytes = applies ? tree.read(path) : Result<Bytes>(Error{});
        if (!bytes) continue;
        any = true;
        file(tree, path, **bytes, rule, self, out);
      }
      if (any) ++count;
    }
    in.count(count);
    bases(**configuration, *all, tree, self, out);
  }

  std::optional<std::string> write(std::string_view text, WritingStyle style) const override {
    if (style != kAsItIs) return values::written(text, style);
    return text.find_first_of("\n\r") == std::string_view::npos ? std::optional(std::string(text))
                                                                : std::nullopt;
  }

 private:
  static void file(const TreeReader& tree, const RelPath& path, const std::string& bytes,
                   const TaughtReference& rule, std::uint8_t self, GraphBuilder& out) {
    std::vector<Value> found =
        rule.language ? values::read(bytes, *rule.language) : matches_of(rule.expression, bytes);
    for (const Value& value : found) {
      if (rule.language && !key_fits(rule.key, value.path)) continue;
      FileIndex index = out.files().index(path);
      std::string text = value.text;
      while (text.size() > 1 && text.ends_with("/")) text.pop_back();
      Base base{rule.base.value_or(path.parent()), rule.base ? kNoFile : index, Space::tree};
      add_leading(out, tree,
                  Reference::of(Role::listed, self, {{index, value.span.begin}}, base,
                                values::traced(value, index).substr(0, text.size())),
                  IfMissing::dangling);
    }
  }

  // The bases are folders that the configuration names.
  static void bases(const std::string& bytes, const std::vector<TaughtReference>&, const TreeReader& tree,
                    std::uint8_t self, GraphBuilder& out) {
    FileIndex index = out.files().index(kConfiguration);
    for (const Value& value : values::read_toml(bytes)) {
      bool is_base = value.path.size() == 3 && value.path[0] == "references" && value.path[2] == "base";
      if (!is_base) continue;
      std::string text = value.text;
      std::size_t lead = std::min(text.find_first_not_of('/'), text.size());
      while (text.size() > lead + 1 && text.ends_with("/")) text.pop_back();
      auto place = RelPath::resolve({}, text.substr(lead));
      if (!place || place->is_root() || !tree.is_folder(*place)) continue;
      out.add(Reference::of(Role::argument, self, {{index, value.span.begin}}, {{}, kNoFile, Space::tree},
                            values::traced(value, index).substr(lead, text.size() - lead))
                  .leading_to(*place));
    }
  }
};

}  // namespace

std::unique_ptr<Format> taught_format() {
  return std::make_unique<TaughtFormat>();
}

}  // namespace yc
