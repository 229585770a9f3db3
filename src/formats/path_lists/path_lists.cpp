#include "formats/path_lists/path_lists.h"
#include "base/text.h"
#include "formats/capabilities/spellings.h"
#include "words/path_lists.h"

#include <algorithm>

namespace yc {

namespace {

// How a pattern stands in its line.
enum class ListLayout {
  whole_line,
  first_word,
  first_path,
  section,
  path_setting,
  listed,
  flag,
  languages,
  flags
};

struct Kind {
  ListLayout layout = ListLayout::whole_line;
  enum class From {
    own_folder,
    parent,
    project,
    root
  } from = From::own_folder;  // what paths are relative to
};

const char* const kIgnoreList = ".gitignore";

// Lists of a packager that name files of the tree (debhelper(7)).
bool is_packaging_list(const RelPath& path) {
  RelPath folder = path.parent();
  if (folder.is_root() || folder.name() != "debian") return false;
  return words::path_lists::packaging_endings().contains(path.extension()) ||
         words::path_lists::packaging_names().contains(path.name());
}

std::optional<Kind> kind_of(const RelPath& path) {
  std::string_view name = path.name();
  if (name == kIgnoreList || words::path_lists::ignore_lists().contains(name))
    return Kind{ListLayout::whole_line, Kind::From::own_folder};
  if (name == ".gitattributes") return Kind{ListLayout::first_word, Kind::From::own_folder};
  if (name == ".editorconfig") return Kind{ListLayout::section, Kind::From::own_folder};
  if (name == ".gitmodules") return Kind{ListLayout::path_setting, Kind::From::own_folder};
  // The lists of a translation are relative to the top of the project (GNU gettext manual, "po/POTFILES.in").
  if (name == "POTFILES" || name == "POTFILES.in" || name == "POTFILES.skip")
    return Kind{ListLayout::listed, Kind::From::project};
  // What a distribution holds, each with a remark behind it (ExtUtils::Manifest, "MANIFEST").
  if (name == "MANIFEST") return Kind{ListLayout::first_path, Kind::From::own_folder};
  if (name == "LINGUAS") return Kind{ListLayout::languages, Kind::From::own_folder};
  if (is_packaging_list(path)) return Kind{ListLayout::first_word, Kind::From::parent};
  // One compiler option a line, relative to its own folder.
  if (name == ".clangd" || name == ".clang-tidy") return Kind{ListLayout::flags, Kind::From::own_folder};
  if (name == "compile_flags.txt") return Kind{ListLayout::flag, Kind::From::own_folder};
  if (name != "CODEOWNERS") return std::nullopt;
  std::string folder = path.parent().str();
  bool is_read = folder.empty() || folder == ".github" || folder == ".gitlab" || folder == "docs";
  return is_read ? std::optional(Kind{ListLayout::first_word, Kind::From::root}) : std::nullopt;
}

// Writing styles. A text without a slash would match at any depth, so one is put before it unless the pattern
// has another one around the literal.
// Plain paths match nothing and may climb.
constexpr WritingStyle kHasSlash = 0, kNeedsSlash = 1, kPlain = 2, kLanguageName = 3;

// The topmost folder above `folder` that has a build script, else the one right above.
RelPath project_above(const TreeReader& tree, const RelPath& folder) {
  RelPath out = folder.parent();
  for (RelPath up = folder; !up.is_root();) {
    up = up.parent();
    for (const char* script : {"configure.ac", "configure.in", "meson.build", "CMakeLists.txt"}) {
      if (tree.is_file(up / script)) out = up;
    }
  }
  return out;
}

// Where the pattern of a line stands; nothing for a line without one.
std::optional<Span> pattern_in(std::string_view line, ListLayout layout) {
  std::size_t begin = 0, end = line.size();
  while (end > begin && is_blank(line[end - 1])) --end;
  if (layout == ListLayout::languages || layout == ListLayout::flags)
    return std::nullopt;  // read word by word
  if (layout == ListLayout::listed) {
    while (begin < end && is_blank(line[begin])) ++begin;
    if (begin < end && line[begin] == '[') {  // "[type: gettext/glade]ui/window.ui"
      std::size_t close = line.find(']', begin);
      if (close == std::string_view::npos) return std::nullopt;
      begin = close + 1;
      while (begin < end && is_blank(line[begin])) ++begin;
    }
    if (begin < end && line[begin] == '#') return std::nullopt;
  } else if (layout == ListLayout::flag) {
    std::string_view flag;
    for (std::string_view known : {"-isystem", "-iquote", "-include", "-I", "-L"}) {
      if (flag.empty() && line.substr(0, end).starts_with(known)) flag = known;
    }
    if (flag.empty()) return std::nullopt;
    begin = flag.size();
    while (begin < end && is_blank(line[begin])) ++begin;
  } else if (layout == ListLayout::path_setting) {
    while (begin < end && is_blank(line[begin])) ++begin;
    std::size_t equals = line.find('=', begin);
    if (line.substr(begin, 4) != "path" || equals == std::string_view::npos) return std::nullopt;
    if (line.find_first_not_of(" \t", begin + 4) != equals) return std::nullopt;
    begin = equals + 1;
    while (begin < end && is_blank(line[begin])) ++begin;
  } else if (layout == ListLayout::section) {
    while (begin < end && is_blank(line[begin])) ++begin;
    if (end - begin < 3 || line[begin] != '[' || line[end - 1] != ']') return std::nullopt;
    ++begin, --end;
  } else {
    if (layout == ListLayout::whole_line && begin < end && line[begin] == '!') ++begin;
    if (begin == end || line[begin] == '#' || line[begin] == '[') return std::nullopt;
    if (layout == ListLayout::first_word || layout == ListLayout::first_path)
      end = std::min(end, line.find_first_of(" \t", begin));
  }
  std::string_view pattern = line.substr(begin, end - begin);
  if (pattern.empty() || pattern.find_first_of("\\\"") != std::string_view::npos) return std::nullopt;
  return span_of(begin, end);
}

// Compiler options anywhere in settings that are YAML: the folders and files behind -I and its kin.
std::vector<Span> flags_in(std::string_view text) {
  std::vector<Span> out;
  for (std::size_t at = 0; at < text.size(); ++at) {
    bool begins = text[at] == '-' && at > 0 &&
                  std::string_view(" \t[,'\"").find(text[at - 1]) != std::string_view::npos;
    if (!begins) continue;
    for (std::string_view flag : {"-isystem", "-iquote", "-include", "-I"}) {
      if (!text.substr(at).starts_with(flag)) continue;
      std::size_t begin = at + flag.size();
      // A word of its own may follow.
      while (begin < text.size() && std::string_view("'\", \t").find(text[begin]) != std::string_view::npos)
        ++begin;
      std::size_t end = std::min(text.find_first_of(",]'\" \t\r\n", begin), text.size());
      if (end > begin && text[begin] != '-') out.push_back(span_of(begin, end));
      break;
    }
  }
  return out;
}

class PathListsFormat : public Format, public Spellings {
 public:
  std::string_view name() const override { return "path lists"; }

  bool claims(const RelPath& path) const override { return kind_of(path).has_value(); }

  void read(const Reading& in) const override {
    const TreeReader& tree = in.tree;
    std::uint8_t self = in.self;
    GraphBuilder& out = in.out;
    in.each([&](const RelPath& path, const Bytes& bytes) {
      if (is_binary(*bytes)) return false;
      auto kind = kind_of(path);
      FileIndex file = out.files().index(path);
      Base base;
      if (kind->from == Kind::From::own_folder) base = {path.parent(), file, Space::tree};
      if (kind->from == Kind::From::parent) base.folder = path.parent().parent();
      if (kind->from == Kind::From::project) base.folder = project_above(tree, path.parent());
      bool is_plain = kind->layout == ListLayout::path_setting || kind->layout == ListLayout::listed ||
                      kind->layout == ListLayout::first_path || kind->layout == ListLayout::flag ||
                      kind->from == Kind::From::parent;
      std::string_view text = *bytes;
      if (kind->layout == ListLayout::flags) {
        for (const Span& span : flags_in(text))
          refer(tree, self, out, file, base, text, span, true, Role::search_root);
      }
      if (path.name() == "LINGUAS") read_languages(tree, self, out, file, path.parent(), text);
      for (std::size_t at = 0; at < text.size();) {
        std::size_t end = std::min(text.find('\n', at), text.size());
        if (auto span = pattern_in(text.substr(at, end - at), kind->layout)) {
          std::uint32_t offset = static_cast<std::uint32_t>(at);
          refer(tree, self, out, file, base, text, {offset + span->begin, offset + span->end}, is_plain,
                kind->layout == ListLayout::flag ? Role::search_root : Role::argument);
        }
        at = end + 1;
      }
      return true;
    });
  }

  std::optional<std::string> write(std::string_view text, WritingStyle style) const override {
    if (style == kLanguageName) return std::nullopt;  // the name of a language is no path
    if (style == kPlain)
      return text.find_first_of("\n\"#") == std::string_view::npos ? std::optional(std::string(text))
                                                                   : std::nullopt;
    // Patterns cannot climb out of their folder, and these characters would mean something else.
    if (text.starts_with("..") || text.find_first_of("*?[]{}\\\"#! \t\n") != std::string_view::npos)
      return std::nullopt;
    bool bare = text.find('/') == std::string_view::npos;
    return (style == kNeedsSlash && bare ? "/" : "") + std::string(text);
  }

  // A line of an ignore list cannot climb: it goes to the nearest list above what it names.
  std::vector<Proposal> late_proposals(const RewriteRequest& need) const override {
    const Piece& piece = need.reference.text.pieces().front();
    const RelPath& list = need.graph.files.path(piece.file);
    if (list.name() != kIgnoreList || need.wanted.size() != 1 || need.wanted[0].path.is_root()) return {};
    const RelPath& target = need.wanted[0].path;
    auto bytes = need.tree.read(list);
    if (target.is_within(need.new_base) || !bytes) return {};
    std::size_t begin = (*bytes)->rfind('\n', piece.span.begin);
    begin = begin == std::string::npos ? 0 : begin + 1;
    std::size_t end = std::min((*bytes)->find('\n', piece.span.end), (*bytes)->size());
    if ((**bytes)[begin] == '!') return {};  // it takes back what other lines of the list say
    for (RelPath up = target.parent();; up = up.parent()) {
      RelPath other = up / kIgnoreList;
      bool usable = need.tree.is_file(other) && !need.moves.moves(other);
      auto spelled = write(relative_text(up, target), kHasSlash);
      if (usable && spelled) {
        auto above = need.tree.read(other);
        if (!above) return {};
        std::string tail = (*bytes)->substr(piece.span.end, end - piece.span.end);
        bool whole = (*above)->empty() || (*above)->back() == '\n';
        auto last = static_cast<std::uint32_t>((*above)->size());
        Span line = span_of(begin, std::min(end + 1, (*bytes)->size()));
        std::string added = (whole ? "/" : "\n/") + *spelled + tail + "\n";
        return {{{Edit{list, line, ""}, Edit{other, {last, last}, added}}, ""}};
      }
      if (up.is_root()) return {};
    }
  }

 private:
  // The languages of a translation (GNU gettext manual, "po/LINGUAS"): each stands for the file of that name.
  static void read_languages(const TreeReader& tree, std::uint8_t self, GraphBuilder& out, FileIndex file,
                             const RelPath& folder, std::string_view text) {
    for (std::size_t at = 0; at < text.size();) {
      if (text[at] == '#') {
        at = std::min(text.find('\n', at), text.size());
      } else if (is_blank(text[at]) || text[at] == '\n') {
        ++at;
      } else {
        std::size_t end = std::min(text.find_first_of(" \t\r\n", at), text.size());
        Span span = span_of(at, end);
        std::string language(text.substr(at, end - at));
        at = end;
        RelPath path = folder / (language + ".po");
        if (!tree.is_file(path)) continue;
        Reference reference =
            Reference::of(Role::listed, self, {{file, span.begin}}, {folder, file, Space::tree},
                          TracedText::literal(language, file, span, kLanguageName));
        reference.text.append(TracedText::plain(".po"));
        reference.lead_to(path);
        out.add(std::move(reference));
      }
    }
  }

  // Together the ignore lists of a tree say what is left out: a line may move from one to another. So their
  // lines belong to one construct where there is one list above all.
  static Site construct_of(const TreeReader& tree, GraphBuilder& out, FileIndex file, std::uint32_t site) {
    RelPath top = RelPath::from_normal(kIgnoreList);
    bool ignores = out.files().path(file).name() == kIgnoreList;
    return ignores && tree.is_file(top) ? Site{out.files().index(top), 0} : Site{file, site};
  }

  static void refer(const TreeReader& tree, std::uint8_t self, GraphBuilder& out, FileIndex file,
                    const Base& base, std::string_view bytes, Span span, bool is_plain_path, Role role) {
    std::uint32_t site = span.begin;
    bool has_slash = bytes[span.begin] == '/' || is_plain_path;
    if (bytes[span.begin] == '/') ++span.begin;
    if (span.size() > 0 && bytes[span.end - 1] == '/') --span.end;
    std::string_view pattern = bytes.substr(span.begin, span.size());
    // Up to the first component with a wildcard; what comes after it stays as it is.
    std::size_t wild = pattern.find_first_of("*?[{");
    if (wild != std::string_view::npos) {
      std::size_t cut = pattern.rfind('/', wild);
      if (cut == std::string_view::npos) return;  // it matches names in no folder of its own
      pattern = pattern.substr(0, cut);
      has_slash = true;
    }
    if (pattern.empty() || (!has_slash && pattern.find('/') == std::string_view::npos)) return;
    span.end = span.begin + static_cast<std::uint32_t>(pattern.size());
    Place place = place_of(base.folder, pattern);
    if (place.space != Space::tree || place.path.is_root()) return;
    const Entry* entry = tree.find(place.path);
    bool is_there = entry && !entry->ignored;
    // An entry for what the build makes follows the folder that it is made in.
    if (!is_there && (wild != std::string_view::npos || place.path.parent().is_root() ||
                      !tree.is_folder(place.path.parent())))
      return;
    Reference reference = Reference::of(role, self, {construct_of(tree, out, file, site)}, base, {});
    WritingStyle style = is_plain_path ? kPlain : has_slash ? kHasSlash : kNeedsSlash;
    reference.text = TracedText::literal(std::string(pattern), file, span, style);
    reference.targets.push_back({is_there ? Target::Kind::tree : Target::Kind::output, place.path, {}});
    out.add(std::move(reference));
  }
};

}  // namespace

std::unique_ptr<Format> path_lists_format() {
  return std::make_unique<PathListsFormat>();
}

}  // namespace yc
