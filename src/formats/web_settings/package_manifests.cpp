#include "formats/web_settings/package_manifests.h"

#include "formats/capabilities/consequences.h"
#include "formats/capabilities/members.h"
#include "formats/capabilities/shared_definitions.h"
#include "formats/capabilities/spellings.h"
#include "formats/capabilities/unit_making.h"
#include "formats/capabilities/words.h"
#include "formats/json/json_lists.h"
#include "formats/json/json_strings.h"
#include "formats/outputs.h"
#include "formats/shell/command_line.h"
#include "formats/web_settings/alias_tables.h"
#include "formats/web_settings/manifest_references.h"
#include "formats/web_settings/package_boundaries.h"
#include "formats/web_settings/package_folders.h"
#include "formats/web_settings/package_maker.h"
#include "formats/web_settings/shared_packages.h"

namespace yc {

namespace {

class PackageManifestsFormat : public Format,
                               public ListWords,
                               public Spellings,
                               public SharedDefinitions,
                               public Boundaries,
                               public UnitMaking,
                               public AliasTables,
                               public DefinesScope {
 public:
  std::string_view name() const override { return "package manifests"; }
  ScopeSet gives() const override { return Scope::package_names | Scope::outputs; }
  ScopeSet needs() const override { return Scope::compiler_names | Scope::outputs; }
  std::vector<Change> share(const ClaimedTree& before) const override {
    return web_settings::share_packages(before);
  }
  std::vector<Change> unshare(const ClaimedTree& before) const override {
    return web_settings::unshare_packages(before);
  }
  bool defines_scope(const RelPath& path) const override { return claims(path); }
  BoundaryReport boundary_changes(const TreeView& before, const TreeView& planned,
                                  const MoveSet& moves) const override {
    return web_settings::package_changes(before, planned, moves);
  }

  std::optional<UnitChange> make_unit(const TreeView& view, const RelPath& folder) const override {
    return web_settings::make_package(view, folder);
  }
  std::optional<UnitChange> join_unit(const TreeView&, const RelPath&, const std::string&) const override {
    return std::nullopt;  // a package is what its manifest stands above; no file of a folder says otherwise
  }
  std::optional<UnitChange> drop_unit(const TreeView& view, const RelPath& folder) const override {
    return web_settings::drop_package(view, folder);
  }

  bool claims(const RelPath& path) const override { return path.name() == "package.json"; }

  Written name_folder(const ClaimedTree& before, const std::string& name,
                      const RelPath& folder) const override {
    return {web_settings::name_in_manifest(before.tree, name, folder), {}};
  }

  void read(const Reading& in) const override { web_settings::read_manifests(in); }

  std::vector<Proposal> own_proposals(const RewriteRequest& need) const override {
    std::vector<Proposal> out;
    auto begin = need.reference.text.first_origin();
    if (begin.file == kNoFile || need.wanted.size() != 1) return out;
    std::string old = need.reference.text.text();
    Span span{begin.span.begin, need.reference.text.pieces().back().span.end};
    std::vector<std::string> texts;
    if (need.wanted.front().kind == Target::Kind::made) {
      texts = output_texts(need, old);
    } else {
      // A module without its ending, or by its folder.
      PathStyle style = PathStyle::of(old);
      std::string path = relative_text(need.new_base, need.wanted.front().path);
      std::string bare = path.substr(0, path.size() - ending_of(path).size());
      if (bare.ends_with("/index") && !old.ends_with("/index"))
        texts.push_back(style.apply(bare.substr(0, bare.size() - 6)));
      texts.push_back(style.apply(bare));
      texts.push_back(style.apply(path));
    }
    for (const std::string& text : texts) {
      auto written = text == old ? std::nullopt : json::escaped(text);
      if (written) out.push_back({{{need.graph.files.path(begin.file), span, *written}}, ""});
    }
    return out;
  }

  std::optional<std::string> write(std::string_view text, WritingStyle style) const override {
    bool in_shell = style == shell::kBare || style == shell::kDouble || style == shell::kSingle;
    std::string_view forbidden = style == shell::kBare ? " \t\n\"'\\$`;&|<>()" : "\"'\\$`\n";
    if (in_shell && text.find_first_of(forbidden) != std::string_view::npos) return std::nullopt;
    return json::escaped(text);
  }
  // A value of its own with its quotes; of a command line one word.
  Span word_at(std::string_view bytes, Span literal) const override {
    std::size_t begin = bytes.rfind('"', literal.begin - 1), end = bytes.find('"', literal.end);
    if (begin == std::string_view::npos || end == std::string_view::npos) return literal;
    std::string_view value = bytes.substr(begin, end - begin);
    if (value.find(' ') == std::string_view::npos) return span_of(begin, end + 1);
    std::size_t from = bytes.find_last_of(" \"", literal.begin - 1),
                to = bytes.find_first_of(" \"", literal.end);
    return span_of(from + 1, to);
  }
  std::optional<std::string> beside(std::string_view bytes, Span word, std::string_view text) const override {
    bool whole = word.begin < bytes.size() && bytes[word.begin] == '"';
    if (whole) return json::beside(bytes, word, text);
    auto written = write(text, shell::kBare);
    return written ? std::optional(" " + *written) : std::nullopt;
  }
  std::optional<Span> without(std::string_view bytes, Span word) const override {
    return json::without(bytes, word);
  }
};

}  // namespace

std::unique_ptr<Format> package_manifests_format() {
  return std::make_unique<PackageManifestsFormat>();
}

}  // namespace yc
