#include "report/pages/page.h"

#include <algorithm>
#include <cctype>
#include <sstream>

#include "page_texts.h"
#include "report/text.h"

namespace yc::report {

namespace {

pugi::xml_node add(pugi::xml_node into, const char* name, const std::string& text = "", const char* of = "") {
  pugi::xml_node node = into.append_child(name);
  if (*of) node.append_attribute("class") = of;
  if (!text.empty()) node.text().set(printable(text).c_str());
  return node;
}

bool is_number(const std::string& text) {
  return !text.empty() &&
         std::all_of(text.begin(), text.end(), [](unsigned char c) { return std::isdigit(c); });
}

// Elements that HTML knows no end tags of.
void without_end_tags(std::string& html) {
  for (const char* name : {"meta", "input"}) {
    std::string end = "></" + std::string(name) + ">";
    for (std::size_t at = html.find(end); at != std::string::npos; at = html.find(end, at))
      html.replace(at, end.size(), ">");
  }
}

}  // namespace

Page::Page(const std::string& title, const std::string& line) {
  pugi::xml_node root = document_.append_child("html");
  root.append_attribute("lang") = "en";
  pugi::xml_node head = root.append_child("head");
  head.append_child("meta").append_attribute("charset") = "utf-8";
  pugi::xml_node view = head.append_child("meta");
  view.append_attribute("name") = "viewport";
  view.append_attribute("content") = "width=device-width, initial-scale=1";
  add(head, "title", title);
  head.append_child("style").append_child(pugi::node_pcdata).set_value("@style@");
  pugi::xml_node body = root.append_child("body");
  pugi::xml_node top = body.append_child("header");
  add(top, "h1", title);
  pugi::xml_node button = add(top, "button", "Dark or light");
  button.append_attribute("id") = "theme";
  button.append_attribute("type") = "button";
  add(top, "p", line, "line");
  pugi::xml_node nav = top.append_child("nav");
  nav.append_attribute("aria-label") = "On this page";
  contents_ = nav.append_child("ul");
  main_ = body.append_child("main");
  tools_ = main_.append_child("div");
  pugi::xml_node foot = body.append_child("footer");
  pugi::xml_node keys = add(foot, "p");
  for (const auto& [key, what] :
       {std::pair("/", " filter, "), std::pair("Esc", " no filter, "), std::pair("j", " next, "),
        std::pair("k", " the one before, "), std::pair("d", " dark or light")}) {
    add(keys, "kbd", key);
    keys.append_child(pugi::node_pcdata).set_value(what);
  }
  body.append_child("script").append_child(pugi::node_pcdata).set_value("@script@");
}

pugi::xml_node Page::section(const std::string& id, const std::string& heading) {
  pugi::xml_node link = contents_.append_child("li").append_child("a");
  link.append_attribute("href") = ("#" + id).c_str();
  link.text().set(heading.c_str());
  pugi::xml_node out = main_.append_child("section");
  out.append_attribute("aria-labelledby") = id.c_str();
  pugi::xml_node head = add(out, "h2", heading);
  head.append_attribute("id") = id.c_str();
  return out;
}

void Page::facts(pugi::xml_node into, const std::vector<std::pair<std::string, std::string>>& facts) {
  pugi::xml_node list = add(into, "dl", "", "facts");
  for (const auto& [name, value] : facts) {
    add(list, "dt", name);
    add(list, "dd", value);
  }
}

void Page::paragraph(pugi::xml_node into, const std::string& text) {
  add(into, "p", text);
}

void Page::figure(pugi::xml_node into, const Canvas& figure, const std::string& caption) {
  pugi::xml_node node = into.append_child("figure");
  pugi::xml_document drawn;
  drawn.load_string(figure.svg().c_str());
  node.append_copy(drawn.document_element());
  add(node, "figcaption", caption);
}

pugi::xml_node Page::folded(pugi::xml_node into, const std::string& summary) {
  pugi::xml_node out = into.append_child("details");
  add(out, "summary", summary);
  return out;
}

pugi::xml_node Page::item(pugi::xml_node into, const std::string& kind, const std::string& place,
                          const std::string& text) {
  pugi::xml_node out = add(into, "div", "", "item");
  out.append_attribute("tabindex") = "-1";
  out.append_attribute("data-kind") = kind.c_str();
  if (!place.empty()) {
    add(out, "span", place, "place");
    out.append_child(pugi::node_pcdata).set_value(" ");
  }
  if (!text.empty()) add(out, "span", text);
  auto known = std::find_if(kinds_.begin(), kinds_.end(), [&](const auto& one) { return one.first == kind; });
  if (known == kinds_.end()) known = kinds_.insert(kinds_.end(), {kind, 0});
  ++known->second;
  ++items_;
  return out;
}

void Page::code(pugi::xml_node into, const std::vector<CodeLine>& lines) {
  pugi::xml_node pre = into.append_child("pre");
  pre.append_attribute("tabindex") = "0";
  std::size_t wide = 1;
  for (const CodeLine& line : lines) wide = std::max(wide, std::to_string(line.number).size());
  for (const CodeLine& line : lines) {
    std::string number = line.number == 0 ? "" : std::to_string(line.number);
    std::string text =
        std::string(wide - std::min(wide, number.size()), ' ') + number + " " + line.mark + " " + line.text;
    add(pre, "span", text, line.mark == '-' ? "old" : line.mark == '+' ? "new" : "same");
  }
}

void Page::table(pugi::xml_node into, const std::string& caption, const std::vector<std::string>& heads,
                 const std::vector<std::vector<std::string>>& rows) {
  pugi::xml_node box = add(into, "div", "", "scroll");
  box.append_attribute("tabindex") = "0";
  box.append_attribute("role") = "region";
  box.append_attribute("aria-label") = caption.c_str();
  pugi::xml_node table = box.append_child("table");
  add(table, "caption", caption);
  pugi::xml_node head = table.append_child("thead").append_child("tr");
  for (std::size_t i = 0; i < heads.size(); ++i) {
    bool numbers = !rows.empty() && i > 0 && i < rows.front().size() && is_number(rows.front()[i]);
    pugi::xml_node cell = add(head, "th", heads[i], numbers ? "number" : "");
    cell.append_attribute("scope") = "col";
  }
  pugi::xml_node body = table.append_child("tbody");
  for (const std::vector<std::string>& row : rows) {
    pugi::xml_node line = body.append_child("tr");
    for (std::size_t i = 0; i < row.size(); ++i) {
      pugi::xml_node cell =
          add(line, i == 0 ? "th" : "td", row[i], i > 0 && is_number(row[i]) ? "number" : "");
      if (i == 0) cell.append_attribute("scope") = "row";
    }
  }
}

void Page::add_tools() {
  if (items_ == 0) {
    main_.remove_child(tools_);
    return;
  }
  tools_.append_attribute("class") = "tools";
  tools_.append_attribute("role") = "search";
  pugi::xml_node label = tools_.append_child("label");
  label.append_attribute("for") = "filter";
  label.text().set("Filter");
  pugi::xml_node filter = tools_.append_child("input");
  filter.append_attribute("type") = "search";
  filter.append_attribute("id") = "filter";
  filter.append_attribute("placeholder") = "words of a path or a text";
  pugi::xml_node shown = tools_.append_child("span");
  shown.append_attribute("id") = "shown";
  shown.append_attribute("role") = "status";
  if (kinds_.size() < 2) return;
  pugi::xml_node set = tools_.append_child("fieldset");
  add(set, "legend", "Show");
  for (const auto& [kind, number] : kinds_) {
    pugi::xml_node one = set.append_child("label");
    pugi::xml_node box = one.append_child("input");
    box.append_attribute("type") = "checkbox";
    box.append_attribute("name") = "kind";
    box.append_attribute("value") = kind.c_str();
    box.append_attribute("checked") = "checked";
    one.append_child(pugi::node_pcdata).set_value((" " + kind + " (" + std::to_string(number) + ")").c_str());
  }
}

std::string Page::html() {
  add_tools();
  std::ostringstream out;
  document_.save(out, "",
                 pugi::format_raw | pugi::format_no_declaration | pugi::format_no_empty_element_tags);
  std::string text = "<!DOCTYPE html>\n" + out.str() + "\n";
  without_end_tags(text);
  for (const auto& [mark, whole] : {std::pair("@style@", kPageStyle), std::pair("@script@", kPageScript)}) {
    std::size_t at = text.find(mark);
    text.replace(at, std::string_view(mark).size(), whole);
  }
  return text;
}

}  // namespace yc::report
