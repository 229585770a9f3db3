// Ways for references behind a folder that is reached by climbing from the file itself, which moves:
// Path(__file__).parents[1] / "data". Another count of folders there serves all of them.
#include "formats/capabilities/spellings.h"
#include "plan/rewriter.h"

namespace yc {

namespace {

// How a reference begins: with the folder of a file, from which it climbs.
struct Climb {
  RelPath folder;          // that it climbs to
  int levels = 0;          // from the file's folder
  std::size_t rest = 0;    // the first piece behind
  std::string joint = {};  // "/", if that stands between
};

std::optional<Climb> climb_of(const std::vector<Piece>& pieces) {
  if (pieces.empty() || pieces[0].nature != Piece::Nature::tree_folder || pieces[0].via.empty())
    return std::nullopt;
  Climb out;
  std::string lead;
  for (out.rest = 1; out.rest < pieces.size() && !pieces[out.rest].has_origin(); ++out.rest) {
    if (pieces[out.rest].nature != Piece::Nature::literal) return std::nullopt;
    lead += pieces[out.rest].text;
  }
  std::size_t at = 0;
  for (; lead.compare(at, 3, "/..") == 0; at += 3) ++out.levels;
  out.joint = lead.substr(at);
  bool is_plain = out.joint.empty() || out.joint == "/";
  Place start = place_of({}, pieces[0].text);
  auto folder = is_plain && start.space == Space::tree
                    ? RelPath::resolve(start.path, lead.empty() ? "." : "." + lead.substr(0, at))
                    : std::nullopt;
  if (!folder) return std::nullopt;
  out.folder = *folder;
  return out;
}

// How many folders one has to climb from one to another; nothing if it is not above.
std::optional<int> levels_between(RelPath from, const RelPath& above) {
  int out = 0;
  for (; from != above; from = from.parent()) {
    if (from.is_root()) return std::nullopt;
    ++out;
  }
  return out;
}

}  // namespace

// What does not climb now names the file's own folder, and goes on doing so if it can: such ways come last.
void ReferenceRewriter::climb_ways(const Reference& reference, const Wanted& want, const RelPath& base,
                                   std::vector<Proposal>& out, std::vector<Proposal>& last) const {
  const auto& pieces = reference.text.pieces();
  const auto* spellings = offer<Spellings>(reference.format);
  auto climb = spellings ? climb_of(pieces) : std::nullopt;
  auto above = climb ? image_.of_base({climb->folder, kNoFile, Space::tree}) : std::nullopt;
  if (!above) return;
  auto levels = levels_between(place_of({}, new_text(pieces[0])).path, *above);
  if (!levels || *levels == climb->levels) return;
  // What stands behind is counted from that folder then.
  Reference rest = reference;
  TracedText text = TracedText::plain(marked(Space::tree, *above) + climb->joint);
  for (std::size_t i = climb->rest; i < pieces.size(); ++i) text.append(pieces[i]);
  rest.text = std::move(text);
  std::vector<Proposal> behind;
  bool is_right = place_of(base, rest.text.text()) == want.place;
  if (is_right) behind.push_back({});
  for (std::size_t i = 0; !is_right && !reference.is_pattern() && i < rest.text.pieces().size(); ++i) {
    const Piece& piece = rest.text.pieces()[i];
    auto part = piece.has_origin() ? solve(rest, i, want, base) : std::nullopt;
    auto edit = part ? edit_for(piece.file, piece.span, *part, piece.style, reference.format) : std::nullopt;
    if (edit) behind.push_back({{*edit}, ""});
  }
  for (const Passage& passage : pieces[0].via) {
    std::string_view bytes = *bytes_of(passage.file);
    auto expression =
        spellings->climbing(bytes.substr(passage.span.begin, passage.span.size()), *levels - climb->levels);
    if (!expression) continue;
    Edit edit{graph_.files.path(passage.file), passage.span, *expression};
    for (Proposal way : behind) {
      way.edits.insert(way.edits.begin(), edit);
      (climb->levels > 0 ? out : last).push_back(std::move(way));
    }
    return;
  }
}

}  // namespace yc
