// What a question is answered from, and the words that answers are made of.
#pragma once

#include <map>
#include <nlohmann/json.hpp>
#include <optional>
#include <string>

#include "serve/client.h"
#include "serve/documents.h"
#include "serve/workspace.h"

namespace yc::serve {

using json = nlohmann::json;

struct Asked {
  Workspace& workspace;
  const Documents& documents;
  const Client& client;

  std::string uri(const RelPath& path) const;  // as the editor spells it, if it has the file open
  // The version of the text that answers are for; null if the file is not open.
  json version(const RelPath& path) const;
};

// The bytes of a file, with where lines begin. Many answers name many places of few files.
class FileTexts {
 public:
  explicit FileTexts(const Asked& asked) : asked_(asked) {}
  json range(const RelPath& file, Span span);
  json location(const RelPath& file, std::optional<Span> span);  // of the file as a whole without one
  std::optional<std::uint32_t> offset(const RelPath& file, const json& position);
  const std::string* bytes(const RelPath& file);  // null if it cannot be read

 private:
  struct Text {
    Bytes bytes;
    TextPlaces places;
  };
  const Text* text(const RelPath& file);

  const Asked& asked_;
  std::map<RelPath, std::optional<Text>> known_;
};

// The references whose text holds a place, the shortest first, by their numbers.
std::vector<std::size_t> references_at(Workspace& workspace, const RelPath& file, std::uint32_t offset);

}  // namespace yc::serve
