#include "formats/containers/compositions.h"

#include <algorithm>

#include "formats/containers/container_file.h"
#include "formats/values/values.h"

namespace yc::containers {

namespace {

class CompositionReader {
 public:
  CompositionReader(const TreeReader& tree, const RelPath& path, std::uint8_t format, GraphBuilder& out,
                    Contexts& contexts)
      : tree_(tree), self_(format), out_(out), contexts_(contexts), file_(out.files().index(path)) {
    base_ = {path.parent(), file_, Space::tree};
  }

  void run(const std::string& bytes) {
    values_ = values::read(bytes, values::Language::yaml);
    for (const values::Value& value : values_) {
      if (value.path.size() < 2) continue;
      const std::string& top = value.path[0];
      if (top == "include") {
        take(value, Role::script, true);
      } else if (top == "services" && value.path.size() > 2) {
        service(value);
      } else if ((top == "configs" || top == "secrets") && value.path.size() == 3 &&
                 value.path[2] == "file") {
        take(value, Role::listed, false);
      }
    }
  }

 private:
  bool ends_with(const values::Value& value, std::size_t at, std::string_view key) const {
    return at < value.path.size() && value.path[at] == key;
  }

  void service(const values::Value& value) {
    const std::string& key = value.path[2];
    const std::string& last = value.path.back();
    if (key == "build") {
      build(value);
    } else if (key == "env_file" || key == "label_file") {
      if (last != "required" && last != "format") take(value, Role::listed, false);
    } else if (key == "extends" && last == "file") {
      take(value, Role::script, true);
    } else if (key == "volumes") {
      volume(value);
    } else if (key == "develop" && (last == "path" || ends_with(value, value.path.size() - 2, "ignore"))) {
      take(value, Role::listed, false);
    }
  }

  // The context of a service, and its container file, which is found from there.
  void build(const values::Value& value) {
    const std::string& last = value.path.back();
    bool is_context = value.path.size() == 3 || (value.path.size() == 4 && last == "context");
    if (is_context) {
      take(value, Role::listed, true);
      auto folder = folder_of(value);
      if (folder) {
        std::optional<RelPath> file = container_file(value.path[1], *folder);
        if (file) contexts_[*file].push_back({*folder, kNoFile, Space::tree});
      }
    } else if (last == "dockerfile") {
      auto folder = context_of(value.path[1]);
      if (folder) take_from(value, {*folder, kNoFile, Space::tree}, Role::listed, true, 0);
    } else if (value.path.size() >= 5 && value.path[3] == "additional_contexts") {
      std::size_t equals = value.text.find('=');
      bool is_list = equals != std::string::npos;
      take_from(value, base_, Role::listed, false, is_list ? equals + 1 : 0);
    } else if (value.path.size() >= 4 && (value.path[3] == "ssh" || value.path[3] == "secrets")) {
      return;
    }
  }

  std::optional<RelPath> folder_of(const values::Value& value) const {
    if (value.text.find("://") != std::string::npos || value.text.find('$') != std::string::npos)
      return std::nullopt;
    return RelPath::resolve(base_.folder, value.text);
  }

  std::optional<RelPath> context_of(const std::string& service) const {
    for (const values::Value& value : values_) {
      bool is_context = value.path.size() == 4 && value.path[1] == service && value.path[2] == "build" &&
                        value.path[3] == "context" && value.path[0] == "services";
      if (is_context) return folder_of(value);
    }
    return base_.folder;
  }

  std::optional<RelPath> container_file(const std::string& service, const RelPath& folder) const {
    std::string name = "Dockerfile";
    for (const values::Value& value : values_) {
      bool names = value.path.size() == 4 && value.path[1] == service && value.path[2] == "build" &&
                   value.path[3] == "dockerfile";
      if (names) name = value.text;
    }
    auto path = RelPath::resolve(folder, name);
    return path && tree_.is_file(*path) ? path : std::nullopt;
  }

  // "./data:/data:ro", or source: ./data of a bind mount.
  void volume(const values::Value& value) {
    bool is_long = value.path.back() == "source";
    if (!is_long && value.path.size() != 4) return;
    std::string text = value.text.substr(0, is_long ? std::string::npos : value.text.find(':'));
    if (!text.starts_with(".") && !(is_long && text.find('/') != std::string::npos)) return;
    take_from(value, base_, Role::listed, false, 0, text.size());
  }

  void take(const values::Value& value, Role role, bool wanted) { take_from(value, base_, role, wanted, 0); }

  void take_from(const values::Value& value, const Base& base, Role role, bool wanted, std::size_t begin,
                 std::size_t count = std::string::npos) {
    TracedText text = values::traced(value, file_).substr(begin, count);
    while (text.size() > 1 && text.text().ends_with("/")) text = text.substr(0, text.size() - 1);
    std::string plain = text.text();
    if (plain.find_first_of("$*") != std::string::npos || plain.find("://") != std::string::npos ||
        !value.verbatim)
      return;
    Place place = place_of(base.folder, plain);
    // "." is a folder like others, from which a composition may go away.
    bool is_own = plain == "." || plain == "./";
    if (place.space != Space::tree || (place.path.is_root() && !is_own && !climbs_to_root(plain))) return;
    const Entry* entry = tree_.find(place.path);
    if (entry && entry->ignored) return;
    if (!entry && !wanted) return;
    Reference reference = Reference::of(role, self_, {{file_, value.span.begin}}, base, std::move(text));
    reference.dangling = !entry;
    if (entry) reference.lead_to(place.path);
    out_.add(std::move(reference));
  }

  const TreeReader& tree_;
  std::uint8_t self_;
  GraphBuilder& out_;
  Contexts& contexts_;
  FileIndex file_;
  Base base_;
  std::vector<values::Value> values_;
};

}  // namespace

bool is_composition(const RelPath& path) {
  std::string_view name = path.name(), ending = path.extension();
  bool yaml = ending == ".yml" || ending == ".yaml";
  return yaml && (name.starts_with("docker-compose") || name.starts_with("compose.") ||
                  name.starts_with("podman-compose"));
}

void read_composition(const TreeReader& tree, const RelPath& path, std::uint8_t format, GraphBuilder& out,
                      Contexts& contexts) {
  auto bytes = tree.read(path);
  if (bytes) CompositionReader(tree, path, format, out, contexts).run(**bytes);
}

}  // namespace yc::containers
