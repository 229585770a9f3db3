#include "formats/rust/rust_respell.h"

#include <algorithm>

#include "base/text.h"
#include "formats/rust/rust_lines.h"
#include "formats/rust/rust_lints.h"
#include "formats/rust/rust_references.h"

namespace yc::rust {

namespace {

using Words = std::vector<std::string>;

std::string joined_path(const Words& words) {
  std::string out;
  for (const std::string& word : words) out += (out.empty() ? "" : "::") + word;
  return out;
}

class Speller {
 public:
  Speller(const RewriteRequest& need, const Crates& crates)
      : need_(need), crates_(crates), moved_(need.tree, need.moves, crates) {}

  std::vector<Proposal> run() {
    const Reference& reference = need_.reference;
    if (reference.construct_part.tag.starts_with(kModuleTag)) return module_ways();
    auto spelled = spelled_by(crates_, reference, need_.graph.files);
    if (!spelled) {
      auto lint = lint_respelled(need_, crates_, moved_);
      return lint ? std::vector<Proposal>{std::move(*lint)} : std::vector<Proposal>();
    }
    return spelled->is_import ? import_ways(spelled->module, spelled->index)
                              : path_ways(spelled->module, spelled->index);
  }

 private:
  std::vector<Proposal> module_ways() {
    const Piece& piece = need_.reference.text.pieces().front();
    for (const Target& target : need_.reference.targets) {
      for (int module : crates_.modules_of(target.path)) {
        const Module& one = crates_.module(module);
        if (one.parent < 0 || crates_.path_of(one.parent) != need_.graph.files.path(piece.file)) continue;
        const ModuleLine& line =
            crates_.source_of(one.parent).facts->modules[static_cast<std::size_t>(one.line)];
        if (line.name.begin != piece.span.begin && one.path.begin != piece.span.begin) continue;
        auto edits = line_edits(crates_, moved_, module);
        if (!edits) return {};
        add_visibility_edits(crates_, moved_, module, *edits);
        if (edits->empty()) return {};
        std::string remark;
        if (auto place = moved_.place_of(module); place && place->is_by_path && !one.is_by_path)
          remark = "no module takes in the sources of that folder, so the line names the file by its path";
        return {{std::move(*edits), remark}};
      }
    }
    return {};
  }

  // How a module is named from another, after the manner of what stands there.
  std::optional<Words> spelled(int target, int from, const std::vector<std::string_view>& old) const {
    auto to = moved_.path_to(target), at = moved_.path_to(from);
    if (!to || !at) return std::nullopt;
    int crate = crates_.module(target).crate, own = crates_.module(from).crate;
    Words out;
    if (crate != own) {
      out = {std::string(old.front() == "crate" ? "" : old.front())};
      const Crate& known = crates_.crates()[static_cast<std::size_t>(own)];
      for (const auto& [name, root] : known.uses) {
        if (root == crates_.path_of(crates_.root_of(crate))) out = {name};
      }
      out.insert(out.end(), to->begin(), to->end());
      return out;
    }
    if (old.front() == crates_.crates()[static_cast<std::size_t>(own)].name &&
        crates_.crates()[static_cast<std::size_t>(own)].is_library && old.front() != "crate") {
      // Documentation names its own crate so.
      out = {std::string(old.front())};
      out.insert(out.end(), to->begin(), to->end());
      return out;
    }
    auto ends = std::mismatch(to->begin(), to->end(), at->begin(), at->end());
    auto ups = static_cast<std::size_t>(at->end() - ends.second);
    bool is_below = ups == 0;
    auto rest = [&] { out.insert(out.end(), ends.first, to->end()); };
    auto supers = static_cast<std::size_t>(std::count(old.begin(), old.end(), "super"));
    if (old.front() == "super" && ups > 0 && ups <= supers) {
      out.assign(ups, "super");
      rest();
    } else if (old.front() == "self" && is_below) {
      out = {"self"};
      rest();
    } else if (old.front() != "crate" && old.front() != "super" && old.front() != "self" && is_below &&
               ends.first != to->end()) {
      rest();
    } else {
      out = {"crate"};
      out.insert(out.end(), to->begin(), to->end());
    }
    return out;
  }

  static std::vector<std::string_view> names_of(const Source& source, const std::vector<Segment>& segments) {
    std::vector<std::string_view> out;
    for (const Segment& segment : segments) out.push_back(source.text(segment.span));
    return out;
  }

  // What an import calls the module that it binds, once that has another name.
  std::string bound_name(int file_module, std::size_t index, int target) const {
    const Source& source = crates_.source_of(file_module);
    const Import& import = source.facts->imports[index];
    std::string old(source.text(import.bound));
    if (!follows(file_module, import, source, target)) return old;
    auto place = moved_.place_of(target);
    return place ? place->name : old;
  }
  // Whether a name follows that of the module: not where it is given by "as", nor where others see it.
  bool follows(int user, const Import& import, const Source& source, int target) const {
    bool is_given = !import.segments.empty() && import.tail > import.segments.back().span.end;
    return !import.takes_all && !is_given && !import.is_documentation &&
           import.visibility.reach == Visibility::Reach::own &&
           source.text(import.bound) == crates_.module(target).name && is_free(user, import, target);
  }
  // Not where the new name means something already.
  bool is_free(int user, const Import& import, int target) const {
    auto place = moved_.place_of(target);
    int holder = crates_.module_at(crates_.file_module(user), import.scope);
    return !place || place->name == crates_.module(target).name ||
           !moved_.means_something(holder, place->name, target);
  }

  std::vector<Proposal> import_ways(int file_module, std::size_t index) {
    const Import& import = crates_.source_of(file_module).facts->imports[index];
    int user = crates_.module_at(file_module, import.scope);
    std::vector<Proposal> out;
    Crates::Found found = crates_.resolve_import(user, index);
    for (const Crates::Step& step : found.through) {
      if (auto edits = import_edits(step.module, step.import, 0); edits && !edits->empty())
        out.push_back({std::move(*edits), ""});
    }
    if (auto edits = import_edits(user, index, 0); edits && !edits->empty())
      out.push_back({std::move(*edits), ""});
    // Where a whole group leaves, the last of it may be taken out with the comma behind it.
    if (auto edits = import_edits(user, index, 1); edits && !edits->empty())
      out.push_back({std::move(*edits), ""});
    return out;
  }

  // How many segments lead up to the first name that an import in another module brings: what follows is that
  // import's to mend.
  static std::size_t declared_part(const Crates::Found& found) {
    std::size_t out = found.taken;
    for (const Crates::Step& step : found.through) {
      if (step.taken > 1) out = std::min(out, step.taken - 1);
    }
    return out;
  }

  // Edits of one import, so that it names what it did. `manner` says how elements leave a group.
  std::optional<std::vector<Edit>> import_edits(int user, std::size_t index, int manner) const {
    const Source& source = crates_.source_of(user);
    const Import& import = source.facts->imports[index];
    Crates::Found found = crates_.resolve_import(user, index);
    if (found.modules.empty()) return std::nullopt;
    std::vector<Segment> prefix(import.segments.begin(),
                                import.segments.begin() + static_cast<std::ptrdiff_t>(found.taken));
    std::size_t declared = declared_part(found);
    auto resolve = [&](const std::vector<Segment>& head) {
      return crates_.resolve({user, import.scope, names_of(source, head), import.is_global, true,
                              is_example(source, import), index});
    };
    std::vector<Edit> out;
    std::optional<ModulePath> above;
    for (std::size_t begin = 0; begin < prefix.size();) {
      std::size_t end = begin + 1;
      while (end < prefix.size() && prefix[end].group == prefix[begin].group) ++end;
      std::size_t known = std::clamp(declared, begin, end);
      std::vector<Segment> head(prefix.begin(), prefix.begin() + static_cast<std::ptrdiff_t>(known));
      Words words;
      if (known > begin) {
        Crates::Found at = resolve(head);
        auto now =
            at.modules.empty() || at.taken != known ? std::nullopt : moved_.path_to(at.modules.front());
        if (!now) return std::nullopt;
        if (begin == 0) {
          auto first = first_words(user, source, head, at.modules.front());
          if (!first) return std::nullopt;
          words = *first;
        } else if (above && begins_with(*now, *above) && now->size() > above->size()) {
          words.assign(now->begin() + static_cast<std::ptrdiff_t>(above->size()), now->end());
        } else {
          auto left = leave_group(user, import, head, at.modules.front(), manner);
          if (!left) return std::nullopt;
          out.insert(out.end(), left->begin(), left->end());
          return out;
        }
        above = now;
      }
      for (std::size_t i = known; i < end; ++i) words.push_back(word_through(source, prefix, i, resolve));
      Span chunk = span_of(prefix[begin].span.begin, prefix[end - 1].span.end);
      if (joined_path(words) != source.text(chunk)) out.push_back({source.path, chunk, joined_path(words)});
      begin = end;
    }
    keep_name(user, source, import, found, out);
    return out;
  }

  // The name that others know stays, though that of the module goes.
  void keep_name(int user, const Source& source, const Import& import, const Crates::Found& found,
                 std::vector<Edit>& out) const {
    bool binds_module =
        found.taken == import.segments.size() ||
        (found.taken + 1 == import.segments.size() && source.text(import.segments.back().span) == "self");
    if (!binds_module || import.takes_all || import.bound.size() == 0) return;
    int target = found.modules.front();
    auto place = moved_.place_of(target);
    bool is_given = import.tail > import.segments.back().span.end;
    if (!place || place->name == source.text(import.bound) || is_given ||
        follows(user, import, source, target))
      return;
    out.push_back({source.path, {import.tail, import.tail}, " as " + std::string(source.text(import.bound))});
  }

  static bool is_example(const Source& source, const Import& import) {
    std::string_view first = source.text(import.segments.front().span);
    return import.is_documentation && first != "crate" && first != "super" && first != "self";
  }

  // What an import begins with, as it stands if that still holds.
  std::optional<Words> first_words(int user, const Source& source, const std::vector<Segment>& head,
                                   int module) const {
    std::vector<std::string_view> old = names_of(source, head);
    if (still_means(user, old, module)) return Words(old.begin(), old.end());
    auto words = spelled(module, user, old);
    bool is_from_root =
        crates_.crates()[static_cast<std::size_t>(crates_.module(user).crate)].names_from_root;
    if (words && is_from_root && words->front() == "crate" && words->size() > 1 && old.front() != "crate")
      words->erase(words->begin());
    return words;
  }

  // A name that an import elsewhere brings: it stays, but where all names of a module are brought as they
  // are.
  template <typename Resolve>
  std::string word_through(const Source& source, const std::vector<Segment>& segments, std::size_t at,
                           const Resolve& resolve) const {
    std::string old(source.text(segments[at].span));
    Crates::Found found = resolve({segments.begin(), segments.begin() + static_cast<std::ptrdiff_t>(at + 1)});
    if (found.modules.empty() || found.taken != at + 1) return old;
    for (const Crates::Step& step : found.through) {
      if (step.taken != at + 1) continue;
      const Import& import = crates_.source_of(step.module).facts->imports[step.import];
      if (!import.takes_all && crates_.source_of(step.module).text(import.bound) == old) return old;
    }
    auto place = moved_.place_of(found.modules.front());
    return place && old == crates_.module(found.modules.front()).name ? place->name : old;
  }

  // Whether words that begin with a keyword mean a module from the new place of their own.
  bool still_means(int user, const std::vector<std::string_view>& old, int target) const {
    auto at = moved_.path_to(user), to = moved_.path_to(target);
    if (!at || !to || crates_.module(user).crate != crates_.module(target).crate)
      return old.size() == 1;  // another crate keeps its name
    ModulePath means;
    std::size_t i = 0;
    if (old.front() == "crate") {
      i = 1;
    } else {
      means = *at;
      for (; i < old.size() && (old[i] == "super" || (old[i] == "self" && i == 0)); ++i) {
        if (old[i] != "super") continue;
        if (means.empty()) return false;
        means.pop_back();
      }
    }
    for (; i < old.size(); ++i) means.emplace_back(old[i]);
    return means == *to;
  }

  // Out of a group whose head it shares no longer, into an import of its own behind it.
  std::optional<std::vector<Edit>> leave_group(int user, const Import& import,
                                               const std::vector<Segment>& head, int module,
                                               int manner) const {
    const Source& source = crates_.source_of(user);
    std::uint32_t group = head.back().group;
    if (group == 0 || group > import.elements.size()) return std::nullopt;
    const Import::Element& element = import.elements[import.elements.size() - group];
    auto words = spelled(module, user, {"crate"});
    if (!words) return std::nullopt;
    std::string_view bytes = *source.bytes;
    std::size_t use = bytes.find("use", import.item.begin);
    if (import.visibility.span.size() > 0) use = bytes.find("use", import.visibility.span.end);
    if (use == std::string_view::npos || use > import.item.end) return std::nullopt;
    std::string line(bytes.substr(import.item.begin, use + 3 - import.item.begin));
    line +=
        " " + joined_path(*words) + std::string(source.text({head.back().span.end, element.span.end})) + ";";
    std::string indent(indent_at(bytes, import.item.begin));
    Span out = element.without;
    if (manner == 1) {
      out = element.span;
      std::size_t comma = bytes.find_first_not_of(" \t\r\n", out.end);
      if (comma != std::string_view::npos && bytes[comma] == ',')
        out.end = static_cast<std::uint32_t>(comma + 1);
    }
    std::string gap = import.is_documentation ? " " : "\n" + indent;
    return std::vector<Edit>{{source.path, out, ""},
                             {source.path, {import.item.end, import.item.end}, gap + line}};
  }

  std::vector<Proposal> path_ways(int file_module, std::size_t index) {
    const Source& source = crates_.source_of(file_module);
    const Path& path = source.facts->paths[index];
    Crates::Found found = crates_.resolve_path(file_module, path);
    if (found.modules.empty()) return {};
    int user = crates_.module_at(file_module, path.scope);
    std::vector<Segment> all;
    for (std::size_t i = 0; i < found.taken; ++i) all.push_back({path.segments[i], 0});
    auto resolve = [&](const std::vector<Segment>& head) {
      Path part = path;
      part.is_cut = head.size() < part.segments.size();
      part.segments.resize(head.size());
      return crates_.resolve_path(file_module, part);
    };
    std::vector<Segment> head(all.begin(), all.begin() + static_cast<std::ptrdiff_t>(declared_part(found)));
    std::vector<std::string_view> old = names_of(source, head);
    Crates::Found declared = resolve(head);
    if (declared.modules.empty() || declared.taken != head.size()) return {};
    int target = declared.modules.front();
    Words tail;
    for (std::size_t i = head.size(); i < all.size(); ++i)
      tail.push_back(word_through(source, all, i, resolve));
    Span span = span_of(all.front().span.begin, all.back().span.end);
    std::vector<Proposal> out;
    for (const Crates::Step& step : declared.through) {
      auto way = through(step, declared, source, span, tail);
      if (!way) continue;
      // What it goes through is as it was: so is the path.
      if (way->edits.empty()) return {};
      out.push_back(std::move(*way));
    }
    std::optional<Words> words = Words(old.begin(), old.end());
    // "::tide::level" begins at the root, in the edition of 2015.
    bool is_from_root = path.is_global && crates_.module(target).crate == crates_.module(user).crate;
    if (is_from_root) {
      auto now = moved_.path_to(target);
      words = now ? std::optional<Words>(*now) : std::nullopt;
    } else if (!declared.through.empty() || !still_means(user, old, target)) {
      words = spelled(target, user, old);
    }
    if (!words || words->empty()) return out;
    words->insert(words->end(), tail.begin(), tail.end());
    if (joined_path(*words) != source.text(span))
      out.push_back({{Edit{source.path, span, joined_path(*words)}}, ""});
    return out;
  }

  // By an import that binds the first name, if what it binds went along.
  std::optional<Proposal> through(const Crates::Step& step, const Crates::Found& found, const Source& source,
                                  Span span, const Words& tail) const {
    auto edits = import_edits(step.module, step.import, 0);
    Crates::Found bound = crates_.resolve_import(step.module, step.import);
    if (!edits || bound.modules.empty()) return std::nullopt;
    auto head = moved_.path_to(bound.modules.front()), whole = moved_.path_to(found.modules.front());
    if (!head || !whole || !begins_with(*whole, *head)) return std::nullopt;
    const Import& import = crates_.source_of(step.module).facts->imports[step.import];
    // Of all names of a module each is what the module calls it, or what an import in it does.
    bool is_named = std::any_of(found.through.begin(), found.through.end(), [&](const Crates::Step& other) {
      return other.taken == 1 && !crates_.source_of(other.module).facts->imports[other.import].takes_all;
    });
    if (import.takes_all && is_named && step.taken == 1) return std::nullopt;  // that one says
    if (step.taken == 1) {
      Words words;
      if (!import.takes_all) words = {bound_name(step.module, step.import, bound.modules.front())};
      words.insert(words.end(), whole->begin() + static_cast<std::ptrdiff_t>(head->size()), whole->end());
      words.insert(words.end(), tail.begin(), tail.end());
      if (joined_path(words) != source.text(span)) edits->push_back({source.path, span, joined_path(words)});
    }
    return Proposal{std::move(*edits), ""};
  }

  const RewriteRequest& need_;
  const Crates& crates_;
  Relocation moved_;
};

}  // namespace

std::vector<Proposal> respelled(const RewriteRequest& need, const Crates& crates) {
  return Speller(need, crates).run();
}

}  // namespace yc::rust
