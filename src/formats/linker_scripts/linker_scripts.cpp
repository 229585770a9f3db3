#include "formats/linker_scripts/linker_scripts.h"

#include <algorithm>

#include "base/text.h"

namespace yc {

namespace {

struct LinkerWord {
  std::string text;
  Span span;  // without its quotes
  bool quoted = false;
};

bool is_linker_script(const RelPath& path) {
  for (std::string_view ending :
       {".ld", ".lds", ".ldscript", ".ld.in", ".lds.in", ".ld.S", ".lds.S", ".lcf"}) {
    if (path.str().ends_with(ending)) return true;
  }
  return false;
}

// Words and punctuation; comments are stepped over.
std::vector<LinkerWord> words_of_linker(std::string_view bytes) {
  std::vector<LinkerWord> out;
  auto add = [&](std::size_t begin, std::size_t end, bool quoted) {
    out.push_back({std::string(bytes.substr(begin, end - begin)), span_of(begin, end), quoted});
  };
  for (std::size_t at = 0; at < bytes.size();) {
    char c = bytes[at];
    if (std::isspace(static_cast<unsigned char>(c)) || c == ',') {
      ++at;
    } else if (bytes.substr(at, 2) == "/*") {
      at = behind_comment(bytes, at);
    } else if (c == '"') {
      std::size_t end = std::min(bytes.find_first_of("\"\n", at + 1), bytes.size());
      add(at + 1, end, true);
      at = end + 1;
    } else if (std::string_view("(){};").find(c) != std::string_view::npos) {
      add(at, at + 1, false);
      ++at;
    } else {
      std::size_t end = std::min(bytes.find_first_of(" \t\r\n,(){};\"", at), bytes.size());
      add(at, end, false);
      at = end;
    }
  }
  return out;
}

class LinkerScriptsFormat : public Format {
 public:
  std::string_view name() const override { return "linker scripts"; }
  ScopeSet needs() const override { return Scope::lookups; }

  bool claims(const RelPath& path) const override { return is_linker_script(path); }

  void read(const Reading& in) const override {
    in.each([&](const RelPath& path, const Bytes& bytes) {
      if (is_binary(*bytes)) return false;
      std::vector<LinkerWord> words = words_of_linker(*bytes);
      for (std::size_t i = 0; i + 1 < words.size(); ++i) {
        const std::string& command = words[i].text;
        if (words[i].quoted) continue;
        if (command == "INCLUDE") {
          refer(in, path, words[i + 1], Role::script);
        } else if (words[i + 1].text == "(" &&
                   (command == "INPUT" || command == "GROUP" || command == "STARTUP" ||
                    command == "SEARCH_DIR" || command == "AS_NEEDED")) {
          Role role = command == "SEARCH_DIR" ? Role::search_root : Role::argument;
          std::size_t j = i + 2;
          for (; j < words.size() && words[j].text != ")"; ++j) {
            if (words[j].text != "(" && words[j].text != "AS_NEEDED") refer(in, path, words[j], role);
          }
          i = j - 1;
        }
      }
      return true;
    });
  }

  std::optional<std::string> write(std::string_view text, WritingStyle style) const override {
    std::string_view forbidden = style == kInQuotes ? "\"\n\r" : "\"\n\r\t ,(){};*?";
    return text.find_first_of(forbidden) == std::string_view::npos ? std::optional(std::string(text))
                                                                   : std::nullopt;
  }

 private:
  static constexpr WritingStyle kPlain = 0, kInQuotes = 1;

  // The linker looks in the folder that it is started in and in those of -L. Where no command tells, it is
  // taken to be the one folder, from the script's own up to the root, in which the file is.
  static void refer(const Reading& in, const RelPath& path, const LinkerWord& word, Role role) {
    if (word.text.empty() || word.text.starts_with("-l") || word.text.starts_with("=")) return;
    FileIndex file = in.out.files().index(path);
    std::vector<Base> folders;
    auto told = in.scopes.lookups.find(path);
    bool is_told = told != in.scopes.lookups.end();
    if (is_told) folders = told->second;
    for (RelPath up = path.parent(); !is_told; up = up.parent()) {
      folders.push_back({up, up == path.parent() ? file : kNoFile, Space::tree});
      if (up.is_root()) break;
    }
    for (const Base& folder : folders) {
      Place place = place_of(folder.folder, word.text);
      bool there = place.space == Space::tree && !place.path.is_root() && in.tree.find(place.path);
      if (!there) continue;
      Reference reference =
          Reference::of(role, in.self, {{file, word.span.begin}}, folder,
                        TracedText::literal(word.text, file, word.span, word.quoted ? kInQuotes : kPlain));
      reference.certainty = is_told ? Certainty::certain : Certainty::likely;
      reference.search = folders;
      reference.lead_to(place.path);
      in.out.add(std::move(reference));
      return;
    }
  }
};

}  // namespace

std::unique_ptr<Format> linker_scripts_format() {
  return std::make_unique<LinkerScriptsFormat>();
}

}  // namespace yc
