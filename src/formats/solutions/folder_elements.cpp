#include "formats/solutions/folder_elements.h"

#include <algorithm>
#include <map>

#include "base/text.h"
#include "formats/mirrored_folders.h"
#include "formats/xml/xml_places.h"

namespace yc::solutions {

namespace {

// Something that a folder shows.
struct Shown {
  const xml::Element* element = nullptr;
  std::string
      target;  // of the folder that shows it after the moves, as it is named; empty if that is its own
};

struct Folder {
  const xml::Element* element = nullptr;
  std::vector<Shown> shown;
};

std::string name_attribute(std::string_view shown) {
  std::string out = "/";
  for (std::string_view part : folder_parts(shown)) out += std::string(part) + "/";
  return out;
}

class FolderElements {
 public:
  FolderElements(const RelPath& path, std::string_view bytes, const MoveSet& moves)
      : path_(path), bytes_(bytes) {
    auto read = xml::elements(bytes);
    if (!read) return;
    elements_ = std::move(*read);
    std::map<std::int32_t, std::size_t> places;
    for (std::size_t i = 0; i < elements_.size(); ++i) {
      const xml::Element& element = elements_[i];
      const xml::Attribute* name = element.attribute("Name");
      if (element.name == "Folder" && name) {
        places[static_cast<std::int32_t>(i)] = folders_.size();
        folders_.push_back({&element, {}});
        continue;
      }
      const xml::Attribute* named = element.attribute("Path");
      auto at = places.find(element.up);
      if (!named || at == places.end()) continue;
      Folder& folder = folders_[at->second];
      folder.shown.push_back({&element, target_of(*folder.element, named->value, moves)});
    }
  }

  std::optional<Proposal> part() const {
    Proposal way;
    for (const Folder& folder : folders_) part(folder, way);
    return way.edits.empty() ? std::nullopt : std::optional(std::move(way));
  }

  std::vector<Edit> put(Span span, const std::string& text) const {
    for (const Folder& folder : folders_) {
      for (const Shown& shown : folder.shown) {
        if (shown.element->attribute("Path")->span == span) return put(folder, shown, text);
      }
    }
    return {};
  }

 private:
  std::string target_of(const xml::Element& folder, std::string text, const MoveSet& moves) const {
    std::replace(text.begin(), text.end(), '\\', '/');
    auto old_path = RelPath::resolve(path_.parent(), text);
    if (!old_path) return "";
    const std::string& name = folder.attribute("Name")->value;
    std::string before = name_attribute(name);
    std::string after =
        name_attribute(mirrored(name, old_path->parent(), moves.map_file(*old_path).parent()));
    return after == before ? "" : after;
  }

  const Folder* named(const std::string& name) const {
    for (const Folder& folder : folders_) {
      if (name_attribute(folder.element->attribute("Name")->value) == name) return &folder;
    }
    return nullptr;
  }

  std::size_t count(const std::string& target) const {
    std::size_t out = 0;
    for (const Folder& folder : folders_) {
      for (const Shown& shown : folder.shown) out += shown.target == target;
    }
    return out;
  }

  std::string line_end() const { return bytes_.find("\r\n") == std::string_view::npos ? "\n" : "\r\n"; }

  // From the line on which an element begins to behind its last one; nothing if it shares a line.
  std::optional<Span> lines_of(const xml::Element& element) const {
    Span span = xml::extent(bytes_, element);
    std::size_t begin = line_begin(bytes_, span.begin);
    if (bytes_.substr(begin, span.begin - begin).find_first_not_of(" \t") != std::string_view::npos)
      return std::nullopt;
    std::size_t end = bytes_.find('\n', span.end);
    end = end == std::string_view::npos ? bytes_.size() : end + 1;
    if (bytes_.substr(span.end, end - span.end).find_first_not_of(" \t\r\n") != std::string_view::npos)
      return std::nullopt;
    return span_of(begin, end);
  }

  std::string indent_of(const xml::Element& element) const {
    auto lines = lines_of(element);
    if (!lines) return "";
    return std::string(bytes_.substr(lines->begin, element.begin - 1 - lines->begin));
  }

  std::string opening(const Folder& folder, const std::string& name) const {
    return indent_of(*folder.element) + "<Folder Name=\"" + xml::escaped(name) + "\">" + line_end();
  }
  std::string closing(const Folder& folder) const {
    return indent_of(*folder.element) + "</Folder>" + line_end();
  }

  // How many at the end of a folder go to `target`, if all do that go there.
  std::size_t at_end(const Folder& folder, const std::string& target) const {
    std::size_t out = 0;
    while (out < folder.shown.size() && folder.shown[folder.shown.size() - 1 - out].target == target) ++out;
    return out == count(target) ? out : 0;
  }

  void part(const Folder& folder, Proposal& way) const {
    if (folder.shown.empty() || folder.shown.back().target.empty()) return;
    const std::string& target = folder.shown.back().target;
    std::size_t leaving = at_end(folder, target);
    if (leaving == 0 || named(target)) return;
    if (leaving == folder.shown.size()) {
      way.edits.push_back({path_, folder.element->attribute("Name")->span, xml::escaped(target)});
      return;
    }
    auto lines = lines_of(*folder.shown[folder.shown.size() - leaving].element);
    if (!lines) return;
    way.edits.push_back({path_, {lines->begin, lines->begin}, closing(folder) + opening(folder, target)});
  }

  std::vector<Edit> put(const Folder& folder, const Shown& shown, const std::string& text) const {
    const Folder* into = named(shown.target);
    bool parted = !into && at_end(folder, shown.target) > 0;
    if (shown.target.empty() || parted || (!into && count(shown.target) > 1)) return {};
    auto lines = lines_of(*shown.element);
    if (!lines) return {};
    const Span& span = shown.element->attribute("Path")->span;
    std::string moved(bytes_.substr(lines->begin, span.begin - lines->begin));
    moved += text;
    moved += bytes_.substr(span.end, lines->end - span.end);
    std::vector<Edit> out = {{path_, *lines, ""}};
    if (!into) {
      auto whole = lines_of(*folder.element);
      if (!whole) return {};
      out.push_back(
          {path_, {whole->end, whole->end}, opening(folder, shown.target) + moved + closing(folder)});
      return out;
    }
    // Behind the last thing that is in it.
    auto last = into->shown.empty() ? std::nullopt : lines_of(*into->shown.back().element);
    if (!last) return {};
    out.push_back({path_, {last->end, last->end}, moved, moved});  // others may come there, too
    return out;
  }

  const RelPath& path_;
  std::string_view bytes_;
  std::vector<xml::Element> elements_;
  std::vector<Folder> folders_;
};

}  // namespace

std::optional<Proposal> part_folders(const RelPath& path, std::string_view bytes, const MoveSet& moves) {
  return FolderElements(path, bytes, moves).part();
}

std::vector<Edit> into_folder(const RelPath& path, std::string_view bytes, const MoveSet& moves, Span span,
                              const std::string& text) {
  return FolderElements(path, bytes, moves).put(span, text);
}

}  // namespace yc::solutions
