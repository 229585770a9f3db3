#include "formats/styles/styles.h"

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

class StylesFormat : public LiteralFormat {
 public:
  std::string_view name() const override { return "stylesheets"; }
  bool reads_sources() const override { return true; }

  void read(const TreeReader& tree, FactsCache& cache, std::uint8_t self, GraphBuilder& out) const override {
    std::vector<styles::Sheet> sheets;
    styles::Variables variables;
    std::set<std::string> ambiguous;
    for (const RelPath& path : tree.files()) {
      auto dialect = dialect_of(path);
      const Entry* entry = dialect ? tree.find(path) : nullptr;
      if (!entry || entry->kind != EntryKind::file || entry->ignored || entry->guarded) continue;
      auto bytes = tree.read(path);
      if (!bytes) continue;
      auto facts = cache.get<StyleFacts>(
          self, *bytes, [&](const std::string& text) { return styles::scan_style(text, *dialect); });
      for (const styles::StyleVariable& variable : facts->variables) {
        bool fresh = variables.emplace(variable.name, std::pair(path, variable)).second;
        if (!fresh) ambiguous.insert(variable.name);
      }
      sheets.push_back({path, *dialect, *bytes, facts});
    }
    for (const std::string& name : ambiguous) variables.erase(name);
    out.graph().files_by_format[std::string(name())] = sheets.size();
    for (const styles::Sheet& sheet : sheets) styles::emit_style(sheet, variables, tree, self, out);
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

  std::vector<Way> own_ways(const Need& need) const override { return styles::style_ways(need); }

  std::optional<std::string> write(std::string_view text, WritingStyle) const override {
    return url_encoded(text);
  }
};

}  // namespace

std::unique_ptr<Format> styles_format() {
  return std::make_unique<StylesFormat>();
}

}  // namespace yc
