#include "formats/python/computed_imports.h"

#include <algorithm>
#include <optional>
#include <vector>

namespace yc::python {

namespace {

class Call {
 public:
  Call(Emission& to, const std::map<std::string, Found>& packages) : to_(to), packages_(packages) {}

  // pkgutil.iter_modules(__path__): all modules of a package are taken for what they are called.
  void walk(std::size_t index) {
    const std::vector<Token>& tokens = source().facts->tokens;
    auto word = [&](std::size_t i) { return to_.word_at(i); };
    if ((word(index) != "iter_modules" && word(index) != "walk_packages") || word(index + 1) != "(") return;
    std::size_t at = index + 2;
    if (word(at + 1) == "=") at += 2;
    if (word(at) == "[") ++at;
    if (word(at) == "__path__") {
      to_.unseen(source().path.parent(), tokens[at].span);
      return;
    }
    auto package = packages_.find(std::string(word(at)));
    if (package == packages_.end()) return;
    RelPath folder = folder_of(package->second);
    while (word(at + 1) == "." && word(at + 2) != "__path__") {
      folder = folder / word(at + 2);
      at += 2;
    }
    if (word(at + 2) == "__path__" && source().tree.is_folder(folder)) to_.unseen(folder, tokens[at].span);
  }

  // import_module(name, __package__), __import__(__name__, fromlist=[name]), import_module(__name__ + "." +
  // name): some module of a package that is known.
  void computed_import(std::size_t index) {
    std::string_view call = to_.word_at(index);
    if ((call != "import_module" && call != "__import__") || to_.word_at(index + 1) != "(") return;
    auto args = arguments(index + 1);
    if (args.empty()) return;
    auto [first, last] = args[0];
    bool literal = last == first + 1 && source().facts->tokens[first].kind == Token::Kind::string &&
                   !shape_of(*source().bytes, source().facts->tokens[first]).formatted;
    std::optional<RelPath> folder;
    auto keyword = [&](std::string_view name) {
      return std::find_if(args.begin(), args.end(), [&](const auto& arg) {
        return to_.word_at(arg.first) == name && to_.word_at(arg.first + 1) == "=";
      });
    };
    bool own = last > first + 1 && (to_.word_at(first) == "__name__" || to_.word_at(first) == "__package__");
    if (!literal && source().facts->tokens[first].kind == Token::Kind::string)
      own = own || to_.word_at(first).find("{__name__}.") != std::string_view::npos ||
            to_.word_at(first).find("{__package__}.") != std::string_view::npos;
    if (own) folder = source().path.parent();
    if (call == "import_module" && !literal && !folder) {
      auto package = keyword("package");
      if (package == args.end() && args.size() > 1) package = args.begin() + 1;
      if (package != args.end()) folder = package_named(package->first, package->second);
    }
    if (call == "__import__") {
      auto level = keyword("level");
      bool beside = (level != args.end() && to_.word_at(level->first + 2) == "1") ||
                    (args.size() > 4 && to_.word_at(args[4].first) == "1");
      if (beside && !literal) folder = source().path.parent();
      auto list = keyword("fromlist");
      if (list == args.end() && args.size() > 3) list = args.begin() + 3;
      auto package = package_named(first, last);
      for (std::size_t i = list == args.end() ? 0 : list->first;
           package && list != args.end() && i < list->second; ++i) {
        const Token& token = source().facts->tokens[i];
        bool is_keyword = i == list->first && to_.word_at(i + 1) == "=";
        if (token.kind == Token::Kind::name && !is_keyword && !folder) folder = package;
        if (token.kind != Token::Kind::string) continue;
        // What a name that is spelled gets bound to depends on the code around.
        Span body = shape_of(*source().bytes, token).body;
        std::string name = source().bytes->substr(body.begin, body.size());
        if (source().tree.is_file(*package / (name + ".py"))) to_.unseen(*package, token.span, name);
      }
    }
    if (folder && source().tree.is_folder(*folder)) to_.unseen(*folder, source().facts->tokens[index].span);
  }

 private:
  const Source& source() const { return to_.source(); }

  // The tokens of each argument of the call whose paren stands at `open`; [first, last).
  std::vector<std::pair<std::size_t, std::size_t>> arguments(std::size_t open) const {
    std::vector<std::pair<std::size_t, std::size_t>> out;
    std::size_t first = open + 1, depth = 0;
    for (std::size_t i = open + 1; i < source().facts->tokens.size() && i < open + 200; ++i) {
      std::string_view word = to_.word_at(i);
      if (word == "(" || word == "[" || word == "{") ++depth;
      bool ends = depth == 0 && word == ")";
      if (ends || (depth == 0 && word == ",")) {
        if (i > first) out.emplace_back(first, i);
        first = i + 1;
      }
      if (ends) return out;
      if (word == ")" || word == "]" || word == "}") --depth;
    }
    return {};
  }

  // The folder of the package that a call names: __name__ and __package__ stand for the file's own one.
  std::optional<RelPath> package_named(std::size_t first, std::size_t last) const {
    if (to_.word_at(first + 1) == "=") first += 2;
    if (last != first + 1) return std::nullopt;
    if (to_.word_at(first) == "__name__" || to_.word_at(first) == "__package__")
      return source().path.parent();
    const Token& token = source().facts->tokens[first];
    if (token.kind != Token::Kind::string) return std::nullopt;
    Span body = shape_of(*source().bytes, token).body;
    auto package = source().resolver.absolute(source().path, source().bytes->substr(body.begin, body.size()));
    return package && package->is_package ? std::optional(folder_of(*package)) : std::nullopt;
  }

  Emission& to_;
  const std::map<std::string, Found>& packages_;
};

}  // namespace

void emit_computed_import(Emission& to, std::size_t index, const std::map<std::string, Found>& packages) {
  Call call(to, packages);
  call.walk(index);
  call.computed_import(index);
}

}  // namespace yc::python
