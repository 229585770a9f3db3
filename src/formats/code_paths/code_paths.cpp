#include "formats/code_paths/code_paths.h"

#include <algorithm>

#include "base/name_search.h"
#include "formats/build_copies.h"
#include "formats/capabilities/spellings.h"
#include "formats/code_paths/calls.h"
#include "formats/code_paths/string_scan.h"
#include "formats/command_strings.h"
#include "formats/glued_paths/constant_folder.h"
#include "formats/glued_paths/path_constants.h"
#include "formats/literal_paths.h"
#include "words/code_paths.h"

namespace yc {

namespace {

using code_paths::CodeString;
using code_paths::Language;
using Strings = std::vector<CodeString>;
namespace glue = glued_paths;

// What a source says.
struct CodeFacts {
  Strings strings;
  glue::GlueFacts glue;
};

std::optional<Language> language_of(const RelPath& path) {
  struct Known {
    std::string_view ending;
    Language language;
  };
  static constexpr Known kKnown[] = {
      {".c", Language::c},       {".h", Language::c},       {".cc", Language::c},
      {".cpp", Language::c},     {".cxx", Language::c},     {".hpp", Language::c},
      {".hh", Language::c},      {".m", Language::c},       {".mm", Language::c},
      {".cs", Language::csharp}, {".rs", Language::rust},   {".go", Language::go},
      {".java", Language::java}, {".kt", Language::java},   {".swift", Language::java},
      {".dart", Language::java}, {".scala", Language::java}};
  std::string_view ending = path.extension();
  for (const Known& known : kKnown) {
    if (ending == known.ending) return known.language;
  }
  return std::nullopt;
}

glue::Language glue_language(Language language) {
  switch (language) {
    case Language::c:
      return glue::Language::c;
    case Language::csharp:
      return glue::Language::csharp;
    case Language::rust:
      return glue::Language::rust;
    case Language::go:
      return glue::Language::go;
    case Language::java:
      break;
  }
  return glue::Language::java;
}

std::shared_ptr<const CodeFacts> facts_of_code(FactsCache& cache, std::uint8_t self, const Bytes& bytes,
                                               Language language) {
  return cache.get<CodeFacts>(self, bytes, [&](const std::string& text) {
    CodeFacts facts{code_paths::scan_strings(text, language), {}};
    std::vector<Span> spans;
    for (const CodeString& string : facts.strings) {
      // The name of an include is glued to nothing.
      if (string.span.size() > 0 && !string.before.ends_with("#include")) spans.push_back(string.span);
    }
    facts.glue = glue::scan_glue(text, spans, glue_language(language));
    return facts;
  });
}

bool ends_with_any(const std::string& text, std::initializer_list<std::string_view> tails) {
  return std::any_of(tails.begin(), tails.end(), [&](std::string_view tail) { return text.ends_with(tail); });
}

class CodePathEmitter {
 public:
  // `taken`: offsets of the strings that are read already.
  CodePathEmitter(const Reading& in, const RelPath& path, const std::string& bytes, const Strings& strings,
                  std::set<std::uint32_t> taken, Language language)
      : tree_(in.tree),
        path_(path),
        bytes_(bytes),
        strings_(strings),
        taken_(std::move(taken)),
        language_(language),
        self_(in.self),
        scopes_(in.scopes),
        out_(in.out),
        file_(in.out.files().index(path)),
        whole_(in.out.wants(path)) {}

  void run() {
    for (std::size_t i = 0; i < strings_.size();) i = take(i);
  }

 private:
  std::string text_of(const CodeString& string) const {
    return bytes_.substr(string.span.begin, string.span.size());
  }

  // Handles one string, or several that are joined to one path; gives the next one.
  std::size_t take(std::size_t i) {
    const CodeString& string = strings_[i];
    // The name of an include is another reader's.
    if (!string.plain || string.span.size() == 0 || taken_.contains(string.span.begin) ||
        ends_with_any(string.before, {"#include", "#import"}))
      return i + 1;
    std::string text = text_of(string);
    if (is_in_crate(i, text) && in_crate({string.span.begin + 3, string.span.end}, text.substr(3), false))
      return i + 2;
    if (language_ == Language::rust && named_for_macro(string, text)) return i + 1;
    if (has_wildcard(text) && pattern(i, text)) return i + 1;
    if (command(string, text)) return i + 1;
    if (text.size() > 300 || text.find_first_of("\n\r\t{}%*?<>|$") != std::string::npos) return i + 1;
    if (certain(string, text)) return i + 1;
    if (i >= run_end_) {
      run_end_ = i + 1;
      while (run_end_ < strings_.size() && strings_[run_end_].plain && joins(strings_[run_end_].before))
        ++run_end_;
    }
    // Of more parts no path is made: it is a table.
    bool is_path = run_end_ > i + 1 && run_end_ - i <= kMostParts;
    if (is_path && joined(i, run_end_)) return run_end_;
    likely(i, text);
    return i + 1;
  }

  // "a", "b" in a call that joins, a / "b", .join("a").join("b")
  static bool joins(const std::string& code) {
    return code == "," || code == "/" || code == ").join(" || code == ").resolve(" ||
           code == ").appendingPathComponent(";
  }

  // system("sh tools/gen.sh data")
  bool command(const CodeString& string, const std::string& text) {
    if (text.find('\\') != std::string::npos || !(whole_ || wants_any_word(out_, text))) return false;
    std::vector<Reference> named = command_in_string(
        tree_, path_, TracedText::literal(text, file_, string.span), {file_, string.span.begin}, self_);
    for (Reference& reference : named) out_.add(std::move(reference));
    return !named.empty();
  }

  Reference reference_at(Span span, std::string text, Base base) const {
    Reference out = Reference::of(Role::argument, self_, {{file_, span.begin}}, std::move(base),
                                  TracedText::literal(std::move(text), file_, span));
    return out;
  }

  bool wants(const std::string& text) const { return whole_ || out_.wants_any_name(text); }

  // What the language itself reads.
  bool certain(const CodeString& string, const std::string& text) {
    Base own{path_.parent(), file_, Space::tree};
    bool reads =
        ends_with_any(string.before, {"include_str!(", "include_bytes!(", "include!(", "#[path=", "#embed"});
    Span span = string.span;
    // concat!(env!("CARGO_MANIFEST_DIR"), "/…")
    if (!reads && language_ == Language::rust && text.starts_with("/") && string.before.ends_with("),"))
      return in_crate({span.begin + 1, span.end}, text.substr(1), true);
    // path(__FILE__).parent_path() / "data"
    bool beside = ends_with_any(string.before, {"(__FILE__).parent_path()/", "__FILE__).parent_path()/"});
    return (reads || beside) && read_from(own, span, text, reads);
  }

  // format!("{}/…", env!("CARGO_MANIFEST_DIR")), which a program may also write
  bool is_in_crate(std::size_t i, const std::string& text) const {
    return language_ == Language::rust && text.starts_with("{}/") && text.find('{', 1) == std::string::npos &&
           strings_[i].after.starts_with(",env!(") && i + 1 < strings_.size() &&
           text_of(strings_[i + 1]) == "CARGO_MANIFEST_DIR";
  }

  // What macros take that embed files: include_dir!("$CARGO_MANIFEST_DIR/data"), #[folder = "public/"] and
  // #[template(path = "level.html")], which lies below templates/.
  bool named_for_macro(const CodeString& string, const std::string& text) {
    constexpr std::string_view kCrate = "$CARGO_MANIFEST_DIR/";
    Span span = string.span;
    if (text.starts_with(kCrate)) {
      span.begin += static_cast<std::uint32_t>(kCrate.size());
      return in_crate(span, text.substr(kCrate.size()), false);
    }
    bool is_folder = string.before.ends_with("#[folder="),
         is_template = string.before.ends_with("#[template(path=");
    if (text.starts_with("$") || text.starts_with("/") || !(is_folder || is_template)) return false;
    if (is_folder && text.ends_with("/")) --span.end;
    std::string name = bytes_.substr(span.begin, span.size());
    return is_template ? template_of_crate(span, name) : in_crate(span, name, false);
  }

  bool template_of_crate(Span span, const std::string& name) {
    constexpr std::string_view kFolder = "templates/";
    auto crate = crate_folder();
    auto place = crate ? RelPath::resolve(*crate, std::string(kFolder) + name) : std::nullopt;
    if (!place || !tree_.is_file(*place) || name.starts_with("../") || !wants(name)) return false;
    TracedText text = TracedText::plain(std::string(kFolder));
    text.append(TracedText::literal(name, file_, span));
    Reference reference =
        reference_at(span, "", {*crate, out_.files().index(*crate / "Cargo.toml"), Space::tree});
    reference.text = std::move(text);
    reference.certainty = Certainty::likely;
    reference.lead_to(*place);
    out_.add(std::move(reference));
    return true;
  }

  std::optional<RelPath> crate_folder() const {
    for (RelPath up = path_.parent();; up = up.parent()) {
      if (tree_.is_file(up / "Cargo.toml")) return up;
      if (up.is_root()) return std::nullopt;
    }
  }

  // What is counted from the folder of the crate's manifest; false if there is none.
  bool in_crate(Span span, const std::string& name, bool reads) {
    auto crate = crate_folder();
    if (!crate) return false;
    return read_from({*crate, out_.files().index(*crate / "Cargo.toml"), Space::tree}, span, name, reads);
  }

  // `reads`: whoever builds or runs it opens that very file.
  bool read_from(const Base& base, Span span, const std::string& name, bool reads) {
    auto place = RelPath::resolve(base.folder, name);
    const Entry* entry = place && !place->is_root() ? tree_.find(*place) : nullptr;
    if (entry && entry->ignored) return false;
    if (!wants(name)) return true;
    Reference reference = reference_at(span, name, base);
    if (entry) reference.lead_to(*place);
    reference.dangling = !entry && reads;
    if (entry || reads) out_.add(std::move(reference));
    return true;
  }

  // Strings that make one path together, from a folder between the file's own and the root.
  bool joined(std::size_t begin, std::size_t end) {
    TracedText text;
    for (std::size_t i = begin; i < end; ++i) {
      std::string part = text_of(strings_[i]);
      if (part.empty() || part.find_first_of(" :\n\\") != std::string::npos || part.starts_with("/"))
        return false;
      if (!text.empty()) text.append(TracedText::plain("/"));
      text.append(TracedText::literal(std::move(part), file_, strings_[i].span));
    }
    std::string plain = text.text();
    if (!wants(plain)) return false;
    if (copied(text, strings_[begin].span)) return true;
    for (RelPath up = path_.parent();; up = up.parent()) {
      auto place = RelPath::resolve(up, plain);
      const Entry* entry = place && !place->is_root() ? tree_.find(*place) : nullptr;
      if (entry && !entry->ignored) {
        Reference reference = reference_at(strings_[begin].span, "", {up, kNoFile, Space::tree});
        reference.certainty = Certainty::likely;
        reference.may_gain = true;
        reference.construct_part = ConstructPart::of(up);
        reference.text = std::move(text);
        reference.lead_to(*place);
        out_.add(std::move(reference));
        return true;
      }
      if (up.is_root()) return false;
    }
  }

  void likely(std::size_t index, const std::string& text) {
    const CodeString& string = strings_[index];
    // What go leaves aside in a folder of sources, its tests open (cmd/go, "Package lists and patterns").
    bool is_test_data =
        language_ == Language::go && text == "testdata" && tree_.is_folder(path_.parent() / text);
    const WordList& listing = words::code_paths::listing_calls();
    // fs.Sub(files, "static")
    bool lists = code_paths::is_first_in(string, listing) ||
                 (language_ == Language::go && code_paths::is_given_to(strings_, index, listing));
    bool telling = is_test_data || text.find('/') != std::string::npos ||
                   (text.find('.') != std::string::npos && text[0] != '.') || lists ||
                   code_paths::is_first_in(string, words::code_paths::path_calls());
    if (!telling || text.starts_with("/") || text.find("://") != std::string::npos ||
        text.find_first_of(" \\:;,=") != std::string::npos)
      return;
    // "icons/" + name
    if (text.ends_with("/")) {
      bool glued = string.after.starts_with("+") || string.after.starts_with("s+");
      if (glued) folder({string.span.begin, string.span.end - 1}, text.substr(0, text.size() - 1));
      return;
    }
    // What is in it is found by looking.
    if (lists && language_ != Language::c && folder(string.span, text)) return;
    // The name of a source alone is what a program writes, more often than what it opens.
    bool alone = text.find('/') == std::string::npos;
    if (alone && language_of(RelPath::from_normal(text))) return;
    // Of C and C++ the reader of their includes takes all others.
    if (!wants(text) || (language_ == Language::c && !alone)) return;
    if (copied(TracedText::literal(text, file_, string.span), string.span)) return;
    auto found = literal_path(tree_, path_, file_, text, string.span, 0, self_);
    // What a program would write is told by its own language only rarely.
    if (found && found->targets.front().kind == Target::Kind::tree) out_.add(std::move(*found));
  }

  // "static/*.css" where files are looked for: those that are there by such names. A name alone says nothing
  // of the folder.
  bool pattern(std::size_t index, const std::string& text) {
    bool fits = text.find('/') < text.find_first_of("*?[") && !text.starts_with("/") &&
                text.find("**") == std::string::npos && text.find_first_of("{}% \n\\") == std::string::npos;
    if (!fits || !code_paths::is_given_to(strings_, index, words::code_paths::pattern_calls())) return false;
    for (RelPath up = path_.parent();; up = up.parent()) {
      std::vector<RelPath> found = match_paths(tree_, up, text);
      if (!found.empty()) {
        Reference reference = reference_at(strings_[index].span, text, {up, kNoFile, Space::tree});
        reference.role = Role::pattern;
        reference.kind = GlobPattern{};
        reference.certainty = Certainty::likely;
        reference.may_gain = true;
        reference.construct_part = ConstructPart::of(up);
        reference.lead_to(found);
        out_.add(std::move(reference));
        return true;
      }
      if (up.is_root()) return false;
    }
  }

  // Whether a text of a program names what the build copies beside that.
  bool copied(const TracedText& text, Span span) {
    if (language_ != Language::c && language_ != Language::csharp) return false;
    CopyUse use = copied_path(scopes_, out_.files(), tree_, text, {file_, span.begin}, self_);
    if (use.reference) out_.add(std::move(*use.reference));
    return use.any;
  }

  // A folder in which the program goes on with something unknown; false if there is none.
  bool folder(Span span, const std::string& text) {
    if (copied(TracedText::literal(text, file_, span), span)) return true;
    for (RelPath up = path_.parent();; up = up.parent()) {
      auto place = RelPath::resolve(up, text);
      if (place && !place->is_root() && tree_.is_folder(*place) && !tree_.find(*place)->ignored) {
        Base base{up, kNoFile, Space::tree};
        if (wants(place->str())) {
          Reference reference = reference_at(span, text, base);
          reference.certainty = Certainty::likely;
          reference.may_gain = true;
          reference.construct_part = ConstructPart::of(up);
          reference.lead_to(*place);
          out_.add(std::move(reference));
        }
        TracedText whole = TracedText::literal(text, file_, span);
        whole.append(TracedText::plain("/"));
        whole.append(TracedText::hole());
        out_.hole(whole, base, self_);
        return true;
      }
      if (up.is_root()) return false;
    }
  }

  const TreeReader& tree_;
  const RelPath& path_;
  const std::string& bytes_;
  const Strings& strings_;
  static constexpr std::size_t kMostParts = 32;
  std::size_t run_end_ = 0;  // of the strings that may be joined with the one at hand
  std::set<std::uint32_t> taken_;
  Language language_;
  std::uint8_t self_;
  const Scopes& scopes_;
  GraphBuilder& out_;
  FileIndex file_;
  bool whole_;
};

class CodePathsFormat : public Format, public Spellings, public Constants {
 public:
  std::string_view name() const override { return "code paths"; }
  ScopeSet needs() const override { return Scope::copies | Scope::products | ScopeSet(Scope::search_roots); }
  bool reads_sources() const override { return true; }

  bool claims(const RelPath& path) const override { return language_of(path).has_value(); }

  void read(const Reading& in) const override {
    const TreeReader& tree = in.tree;
    FactsCache& cache = in.cache;
    std::uint8_t self = in.self;
    GraphBuilder& out = in.out;
    std::vector<std::string> names;
    if (out.focus()) {
      names.assign(out.focus()->names.begin(), out.focus()->names.end());
      // "icons/" + name
      names.insert(names.end(), out.focus()->left.begin(), out.focus()->left.end());
    }
    NameSearch search(names);
    struct Source {
      RelPath path;
      Bytes bytes;
      Language language;
      std::shared_ptr<const CodeFacts> facts;
    };
    std::vector<Source> sources;
    std::map<Language, glue::UnknownNames> unknown;
    for (const RelPath& path : in.files) {
      if (!tree.is_editable(path)) continue;
      auto language = language_of(path);
      auto bytes = tree.read(path);
      if (!bytes || (out.focus() && !out.wants(path) && !search.finds_any(**bytes))) continue;
      auto facts = facts_of_code(cache, self, *bytes, *language);
      glue::note_unknown_names(facts->glue, **bytes, path, out, unknown[*language]);
      sources.push_back({path, *bytes, *language, std::move(facts)});
    }
    std::map<Language, glue::PathConstants> constants;
    for (const auto& [language, unknown_names] : unknown) {
      glue::PathConstants& its = constants.emplace(language, constants_of(in, language)).first->second;
      for (const Source& source : sources) {
        if (source.language == language) its.take_loaders(source.path, source.facts->glue);
      }
      its.look_up(unknown_names);
    }
    for (const Source& source : sources) {
      std::set<std::uint32_t> taken = glue::emit_glued(tree, source.path, source.facts->glue,
                                                       constants.at(source.language), self, true, out);
      CodePathEmitter(in, source.path, *source.bytes, source.facts->strings, std::move(taken),
                      source.language)
          .run();
    }
  }

  std::vector<Edit> through_constant(const TreeReader& tree, const ReferenceGraph& graph,
                                     const std::vector<const Reference*>& references, const std::string& name,
                                     const RelPath& folder) const override {
    auto language = language_of(graph.files.path(standing_of(*references.front()).file));
    if (!language) return {};
    return glue::through_constant(tree, graph, references, name, folder, glue_language(*language));
  }

  std::vector<Edit> in_loader(const TreeReader& tree, const ReferenceGraph& graph,
                              const std::vector<const Reference*>& references, const std::string& name,
                              const RelPath& folder) const override {
    std::map<Language, std::vector<const Reference*>> by_language;
    for (const Reference* reference : references) {
      if (auto language = language_of(graph.files.path(standing_of(*reference).file)))
        by_language[*language].push_back(reference);
    }
    std::vector<Edit> out;
    for (const auto& [language, its] : by_language) {
      auto has_language = [&, language = language](const RelPath& path) {
        return language_of(path) == language;
      };
      std::vector<Edit> more =
          glue::in_loader(tree, graph, its, name, folder, glue_language(language), has_language);
      std::move(more.begin(), more.end(), std::back_inserter(out));
    }
    return out;
  }

  std::vector<Proposal> own_proposals(const RewriteRequest& need) const override {
    return spelled_in_copy(need);
  }
  std::optional<Reason> why_not(const ReferenceGraph& graph, const Reference& reference, const RelPath&,
                                const RelPath&) const override {
    return why_no_copy(graph, reference);
  }
  std::vector<Proposal> late_proposals(const RewriteRequest& need) const override {
    return spelled_as_path(need);
  }

  std::optional<std::string> write(std::string_view text, WritingStyle) const override {
    if (text.find_first_of("\"\\\n\r{}%`") != std::string_view::npos) return std::nullopt;
    return std::string(text);
  }

 private:
  static glue::PathConstants constants_of(const Reading& in, Language language) {
    std::vector<RelPath> files;
    for (const RelPath& path : in.files) {
      if (language_of(path) == language && in.tree.is_editable(path)) files.push_back(path);
    }
    glue::PathConstants out(in.tree, std::move(files), [&in, language](const RelPath& path) {
      auto bytes = in.tree.read(path);
      std::shared_ptr<const CodeFacts> facts =
          bytes ? facts_of_code(in.cache, in.self, *bytes, language) : nullptr;
      return std::shared_ptr<const glue::GlueFacts>(facts, facts ? &facts->glue : nullptr);
    });
    if (language == Language::c) out.see_macros(in.scopes);
    if (language == Language::c || language == Language::csharp) out.see_copies(in.scopes, in.out.files());
    return out;
  }
};

}  // namespace

std::unique_ptr<Format> code_paths_format() {
  return std::make_unique<CodePathsFormat>();
}

}  // namespace yc
