#include "formats/rust/rust.h"

#include <algorithm>

#include "formats/capabilities/companions.h"
#include "formats/capabilities/consequences.h"
#include "formats/capabilities/spellings.h"
#include "formats/capabilities/whole_units.h"
#include "formats/rust/rust_consequences.h"
#include "formats/rust/rust_crates.h"
#include "formats/rust/rust_lints.h"
#include "formats/rust/rust_loose.h"
#include "formats/rust/rust_references.h"
#include "formats/rust/rust_respell.h"

namespace yc {

namespace {

bool is_source(const RelPath& path) {
  return path.extension() == ".rs";
}

class RustFormat : public Format,
                   public Incremental,
                   public Spellings,
                   public Consequences,
                   public Boundaries,
                   public Forwarding,
                   public WholeUnits {
 public:
  std::string_view name() const override { return "rust"; }
  bool claims(const RelPath& path) const override { return is_source(path) || rust::is_lint_settings(path); }
  ScopeSet needs() const override { return Scope::crates; }
  bool reads_sources() const override { return true; }

  void read(const Reading& in) const override { rust::add_references(in); }
  void read_again(const Reading& in, Memory&, const IsSame&) const override { read(in); }
  void prepare(const TreeReader& tree, FactsCache& cache, std::uint8_t self,
               const std::vector<RelPath>& files, const Focus*) const override {
    std::vector<RelPath> sources;
    std::copy_if(files.begin(), files.end(), std::back_inserter(sources), is_source);
    rust::scan_all(tree, cache, self, sources);
  }

  std::vector<Proposal> own_proposals(const RewriteRequest& need) const override {
    const rust::Crates* crates = crates_of(need.graph, need.reference.format);
    return crates ? rust::respelled(need, *crates) : std::vector<Proposal>();
  }

  std::optional<Reason> why_not(const ReferenceGraph& graph, const Reference& reference, const RelPath&,
                                const RelPath& target) const override {
    const rust::Crates* crates = crates_of(graph, reference.format);
    if (!crates) return std::nullopt;
    if (reference.construct_part.tag.starts_with(rust::kModuleTag))
      return Reason{"no line can declare the module at " + target.str() + " in its crate",
                    "keep it in the folders of its crate, or write its module line by hand and move it then"};
    return Reason{"the path would lead to nothing, or to what cannot be seen from there",
                  "make what it names visible up to a module that holds both (pub(crate)), then move"};
  }

  std::set<RelPath> sources_of_whole_units(const ReadTree& tree, const MoveSet& moves) const override {
    std::set<RelPath> out;
    for (const auto& [format, findings] : tree.graph.findings) {
      const auto* crates = dynamic_cast<const rust::Crates*>(findings.get());
      if (crates) out = rust::sources_that_may_move(tree, *crates, moves);
    }
    return out;
  }

  // The old module re-exports the new one: see boundary_changes().
  bool leaves_name(const Move& move) const override { return is_source(move.from) && is_source(move.to); }
  std::optional<std::string> forwarder(const TreeReader&, const RelPath&, const RelPath&,
                                       std::string_view) const override {
    return std::nullopt;
  }
  std::optional<RelPath> forwards_to(const RelPath&, std::string_view) const override { return std::nullopt; }

  std::vector<Blocker> consequences(const TreeView& before, const TreeView& planned,
                                    const MoveSet& moves) const override {
    std::vector<Blocker> out;
    for (const auto& [format, findings] : before.graph.findings) {
      const rust::Crates *was = crates_of(before.graph, format), *is = crates_of(planned.graph, format);
      if (was && is) out = rust::module_consequences(*was, *is, before.tree, moves);
    }
    return out;
  }

  BoundaryReport boundary_changes(const TreeView& before, const TreeView&,
                                  const MoveSet& moves) const override {
    BoundaryReport out;
    for (const auto& [format, findings] : before.graph.findings) {
      const rust::Crates* crates = crates_of(before.graph, format);
      if (!crates) continue;
      out.notices = rust::public_changes(*crates, before.tree, moves);
      out.forwards = rust::names_left(*crates, before.tree, moves);
    }
    return out;
  }

  std::optional<std::string> write(std::string_view text, WritingStyle) const override {
    return std::string(text);
  }

 private:
  static const rust::Crates* crates_of(const ReferenceGraph& graph, std::uint8_t format) {
    auto at = graph.findings.find(format);
    return at == graph.findings.end() ? nullptr : dynamic_cast<const rust::Crates*>(at->second.get());
  }
};

}  // namespace

std::unique_ptr<Format> rust_format() {
  return std::make_unique<RustFormat>();
}

}  // namespace yc
