#include "formats/data_files/data_files.h"

#include <algorithm>

#include "base/name_search.h"
#include "base/text.h"
#include "formats/data_files/path_bases.h"
#include "formats/values/values.h"
#include "words/data_files.h"

namespace yc {

namespace {

using data_files::learn_bases;
using data_files::looks_like_path;
using data_files::NameIndex;
using values::Value;

constexpr std::uint64_t kLargestData = 4'000'000;
constexpr std::string_view kRootScheme = "res://";

// Files that other readers know better, and those that tools write for themselves.
bool is_read_elsewhere(const RelPath& path) {
  std::string_view name = path.name();
  bool composes = name.starts_with("docker-compose") || name.starts_with("compose.");
  if (composes && (path.extension() == ".yml" || path.extension() == ".yaml")) return true;
  for (RelPath up = path.parent(); !up.is_root(); up = up.parent()) {
    if (words::data_files::folders_of_others().contains(up.name())) return true;
  }
  return words::data_files::files_of_others().contains(name) ||
         (name.starts_with("tsconfig") && name.ends_with(".json")) ||
         (name.starts_with("jsconfig") && name.ends_with(".json")) || name.ends_with(".gresource.xml") ||
         path.extension() == ".webmanifest";
}

// Scenes and import settings whose paths stand between quotes, anywhere in a line.
bool is_quoted(const RelPath& path) {
  return words::data_files::quoted_endings().contains(path.extension());
}

// Of these the specification says that paths are relative to the file.
bool is_known_kind(const RelPath& path) {
  return words::data_files::relative_endings().contains(path.extension());
}

std::vector<Value> quoted_values(std::string_view bytes) {
  std::vector<Value> out;
  for (std::size_t at = bytes.find('"'); at != std::string_view::npos; at = bytes.find('"', at + 1)) {
    std::size_t end = bytes.find_first_of("\"\n", at + 1);
    if (end == std::string_view::npos || bytes[end] == '\n') continue;
    out.push_back(
        {{}, span_of(at + 1, end), std::string(bytes.substr(at + 1, end - at - 1)), values::kJson, true});
    at = end;
  }
  return out;
}

// Geometry whose materials stand in files of their own (Wavefront OBJ: "mtllib sea.mtl shore.mtl").
bool is_geometry(const RelPath& path) {
  return path.extension() == ".obj";
}

std::vector<Value> material_files(std::string_view bytes) {
  std::vector<Value> out;
  constexpr std::string_view kStatement = "mtllib";
  if (bytes.find('\0') != std::string_view::npos) return out;  // what a compiler made
  for (std::size_t at = bytes.find(kStatement); at != std::string_view::npos;
       at = bytes.find(kStatement, at + 1)) {
    std::size_t end = std::min(bytes.find_first_of("\r\n", at), bytes.size());
    if (at > 0 && bytes[at - 1] != '\n') continue;
    for (std::size_t word = at + kStatement.size(); word < end;) {
      std::size_t begin = std::min(bytes.find_first_not_of(" \t", word), end);
      std::size_t stop = std::min(bytes.find_first_of(" \t", begin), end);
      if (begin < stop && begin > at + kStatement.size())
        out.push_back({{std::string(kStatement)},
                       span_of(begin, stop),
                       std::string(bytes.substr(begin, stop - begin)),
                       values::kWord,
                       true});
      word = stop + 1;
    }
  }
  return out;
}

using Values = std::vector<Value>;

// A key that says its value is a folder.
bool names_folder(const Value& value) {
  for (auto key = value.path.rbegin(); key != value.path.rend(); ++key) {
    if (!key->empty() && key->find_first_not_of("0123456789") == std::string::npos) continue;
    std::string lower = *key;
    lower = lowered(lower);
    return std::any_of(words::data_files::folder_key_parts().begin(),
                       words::data_files::folder_key_parts().end(),
                       [&](std::string_view word) { return lower.find(word) != std::string::npos; });
  }
  return false;
}

bool may_be_data(const RelPath& path) {
  return (values::language_of(path) || is_quoted(path) || is_geometry(path)) && !is_read_elsewhere(path);
}

bool is_taken(const TreeReader& tree, const RelPath& path) {
  return tree.is_editable(path) && (tree.find(path)->size <= kLargestData || is_geometry(path));
}

class DataFileReader {
 public:
  explicit DataFileReader(const Reading& in)
      : tree_(in.tree), cache_(in.cache), self_(in.self), out_(in.out), search_(names_of(in.out.focus())) {}

  void run(const std::vector<RelPath>& files) {
    for (const RelPath& path : files) {
      if (!is_taken(tree_, path)) continue;
      auto bytes = tree_.read(path);
      if (!bytes) continue;
      bool wanted = !out_.focus() || out_.wants(path) || search_.finds_any(**bytes);
      if (!wanted || (path.extension() == ".tsx" && (*bytes)->find("<?xml") == std::string::npos)) continue;
      auto all = cache_.get<Values>(self_, *bytes, [&](const std::string& text) {
        return is_quoted(path)     ? quoted_values(text)
               : is_geometry(path) ? material_files(text)
                                   : values::read(text, *values::language_of(path));
      });
      file(path, *all);
    }
  }

 private:
  static std::vector<std::string> names_of(const Focus* focus) {
    if (!focus) return {};
    return {focus->names.begin(), focus->names.end()};
  }

  const NameIndex& index() {
    if (!index_) index_.emplace(tree_);
    return *index_;
  }

  void file(const RelPath& path, const Values& all) {
    bool whole = out_.wants(path);
    bool any = std::any_of(all.begin(), all.end(),
                           [&](const Value& value) { return whole || out_.wants_any_name(value.text); });
    if (!any) return;
    std::vector<std::string> witnesses;
    for (const Value& value : all) {
      if (looks_like_path(value.text)) witnesses.push_back(value.text);
    }
    std::vector<RelPath> bases = learn_bases(tree_, index(), path, witnesses);
    for (const Value& value : all) {
      if (whole || out_.wants_any_name(value.text)) take(path, value, bases);
    }
  }

  void take(const RelPath& path, const Value& value, const std::vector<RelPath>& bases) {
    if (value.text.starts_with(kRootScheme)) {
      rooted(path, value);
      return;
    }
    if (looks_like_path(value.text)) {
      if (find(path, value, path.parent(), is_known_kind(path))) return;
      // A set of a catalogue holds all its pictures itself.
      bool is_picture =
          path.name() == "Contents.json" && !value.path.empty() && value.path.back() == "filename";
      auto wanted = is_picture ? RelPath::resolve(path.parent(), value.text) : std::nullopt;
      if (wanted && !tree_.find(*wanted))
        out_.unmet({path, value.span, "picture", value.text, *wanted, {}, false, true});
      for (const RelPath& base : bases) {
        if (find(path, value, base, false)) return;
      }
      pattern(path, value);
    } else if (!pattern(path, value)) {
      bool word = !value.text.empty() && value.text.find_first_of(" \t\n:*?<>\"\\") == std::string::npos;
      if (!word || !names_folder(value)) return;
      auto place = RelPath::resolve(path.parent(), value.text);
      if (place && tree_.is_folder(*place)) find(path, value, path.parent(), false);
    }
  }

  // "src/legacy/**/*.js", "!src/legacy/*", "^src/": the folder that a pattern begins with. False if there is
  // none.
  bool pattern(const RelPath& path, const Value& value) {
    const std::string& text = value.text;
    if (words::data_files::workspace_files().contains(path.name())) return false;
    std::size_t from = text.starts_with("^") || text.starts_with("!") ? 1 : 0;
    std::size_t sign = text.find_first_of("*?[](){}|\\$+^", from);
    bool is_open = sign != std::string::npos || (from > 0 && text.ends_with("/"));
    std::size_t slash = is_open ? text.rfind('/', sign) : std::string::npos;
    if (slash == std::string::npos || slash <= from) return false;
    std::string head = text.substr(from, slash - from);
    if (head.find_first_of(" \t\n:;,<>\"'=") != std::string::npos ||
        head.find_first_not_of("./") == std::string::npos)
      return false;
    if (text == head + "/*" && words::data_files::media_types().contains(head)) return false;
    for (const RelPath& base : {path.parent(), RelPath()}) {
      auto place = RelPath::resolve(base, head);
      const Entry* entry = place && !place->is_root() ? tree_.find(*place) : nullptr;
      if (!entry || entry->ignored || entry->kind != EntryKind::folder) continue;
      TracedText traced = values::traced(value, out_.files().index(path));
      if (traced.text() != text) return true;
      add(path, value, traced.substr(from, head.size()), base, *place, false);
      return true;
    }
    return false;
  }

  bool find(const RelPath& path, const Value& value, const RelPath& base, bool certain) {
    std::string text = value.text;
    while (text.size() > 1 && text.ends_with("/")) text.pop_back();
    auto place = RelPath::resolve(base, text);
    const Entry* entry = place && !place->is_root() ? tree_.find(*place) : nullptr;
    if (!entry || entry->ignored || *place == path || text.find_first_not_of("./") == std::string::npos)
      return false;
    add(path, value, values::traced(value, out_.files().index(path)).substr(0, text.size()), base, *place,
        certain);
    return true;
  }

  void add(const RelPath& path, const Value& value, TracedText text, const RelPath& base,
           const RelPath& target, bool certain) {
    FileIndex file = out_.files().index(path);
    bool own = base == path.parent();
    Reference reference = Reference::of(Role::listed, self_, {{file, value.span.begin}},
                                        {base, own ? file : kNoFile, Space::tree}, std::move(text))
                              .as_sure_as(certain ? Certainty::certain : Certainty::likely)
                              .leading_to(target);
    // What is found from another folder, is another reference.
    if (!own) reference.construct_part = ConstructPart::of(base);
    out_.add(std::move(reference));
  }

  // res://icons/pole.png: from the folder of the project.
  void rooted(const RelPath& path, const Value& value) {
    RelPath root = path.parent();
    while (!root.is_root() && !tree_.is_file(root / "project.godot")) root = root.parent();
    std::string text = value.text.substr(kRootScheme.size());
    auto place = RelPath::resolve(root, text);
    const Entry* entry = place && !place->is_root() ? tree_.find(*place) : nullptr;
    if (!entry || entry->ignored || !value.verbatim) return;
    TracedText traced = values::traced(value, out_.files().index(path)).substr(kRootScheme.size());
    add(path, value, std::move(traced), root, *place, true);
  }

  const TreeReader& tree_;
  FactsCache& cache_;
  std::uint8_t self_;
  GraphBuilder& out_;
  NameSearch search_;
  std::optional<NameIndex> index_;
};

class DataFilesFormat : public Format {
 public:
  std::string_view name() const override { return "data files"; }
  ScopeSet needs() const override { return Scope::products; }
  bool reads_sources() const override { return true; }
  bool claims(const RelPath& path) const override { return may_be_data(path); }

  void read(const Reading& in) const override {
    DataFileReader(in).run(in.files);
    in.count(static_cast<std::size_t>(std::count_if(
        in.files.begin(), in.files.end(), [&](const RelPath& path) { return is_taken(in.tree, path); })));
  }
  std::optional<std::string> write(std::string_view text, WritingStyle style) const override {
    return values::written(text, style);
  }
};

}  // namespace

std::unique_ptr<Format> data_files_format() {
  return std::make_unique<DataFilesFormat>();
}

}  // namespace yc
