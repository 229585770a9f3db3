#include "formats/documented_modules/documented_modules.h"

#include <algorithm>
#include <cctype>

#include "base/name_search.h"
#include "base/text.h"
#include "formats/capabilities/spellings.h"
#include "formats/python/dotted_ways.h"
#include "formats/python/python_references.h"
#include "formats/python/python_resolver.h"
#include "formats/values/values.h"

namespace yc {

namespace {

constexpr std::uint64_t kLargest = 1'000'000;

bool is_of_dotted_name(char c) {
  return std::isalnum(static_cast<unsigned char>(c)) || c == '_' || c == '.';
}

// The dotted name behind a place, past the signs that say how it is shown.
void take_name(std::string_view text, std::size_t at, std::vector<Span>& out) {
  while (at < text.size() && (text[at] == '~' || text[at] == '!' || is_blank(text[at]))) ++at;
  std::size_t end = at;
  while (end < text.size() && is_of_dotted_name(text[end])) ++end;
  if (end > at) out.push_back(span_of(at, end));
}

// Whether a directive is about what Python has: "automodule", "py:currentmodule", "autosummary" is not.
bool is_about_python(std::string_view directive) {
  return directive.starts_with("auto") ? directive != "autosummary" : directive.ends_with("module");
}

std::vector<Span> dotted_names(std::string_view text) {
  std::vector<Span> out;
  for_each_line(text, [&](std::string_view line, std::size_t begin) {
    std::size_t first = std::min(line.find_first_not_of(" \t"), line.size());
    std::string_view rest = line.substr(first);
    std::size_t colons = rest.find(":: ");
    if (rest.starts_with(".. ") && colons != rest.npos && is_about_python(rest.substr(3, colons - 3)))
      take_name(text, begin + first + colons + 3, out);
    std::size_t close = rest.starts_with("```{") || rest.starts_with(":::{") ? rest.find('}') : rest.npos;
    if (close != rest.npos && is_about_python(rest.substr(4, close - 4)))
      take_name(text, begin + first + close + 1, out);
    if (rest.starts_with("::: ")) take_name(text, begin + first + 4, out);
  });
  for (std::string_view role : {"mod", "class", "func", "meth", "data", "exc"}) {
    for (const char* sign : {":`", "}`"}) {
      std::string mark = std::string(role) + sign;
      for (std::size_t at = text.find(mark); at != text.npos; at = text.find(mark, at + 1)) {
        bool is_role = at > 0 && (text[at - 1] == ':' || text[at - 1] == '{');
        if (is_role) take_name(text, at + mark.size(), out);
      }
    }
  }
  return out;
}

class DocumentedModulesFormat : public Format, public Spellings {
 public:
  std::string_view name() const override { return "documented modules"; }
  ScopeSet needs() const override { return Scope::module_roots; }
  bool reads_sources() const override { return true; }

  bool claims(const RelPath& path) const override {
    return path.extension() == ".rst" || path.extension() == ".md";
  }

  void read(const Reading& in) const override {
    const std::vector<RelPath>& all = in.tree.files();
    bool any =
        std::any_of(all.begin(), all.end(), [](const RelPath& path) { return path.extension() == ".py"; });
    if (!any) return;
    const Focus* focus = in.out.focus();
    std::vector<std::string> names;
    if (focus) {
      for (const std::string& stem : focus->stems) names.push_back(stem.substr(0, stem.find('.', 1)));
    }
    NameSearch search(names);
    python::PythonResolver resolver(in.tree, in.scopes);
    in.each([&](const RelPath& path, const Bytes& bytes) {
      const Entry* entry = in.tree.find(path);
      bool is_asked = !focus || in.out.wants(path) || search.finds_any(*bytes);
      if (!is_asked || entry->ignored || entry->guarded || entry->size > kLargest) return false;
      auto spans = in.cache.get<std::vector<Span>>(
          in.self, bytes, [](const std::string& text) { return dotted_names(text); });
      for (const Span& span : *spans) take(in, resolver, path, *bytes, span);
      return false;  // they are counted as documents
    });
  }

  std::vector<Proposal> own_proposals(const RewriteRequest& need) const override {
    return python::dotted_ways(need, [](const python::PythonResolver::Root& root) { return !root.outer; });
  }

  std::optional<std::string> write(std::string_view text, WritingStyle style) const override {
    return values::written(text, style);
  }

 private:
  // The longest beginning of a name that is a module: what is behind it, it defines.
  static void take(const Reading& in, const python::PythonResolver& resolver, const RelPath& path,
                   const std::string& text, const Span& span) {
    std::string dotted = text.substr(span.begin, span.size());
    std::optional<python::Found> found;
    while (!found && python::is_dotted_name(dotted)) {
      found = resolver.absolute(path, dotted);
      if (found && python::is_hidden(in.tree, in.cache, in.self, dotted, *found)) found.reset();
      std::size_t cut = dotted.rfind('.');
      if (found || cut == std::string::npos) break;
      dotted.resize(cut);
    }
    if (!found) return;
    FileIndex file = in.out.files().index(path);
    Span place{span.begin, span.begin + static_cast<std::uint32_t>(dotted.size())};
    Reference reference =
        Reference::of(Role::module, in.self, {{file, place.begin}}, {path.parent(), file, Space::tree},
                      TracedText::literal(dotted, file, place, values::kBareLine))
            .spelled_by_format();
    if (found->outer) reference.certainty = Certainty::likely;
    reference.search.push_back({found->root, kNoFile, Space::tree});
    reference.lead_to(found->files);
    in.out.add(std::move(reference));
  }
};

}  // namespace

std::unique_ptr<Format> documented_modules_format() {
  return std::make_unique<DocumentedModulesFormat>();
}

}  // namespace yc
