#include "plan/printed_order.h"

#include <fmt/format.h>

#include <algorithm>
#include <map>

#include "formats/capabilities/spellings.h"
#include "formats/format.h"

namespace yc {

namespace {

struct Name {
  std::string before, after;  // as the command prints it
};

// Which locale a command sorts in is not known: in some, only letters and digits count.
std::string letters_of(const std::string& name) {
  std::string out;
  for (unsigned char c : name) {
    if (std::isalnum(c) || c >= 0x80) out += static_cast<char>(std::tolower(c));
  }
  return out;
}

// The first name that would stand elsewhere; null if the order stays.
const Name* displaced(std::vector<Name>& names) {
  auto ordered_by = [&](auto key) -> const Name* {
    std::stable_sort(names.begin(), names.end(),
                     [&](const Name& a, const Name& b) { return key(a.before) < key(b.before); });
    auto same = [](const Name& name) { return name.before == name.after; };
    for (std::size_t i = 1; i < names.size(); ++i) {
      if (key(names[i - 1].after) <= key(names[i].after)) continue;
      return same(names[i]) ? &names[i - 1] : &names[i];
    }
    return nullptr;
  };
  const Name* found = ordered_by([](const std::string& name) { return name; });
  return found ? found : ordered_by(letters_of);
}

}  // namespace

std::vector<Blocker> changed_orders(const TreeReader& tree, const ReferenceGraph& graph, const MoveSet& moves,
                                    std::vector<Notice>& told) {
  EditMap no_edits;
  Image image(tree, graph, moves, no_edits);
  struct Listing {
    std::vector<Name> names;
    const Reference* first = nullptr;
  };
  std::map<std::pair<SiteChain, ConstructPart>, Listing> listings;
  for (const Reference& reference : graph.references) {
    if (!reference.ordered || reference.may_gain) continue;
    Listing& listing = listings[{reference.construct, reference.construct_part}];
    if (!listing.first) listing.first = &reference;
    RelPath base = image.of_base(reference.base).value_or(reference.base.folder);
    for (const Target& target : reference.targets) {
      auto path = target.kind == Target::Kind::tree ? image.of(target.path) : std::nullopt;
      if (!path) continue;
      listing.names.push_back(
          {relative_text(reference.base.folder, target.path), relative_text(base, *path)});
    }
  }
  std::vector<Blocker> out;
  for (auto& [key, listing] : listings) {
    const Name* name = displaced(listing.names);
    if (!name) continue;
    Blocker item;
    item.id = "order";
    Standing at = standing_of(*listing.first);
    if (at.file != kNoFile) {
      item.file = graph.files.path(at.file);
      item.span = at.span;
    }
    item.text = listing.first->text.text();
    item.reason = fmt::format(
        "is handed on in the order of names, and {} would stand at another place in it than {} does now",
        name->after, name->before);
    bool compiles = offer<SearchRoots>(*formats()[listing.first->format]) != nullptr;
    if (!compiles && item.span) {
      told.push_back(
          {"order", item.file, *item.span, true, fmt::format("\"{}\" {}", item.text, item.reason)});
      continue;
    }
    item.next = "choose a name that keeps the order, or add --accept-unseen if the order does not matter";
    out.push_back(std::move(item));
  }
  return out;
}

}  // namespace yc
