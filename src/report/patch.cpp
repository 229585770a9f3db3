#include "report/patch.h"

#include <fmt/format.h>
#include <git2.h>

#include <set>

#include "tree/git_library.h"

namespace yc::report {

namespace {

// git's quoting of path names: only where a byte needs it.
std::string quoted(const std::string& path) {
  bool plain = true;
  std::string out;
  for (char c : path) {
    unsigned char byte = static_cast<unsigned char>(c);
    if (c == '"' || c == '\\') {
      out += std::string("\\") + c;
      plain = false;
    } else if (byte < 0x20 || byte >= 0x7f) {
      out += c == '\n' ? "\\n" : c == '\t' ? "\\t" : fmt::format("\\{:03o}", byte);
      plain = false;
    } else {
      out += c;
    }
  }
  return plain ? path : "\"" + out + "\"";
}

int collect(const git_diff_delta*, const git_diff_hunk*, const git_diff_line* line, void* out) {
  std::string& text = *static_cast<std::string*>(out);
  switch (line->origin) {
    case GIT_DIFF_LINE_CONTEXT:
    case GIT_DIFF_LINE_ADDITION:
    case GIT_DIFF_LINE_DELETION:
      text += line->origin;
      break;
    case GIT_DIFF_LINE_FILE_HDR:
      return 0;  // written by ourselves
    default:
      break;
  }
  text.append(line->content, line->content_len);
  return 0;
}

Result<std::string> hunks(const std::string& before, const std::string& after, const std::string& name) {
  use_git_library();
  git_diff_options options{};
  git_diff_options_init(&options, GIT_DIFF_OPTIONS_VERSION);
  options.flags |= GIT_DIFF_FORCE_TEXT;
  git_patch* patch = nullptr;
  std::string out;
  int failed = git_patch_from_buffers(&patch, before.data(), before.size(), name.c_str(), after.data(),
                                      after.size(), name.c_str(), &options);
  if (failed == 0) failed = git_patch_print(patch, collect, &out);
  git_patch_free(patch);
  if (failed != 0) return Error{Failure::io, name, "its difference could not be computed", ""};
  return out;
}

}  // namespace

namespace {

Result<std::string> whole_file(const RelPath& path, const std::string& bytes, bool is_made) {
  std::string a = quoted("a/" + path.str()), b = quoted("b/" + path.str());
  auto body = is_made ? hunks("", bytes, path.str()) : hunks(bytes, "", path.str());
  if (!body) return body;
  std::string out = fmt::format("diff --git {} {}\n{} file mode 100644\n", a, b, is_made ? "new" : "deleted");
  if (!bytes.empty())
    out += fmt::format("--- {}\n+++ {}\n{}", is_made ? "/dev/null" : a, is_made ? b : "/dev/null", *body);
  return out;
}

}  // namespace

Result<std::string> patch_text(const Plan& plan, const TreeReader& tree) {
  std::set<RelPath> touched;
  for (const Move& move : plan.moves.files()) touched.insert(move.from);
  for (const auto& [path, edits] : plan.edits) {
    if (!edits.empty()) touched.insert(path);
  }
  std::string out;
  for (const RelPath& from : touched) {
    RelPath to = plan.moves.map_file(from);
    out += fmt::format("diff --git {} {}\n", quoted("a/" + from.str()), quoted("b/" + to.str()));
    auto edits = plan.edits.find(from);
    bool edited = edits != plan.edits.end() && !edits->second.empty();
    std::string body;
    if (edited) {
      auto bytes = tree.read(from);
      if (!bytes) return bytes.error();
      auto text = hunks(**bytes, edits->second.apply(**bytes), from.str());
      if (!text) return text;
      body = *text;
    }
    if (to != from) {
      out += fmt::format("similarity index {}%\nrename from {}\nrename to {}\n", edited ? 90 : 100,
                         quoted(from.str()), quoted(to.str()));
    }
    if (edited)
      out += fmt::format("--- {}\n+++ {}\n{}", quoted("a/" + from.str()), quoted("b/" + to.str()), body);
  }
  for (const RelPath& path : plan.changes.dropped) {
    auto bytes = tree.read(path);
    if (!bytes) return bytes.error();
    auto text = whole_file(path, **bytes, false);
    if (!text) return text;
    out += *text;
  }
  for (const auto& [path, bytes] : plan.changes.made) {
    auto text = whole_file(path, bytes, true);
    if (!text) return text;
    out += *text;
  }
  return out;
}

}  // namespace yc::report
