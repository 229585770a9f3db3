#include "formats/msbuild/project_copy.h"

#include <algorithm>

#include "formats/msbuild/project_text.h"
#include "formats/msbuild/project_words.h"
#include "formats/xml/xml_places.h"
#include "words/msbuild.h"

namespace yc::msbuild {

namespace {

class Copy {
 public:
  Copy(const TreeReader& tree, const Project& outer, const NewProject& made)
      : tree_(tree),
        made_(made),
        elements_(*outer.parts.front().elements),
        bytes_(*outer.parts.front().bytes),
        from_(outer.parts.front().path.parent()),
        is_new_style_(outer.is_new_style),
        place_(end_of_project(bytes_)) {}

  std::string run() {
    const xml::Element& root = elements_.front();
    std::size_t open =
        bytes_.find('>', root.attributes.empty() ? root.name_end : root.attributes.back().span.end);
    out_ = bytes_.substr(0, open == std::string_view::npos ? bytes_.size() : open + 1);
    out_ += place_.line_end;
    std::size_t last_group = 0;
    for (std::size_t i = 1; i < elements_.size(); ++i) {
      if (elements_[i].up == 0 && elements_[i].name == "ItemGroup") last_group = i;
    }
    for (std::size_t i = 1; i < elements_.size(); ++i) {
      if (elements_[i].up != 0) continue;
      if (elements_[i].name == "Import") import(elements_[i]);
      if (elements_[i].name == "PropertyGroup") group(i, words::msbuild::shared_properties());
      if (elements_[i].name == "ItemGroup") group(i, words::msbuild::shared_items());
      if (i == last_group) own_items();
    }
    if (last_group == 0) own_items();
    return out_ + "</" + root.name + ">" + place_.line_end;
  }

 private:
  void import(const xml::Element& element) {
    const xml::Attribute* named = element.attribute("Project");
    if (!named || named->value.ends_with(".projitems")) return;
    out_ += place_.indent + copied(element) + place_.line_end;
  }

  template <class Names>
  void group(std::size_t number, const Names& names) {
    const xml::Element& around = elements_[number];
    bool is_first = around.name == "PropertyGroup" && around.attributes.empty() && !named_;
    std::string lines;
    for (std::size_t i = number + 1; i < elements_.size(); ++i) {
      if (elements_[i].up == static_cast<std::int32_t>(number) && names.contains(elements_[i].name))
        lines += line(copied(elements_[i]));
    }
    if (is_first) {
      lines += own_properties();
      named_ = true;
    }
    if (lines.empty()) return;
    std::uint32_t end = around.attributes.empty() ? around.name_end : around.attributes.back().span.end + 1;
    out_ += place_.indent + "<" + std::string(bytes_.substr(around.begin, end - around.begin)) + ">" +
            place_.line_end + lines + place_.indent + "</" + around.name + ">" + place_.line_end;
  }

  std::string line(const std::string& element) const {
    return place_.indent + place_.indent + element + place_.line_end;
  }
  std::string property(const char* name, const std::string& value) const {
    return line(std::string("<") + name + ">" + xml::escaped(value) + "</" + name + ">");
  }

  std::string own_properties() const {
    std::string out;
    if (!made_.identifier.empty()) out += property("ProjectGuid", made_.identifier);
    if (!is_new_style_) out += property("OutputType", "Library");
    return out + property("RootNamespace", made_.space) + property("AssemblyName", made_.assembly);
  }

  void own_items() {
    if (!named_) {
      out_ += place_.indent + "<PropertyGroup>" + place_.line_end + own_properties() + place_.indent +
              "</PropertyGroup>" + place_.line_end;
      named_ = true;
    }
    std::string lines;
    for (const std::string& item : made_.items) lines += line(item);
    if (!lines.empty()) out_ += group_around(place_, lines);
    lines.clear();
    for (const std::string& link : made_.links) lines += link;
    if (!lines.empty()) out_ += group_around(place_, lines);
  }

  // An element with the paths in it counted from the new folder.
  std::string copied(const xml::Element& element) const {
    Span span = xml::extent(bytes_, element);
    FileEdits edits;
    for (const xml::Element& each : elements_) {
      if (each.begin < span.begin || each.begin >= span.end) continue;
      for (const xml::Attribute& attribute : each.attributes) rebase(attribute.span, span, edits);
      if (!each.text.empty()) rebase(each.text_span, span, edits);
    }
    return edits.apply(std::string(bytes_.substr(span.begin, span.size())));
  }
  void rebase(Span value, Span within, FileEdits& edits) const {
    std::string_view text = bytes_.substr(value.begin, value.size());
    std::string now = rebased_path(tree_, from_, made_.file.parent(), text);
    if (now != text) edits.add({value.begin - within.begin, value.end - within.begin}, now);
  }

  const TreeReader& tree_;
  const NewProject& made_;
  const std::vector<xml::Element>& elements_;
  std::string_view bytes_;
  RelPath from_;
  bool is_new_style_, named_ = false;
  InsertPoint place_;
  std::string out_;
};

}  // namespace

std::string rebased_path(const TreeReader& tree, const RelPath& from, const RelPath& to,
                         std::string_view text) {
  if (text.empty() || text.find_first_of("$@%;*|<>") != std::string_view::npos) return std::string(text);
  std::string path(text);
  std::replace(path.begin(), path.end(), '\\', '/');
  bool is_path = path.starts_with("../") || path.find('/') != std::string::npos || tree.is_file(from / path);
  auto place = is_path && !path.starts_with("/") ? RelPath::resolve(from, path) : std::nullopt;
  if (!place || (!path.starts_with("../") && !tree.find(*place))) return std::string(text);
  std::string out = relative_text(to, *place);
  if (path.ends_with("/")) out += "/";
  return written(out, habit_of(text)).value_or(std::string(text));
}

std::string project_text(const TreeReader& tree, const Project& outer, const NewProject& made) {
  return Copy(tree, outer, made).run();
}

}  // namespace yc::msbuild
