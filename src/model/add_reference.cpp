#include "model/add_reference.h"

namespace yc {

namespace {

// The place that a reference's text names, and what is there in the letters of the tree.
struct Led {
  bool counts = false;  // it is within the tree, and not the root
  std::optional<RelPath> path;
  bool is_ignored = false;
};

Led lead(const TreeReader& tree, const Reference& reference, Letters letters) {
  Led out;
  Place place = place_of(reference.base.folder, reference.text.text(), reference.base.space);
  // The root itself counts only as a folder to look in, where a text climbs to it.
  bool climbs = reference.role == Role::search_root && climbs_to_root(reference.text.text());
  out.counts = place.space == Space::tree && (!place.path.is_root() || climbs);
  if (!out.counts) return out;
  if (letters == Letters::any_case) {
    out.path = find_any_case(tree, place.path);
  } else if (tree.find(place.path)) {
    out.path = place.path;
  }
  out.is_ignored = out.path && tree.find(*out.path)->ignored;
  return out;
}

}  // namespace

std::optional<RelPath> leads_to(const TreeReader& tree, const Reference& reference, Letters letters) {
  Led led = lead(tree, reference, letters);
  return led.is_ignored ? std::nullopt : led.path;
}

bool add_leading(GraphBuilder& out, const TreeReader& tree, Reference reference, IfMissing missing,
                 Letters letters) {
  if (reference.text.has_hole()) {
    add_unseen(out, tree, reference.text, reference.base, reference.format, reference.construct);
    return false;
  }
  Led led = lead(tree, reference, letters);
  if (!led.counts || led.is_ignored || (!led.path && missing == IfMissing::skip)) return false;
  reference.dangling = !led.path;
  if (led.path) reference.lead_to(*led.path);
  out.add(std::move(reference));
  return led.path.has_value();
}

void add_unseen(GraphBuilder& out, const TreeReader& tree, const TracedText& text, const Base& base,
                std::uint8_t format, const SiteChain& key) {
  out.hole(text, base, format);
  add_known_folder(out, tree, text, base, format, key);
}

void add_known_folder(GraphBuilder& out, const TreeReader& tree, const TracedText& text, const Base& base,
                      std::uint8_t format, const SiteChain& key) {
  std::string all = text.text();
  std::size_t cut = all.substr(0, all.find(kHoleMark)).rfind('/');
  if (cut == std::string::npos || cut == 0) return;
  Reference folder = Reference::of(Role::argument, format, key, base, text.substr(0, cut)).likely();
  Place place = place_of(base.folder, folder.text.text(), base.space);
  if (place.space != Space::tree || place.path.is_root() || !tree.is_folder(place.path)) return;
  out.add(std::move(folder).leading_to(place.path));
}

}  // namespace yc
