// From words to references.
#include <algorithm>

#include "formats/cmake/cmake_evaluation.h"
#include "formats/literal_paths.h"
#include "model/add_reference.h"
#include "words/meta_objects.h"

namespace yc::cmake {

SiteChain Evaluation::key() const {
  SiteChain out = calls_;
  out.push_back(here_);
  return out;
}

bool Evaluation::refer(const TracedText& word, Role role, Certainty certainty, const Base& from,
                       bool wanted) {
  bool any = false;
  for (const TracedText& value : values(word)) {
    if (value.empty()) continue;
    if (value.has_hole()) {
      if (!value.is_only_holes()) out_.hole(value, from, format_);
      continue;
    }
    std::string text = value.text();
    Place place = place_of(from.folder, text, from.space);
    if (place.space == Space::outside) continue;
    Reference reference = Reference::of(role, format_, key(), from, value);
    reference.certainty = certainty;
    reference.in_list = true;
    const Entry* entry = place.space == Space::tree ? tree_.find(place.path) : nullptr;
    // The root itself counts only where a text climbs to it.
    bool is_root = place.path.is_root() && !climbs_to_root(text);
    if (place.space == Space::build) {
      // A folder there that is no script's own is what the text says, whatever becomes of one of its name in
      // the tree.
      bool mirrors = false;
      for (RelPath up = place.path; !up.is_root(); up = up.parent())
        mirrors = mirrors || tree_.is_file(up / "CMakeLists.txt");
      Target target{
          mirrors || place.path.is_root() ? Target::Kind::build : Target::Kind::name, place.path, {}};
      if (text.front() == '/') reference.targets.push_back(std::move(target));
    } else if (entry && !is_root) {
      reference.lead_to(place.path);
      // One more header in a list is compiled by nobody.
      bool is_spelled = !value.pieces().empty() && value.pieces().back().has_origin();
      reference.may_gain = role == Role::source && is_spelled &&
                           words::meta_objects::header_endings().contains(place.path.extension());
      any = true;
    } else if (!entry && written_.contains(place.path)) {
      reference.lead_to(place.path, Target::Kind::output);
    } else if (!entry && generated_.contains(place.path.str())) {
      continue;
    }
    if (reference.targets.empty()) {
      if (!wanted || is_root) continue;
      reference.dangling = true;
    }
    out_.add(std::move(reference));
  }
  return any;
}

bool Evaluation::refer_here(const TracedText& word, Role role, Certainty certainty, bool wanted) {
  return refer(word, role, certainty, base(), wanted);
}

// What a script writes into a header that it makes: "#include \"net/tide.h\"".
void Evaluation::note_written_includes(const TracedText& word) {
  constexpr std::string_view kDirective = "#include ";
  if (word.size() < kDirective.size() + 3 || word.size() > 100000) return;
  std::string text = word.text();
  for (std::size_t at = text.find(kDirective); at != std::string::npos; at = text.find(kDirective, at + 1)) {
    std::size_t open = text.find_first_not_of(" \t", at + kDirective.size());
    if (open == std::string::npos || (text[open] != '"' && text[open] != '<')) continue;
    std::size_t close = text.find(text[open] == '"' ? '"' : '>', open + 1);
    if (close == std::string::npos) continue;
    TracedText name = word.substr(open + 1, close - open - 1);
    if (name.pieces().size() != 1 || !name.pieces().front().has_origin()) continue;
    const Piece& piece = name.pieces().front();
    auto found = literal_path(tree_, out_.files().path(piece.file), piece.file, piece.text, piece.span,
                              piece.style, format_);
    if (found && found->targets.front().kind == Target::Kind::tree) out_.add(std::move(*found));
  }
}

// What a word holds beside other text, as options do:
// "-Wl,--version-script,${CMAKE_CURRENT_SOURCE_DIR}/tide.map". A path that begins with a folder of the tree
// is one wherever it stands. Whole words are the command's own affair, as is whatever it has made a reference
// of, from `first_reference` on.
void Evaluation::note_paths_within(const TracedText& word, std::size_t first_reference) {
  constexpr std::size_t kLongestWord = 100000;
  constexpr std::string_view kEnds = " \t\n,;:\"'()<>|&";
  bool any = std::any_of(word.pieces().begin(), word.pieces().end(),
                         [](const Piece& piece) { return piece.nature == Piece::Nature::tree_folder; });
  if (!any || word.size() > kLongestWord) return;
  std::string text = word.text();
  for (std::size_t at = text.find(kTreeMark); at != std::string::npos;) {
    std::size_t end = std::min(text.find_first_of(kEnds, at), text.size());
    TracedText path = word.substr(at, end - at);
    bool whole = at == 0 && end == text.size(), lists = at == 0 || text[at - 1] == ';';
    bool ends_so = end == text.size() || text[end] == ';';
    auto is_same = [&](const Piece& a, const Piece& b) {
      return a.has_origin() && a.file == b.file && a.span.begin < b.span.end && b.span.begin < a.span.end;
    };
    const std::vector<std::size_t>& added = out_.added();
    bool is_known = std::any_of(
        added.begin() + static_cast<std::ptrdiff_t>(first_reference), added.end(), [&](std::size_t other) {
          const auto& theirs = out_.graph().references[other].text.pieces();
          return std::any_of(theirs.begin(), theirs.end(), [&](const Piece& piece) {
            return std::any_of(path.pieces().begin(), path.pieces().end(),
                               [&](const Piece& mine) { return is_same(mine, piece); });
          });
        });
    if (!whole && !(lists && ends_so) && !is_known && !path.has_hole()) {
      std::string_view before = std::string_view(text).substr(0, at);
      bool searched = before.ends_with("-I") || before.ends_with("-L") || before.ends_with("-isystem ");
      refer_here(path, searched ? Role::search_root : Role::argument, Certainty::certain, false);
    }
    at = text.find(kTreeMark, end);
  }
}

// An argument nobody knows is taken for a path only if it looks like one and names something.
void Evaluation::likely(const TracedText& word) {
  for (const TracedText& value : values(word)) {
    std::string text = value.text();
    if (text.find_first_of("/.") == std::string::npos || text == "." || text == "..") continue;
    if (text.size() > 2 && (text.substr(0, 2) == "-I" || text.substr(0, 2) == "-L")) {
      refer_here(value.substr(2), Role::search_root, Certainty::likely, false);
    } else {
      refer_here(value, Role::argument, Certainty::likely, false);
    }
  }
}

}  // namespace yc::cmake
