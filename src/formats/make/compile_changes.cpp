#include "formats/make/compile_changes.h"

#include <fmt/format.h>

#include <algorithm>
#include <set>

#include "base/text.h"

namespace yc::make {

namespace {

// The endings of sources that a header of a rule for many is about: ".c.o:", ".c$o:" or "%.o: %.c".
std::vector<std::string> source_endings(std::string_view header) {
  std::vector<std::string> out;
  std::string_view targets = trimmed(header.substr(0, header.find(':')));
  std::size_t second = targets.find_first_of(".$", 1);
  if (targets.starts_with('.') && second != targets.npos && targets.find_first_of("/ \t") == targets.npos) {
    std::string_view object = targets.substr(second);
    bool is_object = object == ".o" || object == "$o" || object == "$(o)" || object == "${o}" ||
                     object == ".$(OBJEXT)" || object == ".${OBJEXT}" || object == ".@OBJEXT@";
    if (is_object) out.emplace_back(targets.substr(0, second));
  } else if (targets.ends_with("%.o")) {
    std::string_view rest = header.substr(std::min(header.find(':') + 1, header.size()));
    for (std::size_t at = rest.find("%."); at != rest.npos; at = rest.find("%.", at + 1)) {
      std::size_t end = std::min(rest.find_first_of(" \t\r", at), rest.size());
      out.emplace_back(rest.substr(at + 1, end - at - 1));
    }
  }
  return out;
}

bool has_word(std::string_view line, std::string_view wanted) {
  for (std::size_t at = line.find(wanted); at != line.npos; at = line.find(wanted, at + 1)) {
    bool begins = at == 0 || is_blank(line[at - 1]);
    std::size_t end = at + wanted.size();
    if (begins && (end == line.size() || is_blank(line[end]))) return true;
  }
  return false;
}

// Whether a source of one of these endings leaves the folder of the makefile, or one below it goes deeper.
bool goes_to_a_folder(const RelPath& makefile, const std::vector<std::string>& endings,
                      std::string_view bytes, const MoveSet& moves) {
  return std::any_of(moves.files().begin(), moves.files().end(), [&](const Move& move) {
    if (std::find(endings.begin(), endings.end(), ending_of(move.from.name())) == endings.end()) return false;
    std::string_view name = move.from.name();
    std::string object = std::string(name.substr(0, name.rfind('.')));
    return move.from.parent() == makefile.parent() && move.to.parent() != makefile.parent() &&
           bytes.find(object) != bytes.npos;
  });
}

}  // namespace

std::vector<Proposal> name_objects(const ClaimedTree& tree, const MoveSet& moves) {
  std::vector<Proposal> out;
  for (const RelPath& makefile : tree.files) {
    auto bytes = tree.tree.read(makefile);
    if (!bytes || (*bytes)->find("-c") == std::string::npos) continue;
    std::vector<std::string> endings;
    for_each_line(**bytes, [&](std::string_view line, std::size_t begin) {
      if (!line.starts_with('\t')) {
        if (!trimmed(line).empty() && !line.starts_with('#')) endings = source_endings(line);
        return;
      }
      bool names_one = has_word(line, "-o") || line.find(" -o$") != line.npos || line.find("$@") != line.npos;
      bool names_none = has_word(line, "-c") && !names_one;
      bool is_simple = line.find_first_of(";|&\\#") == line.npos;
      if (endings.empty() || !names_none || !is_simple ||
          !goes_to_a_folder(makefile, endings, **bytes, moves))
        return;
      auto end = static_cast<std::uint32_t>(begin + line.size());
      while (end > begin && is_blank((**bytes)[end - 1])) --end;
      out.push_back({{Edit{makefile, {end, end}, " -o $@"}}, ""});
    });
  }
  return out;
}

std::vector<Blocker> new_strays(const TreeView& before, const TreeView& planned, const MoveSet& moves) {
  auto key = [](const StrayObject& stray) { return stray.left.value_or(stray.wanted.parent()); };
  std::set<RelPath> known;
  for (const StrayObject& stray : before.graph.stray_objects) known.insert(key(stray));
  std::vector<Blocker> out;
  for (const StrayObject& stray : planned.graph.stray_objects) {
    if (!known.insert(key(stray)).second || stray.site.file == kNoFile) continue;
    Blocker item;
    item.id = "stray-object";
    item.file = moves.unmap_file(planned.graph.files.path(stray.site.file));
    item.text = stray.wanted.str();
    if (stray.left) {
      item.reason = fmt::format(
          "would not be made: the command names no object, so the compiler leaves {} where it "
          "is started",
          stray.left->str());
      item.next = "add -o $@ to the command, then move again";
    } else {
      item.reason =
          fmt::format("could not be written: nothing makes the folder {}", stray.wanted.parent().str());
      item.next = "make the folder in the recipe (mkdir -p), then move again";
    }
    out.push_back(std::move(item));
  }
  return out;
}

std::vector<Blocker> changed_options(const TreeView& before, const TreeView& planned, const MoveSet& moves) {
  std::vector<Blocker> out;
  for (const auto& [source, options] : before.graph.compile_options) {
    auto now = planned.graph.compile_options.find(moves.map_file(source));
    if (now == planned.graph.compile_options.end()) continue;
    // Not every side of every conditional is taken each time: it is enough that one is as it was.
    bool any = std::any_of(options.begin(), options.end(),
                           [&](const std::string& one) { return now->second.contains(one); });
    if (any) continue;
    Blocker item;
    item.id = "other-options";
    item.file = source;
    item.reason =
        fmt::format("would be compiled with \"{}\", and is with \"{}\" now: the makefile tells by the name",
                    trimmed(*now->second.begin()), trimmed(*options.begin()));
    item.next = "have the makefile tell by something else, or keep the name";
    out.push_back(std::move(item));
  }
  return out;
}

namespace {

struct Complaint {
  const char* id;
  const char* reason;
  const char* next;
};
constexpr Complaint kComplaints[] = {
    {"unmade-object", "would be needed, and no rule would make it",
     "name it as what is made of its source then, or keep that where a rule finds it"},
    {"shadowed-target", "is a target that is not phony, and a folder of that name would be taken for it",
     "choose another name, or add the target to .PHONY first"},
    {"doubled-object", "would be handed to one command twice",
     "take it out of one of the lists first, or choose a place that no other pattern reaches"},
};

// "~" sets them apart from what is told of a tree: where they are there already, they are somebody's wish.
bool is_of(const Notice& notice, const Complaint& kind) {
  return notice.id.starts_with('~') && std::string_view(notice.id).substr(1) == kind.id;
}

}  // namespace

std::vector<Blocker> new_complaints(const TreeView& before, const TreeView& planned, const MoveSet& moves) {
  std::vector<Blocker> out;
  for (const Complaint& kind : kComplaints) {
    auto count = [&](const ReferenceGraph& graph, const RelPath& file) {
      return std::count_if(graph.notices.begin(), graph.notices.end(),
                           [&](const Notice& notice) { return is_of(notice, kind) && notice.file == file; });
    };
    for (const Notice& notice : planned.graph.notices) {
      if (!is_of(notice, kind)) continue;
      RelPath file = moves.unmap_file(notice.file);
      bool is_old =
          std::any_of(before.graph.notices.begin(), before.graph.notices.end(), [&](const Notice& other) {
            return other.id == notice.id && other.file == file && other.message == notice.message;
          });
      if (is_old || count(planned.graph, notice.file) <= count(before.graph, file)) continue;
      out.push_back(
          {kind.id, file, notice.span, notice.message, kind.reason, kind.next, Blocker::Bearing::tells_why});
    }
  }
  return out;
}

}  // namespace yc::make
