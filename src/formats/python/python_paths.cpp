// Paths that a program puts together, into the graph.
#include <algorithm>

#include "formats/command_strings.h"
#include "formats/literal_paths.h"
#include "formats/python/path_evaluator.h"
#include "words/python.h"

namespace yc::python {

namespace {

// Whether every folder that a path goes back from is there: the system looks, unlike a reader of the text.
bool can_be_walked(const TreeReader& tree, const RelPath& base, std::string_view text) {
  if (text.starts_with(kTreeMark)) text.remove_prefix(std::min(kTreeMark.size() + 1, text.size()));
  RelPath at = base;
  for (std::size_t begin = 0; begin <= text.size();) {
    std::size_t end = std::min(text.find('/', begin), text.size());
    std::string_view part = text.substr(begin, end - begin);
    begin = end + 1;
    if (part.empty() || part == ".") continue;
    if (part == "..") {
      const Entry* entry = at.is_root() ? nullptr : tree.find(at);
      // From a file one goes back to its folder by its name.
      if (!at.is_root() && (!entry || entry->kind == EntryKind::link)) return false;
      at = at.parent();
    } else {
      at = at / part;
    }
  }
  return true;
}

class PathEmitter {
 public:
  PathEmitter(const Source& source, GraphBuilder& out)
      : source_(source), out_(out), file_(out.files().index(source.path)), whole_(out.wants(source.path)) {}

  void emit(const Value& value, std::size_t first) {
    std::string plain = value.text.text();
    if (plain.size() < 2 || plain.size() > 400 || plain.find_first_of("\n\r\t") != std::string::npos) return;
    // f"file://{HERE}/x.txt": what begins with the folder is a path by itself.
    if (std::size_t mark = plain.find(kTreeMark); mark != std::string::npos && mark > 0) {
      Value path = value;
      path.text = value.text.substr(mark);
      emit(path, first);
      return;
    }
    if (plain.find("://") != std::string::npos) return;
    if (!plain.starts_with(kTreeMark) && command(value.text, plain, first)) return;
    if (value.text.has_hole()) {
      open(value, plain);
      return;
    }
    if (has_wildcard(plain) && pattern(value, plain, first)) return;
    if (!whole_ && !out_.wants_any_name(plain)) return;
    bool anchored = plain.starts_with(kTreeMark);
    if (!anchored && value.text.pieces().size() == 1) {
      lone(value, plain, first);
      return;
    }
    if (anchored) {
      // One that a package's file anchors is no other one's.
      Place place = place_of({}, plain);
      if (place.space != Space::tree || place.path == source_.path) return;
      // The root counts where a program in a folder says how far it climbs.
      bool is_climb =
          place.path.is_root() && whole_ && (!value.literal || plain.find("/.") != std::string::npos);
      if (place.path.is_root() && !is_climb) return;
      const Entry* entry = is_climb ? nullptr : source_.tree.find(place.path);
      bool is_there = is_climb || (entry && !entry->ignored);
      // What is not there it writes; outside of its own folder, that goes where it went.
      bool is_written = !is_there && whole_ && !place.path.is_within(source_.path.parent());
      if ((!is_there && !is_written) || !can_be_walked(source_.tree, {}, plain)) return;
      add(value.text, first, {source_.path.parent(), file_, Space::tree}, place.path, Certainty::certain,
          is_there ? Target::Kind::tree : Target::Kind::output);
      return;
    }
    if (plain.starts_with("/")) return;
    for (RelPath up = source_.path.parent();; up = up.parent()) {
      auto place = RelPath::resolve(up, plain);
      const Entry* entry = place && !place->is_root() ? source_.tree.find(*place) : nullptr;
      if (entry && !entry->ignored && can_be_walked(source_.tree, up, plain)) {
        add(value.text, first, {up, kNoFile, Space::tree}, *place, Certainty::likely);
        return;
      }
      if (up.is_root()) return;
    }
  }

 private:
  // A text that is a command line. False if it is none.
  bool command(const TracedText& text, const std::string& plain, std::size_t first) {
    if (!whole_ && !wants_any_word(out_, plain)) return false;
    std::vector<Reference> named = command_in_string(
        source_.tree, source_.path, text, {file_, source_.facts->tokens[first].span.begin}, source_.format);
    for (Reference& reference : named) out_.add(std::move(reference));
    return !named.empty();
  }

  void add(TracedText text, std::size_t first, Base base, const RelPath& target, Certainty certainty,
           Target::Kind kind = Target::Kind::tree) {
    add_at(std::move(text), source_.facts->tokens[first].span.begin, std::move(base), target, certainty,
           kind);
  }

  void add_at(TracedText text, std::uint32_t site, Base base, const RelPath& target, Certainty certainty,
              Target::Kind kind = Target::Kind::tree) {
    // What is found from another folder, is another reference.
    ConstructPart which =
        certainty == Certainty::likely ? ConstructPart::of(base.folder) : ConstructPart::tagged("path");
    out_.add(Reference::of(Role::argument, source_.format, {{file_, site}}, std::move(base), std::move(text))
                 .as_sure_as(certainty)
                 .in(std::move(which))
                 .leading_to(target, kind));
  }

  // os.path.join(HERE, "tides", "*.csv"): all that is there under such names, as glob finds it. False where
  // nothing is.
  bool pattern(const Value& value, const std::string& plain, std::size_t first) {
    bool anchored = plain.starts_with(kTreeMark);
    if (plain.find(' ') != std::string::npos || plain.ends_with("/")) return false;
    // By itself it must name a folder: "*/" and "a*b" may mean anything.
    std::size_t slash = plain.find('/');
    std::string_view head = std::string_view(plain).substr(0, slash);
    if (slash == std::string::npos ||
        (!anchored && (has_wildcard(head) || head.find_first_not_of('.') == head.npos)))
      return false;
    for (RelPath up = anchored ? RelPath() : source_.path.parent();; up = up.parent()) {
      Base base{anchored ? source_.path.parent() : up, anchored ? file_ : kNoFile, Space::tree};
      if (add_pattern(value.text, plain, first, base, up)) return true;
      if (up.is_root()) return false;
    }
  }

  bool add_pattern(const TracedText& text, const std::string& plain, std::size_t first, const Base& base,
                   const RelPath& folder) {
    GlobPattern glob;
    std::size_t deep = plain.find("/**");
    std::vector<RelPath> found;
    if (deep == std::string::npos) {
      found = match_paths(source_.tree, folder, plain);
    } else {
      std::string names = plain.substr(deep + 3);
      if (!names.starts_with("/") || names.find('/', 1) != std::string::npos ||
          has_wildcard(plain.substr(0, deep)))
        return false;
      glob = {GlobPattern::Kind::deep, names.substr(1), text};
      found = match_deep(source_.tree, folder, plain.substr(0, deep) + names);
    }
    std::erase_if(found, [&](const RelPath& path) {
      const Entry* entry = source_.tree.find(path);
      return !entry || entry->ignored || path == source_.path;
    });
    if (found.empty()) return false;
    bool certain = base.anchor != kNoFile;
    Reference reference =
        Reference::of(Role::pattern, source_.format, {{file_, source_.facts->tokens[first].span.begin}}, base,
                      deep == std::string::npos ? text : text.substr(0, deep))
            .as_sure_as(certain ? Certainty::certain : Certainty::likely)
            .in(certain ? ConstructPart::tagged("path") : ConstructPart::of(base.folder));
    reference.kind = std::move(glob);
    reference.may_gain = true;
    reference.lead_to(found);
    out_.add(std::move(reference));
    return true;
  }

  // A string by itself.
  void lone(const Value& value, const std::string& plain, std::size_t first) {
    const Piece& piece = value.text.pieces().front();
    bool telling = plain.find('/') != std::string::npos ||
                   (plain.find('.') != std::string::npos && plain[0] != '.') || value.is_path ||
                   is_in_path_list(first);
    if (!telling || plain.starts_with("/") || plain.find(' ') == 0 || !piece.has_origin() ||
        piece.file != file_)
      return;
    auto found =
        literal_path(source_.tree, source_.path, file_, plain, piece.span, piece.style, source_.format);
    // Nothing is written that is there already, where a framework looks for it.
    bool is_there = found && found->targets.front().kind == Target::Kind::tree;
    if (!is_there && by_role(plain, piece)) return;
    if (!found) return;
    found->construct = {{file_, source_.facts->tokens[first].span.begin}};
    out_.add(std::move(*found));
  }

  // Whether a string is in a list that a tool takes for paths, by the name of the list.
  bool is_in_path_list(std::size_t first) const {
    if (source_.path.name() != "conf.py") return false;
    const std::vector<Token>& tokens = source_.facts->tokens;
    auto sign = [&](std::size_t i) { return source_.bytes->at(tokens[i].span.begin); };
    std::size_t at = first;
    while (at > 0 && tokens[at - 1].kind != Token::Kind::newline && sign(at) != '=') --at;
    if (at < 1 || sign(at) != '=' || tokens[at - 1].kind != Token::Kind::name) return false;
    const Span& name = tokens[at - 1].span;
    return words::python::path_lists().contains(
        std::string_view(*source_.bytes).substr(name.begin, name.size()));
  }

  // What is found by its name in a folder that a framework looks into.
  bool by_role(const std::string& plain, const Piece& piece) {
    if (ending_of(plain).empty()) return false;
    std::optional<RelPath> base, target;
    for (RelPath up = source_.path.parent();; up = up.parent()) {
      for (std::string_view role : {"templates", "static", "assets", "resources", "data", "_static"}) {
        // Frameworks take no name that leads out of their folders.
        if (plain.starts_with("../") && (role == "templates" || role.ends_with("static"))) continue;
        auto place = RelPath::resolve(up / role, plain);
        const Entry* entry = place ? source_.tree.find(*place) : nullptr;
        if (!entry || entry->ignored || entry->kind == EntryKind::folder) continue;
        if (target) return true;  // two things it could mean
        base = up / role;
        target = place;
      }
      if (up.is_root()) break;
    }
    if (!target) return false;
    // What was found otherwise before, is another reference; a folder that is called otherwise now still is
    // it.
    out_.add(Reference::of(Role::argument, source_.format, {{file_, piece.span.begin}},
                           {*base, kNoFile, Space::tree},
                           TracedText::literal(plain, file_, piece.span, piece.style))
                 .guessed()
                 .in(ConstructPart::of(*base))
                 .leading_to(*target));
    return true;
  }

  // "icons/" + name: the folder is named, and what is in it perhaps.
  void open(const Value& value, const std::string& plain) {
    std::size_t hole = plain.find(kHoleMark);
    if (hole == 0 && plain.rfind(kHoleMark) == 0) {
      behind_unknown(value.text, plain);
      return;
    }
    std::size_t slash = plain.rfind('/', hole);
    if (slash == std::string::npos || slash == 0 || hole == 0) return;
    std::string head = plain.substr(0, slash);
    if (head.find_first_not_of("./") == std::string::npos) return;
    bool anchored = head.starts_with(kTreeMark);
    TracedText text = value.text.substr(0, slash);
    Base base{source_.path.parent(), file_, Space::tree};
    if (anchored) {
      Place place = place_of({}, head);
      if (place.space != Space::tree || place.path.is_root() || !source_.tree.is_folder(place.path)) return;
      folder(text, base, place.path, Certainty::certain);
    } else {
      if (head.starts_with("/") || head.find(' ') != std::string::npos) return;
      std::optional<RelPath> found;
      for (RelPath up = source_.path.parent(); !found; up = up.parent()) {
        auto place = RelPath::resolve(up, head);
        if (place && !place->is_root() && source_.tree.is_folder(*place))
          found = place, base = {up, kNoFile, Space::tree};
        if (up.is_root()) break;
      }
      if (!found) return;
      folder(text, base, *found, Certainty::likely);
    }
    out_.hole(value.text, base, source_.format);
  }

  // os.path.join(somewhere, "marks", "pole.png"): most likely from a folder above.
  void behind_unknown(const TracedText& text, const std::string& plain) {
    std::string tail = plain.substr(1);
    if (!tail.starts_with("/") || tail.find('/', 1) == std::string::npos || tail.ends_with("/")) return;
    tail.erase(0, 1);
    if (!whole_ && !out_.wants_any_name(tail)) return;
    TracedText known = text.substr(2);
    for (RelPath up = source_.path.parent();; up = up.parent()) {
      auto place = RelPath::resolve(up, tail);
      const Entry* entry = place && !place->is_root() ? source_.tree.find(*place) : nullptr;
      if (entry && !entry->ignored) {
        Passage origin = known.first_origin();
        if (origin.file != file_) return;
        add_at(known, origin.span.begin, {up, kNoFile, Space::tree}, *place, Certainty::likely);
        return;
      }
      if (up.is_root()) return;
    }
  }

  void folder(const TracedText& text, const Base& base, const RelPath& place, Certainty certainty) {
    const Entry* entry = source_.tree.find(place);
    bool spelled = std::any_of(text.pieces().begin(), text.pieces().end(),
                               [](const Piece& piece) { return piece.has_origin(); });
    if (!entry || entry->ignored || !spelled || (!whole_ && !out_.wants_any_name(place.str()))) return;
    Reference reference =
        Reference::of(Role::argument, source_.format, {{file_, text.first_origin().span.begin}}, base, text)
            .as_sure_as(certainty)
            .in(certainty == Certainty::likely ? ConstructPart::of(base.folder)
                                               : ConstructPart::tagged("folder"))
            .leading_to(place);
    out_.add(std::move(reference));
  }

  const Source& source_;
  GraphBuilder& out_;
  FileIndex file_;
  bool whole_;
};

}  // namespace

std::vector<RelPath> added_roots(const Source& source, Constants& constants, GraphBuilder& out) {
  std::vector<RelPath> found;
  const std::vector<Token>& tokens = source.facts->tokens;
  auto word = [&](std::size_t i) {
    return i < tokens.size()
               ? std::string_view(*source.bytes).substr(tokens[i].span.begin, tokens[i].span.size())
               : std::string_view();
  };
  for (std::size_t i = 0; i + 6 < tokens.size(); ++i) {
    bool call = word(i) == "sys" && word(i + 1) == "." && word(i + 2) == "path" && word(i + 3) == "." &&
                word(i + 5) == "(";
    if (!call || (word(i + 4) != "insert" && word(i + 4) != "append")) continue;
    std::size_t argument = i + 6;
    if (word(i + 4) == "insert") {
      while (argument < tokens.size() && word(argument) != "," &&
             tokens[argument].kind != Token::Kind::newline)
        ++argument;
      ++argument;
    }
    Value value = evaluate_at(source, out, constants, argument);
    if (!value.known || value.text.has_hole()) continue;
    std::string text = value.text.text();
    for (RelPath up = source.path.parent();; up = up.parent()) {
      Place place = place_of(up, text);
      bool there = place.space == Space::tree && (place.path.is_root() || source.tree.is_folder(place.path));
      if (there) found.push_back(place.path);
      if (there || up.is_root() || text.starts_with("/")) break;
    }
  }
  return found;
}

void emit_paths(const Source& source, Constants& constants, GraphBuilder& out) {
  if (source.path.name() == "setup.py" || source.path.extension() == ".pyi") return;
  PathEmitter emitter(source, out);
  evaluate_all(source, out, constants,
               [&](const Value& value, std::size_t first) { emitter.emit(value, first); });
}

}  // namespace yc::python
