// CMakePresets.json and CMakeUserPresets.json (cmake-presets(7)): included presets, toolchain files, and
// every value that names something of the tree.
#include <algorithm>

#include "formats/cmake/cmake.h"
#include "formats/json/json_strings.h"

namespace yc {

namespace {

// The value with ${sourceDir} and ${fileDir} as the folders they stand for; any other macro is a hole.
TracedText expanded(const TracedText& raw, FileIndex file, const RelPath& folder) {
  std::string text = raw.text();
  TracedText out;
  std::size_t at = 0;
  while (at < text.size()) {
    std::size_t dollar = std::min(text.find('$', at), text.size());
    out.append(raw.substr(at, dollar - at));
    if (dollar == text.size()) break;
    std::size_t end = text.find('}', dollar);
    if (end == std::string::npos) {
      out.append(raw.substr(dollar));
      break;
    }
    std::string name = text.substr(dollar, end + 1 - dollar);
    TracedText value = TracedText::hole();
    if (name == "${sourceDir}" || name == "${fileDir}")
      value = TracedText::folder(Piece::Nature::tree_folder, file, marked(Space::tree, folder));
    Span from = raw.substr(dollar, 1).first_origin().span, to = raw.substr(end, 1).first_origin().span;
    out.append(value.through({file, {from.begin, to.end}}));
    at = end + 1;
  }
  return out;
}

class CMakePresetsFormat : public Format {
 public:
  std::string_view name() const override { return "cmake presets"; }

  bool claims(const RelPath& path) const override {
    return path.name() == "CMakePresets.json" || path.name() == "CMakeUserPresets.json";
  }

  void read(const Reading& in) const override {
    in.each([&](const RelPath& path, const Bytes& bytes) {
      FileIndex file = in.out.files().index(path);
      for (const json::StringValue& value : json::string_values(*bytes))
        refer(in.tree, in.self, in.out, file, *bytes, value);
      return true;
    });
  }

  std::optional<std::string> write(std::string_view text, WritingStyle) const override {
    return json::escaped(text);
  }

 private:
  static void refer(const TreeReader& tree, std::uint8_t self, GraphBuilder& out, FileIndex file,
                    std::string_view bytes, const json::StringValue& value) {
    RelPath folder = out.files().path(file).parent();
    TracedText text = expanded(json::traced(bytes, value, file), file, folder);
    std::string key = value.path.empty() ? "" : value.path.back();
    bool included = value.path.size() == 2 && value.path.front() == "include";
    bool known = included || key == "toolchainFile";
    Base base{folder, file, Space::tree};
    if (text.has_hole()) {
      if (!text.is_only_holes()) out.hole(text, base, self);
      return;
    }
    std::string plain = text.text();
    if (!known && plain.find_first_of("/.") == std::string::npos) return;
    Place place = place_of(folder, plain);
    if (place.space != Space::tree || place.path.is_root() || !tree.find(place.path)) return;
    Reference reference = Reference::of(included ? Role::script : Role::argument, self,
                                        {{file, value.span.begin}}, base, std::move(text))
                              .leading_to(place.path);
    reference.certainty = known ? Certainty::certain : Certainty::likely;
    out.add(std::move(reference));
  }
};

}  // namespace

std::unique_ptr<Format> cmake_presets_format() {
  return std::make_unique<CMakePresetsFormat>();
}

}  // namespace yc
