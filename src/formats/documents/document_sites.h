// Sites that are made of the documents of a folder: by Sphinx ("Configuration", "Defining document
// structure") and by MkDocs ("Configuration", docs_dir, use_directory_urls). What is not in that folder is
// not in the site.
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <unordered_map>
#include <vector>

#include "formats/capabilities/consequences.h"
#include "tree/moves.h"

namespace yc::documents {

struct DocumentSite {
  enum class Maker : unsigned char { sphinx, mkdocs } maker = Maker::sphinx;
  RelPath settings;
  RelPath folder;                  // of the documents
  std::string first_page;          // of Sphinx, from the folder, without its ending
  bool pages_are_folders = false;  // "tides.md" is served as "tides/"
};

class DocumentSites {
 public:
  explicit DocumentSites(const TreeReader& tree);
  // The innermost site that has a file in its folder; null if none has.
  const DocumentSite* of(const RelPath& file) const;
  const DocumentSite* set_by(const RelPath& settings) const;

 private:
  std::unordered_map<RelPath, DocumentSite> sites_;  // by their folders
  std::unordered_map<RelPath, RelPath> folders_;     // by the settings
};

// What a site would lose: documents, with MkDocs also what they lead to; its first page, and its settings, by
// their names. `format` is the name of the format that reads documents.
std::vector<Blocker> left_documents(const ReadTree& before, const ReadTree& planned, const MoveSet& moves,
                                    std::string_view format);

}  // namespace yc::documents
