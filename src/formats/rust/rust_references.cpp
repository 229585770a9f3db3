#include "formats/rust/rust_references.h"

#include <algorithm>

#include "base/all_cores.h"
#include "base/text.h"
#include "formats/rust/rust_attributes.h"
#include "formats/rust/rust_lints.h"

namespace yc::rust {

namespace {

std::optional<Source> load_crate(const Reading& in, const RelPath& path) {
  auto bytes = in.tree.is_file(path) ? in.tree.read(path) : Result<Bytes>(Error{});
  if (!bytes) return std::nullopt;
  Source out;
  out.path = path;
  out.bytes = *bytes;
  out.facts =
      in.cache.get<SourceFacts>(in.self, *bytes, [](const std::string& text) { return scan_source(text); });
  return out;
}

class Adder {
 public:
  Adder(const Reading& in, const Crates& crates) : in_(in), crates_(crates) {}

  void run() {
    const Focus* focus = in_.out.focus();
    std::set<int> wanted = focus ? wanted_crates(*focus) : std::set<int>();
    for (int i = 0; i < static_cast<int>(crates_.modules().size()); ++i) {
      const Module& module = crates_.module(i);
      if (focus && !wanted.contains(module.crate)) continue;
      if (crates_.is_file(i) && module.parent >= 0) declared(i);
      if (crates_.is_file(i) && in_.tree.is_editable(crates_.path_of(i))) paths(i);
    }
    for (const Crates::Missing& missing : crates_.missing()) {
      if (!focus || wanted.contains(crates_.module(missing.module).crate)) lacks(missing);
    }
  }

 private:
  // Those of which a source moves, and those whose sources may name them.
  std::set<int> wanted_crates(const Focus& focus) const {
    std::set<int> out;
    for (const Module& module : crates_.modules()) {
      if (focus.files.contains(crates_.source(module.source).path)) out.insert(module.crate);
    }
    for (std::size_t before = 0; before != out.size();) {
      before = out.size();
      for (std::size_t i = 0; i < crates_.crates().size(); ++i) {
        for (const auto& [name, root] : crates_.crates()[i].uses) {
          for (int module : crates_.modules_of(root)) {
            if (out.contains(crates_.module(module).crate)) out.insert(static_cast<int>(i));
          }
        }
      }
    }
    return out;
  }

  Reference begun(int file_module, Site site, TracedText text) const {
    const RelPath& path = crates_.path_of(file_module);
    return Reference::of(Role::module, in_.self, {site},
                         {path.parent(), in_.out.files().index(path), Space::tree}, std::move(text))
        .spelled_by_format();
  }

  Site root_site(int crate) const {
    return {in_.out.files().index(crates_.path_of(crates_.root_of(crate))), 0};
  }

  // The modules of a crate are one set for each condition, wherever the lines that declare them stand.
  Reference line(int parent, std::size_t index, Span by_path, const std::string& conditions) const {
    const Source& source = crates_.source_of(parent);
    Span span = by_path.size() > 0 ? by_path : source.facts->modules[index].name;
    return begun(
               parent, root_site(crates_.module(parent).crate),
               TracedText::literal(std::string(source.text(span)), in_.out.files().index(source.path), span))
        .in(ConstructPart::tagged(kModuleTag + conditions));
  }

  void declared(int index) {
    const Module& module = crates_.module(index);
    std::string conditions;
    for (const std::string& attribute : attributes_above(crates_, index)) {
      if (attribute.starts_with("[cfg(")) conditions += attribute;
    }
    in_.out.add(line(module.parent, static_cast<std::size_t>(module.line), module.path, conditions)
                    .leading_to(crates_.path_of(index)));
  }

  // Conditions, macros and generated sources may be why there is none.
  void lacks(const Crates::Missing& missing) {
    const ModuleLine& found = crates_.source_of(missing.module).facts->modules[missing.line];
    if (!found.attributes.empty() || found.in_macro || !found.paths.empty()) return;
    Reference reference = line(missing.module, missing.line, {}, "");
    reference.dangling = true;
    in_.out.add(std::move(reference));
  }

  void paths(int file_module) {
    const SourceFacts& facts = *crates_.source_of(file_module).facts;
    for (std::size_t i = 0; i < facts.imports.size(); ++i) {
      const Import& import = facts.imports[i];
      Crates::Found found = crates_.resolve_import(crates_.module_at(file_module, import.scope), i);
      add(file_module, import.scope, import.segments, found);
    }
    for (const Path& path : facts.paths) {
      std::vector<Segment> segments;
      for (const Span& span : path.segments) segments.push_back({span, 0});
      add(file_module, path.scope, segments, crates_.resolve_path(file_module, path));
    }
  }

  void add(int file_module, std::int32_t scope, const std::vector<Segment>& segments,
           const Crates::Found& found) {
    if (found.modules.empty() || found.taken == 0) return;
    const Source& source = crates_.source_of(file_module);
    std::string_view first = source.text(segments.front().span);
    // "crate" and "self" mean the same wherever the source goes.
    bool is_fixed = found.taken == 1 && (first == "crate" || first == "self");
    if (is_fixed) return;
    std::set<RelPath> targets;
    bool leaves = false;
    for (int module : found.modules) {
      targets.insert(crates_.path_of(module));
      leaves = leaves || crates_.file_module(module) != file_module;
    }
    // Within one source, but for what is spelled from the root.
    const Crate& crate = crates_.crates()[static_cast<std::size_t>(crates_.module(file_module).crate)];
    if (!leaves && first != "crate" && first != crate.name) return;
    Prefix prefix{{segments.begin(), segments.begin() + static_cast<std::ptrdiff_t>(found.taken)}};
    FileIndex file = in_.out.files().index(source.path);
    TracedText text;
    std::vector<Span> chunks = prefix.chunks();
    for (std::size_t i = 0; i < chunks.size(); ++i) {
      Span chunk = chunks[i];
      // With the "::" that a group stands behind: all bytes of the text have a place.
      bool is_joined = i + 1 < chunks.size() && source.bytes->compare(chunk.end, 2, "::") == 0;
      if (is_joined) chunk.end += 2;
      text.append(TracedText::literal(std::string(source.text(chunk)), file, chunk));
    }
    std::string rest = "::";
    for (std::size_t i = found.taken; i < segments.size(); ++i) {
      rest += source.text(segments[i].span);
      rest += "::";
    }
    for (int at = crates_.module_at(file_module, scope); at != file_module; at = crates_.module(at).parent) {
      rest += ' ';
      rest += crates_.module(at).name;
    }
    Reference reference = begun(file_module, {file, 0}, std::move(text)).in(ConstructPart::tagged(rest));
    for (const RelPath& target : targets) reference.lead_to(target);
    in_.out.add(std::move(reference));
  }

  const Reading& in_;
  const Crates& crates_;
};

}  // namespace

std::vector<Span> Prefix::chunks() const {
  std::vector<Span> out;
  for (std::size_t i = 0; i < segments.size(); ++i) {
    if (i > 0 && segments[i].group == segments[i - 1].group) {
      out.back().end = segments[i].span.end;
    } else {
      out.push_back(segments[i].span);
    }
  }
  return out;
}

void scan_all(const TreeReader& tree, FactsCache& cache, std::uint8_t self,
              const std::vector<RelPath>& files) {
  on_all_cores(files.size(), [&](std::size_t i) {
    auto bytes = tree.read(files[i]);
    if (bytes)
      cache.get<SourceFacts>(self, *bytes, [](const std::string& text) { return scan_source(text); });
  });
}

void add_references(const Reading& in) {
  Crates::Load loader = [&](const RelPath& path) { return load_crate(in, path); };
  auto crates = std::make_shared<Crates>(in.tree, in.scopes.crates, loader);
  Adder(in, *crates).run();
  add_lint_references(in, *crates);
  for (const Crate& crate : crates->gave_up() ? crates->crates() : std::vector<Crate>())
    in.out.incomplete(Unread::cut_short, "runaway-names", crate.settings, std::nullopt,
                      "some paths lead through too many imports of all names, and were given up");
  in.count(crates->sources().size());
  in.out.graph().findings[in.self] = std::move(crates);
}

std::optional<Spelled> spelled_by(const Crates& crates, const Reference& reference, const FileTable& files) {
  if (reference.text.pieces().empty()) return std::nullopt;
  const Piece& first = reference.text.pieces().front();
  const Piece& last = reference.text.pieces().back();
  for (int index : crates.modules_of(files.path(first.file))) {
    const SourceFacts& facts = *crates.source_of(index).facts;
    for (std::size_t i = 0; i < facts.imports.size(); ++i) {
      const std::vector<Segment>& segments = facts.imports[i].segments;
      bool begins = !segments.empty() && segments.front().span.begin == first.span.begin;
      auto ends = [&](const Segment& segment) { return segment.span.end == last.span.end; };
      if (begins && std::any_of(segments.begin(), segments.end(), ends)) return Spelled{index, true, i};
    }
    for (std::size_t i = 0; i < facts.paths.size(); ++i) {
      if (facts.paths[i].segments.front().begin == first.span.begin) return Spelled{index, false, i};
    }
  }
  return std::nullopt;
}

}  // namespace yc::rust
