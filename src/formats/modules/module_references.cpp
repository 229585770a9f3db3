#include "formats/modules/module_references.h"

#include <algorithm>

#include "formats/literal_paths.h"

namespace yc::modules {

namespace {

using Kind = Specifier::Kind;

class Emitter {
 public:
  Emitter(const ModuleResolver& resolver, const TreeReader& tree, const RelPath& path,
          const ModuleFacts& facts, const std::set<std::uint32_t>& taken, std::uint8_t format,
          GraphBuilder& out)
      : resolver_(resolver),
        tree_(tree),
        path_(path),
        facts_(facts),
        taken_(taken),
        self_(format),
        out_(out),
        file_(out.files().index(path)),
        whole_(out.wants(path)) {}

  void run() {
    for (const Specifier& specifier : facts_.specifiers) {
      if (specifier.kind == Kind::glob) {
        pattern(specifier);
      } else if (specifier.kind == Kind::folder) {
        if (whole_ || out_.wants_any_name(specifier.text)) folder(specifier.text, specifier.span);
      } else if (whole_ || out_.wants_stem(without_query(specifier.text))) {
        module(specifier);
      }
    }
    for (const Computed& computed : facts_.computed) unseen(computed);
    for (const Joined& joined : facts_.joined) join(joined);
    for (const PathText& text : facts_.texts) {
      if (taken_.contains(text.span.begin) || (!whole_ && !out_.wants_any_name(text.text))) continue;
      if (text.text.find_first_of("*{<") != std::string::npos) {
        text_with_wildcards(text);
        continue;
      }
      if (auto found = literal_path(tree_, path_, file_, text.text, text.span, kQuoted, self_))
        out_.add(std::move(*found));
    }
  }

 private:
  static std::string_view without_query(std::string_view text) {
    Span part = path_part(text);
    return text.substr(part.begin, part.size());
  }

  Base own_folder() const { return {path_.parent(), file_, Space::tree}; }

  Reference reference_at(Role role, Span span, TracedText text = {}) const {
    return Reference::of(role, self_, {{file_, span.begin}}, own_folder(), std::move(text));
  }

  void module(const Specifier& specifier) {
    Span part = path_part(specifier.text);
    Span span{specifier.span.begin + part.begin, specifier.span.begin + part.end};
    std::string text = specifier.text.substr(part.begin, part.size());
    bool plain =
        specifier.kind == Kind::url || specifier.kind == Kind::worker || specifier.kind == Kind::reference;
    if (text.empty() || text.find(':') != std::string::npos) return;  // node:fs, https://…
    Resolution found = resolver_.resolve(path_, text, plain);
    Reference reference = reference_at(Role::module, span, TracedText::literal(text, file_, span, kQuoted))
                              .spelled_by_format(found.lead);
    if (found.search) reference.search.push_back(*found.search);
    reference.lead_to(found.targets);
    if (specifier.kind == Kind::worker) {
      // It may also be looked for from the page.
      if (reference.targets.empty()) return;
      reference.certainty = Certainty::likely;
    }
    bool asks = specifier.kind == Kind::augmentation || specifier.kind == Kind::types;
    reference.dangling = reference.targets.empty() && !found.outside && !asks;
    if (found.wanted && found.outside && !asks)
      out_.unmet({path_, span, "module", text, *found.wanted,
                  ending_of(text).empty() ? left_out_endings() : std::vector<std::string_view>{}});
    out_.add(std::move(reference));
  }

  // A glob import: "./charts/*.ts", "../**/*.json", "/src/pages/*.tsx".
  void pattern(const Specifier& specifier) {
    std::string text = specifier.text;
    Span span = specifier.span;
    bool excludes = text.starts_with("!");
    if (excludes) text.erase(0, 1), ++span.begin;
    if (!text.starts_with("./") && !text.starts_with("../")) return;
    Reference reference = reference_at(Role::pattern, specifier.span);
    reference.excludes = excludes;
    reference.in_list = true;
    if (has_wildcard(text)) reference.kind = GlobPattern{};
    std::size_t deep = text.find("/**/");
    std::vector<RelPath> found;
    if (deep != std::string::npos && !has_wildcard(text.substr(0, deep)) &&
        text.find('/', deep + 4) == std::string::npos) {
      std::string names = text.substr(deep + 4);
      reference.kind =
          GlobPattern{GlobPattern::Kind::deep, names, TracedText::literal(text, file_, span, kQuoted)};
      text.resize(deep);
      span.end = span.begin + static_cast<std::uint32_t>(deep);
      found = match_deep(tree_, path_.parent(), text + "/" + names);
    } else {
      found = match_paths(tree_, path_.parent(), text);
    }
    reference.text = TracedText::literal(text, file_, span, kQuoted);
    for (const RelPath& target : found) {
      const Entry* entry = tree_.find(target);
      if (entry && entry->kind == EntryKind::file && !entry->ignored && target != path_)
        reference.lead_to(target);
    }
    out_.add(std::move(reference));
  }

  // A folder that is named for what is in it.
  void folder(std::string text, Span span) {
    while (text.ends_with("/")) text.pop_back(), --span.end;
    auto place = RelPath::resolve(path_.parent(), text);
    bool climbs = text.find_first_not_of("./") == std::string::npos;
    if (!place || place->is_root() || climbs || !tree_.is_folder(*place)) return;
    Reference reference = reference_at(Role::argument, span);
    reference.text = TracedText::literal(text, file_, span, kQuoted);
    reference.lead_to(*place);
    out_.add(std::move(reference));
  }

  // Of settings: "./src/**/*.ts", "<rootDir>/src/$1". What is named for sure is the folder before that.
  void text_with_wildcards(const PathText& text) {
    std::size_t begin = text.text.starts_with("<rootDir>/") ? 10 : 0;
    std::size_t wild = std::min(text.text.find_first_of("*{$", begin), text.text.size());
    std::size_t end = wild == text.text.size() ? wild : text.text.rfind('/', wild);
    if (end == std::string::npos || end <= begin) return;
    Span span{text.span.begin + static_cast<std::uint32_t>(begin),
              text.span.begin + static_cast<std::uint32_t>(end)};
    std::string head = text.text.substr(begin, end - begin);
    auto place = RelPath::resolve(path_.parent(), head);
    if (!place || place->is_root() || head.find_first_not_of("./") == std::string::npos ||
        !tree_.find(*place) || tree_.find(*place)->ignored)
      return;
    Reference reference = reference_at(Role::argument, span);
    reference.certainty = Certainty::likely;
    reference.text = TracedText::literal(head, file_, span, kQuoted);
    reference.lead_to(*place);
    out_.add(std::move(reference));
  }

  // A specifier that is put together when the program runs. The folder that it begins with is known.
  void unseen(const Computed& computed) {
    auto bytes = tree_.read(path_);
    if (!bytes) return;
    auto cut = [&](Span span) { return (*bytes)->substr(span.begin, span.size()); };
    std::string head = cut(computed.head), tail = cut(computed.tail);
    Base base = own_folder();
    bool relative = head.starts_with("./") || head.starts_with("../");
    if (!relative && !head.empty()) return;  // of an installed package
    TracedText text = head.empty() ? TracedText() : TracedText::literal(head, file_, computed.head, kQuoted);
    text.append(TracedText::hole());
    if (!tail.empty()) text.append(TracedText::literal(tail, file_, computed.tail, kQuoted));
    if (head.empty() && tail.find_first_of("/.") == std::string::npos) return;
    out_.hole(text, base, self_);
    std::size_t slash = head.rfind('/');
    if (relative && slash != std::string::npos)
      folder(head.substr(0, slash),
             {computed.head.begin, computed.head.begin + static_cast<std::uint32_t>(slash)});
  }

  // path.join(__dirname, "..", "charts"): a path whose parts stand apart.
  void join(const Joined& joined) {
    auto bytes = tree_.read(path_);
    if (!bytes || joined.parts.empty()) return;
    TracedText text;
    for (const Span& part : joined.parts) {
      std::string piece = (*bytes)->substr(part.begin, part.size());
      if (piece.find('\\') != std::string::npos || piece.starts_with("/")) return;
      if (!text.empty()) text.append(TracedText::plain("/"));
      text.append(TracedText::literal(piece, file_, part, kQuoted));
    }
    Place place = place_of(path_.parent(), text.text());
    if (place.space != Space::tree || place.path.is_root() || !tree_.find(place.path)) return;
    if (!whole_ && !out_.wants_any_name(place.path.str())) return;
    Reference reference = reference_at(Role::argument, {joined.statement, joined.statement});
    reference.text = std::move(text);
    reference.lead_to(place.path);
    out_.add(std::move(reference));
  }

  const ModuleResolver& resolver_;
  const TreeReader& tree_;
  const RelPath& path_;
  const ModuleFacts& facts_;
  const std::set<std::uint32_t>& taken_;
  std::uint8_t self_;
  GraphBuilder& out_;
  FileIndex file_;
  bool whole_;
};

}  // namespace

Span path_part(std::string_view specifier) {
  std::size_t begin = specifier.rfind('!');
  begin = begin == std::string_view::npos ? 0 : begin + 1;
  std::size_t end = std::min(specifier.find('?', begin), specifier.size());
  return span_of(begin, end);
}

void emit_module(const ModuleResolver& resolver, const TreeReader& tree, const RelPath& path,
                 const ModuleFacts& facts, const std::set<std::uint32_t>& taken, std::uint8_t format,
                 GraphBuilder& out) {
  Emitter(resolver, tree, path, facts, taken, format, out).run();
}

}  // namespace yc::modules
