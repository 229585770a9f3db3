// References between projects as edits of their files.
#pragma once

#include <optional>
#include <string>

#include "base/edit.h"
#include "tree/tree_reader.h"

namespace yc::msbuild {

// A project that others refer to.
struct LinkedProject {
  RelPath file;
  std::string name, identifier;  // the identifier is empty in a new-style project
};
LinkedProject linked_project(const TreeReader& tree, const RelPath& file);

// The element that refers to `used` from a project in `folder`, as the ones of `like` are written; with its
// line's indent and line end.
std::string link_line(const RelPath& folder, std::string_view like, const LinkedProject& used);
// One more reference behind the last one, or in a group of its own.
std::optional<Edit> link_edit(const TreeReader& tree, const RelPath& project, const LinkedProject& used);
// Takes the reference out, with its group if nothing else is in that.
std::optional<Edit> unlink_edit(const TreeReader& tree, const RelPath& project, const RelPath& used);
// Puts another in a reference's place.
std::optional<Edit> relink_edit(const TreeReader& tree, const RelPath& project, const RelPath& used,
                                const LinkedProject& instead);

}  // namespace yc::msbuild
