#include "formats/python/path_constants.h"

#include <algorithm>
#include <map>
#include <set>

#include "formats/glued_paths/texts_below.h"
#include "formats/python/python_scan.h"

namespace yc::python {

namespace {

// The string token whose text begins at an offset; null if none does.
const Token* string_at(const PythonFacts& facts, std::string_view bytes, std::uint32_t begin) {
  for (const Token& token : facts.tokens) {
    if (token.kind == Token::Kind::string && shape_of(bytes, token).body.begin == begin) return &token;
  }
  return nullptr;
}

// Where a new top-level statement goes: behind the imports, or before everything but what must be first.
struct Slot {
  std::uint32_t at = 0;
  bool behind_imports = false;
};
Slot slot_of(const PythonFacts& facts, std::string_view bytes) {
  Slot out;
  for (const Import& statement : facts.imports) {
    bool top = statement.own_line && !statement.late &&
               (statement.statement.begin == 0 || bytes[statement.statement.begin - 1] == '\n');
    if (!top || (out.behind_imports && statement.statement.end - out.at > 4000)) continue;
    std::size_t end = bytes.find('\n', statement.statement.end);
    out = {static_cast<std::uint32_t>(end == std::string_view::npos ? bytes.size() : end), true};
  }
  if (out.behind_imports) return out;
  for (std::size_t i = 0; i < facts.tokens.size(); ++i) {
    const Token& token = facts.tokens[i];
    if (token.kind == Token::Kind::string || token.kind == Token::Kind::newline) continue;
    out.at = token.span.begin;
    break;
  }
  return out;
}

}  // namespace

std::vector<Edit> through_constant(const TreeReader& tree, const ReferenceGraph& graph,
                                   const std::vector<const Reference*>& references, const std::string& name,
                                   const RelPath& folder) {
  std::vector<Edit> out;
  RelPath file = graph.files.path(standing_of(*references.front()).file);
  auto bytes = tree.read(file);
  if (!bytes) return out;
  PythonFacts facts = scan_python(**bytes);
  if (std::binary_search(facts.bound.begin(), facts.bound.end(), name)) return out;
  Slot slot = slot_of(facts, **bytes);
  std::string prefix;  // that all texts have
  char quote = '"';
  std::set<std::uint32_t> done;
  for (const Reference* reference : references) {
    const auto& pieces = reference->text.pieces();
    for (std::size_t i = 0; i < pieces.size(); ++i) {
      const Piece& piece = pieces[i];
      if (!piece.has_origin() || !piece.verbatim || !piece.via.empty()) continue;
      // From what stands before the piece to the folder.
      std::string head;
      for (std::size_t k = 0; k < i; ++k) head += pieces[k].text;
      Place base = place_of(reference->base.folder, head);
      if (head.empty()) base = {Space::tree, reference->base.folder};
      if (base.space != Space::tree) break;
      std::string text = relative_text(base.path, folder) + "/";
      // The folder alone is named before a part that only the program knows.
      bool below = (*bytes)->compare(piece.span.begin, text.size(), text) == 0;
      if (!below || (!prefix.empty() && prefix != text)) break;
      const Token* token = string_at(facts, **bytes, piece.span.begin);
      if (!token || token->span.begin < slot.at || !done.insert(token->span.begin).second) break;
      prefix = text;
      quote = shape_of(**bytes, *token).quote;
      std::size_t last = (*bytes)->find_last_not_of(" \t", token->span.begin - 1);
      bool joined = last != std::string::npos && (**bytes)[last] == '/';
      out.push_back({file, {token->span.begin, token->span.begin}, name + (joined ? " / " : " + ")});
      out.push_back(
          {file, {piece.span.begin, piece.span.begin + static_cast<std::uint32_t>(text.size())}, ""});
      break;
    }
  }
  if (out.empty()) return out;
  std::string constant = name + " = " + quote + prefix + quote;
  out.push_back({file, {slot.at, slot.at}, slot.behind_imports ? "\n\n" + constant : constant + "\n\n"});
  return out;
}

namespace {

// Where the strings stand that a function is called with.
using Calls = std::set<std::pair<RelPath, std::uint32_t>>;

struct Callee {
  std::string function;
  std::uint32_t text = 0;  // where the string begins that it is given
};

// Of a text that is the first argument of a call.
std::optional<Callee> callee_at(const PythonFacts& facts, std::string_view bytes, std::uint32_t begin) {
  const Token* token = string_at(facts, bytes, begin);
  std::ptrdiff_t at = token ? token - facts.tokens.data() : 0;
  if (at < 2) return std::nullopt;
  const Token &open = token[-1], &word = token[-2];
  bool is_call = bytes.substr(open.span.begin, open.span.size()) == "(" && word.kind == Token::Kind::name;
  if (!is_call) return std::nullopt;
  return Callee{std::string(bytes.substr(word.span.begin, word.span.size())), token->span.begin};
}

class LoaderFolder {
 public:
  LoaderFolder(const TreeReader& tree, std::string function, const Calls& calls)
      : tree_(tree), function_(std::move(function)), calls_(calls) {}

  // Where the function's parameter is opened, once and as it is. Nothing if there are other uses of it.
  struct Opening {
    RelPath file;
    std::uint32_t at = 0;
  };
  std::optional<Opening> find() {
    std::size_t known = 0;
    for (const RelPath& path : tree_.files()) {
      auto bytes =
          path.extension() == ".py" && tree_.is_editable(path) ? tree_.read(path) : Result<Bytes>(Error{});
      if (!bytes || (*bytes)->find(function_) == std::string::npos) continue;
      PythonFacts facts = scan_python(**bytes);
      auto text = [&](std::size_t i) {
        return i < facts.tokens.size()
                   ? std::string_view(**bytes).substr(facts.tokens[i].span.begin, facts.tokens[i].span.size())
                   : std::string_view();
      };
      for (std::size_t i = 0; i < facts.tokens.size(); ++i) {
        if (facts.tokens[i].kind != Token::Kind::name || text(i) != function_) continue;
        bool is_call = text(i + 1) == "(" && i + 2 < facts.tokens.size() &&
                       calls_.contains({path, facts.tokens[i + 2].span.begin});
        known += is_call;
        if (is_call || is_brought(facts, facts.tokens[i].span)) continue;
        if (found_ || i == 0 || text(i - 1) != "def" || !define(path, facts, text)) return std::nullopt;
      }
    }
    return known == calls_.size() ? found_ : std::nullopt;
  }

 private:
  static bool is_brought(const PythonFacts& facts, const Span& word) {
    return std::any_of(facts.imports.begin(), facts.imports.end(),
                       [&](const Import& statement) { return statement.statement.holds(word); });
  }

  template <class Text>
  bool define(const RelPath& path, const PythonFacts& facts, const Text& text) {
    auto body = std::find_if(facts.bodies.begin(), facts.bodies.end(),
                             [&](const FunctionBody& one) { return one.name == function_; });
    if (body == facts.bodies.end() || body->parameters.front().empty()) return false;
    std::size_t uses = 0, at = 0;
    for (std::size_t i = body->begin; i < body->end; ++i) {
      bool is_use = facts.tokens[i].kind == Token::Kind::name && text(i) == body->parameters.front();
      if (is_use) ++uses, at = i;
    }
    bool is_argument = uses == 1 && (text(at - 1) == "(" || text(at - 1) == ",") &&
                       (text(at + 1) == ")" || text(at + 1) == ",");
    if (is_argument) found_ = Opening{path, facts.tokens[at].span.begin};
    return is_argument;
  }

  const TreeReader& tree_;
  std::string function_;
  const Calls& calls_;
  std::optional<Opening> found_;
};

}  // namespace

std::vector<Edit> in_loader(const TreeReader& tree, const ReferenceGraph& graph,
                            const std::vector<const Reference*>& references, const std::string& name,
                            const RelPath& folder) {
  auto below = glued_paths::texts_below(tree, graph, references, folder);
  if (!below) return {};
  Calls calls;
  std::string function;
  std::map<RelPath, PythonFacts> scanned;
  for (const Edit& cut : below->cuts) {
    auto bytes = tree.read(cut.file);
    if (!bytes) return {};
    auto [facts, fresh] = scanned.try_emplace(cut.file);
    if (fresh) facts->second = scan_python(**bytes);
    auto callee = callee_at(facts->second, **bytes, cut.span.begin);
    if (!callee || (!function.empty() && function != callee->function)) return {};
    function = callee->function;
    calls.emplace(cut.file, callee->text);
  }
  auto opening = LoaderFolder(tree, function, calls).find();
  auto bytes = opening ? tree.read(opening->file) : Result<Bytes>(Error{});
  if (!bytes) return {};
  PythonFacts facts = scan_python(**bytes);
  if (std::binary_search(facts.bound.begin(), facts.bound.end(), name)) return {};
  Slot slot = slot_of(facts, **bytes);
  if (slot.at > opening->at) return {};
  std::vector<Edit> out = std::move(below->cuts);
  out.push_back({opening->file, {opening->at, opening->at}, name + " + "});
  std::string constant = name + " = \"" + below->prefix + "\"";
  out.push_back(
      {opening->file, {slot.at, slot.at}, slot.behind_imports ? "\n\n" + constant : constant + "\n\n"});
  return out;
}

}  // namespace yc::python
