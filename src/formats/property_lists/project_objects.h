// The objects of a project in a property list (project.pbxproj): groups and files with the folders that they
// stand for, targets with the files that they build, and settings.
#pragma once

#include <map>
#include <string>
#include <vector>

#include "formats/property_lists/plist_text.h"
#include "model/reference.h"

namespace yc::plist {

// What relative paths of a project, workspace or scheme begin at: the folder that holds the bundle which the
// file is a part of ("Gauges.xcodeproj"), or the file's own.
Base bundle_base(const RelPath& path, FileIndex file = kNoFile);

// A group, a file, or anything else in the tree that the developer sees.
struct Node {
  std::string identifier, kind, name;
  const Value* object = nullptr;
  std::string group;        // the identifier of the group that holds it
  TracedText path;          // from the project's folder; empty if it stands for no place of its own
  bool is_placed = false;   // its place is known
  bool is_outside = false;  // in a folder of products, of the system or of a developer's machine
};

// Some sources that a target compiles, with the settings of its configurations.
struct TargetInfo {
  std::string name;
  const Value* object = nullptr;
  std::vector<std::string> sources;          // identifiers of nodes
  std::vector<const Value*> configurations;  // its own, then the project's
};

struct ProjectObjects {
  std::map<std::string, const Value*> objects;
  std::map<std::string, Node> nodes;  // by identifier
  std::vector<TargetInfo> targets;
  std::string projects_folder;       // projectDirPath
  std::vector<std::string> doubles;  // identifiers that are given twice
};

// `root` must outlive the result.
ProjectObjects read_objects(const Value& root, std::string_view bytes, FileIndex file);

}  // namespace yc::plist
