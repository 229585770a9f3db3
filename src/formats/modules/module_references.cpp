#include "formats/modules/module_references.h"

#include <algorithm>
#include <set>

#include "formats/literal_paths.h"

namespace yc::modules {

namespace {

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
      if (specifier.kind == Specifier::Kind::glob) {
        pattern(specifier);
      } else if (specifier.kind == Specifier::Kind::folder) {
        if (whole_ || out_.wants_any_name(specifier.text)) folder(specifier.text, specifier.span);
      } else if (whole_ || out_.wants_stem(without_query(specifier.text)) || may_be_index(specifier.text)) {
        module(specifier);
      }
    }
    for (const Computed& computed : facts_.computed) unseen(computed);
    for (const Joined& joined : facts_.joined) join(joined);
    // What a path from the module's own place holds is not looked for from elsewhere.
    for (const OwnPath& own : facts_.own_paths) {
      for (const OwnPart& part : own.parts) own_.insert(part.span.begin);
    }
    if (!facts_.own_paths.empty()) own_paths();
    for (const PathText& text : facts_.texts) {
      if (taken_.contains(text.span.begin) || own_.contains(text.span.begin)) continue;
      if (text.text.find(' ') != std::string::npos) command(text);
      if (text.text.find('*') != std::string::npos && likely_pattern(text)) continue;
      if (!whole_ && !out_.wants_any_name(text.text)) continue;
      if (text.text.find_first_of("*{<") != std::string::npos) {
        text_with_wildcards(text);
        continue;
      }
      if (auto found = literal_path(tree_, path_, file_, text.text, text.span, kQuoted, self_))
        out_.add(std::move(*found));
    }
  }

 private:
  // "@lib", which stands for a folder whose index moves.
  bool may_be_index(const std::string& specifier) const {
    return out_.focus()->stems.contains("index") && resolver_.is_alias(specifier);
  }

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
    bool plain = specifier.kind == Specifier::Kind::url || specifier.kind == Specifier::Kind::worker ||
                 specifier.kind == Specifier::Kind::reference;
    if (text.empty() || text.find(':') != std::string::npos) return;  // node:fs, https://…
    Resolution found = resolver_.resolve(path_, text, plain);
    Reference reference = reference_at(Role::module, span, TracedText::literal(text, file_, span, kQuoted))
                              .spelled_by_format(found.lead);
    if (found.search) reference.search.push_back(*found.search);
    reference.lead_to(found.targets);
    if (specifier.kind == Specifier::Kind::worker) {
      // It may also be looked for from the page.
      if (reference.targets.empty()) return;
      reference.certainty = Certainty::likely;
    }
    bool asks = specifier.kind == Specifier::Kind::augmentation || specifier.kind == Specifier::Kind::types;
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

  // "node tools/tide.js --all": the words of a command that name files.
  void command(const PathText& text) {
    for (std::size_t at = 0; at < text.text.size();) {
      std::size_t end = std::min(text.text.find(' ', at), text.text.size());
      std::string word = text.text.substr(at, end - at);
      Span span{text.span.begin + static_cast<std::uint32_t>(at),
                text.span.begin + static_cast<std::uint32_t>(end)};
      at = end + 1;
      if (word.find('/') == std::string::npos || word.find_first_of("*{<") != std::string::npos) continue;
      if (!whole_ && !out_.wants_any_name(word)) continue;
      auto found = literal_path(tree_, path_, file_, word, span, kQuoted, self_);
      if (found && std::all_of(found->targets.begin(), found->targets.end(),
                               [&](const Target& target) { return tree_.is_file(target.path); }))
        out_.add(std::move(*found));
    }
  }

  // "tides/*.csv", from the folder that the program is started in, or a test runner.
  bool likely_pattern(const PathText& text) {
    bool is_plain = text.text.find_first_of(" {<$!()") == std::string::npos &&
                    text.text.find("**") == std::string::npos && text.text.find('/') != std::string::npos;
    std::string_view head = std::string_view(text.text).substr(0, text.text.find('/'));
    if (!is_plain || head.empty() || has_wildcard(head)) return false;
    for (RelPath up = path_.parent();; up = up.parent()) {
      Base base{up, kNoFile, Space::tree};
      Reference reference = Reference::of(Role::pattern, self_, {{file_, text.span.begin}}, base,
                                          TracedText::literal(text.text, file_, text.span, kQuoted))
                                .as_sure_as(Certainty::likely)
                                .in(ConstructPart::of(up));
      if (add_pattern(std::move(reference), up, text.text)) return true;
      if (up.is_root()) return false;
    }
  }

  // False where nothing is found.
  bool add_pattern(Reference reference, const RelPath& folder, const std::string& pattern) {
    std::vector<RelPath> found = match_paths(tree_, folder, pattern);
    std::erase_if(found, [&](const RelPath& target) {
      const Entry* entry = tree_.find(target);
      return !entry || entry->ignored || target == path_;
    });
    if (found.empty()) return false;
    reference.kind = GlobPattern{};
    reference.may_gain = true;
    reference.lead_to(found);
    out_.add(std::move(reference));
    return true;
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

  void own_paths() {
    auto bytes = tree_.read(path_);
    if (!bytes) return;
    std::set<Span> read;  // by others
    for (const Joined& joined : facts_.joined) read.insert(joined.parts.begin(), joined.parts.end());
    for (const Specifier& specifier : facts_.specifiers) read.insert(specifier.span);
    for (const OwnPath& own : facts_.own_paths) {
      bool is_read = std::all_of(own.parts.begin(), own.parts.end(), [&](const OwnPart& part) {
        return part.via.empty() && read.contains(part.span);
      });
      is_read = is_read && own.ups == 0 && !own.parts.empty();
      auto text = text_of(own, **bytes);
      if (text && (!is_read || own.is_open || has_wildcard(text->text()))) own_path(own, *text);
    }
  }

  // Counted from the module's own folder.
  std::optional<TracedText> text_of(const OwnPath& own, std::string_view bytes) const {
    TracedText text;
    if (own.ups > 0 || own.parts.empty()) {
      TracedText folder =
          TracedText::folder(Piece::Nature::tree_folder, file_, marked(Space::tree, path_.parent()));
      Piece piece = folder.pieces().front();
      piece.style = kExpression;
      text.append(std::move(piece));
      text = text.through({file_, own.climb});
    }
    for (std::uint32_t up = 0; up < own.ups; ++up) text.append(TracedText::plain("/.."));
    for (const OwnPart& part : own.parts) {
      std::string piece(bytes.substr(part.span.begin, part.span.size()));
      if (piece.find_first_of("\\\n\r:") != std::string::npos) return std::nullopt;
      if (part.separated && !text.empty() && !text.text().ends_with("/")) text.append(TracedText::plain("/"));
      if (text.empty() && piece.starts_with("/")) text.append(TracedText::plain("."));
      if (piece.empty()) continue;
      TracedText traced = TracedText::literal(piece, file_, part.span, kQuoted);
      for (const Span& name : part.via) traced = traced.through({file_, name});
      text.append(traced);
    }
    return text.empty() ? std::nullopt : std::optional(std::move(text));
  }

  void own_path(const OwnPath& own, TracedText text) {
    if (own.is_apart && !text.text().ends_with("/")) text.append(TracedText::plain("/"));
    std::string plain = text.text();
    Span site{own.begin, own.begin};
    if (own.is_open) {
      std::size_t slash = plain.rfind('/');
      if (!plain.ends_with("/") && slash == std::string::npos) slash = plain.size();
      TracedText whole = text;
      whole.append(TracedText::hole());
      TracedText head = text.substr(0, std::min(slash, plain.size()));
      Place place = place_of(path_.parent(), head.text());
      bool climbs = head.text().find_first_not_of("./") == std::string::npos;
      if (climbs || place.space != Space::tree || place.path.is_root() || !tree_.is_folder(place.path))
        return;
      if (slash < plain.size()) out_.hole(whole, own_folder(), self_);
      if (whole_ || out_.wants_any_name(place.path.str()))
        lead(reference_at(Role::argument, site, std::move(head)).in(ConstructPart::tagged("folder")),
             place.path);
      return;
    }
    if (has_wildcard(plain)) return own_pattern(site, std::move(text), plain);
    while (plain.ends_with("/")) plain.pop_back();
    Place place = place_of(path_.parent(), plain);
    // Of a module that moves the folders count, too, that it names by how far it climbs to them.
    bool is_climb = own.parts.empty() || plain.find_first_not_of("./") == std::string::npos;
    if (is_climb && !whole_) return;
    if (place.space != Space::tree || (place.path.is_root() && !is_climb)) return;
    Reference reference =
        reference_at(Role::argument, site, text.substr(0, plain.size())).in(ConstructPart::tagged("path"));
    if (place.path.is_root())
      return out_.add(std::move(reference).leading_to(place.path, Target::Kind::tree));
    const Entry* entry = tree_.find(place.path);
    // What is not there it writes; outside of its own folder, that goes where it went.
    if ((!entry || entry->ignored) && whole_ && !place.path.is_within(path_.parent()))
      out_.add(std::move(reference).leading_to(place.path, Target::Kind::output));
    else if (whole_ || out_.wants_any_name(place.path.str()))
      lead(std::move(reference), place.path);
  }

  void lead(Reference reference, const RelPath& target) {
    const Entry* entry = tree_.find(target);
    if (!entry || entry->ignored || target == path_) return;
    reference.lead_to(target);
    out_.add(std::move(reference));
  }

  // glob(path.join(__dirname, "tides", "*.csv"))
  void own_pattern(Span site, TracedText text, const std::string& plain) {
    if (plain.find("**") != std::string::npos) return;
    RelPath folder = plain.starts_with(kTreeMark) ? RelPath() : path_.parent();
    add_pattern(reference_at(Role::pattern, site, std::move(text)).in(ConstructPart::tagged("path")), folder,
                plain);
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
    bool is_place = place.space == Space::tree && (place.path.is_root() || tree_.find(place.path));
    // The root counts where a text climbs to it, or would if the file lay elsewhere.
    bool climbs = climbs_to_root(text.text()) || text.text() == ".";
    if (!is_place || (place.path.is_root() && !climbs)) return;
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
  std::set<std::uint32_t> own_;
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
