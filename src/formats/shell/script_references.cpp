#include "formats/shell/script_references.h"

#include <algorithm>

#include "formats/shell/command_effects.h"
#include "formats/shell/programs.h"
#include "model/add_reference.h"

namespace yc::shell {

namespace {

// Whether a text is all what a command prints that goes there, which has a reference of its own: "$ROOT",
// where ROOT=$(cd .. && pwd).
bool is_worked_out(const TracedText& text) {
  return std::all_of(text.pieces().begin(), text.pieces().end(), [](const Piece& piece) {
    return piece.nature == Piece::Nature::literal && !piece.has_origin() && !piece.via.empty();
  });
}

// `start` is the folder that the script is taken to be started from, where that is not its own.
std::vector<Reference> references_of(const TreeReader& tree, std::uint8_t format, FileIndex file,
                                     const CommandLine& line, const std::optional<RelPath>& start) {
  std::vector<Reference> out;
  for (const Command& command : line.commands) {
    Picked picked = pick(command, tree);
    std::string name = command.name();
    // What a pattern loses, a word beside it may bring back.
    bool takes_pattern = std::any_of(picked.references.begin(), picked.references.end(),
                                     [](const Reference& reference) { return reference.is_pattern(); });
    for (Reference& reference : picked.references) {
      Passage origin = reference.text.first_origin();
      if (origin.file != file || is_worked_out(reference.text)) continue;
      bool leads = std::any_of(reference.targets.begin(), reference.targets.end(), [&](const Target& target) {
        // What the script writes must find its folder.
        if (target.kind == Target::Kind::output) return true;
        const Entry* entry = target.kind == Target::Kind::tree ? tree.find(target.path) : nullptr;
        return entry && !entry->ignored;
      });
      if (!leads) continue;
      bool read_in_place = name == "." || name == "source" || name == "call";
      reference.role = read_in_place ? Role::script : reference.role;
      reference.certainty = read_in_place ? Certainty::certain : Certainty::likely;
      reference.format = format;
      reference.dangling = false;
      // Not where a folder before it was worked out: that may be spelled another way.
      Standing own = standing_of(reference);
      reference.construct = {{file, own.file == file ? own.span.begin : origin.span.begin}};
      // The words of a loop are one list.
      Passage keyword = command.words.empty() ? Passage{} : command.words.front().text.first_origin();
      if ((name == "for" || takes_pattern) && keyword.file == file)
        reference.construct = {{file, keyword.span.begin}};
      // Started from another folder, it would be another reference, unless it is counted from the script's.
      if (start && !reference.text.text().starts_with('/'))
        reference.construct_part = ConstructPart::of(*start);
      out.push_back(std::move(reference));
    }
  }
  return out;
}

}  // namespace

void note_missing_sources(const Command& command, const Picked& picked, const TreeReader& tree,
                          const IsKnown& is_made, GraphBuilder& out) {
  if (!picked.compile || !command.base_known || command.base.space != Space::tree) return;
  bool is_output = false;
  for (std::size_t i = 1; i < command.words.size(); ++i) {
    const Word& word = command.words[i];
    std::string text = word.text.text();
    bool is_candidate = !is_output && !word.text.has_hole() && !word.written && is_source_name(text) &&
                        text.front() != '-' && text.find_first_of("*?[") == std::string::npos;
    is_output = text == "-o" || text == "-MF" || text == "-include" || text == "-x";
    Passage origin = word.text.first_origin();
    Place place = is_candidate ? place_of(command.base.folder, text) : Place{};
    if (place.space != Space::tree || place.path.is_root() || origin.file == kNoFile ||
        tree.find(place.path) || is_made(word.text))
      continue;
    Span span{origin.span.begin, word.text.pieces().back().span.end};
    const RelPath& file = out.files().path(origin.file);
    out.unmet({file, span.end > span.begin ? span : origin.span, kMissingSource, text, place.path});
  }
}

namespace {

// How much speaks for a folder as the one that a script is started in: words that are spelled as paths first,
// as a single word may mean many a thing, and a folder of that name may be made later.
std::pair<std::size_t, std::size_t> weight_of(const std::vector<Reference>& found) {
  auto paths = std::count_if(found.begin(), found.end(), [](const Reference& reference) {
    bool is_there = std::any_of(reference.targets.begin(), reference.targets.end(),
                                [](const Target& target) { return target.kind == Target::Kind::tree; });
    return is_there && reference.text.text().find_first_of("/.") != std::string::npos;
  });
  return {static_cast<std::size_t>(paths), found.size()};
}

// Whether anything says that the script is started there. What it writes into the folder that it is started
// in would come to lie in any.
bool speaks_for_start(const std::vector<Reference>& found, const RelPath& start) {
  return std::any_of(found.begin(), found.end(), [&](const Reference& reference) {
    return std::any_of(reference.targets.begin(), reference.targets.end(), [&](const Target& target) {
      return target.kind != Target::Kind::output || target.path.parent() != start;
    });
  });
}

}  // namespace

void emit_script(const TreeReader& tree, std::uint8_t format, const Base& script,
                 const std::set<RelPath>& starts, const std::function<CommandLine(const Base& start)>& read,
                 GraphBuilder& out) {
  std::vector<Reference> best;
  CommandLine best_line;
  RelPath best_start = script.folder;
  auto try_from = [&](const RelPath& folder) {
    // Where others start it in its own folder, that stays when the script goes elsewhere.
    bool is_own = folder == script.folder && !starts.contains(folder);
    CommandLine line = read({folder, is_own ? script.anchor : kNoFile, Space::tree});
    std::vector<Reference> found =
        references_of(tree, format, script.anchor, line, is_own ? std::nullopt : std::optional(folder));
    if (weight_of(found) > weight_of(best) || best_line.commands.empty()) {
      best = std::move(found);
      best_line = std::move(line);
      best_start = folder;
    }
  };
  for (const RelPath& folder : starts) {
    if (tree.is_folder(folder) || folder.is_root()) try_from(folder);
  }
  for (RelPath folder = script.folder;; folder = folder.parent()) {
    if (!starts.contains(folder)) try_from(folder);
    if (folder.is_root()) break;
  }
  if (!speaks_for_start(best, best_start)) best.clear();
  for (Reference& reference : best) out.add(std::move(reference));
  for (const Command& command : best_line.commands) {
    if (!command.base_known) continue;
    note_effects(command, tree, out);
    note_missing_sources(
        command, pick(command, tree), tree, [](const TracedText&) { return false; }, out);
    for (const TracedText& word : words_with_holes(command)) {
      Passage origin = word.first_origin();
      add_unseen(out, tree, word, command.base, format, {{script.anchor, origin.span.begin}});
    }
  }
}

}  // namespace yc::shell
