#include "formats/documents/link_scan.h"

#include <algorithm>
#include <optional>
#include <string>

#include "base/text.h"

namespace yc::documents {

namespace {

// A destination from `at`: between <…>, or up to a blank or the bracket that closes.
void take_destination(std::string_view bytes, std::size_t at, std::vector<Link>& out) {
  while (at < bytes.size() && is_blank(bytes[at])) ++at;
  if (at >= bytes.size()) return;
  std::size_t begin = at, end = at;
  if (bytes[at] == '<') {
    begin = at + 1;
    end = bytes.find_first_of(">\n", begin);
    if (end == std::string_view::npos || bytes[end] == '\n') return;
  } else {
    constexpr std::size_t kLongest = 4096;  // no path is longer
    std::size_t nest = 0;
    while (end < bytes.size() && end - begin <= kLongest && !is_blank(bytes[end]) && bytes[end] != '\n' &&
           bytes[end] != '\r') {
      if (bytes[end] == '(') ++nest;
      if (bytes[end] == ')' && nest-- == 0) break;
      ++end;
    }
    if (end - begin > kLongest) return;
  }
  std::string_view text = bytes.substr(begin, end - begin);
  end = begin + std::min(text.find_first_of("?#"), text.size());
  if (end > begin && text.find(':') == std::string_view::npos)
    out.push_back({Link::Kind::path, span_of(begin, end)});
}

// src="…" and href="…" of HTML within a document.
void take_html(std::string_view line, std::size_t begin, std::vector<Link>& out) {
  for (std::string_view name : {"src=", "href="}) {
    for (std::size_t at = line.find(name); at != std::string_view::npos; at = line.find(name, at + 1)) {
      std::size_t open = at + name.size();
      if (open >= line.size() || (line[open] != '"' && line[open] != '\'')) continue;
      std::size_t close = line.find(line[open], open + 1);
      if (close == std::string_view::npos) continue;
      std::string_view text = line.substr(open + 1, close - open - 1);
      std::size_t size = std::min(text.find_first_of("?#"), text.size());
      if (size > 0 && text.find(':') == std::string_view::npos)
        out.push_back({Link::Kind::html, span_of(begin + open + 1, begin + open + 1 + size)});
    }
  }
}

// A path from a place to the end of a line, if it is one.
void take_rest(std::string_view line, std::size_t begin, std::size_t at, Link::Kind kind,
               std::vector<Link>& out) {
  while (at < line.size() && is_blank(line[at])) ++at;
  std::size_t end = line.size();
  while (end > at && is_blank(line[end - 1])) --end;
  std::string_view text = line.substr(at, end - at);
  std::size_t size = std::min(text.find('#'), text.size());
  bool is_plain =
      size > 0 && text.find(':') == std::string_view::npos && text.find(' ') == std::string_view::npos;
  if (is_plain) out.push_back({kind, span_of(begin + at, begin + at + size)});
}

// Of a table of contents: "title <path>", a path, or a pattern of such.
void take_entry(std::string_view line, std::size_t begin, std::size_t first, bool by_patterns,
                std::vector<Link>& out) {
  std::string_view rest = line.substr(first);
  std::size_t open = rest.find('<'), close = rest.rfind('>');
  if (open != std::string_view::npos && close == rest.size() - 1) {
    take_rest(line.substr(0, first + close), begin, first + open + 1, Link::Kind::document, out);
  } else {
    bool is_pattern = by_patterns && rest.find_first_of("*?[") != std::string_view::npos;
    take_rest(line, begin, first, is_pattern ? Link::Kind::glob : Link::Kind::document, out);
  }
}

// Directives that take a file.
bool takes_file(std::string_view directive) {
  for (std::string_view known :
       {"image", "figure", "include", "literalinclude", "graphviz", "raw", "download"}) {
    if (directive == known) return true;
  }
  return false;
}

// A directive between fences: "```{toctree}", ":::{include} shared/note.md" (MyST, "Roles and Directives").
class FencedDirective {
 public:
  FencedDirective(std::string_view line, std::size_t begin, std::size_t first, std::vector<Link>& out) {
    std::size_t open = line.find_first_not_of("`~:", first);
    std::size_t close = open == line.npos || line[open] != '{' ? line.npos : line.find('}', open);
    if (close == line.npos) return;
    std::string_view name = line.substr(open + 1, close - open - 1);
    is_contents_ = name == "toctree";
    if (takes_file(name)) take_rest(line, begin, close + 1, Link::Kind::path, out);
  }
  void take(std::string_view line, std::size_t begin, std::size_t first, std::vector<Link>& out) {
    std::string_view rest = line.substr(first);
    if (rest.starts_with(kListsByPatterns)) by_patterns_ = true;
    bool is_entry = is_contents_ && !rest.starts_with(":") && !rest.starts_with("---");
    if (is_entry) take_entry(line, begin, first, by_patterns_, out);
  }

 private:
  bool is_contents_ = false, by_patterns_ = false;
};

// {doc}`tides`, {download}`low <low.csv>`: a role before code.
void take_role(std::string_view line, std::size_t begin, std::size_t at, std::size_t close,
               std::vector<Link>& out) {
  std::string_view before = line.substr(0, at);
  bool is_document = before.ends_with("{doc}");
  if (!is_document && !before.ends_with("{download}")) return;
  Link::Kind kind = is_document ? Link::Kind::document : Link::Kind::path;
  std::size_t open = line.substr(0, close).find('<', at);
  bool is_titled = open != line.npos && line[close - 1] == '>';
  take_rest(line.substr(0, is_titled ? close - 1 : close), begin, is_titled ? open + 1 : at + 1, kind, out);
}

}  // namespace

std::vector<Link> scan_markdown(std::string_view bytes) {
  std::vector<Link> out;
  std::string fence;
  std::optional<FencedDirective> directive;
  for_each_line(bytes, [&](std::string_view line, std::size_t begin) {
    std::size_t first = line.find_first_not_of(" \t");
    if (first == std::string_view::npos) return;
    std::string_view rest = line.substr(first);
    bool is_fence = rest.starts_with("```") || rest.starts_with("~~~") || rest.starts_with(":::{");
    if (!fence.empty()) {
      if (rest.starts_with(fence)) {
        fence.clear();
      } else {
        directive->take(line, begin, first, out);
      }
      return;
    }
    if (is_fence) {
      fence = std::string(rest.substr(0, 3));
      directive.emplace(line, begin, first, out);
      return;
    }
    // [name]: destination
    if (rest.starts_with("[") && !rest.starts_with("[^")) {
      std::size_t close = rest.find("]:");
      if (close != std::string_view::npos && rest.find(']') == close) {
        take_destination(bytes, begin + first + close + 2, out);
        return;
      }
    }
    for (std::size_t at = 0; at < line.size(); ++at) {
      if (line[at] == '\\') {
        ++at;
      } else if (line[at] == '`') {
        std::size_t run = line.find_first_not_of('`', at);
        run = (run == std::string_view::npos ? line.size() : run) - at;
        std::size_t close = line.find(std::string(run, '`'), at + run);
        if (run == 1 && close != std::string_view::npos) take_role(line, begin, at, close, out);
        at = close == std::string_view::npos ? at + run - 1 : close + run - 1;
      } else if (line[at] == ']' && at + 1 < line.size() && line[at + 1] == '(') {
        take_destination(bytes, begin + at + 2, out);
      }
    }
    take_html(line, begin, out);
  });
  return out;
}

namespace {

// Lines of reStructuredText, one after the other.
class RestructuredLines {
 public:
  void take(std::string_view line, std::size_t begin) {
    std::size_t first = line.find_first_not_of(" \t");
    if (first == std::string_view::npos) return;
    std::string_view rest = line.substr(first);
    if (in_contents_ && first <= contents_indent_) in_contents_ = false;
    if (in_contents_) {
      if (rest.starts_with(kListsByPatterns)) by_patterns_ = true;
      if (!rest.starts_with(":")) take_entry(line, begin, first, by_patterns_, out_);
    } else if (rest.starts_with(".. ") && rest.find("::") != std::string_view::npos) {
      directive(line, begin, first);
    } else {
      plain(line, begin, first);
    }
  }
  std::vector<Link> links() && { return std::move(out_); }

 private:
  // Also of substitutions: .. |pole| image:: pole.png
  void directive(std::string_view line, std::size_t begin, std::size_t first) {
    std::string_view rest = line.substr(first);
    std::size_t colons = rest.find("::");
    std::string_view name = rest.substr(3, colons - 3);
    if (name.starts_with("|")) name.remove_prefix(std::min(name.rfind('|') + 2, name.size()));
    if (name == "toctree") {
      in_contents_ = true, by_patterns_ = false;
      contents_indent_ = first;
      return;
    }
    if (takes_file(name)) take_rest(line, begin, first + colons + 2, Link::Kind::path, out_);
  }

  void plain(std::string_view line, std::size_t begin, std::size_t first) {
    std::string_view rest = line.substr(first);
    for (std::string_view option : {":file:", ":target:", ":template:"}) {
      if (rest.starts_with(option)) take_rest(line, begin, first + option.size(), Link::Kind::path, out_);
    }
    // .. _name: path
    if (rest.starts_with(".. _")) {
      std::size_t colon = rest.find(": ");
      if (colon != std::string_view::npos) take_rest(line, begin, first + colon + 2, Link::Kind::path, out_);
      return;
    }
    // `text <path>`_, :download:`text <path>`, :doc:`path`
    for (std::size_t at = line.find('`'); at != std::string_view::npos; at = line.find('`', at + 1)) {
      std::size_t close = line.find('`', at + 1);
      if (close == std::string_view::npos) break;
      std::string_view inner = line.substr(at + 1, close - at - 1);
      std::string_view before = line.substr(0, at);
      bool link = close + 1 < line.size() && line[close + 1] == '_';
      bool download = before.ends_with(":download:"), doc = before.ends_with(":doc:");
      std::size_t open = inner.find('<');
      Link::Kind kind = doc ? Link::Kind::document : Link::Kind::path;
      if ((link || download || doc) && open != std::string_view::npos && inner.ends_with(">")) {
        take_rest(line.substr(0, close - 1), begin, at + 2 + open, kind, out_);
      } else if (download || doc) {
        take_rest(line.substr(0, close), begin, at + 1, kind, out_);
      }
      at = close;
    }
  }

  std::vector<Link> out_;
  bool in_contents_ = false, by_patterns_ = false;
  std::size_t contents_indent_ = 0;
};

}  // namespace

std::vector<Link> scan_restructured(std::string_view bytes) {
  RestructuredLines lines;
  for_each_line(bytes, [&](std::string_view line, std::size_t begin) { lines.take(line, begin); });
  return std::move(lines).links();
}

}  // namespace yc::documents
