#include "formats/msbuild/evaluation.h"

#include <algorithm>
#include <cctype>

#include "base/text.h"
#include "formats/msbuild/old_projects.h"
#include "words/msbuild.h"

namespace yc::msbuild {

namespace {

constexpr std::size_t kDeepest = 24, kMostParts = 200;

bool is_group(const std::string& name) {
  return name == "ItemGroup" || name == "ItemDefinitionGroup" || name == "PropertyGroup";
}

class Evaluator {
 public:
  Evaluator(const TreeReader& tree, FactsCache& cache, std::uint8_t format, FileTable& files,
            const RelPath& project, const Surroundings& around)
      : tree_(tree), cache_(cache), format_(format), files_(files), project_(project), around_(around) {}

  Project run() {
    if (std::size_t own = load(project_); own == kNone) return std::move(out_);
    note_style();
    note_configurations();
    if (out_.is_new_style || has_imports(0)) imply("Directory.Build.props");
    properties(0, 0);
    if (out_.is_new_style || has_imports(0)) imply("Directory.Build.targets");
    // All properties have their last values before the first item is read.
    for (std::size_t part : order_) content(part);
    return std::move(out_);
  }

 private:
  static constexpr std::size_t kNone = static_cast<std::size_t>(-1);

  std::size_t load(const RelPath& path) {
    if (auto known = numbers_.find(path); known != numbers_.end()) return known->second;
    if (out_.parts.size() >= kMostParts) return kNone;
    auto bytes = tree_.read(path);
    if (!bytes) return kNone;
    using Elements = std::optional<std::vector<xml::Element>>;
    auto facts =
        cache_.get<Elements>(format_, *bytes, [](const std::string& text) { return xml::elements(text); });
    if (!*facts) {
      out_.is_whole = false;
      return kNone;
    }
    Part part{path, files_.index(path), *bytes,
              std::shared_ptr<const std::vector<xml::Element>>(facts, &**facts)};
    habits_.push_back(habit_of(**bytes));
    out_.parts.push_back(std::move(part));
    return numbers_[path] = out_.parts.size() - 1;
  }

  const std::vector<xml::Element>& elements(std::size_t part) const { return *out_.parts[part].elements; }

  void note_style() {
    for (const xml::Element& element : elements(0)) {
      const xml::Attribute* sdk =
          element.name == "Project" && element.up < 0 ? element.attribute("Sdk") : nullptr;
      if (!sdk && element.name == "Import") sdk = element.attribute("Sdk");
      if (!sdk && element.name == "Sdk") sdk = element.attribute("Name");
      if (!sdk) continue;
      out_.is_new_style = true;
      out_.sdk = sdk->value;
      return;
    }
  }

  void note_configurations() {
    for (const xml::Element& element : elements(0)) {
      const xml::Attribute* both =
          element.name == "ProjectConfiguration" ? element.attribute("Include") : nullptr;
      if (both) configurations_.add(both->value);
    }
    if (!configurations_.names.empty()) return;
    configurations_.names = {"Debug", "Release"};
    configurations_.platforms = {"AnyCPU", "x86", "x64"};
  }

  bool has_imports(std::size_t part) const {
    return std::any_of(elements(part).begin(), elements(part).end(),
                       [](const xml::Element& element) { return element.name == "Import"; });
  }

  // The nearest file of that name, from the project's folder upwards.
  void imply(const std::string& name) {
    for (RelPath up = project_.parent();; up = up.parent()) {
      RelPath path = up / name;
      if (tree_.is_file(path) && path != project_) {
        out_.implied.push_back(path);
        if (std::size_t part = load(path); part != kNone) properties(part, 1);
        return;
      }
      if (up.is_root()) return;
    }
  }

  Texts expand(std::size_t part, Span span) {
    return expanded(decoded(*out_.parts[part].bytes, span, out_.parts[part].file, habits_[part]),
                    [&](char sign, std::string_view inner) { return value_of(part, sign, inner); });
  }

  static TracedText folder(FileIndex anchor, const RelPath& path, bool slash) {
    TracedText out = TracedText::folder(Piece::Nature::tree_folder, anchor, marked(Space::tree, path));
    if (slash) out.append(TracedText::plain("/"));
    return out;
  }

  std::optional<Texts> value_of(std::size_t part, char sign, std::string_view inner) {
    if (sign != '$') return std::nullopt;
    const Part& here = out_.parts[part];
    if (!inner.empty() && inner.front() == '[') return function(part, inner);
    std::string name = lowered(inner);
    FileIndex project = out_.parts[0].file;
    if (name == "msbuildthisfiledirectory") return Texts{folder(here.file, here.path.parent(), true)};
    if (name == "msbuildprojectdirectory") return Texts{folder(project, project_.parent(), false)};
    if (name == "projectdir" || name == "inputdir") return Texts{folder(project, project_.parent(), true)};
    std::string stem(project_.name());
    stem.resize(stem.size() - project_.extension().size());
    if (name == "msbuildprojectname" || (name == "projectname" && !out_.properties.contains(name)))
      return Texts{TracedText::plain(stem)};
    if (name == "solutiondir") {
      if (auto solution = solution_folder()) return Texts{*solution};
      return std::nullopt;
    }
    if (auto known = out_.properties.find(name); known != out_.properties.end()) return known->second;
    return built_in(name, configurations_);
  }

  // Of the only solution that lists the project, else the nearest one above it.
  std::optional<TracedText> solution_folder() {
    auto listed = around_.solution_of.find(project_);
    if (listed == around_.solution_of.end()) return std::nullopt;
    return folder(files_.index(listed->second), listed->second.parent(), true);
  }

  // [MSBuild]::GetDirectoryNameOfFileAbove and its kin, [System.IO.Path]::Combine.
  std::optional<Texts> function(std::size_t part, std::string_view call) {
    std::size_t colons = call.find("]::"), open = call.find('(');
    if (colons == std::string_view::npos || open == std::string_view::npos || call.back() != ')')
      return std::nullopt;
    std::string_view name = call.substr(colons + 3, open - colons - 3);
    std::vector<TracedText> arguments;
    std::string_view rest = call.substr(open + 1, call.size() - open - 2);
    for (std::size_t at = 0, from = 0, depth = 0; at <= rest.size(); ++at) {
      if (at < rest.size() && rest[at] == '(') ++depth;
      if (at < rest.size() && rest[at] == ')' && depth > 0) --depth;
      if (at < rest.size() && (rest[at] != ',' || depth > 0)) continue;
      std::string_view word = rest.substr(from, at - from);
      while (!word.empty() && (word.front() == ' ' || word.front() == '\'')) word.remove_prefix(1);
      while (!word.empty() && (word.back() == ' ' || word.back() == '\'')) word.remove_suffix(1);
      Texts texts = expanded(TracedText::plain(std::string(word)),
                             [&](char sign, std::string_view inner) { return value_of(part, sign, inner); });
      arguments.push_back(texts.front());
      from = at + 1;
    }
    if (name == "GetPathOfFileAbove" || name == "GetDirectoryNameOfFileAbove") {
      bool gives_path = name == "GetPathOfFileAbove";
      if (arguments.size() < (gives_path ? 1U : 2U)) return std::nullopt;
      const TracedText& file = gives_path ? arguments[0] : arguments[1];
      RelPath start = out_.parts[part].path.parent();
      if (arguments.size() > 1) {
        Place place = place_of(start, (gives_path ? arguments[1] : arguments[0]).text());
        if (place.space != Space::tree) return std::nullopt;
        start = place.path;
      }
      for (RelPath up = start;; up = up.parent()) {
        RelPath path = up / file.text();
        if (!file.has_hole() && tree_.is_file(path)) {
          TracedText out = folder(files_.index(path), path.parent(), false);
          if (gives_path) out.append(TracedText::plain("/" + std::string(path.name())));
          return Texts{out};
        }
        if (up.is_root()) return std::nullopt;
      }
    }
    if (name == "NormalizePath" || name == "NormalizeDirectory" || name == "Combine" ||
        name == "EnsureTrailingSlash" || name == "GetFullPath") {
      TracedText joined;
      for (const TracedText& argument : arguments) {
        std::string so_far = joined.text();
        if (!so_far.empty() && so_far.back() != '/') joined.append(TracedText::plain("/"));
        joined.append(argument);
      }
      if (name == "NormalizeDirectory" || name == "EnsureTrailingSlash")
        joined.append(TracedText::plain("/"));
      return Texts{joined};
    }
    return std::nullopt;
  }

  // Properties and imports of one part, in the order of the text.
  void properties(std::size_t part, std::size_t depth) {
    if (depth > kDeepest || std::find(stack_.begin(), stack_.end(), part) != stack_.end()) return;
    stack_.push_back(part);
    bool first_time = std::find(order_.begin(), order_.end(), part) == order_.end();
    for (std::size_t i = 0; i < elements(part).size(); ++i) {
      const xml::Element& element = elements(part)[i];
      if (element.name == "Import" && element.attribute("Project")) {
        if (!element.attribute("Sdk")) import(part, i, depth, first_time);
      } else if (element.parent == "PropertyGroup") {
        set(part, i);
      }
    }
    stack_.pop_back();
    if (first_time) order_.push_back(part);
  }

  bool is_conditional(std::size_t part, std::size_t index) const {
    for (std::int32_t at = static_cast<std::int32_t>(index); at >= 0;
         at = elements(part)[static_cast<std::size_t>(at)].up) {
      const xml::Element& element = elements(part)[static_cast<std::size_t>(at)];
      if (element.attribute("Condition") || element.name == "Otherwise" || element.name == "Target")
        return true;
    }
    return false;
  }

  void set(std::size_t part, std::size_t index) {
    const xml::Element& element = elements(part)[index];
    Texts texts = expand(part, element.text_span);
    Texts& slot = out_.properties[lowered(element.name)];
    if (!is_conditional(part, index)) slot.clear();
    for (TracedText& text : texts) {
      bool known = std::any_of(slot.begin(), slot.end(),
                               [&](const TracedText& other) { return other.text() == text.text(); });
      if (!known && slot.size() < kMostTexts) slot.push_back(std::move(text));
    }
  }

  void import(std::size_t part, std::size_t index, std::size_t depth, bool first_time) {
    const xml::Element& element = elements(part)[index];
    const xml::Attribute* project = element.attribute("Project");
    Import found;
    found.value = value_at(part, index, project->span);
    found.folder = out_.parts[part].path.parent();
    for (const TracedText& text : found.value.texts) {
      if (text.has_hole()) continue;
      std::vector<RelPath> paths = imported_by(found.folder, text.text());
      for (const RelPath& path : paths) {
        std::size_t imported = load(path);
        if (imported != kNone && std::find(stack_.begin(), stack_.end(), imported) != stack_.end())
          out_.cycles.push_back(found.value);
        if (imported != kNone) properties(imported, depth + 1);
      }
      if (paths.empty()) continue;
      found.found = paths.front();
      break;
    }
    if (first_time) out_.imports.push_back(std::move(found));
  }

  // One file, or all that a wildcard takes, in the order of their names.
  std::vector<RelPath> imported_by(const RelPath& folder, const std::string& text) const {
    std::vector<RelPath> out;
    if (has_wildcard(text)) {
      if (text.find("**") == std::string::npos) out = match_paths(tree_, folder, text);
      std::erase_if(out, [&](const RelPath& path) { return !tree_.is_file(path); });
      return out;
    }
    Place place = place_of(folder, text);
    auto path = place.space == Space::tree ? find_any_case(tree_, place.path) : std::nullopt;
    if (path && tree_.is_file(*path)) out.push_back(*path);
    return out;
  }

  Value value_at(std::size_t part, std::size_t index, Span span) {
    return {part, index, elements(part)[index].begin, span, expand(part, span)};
  }

  // Items, settings and conditions of one part.
  void content(std::size_t part) {
    std::map<std::size_t, std::size_t> items;  // element -> number of its item
    for (std::size_t i = 0; i < elements(part).size(); ++i) {
      const xml::Element& element = elements(part)[i];
      if (const xml::Attribute* condition = element.attribute("Condition")) exists(part, i, *condition);
      bool in_group = element.parent == "ItemGroup";
      if (in_group) {
        std::size_t number = count_++;
        items[i] = number;
        static constexpr std::pair<std::string_view, Item::Act> kActs[] = {{"Include", Item::Act::include},
                                                                           {"Exclude", Item::Act::exclude},
                                                                           {"Remove", Item::Act::remove},
                                                                           {"Update", Item::Act::update}};
        for (const auto& [name, act] : kActs) {
          if (const xml::Attribute* words = element.attribute(name))
            out_.items.push_back({element.name, act, number, value_at(part, i, words->span)});
        }
      }
      // Values may also be written as attributes.
      bool is_special = element.name == "Import" || element.name == "Project" || is_group(element.name) ||
                        element.name == "UsingTask" || element.name == "Target";
      for (const xml::Attribute& attribute : element.attributes) {
        static const std::set<std::string_view> kOwn = {"Include",   "Exclude", "Remove",  "Update",
                                                        "Condition", "Label",   "Version", "Name"};
        if (is_special || kOwn.contains(attribute.name)) continue;
        out_.settings.push_back(
            {attribute.name, element.name, in_group ? items[i] : kNone, value_at(part, i, attribute.span)});
      }
      if (element.text.empty() || in_group || is_special) continue;
      Setting setting{element.name, element.parent, kNone, value_at(part, i, element.text_span)};
      auto item = element.up < 0 ? items.end() : items.find(static_cast<std::size_t>(element.up));
      if (item != items.end()) setting.item = item->second;
      out_.settings.push_back(std::move(setting));
    }
  }

  void exists(std::size_t part, std::size_t index, const xml::Attribute& condition) {
    std::string_view bytes = *out_.parts[part].bytes;
    std::string_view text = bytes.substr(condition.span.begin, condition.span.size());
    for (std::size_t at = lowered(text).find("exists("); at != std::string::npos;
         at = lowered(text).find("exists(", at + 1)) {
      std::size_t open = text.find('\'', at),
                  close = open == std::string_view::npos ? open : text.find('\'', open + 1);
      if (close == std::string_view::npos) return;
      Span span{condition.span.begin + static_cast<std::uint32_t>(open + 1),
                condition.span.begin + static_cast<std::uint32_t>(close)};
      out_.conditions.push_back({"Exists", elements(part)[index].name, kNone, value_at(part, index, span)});
      out_.conditions.back().value.site = span.begin;
    }
  }

  const TreeReader& tree_;
  FactsCache& cache_;
  std::uint8_t format_;
  FileTable& files_;
  RelPath project_;
  const Surroundings& around_;
  Project out_;
  Configurations configurations_;
  std::map<RelPath, std::size_t> numbers_;
  std::vector<WritingStyle> habits_;
  std::vector<std::size_t> stack_, order_;
  std::size_t count_ = 0;
};

}  // namespace

void Configurations::add(std::string_view both) {
  std::size_t bar = both.find('|');
  auto note = [](std::vector<std::string>& list, std::string_view text) {
    if (!text.empty() && std::find(list.begin(), list.end(), text) == list.end()) list.emplace_back(text);
  };
  note(names, both.substr(0, bar));
  if (bar != std::string_view::npos) note(platforms, both.substr(bar + 1));
}

std::optional<Texts> built_in(const std::string& name, const Configurations& configurations) {
  auto one_of = [](const std::vector<std::string>& list) {
    Texts out;
    for (const std::string& text : list) {
      if (out.size() < kMostTexts) out.push_back(TracedText::plain(text));
    }
    return out.empty() ? std::nullopt : std::optional(out);
  };
  if (name == "configuration" || name == "configurationname") return one_of(configurations.names);
  if (name == "platform" || name == "platformname" || name == "platformtarget" || name == "platformshortname")
    return one_of(configurations.platforms);
  return words::msbuild::outside_properties().contains(name) ? std::optional(Texts{TracedText::plain("/")})
                                                             : std::nullopt;
}

std::string Project::property(std::string_view name) const {
  auto known = properties.find(lowered(name));
  bool plain = known != properties.end() && known->second.size() == 1 && !known->second.front().has_hole();
  return plain ? known->second.front().text() : "";
}

Project evaluate(const TreeReader& tree, FactsCache& cache, std::uint8_t format, FileTable& files,
                 const RelPath& project, const Surroundings& around) {
  if (project.extension() == ".vcproj" || project.extension() == ".vsprops")
    return read_old_project(tree, cache, format, files, project, around);
  return Evaluator(tree, cache, format, files, project, around).run();
}

}  // namespace yc::msbuild
