#include "serve/asked.h"

#include <algorithm>

#include "serve/uris.h"

namespace yc::serve {

std::string Asked::uri(const RelPath& path) const {
  std::string absolute = workspace.absolute(path);
  const Document* document = documents.find(absolute);
  return document ? document->uri : uri_of(absolute);
}

json Asked::version(const RelPath& path) const {
  const Document* document = documents.find(workspace.absolute(path));
  return document ? json(document->version) : json();
}

const FileTexts::Text* FileTexts::text(const RelPath& file) {
  auto [at, fresh] = known_.try_emplace(file);
  if (fresh) {
    auto bytes = asked_.workspace.tree().read(file);
    if (bytes) at->second = Text{*bytes, TextPlaces(**bytes, asked_.client.encoding)};
  }
  return at->second ? &*at->second : nullptr;
}

const std::string* FileTexts::bytes(const RelPath& file) {
  const Text* found = text(file);
  return found ? found->bytes.get() : nullptr;
}

json FileTexts::range(const RelPath& file, Span span) {
  const Text* found = text(file);
  Place begin, end;
  if (found) {
    begin = found->places.place_of(*found->bytes, span.begin);
    end = found->places.place_of(*found->bytes, span.end);
  }
  return {{"start", {{"line", begin.line}, {"character", begin.character}}},
          {"end", {{"line", end.line}, {"character", end.character}}}};
}

json FileTexts::location(const RelPath& file, std::optional<Span> span) {
  json nowhere = {{"line", 0}, {"character", 0}};
  return {{"uri", asked_.uri(file)},
          {"range", span ? range(file, *span) : json{{"start", nowhere}, {"end", nowhere}}}};
}

std::optional<std::uint32_t> FileTexts::offset(const RelPath& file, const json& position) {
  const Text* found = text(file);
  if (!found) return std::nullopt;
  Place place{position.at("line").get<std::uint32_t>(), position.at("character").get<std::uint32_t>()};
  return found->places.offset_of(*found->bytes, place);
}

std::vector<std::size_t> references_at(Workspace& workspace, const RelPath& file, std::uint32_t offset) {
  std::vector<std::size_t> out;
  const ReferenceGraph& graph = workspace.graph();
  for (std::size_t i : workspace.standing_in(file)) {
    Span span = standing_of(graph.references[i]).span;
    if (span.begin <= offset && offset <= span.end) out.push_back(i);
  }
  std::stable_sort(out.begin(), out.end(), [&](std::size_t a, std::size_t b) {
    return standing_of(graph.references[a]).span.size() < standing_of(graph.references[b]).span.size();
  });
  return out;
}

}  // namespace yc::serve
