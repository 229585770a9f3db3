// The texts that an editor has open (Language Server Protocol 3.17, "Text Document Synchronization").
#pragma once

#include <map>
#include <nlohmann/json_fwd.hpp>
#include <optional>
#include <string>

#include "base/result.h"
#include "serve/places.h"
#include "tree/tree_reader.h"

namespace yc::serve {

struct Document {
  std::string uri;  // as the editor spells it
  std::int64_t version = 0;
  Bytes text;
};

class Documents {
 public:
  void open(const std::string& path, Document document) { all_.insert_or_assign(path, std::move(document)); }
  // Applies the changes of a didChange notification, in order. An error if the document is not open.
  Status change(const std::string& path, std::int64_t version, const nlohmann::json& changes,
                Encoding encoding);
  void close(const std::string& path) { all_.erase(path); }
  const Document* find(const std::string& path) const;
  const std::map<std::string, Document>& all() const { return all_; }  // by their absolute paths

 private:
  std::map<std::string, Document> all_;
};

}  // namespace yc::serve
