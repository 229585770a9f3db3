#include "formats/links/links.h"

namespace yc {

namespace {

class LinksFormat : public Format {
 public:
  std::string_view name() const override { return "links"; }

  // A link is no file of a language.
  bool claims(const RelPath&) const override { return false; }

  void read(const Reading& in) const override {
    std::size_t links = 0;
    for (const RelPath& path : in.tree.listing().links()) {
      if (in.tree.find(path)->guarded) continue;
      auto text = in.tree.read(path);
      if (!text) continue;
      ++links;
      Place place = place_of(path.parent(), **text);
      if (place.space != Space::tree) continue;  // it leads out of the tree, and is left as it is
      FileIndex file = in.out.files().index(path);
      Reference reference =
          Reference::of(Role::link, in.self, {{file, 0}}, Base{path.parent(), file, Space::tree},
                        TracedText::literal(**text, file, {0, static_cast<std::uint32_t>((*text)->size())}));
      const Entry* there = place.path.is_root() ? nullptr : in.tree.find(place.path);
      if (there) reference.lead_to(place.path);
      reference.dangling = !there && !place.path.is_root();
      in.out.add(std::move(reference));
    }
    in.count(links);
  }

  std::optional<std::string> write(std::string_view text, WritingStyle) const override {
    return std::string(text);
  }
};

}  // namespace

std::unique_ptr<Format> links_format() {
  return std::make_unique<LinksFormat>();
}

}  // namespace yc
