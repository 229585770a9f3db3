#include <algorithm>

#include "base/text.h"
#include "formats/json/json_strings.h"
#include "formats/package_workspaces/package_workspaces.h"
#include "formats/values/values.h"
#include "model/add_reference.h"
#include "words/package_workspaces.h"

namespace yc {

namespace {

constexpr std::string_view kInstalled = "node_modules";

class LockReader {
 public:
  LockReader(const Reading& in, const RelPath& path, const Bytes& bytes)
      : in_(in), path_(path), bytes_(*bytes), file_(in.out.files().index(path)) {}

  void json_lock() {
    for (const json::StringValue& key : json::string_keys(bytes_)) {
      bool is_package = key.path.size() == 1 && key.path[0] == "packages" && is_plain(key);
      if (!is_package) continue;
      std::size_t installed = key.text.find("/" + std::string(kInstalled));
      if (!key.text.starts_with(kInstalled))
        name(key.span.begin, key.text.substr(0, installed), values::kJson);
    }
    for (const json::StringValue& value : json::string_values(bytes_)) {
      if (value.path.size() < 3 || value.path[0] != "packages" || !is_plain(value)) continue;
      const std::string& owner = value.path[1];
      bool is_link = value.path.size() == 3 && value.path[2] == "resolved" && owner.starts_with(kInstalled);
      if (is_link && value.text.find(':') == std::string::npos)
        name(value.span.begin, value.text, values::kJson);
      bool is_dependency = value.path.size() == 4 && value.path[2].ends_with("ependencies");
      if (is_dependency) depends(value.text, value.span.begin, owner, values::kJson);
    }
  }

  // Sections begin at the line's begin; their keys two columns behind it.
  void importers() {
    std::string section, importer;
    for_each_line(bytes_, [&](std::string_view line, std::size_t begin) {
      std::size_t indent = line.find_first_not_of(' ');
      if (indent == std::string_view::npos) return;
      if (indent == 0) section = std::string(line.substr(0, line.find(':')));
      if (section == "importers" && indent == 2) {
        Span key = key_at(line, begin, indent);
        importer = std::string(cut(bytes_, key));
        if (importer != ".") name(key.begin, importer, values::kYamlPlain);
      } else if (section == "importers" && indent > 2) {
        std::size_t value = line.find(": ", indent);
        if (value != std::string_view::npos) word(line, begin, value + 2, importer == "." ? "" : importer);
      } else if (section == "packages") {
        if (indent == 2 && key_text(line, indent).starts_with("file:")) {
          Span key = key_at(line, begin, indent);
          name(key.begin + 5, std::string(cut(bytes_, {key.begin + 5, key.end})), values::kYamlPlain);
        }
        std::size_t folder = line.find("directory: ");
        if (folder == std::string_view::npos) return;
        std::size_t from = folder + std::string_view("directory: ").size();
        std::size_t to = std::min(line.find_first_of(",}", from), line.size());
        name(begin + from, std::string(trimmed(line.substr(from, to - from))), values::kYamlPlain);
      }
    });
  }

  // "level@workspace:packages/level"
  void resolutions() {
    constexpr std::string_view kMark = "@workspace:";
    std::string_view text = bytes_;
    for (std::size_t at = text.find(kMark); at != std::string_view::npos; at = text.find(kMark, at + 1)) {
      std::size_t begin = at + kMark.size(),
                  end = std::min(text.find_first_of("\", \n:", begin), text.size());
      name(begin, std::string(text.substr(begin, end - begin)), values::kYamlDouble);
    }
  }

 private:
  static bool is_plain(const json::StringValue& value) { return value.span.size() == value.text.size(); }

  static std::string_view key_text(std::string_view line, std::size_t indent) {
    std::size_t from = indent;
    bool is_quoted = line[from] == '\'' || line[from] == '"';
    std::size_t end = is_quoted ? line.find(line[from], from + 1) : line.find(':', from);
    // "file:packages/level:" has a colon of its own.
    if (!is_quoted && line.substr(from).starts_with("file:")) end = line.find(':', from + 5);
    if (is_quoted) ++from;
    return line.substr(from, std::min(end, line.size()) - from);
  }
  static Span key_at(std::string_view line, std::size_t begin, std::size_t indent) {
    std::string_view key = key_text(line, indent);
    std::size_t from = begin + static_cast<std::size_t>(key.data() - line.data());
    return span_of(from, from + key.size());
  }

  void word(std::string_view line, std::size_t begin, std::size_t from, const std::string& owner) {
    std::string_view text = trimmed(line.substr(from), " \t\r\n'\"");
    std::size_t at = begin + static_cast<std::size_t>(text.data() - line.data());
    depends(std::string(text.substr(0, text.find('('))), at, owner, values::kYamlPlain);
  }

  // What a package depends on, if that is a folder: counted from its own.
  void depends(const std::string& text, std::size_t at, const std::string& owner, WritingStyle style) {
    for (std::string_view scheme : {"file:", "link:", "portal:", "workspace:"}) {
      if (!text.starts_with(scheme)) continue;
      auto folder = RelPath::resolve(path_.parent(), owner);
      if (folder) add(at + scheme.size(), text.substr(scheme.size()), {*folder, kNoFile, Space::tree}, style);
    }
  }

  void name(std::size_t at, std::string text, WritingStyle style) {
    add(at, std::move(text), {path_.parent(), file_, Space::tree}, style);
  }

  void add(std::size_t at, std::string text, Base base, WritingStyle style) {
    Span span = span_of(at, at + text.size());
    add_leading(in_.out, in_.tree,
                Reference::of(Role::listed, in_.self, {{file_, span.begin}}, std::move(base),
                              TracedText::literal(std::move(text), file_, span, style)));
  }

  const Reading& in_;
  const RelPath& path_;
  const std::string& bytes_;
  FileIndex file_;
};

class PackageLocksFormat : public Format {
 public:
  std::string_view name() const override { return "package locks"; }
  bool claims(const RelPath& path) const override {
    return words::package_workspaces::json_locks().contains(path.name()) ||
           words::package_workspaces::other_locks().contains(path.name());
  }
  void read(const Reading& in) const override {
    in.each([&](const RelPath& path, const Bytes& bytes) {
      LockReader reader(in, path, bytes);
      if (path.extension() == ".json") {
        reader.json_lock();
      } else if (path.extension() == ".yaml") {
        reader.importers();
      } else {
        reader.resolutions();
      }
      return true;
    });
  }
  std::optional<std::string> write(std::string_view text, WritingStyle style) const override {
    return values::written(text, style);
  }
};

}  // namespace

std::unique_ptr<Format> package_locks_format() {
  return std::make_unique<PackageLocksFormat>();
}

}  // namespace yc
