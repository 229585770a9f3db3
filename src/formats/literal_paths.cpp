#include "formats/literal_paths.h"

#include <algorithm>
#include <cctype>

namespace yc {

namespace {

// ".csv", and not ". is at the river's mouth".
bool is_ending(std::string_view text) {
  return text.size() > 1 && text.size() < 8 && std::all_of(text.begin() + 1, text.end(), [](unsigned char c) {
           return std::isalnum(c) || c == '_';
         });
}

}  // namespace

std::optional<Reference> literal_path(const TreeReader& tree, const RelPath& user, FileIndex file,
                                      const std::string& text, Span span, WritingStyle style,
                                      std::uint8_t format) {
  return literal_path(tree, user, TracedText::literal(text, file, span, style), {file, span.begin}, format);
}

std::optional<Reference> literal_path(const TreeReader& tree, const RelPath& user, const TracedText& traced,
                                      Site site, std::uint8_t format) {
  std::string text = traced.text();
  if (text.find_first_not_of("./") == std::string::npos) return std::nullopt;  // a part of some path, not one
  std::optional<RelPath> base, target;
  for (RelPath up = user.parent();; up = up.parent()) {
    auto place = RelPath::resolve(up, text);
    const Entry* entry = place && !place->is_root() ? tree.find(*place) : nullptr;
    if (entry && !entry->ignored) {
      if (target && *target != *place) return std::nullopt;  // two things it could mean
      base = up;
      target = place;
    }
    if (up.is_root()) break;
  }
  bool is_there = target.has_value();
  auto plain = RelPath::resolve({}, text);
  // A name alone says nothing about a folder.
  if (!is_there && plain && plain->parent().is_root()) return std::nullopt;
  for (RelPath up = user.parent(); !target; up = up.parent()) {
    // A file that is not there yet, in a folder that is: the program will write it.
    auto place = RelPath::resolve(up, text);
    bool in_folder = place && !place->parent().is_root() && is_ending(place->extension()) &&
                     tree.is_folder(place->parent());
    if (in_folder) {
      base = up;
      target = place;
    }
    if (up.is_root()) break;
  }
  if (!target) return std::nullopt;
  Reference reference = Reference::of(Role::argument, format, {site}, {*base, kNoFile, Space::tree}, traced)
                            .guessed()
                            .in(ConstructPart::of(*base));
  reference.targets.push_back({is_there ? Target::Kind::tree : Target::Kind::output, *target, {}});
  return reference;
}

std::vector<Proposal> spelled_as_path(const RewriteRequest& need) {
  const std::vector<Piece>& pieces = need.reference.text.pieces();
  if (pieces.size() != 1 || !pieces[0].has_origin() || need.wanted.size() != 1) return {};
  std::string name = relative_text(need.new_base, need.wanted[0].path);
  if (name.find('/') != std::string::npos) return {};
  auto text = format_at(need.reference.format).write("./" + name, pieces[0].style);
  if (!text) return {};
  return {{{Edit{need.graph.files.path(pieces[0].file), pieces[0].span, *text}}, ""}};
}

}  // namespace yc
