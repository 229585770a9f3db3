// Finds the URLs in the attributes of a page, and the regions that are written in other languages (HTML
// Living Standard, "Attributes"; SVG 2 and XHTML are read the same way).
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "base/span.h"
#include "formats/pages/template_tags.h"

namespace yc::pages {

struct PageUrl {
  Span span;            // as it stands in the attribute, without blanks around it
  bool likely = false;  // of an attribute that only some tools understand
};

struct PageFacts {
  std::vector<PageUrl> urls;
  Span base;                 // the URL of a base element; empty if there is none
  std::vector<Span> styles;  // what is written in the language of stylesheets: elements and attributes
  std::vector<Span> import_maps;
  std::vector<TemplateName> templates;
};

PageFacts scan_page(std::string_view bytes);

}  // namespace yc::pages
