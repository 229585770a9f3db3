#include "formats/doc_settings/doc_settings.h"
#include "base/text.h"
#include "formats/capabilities/words.h"
#include "words/doc_settings.h"

#include <algorithm>
#include <set>

namespace yc {

namespace {

// Settings whose words are files or folders that are read.
bool names_paths(std::string_view name) {
  return words::doc_settings::path_settings().contains(name);
}

bool may_be_settings(const RelPath& path) {
  std::string name(path.name());
  name = lowered(name);
  return name.find("doxy") != std::string::npos || name.ends_with(".dox.in") || name.ends_with(".cfg.in");
}

constexpr WritingStyle kBare = 0, kInQuotes = 1;

// Words of the path settings, with folders put in for the tokens of templates.
class DocSettingsReader {
 public:
  DocSettingsReader(FileIndex file, const RelPath& path, const RelPath& top, std::string_view bytes)
      : file_(file), path_(path), top_(top), bytes_(bytes) {}

  std::vector<TracedText> run() {
    while (at_ < bytes_.size()) line();
    return std::move(out_);
  }

 private:
  void line() {
    std::size_t end = std::min(bytes_.find('\n', at_), bytes_.size());
    std::size_t begin = bytes_.find_first_not_of(" \t", at_);
    std::size_t equals = bytes_.substr(0, end).find('=', at_);
    bool is_setting = begin < end && bytes_[begin] != '#' && equals != std::string_view::npos;
    std::string_view name = is_setting ? bytes_.substr(begin, equals - begin) : std::string_view();
    while (!name.empty() && (name.back() == ' ' || name.back() == '\t' || name.back() == '+'))
      name.remove_suffix(1);
    at_ = is_setting ? equals + 1 : end + 1;
    if (!is_setting) return;
    values(names_paths(name));
  }

  // Up to the end of the line, and on where a backslash continues it.
  void values(bool wanted) {
    while (at_ < bytes_.size()) {
      char c = bytes_[at_];
      if (c == '\n') {
        ++at_;
        return;
      }
      if (c == '#') {
        at_ = std::min(bytes_.find('\n', at_), bytes_.size());
      } else if (c == '\\' && bytes_.find_first_not_of(" \t\r", at_ + 1) == bytes_.find('\n', at_)) {
        at_ = std::min(bytes_.find('\n', at_), bytes_.size() - 1) + 1;
      } else if (c == ' ' || c == '\t' || c == '\r' || c == ',') {
        ++at_;
      } else {
        bool quoted = c == '"';
        std::size_t begin = at_ + (quoted ? 1 : 0);
        std::size_t end = std::min(bytes_.find_first_of(quoted ? "\"\n" : " \t\r\n,", begin), bytes_.size());
        if (wanted && end > begin) out_.push_back(word(begin, end, quoted ? kInQuotes : kBare));
        at_ = end + (quoted && end < bytes_.size() && bytes_[end] == '"' ? 1 : 0);
      }
    }
  }

  TracedText word(std::size_t begin, std::size_t end, WritingStyle style) const {
    static const std::set<std::string_view> own = {
        "@srcdir@",  "@abs_srcdir@", "@CMAKE_CURRENT_SOURCE_DIR@", "${CMAKE_CURRENT_SOURCE_DIR}",
        "$(SRCDIR)", "$(srcdir)"};
    static const std::set<std::string_view> top = {"@top_srcdir@",        "@abs_top_srcdir@",
                                                   "@CMAKE_SOURCE_DIR@",  "@PROJECT_SOURCE_DIR@",
                                                   "${CMAKE_SOURCE_DIR}", "${PROJECT_SOURCE_DIR}"};
    TracedText out;
    std::string_view text = bytes_.substr(begin, end - begin);
    for (const auto* tokens : {&own, &top}) {
      for (std::string_view token : *tokens) {
        if (!text.starts_with(token)) continue;
        if (tokens == &own)
          out = TracedText::folder(Piece::Nature::tree_folder, file_, marked(Space::tree, path_.parent()));
        else
          out = TracedText::plain(marked(Space::tree, top_));
        begin += token.size();
        text.remove_prefix(token.size());
      }
    }
    if (text.find_first_of("@$") != std::string_view::npos) return TracedText::hole();
    if (!text.empty()) out.append(TracedText::literal(std::string(text), file_, span_of(begin, end), style));
    return out;
  }

  FileIndex file_;
  const RelPath& path_;
  RelPath top_;
  std::string_view bytes_;
  std::size_t at_ = 0;
  std::vector<TracedText> out_;
};

class DocSettingsFormat : public Format, public ListWords {
 public:
  std::string_view name() const override { return "doc settings"; }

  bool claims(const RelPath& path) const override { return may_be_settings(path); }

  void read(const Reading& in) const override {
    in.each([&](const RelPath& path, const Bytes& bytes) {
      if (bytes->find("INPUT") == std::string::npos || is_binary(*bytes)) return false;
      read_settings(in.tree, in.self, in.out, path, *bytes);
      return true;
    });
  }

  std::optional<std::string> write(std::string_view text, WritingStyle style) const override {
    std::string_view forbidden = style == kInQuotes ? "\"\n\r" : "\"\n\r\t ,#";
    return text.find_first_of(forbidden) == std::string_view::npos ? std::optional(std::string(text))
                                                                   : std::nullopt;
  }

  Span word_at(std::string_view bytes, Span literal) const override {
    Span out = literal;
    std::string_view stops = " \t\r\n,";
    bool quoted = out.begin > 0 && bytes[out.begin - 1] == '"';
    if (quoted) stops = "\n";
    while (out.begin > 0 && stops.find(bytes[out.begin - 1]) == std::string_view::npos &&
           bytes[out.begin - 1] != '=') {
      --out.begin;
      if (quoted && bytes[out.begin] == '"') break;
    }
    while (out.end < bytes.size() && stops.find(bytes[out.end]) == std::string_view::npos) {
      if (quoted && bytes[out.end++] == '"') break;
      if (!quoted) ++out.end;
    }
    return out;
  }

  std::optional<std::string> beside(std::string_view bytes, Span word, std::string_view text) const override {
    auto written = write(text, kBare);
    // Where each word has a line of its own, so has the new one.
    std::size_t line = bytes.rfind('\n', word.begin);
    line = line == std::string_view::npos ? 0 : line + 1;
    std::string_view before = bytes.substr(line, word.begin - line);
    bool alone = before.find_first_not_of(" \t") == std::string_view::npos && line > 0;
    if (!written) return std::nullopt;
    return alone ? " \\\n" + std::string(before) + *written : " " + *written;
  }

  std::optional<Span> without(std::string_view bytes, Span word) const override {
    Span out = word;
    while (out.begin > 0 && (bytes[out.begin - 1] == ' ' || bytes[out.begin - 1] == '\t')) --out.begin;
    return out;
  }

 private:
  static RelPath top_of(const TreeReader& tree, const RelPath& path) {
    RelPath out = path.parent();
    for (RelPath up = path.parent();; up = up.parent()) {
      for (const char* script : {"configure.ac", "configure.in", "meson.build", "CMakeLists.txt"}) {
        if (tree.is_file(up / script)) out = up;
      }
      if (up.is_root()) break;
    }
    return out;
  }

  // It is started from the folder, from the file's own up to the root, from which most words lead somewhere.
  static void read_settings(const TreeReader& tree, std::uint8_t self, GraphBuilder& out, const RelPath& path,
                            std::string_view bytes) {
    FileIndex file = out.files().index(path);
    std::vector<TracedText> words = DocSettingsReader(file, path, top_of(tree, path), bytes).run();
    auto led = [&](const RelPath& folder, const TracedText& word) {
      Place place = place_of(folder, word.text());
      bool counts = place.space == Space::tree && (!place.path.is_root() || climbs_to_root(word.text()));
      return counts && !word.has_hole() && tree.find(place.path) && !tree.find(place.path)->ignored
                 ? std::optional(place.path)
                 : std::nullopt;
    };
    RelPath best = path.parent();
    std::size_t most = 0;
    for (RelPath up = path.parent();; up = up.parent()) {
      std::size_t found = 0;
      for (const TracedText& word : words) found += led(up, word).has_value();
      if (found > most) best = up, most = found;
      if (up.is_root()) break;
    }
    Base base{best, best == path.parent() ? file : kNoFile, Space::tree};
    for (const TracedText& word : words) {
      auto target = led(best, word);
      if (!target || word.first_origin().file == kNoFile) continue;
      Reference reference =
          Reference::of(Role::argument, self, {{file, word.first_origin().span.begin}}, {}, word).likely();
      // Started from another folder, it would be another reference.
      if (best != path.parent()) reference.construct_part = ConstructPart::of(best);
      reference.base = base;
      reference.in_list = true;
      reference.lead_to(*target);
      out.add(std::move(reference));
    }
  }
};

}  // namespace

std::unique_ptr<Format> doc_settings_format() {
  return std::make_unique<DocSettingsFormat>();
}

}  // namespace yc
