#include "formats/msbuild/old_projects.h"

#include <algorithm>
#include <cctype>

#include "base/text.h"
#include "formats/shell/command_line.h"
#include "formats/shell/programs.h"

namespace yc::msbuild {

namespace {

TracedText folder_with_slash(FileIndex anchor, const RelPath& folder) {
  TracedText out = TracedText::folder(Piece::Nature::tree_folder, anchor, marked(Space::tree, folder));
  out.append(TracedText::plain("/"));
  return out;
}

// The name that the successors of the format give to an attribute of a tool.
std::string modern(const std::string& name) {
  if (name == "CommandLine") return "Command";
  if (name == "AdditionalDependencies") return "AdditionalInputs";
  return name;
}

constexpr auto kNoItem = static_cast<std::size_t>(-1);

class Reader {
 public:
  Reader(FileTable& files, const RelPath& path, const Bytes& bytes,
         std::shared_ptr<const std::vector<xml::Element>> elements, const Surroundings& around)
      : files_(files),
        path_(path),
        bytes_(bytes),
        elements_(*elements),
        around_(around),
        file_(files.index(path)),
        habit_(habit_of(*bytes)) {
    out_.is_whole = true;
    out_.separators = ";,";  // either will do
    out_.parts.push_back({path, file_, bytes, std::move(elements)});
  }

  Project run() {
    for (const xml::Element& element : elements_) {
      const xml::Attribute* both = element.name == "Configuration" ? element.attribute("Name") : nullptr;
      if (both) configurations_.add(both->value);
    }
    for (std::size_t i = 0; i < elements_.size(); ++i) {
      if (elements_[i].name == "File") {
        add_file(i);
      } else {
        for (const xml::Attribute& attribute : elements_[i].attributes) add_setting(i, attribute);
      }
    }
    return std::move(out_);
  }

 private:
  std::optional<Texts> value_of(char sign, std::string_view inner) const {
    std::string name = lowered(std::string(inner));
    if (sign != '$') return std::nullopt;
    if (name == "projectdir" || name == "inputdir") return Texts{folder_with_slash(file_, path_.parent())};
    auto solution = around_.solution_of.find(path_);
    if (name == "solutiondir" && solution != around_.solution_of.end())
      return Texts{folder_with_slash(files_.index(solution->second), solution->second.parent())};
    return built_in(name, configurations_);
  }

  Value value_at(std::size_t i, Span span) const {
    return {0, i, elements_[i].begin, span,
            expanded(decoded(*bytes_, span, file_, habit_),
                     [this](char sign, std::string_view inner) { return value_of(sign, inner); })};
  }

  void add_file(std::size_t i) {
    const xml::Attribute* named = elements_[i].attribute("RelativePath");
    if (!named) return;
    item_ = count_++;
    item_element_ = static_cast<std::int32_t>(i);
    bool source = shell::is_source_name(named->value);
    out_.items.push_back(
        {source ? "ClCompile" : "ClInclude", Item::Act::include, item_, value_at(i, named->span)});
  }

  // Within a file's element its own settings stand, each in the element of a configuration.
  bool is_of_item(const xml::Element& element) const {
    for (std::int32_t up = element.up; up >= 0; up = elements_[static_cast<std::size_t>(up)].up) {
      if (up == item_element_) return true;
    }
    return false;
  }

  void add_setting(std::size_t i, const xml::Attribute& attribute) {
    const xml::Element& element = elements_[i];
    if (attribute.name == "Name") return;
    if (attribute.name == "InheritedPropertySheets") {
      out_.settings.push_back({"Project", "Import", kNoItem, value_at(i, attribute.span)});
    } else if (element.name == "ProjectReference" && attribute.name == "RelativePathToProject") {
      add_project(i, attribute.span);
    } else if (element.name == "Tool" || element.name == "Configuration") {
      const xml::Attribute* tool = element.attribute("Name");
      bool compiles = tool && tool->value == "VCCLCompilerTool";
      out_.settings.push_back({modern(attribute.name), compiles ? "ClCompile" : element.name,
                               is_of_item(element) ? item_ : kNoItem, value_at(i, attribute.span)});
    }
  }

  // It counts from the folder of the solution.
  void add_project(std::size_t i, Span span) {
    auto solution = around_.solution_of.find(path_);
    if (solution == around_.solution_of.end()) return;
    Value value = value_at(i, span);
    for (TracedText& text : value.texts) {
      TracedText whole = folder_with_slash(files_.index(solution->second), solution->second.parent());
      whole.append(text);
      text = std::move(whole);
    }
    out_.items.push_back({"ProjectReference", Item::Act::include, count_++, std::move(value)});
  }

  FileTable& files_;
  const RelPath& path_;
  const Bytes& bytes_;
  const std::vector<xml::Element>& elements_;
  const Surroundings& around_;
  FileIndex file_;
  WritingStyle habit_;
  Configurations configurations_;
  std::size_t count_ = 0, item_ = kNoItem;
  std::int32_t item_element_ = -1;
  Project out_;
};

}  // namespace

Project read_old_project(const TreeReader& tree, FactsCache& cache, std::uint8_t format, FileTable& files,
                         const RelPath& path, const Surroundings& around) {
  auto bytes = tree.read(path);
  if (!bytes) return {};
  using Elements = std::optional<std::vector<xml::Element>>;
  auto facts =
      cache.get<Elements>(format, *bytes, [](const std::string& text) { return xml::elements(text); });
  if (!facts->has_value()) {
    Project garbled;
    garbled.is_whole = false;
    return garbled;
  }
  return Reader(files, path, *bytes, {facts, &**facts}, around).run();
}

}  // namespace yc::msbuild
