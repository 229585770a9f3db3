// Meson as a format: finds the projects of a tree, runs each, respells strings.
#include <algorithm>

#include "formats/branch_explorer.h"
#include "formats/capabilities/carving.h"
#include "formats/capabilities/spellings.h"
#include "formats/capabilities/words.h"
#include "formats/kept_parts.h"
#include "formats/meson/meson.h"
#include "formats/meson/meson_carver.h"
#include "formats/meson/meson_evaluation.h"
#include "formats/meson/meson_proposals.h"
#include "model/graph_archive.h"

namespace yc {

namespace {

// Reads the project that begins with a script. Gives the scripts that are a part of it, packed.
std::string meson_project(const Reading& in, const RelPath& top) {
  meson::Evaluation evaluation(in.tree, in.cache, in.out, in.self);
  evaluation.run_project(top);
  in.count_runs(1);
  tell_left_out(in.out, evaluation.left_out());
  return packed(in.cache.parts().tables(), [&](Output& to) { to(evaluation.read_scripts()); });
}

class MesonFormat : public Format, public ListWords, public Spellings, public Carving, public SearchRoots {
 public:
  std::string_view name() const override { return "meson"; }
  ScopeSet gives() const override {
    return Scope::search_roots | Scope::products | ScopeSet(Scope::copies) | Scope::lookups |
           Scope::installed | Scope::starts;
  }

  bool claims(const RelPath& path) const override { return path.name() == "meson.build"; }

  void read(const Reading& in) const override {
    std::vector<RelPath> tops;
    std::copy_if(in.files.begin(), in.files.end(), std::back_inserter(tops),
                 [&](const RelPath& path) { return in.tree.is_editable(path); });
    in.count(tops.size());
    std::sort(tops.begin(), tops.end(), [](const RelPath& a, const RelPath& b) {
      return std::pair(a.components().size(), a) < std::pair(b.components().size(), b);
    });
    std::set<RelPath> read;
    for (const RelPath& top : tops) {
      if (read.contains(top)) continue;
      std::string outcome = in.part(top.str(), [&](const Reading& part) { return meson_project(part, top); });
      unpack(outcome, in.cache.parts().tables(), [&](Input& from) {
        std::set<RelPath> more;
        from(more);
        read.merge(more);
      });
    }
  }

  std::optional<std::string> write(std::string_view text, WritingStyle style) const override {
    if (text.find('\n') != std::string_view::npos) return std::nullopt;
    if (style == meson::kTriple)
      return text.find("'''") == std::string_view::npos ? std::optional(std::string(text)) : std::nullopt;
    if (style == meson::kWordInString)
      return text.find_first_of(" \t'\\") == std::string_view::npos ? std::optional(std::string(text))
                                                                    : std::nullopt;
    if (style == meson::kSubfolder && (text.starts_with("..") || text == "." || text.starts_with('/')))
      return std::nullopt;
    std::string out;
    for (char c : text) {
      if (c == '\'' || c == '\\') out += '\\';
      out += c;
    }
    return style == meson::kExpression ? "'" + out + "'" : out;
  }

  const Carver& carver() const override { return meson::carver(*this); }
  Span word_at(std::string_view bytes, Span literal) const override { return meson::word_at(bytes, literal); }
  std::optional<std::string> beside(std::string_view bytes, Span word, std::string_view text) const override {
    return meson::beside(*this, bytes, word, text);
  }
  std::optional<Span> without(std::string_view bytes, Span word) const override {
    return meson::without(bytes, word);
  }
  std::optional<Reason> why_not(const ReferenceGraph& graph, const Reference& reference,
                                const RelPath& new_base, const RelPath& target) const override {
    return meson::why_not(graph, reference, new_base, target);
  }
  std::optional<std::string> behind_folder(std::string_view, const std::string& relative) const override {
    return " / " + write(relative, meson::kExpression).value_or("");
  }
  std::vector<Proposal> late_proposals(const RewriteRequest& need) const override {
    std::vector<Proposal> out = meson::by_absolute_path(*this, need);
    std::vector<Proposal> more = meson::single_out(*this, need);
    std::move(more.begin(), more.end(), std::back_inserter(out));
    return out;
  }
  std::vector<Proposal> add_search_root(const ReferenceGraph& graph, const Unit& unit, const RelPath& root,
                                        const TreeReader& tree) const override {
    return meson::add_search_root(*this, graph, unit, root, tree);
  }
};

}  // namespace

std::unique_ptr<Format> meson_format() {
  return std::make_unique<MesonFormat>();
}

}  // namespace yc
