#include "formats/python/emission.h"

#include <algorithm>

namespace yc::python {

bool Emission::wants(const std::string& dotted) const {
  return whole_ || may_name(out_.focus(), dotted);
}

std::string_view Emission::word_at(std::size_t index) const {
  const std::vector<Token>& tokens = source_.facts->tokens;
  if (index >= tokens.size()) return "";
  return std::string_view(*source_.bytes).substr(tokens[index].span.begin, tokens[index].span.size());
}

Reference Emission::reference_at(std::uint32_t site, Span span) const {
  Reference out =
      Reference::of(Role::module, source_.format, {{file_, site}},
                    {source_.path.parent(), file_, Space::tree},
                    TracedText::literal(source_.bytes->substr(span.begin, span.size()), file_, span))
          .spelled_by_format();
  return out;
}

void Emission::lead(Reference reference, const Found& found) {
  bool relative = reference.text.text()[0] == '.';
  if (!found.root.is_root() || !relative) reference.search.push_back({found.root, kNoFile, Space::tree});
  for (const RelPath& file : found.files) {
    // A module that names itself by dots alone goes on doing so wherever it goes.
    if (file != source_.path || !relative) reference.lead_to(file);
  }
  if (!reference.targets.empty()) out_.add(std::move(reference));
}

void Emission::unseen(const RelPath& folder, Span span, const std::string& name) {
  Piece piece;
  piece.text = marked(Space::tree, folder) + "/" + name;
  piece.file = file_;
  piece.span = span;
  piece.verbatim = false;
  TracedText text;
  text.append(std::move(piece));
  text.append(TracedText::hole());
  text.append(TracedText::plain(".py"));  // what else lies there is no module
  out_.hole(text, {source_.path.parent(), kNoFile, Space::tree}, source_.format);
}

RelPath folder_of(const Found& package) {
  const RelPath& file = package.files.front();
  bool init = file.name() == "__init__.py" || file.name() == "__init__.pyi";
  return init ? file.parent() : file;
}

}  // namespace yc::python
