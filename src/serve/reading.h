// Answers to questions about what stands in a file: links, where they lead, who names a file, and why.
#pragma once

#include "serve/asked.h"

namespace yc::serve {

json document_links(const Asked& asked, const RelPath& file);
json definition(const Asked& asked, const RelPath& file, const json& position);
// Of what the text at a place leads to; where none stands, of the file itself.
json references(const Asked& asked, const RelPath& file, const json& position);
json hover(const Asked& asked, const RelPath& file, const json& position);

}  // namespace yc::serve
