#include "formats/cmake/cmake_carver.h"

#include <algorithm>

#include "base/text.h"
#include "formats/capabilities/words.h"
#include "formats/cmake/cmake_syntax.h"
#include "words/cmake.h"

namespace yc::cmake {

namespace {

constexpr const char* kSettings = "!settings";

// Commands that change what all later targets of the folder, and folders below, are built with.
bool changes_settings(const std::string& name) {
  return words::cmake::settings_commands().contains(name);
}

bool is_about_target(const std::string& name) {
  return name.starts_with("target_") || name == "set_target_properties" || name == "add_dependencies";
}

// "${NAME}" in a text: the variables that it uses. A module found by find_package sets names that begin with
// its own.
void note_variables(std::string_view text, ScriptPart& part) {
  for (std::size_t at = 0; (at = text.find("${", at)) != std::string_view::npos; at += 2) {
    std::size_t end = text.find_first_of("}$", at + 2);
    if (end == std::string_view::npos) break;
    std::string name(text.substr(at + 2, end - at - 2));
    part.uses.insert("package:" + lowered(name.substr(0, name.find('_'))));
    part.uses.insert(std::move(name));
  }
  if (std::size_t cut = text.find("::"); cut != std::string_view::npos)
    part.uses.insert("package:" + lowered(std::string(text.substr(0, cut))));
}

// Words of a command, as they stand; empty beyond the last.
struct CommandWords {
  const Command& command;
  std::string_view bytes;
  std::string operator()(std::size_t i) const {
    if (i >= command.arguments.size()) return std::string();
    const Span& span = command.arguments[i].content;
    return std::string(bytes.substr(span.begin, span.size()));
  }
  std::size_t size() const { return command.arguments.size(); }
};

// Commands that set variables. False for others.
bool note_setting(const std::string& name, const CommandWords& word, ScriptPart& part) {
  if (name == "set" || name == "option" || name == "unset") {
    part.sets.insert(word(0));
    // A list that is added to.
    for (std::size_t i = 1; i < word.size(); ++i) {
      if (word(i) == "PARENT_SCOPE" || word(i) == "CACHE") part.is_fixed = true;
    }
    if (word(0).starts_with("CMAKE_")) part.sets.insert(kSettings);
  } else if (name == "list" || name == "string" || name == "file" || name == "get_filename_component" ||
             name == "math" || name == "execute_process") {
    for (std::size_t i = name == "get_filename_component" ? 0 : 1; i < word.size(); ++i) {
      std::string text = word(i);
      bool is_name = !text.empty() && std::all_of(text.begin(), text.end(), [](unsigned char c) {
        return std::isalnum(c) || c == '_';
      });
      if (is_name) part.sets.insert(text), part.uses.insert(text);
    }
  } else if (name == "find_package") {
    part.sets.insert("package:" + lowered(word(0)));
  } else if (name == "pkg_check_modules" || name == "find_library" || name == "find_path" ||
             name == "find_program" || name.starts_with("check_")) {
    for (std::size_t i = 0; i < word.size(); ++i) part.sets.insert(word(i));
    part.sets.insert("package:" + lowered(word(0)));
  } else {
    return false;
  }
  return true;
}

// Commands that define targets, or say something of one. False for others.
bool note_target(const std::string& name, const CommandWords& word, ScriptPart& part) {
  if (name == "add_library" || name == "add_executable" || name == "add_custom_target") {
    bool is_alias = word(1) == "ALIAS";
    part.sets.insert("target:" + word(0));
    if (is_alias) part.uses.insert("target:" + word(2)), part.belongs_to = "target:" + word(2);
    part.uses.insert(kSettings);
    part.is_list = !is_alias;
  } else if (is_about_target(name)) {
    part.uses.insert("target:" + word(0));
    part.belongs_to = "target:" + word(0);
  } else if (name == "install" && word(0) == "TARGETS") {
    part.uses.insert("target:" + word(1));
  } else if (name == "set_property" && word(0) == "TARGET") {
    part.uses.insert("target:" + word(1));
    part.belongs_to = "target:" + word(1);
  } else {
    return false;
  }
  return true;
}

void note_command(const Command& command, std::string_view bytes, ScriptPart& part) {
  CommandWords word{command, bytes};
  const std::string& name = command.name;
  for (std::size_t i = 0; i < word.size(); ++i) note_variables(word(i), part);
  if (note_setting(name, word, part) || note_target(name, word, part)) {
    // Nothing else is known of it.
  } else if (name == "add_subdirectory") {
    if (word.size() == 1) part.enters = word(0);
  } else if (name == "function" || name == "macro") {
    part.sets.insert("command:" + lowered(word(0)));
  } else if (name == "if" || name == "elseif" || name == "while" || name == "foreach") {
    for (std::size_t i = 0; i < word.size(); ++i) {
      part.uses.insert(word(i));
      part.uses.insert("package:" + lowered(word(i).substr(0, word(i).find('_'))));
    }
    if (name == "foreach") part.sets.insert(word(0));
  } else if (changes_settings(name)) {
    part.sets.insert(kSettings);
    part.uses.insert(kSettings);
  } else {
    part.uses.insert("command:" + name);
  }
  if (name == "project" || name == "cmake_minimum_required" || name == "return" || name == "include" ||
      name == "cmake_policy")
    part.is_fixed = true;
  part.is_head = part.is_head || name == "project" || name == "cmake_minimum_required";
  if (name == "set") part.is_list = part.is_list || word.size() > 1;
}

int depth_change(const std::string& name) {
  static const std::set<std::string> opens = {"if", "foreach", "while", "function", "macro", "block"};
  if (opens.contains(name)) return 1;
  return name.starts_with("end") && opens.contains(name.substr(3)) ? -1 : 0;
}

// What a script asks of CMake at least, as 100 * major + minor; 0 if it does not say.
int least_version(std::string_view bytes) {
  Syntax syntax = parse(bytes);
  for (const Command& command : syntax.commands) {
    if (command.name != "cmake_minimum_required" || command.arguments.size() < 2) continue;
    const Span& span = command.arguments[1].content;
    std::string text(bytes.substr(span.begin, span.size()));
    std::size_t dot = text.find('.');
    return std::atoi(text.c_str()) * 100 + (dot == std::string::npos ? 0 : std::atoi(text.c_str() + dot + 1));
  }
  return 0;
}

class CMakeCarver : public Carver {
 public:
  explicit CMakeCarver(const Format& format) : format_(format) {}

  bool is_script(const RelPath& path) const override { return path.name() == "CMakeLists.txt"; }
  std::string script_name(std::string_view) const override { return "CMakeLists.txt"; }
  bool is_relative() const override { return true; }
  bool shares_names() const override { return false; }

  std::vector<ScriptPart> parts(std::string_view bytes) const override {
    std::vector<ScriptPart> out;
    Syntax syntax = parse(bytes);
    ScriptPart part;
    int depth = 0;
    std::uint32_t begin = 0;
    for (const Command& command : syntax.commands) {
      if (depth == 0) begin = command.span.begin, part = ScriptPart();
      note_command(command, bytes, part);
      depth = std::max(0, depth + depth_change(command.name));
      if (depth > 0) {
        part.is_list = false;
        continue;
      }
      // A block is no list and belongs to nobody.
      if (begin != command.span.begin) part.is_list = false, part.belongs_to.clear(), part.enters.clear();
      part.sentence = {begin, command.span.end};
      part.span = lines_of(bytes, part.sentence);
      if (!out.empty() && out.back().span.end > part.span.begin) part.span.begin = out.back().span.end;
      out.push_back(std::move(part));
    }
    return out;
  }

  std::string call(const std::string& folder, const std::string&) const override {
    return "add_subdirectory(" + format_.write(folder, 0).value_or("") + ")\n";
  }

  bool is_own_folder(std::string_view expression) const override {
    return expression.find("CMAKE_CURRENT_SOURCE_DIR") != std::string_view::npos ||
           expression.find("CMAKE_CURRENT_LIST_DIR") != std::string_view::npos;
  }

  std::vector<Edit> keep_build_folder(const RelPath& script, std::string_view bytes, const Span& span,
                                      const std::string& way, bool is_top) const override {
    constexpr std::string_view kName = "CMAKE_CURRENT_BINARY_DIR";
    std::vector<Edit> out;
    for (std::size_t at = span.begin; (at = bytes.find(kName, at)) < span.end; at += kName.size()) {
      std::uint32_t begin = static_cast<std::uint32_t>(at),
                    end = static_cast<std::uint32_t>(at + kName.size());
      bool whole = at >= 2 && bytes.substr(at - 2, 2) == "${" && bytes.substr(end, 1) == "}";
      if (!whole) continue;
      if (is_top)
        out.push_back({script, {begin, end}, "PROJECT_BINARY_DIR"});
      else
        out.push_back({script, {end + 1, end + 1}, "/" + way});
    }
    return out;
  }

  std::optional<ScriptSplit> split(const RelPath& script, std::string_view bytes, const ScriptPart& part,
                                   const std::vector<Span>& words, const std::vector<std::string>& paths,
                                   const std::string&, const std::string& unit) const override {
    if (unit.empty()) return std::nullopt;
    ScriptSplit out;
    out.text = "target_sources(" + unit + " PRIVATE\n";
    // Before 3.13 sources were looked for in the folder of the target.
    bool is_old = least_version(bytes) < 313;
    const ListWords& lists = *offer<ListWords>(format_);
    for (std::size_t i = 0; i < words.size(); ++i) {
      auto gap = lists.without(bytes, lists.word_at(bytes, words[i]));
      auto written = format_.write(paths[i], 0);
      if (!gap || !written || !part.sentence.holds(*gap)) return std::nullopt;
      out.edits.push_back({script, *gap, ""});
      out.text += (is_old ? "  ${CMAKE_CURRENT_SOURCE_DIR}/" : "  ") + *written + "\n";
    }
    out.text += ")\n";
    out.uses.insert("target:" + unit);
    return out;
  }

  std::string keeps_apart(std::string_view child, std::string_view parent) const override {
    std::set<std::string> outer;
    for (const ScriptPart& part : parts(parent)) {
      outer.insert(part.sets.begin(), part.sets.end());
      outer.insert(part.uses.begin(), part.uses.end());
    }
    for (const ScriptPart& part : parts(child)) {
      if (part.is_fixed)
        return "it says something of its own folder (project, include, return or a wider scope)";
      for (const std::string& name : part.sets) {
        if (name == kSettings) return "its settings hold for its own targets alone";
        bool is_variable = name.find(':') == std::string::npos;
        if (is_variable && outer.contains(name))
          return "it sets " + name + ", which the other script has too";
      }
    }
    return "";
  }

 private:
  const Format& format_;
};

}  // namespace

const Carver& carver(const Format& format) {
  static const CMakeCarver one(format);
  return one;
}

}  // namespace yc::cmake
