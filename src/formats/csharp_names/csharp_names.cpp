#include "formats/csharp_names/csharp_names.h"
#include "base/text.h"
#include "words/csharp_names.h"

#include <algorithm>
#include <cctype>
#include <vector>

namespace yc::csharp {

namespace {

// Names with their dots, and other characters one by one; comments and strings are passed over. Told where
// each begins, if asked.
std::vector<std::string> tokens_of(std::string_view bytes, std::vector<std::uint32_t>* offsets = nullptr) {
  std::vector<std::string> out;
  auto note = [&](std::size_t at) {
    if (offsets) offsets->push_back(static_cast<std::uint32_t>(at));
  };
  auto is_name = [](char c) {
    return std::isalnum(static_cast<unsigned char>(c)) || c == '_' || c == '.' || c == '@' ||
           static_cast<unsigned char>(c) >= 0x80;
  };
  for (std::size_t at = 0; at < bytes.size();) {
    char c = bytes[at];
    if (std::size_t end = behind_comment(bytes, at); end > at) {
      at = end;
    } else if (c == '"' || c == '\'') {
      bool verbatim = at > 0 && bytes[at - 1] == '@';
      for (++at; at < bytes.size() && bytes[at] != c; ++at) {
        if (bytes[at] == '\\' && !verbatim) ++at;
        if (bytes[at] == '\n' && !verbatim) break;
      }
      ++at;
    } else if (is_name(c)) {
      std::size_t begin = at;
      while (at < bytes.size() && is_name(bytes[at])) ++at;
      out.emplace_back(bytes.substr(begin, at - begin));
      note(begin);
    } else {
      if (!std::isspace(static_cast<unsigned char>(c))) out.emplace_back(1, c), note(at);
      ++at;
    }
  }
  return out;
}

bool begins_name(char c) {
  return std::isalpha(static_cast<unsigned char>(c)) || c == '_' || static_cast<unsigned char>(c) >= 0x80;
}

// The name that a declaration gives, which begins before `at`.
std::string name_declared(const std::vector<std::string>& tokens, std::size_t at) {
  std::string name;
  for (int open = 0; at < tokens.size(); ++at) {
    const std::string& token = tokens[at];
    if (token == "<") ++open;
    if (token == ">") --open;
    if (open == 0 && token.size() == 1 && std::string_view("({=;:").find(token[0]) != std::string_view::npos)
      break;
    if (open == 0 && begins_name(token.front())) name = token;
  }
  return name;
}

}  // namespace

Namespaces namespaces_of(std::string_view bytes) {
  Namespaces out;
  std::vector<std::string> tokens = tokens_of(bytes);
  std::vector<std::string> within;  // of nested declarations
  bool is_static = false;
  for (std::size_t i = 0; i + 1 < tokens.size(); ++i) {
    for (std::size_t at = 0; at < tokens[i].size();) {
      std::size_t end = std::min(tokens[i].find('.', at), tokens[i].size());
      if (end > at) out.words.insert(tokens[i].substr(at, end - at));
      at = end + 1;
    }
    if (words::csharp_names::type_words().contains(tokens[i])) {
      std::size_t at = tokens[i + 1] == "class" || tokens[i + 1] == "struct" ? i + 2 : i + 1;
      // A delegate's name stands behind what it gives.
      std::string name = tokens[i] == "delegate" ? name_declared(tokens, i + 1)
                         : at < tokens.size()    ? tokens[at]
                                                 : "";
      if (!name.empty() && begins_name(name[0])) out.types.insert(name);
      is_static = is_static || (i > 0 && tokens[i - 1] == "static");
    }
    if (is_static && tokens[i + 1] == "(") out.types.insert(tokens[i]);
    if (tokens[i] == "namespace") {
      std::string name = tokens[i + 1];
      if (!within.empty() && i + 2 < tokens.size() && tokens[i + 2] == "{") name = within.back() + "." + name;
      out.declared.insert(name);
      // An outer one is declared too.
      within.assign(1, name);
    } else if (tokens[i] == "using") {
      std::size_t at = i + 1;
      if (tokens[at] == "static") ++at;
      if (at + 2 < tokens.size() && tokens[at + 1] == "=") at += 2;
      if (at < tokens.size() && tokens[at] != "(" && tokens[at] != "var") out.used.insert(tokens[at]);
    } else if (tokens[i].find('.') != std::string::npos && tokens[i].front() != '.') {
      out.used.insert(tokens[i]);
    }
  }
  return out;
}

namespace {

// The names of types, by the braces that they stand in.
class TypeScan {
 public:
  explicit TypeScan(std::string_view bytes) : tokens_(tokens_of(bytes, &offsets_)) {}

  std::vector<TypeName> run() {
    for (std::size_t i = 0; i < tokens_.size(); ++i) {
      const std::string& token = tokens_[i];
      if (token == "{") {
        ++depth_;
      } else if (token == "}") {
        --depth_;
        if (!spaces_.empty() && depth_ < spaces_.back().second) spaces_.pop_back();
      } else if (token == "namespace" && i + 2 < tokens_.size()) {
        enter(i);
      } else if (words::csharp_names::type_words().contains(token) && token != "delegate") {
        bool is_member = depth_ != (spaces_.empty() ? 0 : spaces_.back().second);
        bool is_constraint = i > 0 && (tokens_[i - 1] == ":" || tokens_[i - 1] == ",");
        if (!is_member && !is_constraint) take(i);
      }
    }
    return std::move(out_);
  }
  const std::set<std::string>& hidden() const { return hidden_; }
  const std::vector<std::string>& tokens() const { return tokens_; }

 private:
  void enter(std::size_t at) {
    std::string name = spaces_.empty() ? tokens_[at + 1] : spaces_.back().first + "." + tokens_[at + 1];
    bool has_body = tokens_[at + 2] == "{";
    spaces_.emplace_back(name, has_body ? depth_ + 1 : depth_);
  }

  void take(std::size_t at) {
    std::size_t name = at + 1;
    if (name < tokens_.size() && (tokens_[name] == "class" || tokens_[name] == "struct")) ++name;
    bool is_second = at > 0 && tokens_[at - 1] == "record";  // "record struct"
    if (name >= tokens_.size() || is_second) return;
    std::size_t parameters = 0;
    if (name + 1 < tokens_.size() && tokens_[name + 1] == "<") {
      parameters = 1;
      for (std::size_t i = name + 2; i < tokens_.size() && tokens_[i] != ">"; ++i)
        parameters += tokens_[i] == ",";
    }
    TypeName type;
    type.space = spaces_.empty() ? "" : spaces_.back().first;
    type.name = tokens_[name] + (parameters > 0 ? "`" + std::to_string(parameters) : "");
    type.is_partial = at > 0 && tokens_[at - 1] == "partial";
    type.offset = offsets_[name];
    if (!is_public(at)) hidden_.insert(tokens_[name]);
    out_.push_back(std::move(type));
  }

  // By the words before the one that a type begins with.
  bool is_public(std::size_t at) const {
    while (at > 0 && words::csharp_names::modifiers().contains(tokens_[at - 1])) {
      if (tokens_[--at] == "public") return true;
    }
    return false;
  }

  std::vector<std::uint32_t> offsets_;
  std::vector<std::string> tokens_;
  int depth_ = 0;
  std::vector<std::pair<std::string, int>> spaces_;  // with the depth of what stands in each
  std::vector<TypeName> out_;
  std::set<std::string> hidden_;  // of the types
};

}  // namespace

std::set<std::string> hidden_names(std::string_view bytes) {
  TypeScan scan(bytes);
  scan.run();
  std::set<std::string> out = scan.hidden();
  const std::vector<std::string>& tokens = scan.tokens();
  for (std::size_t i = 0; i + 1 < tokens.size(); ++i) {
    if (tokens[i] != "internal") continue;
    std::string name = name_declared(tokens, i + 1);
    // "Level { get; internal set; }" is of the property.
    if (name == "get" || name == "set" || name == "init") {
      std::size_t open = i;
      while (open > 0 && tokens[open] != "{") --open;
      name = open > 0 ? tokens[open - 1] : "";
    }
    if (!name.empty()) out.insert(name);
  }
  return out;
}

bool has_global_using(std::string_view bytes) {
  std::vector<std::string> tokens = tokens_of(bytes);
  auto at = std::adjacent_find(
      tokens.begin(), tokens.end(),
      [](const std::string& one, const std::string& next) { return one == "global" && next == "using"; });
  return at != tokens.end();
}

std::vector<TypeName> types_of(std::string_view bytes) {
  if (bytes.find("#if") != std::string_view::npos) return {};
  return TypeScan(bytes).run();
}

}  // namespace yc::csharp
