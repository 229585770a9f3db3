// A constant for a folder of assets in the function that opens them, for languages with curly braces.
#include <algorithm>
#include <set>

#include "base/char_class.h"
#include "formats/glued_paths/constant_folder.h"
#include "formats/glued_paths/loader_scan.h"
#include "formats/glued_paths/texts_below.h"
#include "formats/glued_paths/word_chars.h"

namespace yc::glued_paths {

namespace {

// Where the names of a function stand that are calls.
using Calls = std::set<std::pair<RelPath, std::size_t>>;

// The only use of the parameter in the function.
struct Opening {
  RelPath file;
  std::uint32_t at = 0;  // of the parameter
  char quote = '"';
};

class LoaderFolder {
 public:
  LoaderFolder(const TreeReader& tree, const std::string& function, const Calls& calls, Language language)
      : tree_(tree), function_(function), calls_(calls), language_(language) {}

  // Nothing if the function is used otherwise than by these calls.
  std::optional<Opening> find(const std::function<bool(const RelPath&)>& has_language) {
    std::size_t known = 0;
    for (const RelPath& path : tree_.files()) {
      auto bytes = has_language(path) && tree_.is_editable(path) ? tree_.read(path) : Result<Bytes>(Error{});
      if (!bytes) continue;
      for (std::size_t at : places_of_word(**bytes, function_)) {
        if (calls_.contains({path, at})) {
          ++known;
        } else if (is_brought(**bytes, at)) {
          continue;
        } else if (found_ || !define(path, **bytes, at)) {
          return std::nullopt;
        }
      }
    }
    return known == calls_.size() ? found_ : std::nullopt;
  }

 private:
  // Only named: import { load } from "./load.js", exports.
  static bool is_brought(std::string_view bytes, std::size_t at) {
    std::size_t line = bytes.rfind('\n', at) + 1;
    std::size_t first = std::min(bytes.find_first_not_of(" \t", line), bytes.size());
    std::string_view text = bytes.substr(first, at - first);
    bool is_import = text.starts_with("import ") || text.starts_with("export {") ||
                     text.find("require(") != kNone ||
                     (text.starts_with("const {") && bytes.substr(at, 200).find("require(") != kNone);
    return is_import || text.starts_with("module.exports = {") || text == "exports." ||
           text.starts_with("using ");
  }

  // The function itself: its parameter must be opened, once and as it is.
  bool define(const RelPath& path, std::string_view bytes, std::size_t at) {
    std::size_t open = bytes.find_first_of("(;{}\n", at);
    std::size_t close = open == kNone ? kNone : bytes.find(')', open);
    std::size_t arrow = bytes.find("=>", at);
    if (open == kNone || bytes[open] != '(') {
      if (arrow == kNone || arrow - at > 80) return false;
      open = bytes.find('=', at), close = arrow;  // load = name => …
    }
    if (close == kNone) return false;
    std::string_view parameters = bytes.substr(open + 1, close - open - 1);
    if (language_ == Language::c &&
        (parameters.find("string") == kNone || parameters.find("string_view") != kNone))
      return false;  // a text is glued to no other there
    for (const std::string& word : words_of(parameters)) {
      auto use = only_use(bytes, close, word, at);
      if (!use) continue;
      found_ = Opening{path, *use, language_ == Language::script ? '\'' : '"'};
      return true;
    }
    return false;
  }

  static std::vector<std::string> words_of(std::string_view text) {
    std::vector<std::string> out;
    for (std::size_t i = 0; i < text.size();) {
      std::size_t end = i;
      while (end < text.size() && kWordChars.holds(text[end])) ++end;
      if (end > i) out.emplace_back(text.substr(i, end - i));
      i = std::max(end, i + 1);
    }
    return out;
  }

  std::optional<std::uint32_t> only_use(std::string_view bytes, std::size_t behind,
                                        const std::string& parameter, std::size_t head) const {
    for (std::size_t at : places_of_word(bytes, parameter)) {
      if (at < behind) continue;
      auto function = function_with(bytes, at, parameter);
      if (!function || function->name != function_ || function->head != head) return std::nullopt;
      Span span = body_of(bytes, *function, at);
      std::string_view body = bytes.substr(span.begin, span.size());
      if (places_of_word(body, parameter).size() != 1) return std::nullopt;
      std::size_t before = bytes.find_last_not_of(" \t\r\n", at - 1);
      std::size_t next = bytes.find_first_not_of(" \t\r\n", at + parameter.size());
      bool is_argument = before != kNone && next != kNone && (bytes[before] == '(' || bytes[before] == ',') &&
                         (bytes[next] == ')' || bytes[next] == ',');
      return is_argument ? std::optional(static_cast<std::uint32_t>(at)) : std::nullopt;
    }
    return std::nullopt;
  }

  const TreeReader& tree_;
  const std::string& function_;
  const Calls& calls_;
  Language language_;
  std::optional<Opening> found_;
};

}  // namespace

std::vector<Edit> in_loader(const TreeReader& tree, const ReferenceGraph& graph,
                            const std::vector<const Reference*>& references, const std::string& name,
                            const RelPath& folder, Language language,
                            const std::function<bool(const RelPath&)>& has_language) {
  if (language == Language::rust) return {};  // its constants are glued by macros, when it is compiled
  auto below = texts_below(tree, graph, references, folder);
  if (!below) return {};
  Calls calls;
  std::string function;
  for (const Edit& cut : below->cuts) {
    auto bytes = tree.read(cut.file);
    std::string callee = bytes && cut.span.begin > 0 ? callee_of(**bytes, cut.span.begin - 1) : "";
    if (callee.empty() || (!function.empty() && function != callee)) return {};
    function = callee;
    calls.emplace(cut.file, (*bytes)->rfind(callee, cut.span.begin));
  }
  auto opening = LoaderFolder(tree, function, calls, language).find(has_language);
  auto bytes = opening ? tree.read(opening->file) : Result<Bytes>(Error{});
  if (!bytes || !places_of_word(**bytes, name).empty()) return {};
  auto constant = constant_at(opening->file, **bytes, language, name, below->prefix, opening->quote,
                              {opening->at, opening->at + 1});
  if (!constant || constant->span.begin > opening->at) return {};
  std::vector<Edit> out = std::move(below->cuts);
  out.push_back({opening->file, {opening->at, opening->at}, name + " + "});
  out.push_back(std::move(*constant));
  return out;
}

}  // namespace yc::glued_paths
