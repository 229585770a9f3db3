#include "formats/site_paths.h"

#include <algorithm>

#include "formats/outputs.h"

namespace yc {

std::optional<Span> local_part(std::string_view url) {
  std::size_t end = std::min(url.find_first_of("?#"), url.size());
  std::string_view path = url.substr(0, end);
  if (path.empty() || path.starts_with("//")) return std::nullopt;
  std::size_t colon = path.find(':');
  if (colon != std::string_view::npos && path.substr(0, colon).find('/') == std::string_view::npos)
    return std::nullopt;
  return Span{0, static_cast<std::uint32_t>(end)};
}

namespace {

bool is_served(const RelPath& folder) {
  std::string_view name = folder.name();
  return name == "public" || name == "static" || name == "www" || name == "wwwroot";
}

}  // namespace

std::vector<RelPath> site_roots(const TreeReader& tree, const RelPath& user) {
  std::vector<RelPath> above;  // the nearest first
  for (RelPath up = user.parent();; up = up.parent()) {
    above.push_back(up);
    if (up.is_root()) break;
  }
  std::vector<RelPath> out;
  std::copy_if(above.begin(), above.end(), std::back_inserter(out), is_served);
  // Pages below a site have an index of their own.
  for (auto up = above.rbegin(); up != above.rend(); ++up) {
    if (tree.is_file(*up / "index.html")) out.push_back(*up);
  }
  for (const RelPath& up : above) {
    for (const char* served : {"public", "static"}) {
      if (tree.is_folder(up / served)) out.push_back(up / served);
    }
    if (up.is_root() || tree.is_file(up / "package.json")) out.push_back(up);
  }
  std::vector<RelPath> unique;
  for (const RelPath& folder : out) {
    if (std::find(unique.begin(), unique.end(), folder) == unique.end()) unique.push_back(folder);
  }
  return unique;
}

namespace {

struct FoundSite {
  RelPath path;
  bool left_out = false;
};

std::optional<FoundSite> at(const TreeReader& tree, const RelPath& folder, const std::string& text,
                            bool slash) {
  auto place = RelPath::resolve(folder, text);
  if (!place) return std::nullopt;
  if (tree.is_folder(*place)) {
    if (tree.is_file(*place / "index.html")) return FoundSite{*place / "index.html", true};
    return place->is_root() ? std::nullopt : std::optional(FoundSite{*place, false});
  }
  if (slash || place->is_root()) return std::nullopt;
  if (tree.find(*place)) return FoundSite{*place, false};
  RelPath page = RelPath::from_normal(place->str() + ".html");
  return tree.is_file(page) ? std::optional(FoundSite{page, true}) : std::nullopt;
}

// Whether a text names a page without ".html", and not the folder of an index.
bool leaves_ending_out(std::string_view text, std::string_view target) {
  std::string_view last = text.substr(text.rfind('/') + 1);
  return !last.empty() && target.ends_with("/" + std::string(last) + ".html");
}

// The nearest folder above a file that is served as it is, by its name.
std::optional<RelPath> served_folder(const RelPath& user) {
  for (RelPath up = user.parent(); !up.is_root(); up = up.parent()) {
    if (is_served(up)) return up;
  }
  return std::nullopt;
}

}  // namespace

std::vector<Blocker> left_sites(const ReadTree& before, const MoveSet& moves, std::string_view format) {
  std::vector<Blocker> out;
  std::size_t more = 0;  // one place stands for all
  for (const Reference& reference : before.graph.references) {
    FileIndex file = standing_of(reference).file;
    bool is_url = reference.role == Role::argument || reference.role == Role::module;
    if (!is_url || file == kNoFile || format_at(reference.format).name() != format) continue;
    const RelPath& user = before.graph.files.path(file);
    auto site = served_folder(user), now = served_folder(moves.map_file(user));
    if (!site || !now) continue;
    auto leaves = [&](const Target& target) {
      return target.kind == Target::Kind::tree && target.path.is_within(*site) &&
             !moves.map_file(target.path).is_within(*now);
    };
    auto target = std::find_if(reference.targets.begin(), reference.targets.end(), leaves);
    if (target == reference.targets.end()) continue;
    if (!out.empty()) {
      ++more;
      continue;
    }
    out.push_back({"not-served", user, standing_of(reference).span, reference.text.text(),
                   "leads to " + target->path.str() + ", which would lie outside of " + now->str() +
                       ", the folder that is served",
                   "move it to a place below " + now->str() + ", or add --accept-unseen if more is served"});
  }
  if (more > 0) out.front().reason += " (and " + std::to_string(more) + " more)";
  return out;
}

std::optional<SitePath> find_site_path(const TreeReader& tree, const Scopes& scopes, const RelPath& user,
                                       const std::string& text, const std::vector<Base>& folders) {
  bool absolute = text.starts_with("/");
  std::vector<Base> bases = folders;
  if (absolute) {
    bases.clear();
    for (const RelPath& root : site_roots(tree, user)) bases.push_back({root, kNoFile, Space::tree});
  }
  std::string rest(text, absolute ? 1 : 0);
  if (rest.empty()) rest.push_back('.');
  bool slash = rest.size() > 1 && rest.ends_with("/");
  for (const Base& base : bases) {
    auto found = at(tree, base.folder, rest, slash);
    const Entry* entry = found ? tree.find(found->path) : nullptr;
    if (entry && !entry->ignored)
      return SitePath{found->path, base, absolute ? "/" : "", found->left_out, {}};
  }
  for (const Base& base : bases) {
    auto place = RelPath::resolve(base.folder, rest);
    auto source = place ? source_of(tree, scopes, *place) : std::nullopt;
    if (source) return SitePath{*place, base, absolute ? "/" : "", false, source};
  }
  return std::nullopt;
}

Reference site_reference(const SitePath& found, FileIndex file, const std::string& text, Span span,
                         WritingStyle style, std::uint8_t format) {
  Reference reference = Reference::of(Role::argument, format, {{file, span.begin}}, found.base, {});
  std::string path = text.substr(found.lead.size());
  std::uint32_t lead = static_cast<std::uint32_t>(found.lead.size());
  while (!found.left_out && path.size() > 1 && path.ends_with("/")) path.pop_back();
  Span place{span.begin + lead, span.begin + lead + static_cast<std::uint32_t>(path.size())};
  Piece piece;
  piece.text = url_decoded(path);
  piece.file = file;
  piece.span = place;
  piece.style = style;
  piece.verbatim = piece.text == path;
  reference.text.append(std::move(piece));
  if (found.left_out || found.source || !found.lead.empty()) reference.kind = OwnSpelling{found.lead};
  if (found.source) {
    reference.lead_to(*found.source, Target::Kind::made);
  } else {
    reference.lead_to(found.target);
  }
  return reference;
}

std::vector<Proposal> site_ways(const RewriteRequest& need) {
  std::vector<Proposal> out;
  const Reference& reference = need.reference;
  if (reference.text.pieces().size() != 1 || need.wanted.size() != 1) return out;
  const Piece& piece = reference.text.pieces().front();
  RelPath file = need.graph.files.path(piece.file);
  std::string old = reference.text.text();
  std::vector<std::string> texts;
  if (need.wanted.front().kind == Target::Kind::made) {
    texts = output_texts(need, old);
  } else {
    const RelPath& wanted = need.wanted.front().path;
    const std::string& target = reference.targets.front().path.str();
    bool left_out = target.ends_with(".html") && !old.ends_with(".html");
    std::vector<RelPath> bases = {need.new_base};
    if (reference.lead() == "/") {
      for (const RelPath& root : site_roots(need.tree, file)) {
        auto image = root.is_root() ? std::optional(root) : need.moves.map_folder(root);
        if (image && std::find(bases.begin(), bases.end(), *image) == bases.end()) bases.push_back(*image);
      }
    }
    for (const RelPath& base : bases) {
      if (!reference.lead().empty() && !wanted.is_within(base)) continue;
      std::string path = relative_text(base, wanted);
      if (left_out && wanted.name() == "index.html") texts.push_back(relative_text(base, wanted.parent()));
      if (leaves_ending_out(old, target) && path.ends_with(".html"))
        texts.emplace_back(path, 0, path.rfind('.'));
      texts.push_back(path);
    }
  }
  PathStyle style = PathStyle::of(old);
  for (const std::string& text : texts) {
    if (text == "." && !reference.lead().empty()) continue;
    // A slash at the end is kept where a folder is still named.
    bool is_folder = text.ends_with("..") || ending_of(text).empty();
    style.trailing_slash = old.ends_with("/") && is_folder;
    auto written = format_at(reference.format).write(style.apply(text), piece.style);
    if (!written) continue;
    if (text == old) {
      out.push_back({});  // the folder that it is looked up in will follow
    } else {
      out.push_back({{{file, piece.span, *written}}, ""});
    }
  }
  return out;
}

std::string url_encoded(std::string_view path) {
  static constexpr std::string_view kDigits = "0123456789ABCDEF";
  std::string out;
  for (char c : path) {
    auto byte = static_cast<unsigned char>(c);
    if (byte <= ' ' || byte == 0x7F ||
        std::string_view("\"#%<>?`{}'()\\").find(c) != std::string_view::npos) {
      out += '%';
      out += kDigits[byte >> 4];
      out += kDigits[byte & 15];
    } else {
      out += c;
    }
  }
  return out;
}

std::string url_decoded(std::string_view text) {
  auto digit = [](char c) {
    return c >= '0' && c <= '9'   ? c - '0'
           : c >= 'a' && c <= 'f' ? c - 'a' + 10
           : c >= 'A' && c <= 'F' ? c - 'A' + 10
                                  : -1;
  };
  std::string out;
  for (std::size_t i = 0; i < text.size(); ++i) {
    bool escape = text[i] == '%' && i + 2 < text.size() && digit(text[i + 1]) >= 0 && digit(text[i + 2]) >= 0;
    if (escape) {
      out += static_cast<char>(digit(text[i + 1]) * 16 + digit(text[i + 2]));
      i += 2;
    } else {
      out += text[i];
    }
  }
  return out;
}

}  // namespace yc
