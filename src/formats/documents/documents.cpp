#include "formats/documents/documents.h"

#include "base/name_search.h"
#include "formats/documents/link_scan.h"
#include "formats/site_paths.h"

namespace yc {

namespace {

using documents::Link;
using Links = std::vector<Link>;

bool is_markdown(const RelPath& path) {
  std::string_view ending = path.extension();
  return ending == ".md" || ending == ".markdown" || ending == ".mdx";
}

bool is_restructured(const RelPath& path) {
  return path.extension() == ".rst" || path.extension() == ".rest";
}

class DocumentsFormat : public Format {
 public:
  std::string_view name() const override { return "documents"; }
  ScopeSet needs() const override { return Scope::products; }
  bool reads_sources() const override { return true; }

  bool claims(const RelPath& path) const override { return is_markdown(path) || is_restructured(path); }

  void read(const Reading& in) const override {
    const Focus* focus = in.out.focus();
    std::vector<std::string> names;
    if (focus) {
      names.assign(focus->names.begin(), focus->names.end());
      names.insert(names.end(), focus->stems.begin(), focus->stems.end());
    }
    NameSearch search(names);
    in.each([&](const RelPath& path, const Bytes& bytes) {
      if (focus && !in.out.wants(path) && !search.finds_any(*bytes)) return true;
      auto links = in.cache.get<Links>(in.self, bytes, [&](const std::string& text) {
        return is_markdown(path) ? documents::scan_markdown(text) : documents::scan_restructured(text);
      });
      for (const Link& link : *links) emit(in.tree, path, *bytes, link, in.self, in.out);
      return true;
    });
  }

  std::optional<std::string> write(std::string_view text, WritingStyle) const override {
    return url_encoded(text);
  }

 private:
  static void emit(const TreeReader& tree, const RelPath& path, const std::string& bytes, const Link& link,
                   std::uint8_t self, GraphBuilder& out) {
    std::string text = bytes.substr(link.span.begin, link.span.size());
    if (!out.wants(path) && !out.wants_any_name(text) && !(link.document && out.wants_stem(text))) return;
    Base base{path.parent(), out.files().index(path), Space::tree};
    Span span = link.span;
    if (text.starts_with("/")) {  // from the root of the documents, or of the tree
      text.erase(0, 1), ++span.begin;
      base = {{}, kNoFile, Space::tree};
      for (RelPath up = path.parent(); !up.is_root(); up = up.parent()) {
        if (tree.is_file(up / "conf.py")) base.folder = up;
      }
    }
    while (text.size() > 1 && text.ends_with("/")) text.pop_back(), --span.end;
    if (text.find_first_not_of("./") == std::string::npos) return;
    std::string plain = url_decoded(text);
    auto place = RelPath::resolve(base.folder, plain);
    if (!place || place->is_root()) return;
    std::string ending;
    if (link.document && !tree.find(*place)) {
      for (const char* known : {".rst", ".md"}) {
        if (ending.empty() && tree.is_file(RelPath::from_normal(place->str() + known))) ending = known;
      }
      if (ending.empty()) return;
      place = RelPath::from_normal(place->str() + ending);
    }
    Reference reference = Reference::of(
        Role::link, self, {{base.anchor == kNoFile ? out.files().index(path) : base.anchor, span.begin}},
        base, {});
    Piece piece;
    piece.text = plain;
    piece.file = out.files().index(path);
    piece.span = span;
    piece.verbatim = plain == text;
    reference.text.append(std::move(piece));
    if (!ending.empty()) reference.text.append(TracedText::plain(ending));
    const Entry* entry = tree.find(*place);
    if (entry && entry->ignored) return;
    if (entry) {
      reference.lead_to(*place);
    } else {
      // Sites make folders of their own; only what looks like a file of the tree is missed.
      reference.dangling = !ending_of(plain).empty() && ending_of(plain) != ".html";
      if (!reference.dangling) return;
    }
    out.add(std::move(reference));
  }
};

}  // namespace

std::unique_ptr<Format> documents_format() {
  return std::make_unique<DocumentsFormat>();
}

}  // namespace yc
