#include "formats/styles/styles.h"

#include <algorithm>

#include "formats/capabilities/companions.h"
#include "formats/capabilities/spellings.h"
#include "formats/capabilities/words.h"
#include "formats/site_paths.h"
#include "formats/styles/forwarding_styles.h"
#include "formats/styles/style_references.h"

namespace yc {

namespace {

using styles::Dialect;
using styles::StyleFacts;

std::optional<Dialect> dialect_of(const RelPath& path) {
  std::string_view ending = path.extension();
  if (ending == ".css" || ending == ".pcss") return Dialect::css;
  if (ending == ".scss") return Dialect::scss;
  if (ending == ".sass") return Dialect::sass;
  if (ending == ".less") return Dialect::less;
  return std::nullopt;
}

bool is_component(const RelPath& path) {
  return path.extension() == ".vue" || path.extension() == ".svelte";
}

// The language of the first style element of a component that names one; plain ones are read as a page's.
std::optional<Dialect> dialect_within(std::string_view bytes) {
  for (auto [text, dialect] : {std::pair<std::string_view, Dialect>{"lang=\"scss\"", Dialect::scss},
                               {"lang='scss'", Dialect::scss},
                               {"lang=\"sass\"", Dialect::sass},
                               {"lang=\"less\"", Dialect::less},
                               {"lang='less'", Dialect::less}}) {
    std::size_t at = bytes.find(text);
    std::size_t tag = at == std::string_view::npos ? at : bytes.rfind('<', at);
    if (tag != std::string_view::npos && bytes.substr(tag, 6) == "<style") return dialect;
  }
  return std::nullopt;
}

// The text with everything blanked but what stands in style elements, so that offsets stay.
std::string only_styles(const std::string& bytes) {
  std::string out(bytes.size(), ' ');
  for (std::size_t at = bytes.find("<style"); at != std::string::npos; at = bytes.find("<style", at)) {
    std::size_t open = bytes.find('>', at);
    if (open == std::string::npos) break;
    std::size_t close = std::min(bytes.find("</style", open), bytes.size());
    out.replace(open + 1, close - open - 1, bytes, open + 1, close - open - 1);
    at = close;
  }
  return out;
}

// The settings of a bundler, a program, may hold text that is put before every stylesheet.
bool is_style_settings(const RelPath& path) {
  std::string_view ending = path.extension();
  return (ending.ends_with("js") || ending.ends_with("ts")) &&
         path.name().find("config") != std::string::npos;
}

// All blanked but the rules in such text: additionalData: `@use "@/styles/tokens" as *;`
std::string only_prepended(const std::string& bytes) {
  std::string out(bytes.size(), ' ');
  for (std::string_view option : {"additionalData", "prependData"}) {
    std::size_t at = bytes.find(option);
    while (at != std::string::npos && (at = bytes.find('@', at)) != std::string::npos) {
      std::size_t end = bytes.find(';', at);
      bool is_rule = bytes.compare(at, 5, "@use ") == 0 || bytes.compare(at, 8, "@import ") == 0;
      if (is_rule && end != std::string::npos) {
        out.replace(at, end + 1 - at, bytes, at, end + 1 - at);
        // A quote of the sheet within a string of the program.
        std::replace(out.begin() + static_cast<std::ptrdiff_t>(at),
                     out.begin() + static_cast<std::ptrdiff_t>(end), '\\', ' ');
      }
      ++at;
    }
  }
  return out;
}

class StylesFormat : public Format,
                     public Spellings,
                     public Consequences,
                     public Forwarding,
                     public ShortNames {
 public:
  std::string_view name() const override { return "stylesheets"; }
  ScopeSet needs() const override { return kAllNames | Scope::outputs | Scope::products | Scope::roles; }
  bool reads_sources() const override { return true; }

  bool claims(const RelPath& path) const override {
    return dialect_of(path) || is_component(path) || is_style_settings(path);
  }
  std::vector<Blocker> consequences(const TreeView& before, const TreeView&,
                                    const MoveSet& moves) const override {
    return left_sites(before, moves, name());
  }

  // A partial is named without its line, an index by its folder.
  void add_short_names(const RelPath& path, std::unordered_set<std::string>& out) const override {
    std::string name(path.name());
    RelPath folder = path.parent();
    if (name.starts_with("_index.") && !folder.is_root()) out.emplace(folder.name());
    if (name.starts_with("_")) out.insert(name.substr(1, name.find('.', 1) - 1));
  }

  void read(const Reading& in) const override {
    std::vector<styles::Sheet> sheets;
    styles::Variables variables;
    std::set<std::string> ambiguous;
    for (const RelPath& path : in.files) {
      if (!in.tree.is_editable(path)) continue;
      auto dialect = dialect_of(path);
      bool is_program = !dialect && is_style_settings(path);
      auto bytes = in.tree.read(path);
      if (!bytes) continue;
      bool within = !dialect;
      if (is_program) {
        bool any = (*bytes)->find("additionalData") != std::string::npos ||
                   (*bytes)->find("prependData") != std::string::npos;
        if (any) dialect = Dialect::scss;
      } else if (within) {
        dialect = dialect_within(**bytes);
      }
      if (!dialect) continue;
      auto facts = in.cache.get<StyleFacts>(in.self, *bytes, [&](const std::string& text) {
        return styles::scan_style(is_program ? only_prepended(text)
                                  : within   ? only_styles(text)
                                             : text,
                                  *dialect);
      });
      for (const styles::StyleVariable& variable : facts->variables) {
        bool fresh = variables.emplace(variable.name, std::pair(path, variable)).second;
        if (!fresh) ambiguous.insert(variable.name);
      }
      sheets.push_back({path, *dialect, *bytes, facts});
    }
    for (const std::string& name : ambiguous) variables.erase(name);
    in.count(sheets.size());
    for (const styles::Sheet& sheet : sheets) styles::emit_style(sheet, variables, in);
  }

  std::optional<std::string> forwarder(const TreeReader&, const RelPath& old_path, const RelPath& new_path,
                                       std::string_view bytes) const override {
    return styles::forwarding_style(old_path, new_path, bytes);
  }
  RelPath forwarder_place(const RelPath& old_path, const RelPath& new_path) const override {
    return styles::forwarding_place(old_path, new_path);
  }
  std::optional<RelPath> forwards_to(const RelPath& path, std::string_view bytes) const override {
    return styles::forwarded_to(path, bytes);
  }

  std::vector<Proposal> own_proposals(const RewriteRequest& need) const override {
    return styles::style_ways(need);
  }

  std::optional<std::string> write(std::string_view text, WritingStyle) const override {
    return url_encoded(text);
  }
};

}  // namespace

std::unique_ptr<Format> styles_format() {
  return std::make_unique<StylesFormat>();
}

}  // namespace yc
