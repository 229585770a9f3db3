#include "formats/editor_settings/editor_settings.h"

#include <algorithm>
#include <set>

#include "formats/json/json_strings.h"
#include "formats/shell/command_line.h"
#include "model/add_reference.h"
#include "words/editor_settings.h"

namespace yc {

namespace {

// The folder that the settings are for; nothing for other files.
std::optional<RelPath> workspace_of(const RelPath& path) {
  if (path.extension() == ".code-workspace") return path.parent();
  bool json = path.extension() == ".json" || path.extension() == ".jsonc";
  RelPath folder = path.parent();
  if (!json || folder.is_root()) return std::nullopt;
  return words::editor_settings::workspace_folders().contains(folder.name()) ? std::optional(folder.parent())
                                                                             : std::nullopt;
}

class EditorSettingsReader {
 public:
  EditorSettingsReader(const TreeReader& tree, const RelPath& path, RelPath workspace, std::uint8_t format,
                       GraphBuilder& out, std::string_view bytes)
      : tree_(tree),
        workspace_(std::move(workspace)),
        self_(format),
        out_(out),
        bytes_(bytes),
        file_(out.files().index(path)),
        folder_(path.parent()) {}

  void run() {
    for (const json::StringValue& value : json::string_values(bytes_)) {
      bool command =
          !value.path.empty() && (value.path.back() == "command" || value.path.back().ends_with("Command"));
      bool is_from_styles = !value.path.empty() && value.path.back() == "savePath" &&
                            (value.text.starts_with("~/") || value.text.starts_with("../"));
      if (command && value.text.find(' ') != std::string::npos) {
        commands(value);
      } else if (is_from_styles) {
        from_styles(value);
      } else {
        // Several words may stand in one text: "--config=${workspaceFolder}/x".
        path(value);
      }
    }
  }

 private:
  // ${workspaceFolder} and its kin put in; other variables are holes.
  TracedText meant(const json::StringValue& value) const {
    TracedText text = json::traced(bytes_, value, file_);
    std::string all = text.text();
    TracedText out;
    std::size_t from = 0;
    for (std::size_t at = all.find("${"); at != std::string::npos; at = all.find("${", from)) {
      std::size_t end = all.find('}', at);
      if (end == std::string::npos) break;
      if (from < at) out.append(text.substr(from, at - from));
      std::string name = all.substr(at + 2, end - at - 2);
      bool own = name == "workspaceFolder" || name == "workspaceRoot" ||
                 name.starts_with("workspaceFolder:") || name == "ZED_WORKTREE_ROOT" ||
                 name == "localWorkspaceFolder";
      out.append(own ? TracedText::plain(marked(Space::tree, workspace_)) : TracedText::hole());
      from = end + 1;
    }
    if (from < all.size()) out.append(text.substr(from));
    return out;
  }

  void path(const json::StringValue& value) {
    TracedText text = meant(value);
    std::string plain = text.text();
    std::size_t mark = plain.find(kTreeMark);
    bool rooted = mark != std::string::npos;
    if (rooted && mark > 0) {
      text = text.substr(mark);
      plain = text.text();
    }
    std::size_t end = plain.find_first_of("*?;,\x03");
    if (end != std::string::npos) {
      std::size_t cut = plain.rfind('/', end);
      if (cut == std::string::npos) return;
      text = text.substr(0, cut);
      plain.resize(cut);
    }
    while (plain.size() > 1 && plain.back() == '/') plain.pop_back();
    text = text.substr(0, plain.size());
    if (plain.find("://") != std::string::npos) return;
    if (rooted) {
      add(text, {workspace_, kNoFile, Space::tree}, Certainty::certain);
      return;
    }
    // A path of its own: from the workspace, or from the file.
    if (plain.find('/') == std::string::npos || plain.find(' ') != std::string::npos) return;
    if (!add(text, {workspace_, kNoFile, Space::tree}, Certainty::likely))
      add(text, {folder_, file_, Space::tree}, Certainty::likely);
  }

  // Where a compiler of styles puts what it makes, counted from the folder of each style file.
  void from_styles(const json::StringValue& value) {
    TracedText text = json::traced(bytes_, value, file_);
    if (value.text.starts_with("~/")) text = text.substr(2);
    std::set<RelPath> folders;
    for (const RelPath& path : tree_.files()) {
      bool is_style =
          path.extension() == ".scss" || path.extension() == ".sass" || path.extension() == ".less";
      if (is_style && !path.name().starts_with("_") && path.is_within(workspace_))
        folders.insert(path.parent());
    }
    for (const RelPath& folder : folders) {
      auto place = RelPath::resolve(folder, text.text());
      if (!place || place->is_root() || !tree_.is_folder(*place)) continue;
      out_.add(Reference::of(Role::argument, self_, {{file_, value.span.begin}},
                             {folder, kNoFile, Space::tree}, text)
                   .in(ConstructPart::of(folder))
                   .leading_to(*place));
    }
  }

  void commands(const json::StringValue& value) {
    Base base{workspace_, kNoFile, Space::tree};
    for (const shell::Command& command : shell::read(meant(value), base, tree_).commands) {
      for (const Reference& reference : shell::pick(command, tree_).references)
        add(reference.text, reference.base, Certainty::likely);
    }
  }

  bool add(const TracedText& text, const Base& base, Certainty certainty) {
    bool spelled = std::any_of(text.pieces().begin(), text.pieces().end(),
                               [](const Piece& piece) { return piece.has_origin(); });
    if (!spelled || text.has_hole()) return false;
    Reference reference =
        Reference::of(Role::argument, self_, {{file_, text.first_origin().span.begin}}, base, text);
    reference.certainty = certainty;
    reference.may_gain = true;
    if (base.anchor == kNoFile) reference.construct_part = ConstructPart::tagged("workspace");
    return add_leading(out_, tree_, std::move(reference));
  }

  const TreeReader& tree_;
  RelPath workspace_;
  std::uint8_t self_;
  GraphBuilder& out_;
  std::string_view bytes_;
  FileIndex file_;
  RelPath folder_;
};

class EditorSettingsFormat : public Format {
 public:
  std::string_view name() const override { return "editor settings"; }

  bool claims(const RelPath& path) const override { return workspace_of(path).has_value(); }

  void read(const Reading& in) const override {
    in.each([&](const RelPath& path, const Bytes& bytes) {
      EditorSettingsReader(in.tree, path, *workspace_of(path), in.self, in.out, *bytes).run();
      return true;
    });
  }

  std::optional<std::string> write(std::string_view text, WritingStyle style) const override {
    bool shell_word = style == shell::kBare || style == shell::kDouble || style == shell::kSingle;
    if (shell_word && text.find_first_of(" \t'\"$`\\;&|<>()") != std::string_view::npos) return std::nullopt;
    return json::escaped(text);
  }
};

}  // namespace

std::unique_ptr<Format> editor_settings_format() {
  return std::make_unique<EditorSettingsFormat>();
}

}  // namespace yc
