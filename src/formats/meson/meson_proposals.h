// Words of Meson's lists, and ways that only Meson has to keep a path.
#pragma once

#include "formats/capabilities/spellings.h"
#include "formats/format.h"

namespace yc::meson {

Span word_at(std::string_view bytes, Span literal);
std::optional<std::string> beside(const Format& format, std::string_view bytes, Span word,
                                  std::string_view text);
std::optional<Span> without(std::string_view bytes, Span word);
// A Vala source beside the script's folder must be named by its absolute path.
std::vector<Proposal> by_absolute_path(const Format& format, const RewriteRequest& need);
// In a loop, or where one name makes many: "(name == 'tide' ? 'net/tide.c' : name + '.c')".
std::vector<Proposal> single_out(const Format& format, const RewriteRequest& need);
std::optional<Spellings::Reason> why_not(const ReferenceGraph& graph, const Reference& reference,
                                         const RelPath& new_base, const RelPath& target);
std::vector<Proposal> add_search_root(const Format& format, const ReferenceGraph& graph, const Unit& unit,
                                      const RelPath& root, const TreeReader& tree);
// The same for a folder as it is to be written.
std::vector<Proposal> add_folder(const Format& format, const ReferenceGraph& graph, const Unit& unit,
                                 const std::string& folder, const TreeReader& tree);

}  // namespace yc::meson
