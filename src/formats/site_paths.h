// URLs of pages and stylesheets that name files of the tree (URL Living Standard, "relative URL strings").
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "formats/capabilities/consequences.h"
#include "formats/format.h"
#include "tree/moves.h"

namespace yc {

// The part of a URL that is a path of this site: without query and fragment. Nothing for what has a scheme or
// a host, or is only a fragment.
std::optional<Span> local_part(std::string_view url);

// The folders that "/…" may be relative to for a file: those that are served as they are, the nearest first.
std::vector<RelPath> site_roots(const TreeReader& tree, const RelPath& user);

struct SitePath {
  RelPath target;
  Base base;                      // what the text without `lead` is relative to
  std::string lead;               // "/" if the text is relative to a site's root
  bool left_out = false;          // the text names a folder for its index, or leaves ".html" out
  std::optional<RelPath> source;  // the target is not there, but this is what it is made of
};

// Where the local part of a URL in `user` leads: looked up in these folders in order, or in the site's roots
// if it begins with a slash.
std::optional<SitePath> find_site_path(const TreeReader& tree, const Scopes& scopes, const RelPath& user,
                                       const std::string& text, const std::vector<Base>& folders);

// The reference for it: `text` stands at `span` of `file`.
Reference site_reference(const SitePath& found, FileIndex file, const std::string& text, Span span,
                         WritingStyle style, std::uint8_t format);

// References of the format of that name in folders that are served as they are, to what would leave these.
std::vector<Blocker> left_sites(const ReadTree& before, const MoveSet& moves, std::string_view format);

// All ways for a reference of its own spelling that site_reference() made.
std::vector<Proposal> site_ways(const RewriteRequest& need);

// Percent-encoding of what a URL's path cannot hold as it is, and back (RFC 3986, section 2.1).
std::string url_encoded(std::string_view path);
std::string url_decoded(std::string_view text);

}  // namespace yc
