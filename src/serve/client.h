// What an editor can do, as it says when it connects ("initialize").
#pragma once

#include <nlohmann/json_fwd.hpp>
#include <string>
#include <vector>

#include "serve/places.h"

namespace yc::serve {

struct Client {
  std::string name;  // with its version; may be empty
  Encoding encoding = Encoding::utf16;
  bool takes_versions = false;     // edits of documents with their versions, in order with renames
  bool takes_annotations = false;  // edits that are to be confirmed
  bool can_rename = false, can_create = false, can_remove = false;  // files, as parts of an edit
  bool can_apply = false;                                           // an edit that it has not asked for
  bool can_show_document = false;
  bool can_show_progress = false;
  bool can_watch = false;  // files, once asked to
  bool takes_markdown = false;
  bool takes_code_actions = false;   // rather than commands
  std::vector<std::string> folders;  // absolute paths
};

Client client_of(const nlohmann::json& params);

// What the server can do, as the answer to that.
nlohmann::json capabilities_for(const Client& client);

}  // namespace yc::serve
