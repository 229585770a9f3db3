#include "inspect/file_kind.h"

#include <algorithm>

#include "formats/format.h"
#include "formats/unread_languages.h"

namespace yc {

FileKind kind_of_file(const RelPath& path) {
  // What tells others where to look or what is made decides how sources are read.
  bool is_script =
      unread_build_tool(path) ||
      std::any_of(formats().begin(), formats().end(), [&](const std::unique_ptr<Format>& format) {
        return !format->gives().empty() && !format->reads_sources() && format->claims(path);
      });
  if (is_source_code(path)) return FileKind::source;
  return is_script ? FileKind::script : FileKind::other;
}

}  // namespace yc
