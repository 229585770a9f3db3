#include "formats/containers/container_file.h"

#include <algorithm>
#include <cctype>

#include "base/text.h"
#include "formats/json/json_strings.h"
#include "formats/shell/command_line.h"
#include "formats/shell/programs.h"

namespace yc::containers {

namespace {

struct Word {
  std::string_view text;
  std::uint32_t begin = 0;
};

class ContainerFileReader {
 public:
  ContainerFileReader(std::string_view bytes, FileIndex file) : bytes_(bytes), file_(file) {}

  ContainerFile run() {
    for (std::size_t at = 0; at < bytes_.size();) at = instruction(at);
    return std::move(out_);
  }

 private:
  // From the beginning of a line to behind the instruction that stands there.
  std::size_t instruction(std::size_t at) {
    std::vector<Word> words;
    std::size_t first = at, end = at;
    while (true) {
      end = std::min(bytes_.find('\n', at), bytes_.size());
      std::string_view line = bytes_.substr(at, end - at);
      std::size_t begin = line.find_first_not_of(" \t");
      bool comment = begin != std::string_view::npos && line[begin] == '#';
      if (!comment) {
        while (!line.empty() && is_blank(line.back())) line.remove_suffix(1);
        bool goes_on = !line.empty() && line.back() == '\\';
        if (goes_on) line.remove_suffix(1);
        split(line, static_cast<std::uint32_t>(at), words);
        if (!goes_on) break;
      } else if (words.empty()) {
        break;
      }
      at = end + 1;
      if (at >= bytes_.size()) break;
    }
    if (!words.empty()) take(words, static_cast<std::uint32_t>(first));
    end = past_documents(words, end);
    return end + 1;
  }

  // The bodies of here-documents follow their instruction.
  std::size_t past_documents(const std::vector<Word>& words, std::size_t end) const {
    for (const Word& word : words) {
      if (!word.text.starts_with("<<") || word.text.size() < 3) continue;
      std::string name;
      for (char c : word.text.substr(2)) {
        if (std::isalnum(static_cast<unsigned char>(c)) || c == '_') name += c;
      }
      std::size_t at = name.empty() ? std::string_view::npos : bytes_.find("\n" + name, end);
      if (at != std::string_view::npos) end = std::min(bytes_.find('\n', at + 1), bytes_.size());
    }
    return end;
  }

  static void split(std::string_view line, std::uint32_t offset, std::vector<Word>& out) {
    for (std::size_t at = 0; at < line.size();) {
      if (is_blank(line[at])) {
        ++at;
        continue;
      }
      std::size_t begin = at;
      char quote = 0;
      for (; at < line.size() && (quote || !is_blank(line[at])); ++at) {
        if (quote && line[at] == quote) {
          quote = 0;
        } else if (!quote && (line[at] == '"' || line[at] == '\'')) {
          quote = line[at];
        }
      }
      out.push_back({line.substr(begin, at - begin), offset + static_cast<std::uint32_t>(begin)});
    }
  }

  void take(const std::vector<Word>& words, std::uint32_t site) {
    std::string name(words[0].text);
    std::transform(name.begin(), name.end(), name.begin(), [](unsigned char c) { return std::toupper(c); });
    if (name == "ONBUILD" && words.size() > 1) {
      take({words.begin() + 1, words.end()}, site);
    } else if (name == "COPY" || name == "ADD") {
      copy(words, site);
    } else if (name == "FROM") {
      mirrors_ = false;
      folder_.clear();
      copies_.clear();
      std::for_each(mirrored_.begin(), mirrored_.end(), [](Mirrored& one) { one.is_of_stage = false; });
    } else if (name == "WORKDIR" && words.size() > 1) {
      note_uses(words, site, true);
      std::string text(words[1].text);
      folder_ = text.starts_with("/") ? text : folder_ + "/" + text;
    } else if (name == "RUN" || name == "CMD" || name == "ENTRYPOINT" || name == "HEALTHCHECK") {
      for (const Word& word : words) {
        if (word.text.starts_with("--mount=")) mount(word, site);
      }
      note_uses(words, site, false);
      if (mirrors_ || !copies_.empty()) command(words, site);
    }
  }

  // A destination that repeats where its source lies in the context.
  struct Mirrored {
    std::string path, folder;  // from the folder of work that was set then, and that folder
    bool is_of_stage = true;   // of the stage that is being read
  };

  void note_uses(const std::vector<Word>& words, std::uint32_t site, bool is_folder) {
    for (std::size_t i = 1; i < words.size(); ++i) {
      bool may_be_bare = is_folder || shell::stands_before_folder(words[i - 1].text);
      for (const Mirrored& one : mirrored_) {
        if (one.path.empty()) {
          note_use_of_all(words[i], one, is_folder, site);
        } else {
          note_use(words[i], one, may_be_bare, site);
        }
      }
    }
  }

  // The whole context was copied: "/app/api/gauge" anywhere, "api" as a folder of work.
  void note_use_of_all(const Word& word, const Mirrored& one, bool is_folder, std::uint32_t site) {
    std::string_view text = word.text;
    std::string head = one.folder + "/";
    std::size_t at = one.folder.starts_with("/") ? text.find(head) : std::string_view::npos;
    bool is_relative = is_folder && one.is_of_stage && one.folder == folder_ && !text.starts_with("/");
    std::size_t begin = is_relative ? 0 : at == std::string_view::npos ? text.size() : at + head.size();
    bool is_inside = !is_relative && at != std::string_view::npos && at > 0 &&
                     std::string_view("=:,;\"'([&|").find(text[at - 1]) == std::string_view::npos;
    std::size_t end = std::min(text.find_first_of(":,;\"')]&|$*", begin), text.size());
    while (end > begin && text[end - 1] == '/') --end;
    if (is_inside || begin >= end) return;
    out_.uses.push_back({TracedText::literal(std::string(text.substr(begin, end - begin)), file_,
                                             span_of(word.begin + begin, word.begin + end), kWord),
                         site});
  }

  // "/app/api/gauge" anywhere, "api/gauge" where a path begins, "api" where a folder is taken.
  void note_use(const Word& word, const Mirrored& one, bool may_be_bare, std::uint32_t site) {
    std::string_view text = word.text;
    auto begins = [&](std::size_t at) {
      return at == 0 || std::string_view("=:,;\"'([&|").find(text[at - 1]) != std::string_view::npos;
    };
    auto ends = [&](std::size_t end) {
      return end == text.size() || std::string_view("/:,;\"')]&|").find(text[end]) != std::string_view::npos;
    };
    std::string absolute = one.folder + "/" + one.path;
    bool is_absolute = one.folder.starts_with("/") && text.find(absolute) != std::string_view::npos;
    const std::string& wanted = is_absolute ? absolute : one.path;
    if (!is_absolute && (!one.is_of_stage || one.folder != folder_)) return;
    for (std::size_t at = text.find(wanted); at != std::string_view::npos; at = text.find(wanted, at + 1)) {
      std::size_t from = at, end = at + wanted.size();
      if (from >= 2 && text.substr(from - 2, 2) == "./") from -= 2;
      bool is_bare = !is_absolute && from == 0 && end == text.size();
      if (!begins(from) || !ends(end) || (is_bare && !may_be_bare)) continue;
      Span span = span_of(word.begin + end - one.path.size(), word.begin + end);
      out_.uses.push_back({TracedText::literal(one.path, file_, span, kWord), site});
    }
  }

  void command(const std::vector<Word>& words, std::uint32_t site) {
    std::size_t first = 1;
    while (first < words.size() && (words[first].text.starts_with("--") || words[first].text == "CMD"))
      ++first;
    if (first >= words.size()) return;
    Run run;
    run.site = site;
    run.folder = in_container("");
    run.copies = copies_;
    run.is_as_context = mirrors_;
    if (words[first].text.starts_with("[")) {
      std::uint32_t open = words[first].begin;
      std::size_t close = words.back().begin + words.back().text.size();
      for (const json::StringValue& value : json::string_values(bytes_.substr(open, close - open))) {
        if (value.text.size() == value.span.size())
          run.words.push_back(TracedText::literal(value.text, file_,
                                                  {open + value.span.begin, open + value.span.end}, kJson));
      }
    } else {
      for (std::size_t i = first; i < words.size(); ++i) {
        std::string_view text = words[i].text;
        if (i > first) run.line.append(TracedText::plain(" "));
        run.line.append(TracedText::literal(
            std::string(text), file_,
            {words[i].begin, words[i].begin + static_cast<std::uint32_t>(text.size())}, kWord));
      }
    }
    out_.runs.push_back(std::move(run));
  }

  // Whether a destination repeats where the source lies in the context; "." stands for the folder of work.
  void compare(std::string_view source, const Word& destination, std::uint32_t site) {
    auto plain = [](std::string_view text) {
      std::string out(text);
      while (out.starts_with("./")) out.erase(0, 2);
      while (out.size() > 1 && out.ends_with("/")) out.pop_back();
      return out == "." || out == "./" ? std::string() : out;
    };
    std::string from = plain(source), all = plain(destination.text), to = all;
    if (to.starts_with("/")) {
      if (folder_.empty() || (to != folder_ && !to.starts_with(folder_ + "/"))) return;
      to = to == folder_ ? "" : to.substr(folder_.size() + 1);
    }
    if (to.find('$') != std::string::npos) return;
    std::size_t cut = from.rfind('/');
    bool beside =
        destination.text.ends_with("/") && to == (cut == std::string::npos ? "" : from.substr(0, cut));
    if (to != from && !beside) return;
    mirrors_ = true;
    if (to.empty() && from.empty()) mirrored_.push_back({"", folder_});
    if (to.empty()) return;
    // The part of the word that is the path.
    std::size_t at = destination.text.rfind(to);
    auto begin = destination.begin + static_cast<std::uint32_t>(at);
    Span span{begin, begin + static_cast<std::uint32_t>(to.size())};
    constexpr std::size_t kMostFollowed = 200;  // of more only the sources are
    if (mirrored_.size() >= kMostFollowed) return;
    out_.destinations.push_back({TracedText::literal(to, file_, span, kWord), site});
    mirrored_.push_back({to, folder_});
  }

  // A path of the container, from its root.
  std::string in_container(std::string_view text) const {
    std::string out = text.starts_with("/") ? std::string(text) : folder_ + "/" + std::string(text);
    auto place = RelPath::resolve({}, out.substr(std::min(out.find_first_not_of('/'), out.size())));
    return place ? place->str() : "";
  }

  void note_copy(const std::vector<Word>& sources, const Word& destination) {
    constexpr std::size_t kMostCopies = 200;
    auto is_plain = [](const Word& word) {
      return word.text.find_first_of("$\"'") == std::string_view::npos;
    };
    bool is_known = is_plain(destination) && std::all_of(sources.begin(), sources.end(), is_plain);
    if (!is_known || copies_.size() >= kMostCopies) return;
    Copy one;
    for (const Word& source : sources) one.sources.emplace_back(source.text);
    one.to = in_container(destination.text);
    one.is_into = destination.text.ends_with("/") || sources.size() > 1 || one.to == in_container("");
    copies_.push_back(std::move(one));
  }

  void copy(const std::vector<Word>& words, std::uint32_t site) {
    std::size_t first = 1;
    for (; first < words.size() && words[first].text.starts_with("--"); ++first) {
      if (!words[first].text.starts_with("--from=")) continue;
      note_uses({words.begin() + static_cast<std::ptrdiff_t>(first), words.end() - 1}, site, false);
      return;
    }
    if (first >= words.size()) return;
    if (words[first].text.starts_with("[")) {
      std::size_t open = words[first].begin;
      std::size_t close = words.back().begin + words.back().text.size();
      std::vector<json::StringValue> values = json::string_values(bytes_.substr(open, close - open));
      for (std::size_t i = 0; i + 1 < values.size(); ++i) {
        auto offset = static_cast<std::uint32_t>(open);
        source(values[i].text, {offset + values[i].span.begin, offset + values[i].span.end}, kJson, site);
      }
      return;
    }
    if (first + 1 < words.size())
      note_copy({words.begin() + static_cast<std::ptrdiff_t>(first), words.end() - 1}, words.back());
    for (std::size_t i = first; i + 1 < words.size(); ++i) {
      std::string_view text = words[i].text;
      Span span{words[i].begin, words[i].begin + static_cast<std::uint32_t>(text.size())};
      bool quoted =
          text.size() > 1 && (text.front() == '"' || text.front() == '\'') && text.back() == text.front();
      if (quoted) ++span.begin, --span.end;
      source(std::string(bytes_.substr(span.begin, span.size())), span, kWord, site);
      compare(bytes_.substr(span.begin, span.size()), words.back(), site);
    }
  }

  // --mount=type=bind,source=web/package.json,target=package.json
  void mount(const Word& word, std::uint32_t site) {
    bool other = word.text.find("type=") != std::string_view::npos &&
                 word.text.find("type=bind") == std::string_view::npos;
    if (other || word.text.find("from=") != std::string_view::npos) return;
    for (std::string_view key : {"source=", "src="}) {
      std::size_t at = word.text.find(key);
      if (at == std::string_view::npos) continue;
      std::size_t begin = at + key.size(), end = std::min(word.text.find(',', begin), word.text.size());
      source(std::string(word.text.substr(begin, end - begin)),
             {word.begin + static_cast<std::uint32_t>(begin), word.begin + static_cast<std::uint32_t>(end)},
             kWord, site);
      return;
    }
  }

  void source(const std::string& text, Span span, WritingStyle style, std::uint32_t site) {
    if (text.find("://") != std::string::npos || text.starts_with("git@") || text.starts_with("<<")) return;
    TracedText out;
    std::uint32_t from = 0, size = static_cast<std::uint32_t>(text.size());
    auto literal = [&](std::uint32_t end) {
      if (from < end)
        out.append(TracedText::literal(text.substr(from, end - from), file_,
                                       {span.begin + from, span.begin + end}, style));
    };
    if (text.size() != span.size()) return;            // escapes of JSON
    std::uint32_t at = text.starts_with("/") ? 1 : 0;  // from the context's folder all the same
    from = at;
    while (at < size) {
      if (text[at] != '$') {
        ++at;
        continue;
      }
      literal(at);
      out.append(TracedText::hole());
      std::uint32_t end = at + 1;
      if (end < size && text[end] == '{') {
        while (end < size && text[end] != '}') ++end;
        ++end;
      } else {
        while (end < size && (std::isalnum(static_cast<unsigned char>(text[end])) || text[end] == '_')) ++end;
      }
      at = from = std::min(end, size);
    }
    literal(size);
    out_.sources.push_back({std::move(out), site});
  }

  std::string_view bytes_;
  FileIndex file_;
  bool mirrors_ = false;  // what was copied lies in the folder of work as in the context
  std::string folder_;    // of work
  std::vector<Mirrored> mirrored_;
  std::vector<Copy> copies_;  // of the stage that is read
  ContainerFile out_;
};

}  // namespace

ContainerFile read_container_file(std::string_view bytes, FileIndex file) {
  return ContainerFileReader(bytes, file).run();
}

bool is_container_file(std::string_view name) {
  return name == "Dockerfile" || name == "Containerfile" || name.starts_with("Dockerfile.") ||
         name.starts_with("Containerfile.") || name.ends_with(".Dockerfile") ||
         name.ends_with(".dockerfile") || name.ends_with(".Containerfile");
}

}  // namespace yc::containers
