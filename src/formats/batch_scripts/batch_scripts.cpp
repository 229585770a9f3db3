#include "formats/batch_scripts/batch_scripts.h"

#include <algorithm>

#include "base/text.h"
#include "formats/batch_scripts/batch_lines.h"
#include "formats/capabilities/spellings.h"
#include "formats/literal_paths.h"
#include "formats/shell/script_references.h"

namespace yc {

namespace {

constexpr std::size_t kLargestBatch = 300'000;  // bytes; a script beyond that was written by a program

bool is_batch_script(const RelPath& path) {
  std::string ending(path.extension());
  ending = lowered(ending);
  return ending == ".bat" || ending == ".cmd";
}

// Commands of other systems end in ".cmd", too; these begin with a comment that no batch script has.
bool is_of_another_system(std::string_view bytes) {
  std::size_t first = bytes.find_first_not_of(" \t\r\n");
  return first != std::string_view::npos && bytes.substr(first, 2) == "/*";
}

class BatchScriptsFormat : public Format, public Spellings {
 public:
  std::string_view name() const override { return "batch scripts"; }

  bool claims(const RelPath& path) const override { return is_batch_script(path); }

  ScopeSet gives() const override { return Scope::products; }

  void read(const Reading& in) const override {
    in.each([&](const RelPath& path, const Bytes& bytes) {
      if (bytes->size() > kLargestBatch || is_binary(*bytes) || is_of_another_system(*bytes)) return false;
      Base script{path.parent(), in.out.files().index(path), Space::tree};
      shell::emit_script(
          in.tree, in.self, script, {},
          [&](const Base& start) { return batch::read_lines(*bytes, start, script); }, in.out);
      return true;
    });
  }

  std::vector<Proposal> late_proposals(const RewriteRequest& need) const override {
    return spelled_as_path(need);
  }

  std::optional<std::string> write(std::string_view text, WritingStyle style) const override {
    bool quoted = style == batch::kQuotedSlash || style == batch::kQuotedBackslash;
    std::string_view forbidden = quoted ? "\"%!\r\n" : " \t,;=&|()<>^\"%!\r\n";
    if (text.find_first_of(forbidden) != std::string_view::npos) return std::nullopt;
    std::string out(text);
    bool backslashes = style == batch::kBackslash || style == batch::kQuotedBackslash;
    if (backslashes) std::replace(out.begin(), out.end(), '/', '\\');
    return out;
  }
};

}  // namespace

std::unique_ptr<Format> batch_scripts_format() {
  return std::make_unique<BatchScriptsFormat>();
}

}  // namespace yc
