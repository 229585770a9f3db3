// From what stylesheets name to references.
#pragma once

#include "formats/format.h"
#include "formats/styles/style_scan.h"

namespace yc::styles {

// Variables of all stylesheets by name; those that have two values are left out.
using Variables = std::map<std::string, std::pair<RelPath, StyleVariable>>;

struct Sheet {
  RelPath path;
  Dialect dialect = Dialect::css;
  Bytes bytes;
  std::shared_ptr<const StyleFacts> facts;
};

void emit_style(const Sheet& sheet, const Variables& variables, const Reading& in);

// Spellings of a Sass or Less module that leads to `need.wanted`, in the manner of the old one.
std::vector<Proposal> style_ways(const RewriteRequest& need);

}  // namespace yc::styles
