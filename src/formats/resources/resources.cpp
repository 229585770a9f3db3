#include "formats/resources/resources.h"

#include <algorithm>

#include "formats/capabilities/spellings.h"
#include "formats/xml/xml_places.h"

namespace yc {

namespace {

using xml::Element;

struct ResourceFacts {
  bool is_well_formed = false;
  std::vector<Element> elements;
};

bool is_bundle(const RelPath& path) {
  return path.extension() == ".qrc" || path.str().ends_with(".gresource.xml") ||
         path.str().ends_with("gresources.xml");
}

bool is_ui(const RelPath& path) {
  return path.extension() == ".ui" || path.extension() == ".glade";
}

class ResourcesFormat : public Format, public Spellings {
 public:
  std::string_view name() const override { return "resources"; }
  ScopeSet needs() const override { return Scope::lookups; }

  bool claims(const RelPath& path) const override { return is_bundle(path) || is_ui(path); }

  void read(const Reading& in) const override {
    in.each([&](const RelPath& path, const Bytes& bytes) {
      auto facts = in.cache.get<ResourceFacts>(in.self, bytes, [](const std::string& text) {
        auto found = xml::elements(text);
        return ResourceFacts{found.has_value(), found.value_or(std::vector<Element>())};
      });
      if (!facts->is_well_formed)
        in.out.notice("garbled-resources", path, std::nullopt, "is no well-formed XML and is not read");
      for (const Element& element : facts->elements) {
        if (!is_bundle(path))
          refer_from_ui(in.tree, in.self, in.out, path, *bytes, element);
        else if (element.name == "file" && (element.parent == "gresource" || element.parent == "qresource"))
          refer_to_member(in, path, *bytes, element);
      }
      return true;
    });
  }

  std::optional<std::string> write(std::string_view text, WritingStyle) const override {
    bool fits = text.find_first_of("\n\r") == std::string_view::npos;
    return fits ? std::optional(xml::escaped(text)) : std::nullopt;
  }

  // The path of a member is also the name by which the program asks for it: where the path changes, the name
  // is made explicit.
  std::vector<Proposal> late_proposals(const RewriteRequest& need) const override {
    const Reference& reference = need.reference;
    const std::vector<Piece>& pieces = reference.text.pieces();
    if (reference.role != Role::source || reference.construct.empty() || pieces.size() != 1 ||
        need.wanted.size() != 1)
      return {};
    const RelPath& file = need.graph.files.path(reference.construct.back().file);
    auto bytes = need.tree.read(file);
    if (!bytes) return {};
    std::uint32_t name_end = reference.construct.back().offset + 4;  // of "file"
    std::string text = relative_text(need.new_base, need.wanted[0].path);
    return {{{Edit{file, {name_end, name_end}, " alias=\"" + xml::escaped(pieces[0].text) + "\""},
              Edit{file, pieces[0].span, xml::escaped(text)}},
             ""}};
  }

 private:
  static Reference blank(std::uint8_t self, FileIndex file, Role role, std::uint32_t site, TracedText text) {
    return Reference::of(role, self, {{file, site}}, {}, std::move(text));
  }

  static void refer_to_member(const Reading& in, const RelPath& path, std::string_view bytes,
                              const Element& element) {
    if (element.text.empty()) return;
    const TreeReader& tree = in.tree;
    std::uint8_t self = in.self;
    GraphBuilder& out = in.out;
    FileIndex file = out.files().index(path);
    TracedText text = xml::traced(bytes, element.text_span, file);
    std::vector<Base> folders = {Base{path.parent(), file, Space::tree}};
    auto given = in.scopes.lookups.find(path);
    if (given != in.scopes.lookups.end() && path.extension() != ".qrc") folders = given->second;
    Reference member = blank(self, file, Role::source, element.begin, text);
    member.base = folders.front();
    for (const Base& folder : folders) {
      Place place = place_of(folder.folder, element.text, folder.space);
      if (place.space != Space::tree || !tree.is_file(place.path)) continue;
      member.base = folder;
      member.lead_to(place.path);
      break;
    }
    if (member.targets.empty()) {
      // Told by a script where to look, it may also be made by the build.
      if (given != in.scopes.lookups.end()) return;
      member.dangling = path.extension() == ".qrc";
      if (!member.dangling) return;
    }
    out.add(std::move(member));
    const xml::Attribute* alias = element.attribute("alias");
    Reference named =
        blank(self, file, Role::product, element.begin, alias ? xml::traced(bytes, alias->span, file) : text);
    named.base = folders.front();
    std::string prefix;
    for (const xml::Attribute& attribute : element.outer) {
      if (attribute.name == "prefix") prefix = attribute.value;
    }
    named.targets.push_back(
        {Target::Kind::name, RelPath::from_normal(prefix + "/" + (alias ? alias->value : element.text)), {}});
    out.add(std::move(named));
  }

  // Icons, styles and bundles that a UI file names: paths from its own folder.
  static void refer_from_ui(const TreeReader& tree, std::uint8_t self, GraphBuilder& out, const RelPath& path,
                            std::string_view bytes, const Element& element) {
    FileIndex file = out.files().index(path);
    auto likely = [&](const std::string& text, Span span) {
      if (text.find('.') == std::string::npos || text.find_first_of(" \n") != std::string::npos) return;
      Place place = place_of(path.parent(), text);
      if (place.space != Space::tree || !tree.is_file(place.path)) return;
      Reference reference = blank(self, file, Role::argument, span.begin, xml::traced(bytes, span, file));
      reference.certainty = Certainty::likely;
      reference.base = {path.parent(), file, Space::tree};
      reference.lead_to(place.path);
      out.add(std::move(reference));
    };
    likely(element.text, element.text_span);
    for (const xml::Attribute& attribute : element.attributes) likely(attribute.value, attribute.span);
  }
};

}  // namespace

std::unique_ptr<Format> resources_format() {
  return std::make_unique<ResourcesFormat>();
}

}  // namespace yc
