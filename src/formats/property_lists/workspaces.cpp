// Workspaces and schemes of projects in property lists, and settings in files of their own.
#include <algorithm>

#include "formats/property_lists/plist_text.h"
#include "formats/property_lists/project_objects.h"
#include "formats/property_lists/project_references.h"
#include "formats/property_lists/project_settings.h"
#include "formats/xml/xml_places.h"
#include "model/add_reference.h"

namespace yc::plist {

namespace {

constexpr WritingStyle kXml = 72, kLine = 73;  // as property_lists.cpp writes them

// "group:apps/Gauges.xcodeproj": what it is relative to, and the path.
void refer(const TreeReader& tree, std::uint8_t format, GraphBuilder& out, const Base& base, FileIndex file,
           const std::string& text, Span span, Role role) {
  std::size_t colon = text.find(':');
  std::string kind = colon == std::string::npos ? "" : text.substr(0, colon);
  if (kind != "group" && kind != "container") return;
  std::string path = text.substr(colon + 1);
  if (path.empty()) return;
  span.begin += static_cast<std::uint32_t>(colon + 1);
  add_leading(
      out, tree,
      Reference::of(role, format, {{file, span.begin}}, base, TracedText::literal(path, file, span, kXml)),
      IfMissing::dangling);
}

}  // namespace

void read_workspace(const TreeReader& tree, const RelPath& path, std::uint8_t format, GraphBuilder& out) {
  auto bytes = tree.read(path);
  if (!bytes) return;
  auto elements = xml::elements(**bytes);
  if (!elements) {
    out.notice("garbled-project", path, std::nullopt, "is no well-formed XML and is not read");
    out.graph().unread.emplace(path, Unread::garbled);
    return;
  }
  FileIndex file = out.files().index(path);
  Base base = bundle_base(path, file);
  for (const xml::Element& element : *elements) {
    const xml::Attribute* location = element.attribute("location");
    bool nested = element.parent == "Group" && !element.outer.empty();
    if (location && element.name == "FileRef") {
      Base from = base;
      // In a group with a place of its own.
      for (const xml::Attribute& attribute : element.outer) {
        std::size_t colon = attribute.value.find(':');
        if (!nested || attribute.name != "location" || colon + 1 >= attribute.value.size()) continue;
        Place place = place_of(base.folder, attribute.value.substr(colon + 1));
        if (place.space == Space::tree) from = {place.path, kNoFile, Space::tree};
      }
      refer(tree, format, out, from, file, location->value, location->span, Role::subfolder);
    }
    if (location && element.name == "Group")
      refer(tree, format, out, base, file, location->value, location->span, Role::listed);
    const xml::Attribute* container = element.attribute("ReferencedContainer");
    if (container) refer(tree, format, out, base, file, container->value, container->span, Role::argument);
  }
}

void read_settings(const TreeReader& tree, const RelPath& path, std::uint8_t format, GraphBuilder& out) {
  auto bytes = tree.read(path);
  if (!bytes || (*bytes)->find('\0') != std::string::npos) return;
  FileIndex file = out.files().index(path);
  std::string_view text = **bytes;
  auto add = [&](TracedText word, const Base& base, Role role, Certainty certainty) {
    while (word.size() > 1 && word.text().ends_with("/")) word = word.substr(0, word.size() - 1);
    if (word.first_origin().file == kNoFile || word.has_hole()) return false;
    Reference reference = Reference::of(role, format, {{file, word.first_origin().span.begin}}, base, word)
                              .as_sure_as(certainty);
    if (base.anchor == kNoFile) reference.construct_part = ConstructPart::of(base.folder);
    return add_leading(out, tree, std::move(reference));
  };
  for (std::size_t at = 0; at < text.size();) {
    std::size_t end = std::min(text.find('\n', at), text.size());
    std::size_t begin = at;
    std::string_view line = text.substr(at, end - at);
    at = end + 1;
    auto literal = [&](std::size_t from, std::size_t to) {
      return TracedText::literal(std::string(text.substr(from, to - from)), file, span_of(from, to), kLine);
    };
    std::size_t first = line.find_first_not_of(" \t");
    if (first == std::string_view::npos || line.substr(first).starts_with("//")) continue;
    if (line.substr(first).starts_with("#include")) {
      std::size_t open = line.find('"'),
                  close = open == std::string_view::npos ? open : line.find('"', open + 1);
      if (close != std::string_view::npos)
        add(literal(begin + open + 1, begin + close), {path.parent(), file, Space::tree}, Role::script,
            Certainty::certain);
      continue;
    }
    std::size_t equals = line.find('=');
    if (equals == std::string_view::npos) continue;
    std::string name(line.substr(first, line.find_first_of(" \t[=", first) - first));
    SettingKind kind = setting_kind(name);
    if (kind == SettingKind::no_path) continue;
    std::size_t stop = std::min(line.find("//", equals), line.size());
    // They count from the folder of the project that uses them, which is the file's own or one above it.
    for (const TracedText& word : setting_words(literal(begin + equals + 1, begin + stop).trimmed())) {
      std::string plain = word.text();
      if (plain.find('/') == std::string::npos && kind == SettingKind::other) continue;
      for (RelPath up = path.parent();; up = up.parent()) {
        TracedText meant = with_variables(word, file, up);
        bool own = up == path.parent();
        Base base{up, own ? file : kNoFile, Space::tree};
        if (!meant.has_hole() && add(meant, base, Role::argument, Certainty::likely)) break;
        if (up.is_root()) break;
      }
    }
  }
}

}  // namespace yc::plist
