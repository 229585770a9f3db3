#include "formats/assemblies/namespaces.h"
#include "base/text.h"
#include "words/assemblies.h"

#include <cctype>
#include <vector>

namespace yc::assemblies {

namespace {

// Names with their dots, and other characters one by one; comments and strings are passed over.
std::vector<std::string> tokens_of(std::string_view bytes) {
  std::vector<std::string> out;
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
    } else {
      if (!std::isspace(static_cast<unsigned char>(c))) out.emplace_back(1, c);
      ++at;
    }
  }
  return out;
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
    if (words::assemblies::type_words().contains(tokens[i])) {
      std::size_t at = tokens[i + 1] == "class" || tokens[i + 1] == "struct" ? i + 2 : i + 1;
      // A delegate's name stands behind what it gives.
      if (tokens[i] == "delegate" && i + 2 < tokens.size()) at = i + 2;
      if (at < tokens.size()) out.types.insert(tokens[at]);
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

}  // namespace yc::assemblies
