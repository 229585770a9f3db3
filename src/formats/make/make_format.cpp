// GNU make as a format: finds makefiles, runs each in as many worlds as its conditionals need, respells
// words.
#include <algorithm>
#include <set>

#include "formats/make/make.h"
#include "formats/make/make_evaluation.h"
#include "formats/make/make_ways.h"

namespace yc {

namespace {

using make::ChildMake;
using make::Evaluation;

constexpr std::size_t kMostWorlds = 64;
constexpr std::size_t kMostRuns = 400;  // of makefiles by other makefiles, in one tree

bool is_makefile(const TreeReader& tree, const RelPath& path) {
  std::string_view name = path.name();
  if (name == "Makefile" || name == "makefile" || name == "GNUmakefile") return true;
  std::string_view extension = path.extension();
  if (extension == ".mk" || extension == ".mak") return true;
  if (name == "Makefile.in") return !tree.find(path.parent() / "Makefile.am");
  if (name.substr(0, 9) == "Makefile." || name.substr(0, 9) == "makefile.") {
    static const std::set<std::string_view> others = {".am",  ".PL", ".old", ".orig", ".bak", ".md",
                                                      ".txt", ".vc", ".msc", ".bcc",  ".bor"};
    return !others.contains(extension);
  }
  return false;
}

// Makefiles that make itself would start with, top folders first; fragments come last and only if nobody
// reads them.
std::vector<RelPath> makefiles(const TreeReader& tree) {
  std::vector<RelPath> out;
  for (RelPath& path : tree.files()) {
    const Entry* entry = tree.find(path);
    if (!entry->guarded && entry->kind == EntryKind::file && is_makefile(tree, path))
      out.push_back(std::move(path));
  }
  auto rank = [](const RelPath& path) {
    std::string_view extension = path.extension();
    bool fragment = extension == ".mk" || extension == ".mak";
    return std::tuple(fragment, path.components().size(), path);
  };
  std::sort(out.begin(), out.end(), [&](const RelPath& a, const RelPath& b) { return rank(a) < rank(b); });
  return out;
}

class Runner {
 public:
  Runner(const TreeReader& tree, std::uint8_t self, GraphBuilder& out)
      : tree_(tree), self_(self), out_(out) {}

  void start(const RelPath& makefile) {
    if (seen_.contains(makefile)) return;
    ChildMake run;
    run.makefile = makefile;
    run.base = Base{makefile.parent(), out_.files().index(makefile), Space::tree};
    execute(run, 0);
  }

 private:
  void execute(const ChildMake& run, int depth) {
    seen_.insert(run.makefile);
    for (Worlds worlds(kMostWorlds); worlds.next();) {
      if (++runs_ > kMostRuns) return;
      Unit unit;
      unit.name = run.makefile.str();
      unit.format = self_;
      unit.site = {out_.files().index(run.makefile), 0};
      out_.graph().units.push_back(std::move(unit));
      Base base = run.base;
      if (base.anchor == kNoFile && run.makefile.parent() == base.folder)
        base.anchor = out_.files().index(run.makefile);
      Evaluation evaluation(tree_, out_, self_, worlds, base, run.call);
      for (const auto& [name, value] : run.overrides) evaluation.set_override(name, value);
      evaluation.read_file(run.makefile);
      evaluation.emit_all();
      seen_.insert(evaluation.included().begin(), evaluation.included().end());
      if (depth >= 6) continue;
      for (const ChildMake& child : evaluation.children()) {
        if (worth_running(child, run)) execute(child, depth + 1);
      }
    }
  }

  // Whether a variable's words lead to anything in the tree, seen from the child.
  bool names_something(const TracedText& value, const Base& base) const {
    for (const TracedText& word : value.words()) {
      std::string text = word.text();
      if (text.size() > 2 && text[0] == '-' && (text[1] == 'I' || text[1] == 'L')) text.erase(0, 2);
      if (text.find_first_of("/.") == std::string::npos) continue;
      Place place = place_of(base.folder, text, base.space);
      if (place.space == Space::tree && (place.path.is_root() || tree_.find(place.path))) return true;
    }
    return false;
  }

  // A child matters once, and again for every set of path-like variables that it is given.
  bool worth_running(const ChildMake& child, const ChildMake& parent) {
    std::string given;
    for (const auto& [name, value] : child.overrides) {
      std::string text = value.text();
      bool from_parent =
          std::any_of(parent.overrides.begin(), parent.overrides.end(),
                      [&](const auto& known) { return known.first == name && known.second.text() == text; });
      if (from_parent && child.makefile == parent.makefile) continue;
      if (names_something(value, child.base)) given += name + "=" + text + "\n";
    }
    if (child.makefile == parent.makefile && child.base.folder == parent.base.folder && given.empty())
      return false;
    return done_.insert(child.makefile.str() + "\n" + child.base.folder.str() + "\n" + given).second;
  }

  const TreeReader& tree_;
  std::uint8_t self_;
  GraphBuilder& out_;
  std::set<RelPath> seen_;
  std::set<std::string> done_;
  std::size_t runs_ = 0;
};

class MakeFormat : public Format {
 public:
  std::string_view name() const override { return "make"; }

  void read(const TreeReader& tree, FactsCache&, std::uint8_t self, GraphBuilder& out) const override {
    Runner runner(tree, self, out);
    std::vector<RelPath> found = makefiles(tree);
    for (const RelPath& path : found) runner.start(path);
    out.graph().files_by_format["make"] = found.size();
  }

  std::optional<std::string> write(std::string_view text, WritingStyle style) const override {
    std::string out;
    for (char c : text) {
      bool safe = std::isalnum(static_cast<unsigned char>(c)) ||
                  std::string_view("/._+-@=,~^*?[]!").find(c) != std::string_view::npos ||
                  (static_cast<unsigned char>(c) >= 0x80);
      bool quoted_ok = style == shell::kSingle || style == shell::kDouble;
      if (c == '$') {
        // The shell would take a dollar for a variable everywhere but in single quotes.
        if (style != shell::kSingle && style != 0) return std::nullopt;
        out += "$$";
      } else if (safe || (quoted_ok && (c == ' ' || c == '(' || c == ')'))) {
        out += c;
      } else {
        return std::nullopt;
      }
    }
    return out;
  }

  Span word_at(std::string_view bytes, Span literal) const override {
    auto stops = [](char c) {
      return std::string_view(" \t\r\n,():=|\"'").find(c) != std::string_view::npos;
    };
    Span word = literal;
    while (word.begin > 0 && !stops(bytes[word.begin - 1])) --word.begin;
    while (word.end < bytes.size() && !stops(bytes[word.end])) ++word.end;
    return word;
  }

  std::optional<std::string> beside(std::string_view, Span, std::string_view text) const override {
    auto written = write(text, 0);
    if (!written) return std::nullopt;
    return " " + *written;
  }

  std::optional<Span> without(std::string_view bytes, Span word) const override {
    auto blank = [](char c) { return c == ' ' || c == '\t'; };
    Span out = word;
    // An option that belongs to the word goes with it.
    if (out.begin >= 2 && (bytes.substr(out.begin - 2, 2) == "-I" || bytes.substr(out.begin - 2, 2) == "-L"))
      out.begin -= 2;
    auto line_break_before = [&] {
      return out.begin >= 2 && bytes[out.begin - 1] == '\n' && bytes[out.begin - 2] == '\\';
    };
    Span plain = out;
    while (out.begin > 0 && blank(bytes[out.begin - 1])) --out.begin;
    if (line_break_before()) {
      // The word had a line of its own: the continued line goes whole.
      out.begin -= 2;
      while (out.begin > 0 && blank(bytes[out.begin - 1])) --out.begin;
    }
    bool at_value_start = out.begin == 0 || bytes[out.begin - 1] == '=' || bytes[out.begin - 1] == ':' ||
                          bytes[out.begin - 1] == '(' || bytes[out.begin - 1] == ',';
    if (at_value_start) {
      // The first of a list: the space before it belongs to the list, the space after it goes.
      out = plain;
      while (out.end < bytes.size() && blank(bytes[out.end])) ++out.end;
    }
    return out;
  }

  std::vector<Way> further_ways(const Need& need) const override { return make::further_ways(need); }
  std::optional<Way> exclude(const ReferenceGraph& graph, const Reference& pattern, const std::string& path,
                             const TreeReader& tree) const override {
    return make::exclude(graph, pattern, path, tree);
  }
  std::vector<Way> provide_folders(const RelPath& script, const std::string& bytes,
                                   const std::vector<const Reference*>& products) const override {
    return make::provide_folders(script, bytes, products);
  }
  std::vector<Way> add_search_root(const ReferenceGraph& graph, const Unit& unit, const RelPath& root,
                                   const TreeReader& tree) const override {
    return make::add_search_root(graph, unit, root, tree);
  }
};

}  // namespace

std::unique_ptr<Format> make_format() {
  return std::make_unique<MakeFormat>();
}

}  // namespace yc
