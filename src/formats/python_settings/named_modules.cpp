#include "formats/python_settings/named_modules.h"

#include <cctype>
#include <map>
#include <set>
#include <unordered_set>

#include "formats/values/values.h"
#include "words/python_settings.h"

namespace yc::python_settings {

namespace {

constexpr std::uint64_t kLargest = 1'000'000;

// Whether commands are started in the folder that their file is in: a makefile's are, and those of a script
// that goes there first.
bool starts_in_own_folder(const RelPath& path, const std::string& text) {
  bool is_makefile = path.extension().empty() && path.name().ends_with("akefile");
  bool asks = text.find("dirname") != std::string::npos || text.find("%~dp0") != std::string::npos;
  return is_makefile || (asks && text.find("cd ") != std::string::npos);
}

class Emitter {
 public:
  Emitter(const TreeReader& tree, const python::PythonResolver& resolver, std::uint8_t format,
          GraphBuilder& out)
      : tree_(tree), resolver_(resolver), self_(format), out_(out) {}

  void run(const std::vector<RelPath>& files) {
    for (const RelPath& path : files) {
      const Entry* entry = may_name_modules(path) ? tree_.find(path) : nullptr;
      if (!entry || entry->kind != EntryKind::file || entry->ignored || entry->guarded ||
          entry->size > kLargest)
        continue;
      auto bytes = tree_.read(path);
      if (!bytes) continue;
      started(path, **bytes);
      dotted_names(path, **bytes);
    }
  }

 private:
  static std::size_t end_of_name(const std::string& text, std::size_t at) {
    while (at < text.size() &&
           (std::isalnum(static_cast<unsigned char>(text[at])) || text[at] == '_' || text[at] == '.'))
      ++at;
    return at;
  }

  // How much of a dotted name must be a module: all that stands there, as a program; its longest beginning,
  // but no lone word, where nothing says that it is a module.
  enum class Extent : unsigned char { program, likely };

  void name(const RelPath& path, const std::string& text, std::size_t begin, std::size_t end, Extent extent) {
    std::string dotted = text.substr(begin, end - begin);
    if (extent == Extent::likely && !python::may_name(out_.focus(), dotted)) return;
    std::optional<python::Found> found;
    while (python::is_dotted_name(dotted)) {
      found = module_named(path, dotted);
      std::size_t cut = dotted.rfind('.');
      if (found || extent == Extent::program || cut == std::string::npos) break;
      dotted.resize(cut);
    }
    bool is_guess = extent == Extent::likely;
    if (!found ||
        (is_guess && (dotted.find('.') == std::string::npos || tree_.is_folder(found->files.front()))))
      return;
    if (is_guess && !named_.insert({path, begin}).second) return;
    named_.insert({path, begin});
    FileIndex file = out_.files().index(path);
    Span span = span_of(begin, begin + dotted.size());
    Reference reference =
        Reference::of(Role::module, self_, {{file, span.begin}}, {path.parent(), file, Space::tree},
                      TracedText::literal(dotted, file, span, values::kBareLine))
            .spelled_by_format();
    reference.search.push_back({found->root, kNoFile, Space::tree});
    reference.lead_to(found->files);
    if (is_guess) {
      reference.certainty = Certainty::likely;
      reference.construct_part = ConstructPart::tagged(found->outer ? "dotted, found elsewhere" : "dotted");
    }
    // A program's modules are looked up in the folder that it is started in.
    if (extent == Extent::program && starts_in_own_folder(path, text))
      reference.construct_part =
          ConstructPart::tagged(found->root == path.parent() ? "started here" : "started elsewhere");
    // What is started of a package.
    RelPath main = found->files.front().parent() / "__main__.py";
    if (extent == Extent::program && found->is_package && tree_.is_file(main)) reference.lead_to(main);
    out_.add(std::move(reference));
  }

  // The same names stand in many places.
  const std::optional<python::Found>& module_named(const RelPath& path, const std::string& dotted) {
    auto [at, fresh] = modules_.try_emplace({path.parent(), dotted});
    if (fresh) at->second = resolver_.absolute(path, dotted);
    return at->second;
  }

  void started(const RelPath& path, const std::string& text) {
    constexpr std::string_view kOption = " -m ";
    for (std::size_t at = text.find(kOption); at != std::string::npos; at = text.find(kOption, at + 1)) {
      std::size_t word = at == 0 ? std::string::npos : text.find_last_of(" \t\n\"'=(;&|/[", at - 1);
      std::size_t from = word == std::string::npos ? 0 : word + 1;
      std::string_view program = std::string_view(text).substr(from, at - from);
      bool python = program.starts_with("python") || program.starts_with("PYTHON") ||
                    program.starts_with("$PYTHON") || program.starts_with("{envpython}");
      std::size_t begin = at + kOption.size();
      if (python) name(path, text, begin, end_of_name(text, begin), Extent::program);
    }
  }

  // "gunicorn gauges.web:application", "handler = gauges.intake.Handler", "{"class": "gauges.logs.Writer"}".
  void dotted_names(const RelPath& path, const std::string& text) {
    auto is_word = [&](std::size_t at) {
      unsigned char c = static_cast<unsigned char>(text[at]);
      return std::isalnum(c) || c == '_' || c >= 0x80;
    };
    auto is_part_of_path = [&](std::size_t at) {
      return at < text.size() && std::string_view("./\\-@$").find(text[at]) != std::string_view::npos;
    };
    for (std::size_t at = 0; at < text.size();) {
      if (!is_word(at)) {
        ++at;
        continue;
      }
      std::size_t begin = at, dot = std::string::npos;
      for (; at < text.size() && (is_word(at) || text[at] == '.'); ++at) {
        if (text[at] == '.' && dot == std::string::npos) dot = at;
      }
      if (dot == std::string::npos || (begin > 0 && is_part_of_path(begin - 1)) || is_part_of_path(at))
        continue;
      if (!is_a_package(text.substr(begin, dot - begin))) continue;
      name(path, text, begin, end_of_name(text, begin), Extent::likely);
    }
  }

  // Whether a word is the name of a folder of modules, as far as names tell.
  bool is_a_package(const std::string& word) {
    if (packages_.empty()) {
      packages_.insert("");
      for (const RelPath& path : tree_.files()) {
        if (path.extension() != ".py") continue;
        for (RelPath up = path.parent(); !up.is_root() && packages_.emplace(up.name()).second;
             up = up.parent()) {
        }
      }
    }
    return packages_.contains(word);
  }

  const TreeReader& tree_;
  const python::PythonResolver& resolver_;
  std::uint8_t self_;
  GraphBuilder& out_;
  std::set<std::pair<RelPath, std::size_t>> named_;  // where names were found
  std::unordered_set<std::string> packages_;
  std::map<std::pair<RelPath, std::string>, std::optional<python::Found>> modules_;  // by the user's folder
};

}  // namespace

bool may_name_modules(const RelPath& path) {
  std::string_view name = path.name();
  return words::python_settings::command_endings().contains(path.extension()) || name == "Makefile" ||
         name == "makefile" || name == "GNUmakefile" || name.starts_with("Dockerfile") ||
         name == "Procfile" || name == "justfile";
}

void emit_named_modules(const TreeReader& tree, const std::vector<RelPath>& files,
                        const python::PythonResolver& resolver, std::uint8_t format, GraphBuilder& out) {
  Emitter(tree, resolver, format, out).run(files);
}

}  // namespace yc::python_settings
