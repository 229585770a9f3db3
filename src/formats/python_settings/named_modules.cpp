#include "formats/python_settings/named_modules.h"

#include <cctype>

#include "formats/values/values.h"
#include "words/python_settings.h"

namespace yc::python_settings {

namespace {

constexpr std::uint64_t kLargest = 1'000'000;

bool may_hold_commands(const RelPath& path) {
  std::string_view name = path.name();
  return words::python_settings::command_endings().contains(path.extension()) || name == "Makefile" ||
         name == "makefile" || name == "GNUmakefile" || name.starts_with("Dockerfile") ||
         name == "Procfile" || name == "justfile";
}

class Emitter {
 public:
  Emitter(const TreeReader& tree, const python::PythonResolver& resolver, std::uint8_t format,
          GraphBuilder& out)
      : tree_(tree), resolver_(resolver), self_(format), out_(out) {}

  void run(const std::vector<RelPath>& files) {
    for (const RelPath& path : files) {
      bool commands = may_hold_commands(path), document = path.extension() == ".rst";
      const Entry* entry = commands || document ? tree_.find(path) : nullptr;
      if (!entry || entry->kind != EntryKind::file || entry->ignored || entry->guarded ||
          entry->size > kLargest)
        continue;
      auto bytes = tree_.read(path);
      if (!bytes) continue;
      if (commands) started(path, **bytes);
      if (document) documented(path, **bytes);
    }
  }

 private:
  static std::size_t end_of_name(const std::string& text, std::size_t at) {
    while (at < text.size() &&
           (std::isalnum(static_cast<unsigned char>(text[at])) || text[at] == '_' || text[at] == '.'))
      ++at;
    return at;
  }

  // The longest beginning of a dotted name that is a module.
  void name(const RelPath& path, const std::string& text, std::size_t begin, std::size_t end, bool whole) {
    std::string dotted = text.substr(begin, end - begin);
    std::optional<python::Found> found;
    while (python::is_dotted_name(dotted)) {
      found = resolver_.absolute(path, dotted);
      std::size_t cut = dotted.rfind('.');
      if (found || whole || cut == std::string::npos) break;
      dotted.resize(cut);
    }
    if (!found) return;
    FileIndex file = out_.files().index(path);
    Span span = span_of(begin, begin + dotted.size());
    Reference reference =
        Reference::of(Role::module, self_, {{file, span.begin}}, {path.parent(), file, Space::tree},
                      TracedText::literal(dotted, file, span, values::kBareLine))
            .spelled_by_format();
    reference.search.push_back({found->root, kNoFile, Space::tree});
    reference.lead_to(found->files);
    out_.add(std::move(reference));
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
      if (python) name(path, text, begin, end_of_name(text, begin), true);
    }
  }

  void documented(const RelPath& path, const std::string& text) {
    for (std::string_view mark : {":: ", ":mod:`", ":class:`", ":func:`", ":meth:`", ":data:`", ":exc:`"}) {
      for (std::size_t at = text.find(mark); at != std::string::npos; at = text.find(mark, at + 1)) {
        if (mark == ":: ") {
          std::size_t line = at == 0 ? 0 : text.rfind('\n', at - 1) + 1;
          std::string_view directive = std::string_view(text).substr(line, at - line);
          bool about = directive.find(".. auto") != std::string_view::npos ||
                       directive.find("module") != std::string_view::npos;
          if (!about || directive.find(".. ") == std::string_view::npos) continue;
        }
        std::size_t begin = at + mark.size();
        while (begin < text.size() && (text[begin] == '~' || text[begin] == ' ' || text[begin] == '!'))
          ++begin;
        name(path, text, begin, end_of_name(text, begin), false);
      }
    }
  }

  const TreeReader& tree_;
  const python::PythonResolver& resolver_;
  std::uint8_t self_;
  GraphBuilder& out_;
};

}  // namespace

bool may_name_modules(const RelPath& path) {
  return may_hold_commands(path) || path.extension() == ".rst";
}

void emit_named_modules(const TreeReader& tree, const std::vector<RelPath>& files,
                        const python::PythonResolver& resolver, std::uint8_t format, GraphBuilder& out) {
  Emitter(tree, resolver, format, out).run(files);
}

}  // namespace yc::python_settings
