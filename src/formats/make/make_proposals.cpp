#include "formats/make/make_proposals.h"

#include <algorithm>
#include <map>
#include <optional>
#include <set>

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

std::vector<Proposal> add_search_root(const ReferenceGraph& graph, const Unit& unit, const RelPath& root,
                                      const TreeReader& tree) {
  std::vector<Proposal> out;
  const RelPath& makefile = graph.files.path(unit.site.file);
  bool is_automake = makefile.name() == "Makefile.am";
  std::string folder =
      is_automake ? automake_folder(makefile, root, tree) : relative_text(makefile.parent(), root);
  auto bytes = tree.read(makefile);
  if (!bytes) return out;
  // Behind the last word that gives one; then behind that of each line, as commands may each have their own.
  std::map<std::size_t, std::uint32_t> ends;  // by where the line begins
  std::optional<std::uint32_t> last;
  for (const TracedText& word : unit.root_words) {
    const auto& pieces = word.pieces();
    if (pieces.empty() || !pieces.back().has_origin() || graph.files.path(pieces.back().file) != makefile)
      continue;
    last = pieces.back().span.end;
    std::size_t line = (*bytes)->rfind('\n', *last);
    ends[line == std::string::npos ? 0 : line] = *last;
  }
  if (last) out.push_back({{Edit{makefile, {*last, *last}, " -I" + folder}}, ""});
  if (ends.size() > 1) {
    Proposal all;
    for (const auto& [line, end] : ends) all.edits.push_back({makefile, {end, end}, " -I" + folder});
    out.push_back(std::move(all));
  }
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
