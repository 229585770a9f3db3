#include "formats/cargo/cargo.h"

#include <algorithm>

#include "formats/capabilities/companions.h"
#include "formats/capabilities/consequences.h"
#include "formats/capabilities/members.h"
#include "formats/capabilities/shared_definitions.h"
#include "formats/capabilities/spellings.h"
#include "formats/capabilities/whole_units.h"
#include "formats/capabilities/words.h"
#include "formats/cargo/cargo_config.h"
#include "formats/cargo/cargo_crates.h"
#include "formats/cargo/cargo_manifest.h"
#include "formats/cargo/cargo_shared.h"
#include "formats/cargo/cargo_units.h"
#include "formats/cargo/crate_roots.h"
#include "formats/json/json_lists.h"
#include "formats/published_files.h"
#include "model/add_reference.h"

namespace yc {

namespace {

using cargo::NamedPath;

class CargoFormat : public Format,
                    public Spellings,
                    public ListWords,
                    public Consequences,
                    public NeededChanges,
                    public DefinesScope,
                    public SharedDefinitions,
                    public WholeUnits {
 public:
  std::string_view name() const override { return "cargo"; }

  bool claims(const RelPath& path) const override {
    return cargo::is_manifest(path) || cargo::is_config(path);
  }

  ScopeSet gives() const override { return Scope::crates; }

  void read(const Reading& in) const override {
    in.out.graph().crates = cargo::crates_of(in);
    for (const Crate& crate : in.out.graph().crates) {
      // Tests, examples and build scripts make no program of a package.
      std::string_view below = crate.root.below(crate.settings.parent());
      bool is_aside = below == "build.rs" || below.starts_with("tests/") || below.starts_with("examples/") ||
                      below.starts_with("benches/");
      Holding& holding = in.out.graph().holdings[crate.settings.parent()];
      holding.library = holding.library || crate.is_library;
      holding.program = holding.program || (!crate.is_library && !is_aside);
    }
    in.each([&](const RelPath& path, const Bytes& bytes) {
      if (cargo::is_config(path)) {
        cargo::add_config_references(in, path, bytes);
        return true;
      }
      cargo::Manifest manifest = cargo::read_manifest(*bytes);
      FileIndex file = in.out.files().index(path);
      if (!manifest.package.empty()) bound(in, path, manifest);
      if (manifest.is_private) in.out.graph().holdings[path.parent()].is_private = true;
      for (const NamedPath& named : manifest.paths) refer(in, path, file, named);
      return true;
    });
    cargo::tell_outsiders(in);
  }

  std::vector<Blocker> consequences(const TreeView& before, const TreeView& planned,
                                    const MoveSet& moves) const override {
    std::vector<Blocker> out = cargo::crate_consequences(before, planned, moves);
    std::vector<Blocker> targets = cargo::new_targets(before.tree, planned.tree, moves);
    std::move(targets.begin(), targets.end(), std::back_inserter(out));
    return out;
  }
  std::set<RelPath> sources_of_whole_units(const ReadTree& tree, const MoveSet& moves) const override {
    std::set<RelPath> out = cargo::sources_of_whole_crates(tree.tree, moves);
    out.merge(cargo::sources_that_move_alone(tree.tree, moves));
    return out;
  }
  std::vector<Proposal> needed_edits(const ClaimedTree& before, const MoveSet& moves) const override {
    return cargo::paths_of_roots(before.tree, moves);
  }

  // Settings say what stands in for packages, and for whom by where they lie.
  bool defines_scope(const RelPath& path) const override { return cargo::is_config(path); }

  std::vector<Change> share(const ClaimedTree& before) const override {
    return cargo::share_dependencies(before);
  }
  std::vector<Change> unshare(const ClaimedTree& before) const override {
    return cargo::unshare_dependencies(before);
  }

  // The folder of a crate, by its manifest.
  std::vector<Proposal> own_proposals(const RewriteRequest& need) const override {
    const std::vector<Piece>& pieces = need.reference.text.pieces();
    if (need.wanted.size() != 1 || pieces.size() != 1) return {};
    RelPath target = need.wanted.front().path;
    if (cargo::is_manifest(target)) target = target.parent();
    auto text = write(relative_text(need.new_base, target), pieces.front().style);
    if (!text) return {};
    return {{{Edit{need.graph.files.path(pieces.front().file), pieces.front().span, *text}}, ""}};
  }

  std::optional<std::string> write(std::string_view text, WritingStyle style) const override {
    return values::written(text, style);
  }
  Span word_at(std::string_view, Span literal) const override { return {literal.begin - 1, literal.end + 1}; }
  // Arrays of TOML are written like those of JSON.
  std::optional<std::string> beside(std::string_view bytes, Span word, std::string_view text) const override {
    return json::beside(bytes, word, text);
  }
  std::optional<Span> without(std::string_view bytes, Span word) const override {
    return json::without(bytes, word);
  }

 private:
  // What lies below a manifest is one crate, which depends on others of the tree by their folders.
  static void bound(const Reading& in, const RelPath& path, const cargo::Manifest& manifest) {
    Boundary boundary{path, manifest.package, "crate", true, {}, {}, {}};
    std::set<RelPath> uses;
    for (const Crate& crate : in.out.graph().crates) {
      if (crate.settings != path) continue;
      for (const auto& [name, root] : crate.uses) {
        for (const Crate& other : in.out.graph().crates) {
          if (other.root == root && other.settings != path) uses.insert(other.settings);
        }
      }
    }
    boundary.uses.assign(uses.begin(), uses.end());
    in.out.graph().boundaries.push_back(std::move(boundary));
  }

  // Patterns as those of ignore lists; read are those that mean a path from the manifest's folder.
  static void packed(const Reading& in, const RelPath& path, const values::Value& value,
                     Reference reference) {
    std::size_t begin = value.text.starts_with('/') ? 1 : 0;
    std::string text = value.text.substr(begin);
    if (text.starts_with('!') || (has_wildcard(text) && begin == 0 && text.find('/') == std::string::npos))
      return;
    auto found = published_by(in.tree, path.parent(), text);
    if (!found && begin == 0 && !has_wildcard(text)) add_leading(in.out, in.tree, std::move(reference));
    if (!found) return;
    TracedText whole = begin == 0 ? reference.text : reference.text.substr(begin);
    reference.text = whole.substr(0, found->head);
    if (found->is_pattern) {
      reference.role = Role::pattern;
      reference.kind = GlobPattern{};
      reference.may_gain = true;
      reference.excludes = value.path[1] == "exclude";
    }
    if (found->is_deep) {
      bool is_folder = found->head == text.find_last_not_of('/') + 1;
      reference.kind = GlobPattern{GlobPattern::Kind::deep, found->names, is_folder ? reference.text : whole};
    }
    reference.lead_to(found->files);
    in.out.add(std::move(reference));
  }

  static void refer(const Reading& in, const RelPath& path, FileIndex file, const NamedPath& named) {
    const values::Value& value = named.value;
    if (!value.verbatim) return;
    bool is_member = named.what == cargo::Names::member || named.what == cargo::Names::packed;
    // The members of a workspace are one list.
    Site site{file, is_member ? 0 : value.span.begin};
    Role role = named.what == cargo::Names::crate ? Role::subfolder : Role::listed;
    Reference reference =
        Reference::of(role, in.self, {site}, {path.parent(), file, Space::tree}, values::traced(value, file));
    if (is_member) reference.construct_part = ConstructPart::tagged(value.path[1]);
    reference.in_list = is_member;
    if (named.what == cargo::Names::maybe) {
      if (value.text.find_first_of("/.") != std::string::npos)
        add_leading(in.out, in.tree, std::move(reference).likely());
    } else if (named.what == cargo::Names::packed) {
      packed(in, path, value, std::move(reference));
    } else if (named.what == cargo::Names::file) {
      add_leading(in.out, in.tree, std::move(reference));
    } else if (is_member && has_wildcard(value.text)) {
      reference.kind = GlobPattern{};
      for (const RelPath& folder : match_paths(in.tree, path.parent(), value.text)) {
        // A folder without a manifest is an error.
        if (in.tree.is_folder(folder)) reference.lead_to(folder);
      }
      in.out.add(std::move(reference));
    } else {
      auto folder = RelPath::resolve(path.parent(), value.text);
      if (!folder) return;
      RelPath manifest = *folder / "Cargo.toml";
      bool is_crate = in.tree.is_file(manifest);
      reference = std::move(reference).spelled_by_format();
      reference.dangling = !is_crate && value.path.size() > 1 && value.path[1] != "exclude";
      if (is_crate && !is_member) {
        reference.lead_to(std::move(manifest));
      } else if (!folder->is_root() && in.tree.is_folder(*folder)) {
        reference.lead_to(std::move(*folder));
      }
      if (!reference.targets.empty() || reference.dangling) in.out.add(std::move(reference));
    }
  }
};

}  // namespace

std::unique_ptr<Format> cargo_format() {
  return std::make_unique<CargoFormat>();
}

}  // namespace yc
