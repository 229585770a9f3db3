#include "formats/web_settings/alias_tables.h"

#include <fmt/format.h>

#include "formats/json/json_strings.h"
#include "formats/json/json_tables.h"

namespace yc::web_settings {

namespace {

std::string relative_place(const RelPath& from, const RelPath& folder) {
  std::string text = relative_text(from, folder);
  return text.starts_with("../") ? text : "./" + text;
}

class Writer {
 public:
  Writer(const TreeReader& tree, const std::string& name, const RelPath& folder)
      : tree_(tree), name_(name), folder_(folder) {}

  // The nearest settings above the folder, or those that they take their paths from.
  bool compiler() {
    for (RelPath up = folder_;; up = up.parent()) {
      for (const char* name : {"tsconfig.json", "jsconfig.json"}) {
        if (tree_.is_file(up / name)) return compiler_at(up / name, 0);
      }
      if (up.is_root()) return false;
    }
  }

  bool compiler_at(const RelPath& path, std::size_t depth) {
    auto read = tree_.read(path);
    if (!read) return false;
    std::string_view bytes = **read;
    std::size_t table = json::table_of(bytes, "\"paths\"");
    std::vector<json::StringValue> values = json::string_values(bytes);
    RelPath base = path.parent();
    bool has_base = false;
    for (const json::StringValue& value : values) {
      bool extends = !value.path.empty() && value.path[0] == "extends" && value.text.starts_with(".");
      if (extends && table == std::string_view::npos && depth < 8) {
        for (const char* tail : {"", ".json"}) {
          auto parent = RelPath::resolve(path.parent(), value.text + tail);
          auto parent_bytes = parent && tree_.is_file(*parent) ? tree_.read(*parent) : Result<Bytes>(Error{});
          if (parent_bytes && json::table_of(**parent_bytes, "\"paths\"") != std::string::npos)
            return compiler_at(*parent, depth + 1);
        }
      }
      if (value.path == std::vector<std::string>{"compilerOptions", "baseUrl"}) {
        if (auto place = RelPath::resolve(path.parent(), value.text)) base = *place, has_base = true;
      }
    }
    std::string target = has_base ? relative_text(base, folder_) : relative_place(base, folder_);
    std::string entry = fmt::format("\"{}/*\": [\"{}/*\"]", name_, target);
    if (table != std::string_view::npos) {
      edits_.push_back(json::entry_edit(path, bytes, table, entry));
      return true;
    }
    std::size_t options = json::table_of(bytes, "\"compilerOptions\"");
    if (options != std::string_view::npos) {
      edits_.push_back(json::entry_edit(path, bytes, options, fmt::format("\"paths\": {{ {} }}", entry)));
      return true;
    }
    std::size_t open = bytes.find('{');
    if (open == std::string_view::npos) return false;
    edits_.push_back(json::entry_edit(path, bytes, open,
                                      fmt::format("\"compilerOptions\": {{ \"paths\": {{ {} }} }}", entry)));
    return true;
  }

  bool manifest() {
    for (RelPath up = folder_;; up = up.parent()) {
      RelPath path = up / "package.json";
      if (tree_.is_file(path)) {
        auto read = tree_.read(path);
        if (!read) return false;
        std::string entry = fmt::format("\"{}/*\": \"{}/*\"", name_, relative_place(up, folder_));
        std::size_t table = json::table_of(**read, "\"imports\"");
        if (table != std::string_view::npos) {
          edits_.push_back(json::entry_edit(path, **read, table, entry));
        } else {
          edits_.push_back(json::entry_edit(path, **read, (*read)->find('{'),
                                            fmt::format("\"imports\": {{ {} }}", entry)));
        }
        return true;
      }
      if (up.is_root()) return false;
    }
  }

  std::vector<Edit> edits() && { return std::move(edits_); }

 private:
  const TreeReader& tree_;
  const std::string& name_;
  const RelPath& folder_;
  std::vector<Edit> edits_;
};

}  // namespace

std::vector<Edit> name_in_compiler(const TreeReader& tree, const std::string& name, const RelPath& folder) {
  Writer writer(tree, name, folder);
  writer.compiler();
  return std::move(writer).edits();
}

std::vector<Edit> name_in_manifest(const TreeReader& tree, const std::string& name, const RelPath& folder) {
  Writer writer(tree, name, folder);
  if (name.starts_with("#")) writer.manifest();
  return std::move(writer).edits();
}

}  // namespace yc::web_settings
