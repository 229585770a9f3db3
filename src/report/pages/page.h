// A page that stands by itself (HTML, WHATWG): style, script and figures are in it. What can be filtered is
// an item.
#pragma once

#include <pugixml.hpp>
#include <set>
#include <string>
#include <utility>
#include <vector>

#include "report/figures/canvas.h"

namespace yc::report {

class Page {
 public:
  // `line` says in a sentence what the page shows.
  Page(const std::string& title, const std::string& line);
  // A part of the page, with a heading and a place in its table of contents.
  pugi::xml_node section(const std::string& id, const std::string& heading);
  void facts(pugi::xml_node into, const std::vector<std::pair<std::string, std::string>>& facts);
  void paragraph(pugi::xml_node into, const std::string& text);
  // `caption` is read out instead of the figure.
  void figure(pugi::xml_node into, const Canvas& figure, const std::string& caption);
  // Hidden until it is asked for; gives what is inside.
  pugi::xml_node folded(pugi::xml_node into, const std::string& summary);
  // Something that the filter shows or hides: of one kind, at a place.
  pugi::xml_node item(pugi::xml_node into, const std::string& kind, const std::string& place,
                      const std::string& text);
  // Lines of code; `mark` of a line is ' ', '-' or '+'.
  struct CodeLine {
    char mark = ' ';
    std::size_t number = 0;  // 0 for none
    std::string text;
  };
  void code(pugi::xml_node into, const std::vector<CodeLine>& lines);
  // Numbers are set to the right; the first column heads its row.
  void table(pugi::xml_node into, const std::string& caption, const std::vector<std::string>& heads,
             const std::vector<std::vector<std::string>>& rows);
  // The whole, with a filter if there are items.
  std::string html();

 private:
  void add_tools();

  pugi::xml_document document_;
  pugi::xml_node main_, contents_, tools_;
  std::vector<std::pair<std::string, std::size_t>> kinds_;  // of items, as they came
  std::size_t items_ = 0;
};

}  // namespace yc::report
