// Files of lines: INI, CSV and lists.
#include "formats/values/values.h"

namespace yc::values {

namespace {

constexpr std::string_view kBlanks = " \t\r";

// Hands out each line without its end, and where it begins.
template <typename Take>
void for_lines(std::string_view bytes, Take take) {
  std::size_t at = bytes.starts_with("\xEF\xBB\xBF") ? 3 : 0;
  while (at < bytes.size()) {
    std::size_t end = std::min(bytes.find('\n', at), bytes.size());
    take(bytes.substr(at, end - at), at);
    at = end + 1;
  }
}

// A text without the blanks round it.
struct Part {
  std::string_view text;
  std::size_t begin = 0;
};
Part trimmed_part(std::string_view text, std::size_t begin) {
  std::size_t first = text.find_first_not_of(kBlanks);
  if (first == std::string_view::npos) return {"", begin};
  std::size_t last = text.find_last_not_of(kBlanks);
  return {text.substr(first, last + 1 - first), begin + first};
}

void add(std::vector<std::string> path, const Part& part, std::vector<Value>& out) {
  Part inner = part;
  bool quoted = inner.text.size() > 1 && (inner.text.front() == '"' || inner.text.front() == '\'') &&
                inner.text.back() == inner.text.front();
  if (quoted) inner = {inner.text.substr(1, inner.text.size() - 2), inner.begin + 1};
  if (inner.text.empty()) return;
  Span span = span_of(inner.begin, inner.begin + inner.text.size());
  out.push_back({std::move(path), span, std::string(inner.text), kBareLine, true});
}

char separator_of(std::string_view bytes) {
  std::string_view line = bytes.substr(0, bytes.find('\n'));
  for (char c : {'\t', ';', ','}) {
    if (line.find(c) != std::string_view::npos) return c;
  }
  return ',';
}

}  // namespace

std::vector<Value> read_ini(std::string_view bytes) {
  std::vector<Value> out;
  std::string section, key;
  for_lines(bytes, [&](std::string_view line, std::size_t begin) {
    Part whole = trimmed_part(line, begin);
    if (whole.text.empty() || whole.text[0] == '#' || whole.text[0] == ';' || whole.text[0] == '!') return;
    if (whole.text[0] == '[' && whole.text.find(']') != std::string_view::npos) {
      section = whole.text.substr(1, whole.text.find(']') - 1);
      key.clear();
      return;
    }
    bool goes_on = (line[0] == ' ' || line[0] == '\t') && !key.empty();
    std::size_t equals = line.find_first_of("=:");
    if (goes_on) {
      std::size_t comment = whole.text.find(" #");
      add({section, key}, trimmed_part(whole.text.substr(0, comment), whole.begin), out);
      return;
    }
    if (equals == std::string_view::npos) {
      add({section, ""}, whole, out);
      return;
    }
    key = trimmed_part(line.substr(0, equals), begin).text;
    Part value = trimmed_part(line.substr(equals + 1), begin + equals + 1);
    std::size_t comment = std::min(value.text.find(" #"), value.text.find(" ;"));
    add({section, key}, trimmed_part(value.text.substr(0, comment), value.begin), out);
  });
  return out;
}

std::vector<Value> read_csv(std::string_view bytes) {
  std::vector<Value> out;
  char separator = separator_of(bytes);
  std::size_t row = 0, column = 0;
  std::size_t at = bytes.starts_with("\xEF\xBB\xBF") ? 3 : 0;
  while (at < bytes.size()) {
    bool quoted = bytes[at] == '"';
    std::size_t begin = quoted ? at + 1 : at, end = begin;
    std::string text;
    if (quoted) {
      while (end < bytes.size() && (bytes[end] != '"' || (end + 1 < bytes.size() && bytes[end + 1] == '"'))) {
        text += bytes[end];
        end += bytes[end] == '"' ? 2 : 1;
      }
      at = std::min(end + 1, bytes.size());
    } else {
      while (end < bytes.size() && bytes[end] != separator && bytes[end] != '\n' && bytes[end] != '\r') ++end;
      text = bytes.substr(begin, end - begin);
      at = end;
    }
    Span span = span_of(begin, end);
    if (!text.empty())
      out.push_back({{std::to_string(row), std::to_string(column)},
                     span,
                     text,
                     quoted ? kCsvQuoted : kCsvBare,
                     bytes.substr(begin, end - begin) == text});
    ++column;
    while (at < bytes.size() && bytes[at] != separator && bytes[at] != '\n') ++at;
    if (at < bytes.size() && bytes[at] == '\n') ++row, column = 0;
    ++at;
  }
  return out;
}

std::vector<Value> read_lines(std::string_view bytes) {
  std::vector<Value> out;
  for_lines(bytes, [&](std::string_view line, std::size_t begin) {
    Part whole = trimmed_part(line, begin);
    if (whole.text.empty() || whole.text[0] == '#') return;
    add({whole.text.find(' ') == std::string_view::npos
             ? ""
             : std::string(whole.text.substr(0, whole.text.find(' ')))},
        whole, out);
    // "map_Kd textures/hull.png": the last word.
    std::size_t blank = whole.text.find_last_of(" \t");
    if (blank != std::string_view::npos)
      add({std::string(whole.text.substr(0, whole.text.find_first_of(" \t")))},
          {whole.text.substr(blank + 1), whole.begin + blank + 1}, out);
  });
  return out;
}

}  // namespace yc::values
