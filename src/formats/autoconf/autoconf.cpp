#include "formats/autoconf/autoconf.h"

#include <algorithm>
#include <set>

#include "formats/autoconf/macro_files.h"
#include "formats/autoconf/macro_scan.h"
#include "formats/capabilities/spellings.h"
#include "model/add_reference.h"

namespace yc {

namespace {

using autoconf::MacroCall;

// One configure.ac and what it refers to.
class AutoconfReader {
 public:
  AutoconfReader(const TreeReader& tree, std::uint8_t self, GraphBuilder& out, RelPath path)
      : tree_(tree), self_(self), out_(out), path_(std::move(path)), file_(out.files().index(path_)) {
    RelPath start = autoconf::configured_folder(tree, path_);
    bool is_elsewhere = start != path_.parent();
    base_ = {start, is_elsewhere ? out.files().index(start / "configure") : file_, Space::tree};
    helpers_ = base_;
  }

  void run(const autoconf::Facts& facts) {
    for (const MacroCall& call : facts.calls) read_call(call);
    for (const autoconf::Word& word : facts.words) {
      if (taken_.contains(word.span.begin)) continue;
      if (!refer(literal(word), Role::argument, Certainty::likely, word.span.begin, false)) output(word);
    }
    for (const autoconf::Word& folder : facts.folders) {
      TracedText text = literal(folder);
      text.append(TracedText::hole());
      Place place = place_of(base_.folder, folder.text);
      if (place.space == Space::tree && tree_.is_folder(place.path))
        add_unseen(out_, tree_, text, base_, self_, {{file_, folder.span.begin}});
    }
    // The helpers that configure itself runs, and what aclocal wrote.
    for (const char* name : {"install-sh", "config.guess", "config.sub", "missing", "depcomp", "compile",
                             "ltmain.sh", "test-driver", "ylwrap", "mkinstalldirs", "ar-lib", "config.rpath"})
      implicit(helpers_, name);
    implicit(base_, "aclocal.m4");
    macro_files();
    for (const char* product : {"configure", "config.h.in"})
      out_.generated({path_, base_.folder / product, "autoreconf -fi"});
  }

  // What aclocal wrote into its product, which is kept in the tree by many: "m4_include([m4/libtool.m4])".
  void run_includes(const autoconf::Facts& facts) {
    for (const MacroCall& call : facts.calls) {
      if (call.name == "m4_include" || call.name == "m4_sinclude") read_call(call);
    }
  }

 private:
  // A file that is not there, in a folder that is: a macro of others will make it, as "lib/_stdint.h".
  void output(const autoconf::Word& word) {
    TracedText text = literal(word);
    Place place = place_of(base_.folder, text.text());
    bool named = place.space == Space::tree && !place.path.parent().is_root() &&
                 !place.path.extension().empty() && !tree_.find(place.path) &&
                 tree_.is_folder(place.path.parent()) && !text.has_hole();
    if (!named ||
        text.text().find_first_not_of(
            "abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789_./+-") != std::string::npos)
      return;
    out_.add(Reference::of(Role::product, self_, {{file_, word.span.begin}}, base_, std::move(text))
                 .likely()
                 .leading_to(place.path, Target::Kind::output));
  }

  void read_call(const MacroCall& call) {
    auto first = [&]() -> std::vector<autoconf::Word> {
      return call.arguments.empty() ? std::vector<autoconf::Word>() : call.arguments.front();
    };
    if (call.name == "AC_CONFIG_FILES" || call.name == "AC_OUTPUT" || call.name == "AC_CONFIG_HEADERS" ||
        call.name == "AC_CONFIG_HEADER" || call.name == "AM_CONFIG_HEADER") {
      for (const autoconf::Word& word : first()) template_of(word, call);
    } else if (call.name == "AC_CONFIG_SRCDIR" || call.name == "m4_include" || call.name == "m4_sinclude" ||
               call.name == "sinclude" || call.name == "include" || call.name == "AC_REQUIRE_AUX_FILE") {
      for (const autoconf::Word& word : first())
        certain(literal(word), call.name == "AC_CONFIG_SRCDIR" ? Role::source : Role::script, call, word);
    } else if (call.name == "AC_CONFIG_MACRO_DIR" || call.name == "AC_CONFIG_MACRO_DIRS" ||
               call.name == "AC_CONFIG_AUX_DIR" || call.name == "AC_CONFIG_LIBOBJ_DIR" ||
               call.name == "AC_CONFIG_TESTDIR") {
      for (const autoconf::Word& word : first()) {
        bool found = certain(literal(word), Role::argument, call, word);
        if (found && call.name.starts_with("AC_CONFIG_MACRO_DIR")) add_macro_folder(word.text);
        if (found && call.name == "AC_CONFIG_AUX_DIR")
          helpers_ = {place_of(base_.folder, word.text).path, kNoFile, Space::tree};
        if (found && call.name == "AC_CONFIG_LIBOBJ_DIR")
          objects_ = {place_of(base_.folder, word.text).path, kNoFile, Space::tree};
      }
    } else if (call.name == "AM_GNU_GETTEXT" || call.name == "AM_GLIB_GNU_GETTEXT" ||
               call.name == "IT_PROG_INTLTOOL") {
      Base translations{base_.folder / "po", kNoFile, Space::tree};
      for (const char* name : {"LINGUAS", "POTFILES.in", "Makevars", "Makefile.in.in"})
        implicit(translations, name);
    } else if (call.name == "AM_INIT_AUTOMAKE") {
      required_by_automake(first());
    } else if (call.name == "AC_CONFIG_SUBDIRS") {
      for (const autoconf::Word& word : first()) certain(literal(word), Role::subfolder, call, word);
    } else if (call.name == "AC_CONFIG_LINKS") {
      for (const autoconf::Word& word : first()) after_colon(word, call);
    } else if (call.name == "AC_LIBOBJ" || call.name == "AC_REPLACE_FUNCS") {
      for (const autoconf::Word& word : first()) {
        TracedText text = literal(word);
        text.append(TracedText::plain(".c"));
        refer_from(objects_.value_or(base_), text, Role::source, Certainty::certain, call.begin, false);
      }
    }
  }

  // Unless told to be lenient, automake refuses to work without these (manual, "Strictness").
  void required_by_automake(const std::vector<autoconf::Word>& options) {
    auto has = [&](std::string_view wanted) {
      return std::any_of(options.begin(), options.end(),
                         [&](const autoconf::Word& word) { return word.text == wanted; });
    };
    auto script = tree_.read(base_.folder / "Makefile.am");
    bool lenient = has("foreign") || (script && (*script)->find("foreign") != std::string::npos);
    if (lenient) return;
    for (const char* name : {"NEWS", "README", "AUTHORS", "ChangeLog"}) implicit(base_, name);
    if (has("gnits")) implicit(base_, "THANKS");
  }

  TracedText literal(const autoconf::Word& word) const {
    return TracedText::literal(word.text, file_, word.span);
  }

  bool certain(const TracedText& text, Role role, const MacroCall& call, const autoconf::Word& word) {
    taken_.insert(word.span.begin);
    return refer(text, role, Certainty::certain, call.begin, false);
  }

  // "out", "out:in" or "out:in1:in2": without an input it is out.in, which automake may make from out.am.
  void template_of(const autoconf::Word& word, const MacroCall& call) {
    taken_.insert(word.span.begin);
    if (word.text.starts_with("m4_")) return;
    TracedText text = literal(word);
    std::size_t colon = word.text.find(':');
    if (word.text.find('$') != std::string::npos) {
      std::vector<TracedText> parts =
          colon == std::string::npos ? std::vector<TracedText>() : text.substr(colon + 1).split(':');
      for (const TracedText& part : parts) {
        if (part.text().find('$') == std::string::npos)
          refer(part, Role::source, Certainty::certain, call.begin, false);
      }
      return;
    }
    Place made = place_of(base_.folder, word.text.substr(0, colon));
    if (made.space == Space::tree) {
      std::string input = colon == std::string::npos
                              ? word.text + ".in"
                              : word.text.substr(colon + 1, word.text.find(':', colon + 1) - colon - 1);
      Place filled_in = place_of(base_.folder, input);
      bool is_there = filled_in.space == Space::tree && tree_.is_file(filled_in.path);
      out_.make(made.path, "autotools", is_there ? std::optional(filled_in.path) : std::nullopt);
      // What is filled in stays where it is, or goes where its folder goes.
      out_.add(Reference::of(Role::product, self_, {{file_, call.begin}}, base_, text.substr(0, colon))
                   .leading_to(made.path, Target::Kind::output));
    }
    if (colon != std::string::npos) {
      for (const TracedText& part : text.substr(colon + 1).split(':'))
        refer(part, Role::source, Certainty::certain, call.begin, true);
      return;
    }
    bool any = false;
    for (const char* ending : {".am", ".in"}) {
      TracedText input = text;
      input.append(TracedText::plain(ending));
      any = refer(input, Role::source, Certainty::certain, call.begin, false) || any;
    }
    bool is_header = call.name.find("HEADER") != std::string::npos;  // its template may be generated
    if (any || is_header) return;
    text.append(TracedText::plain(".in"));
    refer(text, Role::source, Certainty::certain, call.begin, true);
  }

  void after_colon(const autoconf::Word& word, const MacroCall& call) {
    taken_.insert(word.span.begin);
    std::size_t colon = word.text.find(':');
    if (colon != std::string::npos)
      refer(literal(word).substr(colon + 1), Role::source, Certainty::certain, call.begin, false);
  }

  void add_macro_folder(const std::string& text) {
    Place place = place_of(base_.folder, text);
    bool known = std::find(macro_folders_.begin(), macro_folders_.end(), place.path) != macro_folders_.end();
    if (place.space == Space::tree && !known && tree_.is_folder(place.path))
      macro_folders_.push_back(place.path);
  }

  // What macros are found in is one set: a file may go from one of the folders to another, under any name.
  void macro_files() {
    if (auto script = tree_.read(base_.folder / "Makefile.am")) {
      for (const std::string& folder : autoconf::aclocal_folders(**script)) add_macro_folder(folder);
    }
    auto bytes = tree_.read(path_);
    if (!bytes) return;
    for (const RelPath& file : autoconf::used_macro_files(tree_, **bytes, macro_folders_)) {
      TracedText pattern = TracedText::plain(relative_text(base_.folder, file.parent() / "*.m4"));
      Reference reference = Reference::of(Role::pattern, self_, {{file_, 0}}, base_, std::move(pattern))
                                .in(ConstructPart::tagged("macros"))
                                .leading_to(file);
      reference.kind = GlobPattern{};
      out_.add(std::move(reference));
    }
  }

  void implicit(const Base& base, const char* name) {
    refer_from(base, TracedText::plain(name), Role::script, Certainty::certain, 0, false);
  }

  bool refer(const TracedText& text, Role role, Certainty certainty, std::uint32_t site, bool wanted) {
    return refer_from(base_, text, role, certainty, site, wanted);
  }

  bool refer_from(const Base& base, const TracedText& text, Role role, Certainty certainty,
                  std::uint32_t site, bool wanted) {
    Reference reference = Reference::of(role, self_, {{file_, site}}, base, text);
    reference.certainty = certainty;
    if (text.has_hole()) return false;
    return add_leading(out_, tree_, std::move(reference), wanted ? IfMissing::dangling : IfMissing::skip);
  }

  const TreeReader& tree_;
  std::uint8_t self_;
  GraphBuilder& out_;
  RelPath path_;
  FileIndex file_;
  Base base_;
  Base helpers_;
  std::vector<RelPath> macro_folders_;
  std::optional<Base> objects_;
  std::set<std::uint32_t> taken_;
};

class AutoconfFormat : public Format, public Spellings {
 public:
  std::string_view name() const override { return "autoconf"; }
  ScopeSet gives() const override { return Scope::products; }

  bool claims(const RelPath& path) const override {
    return path.name() == "configure.ac" || path.name() == "configure.in" || path.name() == "aclocal.m4";
  }

  void read(const Reading& in) const override {
    in.each([&](const RelPath& path, const Bytes& bytes) {
      auto facts = in.cache.get<autoconf::Facts>(
          in.self, bytes, [](const std::string& text) { return autoconf::scan(text); });
      AutoconfReader reader(in.tree, in.self, in.out, path);
      if (path.name() == "aclocal.m4") {
        reader.run_includes(*facts);
      } else {
        reader.run(*facts);
      }
      return true;
    });
  }

  // "out" is filled in from out.in; another template is named behind a colon.
  std::vector<Proposal> late_proposals(const RewriteRequest& need) const override {
    const std::vector<Piece>& pieces = need.reference.text.pieces();
    bool by_default = pieces.size() == 2 && pieces[0].has_origin() && !pieces[1].has_origin() &&
                      pieces[1].text == ".in" && need.wanted.size() == 1;
    if (!by_default) return {};
    auto written = write(relative_text(need.new_base, need.wanted[0].path), 0);
    if (!written) return {};
    Span end{pieces[0].span.end, pieces[0].span.end};
    return {{{Edit{need.graph.files.path(pieces[0].file), end, ":" + *written}}, ""}};
  }

  std::optional<std::string> write(std::string_view text, WritingStyle) const override {
    bool plain = text.find_first_of("[](),#$`'\" \t\n:") == std::string_view::npos;
    return plain ? std::optional(std::string(text)) : std::nullopt;
  }
};

}  // namespace

std::unique_ptr<Format> autoconf_format() {
  return std::make_unique<AutoconfFormat>();
}

}  // namespace yc
