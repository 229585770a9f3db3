#include "formats/unseen_text.h"

namespace yc {

void add_unseen(GraphBuilder& out, const TreeReader& tree, const TracedText& text, const Base& base,
                std::uint8_t format, const SiteChain& key) {
  out.hole(text, base, format);
  std::string all = text.text();
  std::size_t cut = all.substr(0, all.find(kHoleMark)).rfind('/');
  if (cut == std::string::npos || cut == 0) return;
  Reference reference;
  reference.role = Role::argument;
  reference.certainty = Certainty::likely;
  reference.format = format;
  reference.text = text.substr(0, cut);
  reference.base = base;
  reference.key = key;
  Place place = place_of(base.folder, reference.text.text(), base.space);
  if (place.space != Space::tree || place.path.is_root() || !tree.is_folder(place.path)) return;
  reference.targets.push_back({Target::Kind::tree, place.path, {}});
  out.add(std::move(reference));
}

}  // namespace yc
