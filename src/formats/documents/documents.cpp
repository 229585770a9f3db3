#include "formats/documents/documents.h"

#include "base/name_search.h"
#include "formats/capabilities/consequences.h"
#include "formats/documents/document_sites.h"
#include "formats/documents/link_scan.h"
#include "formats/site_paths.h"

namespace yc {

namespace {

using documents::DocumentSite;
using documents::DocumentSites;
using documents::Link;
using Links = std::vector<Link>;

bool is_markdown(const RelPath& path) {
  std::string_view ending = path.extension();
  return ending == ".md" || ending == ".markdown" || ending == ".mdx";
}

bool is_restructured(const RelPath& path) {
  return path.extension() == ".rst" || path.extension() == ".rest";
}

// What the links of the documents of a tree lead to.
class DocumentReader {
 public:
  explicit DocumentReader(const Reading& in)
      : tree_(in.tree), self_(in.self), out_(in.out), sites_(in.tree) {}

  void take(const RelPath& path, const std::string& bytes, const Link& link) {
    std::string text = bytes.substr(link.span.begin, link.span.size());
    if (link.kind == Link::Kind::glob) {
      listed(path, link.span, std::move(text));
      return;
    }
    bool document = link.kind == Link::Kind::document;
    if (!out_.wants(path) && !out_.wants_any_name(text) && !(document && out_.wants_stem(text))) return;
    Span span = link.span;
    Base base = base_of(path, span, text, link.kind);
    while (text.size() > 1 && text.ends_with("/")) text.pop_back(), --span.end;
    if (text.find_first_not_of("./") == std::string::npos) return;
    std::string plain = url_decoded(text);
    auto place = RelPath::resolve(base.folder, plain);
    if (!place || place->is_root()) return;
    std::string ending;
    if (document && !tree_.find(*place)) {
      for (const char* known : {".rst", ".md"}) {
        if (ending.empty() && tree_.is_file(RelPath::from_normal(place->str() + known))) ending = known;
      }
      if (ending.empty()) return;
      place = RelPath::from_normal(place->str() + ending);
    }
    Reference reference = at(path, span, base, Role::link);
    Piece piece;
    piece.text = plain;
    piece.file = out_.files().index(path);
    piece.span = span;
    piece.verbatim = plain == text;
    reference.text.append(std::move(piece));
    if (!ending.empty()) reference.text.append(TracedText::plain(ending));
    const Entry* entry = tree_.find(*place);
    if (entry && entry->ignored) return;
    if (entry) {
      reference.lead_to(*place);
    } else {
      // Sites make folders of their own; only what looks like a file of the tree is missed.
      reference.dangling = !ending_of(plain).empty() && ending_of(plain) != ".html";
      if (!reference.dangling) return;
    }
    out_.add(std::move(reference));
  }

 private:
  Reference at(const RelPath& path, const Span& span, const Base& base, Role role) {
    FileIndex construct = base.anchor == kNoFile ? out_.files().index(path) : base.anchor;
    return Reference::of(role, self_, {{construct, span.begin}}, base, {});
  }

  // Where a link counts from; takes off what stands in the text for that.
  Base base_of(const RelPath& path, Span& span, std::string& text, Link::Kind kind) {
    const DocumentSite* site = sites_.of(path);
    if (text.starts_with("/")) {  // from the root of the documents, or of the tree
      text.erase(0, 1), ++span.begin;
      return {site ? site->folder : RelPath(), kNoFile, Space::tree};
    }
    // A page that is served as a folder: its attributes climb out of that first.
    bool is_index = path.name() == "index.md" || path.name() == "README.md";
    if (kind == Link::Kind::html && site && site->pages_are_folders && !is_index && text.starts_with("../"))
      text.erase(0, 3), span.begin += 3;
    return {path.parent(), out_.files().index(path), Space::tree};
  }

  // Documents that a table of contents lists by a pattern.
  void listed(const RelPath& path, Span span, std::string text) {
    Base base = base_of(path, span, text, Link::Kind::glob);
    for (const char* ending : {".rst", ".md"}) {
      std::vector<RelPath> found = match_paths(tree_, base.folder, text + ending);
      if (found.empty()) continue;
      Reference reference = at(path, span, base, Role::pattern);
      reference.kind = GlobPattern{};
      reference.may_gain = true;
      Piece piece;
      piece.text = text;
      piece.file = out_.files().index(path);
      piece.span = span;
      reference.text.append(std::move(piece));
      reference.text.append(TracedText::plain(ending));
      reference.lead_to(std::move(found));
      out_.add(std::move(reference));
      return;
    }
  }

  const TreeReader& tree_;
  std::uint8_t self_;
  GraphBuilder& out_;
  DocumentSites sites_;
};

class DocumentsFormat : public Format, public Consequences {
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
      names.emplace_back(documents::kListsByPatterns);
    }
    NameSearch search(names);
    DocumentReader reader(in);
    in.each([&](const RelPath& path, const Bytes& bytes) {
      if (focus && !in.out.wants(path) && !search.finds_any(*bytes)) return true;
      auto links = in.cache.get<Links>(in.self, bytes, [&](const std::string& text) {
        return is_markdown(path) ? documents::scan_markdown(text) : documents::scan_restructured(text);
      });
      for (const Link& link : *links) reader.take(path, *bytes, link);
      return true;
    });
  }

  std::vector<Blocker> consequences(const TreeView& before, const TreeView& planned,
                                    const MoveSet& moves) const override {
    return documents::left_documents(before, planned, moves, name());
  }

  std::optional<std::string> write(std::string_view text, WritingStyle) const override {
    return url_encoded(text);
  }
};

}  // namespace

std::unique_ptr<Format> documents_format() {
  return std::make_unique<DocumentsFormat>();
}

}  // namespace yc
