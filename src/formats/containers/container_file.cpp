#include "formats/containers/container_file.h"

#include <algorithm>
#include <cctype>

#include "formats/json/json_strings.h"

namespace yc::containers {

namespace {

bool is_blank(char c) {
  return c == ' ' || c == '\t' || c == '\r';
}

struct Word {
  std::string_view text;
  std::uint32_t begin = 0;
};

class Reader {
 public:
  Reader(std::string_view bytes, FileIndex file) : bytes_(bytes), file_(file) {}

  std::vector<Source> run() {
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
    } else if (name == "RUN") {
      for (const Word& word : words) {
        if (word.text.starts_with("--mount=")) mount(word, site);
      }
    }
  }

  void copy(const std::vector<Word>& words, std::uint32_t site) {
    std::size_t first = 1;
    for (; first < words.size() && words[first].text.starts_with("--"); ++first) {
      if (words[first].text.starts_with("--from=")) return;
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
    for (std::size_t i = first; i + 1 < words.size(); ++i) {
      std::string_view text = words[i].text;
      Span span{words[i].begin, words[i].begin + static_cast<std::uint32_t>(text.size())};
      bool quoted =
          text.size() > 1 && (text.front() == '"' || text.front() == '\'') && text.back() == text.front();
      if (quoted) ++span.begin, --span.end;
      source(std::string(bytes_.substr(span.begin, span.size())), span, kWord, site);
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
    out_.push_back({std::move(out), site});
  }

  std::string_view bytes_;
  FileIndex file_;
  std::vector<Source> out_;
};

}  // namespace

std::vector<Source> read_container_file(std::string_view bytes, FileIndex file) {
  return Reader(bytes, file).run();
}

bool is_container_file(std::string_view name) {
  return name == "Dockerfile" || name == "Containerfile" || name.starts_with("Dockerfile.") ||
         name.starts_with("Containerfile.") || name.ends_with(".Dockerfile") ||
         name.ends_with(".dockerfile") || name.ends_with(".Containerfile");
}

}  // namespace yc::containers
