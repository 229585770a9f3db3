#include "formats/pipelines/pipelines.h"

#include <algorithm>

#include "formats/capabilities/consequences.h"
#include "formats/shell/command_line.h"
#include "formats/values/values.h"
#include "model/add_reference.h"
#include "words/pipelines.h"

namespace yc {

namespace {

using values::Value;

bool is_pipeline(const RelPath& path) {
  std::string_view name = path.name(), ending = path.extension();
  if (ending != ".yml" && ending != ".yaml") return false;
  if (words::pipelines::file_names().contains(name) || name.ends_with(".gitlab-ci.yml")) return true;
  for (RelPath up = path.parent(); !up.is_root(); up = up.parent()) {
    std::string_view folder = up.name();
    bool hosts = folder == ".github" || folder == ".gitlab" || folder == ".circleci" ||
                 folder == ".forgejo" || folder == ".gitea" || folder == ".buildkite" ||
                 folder == ".azure-pipelines" || folder == ".woodpecker";
    if (hosts) return true;
  }
  return false;
}

// https://docs.github.com/actions, "Workflow syntax": files right in .github/workflows.
bool is_workflow(const RelPath& path) {
  RelPath folder = path.parent(), host = folder.parent();
  return is_pipeline(path) && folder.name() == "workflows" &&
         (host.name() == ".github" || host.name() == ".forgejo" || host.name() == ".gitea");
}

// The last key that is a word.
std::string key_of_step(const Value& value) {
  for (auto key = value.path.rbegin(); key != value.path.rend(); ++key) {
    if (key->empty() || key->find_first_not_of("0123456789") != std::string::npos) return *key;
  }
  return "";
}

bool is_command(const std::string& key) {
  return words::pipelines::command_keys().contains(key);
}

bool is_pattern_list(const std::string& key) {
  return words::pipelines::pattern_keys().contains(key);
}

bool is_folder_key(const std::string& key) {
  return key == "working-directory" || key == "working_directory" || key == "workingDirectory" ||
         key == "workdir" || key == "directory" || key == "directories" || key == "root-directory";
}

class PipelineReader {
 public:
  PipelineReader(const TreeReader& tree, const RelPath& path, std::uint8_t format, GraphBuilder& out)
      : tree_(tree), self_(format), out_(out), file_(out.files().index(path)) {
    // An action of the tree counts from its own folder where nothing says otherwise.
    bool action = path.name() == "action.yml" || path.name() == "action.yaml";
    base_ = action ? Base{path.parent(), file_, Space::tree} : Base{{}, kNoFile, Space::tree};
  }

  void run(const std::string& bytes) {
    values_ = values::read(bytes, values::Language::yaml);
    for (const Value& value : values_) {
      if (!value.path.empty() && is_folder_key(key_of_step(value))) folders_.push_back(&value);
    }
    for (std::size_t i = 0; i < values_.size();) {
      // The lines of a block are one text.
      std::size_t end = i + 1;
      bool block = values_[i].style == values::kBareLine;
      while (block && end < values_.size() && values_[end].path == values_[i].path &&
             values_[end].style == values::kBareLine)
        ++end;
      // So are the commands of a list, which one shell runs.
      while (end < values_.size() && are_of_one_list(values_[i], values_[end])) ++end;
      take(i, end);
      i = end;
    }
  }

 private:
  static bool are_of_one_list(const Value& one, const Value& other) {
    auto is_number = [](const std::string& key) {
      return !key.empty() && key.find_first_not_of("0123456789") == std::string::npos;
    };
    return is_command(key_of_step(one)) && one.path.size() > 1 && one.path.size() == other.path.size() &&
           is_number(one.path.back()) && is_number(other.path.back()) &&
           std::equal(one.path.begin(), one.path.end() - 1, other.path.begin());
  }

  void take(std::size_t begin, std::size_t end) {
    const Value& value = values_[begin];
    std::string key = key_of_step(value);
    if (is_command(key)) {
      commands(begin, end);
      return;
    }
    for (std::size_t i = begin; i < end; ++i) {
      if (key == "uses" || key == "local" || key == "template") {
        local(values_[i]);
      } else if ((key == "files" || key == "exclude") && values_[i].text.starts_with("^")) {
        expression(values_[i]);
      } else if (is_pattern_list(key) || (key == "path" && has_wildcard(values_[i].text))) {
        pattern(values_[i]);
      } else {
        // "path: web" of a cache may be a bare name.
        auto place = key == "path" ? RelPath::resolve({}, values_[i].text) : std::nullopt;
        plain(values_[i], is_folder_key(key) || (place && !place->is_root() && tree_.is_folder(*place)));
      }
      if (key == "path" || key == "paths") {
        folder_of_made(values_[i]);
      }
    }
  }

  // The folder that a command runs in: that of its step, else the defaults of its job or of the whole.
  std::optional<Base> folder_of(const Value& value) const {
    const Value* best = nullptr;
    for (const Value* one : folders_) {
      const Value& other = *one;
      std::vector<std::string> scope(other.path.begin(), other.path.end() - 1);
      // defaults: run: working-directory: …
      if (scope.size() >= 2 && scope.back() == "run" && scope[scope.size() - 2] == "defaults")
        scope.resize(scope.size() - 2);
      bool holds =
          scope.size() <= value.path.size() && std::equal(scope.begin(), scope.end(), value.path.begin());
      if (holds && (!best || other.path.size() > best->path.size())) best = &other;
    }
    if (!best) return base_;
    if (best->text.find("${{") != std::string::npos) return std::nullopt;
    auto place = RelPath::resolve({}, best->text);
    return place ? std::optional(Base{*place, kNoFile, Space::tree}) : std::nullopt;
  }

  // What runs first in the shell of a job's script, and may leave its folder: before_script of the job, else
  // that of all jobs (GitLab CI/CD, "before_script"; Travis CI, "The Job Lifecycle").
  TracedText run_before(const Value& value) const {
    auto script = std::find(value.path.begin(), value.path.end(), "script");
    TracedText out;
    if (script == value.path.end()) return out;
    constexpr const char* kFirst = "before_script";
    std::vector<std::string> own(value.path.begin(), script);
    own.emplace_back(kFirst);
    for (const std::vector<std::string>& list : {own, {kFirst}, {"default", kFirst}}) {
      for (const Value& other : values_) {
        bool is_in = other.path.size() >= list.size() && other.path.size() <= list.size() + 1 &&
                     std::equal(list.begin(), list.end(), other.path.begin());
        if (!is_in) continue;
        out.append(other.verbatim ? TracedText::plain(other.text) : TracedText::hole());
        out.append(TracedText::plain("\n"));
      }
      if (!out.empty()) break;
    }
    return out;
  }

  void commands(std::size_t begin, std::size_t end) {
    auto base = folder_of(values_[begin]);
    if (!base) return;
    // Also those of an action, whatever its other paths are counted from.
    if (base->anchor != kNoFile) base = Base{{}, kNoFile, Space::tree};
    TracedText text = run_before(values_[begin]);
    for (std::size_t i = begin; i < end; ++i) {
      // Of a text with escapes nobody here says what the shell is given.
      TracedText line =
          values_[i].verbatim ? with_expressions(values::traced(values_[i], file_)) : TracedText::hole();
      bool goes_on = line.text().ends_with("\\");
      if (goes_on) line = line.substr(0, line.size() - 1);
      text.append(line);
      text.append(TracedText::plain(goes_on ? " " : "\n"));
    }
    for (const shell::Command& command : shell::read(text, *base, tree_).commands) {
      for (Reference& reference : shell::pick(command, tree_).references) {
        if (reference.text.first_origin().file == kNoFile) continue;
        reference.certainty = Certainty::likely;
        reference.may_gain = true;
        reference.dangling = false;
        reference.role = Role::argument;
        add(std::move(reference), values_[begin].span.begin);
      }
      if (!command.base_known) continue;
      for (const TracedText& word : shell::words_with_holes(command))
        add_unseen(out_, tree_, word, command.base, self_, {{file_, word.first_origin().span.begin}});
    }
  }

  // ${{ github.workspace }} is the root; other expressions are not known.
  TracedText with_expressions(const TracedText& text) const {
    std::string all = text.text();
    TracedText out;
    std::size_t from = 0;
    for (std::size_t at = all.find("${{"); at != std::string::npos; at = all.find("${{", from)) {
      std::size_t end = all.find("}}", at);
      if (end == std::string::npos) break;
      if (from < at) out.append(text.substr(from, at - from));
      bool root = all.substr(at, end - at).find("github.workspace") != std::string::npos;
      out.append(root ? TracedText::plain(marked(Space::tree, {})) : TracedText::hole());
      from = end + 2;
    }
    if (from < all.size()) out.append(text.substr(from));
    return out;
  }

  std::uint32_t site_of(const TracedText& text, std::uint32_t otherwise) const {
    Passage origin = text.first_origin();
    return origin.file == file_ ? origin.span.begin : otherwise;
  }

  void add(Reference reference, std::uint32_t site) {
    reference.format = self_;
    reference.construct = {{file_, site_of(reference.text, site)}};
    out_.add(std::move(reference));
  }

  bool refer(const Value& value, std::size_t begin, std::size_t count, Role role, Certainty certainty) {
    TracedText text = values::traced(value, file_).substr(begin, count);
    while (text.size() > 1 && text.text().ends_with("/")) text = text.substr(0, text.size() - 1);
    std::string plain = text.text();
    if (!value.verbatim || plain.find_first_not_of("./") == std::string::npos) return false;
    return add_leading(out_, tree_,
                       Reference::of(role, self_, {{file_, site_of(text, value.span.begin)}},
                                     {{}, kNoFile, Space::tree}, text)
                           .as_sure_as(certainty));
  }

  // "./.github/actions/setup", "/ci/build.yml"
  void local(const Value& value) {
    bool lead = value.text.starts_with("/");
    std::size_t at = value.text.find('@');
    if (value.text.starts_with("./") || lead)
      refer(value, lead ? 1 : 0, at == std::string::npos ? at : at - (lead ? 1 : 0), Role::script,
            Certainty::certain);
    else
      plain(value, false);
  }

  // "src/**", "!docs/*.md": the folder before the first wildcard.
  void pattern(const Value& value) {
    std::string text = value.text;
    std::size_t begin = text.starts_with("!") ? 1 : 0;
    if (begin < text.size() && text[begin] == '/') ++begin;
    std::size_t end = text.size(), wild = text.find_first_of("*?[{", begin);
    if (wild != std::string::npos) {
      std::size_t cut = text.rfind('/', wild);
      if (cut == std::string::npos || cut <= begin) return;
      end = cut;
    }
    refer(value, begin, end - begin, Role::argument, Certainty::certain);
  }

  // "^docs/.*[.]md$", an expression for paths from the root: the folder that it begins with.
  void expression(const Value& value) {
    std::size_t special = std::min(value.text.find_first_of("\\.*+?()[]{}|$^", 1), value.text.size());
    std::size_t cut = value.text.rfind('/', special);
    if (cut != std::string::npos && cut > 1) refer(value, 1, cut - 1, Role::argument, Certainty::certain);
  }

  // "web/made" of a cache or of what is kept, where the build makes it: the folder that is there.
  void folder_of_made(const Value& value) {
    const std::string& text = value.text;
    auto place = RelPath::resolve({}, text.substr(0, text.find_first_of("*?[{$")));
    if (!place || place->is_root() || tree_.find(*place) ||
        text.find_first_of(" |<>\"~") != std::string::npos)
      return;
    std::size_t lead = text.starts_with("./") ? 2 : 0;
    for (std::size_t cut = text.rfind('/'); cut != std::string::npos && cut > lead;
         cut = text.rfind('/', cut - 1)) {
      auto folder = RelPath::resolve({}, text.substr(lead, cut - lead));
      if (!folder || !tree_.is_folder(*folder)) continue;
      refer(value, lead, cut - lead, Role::argument, Certainty::likely);
      return;
    }
  }

  // Anything else that leads somewhere from the root; hashFiles('web/package-lock.json') in an expression.
  void plain(const Value& value, bool folder) {
    const std::string& text = value.text;
    if (std::size_t call = text.find("hashFiles("); call != std::string::npos) {
      for (std::size_t at = text.find('\'', call); at != std::string::npos;) {
        std::size_t end = text.find('\'', at + 1);
        if (end == std::string::npos) return;
        std::string word = text.substr(at + 1, end - at - 1);
        std::size_t wild = word.find_first_of("*?[");
        std::size_t size = word.size();
        if (wild != std::string::npos) size = word.rfind('/', wild);
        if (size != std::string::npos && size > 0)
          refer(value, at + 1, size, Role::argument, Certainty::likely);
        at = text.find('\'', end + 1);
      }
      return;
    }
    bool is_path = folder || text.find('/') != std::string::npos ||
                   (text.find('.') != std::string::npos &&
                    tree_.is_file(RelPath::resolve({}, text).value_or(RelPath())));
    if (!is_path || text.find_first_of(" *?$|<>\"") != std::string::npos ||
        text.find("://") != std::string::npos)
      return;
    std::size_t lead = text.starts_with("/") ? 1 : 0;
    refer(value, lead, std::string::npos, Role::argument, folder ? Certainty::certain : Certainty::likely);
  }

  const TreeReader& tree_;
  std::uint8_t self_;
  GraphBuilder& out_;
  FileIndex file_;
  Base base_;
  std::vector<Value> values_;
  std::vector<const Value*> folders_;  // of them, that say where commands run
};

class PipelinesFormat : public Format, public Consequences {
 public:
  std::string_view name() const override { return "pipelines"; }

  bool claims(const RelPath& path) const override { return is_pipeline(path); }

  // Workflows are run, and called, only where they are looked for.
  std::vector<Blocker> consequences(const TreeView&, const TreeView&, const MoveSet& moves) const override {
    std::vector<Blocker> out;
    for (const Move& move : moves.files()) {
      if (!is_workflow(move.from) || is_workflow(move.to)) continue;
      out.push_back({"name-bound",
                     move.from,
                     {},
                     "",
                     "is run because it lies in a folder workflows with the ending .yml or .yaml, and " +
                         move.to.str() + " would not be",
                     "keep it in that folder, or add --accept-unseen if it shall no longer run"});
    }
    return out;
  }

  void read(const Reading& in) const override {
    in.each([&](const RelPath& path, const Bytes& bytes) {
      PipelineReader(in.tree, path, in.self, in.out).run(*bytes);
      return true;
    });
  }

  std::optional<std::string> write(std::string_view text, WritingStyle style) const override {
    bool shell_word = style == shell::kBare || style == shell::kDouble || style == shell::kSingle;
    if (!shell_word) return values::written(text, style);
    // It must be plain for the shell and for YAML alike.
    bool plain = text.find_first_of(" \t\r\n\"'`$\\;&|<>(){}#") == std::string_view::npos;
    return plain ? std::optional(std::string(text)) : std::nullopt;
  }
};

}  // namespace

std::unique_ptr<Format> pipelines_format() {
  return std::make_unique<PipelinesFormat>();
}

}  // namespace yc
