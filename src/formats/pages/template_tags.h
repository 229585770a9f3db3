// Names of other templates in the tags of template engines: {% include "parts/head.html" %}, {% extends %},
// {% import … %}, {% from … import … %}, {% embed %}, and <%- include('head.ejs') %> with its kin.
#pragma once

#include <string_view>
#include <vector>

#include "base/span.h"

namespace yc::pages {

struct TemplateName {
  Span span;  // between the quotes
  bool from_own =
      false;  // relative to the template's own folder, where others are looked up in a folder above
};

std::vector<TemplateName> template_names(std::string_view bytes);

}  // namespace yc::pages
