#include "formats/go/go_references.h"

#include <algorithm>

#include "base/text.h"
#include "formats/go/go_commands.h"
#include "formats/go/go_modules.h"
#include "formats/go/go_packages.h"
#include "formats/go/go_scan.h"
#include "formats/shell/command_line.h"
#include "model/add_reference.h"
#include "words/go.h"

namespace yc::go {

namespace {

bool is_mod_file(const RelPath& path) {
  return path.name() == "go.mod" || path.name() == "go.work";
}

bool is_path_char(char c) {
  return std::isalnum(static_cast<unsigned char>(c)) ||
         std::string_view("_./~-").find(c) != std::string_view::npos;
}

class Reader {
 public:
  explicit Reader(const Reading& in)
      : in_(in), modules_(modules_of(in.files, [&](const RelPath& path) { return text_of(path); })) {}

  std::size_t run() {
    std::size_t done = 0;
    for (const RelPath& path : in_.files) {
      if (is_source(path) && constraint_of(path.name()).find("_test") == std::string::npos)
        packages_[path.parent()].push_back(path);
    }
    for (const RelPath& path : in_.files) {
      if (!in_.tree.is_editable(path)) continue;
      bool names = !is_source(path) && !is_mod_file(path);
      if (names && modules_.empty()) continue;
      auto bytes = in_.tree.read(path);
      if (!bytes) continue;
      FileIndex file = in_.out.files().index(path);
      if (is_source(path)) {
        source(path, file, *bytes);
      } else if (is_mod_file(path)) {
        module(path, file, **bytes);
      } else if (!is_binary(**bytes)) {
        names_in(path, file, **bytes);
        continue;
      }
      ++done;
    }
    return done;
  }

 private:
  std::optional<std::string> text_of(const RelPath& path) const {
    auto bytes = in_.tree.read(path);
    return bytes ? std::optional(**bytes) : std::nullopt;
  }

  Reference word(Role role, const RelPath& path, FileIndex file, std::uint32_t site, const std::string& text,
                 Span span) const {
    return Reference::of(role, in_.self, {{file, site}}, {path.parent(), file, Space::tree},
                         TracedText::literal(text, file, span));
  }

  // The sources of the package that an import path means; nothing for one of no module of the tree.
  std::optional<std::vector<RelPath>> package(std::string_view import_path) const {
    auto folder = modules_.folder_of(import_path);
    if (!folder) return std::nullopt;
    auto at = packages_.find(*folder);
    return at == packages_.end() ? std::vector<RelPath>() : at->second;
  }

  void source(const RelPath& path, FileIndex file, const Bytes& bytes) {
    auto facts = in_.cache.get<SourceFacts>(in_.self, bytes,
                                            [](const std::string& text) { return scan_source(text); });
    Holding& holding = in_.out.graph().holdings[path.parent()];
    (facts->package == "main" ? holding.program : holding.library) = true;
    for (std::size_t i = 0; i < facts->imports.size(); ++i) {
      const Import& import = facts->imports[i];
      auto sources = package(import.path);
      if (!sources) continue;
      auto line = static_cast<std::uint32_t>(line_begin(*bytes, import.span.begin));
      Reference reference = word(Role::module, path, file, line, import.path, import.span)
                                .in(ConstructPart::tagged("import " + std::to_string(i)))
                                .spelled_by_format();
      reference.lead_to(*sources);
      // What is generated may be missing; a folder that is there has been meant.
      reference.dangling = sources->empty() && !in_.tree.is_folder(*modules_.folder_of(import.path));
      if (!sources->empty() || reference.dangling) in_.out.add(std::move(reference));
    }
    for (const Word& link : facts->links) {
      std::size_t dot = link.text.find('.', link.text.rfind('/') + 1);
      if (dot != std::string::npos) name(path, file, link.text.substr(0, dot), link.span.begin);
    }
    for (const Word& pattern : facts->embeds) embed(path, file, pattern);
    for (const Word& command : facts->generates) generate(path, file, command);
  }

  // "all:" has hidden files taken in, too. A folder stands for all that is below it.
  void embed(const RelPath& path, FileIndex file, Word pattern) {
    if (pattern.text.starts_with("all:")) {
      pattern.text.erase(0, 4);
      pattern.span.begin += 4;
    }
    Reference reference = Reference::of(Role::pattern, in_.self, {{file, pattern.span.begin}},
                                        {path.parent(), file, Space::tree},
                                        TracedText::literal(pattern.text, file, pattern.span, kEmbedded));
    auto place = RelPath::resolve(path.parent(), pattern.text);
    if (has_wildcard(pattern.text)) {
      reference.kind = GlobPattern{};
      reference.lead_to(match_paths(in_.tree, path.parent(), pattern.text));
      for (const Target& taken : reference.targets) {
        if (in_.tree.is_folder(taken.path)) embed_below(taken.path, reference.construct);
      }
      in_.out.add(std::move(reference));
    } else if (place && !place->is_root() && in_.tree.is_folder(*place)) {
      reference.kind = GlobPattern{GlobPattern::Kind::deep, "*"};
      reference.lead_to(match_deep(in_.tree, *place, "*"));
      in_.out.add(std::move(reference));
    } else {
      reference.role = Role::listed;
      add_leading(in_.out, in_.tree, std::move(reference).spelled_by_format(), IfMissing::dangling);
    }
  }

  // All that is below a folder which a pattern takes.
  void embed_below(const RelPath& folder, const SiteChain& construct) {
    Reference reference =
        Reference::of(Role::pattern, in_.self, construct, {folder, kNoFile, Space::tree}, {})
            .in(ConstructPart::of(folder));
    reference.kind = GlobPattern{GlobPattern::Kind::deep, "*"};
    reference.lead_to(match_deep(in_.tree, folder, "*"));
    in_.out.add(std::move(reference));
  }

  // Run in the folder of the source.
  void generate(const RelPath& path, FileIndex file, const Word& command) {
    TracedText text = TracedText::literal(command.text, file, command.span);
    Base here{path.parent(), file, Space::tree};
    for (const shell::Command& one : shell::read(text, here, in_.tree).commands) {
      for (Reference& reference : shell::pick(one, in_.tree).references) {
        Passage origin = reference.text.first_origin();
        if (origin.file != file || reference.targets.empty()) continue;
        reference.format = in_.self;
        reference.construct = {{file, origin.span.begin}};
        reference.certainty = Certainty::likely;
        reference.dangling = false;
        in_.out.add(std::move(reference));
      }
    }
  }

  // What lies below go.mod is one module, and uses others of the tree by their replacements.
  void bound(const RelPath& path, const ModFacts& facts) {
    Boundary boundary{path, facts.module, "go module", true, {}, {}, {}};
    for (const FolderWord& word : facts.folders) {
      auto folder = RelPath::resolve(path.parent(), word.text);
      if (folder && in_.tree.is_file(*folder / "go.mod")) boundary.uses.push_back(*folder / "go.mod");
    }
    in_.out.graph().boundaries.push_back(std::move(boundary));
  }

  void module(const RelPath& path, FileIndex file, std::string_view bytes) {
    ModFacts facts = scan_mod(bytes);
    if (!facts.module.empty()) bound(path, facts);
    for (const FolderWord& folder : facts.folders) {
      auto place = RelPath::resolve(path.parent(), folder.text);
      if (!place || folder.text == ".") continue;
      Reference reference =
          word(Role::subfolder, path, file, folder.span.begin, folder.text, folder.span).spelled_by_format();
      // Where its go.mod goes, the module goes.
      if (in_.tree.is_file(*place / "go.mod")) {
        reference.lead_to(*place / "go.mod");
      } else {
        reference.dangling = true;
      }
      in_.out.add(std::move(reference));
    }
  }

  // A package that another file names, by an import path that begins at `begin`.
  void name(const RelPath& path, FileIndex file, const std::string& text, std::uint32_t begin) {
    auto sources = package(text);
    auto folder = modules_.folder_of(text);
    if (!folder || modules_.all().contains(*folder) || !in_.tree.is_folder(*folder)) return;
    Span span{begin, begin + static_cast<std::uint32_t>(text.size())};
    Reference reference = word(Role::argument, path, file, begin, text, span).spelled_by_format().likely();
    if (sources->empty()) {
      reference.lead_to(*folder);
    } else {
      reference.lead_to(*sources);
    }
    in_.out.add(std::move(reference));
  }

  void names_in(const RelPath& path, FileIndex file, std::string_view bytes) {
    for (const auto& [root, head] : modules_.all()) {
      if (head.empty()) continue;
      for (std::size_t at = bytes.find(head); at != std::string_view::npos;
           at = bytes.find(head, at + head.size())) {
        if (at > 0 && is_path_char(bytes[at - 1])) continue;
        std::size_t end = at + head.size();
        while (end < bytes.size() && is_path_char(bytes[end])) ++end;
        longest_package(path, file, bytes.substr(at, end - at), static_cast<std::uint32_t>(at));
      }
    }
    packages_of_commands(path, file, bytes);
    // "./gauge/...": all packages of a folder.
    constexpr std::string_view kBelow = "/...";
    for (std::size_t at = bytes.find(kBelow); at != std::string_view::npos; at = bytes.find(kBelow, at + 1)) {
      std::size_t begin = at;
      while (begin > 0 && is_path_char(bytes[begin - 1])) --begin;
      std::string text(bytes.substr(begin, at - begin));
      if (text.starts_with("./") || text.starts_with("../")) below(path, file, text, span_of(begin, at));
    }
  }

  // "." and "./cmd/gauge" in commands, and the package that a command means which names none.
  void packages_of_commands(const RelPath& path, FileIndex file, std::string_view bytes) {
    Base start{path.parent(), file, Space::tree};
    for (const PackageWord& found : package_words(path, bytes, file, start, in_.tree)) {
      Base base = found.base;
      auto package_from = [&](const RelPath& from) {
        auto folder = RelPath::resolve(from, found.is_implied ? "." : found.text);
        return folder ? packages_.find(*folder) : packages_.end();
      };
      auto sources = package_from(base.folder);
      // A script may be started from a folder above its own.
      bool may_be_above = base.folder == path.parent();
      while (may_be_above && sources == packages_.end() && !base.folder.is_root()) {
        base = {base.folder.parent(), kNoFile, Space::tree};
        sources = package_from(base.folder);
      }
      if (sources == packages_.end()) continue;
      Reference reference = Reference::of(Role::argument, in_.self, {{file, found.command}}, base,
                                          TracedText::literal(found.text, file, found.span))
                                .in(ConstructPart::tagged("package " + std::to_string(found.number)))
                                .spelled_by_format(found.is_implied ? kImpliedPackage : kPackageFolder)
                                .likely();
      reference.lead_to(sources->second);
      in_.out.add(std::move(reference));
    }
  }

  // "example.com/tide/version.Number" names a variable of a package.
  void longest_package(const RelPath& path, FileIndex file, std::string_view text, std::uint32_t begin) {
    while (!text.empty()) {
      auto folder = modules_.folder_of(text);
      if (!folder || modules_.all().contains(*folder)) return;
      bool is_plain = text.back() != '/' && text.back() != '.';
      if (is_plain && in_.tree.is_folder(*folder)) {
        name(path, file, std::string(text), begin);
        return;
      }
      std::size_t cut = text.find_last_of("/.");
      if (cut == std::string_view::npos) return;
      text = text.substr(0, cut);
    }
  }

  // From the folder that the file is in, or from one above, where commands are started.
  void below(const RelPath& path, FileIndex file, const std::string& text, Span span) {
    for (RelPath folder = path.parent();; folder = folder.parent()) {
      auto found = RelPath::resolve(folder, text);
      if (found && !found->is_root() && in_.tree.is_folder(*found)) {
        Reference reference =
            word(Role::subfolder, path, file, span.begin, text, span).spelled_by_format().likely();
        reference.base = {folder, folder == path.parent() ? file : kNoFile, Space::tree};
        reference.lead_to(std::move(*found));
        in_.out.add(std::move(reference));
        return;
      }
      if (folder.is_root()) return;
    }
  }

  const Reading& in_;
  Modules modules_;
  std::map<RelPath, std::vector<RelPath>> packages_;
};

}  // namespace

bool may_name_packages(const RelPath& path) {
  return words::go::naming_endings().contains(path.extension()) ||
         words::go::naming_files().contains(path.name());
}

void add_references(const Reading& in) {
  in.count(Reader(in).run());
}

}  // namespace yc::go
