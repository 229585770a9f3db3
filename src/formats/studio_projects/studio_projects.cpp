#include "formats/studio_projects/studio_projects.h"

#include <algorithm>
#include <optional>
#include <string>

#include "base/text.h"
#include "formats/capabilities/companions.h"
#include "formats/capabilities/members.h"
#include "formats/outside_paths.h"
#include "model/add_reference.h"

namespace yc {

namespace {

// How a path spells its separators, and whether it stands in quotes.
constexpr WritingStyle kStudioSlash = 0, kStudioBackslash = 1, kQuotedSlash = 2, kQuotedBackslash = 3;

struct StudioWord {
  std::string_view text;
  std::uint32_t begin = 0;
  bool quoted = false;
};

// Words of a line, at blanks and signs of assignment; what stands in quotes is a word of its own.
std::vector<StudioWord> words_of_studio(std::string_view line, std::uint32_t begin) {
  std::vector<StudioWord> out;
  for (std::size_t at = 0; at < line.size();) {
    bool quoted = line[at] == '"';
    if (quoted) ++at;
    std::size_t end = std::min(line.find_first_of(quoted ? "\"" : " \t=\",;", at), line.size());
    if (end > at) out.push_back({line.substr(at, end - at), begin + static_cast<std::uint32_t>(at), quoted});
    at = end + 1;
    if (!quoted && end < line.size() && line[end] == '"') at = end;
  }
  return out;
}

// Lines without their ends, and where they begin.
template <typename Take>
void for_each_setting_line(std::string_view bytes, const Take& take) {
  for (std::size_t at = 0; at < bytes.size();) {
    std::size_t end = std::min(bytes.find('\n', at), bytes.size());
    std::string_view line = bytes.substr(at, end - at);
    while (!line.empty() && (line.back() == '\r' || line.back() == ' ')) line.remove_suffix(1);
    take(line, static_cast<std::uint32_t>(at));
    at = end + 1;
  }
}

bool studio_compiles(const RelPath& path) {
  std::string ending(path.extension());
  ending = lowered(ending);
  return ending == ".c" || ending == ".cpp" || ending == ".cxx" || ending == ".cc";
}

class StudioReader {
 public:
  StudioReader(const Reading& in, const RelPath& path)
      : in_(in), base_{path.parent(), in.out.files().index(path), Space::tree} {}

  void workspace(std::string_view bytes) {
    for_each_setting_line(bytes, [&](std::string_view line, std::uint32_t begin) {
      if (!line.starts_with("Project:")) return;
      // Project: "name"=.\path.dsp - Package Owner=<4>
      std::size_t at = line.find("\"=");
      if (at == std::string_view::npos) return;
      std::vector<StudioWord> words =
          words_of_studio(line.substr(at + 2), begin + static_cast<std::uint32_t>(at + 2));
      if (!words.empty()) add(words.front(), Role::subfolder, IfMissing::dangling);
    });
  }

  void project(std::string_view bytes) {
    for_each_setting_line(bytes, [&](std::string_view line, std::uint32_t begin) {
      if (line.starts_with("SOURCE=")) {
        source(line.substr(7), begin + 7);
      } else if (line.starts_with("# ADD ")) {
        options(line, begin);
      } else if (!line.starts_with("!MESSAGE") && !line.starts_with("# PROP ")) {
        for (const StudioWord& word : words_of_studio(line, begin)) other(word);
      }
    });
    compile();
  }

 private:
  // What a macro stands for is a hole.
  TracedText text_of(const StudioWord& word) const {
    std::string slashed(word.text);
    bool backslashes = slashed.find('\\') != std::string::npos || slashed.find('/') == std::string::npos;
    std::replace(slashed.begin(), slashed.end(), '\\', '/');
    auto style =
        static_cast<WritingStyle>((word.quoted ? kQuotedSlash : kStudioSlash) + (backslashes ? 1 : 0));
    TracedText out;
    for (std::size_t at = 0; at < slashed.size();) {
      std::size_t macro = std::min(slashed.find("$(", at), slashed.size());
      auto span = [&](std::size_t from, std::size_t to) {
        return Span{word.begin + static_cast<std::uint32_t>(from),
                    word.begin + static_cast<std::uint32_t>(to)};
      };
      if (macro > at)
        out.append(TracedText::literal(slashed.substr(at, macro - at), base_.anchor, span(at, macro), style));
      if (macro == slashed.size()) break;
      out.append(TracedText::hole());
      std::size_t end = slashed.find(')', macro);
      at = end == std::string::npos ? slashed.size() : end + 1;
    }
    return out;
  }

  Reference reference_of(const StudioWord& word, Role role) const {
    TracedText text = text_of(word);
    while (text.size() > 1 && text.text().ends_with("/")) text = text.substr(0, text.size() - 1);
    return Reference::of(role, in_.self, {{base_.anchor, word.begin}}, base_, std::move(text));
  }

  // What is not there yet, above the project's own folder, the build makes: it goes on being made there.
  bool add_output(const Reference& reference) {
    std::string text = reference.text.text();
    Place place = place_of(base_.folder, text);
    bool is_output = !reference.text.has_hole() && text.starts_with("../") && place.space == Space::tree &&
                     !place.path.is_root() && !find_any_case(in_.tree, place.path);
    if (is_output) in_.out.add(Reference(reference).leading_to(place.path, Target::Kind::output));
    return is_output;
  }

  std::optional<RelPath> add(const StudioWord& word, Role role, IfMissing missing = IfMissing::skip) {
    Reference reference = reference_of(word, role);
    if (missing == IfMissing::skip && add_output(reference)) return std::nullopt;
    auto path = reference.text.has_hole() ? std::nullopt : leads_to(in_.tree, reference, Letters::any_case);
    add_leading(in_.out, in_.tree, std::move(reference), missing, Letters::any_case);
    return path;
  }

  void source(std::string_view rest, std::uint32_t begin) {
    // All of the line is one path, whatever signs are in it.
    StudioWord word{rest, begin, rest.size() > 1 && rest.front() == '"' && rest.back() == '"'};
    if (word.quoted) word = {rest.substr(1, rest.size() - 2), begin + 1, true};
    if (word.text.empty()) return;
    bool is_macro = word.text.starts_with("$(") && word.text.ends_with(")");
    auto path = is_macro ? std::nullopt : add(word, Role::source, IfMissing::dangling);
    if (path && studio_compiles(*path)) sources_.push_back(*path);
  }

  // /I "..\inc", /I..\inc, /libpath:"..\lib", ..\lib\tide.lib
  void options(std::string_view line, std::uint32_t begin) {
    std::vector<StudioWord> words = words_of_studio(line, begin);
    for (std::size_t i = 3; i < words.size(); ++i) {
      StudioWord word = words[i];
      bool is_root = word.text == "/I" || word.text == "/i" || word.text == "/libpath:";
      if (is_root) {
        if (++i < words.size()) root(words[i]);
      } else if (word.text.starts_with("/I") && !word.quoted) {
        word.text.remove_prefix(2), word.begin += 2;
        root(word);
      } else if (!word.text.starts_with("/")) {
        other(word);
      }
    }
  }

  void root(const StudioWord& word) {
    if (auto folder = add(word, Role::search_root)) {
      SearchRoot root{{Space::tree, *folder}};
      if (std::find(roots_.begin(), roots_.end(), root) == roots_.end()) roots_.push_back(root);
    }
  }

  // A word that may be no path at all.
  void other(const StudioWord& word) {
    if (word.text.find_first_of("/\\.") == std::string_view::npos) return;
    Reference reference = reference_of(word, Role::argument);
    if (reference.text.is_only_holes() || reference.text.empty() || add_output(reference)) return;
    add_leading(in_.out, in_.tree, std::move(reference).likely(), IfMissing::skip, Letters::any_case);
  }

  // Configurations may have other folders each, so that there may be more than one source looks in.
  void compile() {
    if (sources_.empty()) return;
    Context context;
    context.roots = roots_;
    context.open = true;
    context.start = {Space::tree, base_.folder};
    ContextIndex number = in_.out.context(std::move(context));
    const RelPath& path = in_.out.files().path(base_.anchor);
    std::vector<Unit>& units = in_.out.graph().units;
    units.push_back({std::string(path.name()), in_.self, {base_.anchor, 0}, {}});
    for (const RelPath& source : sources_)
      in_.out.compile(source, number, static_cast<std::int32_t>(units.size()) - 1);
  }

  const Reading& in_;
  Base base_;
  std::vector<RelPath> sources_;
  std::vector<SearchRoot> roots_;
};

class StudioProjectsFormat : public Format, public IgnoresCase, public ReadsWhole, public NeededChanges {
 public:
  std::string_view name() const override { return "studio projects"; }
  std::string_view unit_kind() const override { return "project"; }
  ScopeSet gives() const override { return Scope::search_roots; }
  bool claims(const RelPath& path) const override {
    return path.extension() == ".dsp" || path.extension() == ".dsw";
  }

  void read(const Reading& in) const override {
    in.each([&](const RelPath& path, const Bytes& bytes) {
      if (is_binary(*bytes) || bytes->find("Developer Studio") == std::string::npos) {
        in.out.incomplete(Unread::garbled, "garbled-project", path, std::nullopt,
                          "has the ending of a project of Visual C++, is none, and is not read");
        return false;
      }
      StudioReader reader(in, path);
      path.extension() == ".dsw" ? reader.workspace(*bytes) : reader.project(*bytes);
      return true;
    });
  }

  // Paths that lead out of the tree go on leading there.
  std::vector<Proposal> needed_edits(const ClaimedTree& before, const MoveSet& moves) const override {
    Proposal way;
    for (const Move& move : moves.files()) {
      auto bytes = claims(move.from) ? before.tree.read(move.from) : Result<Bytes>(Error{});
      if (!bytes) continue;
      for_each_setting_line(**bytes, [&](std::string_view line, std::uint32_t begin) {
        for (StudioWord word : words_of_studio(line, begin)) {
          if (word.text.starts_with("/I")) word.text.remove_prefix(2), word.begin += 2;
          auto text = outside_path(move.from.parent(), move.to.parent(), word.text);
          Span span{word.begin, word.begin + static_cast<std::uint32_t>(word.text.size())};
          if (text) way.edits.push_back({move.from, span, *text});
        }
      });
    }
    return way.edits.empty() ? std::vector<Proposal>() : std::vector<Proposal>{way};
  }

  std::optional<std::string> write(std::string_view text, WritingStyle style) const override {
    bool quoted = style == kQuotedSlash || style == kQuotedBackslash;
    std::string_view forbidden = quoted ? "\"\r\n" : " \t=\",;\r\n";
    if (text.find_first_of(forbidden) != std::string_view::npos) return std::nullopt;
    std::string out(text);
    if (style == kStudioBackslash || style == kQuotedBackslash)
      std::replace(out.begin(), out.end(), '/', '\\');
    return out;
  }
};

}  // namespace

std::unique_ptr<Format> studio_projects_format() {
  return std::make_unique<StudioProjectsFormat>();
}

}  // namespace yc
