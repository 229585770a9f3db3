// Symbolic evaluation of project files in XML ("MSBuild reference", "Project file schema"): properties with
// all values that conditions leave possible, imports in place, and what items and settings say.
#pragma once

#include <map>
#include <optional>
#include <set>
#include <string>
#include <vector>

#include "formats/format.h"
#include "formats/msbuild/project_text.h"
#include "formats/xml/xml_places.h"

namespace yc::msbuild {

// A file of a project: the project itself, or one that it imports.
struct Part {
  RelPath path;
  FileIndex file = kNoFile;
  Bytes bytes;
  std::shared_ptr<const std::vector<xml::Element>> elements;
};

// One value in one of the files: an attribute or the text of an element.
struct Value {
  std::size_t part = 0;
  std::size_t element = 0;
  std::uint32_t site = 0;  // where its element begins
  Span span;
  Texts texts;  // what it may mean
};

struct Import {
  Value value;
  RelPath folder;  // relative texts begin there
  std::optional<RelPath> found;
};

struct Item {
  enum class Act : std::uint8_t { include, exclude, remove, update };
  std::string type;
  Act act = Act::include;
  std::size_t number = 0;  // include and exclude of one element share it
  Value value;
};

// A property, a value of an item or a default for values of items.
struct Setting {
  std::string name, owner;                          // owner: the element around it
  std::size_t item = static_cast<std::size_t>(-1);  // the number of its item, if it has one
  Value value;
};

struct Project {
  std::vector<Part> parts;  // the first one is the project
  std::vector<Import> imports;
  std::vector<Item> items;
  std::vector<Setting> settings;
  std::vector<Setting> conditions;          // texts in Exists('…')
  std::map<std::string, Texts> properties;  // names in lower case
  std::string separators = ";";             // of lists
  bool is_new_style = false;                // names an SDK, so that default items count
  std::string sdk;
  std::vector<RelPath> implied;  // imported without a word: Directory.Build.props and its kin
  std::vector<Value> cycles;     // imports of a file that is being imported
  bool is_whole = true;          // false if a part is no well-formed XML

  // The only value of a property as plain text; empty if it has none, or several.
  std::string property(std::string_view name) const;
};

// What a solution says of the projects that it lists.
struct Surroundings {
  std::map<RelPath, RelPath> solution_of;  // the only solution that lists a project
};

// What expressions mean that a build sets for itself: the names of configurations and platforms, and folders
// of outputs, of installed tools and of the user, which lie outside the tree. Names are in lower case.
struct Configurations {
  std::vector<std::string> names, platforms;
  void add(std::string_view both);  // "Debug|Win32"
};
std::optional<Texts> built_in(const std::string& name, const Configurations& configurations);

// Evaluates the project in a file. Import cycles are cut, depth and the number of files are bounded.
Project evaluate(const TreeReader& tree, FactsCache& cache, std::uint8_t format, FileTable& files,
                 const RelPath& project, const Surroundings& around);

}  // namespace yc::msbuild
