// The modules of a tree, and which package an import path means (Go Modules Reference).
#pragma once

#include <functional>
#include <map>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "base/path.h"
#include "base/span.h"
#include "tree/tree_reader.h"

namespace yc::go {

// "./gauge" behind `use`, or behind the arrow of a `replace`.
struct FolderWord {
  std::string text;
  Span span;
};

struct ModFacts {
  std::string module;
  std::vector<FolderWord> folders;
};

// go.mod or go.work. Never fails.
ModFacts scan_mod(std::string_view bytes);

struct Module {
  RelPath root;
  std::string path;
};

// In which module a folder lies, and what its package is imported as.
class Modules {
 public:
  void add(Module module) { by_root_[module.root] = std::move(module.path); }
  bool empty() const { return by_root_.empty(); }
  const std::map<RelPath, std::string>& all() const { return by_root_; }
  // The innermost one that holds a folder; null if none does.
  const std::pair<const RelPath, std::string>* around(const RelPath& folder) const;
  std::optional<std::string> import_path(const RelPath& folder) const;
  // The folder that an import path means, whether it is there or not; nothing for one of no module of the
  // tree.
  std::optional<RelPath> folder_of(std::string_view path) const;

 private:
  std::map<RelPath, std::string> by_root_;
};

// `read` gives the bytes of a file, or nothing.
Modules modules_of(const std::vector<RelPath>& files,
                   const std::function<std::optional<std::string>(const RelPath&)>& read);

}  // namespace yc::go
