#include "formats/msbuild/project_text.h"

#include <algorithm>
#include <cctype>

#include "formats/xml/xml_places.h"

namespace yc::msbuild {

namespace {

int hex_digit(char c) {
  if (c >= '0' && c <= '9') return c - '0';
  if (c >= 'a' && c <= 'f') return c - 'a' + 10;
  if (c >= 'A' && c <= 'F') return c - 'A' + 10;
  return -1;
}

char lower(char c) {
  return static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
}

}  // namespace

WritingStyle habit_of(std::string_view bytes) {
  auto backslashes = std::count(bytes.begin(), bytes.end(), '\\');
  std::size_t slashes = 0;
  // Those of tags and of addresses do not count.
  for (std::size_t at = bytes.find('/'); at != std::string_view::npos; at = bytes.find('/', at + 1)) {
    bool in_tag = at > 0 && (bytes[at - 1] == '<' || bytes[at - 1] == '/' || bytes[at - 1] == ' ' ||
                             bytes[at - 1] == ':');
    bool closes = at + 1 < bytes.size() && (bytes[at + 1] == '>' || bytes[at + 1] == '/');
    slashes += !in_tag && !closes;
  }
  return static_cast<std::size_t>(backslashes) * 2 >= slashes ? kBackslash : kSlash;
}

TracedText decoded(std::string_view bytes, Span span, FileIndex file, WritingStyle habit) {
  std::string_view raw = bytes.substr(span.begin, span.size());
  WritingStyle style = raw.find('\\') != std::string_view::npos  ? kBackslash
                       : raw.find('/') != std::string_view::npos ? kSlash
                                                                 : habit;
  TracedText out;
  TracedText characters = xml::traced(bytes, span, file);
  for (const Piece& piece : characters.pieces()) {
    if (!piece.has_origin()) {
      out.append(piece);
      continue;
    }
    std::size_t from = 0;
    auto literal = [&](std::size_t end) {
      if (from >= end) return;
      std::string text = piece.text.substr(from, end - from);
      std::replace(text.begin(), text.end(), '\\', '/');
      auto begin = piece.span.begin + static_cast<std::uint32_t>(from);
      out.append(
          TracedText::literal(text, file, {begin, begin + static_cast<std::uint32_t>(text.size())}, style));
    };
    for (std::size_t at = 0; at + 2 < piece.text.size();) {
      int high = piece.text[at] == '%' ? hex_digit(piece.text[at + 1]) : -1;
      int low = high < 0 ? -1 : hex_digit(piece.text[at + 2]);
      if (low < 0) {
        ++at;
        continue;
      }
      literal(at);
      out.append(TracedText::plain(std::string(1, static_cast<char>(high * 16 + low))));
      at += 3;
      from = at;
    }
    literal(piece.text.size());
  }
  return out;
}

namespace {

constexpr std::size_t kLongestText = 60'000;  // bytes; lists of files are long

}  // namespace

Texts expanded(const TracedText& text, const ValueOf& value_of) {
  Texts out = {TracedText()};
  std::string all = text.text();
  Cutter cutter(text);
  auto append_all = [&](const Texts& values) {
    Texts next;
    for (const TracedText& head : out) {
      for (const TracedText& value : values) {
        if (next.size() == kMostTexts) break;
        // Values that double themselves spell no path.
        bool is_too_long = head.size() + value.size() > kLongestText;
        next.push_back(is_too_long ? TracedText::hole() : head);
        if (!is_too_long) next.back().append(value);
      }
    }
    out = std::move(next);
  };
  std::size_t from = 0;
  for (std::size_t at = 0; at + 1 < all.size();) {
    bool opens = (all[at] == '$' || all[at] == '%' || all[at] == '@') && all[at + 1] == '(';
    if (!opens) {
      ++at;
      continue;
    }
    std::size_t depth = 0, end = at + 1;
    for (; end < all.size(); ++end) {
      if (all[end] == '(') ++depth;
      if (all[end] == ')' && --depth == 0) break;
    }
    if (end >= all.size()) break;
    if (from < at) append_all({cutter.part(from, at - from)});
    TracedText expression = cutter.part(at, end + 1 - at);
    auto values = value_of(all[at], std::string_view(all).substr(at + 2, end - at - 2));
    if (!values || values->empty()) values = Texts{TracedText::hole()};
    Passage origin = expression.first_origin();
    if (origin.file != kNoFile && !expression.pieces().empty()) {
      origin.span.end = expression.pieces().back().span.end;
      for (TracedText& value : *values) value = value.through(origin);
    }
    append_all(*values);
    at = from = end + 1;
  }
  if (from < all.size()) append_all({cutter.part(from)});
  return out;
}

std::vector<TracedText> list_words(const TracedText& text, std::string_view separators) {
  std::vector<TracedText> out;
  for (const TracedText& part : text.words(separators)) {
    TracedText word = part.trimmed(" \t\r\n\"");
    if (!word.empty()) out.push_back(std::move(word));
  }
  return out;
}

std::optional<std::string> written(std::string_view text, WritingStyle style) {
  std::string out;
  for (char c : text) {
    if (c == '\n' || c == '\r') return std::nullopt;
    if (c == '%' || c == '$' || c == '@' || c == ';' || c == '\'') {
      static constexpr std::string_view kDigits = "0123456789abcdef";
      out += '%';
      out += kDigits[static_cast<unsigned char>(c) / 16];
      out += kDigits[static_cast<unsigned char>(c) % 16];
    } else if (c == '/' && style == kBackslash) {
      out += '\\';
    } else {
      out += c;
    }
  }
  return xml::escaped(out);
}

bool takes_in(std::string_view pattern, std::string_view path) {
  while (true) {
    std::size_t cut = pattern.find('/');
    std::string_view part = pattern.substr(0, cut);
    bool last = cut == std::string_view::npos;
    if (part == "**") {
      if (last) return true;
      std::string_view rest = pattern.substr(cut + 1);
      for (std::size_t at = 0; at != std::string_view::npos;) {
        if (takes_in(rest, path.substr(at))) return true;
        at = path.find('/', at);
        if (at != std::string_view::npos) ++at;
      }
      return false;
    }
    std::size_t path_cut = path.find('/');
    std::string name(path.substr(0, path_cut)), wanted(part);
    std::transform(name.begin(), name.end(), name.begin(), lower);
    std::transform(wanted.begin(), wanted.end(), wanted.begin(), lower);
    if (name != wanted && !name_matches(wanted, name)) return false;
    bool path_ends = path_cut == std::string_view::npos;
    if (last || path_ends) return last == path_ends;
    pattern.remove_prefix(cut + 1);
    path.remove_prefix(path_cut + 1);
  }
}

}  // namespace yc::msbuild
