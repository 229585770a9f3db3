#include "formats/sketches/sketches.h"
#include "formats/capabilities/consequences.h"
#include "formats/capabilities/spellings.h"
#include "words/sketches.h"

#include <algorithm>

namespace yc {

namespace {

bool sketch_compiles(const RelPath& path) {
  return words::sketches::compiled_endings().contains(path.extension());
}

// The main file of the sketch that a folder is.
std::optional<RelPath> main_of(const TreeReader& tree, const RelPath& folder) {
  if (folder.is_root()) return std::nullopt;
  for (const char* ending : {".ino", ".pde"}) {
    RelPath path = folder / (std::string(folder.name()) + ending);
    if (tree.is_file(path)) return path;
  }
  return std::nullopt;
}

constexpr std::string_view kLibrary = "library.properties";

bool is_sketch(const RelPath& path) {
  return path.extension() == ".ino" || path.extension() == ".pde";
}

class SketchesFormat : public Format, public Spellings, public Consequences {
 public:
  std::string_view name() const override { return "sketches"; }
  ScopeSet gives() const override { return Scope::search_roots; }
  std::string_view unit_kind() const override { return "sketch"; }

  bool claims(const RelPath& path) const override { return is_sketch(path) || path.name() == kLibrary; }

  void read(const Reading& in) const override {
    in.each([&](const RelPath& path, const Bytes&) {
      if (!is_sketch(path)) return false;
      if (main_of(in.tree, path.parent()) != path) {
        if (is_alone(in.tree, path)) {
          RelPath folder = path.parent();
          in.out.notice("misnamed-sketch", path, std::nullopt,
                        "is the only sketch of " + folder.str() +
                            ", and the main file of a sketch must bear the name of its folder: call it " +
                            std::string(folder.name()) + std::string(path.extension()));
        }
        return false;
      }
      read_sketch(in.tree, path, in.self, in.out);
      return true;
    });
  }

  // No byte spells what a sketch is built of.
  std::optional<std::string> write(std::string_view text, WritingStyle) const override {
    return std::string(text);
  }

  std::optional<Reason> why_not(const ReferenceGraph& graph, const Reference& reference,
                                const RelPath& new_base, const RelPath& target) const override {
    const RelPath& main = graph.files.path(reference.construct.back().file);
    std::string stem(main.name());
    stem.resize(stem.size() - main.extension().size());
    if (new_base.name() != stem) {
      RelPath wanted = new_base / (std::string(new_base.name()) + std::string(main.extension()));
      return Reason{"the main file of a sketch, " + main.str() + ", must bear the name of its folder",
                    "move it to " + wanted.str() + ", with a line of its own in a sheet"};
    }
    return Reason{"the sketch " + main.str() + " is built of what stands beside it and below its src, and " +
                      target.str() + " would not be a part of it",
                  "move it to a place beside the sketch or below its src, or move the whole sketch"};
  }

  // The folder and the main file go by one name; a library is known by its properties beside src.
  std::vector<Blocker> consequences(const TreeView& before, const TreeView& planned,
                                    const MoveSet& moves) const override {
    std::vector<Blocker> out;
    for (const RelPath& path : before.files) {
      bool sketch = is_sketch(path);
      RelPath now = moves.map_file(path), folder = now.parent();
      if (now == path) continue;
      if (sketch && main_of(before.tree, path.parent()) == path && main_of(planned.tree, folder) != now) {
        std::string wanted =
            folder.is_root() ? ""
                             : (folder / (std::string(folder.name()) + std::string(path.extension()))).str();
        out.push_back({"name-bound",
                       now,
                       {},
                       path.str(),
                       "is the main file of a sketch and must bear the name of its folder",
                       wanted.empty() ? "move it into a folder of that name"
                                      : "move it to " + wanted + ", with a line of its own in a sheet",
                       Blocker::Bearing::tells_why});
      }
      RelPath sources = path.parent() / "src";
      if (path.name() == kLibrary && before.tree.is_folder(sources) &&
          moves.map_folder(sources) != folder / "src")
        out.push_back({"name-bound",
                       now,
                       {},
                       path.str(),
                       "makes the folder around it a library, whose sources are in its src",
                       "move " + sources.str() + " along",
                       Blocker::Bearing::tells_why});
    }
    return out;
  }

 private:
  // The only sketch file of its folder.
  static bool is_alone(const TreeReader& tree, const RelPath& path) {
    if (path.parent().is_root()) return false;
    std::vector<std::string> names = tree.children(path.parent());
    return std::count_if(names.begin(), names.end(),
                         [&](const std::string& name) { return is_sketch(RelPath::from_normal(name)); }) == 1;
  }

  static void read_sketch(const TreeReader& tree, const RelPath& main, std::uint8_t self, GraphBuilder& out) {
    RelPath folder = main.parent();
    FileIndex file = out.files().index(main);
    Context context;
    context.roots.push_back({{Space::tree, folder}, false});
    context.open = true;  // libraries bring their own
    ContextIndex index = out.context(std::move(context));
    out.graph().units.push_back({std::string(folder.name()), self, {file, 0}, {}});
    auto unit = static_cast<std::int32_t>(out.graph().units.size()) - 1;
    std::vector<RelPath> files;
    for (const std::string& name : tree.children(folder)) files.push_back(folder / name);
    for (RelPath& below : match_deep(tree, folder, "src/*")) files.push_back(std::move(below));
    for (const RelPath& path : files) {
      const Entry* entry = tree.find(path);
      if (!sketch_compiles(path) || !entry || entry->kind == EntryKind::folder || entry->ignored) continue;
      out.add(Reference::of(Role::source, self, {{file, 0}}, {folder, file, Space::tree},
                            TracedText::plain(std::string(path.below(folder))))
                  .leading_to(path));
      if (path.extension() != ".h" && path.extension() != ".hpp") out.compile(path, index, unit);
    }
  }
};

}  // namespace

std::unique_ptr<Format> sketches_format() {
  return std::make_unique<SketchesFormat>();
}

}  // namespace yc
