#include "formats/make/make_proposals.h"

#include <algorithm>
#include <map>
#include <optional>
#include <set>
#include <tuple>

#include "formats/make/make_syntax.h"

namespace yc::make {

namespace {

// One more folder on VPATH (or a vpath line), for a file that is looked up there.
std::vector<Proposal> search_path_ways(const RewriteRequest& need) {
  std::vector<Proposal> out;
  if (need.wanted.empty()) return out;
  std::string folder = relative_text(need.new_base, need.wanted.front().path.parent());
  for (const Reference& other : need.graph.references) {
    bool is_path = other.role == Role::search_root && other.format == need.reference.format &&
                   other.base.folder == need.reference.base.folder && other.construct.back().offset == 0 &&
                   !other.text.pieces().empty() && other.text.pieces().back().has_origin();
    if (!is_path) continue;
    const Piece& last = other.text.pieces().back();
    const RelPath& file = need.graph.files.path(last.file);
    auto bytes = need.tree.read(file);
    if (!bytes) continue;
    bool colon = last.span.begin > 0 && (**bytes)[last.span.begin - 1] == ':';
    colon = colon || (last.span.end < (*bytes)->size() && (**bytes)[last.span.end] == ':');
    out.push_back({{Edit{file, {last.span.end, last.span.end}, (colon ? ":" : " ") + folder}}, ""});
    break;
  }
  return out;
}

// The bytes of a rule, header and recipe, and where its header line ends.
struct RuleText {
  Span whole;
  std::uint32_t header_end = 0;
};

std::optional<RuleText> rule_text(std::string_view bytes, std::uint32_t offset) {
  if (offset >= bytes.size()) return std::nullopt;
  auto line_end = [&](std::size_t at) {
    while (true) {
      std::size_t end = std::min(bytes.find('\n', at), bytes.size());
      if (end == bytes.size() || end == 0 || bytes[end - 1] != '\\') return end;
      at = end + 1;
    }
  };
  RuleText out;
  std::size_t end = line_end(offset);
  out.header_end = static_cast<std::uint32_t>(end);
  while (end + 1 < bytes.size() && bytes[end + 1] == '\t') end = line_end(end + 1);
  out.whole = {offset, static_cast<std::uint32_t>(std::min(end + 1, bytes.size()))};
  return out;
}

// A rule for one product, made from a pattern rule: the product and its sources are named, the recipe is the
// same.
std::optional<Edit> explicit_rule(const RewriteRequest& need, const std::string& product) {
  const Derivation& derivation = *need.reference.derivation;
  if (derivation.rule.file == kNoFile) return std::nullopt;
  const RelPath& file = need.graph.files.path(derivation.rule.file);
  auto bytes = need.tree.read(file);
  if (!bytes) return std::nullopt;
  auto rule = rule_text(**bytes, derivation.rule.offset);
  if (!rule) return std::nullopt;
  std::string header = (*bytes)->substr(rule->whole.begin, rule->header_end - rule->whole.begin);
  std::string recipe = (*bytes)->substr(rule->header_end, rule->whole.end - rule->header_end);
  // "$*" has no meaning in an explicit rule, and a static pattern names its targets elsewhere.
  std::size_t colon = find_outside(header, ":");
  if (colon == std::string::npos || recipe.find("$*") != std::string::npos ||
      recipe.find("$(*") != std::string::npos)
    return std::nullopt;
  if (find_outside(header, ":", colon + 1) != std::string::npos || header.find(';') != std::string::npos)
    return std::nullopt;
  // Every word with a '%' names a source of the product: those that move are named by their new places.
  std::string stem =
      product.substr(derivation.name_head.size(),
                     product.size() - derivation.name_head.size() - derivation.name_tail.size());
  std::map<std::size_t, std::string> moved;
  for (const Reference& other : need.graph.references) {
    bool same = other.derivation && other.construct == need.reference.construct &&
                other.derivation->rule == derivation.rule && other.derivation->name.text() == product;
    if (!same) continue;
    for (const Target& target : other.targets) {
      if (target.kind == Target::Kind::tree && need.moves.moves(target.path) &&
          other.derivation->place != kNoPlace)
        moved[other.derivation->place] = relative_text(need.new_base, need.moves.map_file(target.path));
    }
  }
  std::string rest = header.substr(colon + 1), filled;
  bool any = false;
  std::size_t place = 0;
  for (std::size_t at = 0; at < rest.size();) {
    std::size_t begin = std::min(rest.find_first_not_of(" \t\\\r\n", at), rest.size());
    std::size_t end = std::min(find_outside(rest, " \t", begin), rest.size());
    filled += rest.substr(at, begin - at);
    std::string word = rest.substr(begin, end - begin);
    at = end;
    if (word.find('%') == std::string::npos) {
      filled += word;
      continue;
    }
    any = true;
    if (auto own = moved.find(place++); own != moved.end()) {
      filled += own->second;
    } else {
      word.replace(word.find('%'), 1, stem);
      filled += word;
    }
  }
  if (!any) return std::nullopt;
  rest = std::move(filled);
  if (recipe.empty() || recipe.back() != '\n') recipe += "\n";
  bool ends_line = (*bytes)->at(rule->whole.end - 1) == '\n';
  std::string text = (ends_line ? "\n" : "\n\n") + product + ":" + rest + recipe;
  // Rules for several products may stand there.
  return Edit{file, {rule->whole.end, rule->whole.end}, text, product};
}

// The outermost span of a list that ends a variable's value or a prerequisite list: behind it one more word
// may stand.
std::vector<Passage> list_ends(const TracedText& name) {
  std::vector<Passage> out;
  if (name.pieces().empty()) return out;
  for (const Passage& passage : name.pieces().front().via) {
    bool shared = std::all_of(name.pieces().begin(), name.pieces().end(), [&](const Piece& piece) {
      return std::find(piece.via.begin(), piece.via.end(), passage) != piece.via.end();
    });
    if (shared) out.push_back(passage);
  }
  std::reverse(out.begin(), out.end());
  return out;
}

}  // namespace

namespace {

// A unit of automake without a list of sources is made of the one file that is called like it: a list makes
// the file's place explicit.
std::optional<Proposal> own_list(const RewriteRequest& need) {
  const std::vector<Piece>& pieces = need.reference.text.pieces();
  Site site = need.reference.construct.back();
  bool is_default = need.reference.role == Role::source && pieces.size() == 2 && pieces[0].has_origin() &&
                    !pieces[1].has_origin() && pieces[1].text == ".c" && need.wanted.size() == 1;
  if (!is_default || site.file == kNoFile || need.graph.files.path(site.file).name() != "Makefile.am")
    return std::nullopt;
  auto bytes = need.tree.read(need.graph.files.path(site.file));
  if (!bytes) return std::nullopt;
  // The unit's word may go on behind its stem: "libtide.la".
  std::string unit = pieces[0].text;
  for (std::uint32_t at = pieces[0].span.end; at < (*bytes)->size() && !std::isspace((**bytes)[at]); ++at)
    unit += (**bytes)[at];
  for (char& c : unit) {
    if (!std::isalnum(static_cast<unsigned char>(c)) && c != '@') c = '_';
  }
  std::string line = unit + "_SOURCES = " + relative_text(need.new_base, need.wanted[0].path) + "\n";
  return Proposal{{Edit{need.graph.files.path(site.file), {site.offset, site.offset}, line, line}}, ""};
}

}  // namespace

std::vector<Proposal> name_makefile(const RewriteRequest& need) {
  std::vector<Proposal> out;
  const std::vector<Piece>& pieces = need.reference.text.pieces();
  if (need.wanted.size() != 1 || pieces.empty()) return out;
  // What a makefile is relative to goes where it goes, unless it is started from the old folder still.
  const RelPath& folder = need.reference.base.folder;
  std::vector<RelPath> bases = {need.new_base, need.moves.map_folder(folder).value_or(folder)};
  if (bases[0] == bases[1]) bases.pop_back();
  // Behind "$(MAKE)", from the inside out, or behind the word itself.
  std::vector<Passage> places(pieces.back().via.begin(), pieces.back().via.end());
  std::reverse(places.begin(), places.end());
  if (pieces.back().has_origin()) places.push_back({pieces.back().file, pieces.back().span});
  for (const RelPath& base : bases) {
    auto name = format_at(need.reference.format).write(relative_text(base, need.wanted[0].path), 0);
    if (!name) continue;
    for (const Passage& place : places) {
      Span behind{place.span.end, place.span.end};
      out.push_back({{Edit{need.graph.files.path(place.file), behind, " -f " + *name}}, ""});
    }
  }
  return out;
}

namespace {

// A compiler names an object after its source: it is told the old name, behind the new one of the source.
std::vector<Proposal> name_object(const RewriteRequest& need) {
  const std::vector<Piece>& pieces = need.reference.text.pieces();
  bool plain = !pieces.empty() && pieces.back().has_origin() && pieces.back().verbatim &&
               pieces.back().via.empty() && !pieces.back().automatic;
  if (!plain) return {};
  // With several sources there are several objects, and no one name for them.
  bool several =
      std::any_of(need.graph.references.begin(), need.graph.references.end(), [&](const Reference& other) {
        return other.role == Role::product && other.construct == need.reference.construct &&
               other.targets.size() == 1 && other.targets[0].kind == Target::Kind::name &&
               other.targets[0] != need.wanted[0];
      });
  if (several) return {};
  // Tools that call the compiler themselves name objects in their own way.
  auto bytes = need.tree.read(need.graph.files.path(pieces.back().file));
  if (!bytes) return {};
  std::size_t line = (*bytes)->rfind('\n', pieces.back().span.begin) + 1;
  std::string_view command = std::string_view(**bytes).substr(line, pieces.back().span.begin - line);
  if (command.find("libtool") != std::string_view::npos || command.find("LIBTOOL") != std::string_view::npos)
    return {};
  Span behind{pieces.back().span.end, pieces.back().span.end};
  return {
      {{Edit{need.graph.files.path(pieces.back().file), behind, " -o " + need.wanted[0].path.str()}}, ""}};
}

}  // namespace

std::vector<Proposal> late_proposals(const RewriteRequest& need) {
  if (need.wanted.size() == 1 && need.wanted[0].kind == Target::Kind::name) return name_object(need);
  std::vector<Proposal> out;
  if (auto list = own_list(need)) out.push_back(std::move(*list));
  if (need.reference.search.size() > 0 && need.reference.role == Role::source) {
    std::vector<Proposal> more = search_path_ways(need);
    out.insert(out.end(), more.begin(), more.end());
  }
  if (!need.reference.derivation || need.wanted.empty()) return out;
  const Derivation& derivation = *need.reference.derivation;
  if (derivation.place == kNoPlace) return out;
  std::string product = derivation.name.text();
  auto rule = explicit_rule(need, product);
  if (!rule) return out;
  out.push_back({{*rule}, ""});
  // Where the list of products comes from a pattern of sources, the product must be named besides.
  for (const Passage& passage : list_ends(derivation.name)) {
    out.push_back(
        {{*rule,
          Edit{need.graph.files.path(passage.file), {passage.span.end, passage.span.end}, " " + product}},
         ""});
  }
  return out;
}

std::optional<Proposal> exclude(const ReferenceGraph& graph, const Reference& pattern,
                                const std::string& path, const TreeReader& tree) {
  if (!pattern.feeds_list || pattern.construct.empty()) return std::nullopt;
  Site call = pattern.construct.back();
  if (call.file == kNoFile) return std::nullopt;
  auto bytes = tree.read(graph.files.path(call.file));
  if (!bytes || call.offset >= (*bytes)->size() || (**bytes)[call.offset] != '$') return std::nullopt;
  std::uint32_t end = static_cast<std::uint32_t>(reference_end(**bytes, call.offset));
  const RelPath& file = graph.files.path(call.file);
  return Proposal{
      {Edit{file, {call.offset, call.offset}, "$(filter-out " + path + ","}, Edit{file, {end, end}, ")"}},
      ""};
}

std::vector<Proposal> provide_folders(const RelPath& script, const std::string& bytes,
                                      const std::vector<const Reference*>& products) {
  std::map<std::string, std::set<std::string>> by_folder;
  for (const Reference* product : products) {
    std::string name = product->text.text();
    std::size_t cut = name.rfind('/');
    // A pattern, as what "clean" takes away, is nothing that is made.
    if (cut == std::string::npos || name.find_first_of("*?[%") != std::string::npos) return {};
    by_folder[name.substr(0, cut)].insert(name);
  }
  std::string text = bytes.empty() || bytes.back() == '\n' ? "" : "\n";
  std::string folders;
  for (const auto& [folder, names] : by_folder) {
    text += "\n";
    for (const std::string& name : names) text += (name == *names.begin() ? "" : " ") + name;
    text += ": | " + folder + "\n";
    folders += (folders.empty() ? "" : " ") + folder;
  }
  text += "\n" + folders + ":\n\tmkdir -p $@\n";
  std::uint32_t end = static_cast<std::uint32_t>(bytes.size());
  return {Proposal{{Edit{script, {end, end}, text}}, ""}};
}

namespace {

const Statement* find_flags(const Block& block, std::string_view name) {
  for (const Statement& statement : block) {
    if (statement.kind == Statement::Kind::assign && statement.name.text() == name && statement.op != "?=")
      return &statement;
  }
  return nullptr;
}

}  // namespace

namespace {

// Compilers are started in the build tree, which may be another one: from the top of the sources, or from the
// script's own folder in them.
std::string automake_folder(const RelPath& makefile, const RelPath& root, const TreeReader& tree) {
  for (RelPath top = makefile.parent();; top = top.parent()) {
    bool is_top = tree.is_file(top / "configure.ac") || tree.is_file(top / "configure.in");
    if (is_top && root == top) return "$(top_srcdir)";
    if (is_top && root.is_within(top)) return "$(top_srcdir)/" + std::string(root.below(top));
    if (is_top || top.is_root()) return "$(srcdir)/" + relative_text(makefile.parent(), root);
  }
}

}  // namespace

namespace {

// A line of a script that gives compilers a folder to search, and where the last word there ends that does.
struct RootLine {
  RelPath file;
  std::size_t begin = 0;
  std::string variable = {};  // that gets a value there, if any
  auto operator<=>(const RootLine&) const = default;
};
using RootLines = std::map<RootLine, std::uint32_t>;

std::string variable_set_by(std::string_view line) {
  line = line.substr(0, line.find('\n', 1));
  std::size_t equals = line.find('=');
  if (equals == std::string_view::npos) return "";
  std::size_t begin = line.find_first_not_of(" \t\n");
  std::size_t end = line.find_last_not_of(" \t:+?=", equals);
  return end == std::string_view::npos || end < begin ? "" : std::string(line.substr(begin, end + 1 - begin));
}

RootLines root_lines(const ReferenceGraph& graph, const Unit& unit, const TreeReader& tree) {
  RootLines out;
  for (const TracedText& word : unit.root_words) {
    const auto& pieces = word.pieces();
    if (pieces.empty() || !pieces.back().has_origin()) continue;
    const RelPath& file = graph.files.path(pieces.back().file);
    // What stands in another folder is most likely shared with makefiles there, which count from elsewhere.
    if (file.parent() != graph.files.path(unit.site.file).parent()) continue;
    auto bytes = tree.is_editable(file) ? tree.read(file) : Result<Bytes>(Error{});
    if (!bytes) continue;
    std::uint32_t end = pieces.back().span.end;
    std::size_t line = (*bytes)->rfind('\n', end - 1);
    if (line == std::string::npos) line = 0;
    std::uint32_t& last = out[{file, line, variable_set_by(std::string_view(**bytes).substr(line))}];
    last = std::max(last, end);
  }
  return out;
}

// Few lines, of which each run has one as far as any does; those of one variable, if one is given. `first` is
// taken where it does as well as others. What no line is left for stays in `runs`.
RootLines cover(std::vector<RootLines>& runs, const std::optional<RootLine>& first,
                const std::optional<std::string>& variable) {
  RootLines out;
  while (true) {
    std::map<RootLine, std::pair<std::size_t, std::uint32_t>> uses;  // how many runs have it; its end
    for (const RootLines& lines : runs) {
      for (const auto& [line, end] : lines) {
        if (variable && line.variable != *variable) continue;
        auto& [count, last] = uses[line];
        ++count;
        last = std::max(last, end);
      }
    }
    if (uses.empty()) return out;
    auto rank = [&](const auto& use) { return std::pair(use.second.first, use.first == first); };
    auto best = std::max_element(uses.begin(), uses.end(),
                                 [&](const auto& a, const auto& b) { return rank(a) < rank(b); });
    out.emplace(best->first, best->second.second);
    std::erase_if(runs, [&](const RootLines& lines) { return lines.contains(best->first); });
  }
}

// Few lines, of which each run of a makefile has one: where a side of a conditional sets the flags anew, they
// are given on another line there, most often to the same variable.
RootLines lines_for_all(const ReferenceGraph& graph, const Unit& unit, const TreeReader& tree,
                        const std::optional<RootLine>& first) {
  std::vector<RootLines> runs;
  std::set<std::string> variables;
  for (const Unit& other : graph.units) {
    if (other.format != unit.format || other.site != unit.site || other.name != unit.name) continue;
    RootLines lines = root_lines(graph, other, tree);
    for (const auto& [line, end] : lines) variables.insert(line.variable);
    if (!lines.empty()) runs.push_back(std::move(lines));
  }
  RootLines out;
  std::optional<std::tuple<std::size_t, std::size_t, bool>> least;
  std::vector<RootLines> left;
  for (const std::string& variable : variables) {
    std::vector<RootLines> rest = runs;
    RootLines lines = cover(rest, first, variable);
    std::tuple cost(rest.size(), lines.size(), !first || !lines.contains(*first));
    if (least && *least <= cost) continue;
    least = cost;
    out = std::move(lines);
    left = std::move(rest);
  }
  out.merge(cover(left, first, std::nullopt));
  return out;
}

}  // namespace

std::vector<Proposal> add_search_root(const ReferenceGraph& graph, const Unit& unit, const RelPath& root,
                                      const TreeReader& tree) {
  std::vector<Proposal> out;
  const RelPath& makefile = graph.files.path(unit.site.file);
  bool is_automake = makefile.name() == "Makefile.am";
  std::string folder =
      is_automake ? automake_folder(makefile, root, tree) : relative_text(makefile.parent(), root);
  auto bytes = tree.read(makefile);
  if (!bytes) return out;
  auto propose = [&](const RootLines& lines) {
    Proposal way;
    for (const auto& [line, end] : lines) way.edits.push_back({line.file, {end, end}, " -I" + folder});
    if (!way.edits.empty()) out.push_back(std::move(way));
  };
  // Behind the last word that gives one; then behind that of each line, as commands may each have their own.
  RootLines all = root_lines(graph, unit, tree), own_lines;
  std::optional<RootLine> last;
  for (const auto& [line, end] : all) {
    if (line.file == makefile) own_lines.emplace(line, end), last = line;
  }
  RootLines for_all = lines_for_all(graph, unit, tree, last);
  propose(for_all);
  if (last && (for_all.size() != 1 || for_all.begin()->first != *last))
    propose({{*last, own_lines.at(*last)}});
  if (own_lines.size() > 1) propose(own_lines);
  Syntax syntax = parse(**bytes, 0);
  const char* const own = is_automake ? "AM_CPPFLAGS" : "CPPFLAGS";
  for (std::string_view name :
       {own, is_automake ? "AM_CFLAGS" : "CFLAGS", is_automake ? "AM_CXXFLAGS" : "CXXFLAGS"}) {
    const Statement* flags = find_flags(syntax.block, name);
    if (!flags || flags->value.empty()) continue;
    TracedText trimmed = flags->value.trimmed();
    if (trimmed.empty() || !trimmed.pieces().back().has_origin()) continue;
    std::uint32_t end = trimmed.pieces().back().span.end;
    out.push_back({{Edit{makefile, {end, end}, " -I" + folder}}, ""});
  }
  std::uint32_t top = 0;
  for (const Statement& statement : syntax.block) {
    if (statement.kind == Statement::Kind::rule) {
      top = statement.site.offset;
      break;
    }
  }
  // Automake adds only to what is there.
  bool is_set = !is_automake || find_flags(syntax.block, own);
  std::string line = std::string(own) + (is_set ? " += -I" : " = -I") + folder + "\n";
  out.push_back({{Edit{makefile, {top, top}, line}}, ""});
  return out;
}

}  // namespace yc::make
