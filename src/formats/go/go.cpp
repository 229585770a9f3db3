#include "formats/go/go.h"

#include <algorithm>

#include "base/text.h"
#include "formats/capabilities/companions.h"
#include "formats/capabilities/consequences.h"
#include "formats/capabilities/spellings.h"
#include "formats/go/go_modules.h"
#include "formats/go/go_names.h"
#include "formats/go/go_packages.h"
#include "formats/go/go_references.h"
#include "formats/go/go_scan.h"

namespace yc {

namespace {

// Go refuses import paths with any of these (specification, "Import declarations").
constexpr std::string_view kRefused = "!\"#$%&'()*,:;<=>?[\\]^`{|} \t\r\n";

std::string last_of(std::string_view path) {
  return std::string(path.substr(path.rfind('/') + 1));
}

// "./" or "../" before it tells a folder from an import path.
std::string folder_text(const RelPath& base, const RelPath& folder) {
  std::string text = relative_text(base, folder);
  return text.starts_with("..") || text == "." ? text : "./" + text;
}

// That of a module's go.mod, or the folder itself.
RelPath folder_of(const RelPath& path) {
  return path.name() == "go.mod" ? path.parent() : path;
}

class GoFormat : public Format, public Spellings, public Consequences, public FollowingNames {
 public:
  std::string_view name() const override { return "go"; }

  bool claims(const RelPath& path) const override {
    return go::is_source(path) || path.name() == "go.mod" || path.name() == "go.work" ||
           go::may_name_packages(path);
  }

  void read(const Reading& in) const override { go::add_references(in); }

  std::vector<Blocker> consequences(const TreeView& before, const TreeView& planned,
                                    const MoveSet& moves) const override {
    return go::package_consequences(before, planned, moves);
  }

  std::vector<Proposal> follow_names(const ClaimedTree& before, const MoveSet& moves) const override {
    return go::renamed_packages(before, moves);
  }

  std::vector<Proposal> own_proposals(const RewriteRequest& need) const override {
    const std::vector<Piece>& pieces = need.reference.text.pieces();
    if (need.wanted.empty() || pieces.size() != 1) return {};
    const Piece& piece = pieces.front();
    const RelPath& file = need.graph.files.path(piece.file);
    std::optional<std::string> text;
    switch (need.reference.role) {
      case Role::subfolder:
        text = folder_text(need.new_base, folder_of(need.wanted.front().path));
        break;
      case Role::listed:
        // An embedded file lies in the folder of its package or below.
        if (need.wanted.front().path.is_within(need.new_base) && need.wanted.front().path != need.new_base)
          text = std::string(need.wanted.front().path.below(need.new_base));
        break;
      default:
        text = need.reference.lead().empty() ? import_path(need) : package_folder(need);
    }
    if (text) text = write(*text, piece.style);
    if (text && need.reference.lead() == go::kImpliedPackage)
      return {{{Edit{file, {piece.span.end, piece.span.end}, " " + *text}}, ""}};
    if (!text) return {};
    std::vector<Edit> edits;
    // What a file calls the package must stay.
    if (need.reference.role == Role::module) {
      if (auto name = name_to_give(need, file, piece.span, *text))
        edits.push_back({file, {piece.span.begin - 1, piece.span.begin - 1}, *name + " "});
    }
    if (*text != need.reference.text.text()) edits.push_back({file, piece.span, *text});
    if (edits.empty()) return {};
    return {{std::move(edits), ""}};
  }

  std::optional<Reason> why_not(const ReferenceGraph& graph, const Reference& reference,
                                const RelPath& new_base, const RelPath& target) const override {
    bool embeds = reference.role == Role::listed || reference.role == Role::pattern;
    if (embeds && !target.is_within(new_base))
      return Reason{"//go:embed takes in only what lies in the folder of its package or below",
                    "move it along with the package, to a place below " +
                        (new_base.is_root() ? std::string("the root") : new_base.str())};
    if (reference.role == Role::pattern)
      return Reason{"//go:embed takes it in by that, which it would leave",
                    "keep it there, or name its new place in the directive first"};
    if (reference.role != Role::module && reference.role != Role::argument) return std::nullopt;
    bool is_held =
        std::any_of(graph.boundaries.begin(), graph.boundaries.end(), [&](const Boundary& boundary) {
          return boundary.file.name() == "go.mod" && target.is_within(boundary.file.parent());
        });
    if (!is_held)
      return Reason{"no module holds the place that it would go to, so no import path means it",
                    "move it to a folder at or below that of a go.mod"};
    return std::nullopt;
  }

  std::optional<std::string> write(std::string_view text, WritingStyle style) const override {
    // A pattern of what is embedded may have wildcards, and cannot climb.
    bool is_pattern = style == go::kEmbedded;
    if (is_pattern && (text.starts_with("..") || text == ".")) return std::nullopt;
    if (text.find_first_of(is_pattern ? std::string_view(" \t\r\n\"`") : kRefused) != std::string_view::npos)
      return std::nullopt;
    return std::string(text);
  }

 private:
  // The folder that all sources of a package go to.
  static std::optional<RelPath> common_folder(const RewriteRequest& need) {
    const Target& first = need.wanted.front();
    RelPath folder =
        need.tree.is_folder(need.reference.targets.front().path) ? first.path : first.path.parent();
    bool is_one = std::all_of(need.wanted.begin(), need.wanted.end(), [&](const Target& target) {
      return target.path == folder || target.path.parent() == folder;
    });
    return is_one ? std::optional(std::move(folder)) : std::nullopt;
  }

  static std::optional<std::string> package_folder(const RewriteRequest& need) {
    auto folder = common_folder(need);
    return folder ? std::optional(folder_text(need.new_base, *folder)) : std::nullopt;
  }

  // The path that it is imported by there.
  static std::optional<std::string> import_path(const RewriteRequest& need) {
    auto found = common_folder(need);
    if (!found) return std::nullopt;
    const RelPath& folder = *found;
    for (RelPath up = folder;; up = up.parent()) {
      RelPath mod = need.moves.unmap_file(up / "go.mod");
      if (need.moves.map_file(mod) == up / "go.mod" && need.tree.is_file(mod)) {
        auto bytes = need.tree.read(mod);
        std::string module = bytes ? go::scan_mod(**bytes).module : "";
        if (module.empty()) return std::nullopt;
        return folder == up ? module : module + "/" + std::string(folder.below(up));
      }
      if (up.is_root()) return std::nullopt;
    }
  }

  // The package's name, where the new path does not end in it as the old one did and the import gives none.
  static std::optional<std::string> name_to_give(const RewriteRequest& need, const RelPath& file, Span span,
                                                 const std::string& text) {
    auto user = need.tree.read(file);
    auto package = need.tree.read(need.reference.targets.front().path);
    if (!user || !package) return std::nullopt;
    std::string name = go::scan_source(**package).package;
    std::string old = last_of(need.reference.text.text());
    if (name.empty() || name != old || name == last_of(text)) return std::nullopt;
    RelPath from = need.reference.targets.front().path.parent(), to = need.wanted.front().path.parent();
    auto follows = go::following_name(name, from, to);
    if (follows && go::qualifiers(need.tree, file, name, *follows)) return std::nullopt;
    for (const go::Import& import : go::scan_source(**user).imports) {
      if (import.span == span && import.name) return std::nullopt;
    }
    return name;
  }
};

}  // namespace

std::unique_ptr<Format> go_format() {
  return std::make_unique<GoFormat>();
}

}  // namespace yc
