#include "inspect/reasons.h"

#include <fmt/format.h>

#include <algorithm>
#include <set>

namespace yc {

namespace {

class ReasonReader {
 public:
  ReasonReader(const TreeReader& tree, const ReferenceGraph& graph, const RelPath& file, std::size_t line)
      : tree_(tree), graph_(graph), file_(graph.files.find(file)), line_(span_of_line(tree, file, line)) {}

  std::vector<Reason> run() {
    for (const Reference& reference : graph_.references) {
      if (is_here(reference)) add(reference);
    }
    return std::move(out_);
  }

 private:
  std::size_t line_of(const RelPath& file, std::uint32_t offset) const {
    auto bytes = tree_.read(file);
    return bytes ? position_at(**bytes, offset).line : 0;
  }

  // With the end of the line; empty where there is none.
  static Span span_of_line(const TreeReader& tree, const RelPath& file, std::size_t line) {
    auto bytes = tree.read(file);
    if (!bytes || line == 0) return {};
    std::size_t begin = 0;
    for (std::size_t at = 1; at < line; ++at) {
      std::size_t end = (*bytes)->find('\n', begin);
      if (end == std::string::npos) return {};
      begin = end + 1;
    }
    std::size_t end = std::min((*bytes)->find('\n', begin), (*bytes)->size());
    return {static_cast<std::uint32_t>(begin), static_cast<std::uint32_t>(end + 1)};
  }

  bool is_in_line(FileIndex file, std::uint32_t offset) const {
    return file != kNoFile && file == file_ && offset >= line_.begin && offset < line_.end;
  }

  bool is_here(const Reference& reference) const {
    Standing at = standing_of(reference);
    if (is_in_line(at.file, at.span.begin)) return true;
    const auto& pieces = reference.text.pieces();
    return std::any_of(pieces.begin(), pieces.end(), [&](const Piece& piece) {
      return piece.has_origin() && is_in_line(piece.file, piece.span.begin);
    });
  }

  void add(const Reference& reference) {
    Reason reason;
    reason.seen = as_seen(graph_, reference);
    // The same text in several constructs is told once.
    std::string key =
        fmt::format("{}:{}:{}", static_cast<int>(reference.role), reason.seen.span.begin, reason.seen.text);
    for (const RelPath& target : reason.seen.targets) key += "\n" + target.str();
    if (!known_.insert(key).second) return;
    reason.base = reference.base.folder;
    if (reference.role == Role::include) {
      reason.is_searched = true;
      look_in_contexts(reference, reason);
    } else if (!reference.is_pattern()) {
      look_from(reference, reference.base, reason);
      for (const Base& more : reference.search) {
        reason.is_searched = true;
        if (!reason.tried.empty() && reason.tried.back().is_found) break;
        look_from(reference, more, reason);
      }
    }
    for (const Piece& piece : reference.text.pieces()) {
      if (!piece.has_origin() || reference.text.pieces().size() < 2) continue;
      const RelPath& from = graph_.files.path(piece.file);
      reason.parts.emplace_back(fmt::format("{}:{}", from.str(), line_of(from, piece.span.begin)),
                                piece.text);
    }
    out_.push_back(std::move(reason));
  }

  void look_from(const Reference& reference, const Base& base, Reason& reason) const {
    Place place = place_of(base.folder, reference.text.text(), base.space);
    if (place.space == Space::tree)
      reason.tried.push_back({"", place.path, tree_.find(place.path) != nullptr});
  }

  // The file's own folder for a name in quotes, then the search roots of each unit.
  void look_in_contexts(const Reference& reference, Reason& reason) const {
    std::set<std::string> told;
    for (const InContext& in : reference.contexts) {
      if (in.context == kNoContext) continue;
      std::string unit = "-";
      for (const Compilation& item : graph_.compilations) {
        if (item.context == in.context && item.unit >= 0)
          unit = graph_.units[static_cast<std::size_t>(item.unit)].name;
      }
      if (!told.insert(unit).second) continue;
      std::vector<RelPath> folders;
      if (!reference.is_angled()) folders.push_back(reference.base.folder);
      for (const SearchRoot& root : graph_.contexts[static_cast<std::size_t>(in.context)].roots) {
        bool counts = root.place.space == Space::tree && (!root.quoted_only || !reference.is_angled());
        if (counts) folders.push_back(root.place.path);
      }
      for (const RelPath& folder : folders) {
        auto place = RelPath::resolve(folder, reference.text.text());
        if (!place) continue;
        bool is_found = in.found && *place == in.target;
        reason.tried.push_back({unit, *place, is_found});
        if (is_found) break;
      }
    }
  }

  const TreeReader& tree_;
  const ReferenceGraph& graph_;
  FileIndex file_;
  Span line_;
  std::set<std::string> known_;
  std::vector<Reason> out_;
};

}  // namespace

std::vector<Reason> reasons_at(const TreeReader& tree, const ReferenceGraph& graph, const RelPath& file,
                               std::size_t line) {
  return ReasonReader(tree, graph, file, line).run();
}

PlannedReasons planned_reasons(const Plan& plan, const TreeReader& tree, const TreeReader& planned,
                               const RelPath& file, std::size_t line) {
  PlannedReasons out;
  FactsCache cache;
  out.before = reasons_at(tree, read_graph(tree, cache), file, line);
  auto bytes = tree.read(file);
  if (!bytes) return out;
  std::size_t begin = 0;
  for (std::size_t at = 1; at < line && begin < (*bytes)->size(); ++at)
    begin = std::min((*bytes)->find('\n', begin), (*bytes)->size() - 1) + 1;
  auto edits = plan.edits.find(file);
  auto offset = static_cast<std::uint32_t>(begin);
  if (edits != plan.edits.end()) offset = edits->second.map(offset);
  RelPath now = plan.moves.map_file(file);
  auto after = planned.read(now);
  if (after)
    out.after = reasons_at(planned, read_graph(planned, cache), now, position_at(**after, offset).line);
  for (const PlannedEdit& edit : plan.edit_list) {
    if (edit.file == file && position_at(**bytes, edit.span.begin).line == line) out.edits.push_back(edit);
  }
  return out;
}

}  // namespace yc
