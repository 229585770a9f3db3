#include "formats/containers/containers.h"

#include <algorithm>
#include <set>

#include "formats/capabilities/consequences.h"
#include "formats/capabilities/spellings.h"
#include "formats/containers/compositions.h"
#include "formats/containers/container_file.h"
#include "formats/containers/container_tree.h"
#include "formats/json/json_strings.h"
#include "formats/shell/command_line.h"
#include "formats/values/values.h"
#include "model/add_reference.h"

namespace yc {

namespace {

using containers::Contexts;
using containers::Source;

std::string head_of(const std::string& text) {
  std::size_t wild = std::min(text.find_first_of("*?["), text.find(kHoleMark));
  if (wild == std::string::npos) return text;
  std::size_t cut = text.rfind('/', wild);
  return cut == std::string::npos ? "" : text.substr(0, cut);
}

// Where a source of COPY leads from a folder, if something is there.
std::optional<RelPath> lead_in(const TreeReader& tree, const RelPath& folder, const std::string& text) {
  auto place = RelPath::resolve(folder, text);
  if (!place || !place->is_within(folder)) return std::nullopt;
  if (has_wildcard(text)) {
    std::vector<RelPath> found = match_paths(tree, folder, text);
    return found.empty() ? std::nullopt : std::optional(found.front());
  }
  return tree.find(*place) ? place : std::nullopt;
}

// The folder that most sources lead somewhere from: the container file's own, or one above it.
std::optional<RelPath> likely_context(const TreeReader& tree, const RelPath& path,
                                      const std::vector<Source>& sources) {
  std::optional<RelPath> best;
  std::size_t most = 0;
  for (RelPath up = path.parent();; up = up.parent()) {
    std::size_t found = 0;
    for (const Source& source : sources) {
      std::string text = source.text.text();
      bool tells = text.find_first_not_of("./") != std::string::npos && !source.text.has_hole();
      found += tells && lead_in(tree, up, text).has_value();
    }
    if (found > most) best = up, most = found;
    if (up.is_root()) break;
  }
  return best;
}

// One container file, and the folders that it is built in.
struct Build {
  RelPath path;
  containers::ContainerFile content;
  std::vector<Base> contexts;
  bool certain = false;
};

bool is_ignore_list(const RelPath& path) {
  return path.str().ends_with(".dockerignore");
}

bool is_claimed(const RelPath& path) {
  return containers::is_composition(path) || containers::is_container_file(path.name()) ||
         is_ignore_list(path);
}

Contexts contexts_of(const TreeReader& tree, const std::vector<RelPath>& files, std::uint8_t self,
                     GraphBuilder& out) {
  Contexts contexts;
  for (const RelPath& path : files) {
    if (containers::is_composition(path) && tree.is_editable(path))
      containers::read_composition(tree, path, self, out, contexts);
  }
  return contexts;
}

std::vector<Build> builds_of(const TreeReader& tree, const std::vector<RelPath>& claimed, FileTable& files,
                             const Contexts& contexts) {
  std::vector<Build> out;
  for (const RelPath& path : claimed) {
    if (!containers::is_container_file(path.name()) || !tree.is_editable(path)) continue;
    auto bytes = tree.read(path);
    if (!bytes || (*bytes)->find('\0') != std::string::npos) continue;
    FileIndex file = files.index(path);
    Build build{path, containers::read_container_file(**bytes, file), {}, false};
    if (auto known = contexts.find(path); known != contexts.end()) {
      build.contexts = known->second;
      build.certain = true;
    } else {
      // Where the sources tell nothing, as in "COPY . /app", it is most likely its own folder.
      RelPath folder = likely_context(tree, path, build.content.sources).value_or(path.parent());
      build.contexts.push_back({folder, folder == path.parent() ? file : kNoFile, Space::tree});
    }
    out.push_back(std::move(build));
  }
  return out;
}

class ContainersFormat : public Format, public Spellings, public Consequences {
 public:
  std::string_view name() const override { return "containers"; }

  bool claims(const RelPath& path) const override { return is_claimed(path); }

  void read(const Reading& in) const override {
    Contexts contexts = contexts_of(in.tree, in.files, in.self, in.out);
    std::vector<Build> builds = builds_of(in.tree, in.files, in.out.files(), contexts);
    std::size_t count = builds.size();
    for (const Build& build : builds) read_build(in.tree, build, in.self, in.out);
    for (const RelPath& path : in.files) {
      count += containers::is_composition(path);
      if (is_ignore_list(path) && in.tree.is_editable(path))
        read_ignored(in.tree, path, in.self, in.out), ++count;
    }
    in.count(count);
  }

  std::optional<std::string> write(std::string_view text, WritingStyle style) const override {
    if (text.find_first_of("\n\r") != std::string_view::npos) return std::nullopt;
    if (style == containers::kJson) return json::escaped(text);
    bool in_shell = style == shell::kBare || style == shell::kDouble || style == shell::kSingle;
    if (style != containers::kWord && !in_shell) return values::written(text, style);
    bool plain = text.find_first_of(" \t\"'$\\;&|<>()`#") == std::string_view::npos;
    return plain ? std::optional(std::string(text)) : std::nullopt;
  }

  // What is copied keeps its place in the container where that does not hang on its own; else its name there
  // is another one.
  std::vector<Proposal> own_proposals(const RewriteRequest& need) const override {
    const std::vector<Piece>& pieces = need.reference.text.pieces();
    if (pieces.size() != 1 || !pieces[0].has_origin() || need.wanted.size() != 1) return {};
    std::vector<Proposal> out(1);
    std::string old = need.reference.text.text();
    std::string folder = old.substr(0, old.rfind('/') + 1);  // npos + 1 is none
    for (const std::string& text : {relative_text(need.new_base, need.wanted[0].path),
                                    folder + std::string(need.wanted[0].path.name())}) {
      auto written = text == old ? std::nullopt : write(text, pieces[0].style);
      if (written) out.push_back({{{need.graph.files.path(pieces[0].file), pieces[0].span, *written}}, ""});
    }
    return out;
  }

  std::optional<Reason> why_not(const ReferenceGraph&, const Reference& reference, const RelPath& new_base,
                                const RelPath& target) const override {
    if (target.is_within(new_base) || reference.text.pieces().empty()) return std::nullopt;
    WritingStyle style = reference.text.pieces().back().style;
    if (style != containers::kWord && style != containers::kJson) return std::nullopt;
    return Reason{"a container is built from its context " + (new_base.is_root() ? "." : new_base.str()) +
                      ", and " + target.str() + " lies outside of it",
                  "keep it below the context, or make a folder above both the context"};
  }

  // What a container copies with a folder does not get into it any more.
  std::vector<Blocker> consequences(const TreeView& before, const TreeView& planned,
                                    const MoveSet& moves) const override {
    std::vector<Blocker> out;
    std::map<RelPath, std::vector<RelPath>> old_folders = copied(before), new_folders = copied(planned);
    for (const auto& [path, folders] : old_folders) {
      const std::vector<RelPath>& now = new_folders[moves.map_file(path)];
      for (const Move& move : moves.files()) {
        auto within = [](const std::vector<RelPath>& list, const RelPath& file) {
          return std::any_of(list.begin(), list.end(),
                             [&](const RelPath& folder) { return file.is_within(folder); });
        };
        // What tells how to build is not meant for the container.
        bool tells = containers::is_container_file(move.from.name()) || containers::is_composition(move.from);
        if (tells || !within(folders, move.from) || within(now, move.to)) continue;
        out.push_back({"leaves-context",
                       moves.map_file(path),
                       {},
                       "",
                       "copies a folder into the container that " + move.from.str() + " is in, and " +
                           move.to.str() + " would not be",
                       "keep it below a folder that is copied, or add --accept-unseen if the container does "
                       "not need it"});
        break;
      }
    }
    return out;
  }

 private:
  // The folders that each container file copies whole.
  static std::map<RelPath, std::vector<RelPath>> copied(const TreeView& view) {
    std::map<RelPath, std::vector<RelPath>> out;
    GraphBuilder scratch;
    Contexts contexts = contexts_of(view.tree, view.files, 0, scratch);
    for (const Build& build : builds_of(view.tree, view.files, scratch.files(), contexts)) {
      for (const Base& context : build.contexts) {
        for (const Source& source : build.content.sources) {
          auto place =
              source.text.has_hole() ? std::nullopt : RelPath::resolve(context.folder, source.text.text());
          if (place && place->is_within(context.folder) && view.tree.is_folder(*place))
            out[build.path].push_back(*place);
          if (place && has_wildcard(source.text.text()))
            for (const RelPath& path : match_paths(view.tree, context.folder, source.text.text()))
              out[build.path].push_back(path);
        }
      }
    }
    return out;
  }

  // What is copied from the context.
  static void read_sources(const TreeReader& tree, const Build& build, const Base& context, std::uint8_t self,
                           GraphBuilder& out) {
    FileIndex file = out.files().index(build.path);
    for (const Source& source : build.content.sources) {
      std::string plain = source.text.text();
      if (source.text.has_hole()) {
        add_unseen(out, tree, source.text, context, self, {{file, source.site}});
        continue;
      }
      TracedText text = source.text;
      while (text.size() > 1 && text.text().ends_with("/")) text = text.substr(0, text.size() - 1);
      Reference reference = Reference::of(Role::listed, self, {{file, source.site}}, context, text);
      reference.certainty = build.certain ? Certainty::certain : Certainty::likely;
      if (build.contexts.size() > 1 || context.anchor == kNoFile)
        reference.construct_part = ConstructPart::of(context.folder);
      if (has_wildcard(plain)) {
        reference.lead_to(match_paths(tree, context.folder, plain));
        if (reference.targets.empty()) continue;
        reference.kind = GlobPattern{};
        reference.role = Role::pattern;
        reference.may_gain = true;
      } else {
        auto target = lead_in(tree, context.folder, text.text());
        if (!target) {
          auto wanted = RelPath::resolve(context.folder, text.text());
          bool is_missing = wanted && wanted->is_within(context.folder) && !tree.find(*wanted);
          if (is_missing && !text.pieces().empty())
            out.unmet({build.path,
                       text.pieces().front().span,
                       "copied",
                       text.text(),
                       *wanted,
                       {},
                       false,
                       build.certain});
          continue;
        }
        if (target->is_root() || *target == context.folder || tree.find(*target)->ignored) continue;
        reference.lead_to(*target);
      }
      out.add(std::move(reference));
    }
  }

  static void read_build(const TreeReader& tree, const Build& build, std::uint8_t self, GraphBuilder& out) {
    FileIndex file = out.files().index(build.path);
    for (const Base& context : build.contexts) {
      read_sources(tree, build, context, self, out);
      for (const Source& place : build.content.destinations) {
        auto target = lead_in(tree, context.folder, place.text.text());
        if (target && *target != context.folder)
          refer(out, self, {{file, place.site}}, place.text, context, *target, "into");
      }
      std::vector<Span> taken;
      for (const containers::Run& run : build.content.runs) read_run(tree, run, context, self, out, taken);
      for (const Source& use : build.content.uses) {
        Span span = use.text.pieces().front().span;
        bool is_known = std::any_of(taken.begin(), taken.end(), [&](const Span& other) {
          return span.begin < other.end && other.begin < span.end;
        });
        // What comes behind a folder may be made there.
        TracedText text = use.text;
        auto target = lead_in(tree, context.folder, text.text());
        for (std::size_t cut; !target && (cut = text.text().rfind('/')) != std::string::npos;) {
          text = text.substr(0, cut);
          target = lead_in(tree, context.folder, text.text());
        }
        if (target && *target != context.folder && !is_known)
          refer(out, self, {{file, span.begin}}, text, context, *target, "run");
      }
    }
  }

  // What a command names of what was copied.
  static void read_copied(const TreeReader& tree, const containers::Run& run, const Base& context,
                          std::uint8_t self, GraphBuilder& out, std::vector<Span>& taken) {
    containers::ContainerTree inside(tree, context.folder, run.copies);
    Base start{RelPath::from_normal(run.folder), kNoFile, Space::tree};
    auto refer_to = [&](const TracedText& text, const RelPath& path) {
      Passage origin = text.first_origin();
      auto source = inside.source_of(path);
      if (!source || origin.file == kNoFile || !tree.is_file(*source)) return;
      for (const Piece& piece : text.pieces()) taken.push_back(piece.span);
      Reference reference =
          Reference::of(Role::argument, self, {{origin.file, origin.span.begin}}, context, text)
              .guessed()
              .in({context.folder, "copied"})
              .leading_to(*source);
      reference.kind = OwnSpelling{""};
      out.add(std::move(reference));
    };
    std::vector<shell::Command> commands = shell::read(run.line, start, inside).commands;
    if (!run.words.empty()) {
      shell::Command& command = commands.emplace_back();
      command.base = start;
      for (const TracedText& word : run.words) command.words.push_back({word, true});
    }
    for (const shell::Command& command : commands) {
      for (const Reference& found : shell::pick(command, inside).references) {
        if (found.targets.size() == 1 && !found.is_pattern() && found.text.pieces().size() == 1)
          refer_to(found.text, found.targets.front().path);
      }
      for (const shell::Word& word : command.words) {
        std::string text = word.text.text();
        bool is_whole = text.starts_with("/") && word.text.pieces().size() == 1;
        auto path = is_whole ? RelPath::resolve({}, text.substr(1)) : std::nullopt;
        if (path && !path->is_root()) refer_to(word.text, *path);
      }
    }
  }

  // What a command names, and where.
  static void read_run(const TreeReader& tree, const containers::Run& run, const Base& context,
                       std::uint8_t self, GraphBuilder& out, std::vector<Span>& taken) {
    read_copied(tree, run, context, self, out, taken);
    if (!run.is_as_context) return;
    std::vector<shell::Command> commands = shell::read(run.line, context, tree).commands;
    if (!run.words.empty()) {
      shell::Command& command = commands.emplace_back();
      command.base = context;
      for (const TracedText& word : run.words) command.words.push_back({word, true});
    }
    for (const shell::Command& command : commands) {
      for (const Reference& found : shell::pick(command, tree).references) {
        Passage origin = found.text.first_origin();
        bool leads = found.targets.size() == 1 && found.targets.front().kind == Target::Kind::tree;
        bool is_taken = std::any_of(taken.begin(), taken.end(), [&](const Span& other) {
          return origin.span.begin < other.end && other.begin < origin.span.end;
        });
        if (!leads || origin.file == kNoFile || is_taken) continue;
        for (const Piece& piece : found.text.pieces()) taken.push_back(piece.span);
        refer(out, self, {{origin.file, origin.span.begin}}, found.text, found.base,
              found.targets.front().path, "run");
      }
    }
  }

  static void refer(GraphBuilder& out, std::uint8_t self, SiteChain key, const TracedText& text,
                    const Base& base, const RelPath& target, const char* what) {
    out.add(Reference::of(Role::argument, self, std::move(key), base, text)
                .guessed()
                .in({base.folder, what})
                .leading_to(target));
  }

  // Patterns from the folder of the list; their folders are followed.
  static void read_ignored(const TreeReader& tree, const RelPath& path, std::uint8_t self,
                           GraphBuilder& out) {
    auto bytes = tree.read(path);
    if (!bytes) return;
    FileIndex file = out.files().index(path);
    std::string_view text = **bytes;
    for (std::size_t at = 0; at < text.size();) {
      std::size_t end = std::min(text.find('\n', at), text.size()), begin = at;
      at = end + 1;
      while (end > begin && std::isspace(static_cast<unsigned char>(text[end - 1]))) --end;
      if (begin < end && text[begin] == '!') ++begin;
      if (begin < end && text[begin] == '/') ++begin;
      if (begin == end || text[begin] == '#') continue;
      std::string head = head_of(std::string(text.substr(begin, end - begin)));
      while (head.ends_with("/")) head.pop_back();
      auto place = head.find_first_not_of("./") == std::string::npos ? std::nullopt
                                                                     : RelPath::resolve(path.parent(), head);
      const Entry* entry = place ? tree.find(*place) : nullptr;
      if (!entry || entry->ignored) continue;
      Reference reference = Reference::of(Role::argument, self, {{file, static_cast<std::uint32_t>(begin)}},
                                          {path.parent(), file, Space::tree},
                                          TracedText::literal(head, file, span_of(begin, begin + head.size()),
                                                              containers::kWord))
                                .leading_to(*place);
      reference.may_gain = true;
      out.add(std::move(reference));
    }
  }
};

}  // namespace

std::unique_ptr<Format> containers_format() {
  return std::make_unique<ContainersFormat>();
}

}  // namespace yc
