// From words to references.
#include <algorithm>

#include "formats/cmake/cmake_evaluation.h"
#include "formats/literal_paths.h"
#include "formats/unseen_text.h"

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
    Reference reference;
    reference.role = role;
    reference.certainty = certainty;
    reference.format = format_;
    reference.text = value;
    reference.base = from;
    reference.key = key();
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
      reference.targets.push_back({Target::Kind::tree, place.path, {}});
      any = true;
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
