#include "formats/autoconf/macro_files.h"

#include <algorithm>
#include <set>
#include <string>

#include "base/char_class.h"

namespace yc::autoconf {

namespace {

constexpr CharClass kNameChars = CharClass::alphanumeric_and("_");

struct MacroFile {
  RelPath path;
  Bytes bytes;
  std::set<std::string> defines;
  bool is_used = false;
};

// AC_DEFUN([NAME], …) and its kin.
std::set<std::string> defined_in(std::string_view text) {
  std::set<std::string> out;
  for (std::string_view call : {"AC_DEFUN", "AC_DEFUN_ONCE", "AU_DEFUN", "AU_ALIAS", "m4_define", "define"}) {
    for (std::size_t at = text.find(call); at != std::string_view::npos; at = text.find(call, at + 1)) {
      std::size_t begin = at + call.size();
      if (begin >= text.size() || text[begin] != '(') continue;
      begin = text.find_first_not_of("[ \t`", begin + 1);
      std::size_t end = begin;
      while (end < text.size() && kNameChars.holds(text[end])) ++end;
      if (begin < end) out.emplace(text.substr(begin, end - begin));
    }
  }
  return out;
}

void collect_words(std::string_view text, std::set<std::string>& words) {
  for (std::size_t at = 0; at < text.size();) {
    std::size_t end = at;
    while (end < text.size() && kNameChars.holds(text[end])) ++end;
    if (end > at + 2) words.emplace(text.substr(at, end - at));
    at = end + 1;
  }
}

}  // namespace

std::vector<RelPath> used_macro_files(const TreeReader& tree, std::string_view script,
                                      const std::vector<RelPath>& folders) {
  std::vector<MacroFile> files;
  for (const RelPath& folder : folders) {
    for (const std::string& name : tree.children(folder)) {
      RelPath path = folder / name;
      if (path.extension() != ".m4" || !tree.is_file(path)) continue;
      if (auto bytes = tree.read(path)) files.push_back({path, *bytes, defined_in(**bytes), false});
    }
  }
  std::set<std::string> words;
  if (!files.empty()) collect_words(script, words);
  std::vector<RelPath> out;
  for (bool grows = true; grows;) {
    grows = false;
    for (MacroFile& file : files) {
      bool used = !file.is_used && std::any_of(file.defines.begin(), file.defines.end(),
                                               [&](const std::string& name) { return words.contains(name); });
      if (!used) continue;
      file.is_used = grows = true;
      collect_words(*file.bytes, words);
      out.push_back(file.path);
    }
  }
  std::sort(out.begin(), out.end());
  return out;
}

std::vector<std::string> aclocal_folders(std::string_view makefile) {
  std::vector<std::string> out;
  std::size_t at = makefile.find("ACLOCAL_AMFLAGS");
  if (at == std::string_view::npos) return out;
  std::size_t end = at;
  // To the end of the line, and of those that go on with it.
  do {
    end = std::min(makefile.find('\n', end + 1), makefile.size());
  } while (end < makefile.size() && makefile[end - 1] == '\\');
  std::string_view line = makefile.substr(at, end - at);
  for (std::size_t flag = line.find("-I"); flag != std::string_view::npos; flag = line.find("-I", flag + 2)) {
    std::size_t begin = line.find_first_not_of(" \t\\\n", flag + 2);
    if (begin == std::string_view::npos) break;
    std::size_t stop = std::min(line.find_first_of(" \t\\\n", begin), line.size());
    out.emplace_back(line.substr(begin, stop - begin));
  }
  return out;
}

RelPath configured_folder(const TreeReader& tree, const RelPath& script) {
  RelPath own = script.parent();
  if (own.is_root() || tree.is_file(own / "configure") || !tree.is_file(own.parent() / "configure"))
    return own;
  // Another script may be that one's.
  for (const char* name : {"configure.ac", "configure.in"}) {
    if (tree.is_file(own.parent() / name)) return own;
  }
  return own.parent();
}

}  // namespace yc::autoconf
