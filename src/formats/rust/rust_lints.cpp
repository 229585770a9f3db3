#include "formats/rust/rust_lints.h"

#include <algorithm>

#include "base/text.h"
#include "formats/values/values.h"

namespace yc::rust {

namespace {

struct Named {
  int module = -1;      // the deepest module that the path names
  std::size_t end = 0;  // where its name ends in the text
};

// What a text such as "tide_levels::gauge::read" names; nothing if no module below a crate's root is meant.
std::optional<Named> lint_names(const Crates& crates, const RelPath& settings, std::string_view text) {
  std::size_t end = text.find("::");
  if (end == std::string_view::npos) return std::nullopt;
  Named out;
  for (std::size_t i = 0; i < crates.crates().size(); ++i) {
    const Crate& crate = crates.crates()[i];
    bool is_meant =
        crate.is_library && crate.name == text.substr(0, end) && crate.root.is_within(settings.parent());
    if (!is_meant) continue;
    if (out.module >= 0) return std::nullopt;  // two of one name
    out.module = crates.root_of(static_cast<int>(i));
  }
  if (out.module < 0) return std::nullopt;
  while (end < text.size()) {
    std::size_t begin = end + 2;
    std::string_view name = text.substr(begin, text.find("::", begin) - begin);
    const std::vector<int>& below = crates.module(out.module).children;
    auto child =
        std::find_if(below.begin(), below.end(), [&](int one) { return crates.module(one).name == name; });
    if (child == below.end()) break;
    out.module = *child;
    out.end = end = begin + name.size();
  }
  return out.end > 0 ? std::optional(out) : std::nullopt;
}

}  // namespace

bool is_lint_settings(const RelPath& path) {
  return path.name() == "clippy.toml" || path.name() == ".clippy.toml";
}

void add_lint_references(const Reading& in, const Crates& crates) {
  in.each([&](const RelPath& path, const Bytes& bytes) {
    if (!is_lint_settings(path)) return false;
    FileIndex file = in.out.files().index(path);
    for (const values::Value& value : values::read_toml(*bytes)) {
      auto named = value.verbatim ? lint_names(crates, path, value.text) : std::nullopt;
      if (!named) continue;
      Span span = span_of(value.span.begin, value.span.begin + named->end);
      Reference reference =
          Reference::of(Role::module, in.self, {{file, span.begin}}, {path.parent(), file, Space::tree},
                        TracedText::literal(value.text.substr(0, named->end), file, span))
              .spelled_by_format()
              .in(ConstructPart::tagged(value.text.substr(named->end)));
      reference.lead_to(crates.path_of(named->module));
      in.out.add(std::move(reference));
    }
    return true;
  });
}

std::optional<Proposal> lint_respelled(const RewriteRequest& need, const Crates& crates,
                                       const Relocation& moved) {
  const Piece& piece = need.reference.text.pieces().front();
  const RelPath& settings = need.graph.files.path(piece.file);
  std::string text = need.reference.text.text();
  auto named = is_lint_settings(settings) ? lint_names(crates, settings, text) : std::nullopt;
  auto now = named ? moved.path_to(named->module) : std::nullopt;
  if (!now) return std::nullopt;
  std::string spelled = text.substr(0, text.find("::"));
  for (const std::string& name : *now) spelled += "::" + name;
  if (spelled == text) return std::nullopt;
  return Proposal{{{settings, piece.span, spelled}}, ""};
}

}  // namespace yc::rust
