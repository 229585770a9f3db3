#include "model/graph.h"

#include <algorithm>
#include <set>
#include <tuple>
#include <unordered_set>

namespace yc {

std::string_view name_of(Role role) {
  switch (role) {
    case Role::source:
      return "source";
    case Role::script:
      return "script";
    case Role::subfolder:
      return "subfolder";
    case Role::search_root:
      return "search root";
    case Role::include:
      return "include";
    case Role::pattern:
      return "pattern";
    case Role::argument:
      return "argument";
    case Role::listed:
      return "listed";
    case Role::product:
      return "product";
  }
  return "";
}

FileIndex FileTable::index(const RelPath& path) {
  auto [at, fresh] = indices_.emplace(path, static_cast<FileIndex>(paths_.size()));
  if (fresh) paths_.push_back(path);
  return at->second;
}

FileIndex FileTable::find(const RelPath& path) const {
  auto at = indices_.find(path);
  return at == indices_.end() ? kNoFile : at->second;
}

bool GraphBuilder::wants_name(std::string_view path) const {
  if (!focus_) return true;
  while (!path.empty() && path.back() == '/') path.remove_suffix(1);
  std::size_t cut = path.rfind('/');
  return focus_->names.contains(std::string(cut == std::string_view::npos ? path : path.substr(cut + 1)));
}

bool GraphBuilder::wants_any_name(std::string_view path) const {
  while (true) {
    if (wants_name(path)) return true;
    std::size_t cut = path.rfind('/');
    if (cut == std::string_view::npos) return false;
    path = path.substr(0, cut);
  }
}

void GraphBuilder::add(Reference reference) {
  std::sort(reference.targets.begin(), reference.targets.end());
  reference.targets.erase(std::unique(reference.targets.begin(), reference.targets.end()),
                          reference.targets.end());
  graph_.references.push_back(std::move(reference));
}

ContextIndex GraphBuilder::context(Context context) {
  std::string macros;
  for (const PathMacro& macro : context.macros)
    macros += macro.name + (macro.angled ? "<" : "=") + macro.value.text() + "\n";
  auto [at, fresh] = contexts_.emplace(std::tuple(context.roots, context.forced, macros, context.open),
                                       static_cast<ContextIndex>(graph_.contexts.size()));
  if (fresh) graph_.contexts.push_back(std::move(context));
  return at->second;
}

void GraphBuilder::compile(const RelPath& source, ContextIndex context, std::int32_t unit) {
  graph_.compilations.push_back({source, context, unit});
}

void GraphBuilder::hole(const TracedText& text, const Base& base, std::uint8_t format) {
  graph_.holes.push_back({text, base, format});
}

void GraphBuilder::notice(std::string id, const RelPath& file, std::optional<Span> span,
                          std::string message) {
  for (const Notice& known : graph_.notices) {
    if (known.id == id && known.file == file && known.message == message) return;
  }
  graph_.notices.push_back(
      {std::move(id), file, span.value_or(Span{}), span.has_value(), std::move(message)});
}

namespace {

// Identity of a reference for dropping repeats: the same construct, the same bytes, the same meaning. As
// bytes, which are quicker to compare than the things themselves.
std::string identity(const Reference& reference) {
  std::string out;
  auto number = [&](std::int64_t value) { out.append(reinterpret_cast<const char*>(&value), sizeof value); };
  auto text = [&](const std::string& value) {
    number(static_cast<std::int64_t>(value.size()));
    out += value;
  };
  auto site = [&](FileIndex file, std::uint32_t offset) {
    number((static_cast<std::int64_t>(file) << 32) | offset);
  };
  for (const Site& step : reference.key) site(step.file, step.offset);
  text(reference.instance.str());
  number(static_cast<int>(reference.role));
  for (const Piece& piece : reference.text.pieces()) {
    site(piece.file, piece.span.begin);
    for (const Passage& passage : piece.via) site(passage.file, passage.span.begin);
    text(piece.text);
  }
  for (const Target& target : reference.targets) {
    number(static_cast<int>(target.kind));
    text(target.path.str());
    site(target.site.file, target.site.offset);
  }
  for (const InContext& in : reference.contexts) {
    number(in.context);
    text(in.found ? in.target.str() : "");
  }
  return out;
}

}  // namespace

ReferenceGraph GraphBuilder::finish() {
  std::unordered_set<std::string> seen;
  std::vector<Reference> kept;
  kept.reserve(graph_.references.size());
  seen.reserve(graph_.references.size());
  for (Reference& reference : graph_.references) {
    if (seen.insert(identity(reference)).second) kept.push_back(std::move(reference));
  }
  graph_.references = std::move(kept);
  std::set<std::tuple<RelPath, ContextIndex, std::int32_t>> compiled;
  std::erase_if(graph_.compilations, [&](const Compilation& item) {
    return !compiled.insert({item.source, item.context, item.unit}).second;
  });
  return std::move(graph_);
}

Standing standing_of(const Reference& reference) {
  for (const Piece& piece : reference.text.pieces()) {
    if (piece.has_origin()) return {piece.file, piece.span};
  }
  Passage passage = reference.text.first_origin();
  if (passage.file != kNoFile) return {passage.file, {passage.span.begin, passage.span.begin}};
  if (reference.key.empty()) return {};
  return {reference.key.back().file, {reference.key.back().offset, reference.key.back().offset}};
}

}  // namespace yc
