#include <algorithm>

#include "base/text.h"
#include "formats/capabilities/unit_making.h"
#include "formats/capabilities/words.h"
#include "formats/json/json_lists.h"
#include "formats/package_workspaces/package_workspaces.h"
#include "formats/values/values.h"
#include "model/add_reference.h"
#include "words/package_workspaces.h"

namespace yc {

namespace {

using values::Value;

bool is_package(const TreeReader& tree, const RelPath& folder) {
  return tree.is_file(folder / "package.json");
}

class PackageListsFormat : public Format, public ListWords, public UnitLists {
 public:
  std::string_view name() const override { return "package lists"; }
  bool claims(const RelPath& path) const override {
    return words::package_workspaces::lists().contains(path.name());
  }

  void read(const Reading& in) const override {
    in.each([&](const RelPath& path, const Bytes& bytes) {
      for (const Value& value : members_of(path, *bytes)) member(in, path, value);
      return true;
    });
  }

  std::optional<std::string> write(std::string_view text, WritingStyle style) const override {
    return values::written(text, style);
  }
  Span word_at(std::string_view bytes, Span literal) const override {
    bool is_quoted =
        literal.begin > 0 && (bytes[literal.begin - 1] == '"' || bytes[literal.begin - 1] == '\'');
    return is_quoted ? Span{literal.begin - 1, literal.end + 1} : literal;
  }
  // A member of a block sequence stands on a line of its own.
  std::optional<std::string> beside(std::string_view bytes, Span word, std::string_view text) const override {
    if (!is_in_block(bytes, word)) return json::beside(bytes, word, text);
    std::size_t begin = line_begin(bytes, word.begin);
    char quote = bytes[word.begin];
    std::string mark = quote == '"' || quote == '\'' ? std::string(1, quote) : "";
    auto style = mark == "\"" ? values::kYamlDouble : mark == "'" ? values::kYamlSingle : values::kYamlPlain;
    auto written = values::written(text, style);
    if (!written) return std::nullopt;
    return "\n" + std::string(bytes.substr(begin, word.begin - begin)) + mark + *written + mark;
  }
  std::optional<Span> without(std::string_view bytes, Span word) const override {
    if (!is_in_block(bytes, word)) return json::without(bytes, word);
    std::size_t begin = line_begin(bytes, word.begin),
                end = std::min(bytes.find('\n', word.end), bytes.size());
    return span_of(begin, std::min(end + 1, bytes.size()));
  }

  // A package that no pattern of the nearest list takes in.
  std::vector<Edit> list_unit(const TreeView& view, const MadeUnit& unit) const override {
    std::vector<Edit> out;
    for (const RelPath& list : view.files) {
      RelPath folder = unit.file.parent();
      bool counts = unit.file.name() == "package.json" && folder.is_within(list.parent());
      auto bytes = counts && view.tree.is_editable(list) ? view.tree.read(list) : Result<Bytes>(Error{});
      if (!bytes) continue;
      std::optional<Value> last;
      bool is_taken = false;
      for (Value& value : members_of(list, **bytes)) {
        std::vector<RelPath> found = match_paths(view.tree, list.parent(), value.text);
        is_taken = is_taken || std::find(found.begin(), found.end(), folder) != found.end();
        last = std::move(value);
      }
      if (is_taken || !last) continue;
      Span word = word_at(**bytes, last->span);
      if (auto text = beside(**bytes, word, folder.below(list.parent())))
        out.push_back({list, {word.end, word.end}, *text});
    }
    return out;
  }
  std::vector<Edit> unlist_unit(const TreeView& view, const RelPath& file) const override {
    std::vector<Edit> out;
    for (const RelPath& list : view.files) {
      bool counts = file.name() == "package.json" && view.tree.is_editable(list);
      auto bytes = counts ? view.tree.read(list) : Result<Bytes>(Error{});
      if (!bytes) continue;
      for (const Value& value : members_of(list, **bytes)) {
        if (RelPath::resolve(list.parent(), value.text) != file.parent()) continue;
        if (auto span = without(**bytes, word_at(**bytes, value.span))) out.push_back({list, *span, ""});
      }
    }
    return out;
  }

 private:
  static std::vector<Value> members_of(const RelPath& path, std::string_view bytes) {
    auto language = path.extension() == ".json" ? values::Language::json : values::Language::yaml;
    std::vector<Value> out = values::read(bytes, language);
    std::erase_if(out, [](const Value& value) {
      return value.path.size() != 2 || value.path[0] != "packages" || !value.verbatim;
    });
    return out;
  }

  static bool is_in_block(std::string_view bytes, Span word) {
    std::size_t begin = line_begin(bytes, word.begin);
    return trimmed(bytes.substr(begin, word.begin - begin)) == "-";
  }

  static void member(const Reading& in, const RelPath& path, const Value& value) {
    FileIndex file = in.out.files().index(path);
    std::size_t begin = value.text.starts_with("!") ? 1 : 0;
    std::size_t star = value.text.find('*'), deep = value.text.find("/**");
    Span span{value.span.begin + static_cast<std::uint32_t>(begin), value.span.end};
    std::string text = value.text.substr(begin);
    Reference reference =
        Reference::of(star == std::string::npos ? Role::listed : Role::pattern, in.self, {{file, 0}},
                      {path.parent(), file, Space::tree}, TracedText::literal(text, file, span, value.style))
            .in(ConstructPart::tagged("packages"));
    reference.in_list = true;
    reference.excludes = begin > 0;
    if (star == std::string::npos) {
      add_leading(in.out, in.tree, std::move(reference));
      return;
    }
    if (deep != std::string::npos && star == deep + 1) {
      // All packages below a folder.
      TracedText whole = reference.text;
      reference.text = whole.substr(0, deep - begin);
      auto folder = RelPath::resolve(path.parent(), reference.text.text());
      if (!folder || !in.tree.is_folder(*folder)) return;
      reference.kind = GlobPattern{GlobPattern::Kind::deep, "package.json", std::move(whole)};
      reference.lead_to(match_deep(in.tree, *folder, "package.json"));
    } else {
      reference.kind = GlobPattern{};
      for (const RelPath& place : match_paths(in.tree, path.parent(), text)) {
        if (is_package(in.tree, place)) reference.lead_to(place);
      }
    }
    if (!reference.targets.empty()) in.out.add(std::move(reference));
  }
};

}  // namespace

std::unique_ptr<Format> package_lists_format() {
  return std::make_unique<PackageListsFormat>();
}

}  // namespace yc
