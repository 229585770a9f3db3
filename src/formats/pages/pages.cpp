#include "formats/pages/pages.h"

#include <algorithm>

#include "formats/capabilities/spellings.h"
#include "formats/json/json_strings.h"
#include "formats/pages/page_scan.h"
#include "formats/site_paths.h"
#include "formats/styles/style_scan.h"
#include "formats/xml/xml_places.h"
#include "words/pages.h"

namespace yc {

namespace {

using pages::PageFacts;
using pages::PageUrl;

bool is_page(const RelPath& path) {
  return words::pages::page_endings().contains(path.extension()) || path.name() == "browserconfig.xml";
}

bool is_web_manifest(const RelPath& path) {
  return path.extension() == ".webmanifest" || path.name() == "manifest.json" ||
         path.name() == "site.webmanifest";
}

bool is_site_map(const RelPath& path) {
  return path.extension() == ".xml" && path.name().starts_with("sitemap");
}

constexpr WritingStyle kUrl = 0, kJson = 1, kTemplate = 2;

class PageEmitter {
 public:
  PageEmitter(const Reading& in, const RelPath& path, std::string_view bytes)
      : tree_(in.tree),
        path_(path),
        bytes_(bytes),
        self_(in.self),
        scopes_(in.scopes),
        out_(in.out),
        file_(in.out.files().index(path)),
        whole_(in.out.wants(path)) {}

  void page(const PageFacts& facts) {
    base_ = {path_.parent(), file_, Space::tree};
    if (facts.base.size() > 0) take_base(facts.base);
    for (const PageUrl& url : facts.urls) add(url.span, url.likely);
    for (const pages::TemplateName& name : facts.templates) add_template(name);
    for (const Span& region : facts.styles) {
      for (const styles::StyleName& name : styles::scan_style(cut(region), styles::Dialect::css).names) {
        if (name.parts.size() != 1 || !name.parts[0].variable.empty()) continue;
        Span part = name.parts[0].span;
        add({region.begin + part.begin, region.begin + part.end}, false);
      }
    }
    for (const Span& region : facts.import_maps) {
      for (const json::StringValue& value : json::string_values(cut(region))) {
        if (value.path.empty() || value.text.find('\\') != std::string::npos) continue;
        add({region.begin + value.span.begin, region.begin + value.span.end}, false);
        name_of_map(value);
      }
    }
  }

  // Members of a web app manifest that are URLs.
  void manifest() {
    base_ = {path_.parent(), file_, Space::tree};
    std::vector<json::StringValue> values = json::string_values(bytes_);
    bool is_one = path_.extension() == ".webmanifest" ||
                  std::any_of(values.begin(), values.end(), [](const auto& value) {
                    return !value.path.empty() && (value.path[0] == "icons" || value.path[0] == "start_url");
                  });
    if (!is_one) return;
    for (const json::StringValue& value : values) {
      if (!value.path.empty() && words::pages::manifest_urls().contains(value.path.back()) &&
          bytes_.substr(value.span.begin, value.span.size()) == value.text)
        add(value.span, false, kJson);
    }
  }

  // Locations in a site map (sitemaps.org, "XML tag definitions"): whole URLs of one host, which must lead to
  // pages of the site for the most part.
  void site_map() {
    auto elements = xml::elements(bytes_);
    if (!elements) return;
    std::string host;
    std::vector<Reference> found;
    std::size_t all = 0;
    for (const xml::Element& element : *elements) {
      std::string_view text = cut(element.text_span);
      std::size_t scheme = text.find("://");
      if (element.name != "loc" || text != element.text || scheme == std::string_view::npos) continue;
      std::size_t slash = std::min(text.find('/', scheme + 3), text.size());
      if (host.empty()) host = text.substr(0, slash);
      ++all;
      std::string path(text.substr(slash));
      if (text.substr(0, slash) != host || path.size() < 2) continue;
      auto place = find_site_path(tree_, scopes_, path_, url_decoded(path), {});
      if (!place) continue;
      Span span{element.text_span.begin + static_cast<std::uint32_t>(slash), element.text_span.end};
      found.push_back(site_reference(*place, file_, path, span, kUrl, self_));
    }
    if (found.size() * 2 < all) return;
    for (Reference& reference : found) {
      reference.certainty = Certainty::likely;
      if (whole_ || out_.wants_stem(reference.text.text())) out_.add(std::move(reference));
    }
  }

 private:
  // Another template, looked up in the folder above that it is found from. It is spelled from there only.
  void add_template(const pages::TemplateName& name) {
    std::string text(cut(name.span));
    if (!whole_ && !out_.wants_stem(text)) return;
    for (RelPath up = path_.parent();; up = up.parent()) {
      auto place = RelPath::resolve(up, text);
      if (place && *place != path_ && tree_.is_editable(*place)) {
        out_.add(Reference::of(Role::listed, self_, {{file_, name.span.begin}},
                               {up, name.from_own && up == path_.parent() ? file_ : kNoFile, Space::tree},
                               TracedText::literal(text, file_, name.span, kTemplate))
                     .likely()
                     .spelled_by_format()
                     .leading_to(*place));
        return;
      }
      if (up.is_root() || name.from_own) return;
    }
  }

  std::string_view cut(Span span) const { return bytes_.substr(span.begin, span.size()); }

  // Relative URLs of the page are relative to this one, which is relative to the page.
  void take_base(Span span) {
    std::string text(cut(span));
    auto part = local_part(text);
    if (!part) return;
    std::string folder = text.substr(0, part->end);
    if (!folder.ends_with("/"))
      folder = folder.find('/') == std::string::npos ? "." : folder.substr(0, folder.rfind('/'));
    if (folder.starts_with("/")) {
      std::vector<RelPath> roots = site_roots(tree_, path_);
      auto place = roots.empty() ? std::nullopt : RelPath::resolve(roots.front(), folder.substr(1));
      if (place) base_ = {*place, kNoFile, Space::tree};
      return;
    }
    auto place = RelPath::resolve(path_.parent(), folder);
    if (!place) return;
    bool is_named =
        folder.ends_with("/") && *place != path_.parent() && !place->is_root() && tree_.is_folder(*place);
    if (is_named && url_decoded(folder) == folder) {
      Reference reference = Reference::of(Role::search_root, self_, {{file_, span.begin}},
                                          {path_.parent(), file_, Space::tree}, {});
      Span part_span{span.begin, span.begin + static_cast<std::uint32_t>(folder.size())};
      reference.text = TracedText::literal(folder, file_, part_span, kUrl);
      reference.lead_to(*place);
      out_.add(std::move(reference));
    }
    base_ = {*place, *place == path_.parent() ? file_ : kNoFile, Space::tree};
  }

  void add(Span span, bool likely, WritingStyle style = kUrl) {
    std::string_view text = cut(span);
    // What a template engine puts before a path stands for the site's root.
    std::size_t skip = 0;
    for (auto [open, close] : {std::pair<std::string_view, std::string_view>{"{{", "}}"},
                               {"<%", "%>"},
                               {"{%", "%}"},
                               {"<?", "?>"},
                               {"${", "}"},
                               {"#{", "}"}}) {
      if (!text.starts_with(open)) continue;
      std::size_t end = text.find(close);
      if (end == std::string_view::npos) return;
      skip = end + close.size();
    }
    span.begin += static_cast<std::uint32_t>(skip);
    text = cut(span);
    if (skip > 0 && !text.starts_with("/")) return;
    if (text.find_first_of("<>{}\"`\n") != std::string_view::npos ||
        text.find("%>") != std::string_view::npos)
      return;
    auto part = local_part(text);
    if (!part) return;
    std::string plain(text.substr(0, part->end));
    if (!whole_ && !out_.wants_stem(plain) && !out_.wants_stem(url_decoded(plain))) return;
    auto found = find_site_path(tree_, scopes_, path_, url_decoded(plain), {base_});
    if (!found) found = through_alias(plain);
    if (!found) {
      bool is_sure = !likely && skip == 0 && !plain.starts_with("/");
      auto wanted = is_sure ? RelPath::resolve(base_.folder, url_decoded(plain)) : std::nullopt;
      if (wanted && !wanted->is_root() && !tree_.find(*wanted))
        out_.unmet({path_, {span.begin, span.begin + part->end}, "link", plain, *wanted});
      return;
    }
    if (plain.find_first_not_of("./") == std::string::npos && !found->left_out) return;
    Reference reference =
        site_reference(*found, file_, plain, {span.begin, span.begin + part->end}, style, self_);
    reference.certainty = likely || skip > 0 ? Certainty::likely : Certainty::certain;
    out_.add(std::move(reference));
  }

  // "@/assets/pole.svg" in a component: bundlers resolve it as they do in its script.
  std::optional<SitePath> through_alias(const std::string& text) const {
    auto found = through_alias(scopes_.aliases, text);
    // Pages before this one may have said something too.
    return found ? found : through_alias(out_.graph().aliases, text);
  }

  std::optional<SitePath> through_alias(const std::vector<Alias>& aliases, const std::string& text) const {
    std::size_t mark = text.starts_with("~") ? 1 : 0;
    for (const Alias& alias : aliases) {
      bool plain =
          alias.open && !alias.head.empty() && alias.before.empty() && alias.after.empty() && !alias.styles;
      if (!plain || !path_.is_within(alias.scope) || text.compare(mark, alias.head.size(), alias.head) != 0)
        continue;
      auto place = RelPath::resolve(alias.place, text.substr(mark + alias.head.size()));
      const Entry* entry = place && *place != alias.place ? tree_.find(*place) : nullptr;
      if (!entry || entry->ignored) continue;
      return SitePath{
          *place, {alias.place, kNoFile, Space::tree}, text.substr(0, mark + alias.head.size()), false, {}};
    }
    return std::nullopt;
  }

  // {"imports": {"tide": "./lib/tide.js", "charts/": "./charts/"}}
  void name_of_map(const json::StringValue& value) {
    const std::string& name = value.path.back();
    auto part = local_part(value.text);
    if (!part || value.path.front() != "imports") return;
    std::string text = value.text.substr(0, part->end);
    std::vector<Base> folders = {base_};
    auto found = find_site_path(tree_, scopes_, path_, text, folders);
    if (!found) return;
    Alias alias;
    alias.scope = path_.parent();
    alias.settings = path_;
    alias.head = name;
    alias.open = name.ends_with("/");
    alias.place = found->target;
    out_.graph().aliases.push_back(std::move(alias));
  }

  const TreeReader& tree_;
  const RelPath& path_;
  std::string_view bytes_;
  std::uint8_t self_;
  const Scopes& scopes_;
  GraphBuilder& out_;
  FileIndex file_;
  bool whole_;
  Base base_;
};

class PagesFormat : public Format, public Spellings, public Consequences {
 public:
  std::string_view name() const override { return "pages"; }
  ScopeSet gives() const override { return Scope::page_names; }
  ScopeSet needs() const override {
    return Scope::compiler_names | Scope::package_names | Scope::bundler_names | Scope::outputs |
           Scope::products;
  }
  bool reads_sources() const override { return true; }

  bool claims(const RelPath& path) const override {
    return is_page(path) || is_web_manifest(path) || is_site_map(path);
  }

  void read(const Reading& in) const override {
    in.each([&](const RelPath& path, const Bytes& bytes) {
      PageEmitter emitter(in, path, *bytes);
      if (is_page(path)) {
        emitter.page(*in.cache.get<PageFacts>(
            in.self, bytes, [](const std::string& text) { return pages::scan_page(text); }));
      } else if (is_site_map(path)) {
        emitter.site_map();
      } else {
        emitter.manifest();
      }
      return true;
    });
  }

  std::vector<Blocker> consequences(const TreeView& before, const TreeView&,
                                    const MoveSet& moves) const override {
    return left_sites(before, moves, name());
  }

  std::vector<Proposal> own_proposals(const RewriteRequest& need) const override {
    const std::vector<Piece>& pieces = need.reference.text.pieces();
    bool is_template = pieces.size() == 1 && pieces[0].style == kTemplate && need.wanted.size() == 1;
    if (!is_template) return site_ways(need);
    // Engines find only what lies in their folders.
    bool climbs = need.reference.base.anchor == kNoFile && !need.wanted[0].path.is_within(need.new_base);
    auto text = climbs ? std::nullopt : write(relative_text(need.new_base, need.wanted[0].path), kTemplate);
    if (!text) return {};
    return {{{Edit{need.graph.files.path(pieces[0].file), pieces[0].span, *text}}, ""}};
  }

  std::optional<std::string> write(std::string_view text, WritingStyle style) const override {
    if (style != kTemplate) return url_encoded(text);
    if (text.find_first_of("\"'\n{}<>$#\\") != std::string_view::npos) return std::nullopt;
    return std::string(text);
  }
};

}  // namespace

std::unique_ptr<Format> pages_format() {
  return std::make_unique<PagesFormat>();
}

}  // namespace yc
