// What giving a folder a build script of its own takes to know of a language of build scripts.
#pragma once

#include <optional>
#include <set>
#include <string>
#include <string_view>
#include <vector>

#include "base/edit.h"
#include "base/span.h"
#include "model/graph.h"
#include "tree/tree_reader.h"

namespace yc {

// A statement at the top level of a build script, with the comment right above it. Names are variables, and
// with a mark in front other things whose order counts ("target:app", "!settings").
struct ScriptPart {
  Span span;      // whole lines, with the last line end
  Span sentence;  // the statement itself
  std::set<std::string> sets, uses;
  std::set<std::string> later_uses;  // names that are looked up only once everything is read
  std::string enters;                // a folder whose own script runs here, as written
  std::string belongs_to;            // a name without whose setter this makes no sense ("target:app")
  bool is_fixed = false;             // only this script can say it
  bool is_head = false;              // and before everything else
  bool is_list = false;              // words can be taken out of it
};

// Words taken out of a statement that names files of several folders, and said in the folder's own script.
struct ScriptSplit {
  std::vector<Edit> edits;  // of the statement
  std::string text;         // for the folder's script
  std::set<std::string> sets, uses;
};

class Carver {
 public:
  virtual ~Carver() = default;
  // Whether a file is a script of this language that others are carved out of.
  virtual bool is_script(const RelPath& path) const = 0;
  // What a folder's own script is called, as `parent`, the bytes of the script that reads it, has the habit.
  virtual std::string script_name(std::string_view parent) const = 0;
  // Whether paths in such a script are relative to its folder, and not to that of the script which reads it.
  virtual bool is_relative() const = 0;
  // Whether a name that it sets is known to the script that reads it.
  virtual bool shares_names() const = 0;
  virtual std::vector<ScriptPart> parts(std::string_view bytes) const = 0;
  // The statement that has a folder's script read, with its line end. `folder` is relative to the script.
  virtual std::string call(const std::string& folder, const std::string& name) const = 0;
  // Whether an expression means the folder of the script that it stands in.
  virtual bool is_own_folder(std::string_view expression) const = 0;
  // Changes to text that goes from one folder's script to another's, so that what it says of the folder of
  // the build tree goes on meaning the same one. `way` leads there from the new folder's; `is_top` says that
  // the text comes out of a project's topmost script.
  virtual std::vector<Edit> keep_build_folder(const RelPath& script, std::string_view bytes, const Span& span,
                                              const std::string& way, bool is_top) const = 0;
  // Has a unit, whose statement goes to a folder's script, look for includes in the folder that it came from,
  // if it did so without a word; `way` leads there.
  virtual std::vector<Edit> look_above(const ReferenceGraph&, const Unit&, const TreeReader&,
                                       const std::string& way) const;
  // Takes `words` (spans of literals in `part`) out of a list; `paths` are the same files from the folder's
  // own script, and `unit` what is made of them. Nothing if the language cannot say it so.
  virtual std::optional<ScriptSplit> split(const RelPath& script, std::string_view bytes,
                                           const ScriptPart& part, const std::vector<Span>& words,
                                           const std::vector<std::string>& paths, const std::string& folder,
                                           const std::string& unit) const = 0;
  // Why a folder's script cannot be taken into the one that reads it; empty if it can.
  virtual std::string keeps_apart(std::string_view child, std::string_view parent) const = 0;
};

// The lines of a statement with the comment lines (beginning with '#') right above it, down to its line end.
Span lines_of(std::string_view bytes, Span statement);

class Carving {
 public:
  virtual ~Carving() = default;
  // How folders get scripts of their own in this language.
  virtual const Carver& carver() const = 0;
};

}  // namespace yc
