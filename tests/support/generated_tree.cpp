#include "support/generated_tree.h"

#include <fmt/format.h>

#include <algorithm>
#include <optional>
#include <regex>
#include <sstream>

namespace yc::test {

namespace {

const std::vector<std::string> kFolders = {"", "src", "src/net", "lib", "include", "include/tide"};
const std::vector<std::string> kRoots = {"include", "."};

std::string pick(std::mt19937& random, const std::vector<std::string>& from) {
  return from[random() % from.size()];
}

std::string joined(const std::string& folder, const std::string& name) {
  return folder.empty() || folder == "." ? name : folder + "/" + name;
}

RelPath path_of(const std::string& text) {
  return RelPath::from_normal(text);
}

// One of the spellings by which `user` can include `header`.
std::string include_of(std::mt19937& random, const RelPath& user, const RelPath& header) {
  std::vector<std::string> ways = {"\"" + relative_text(user.parent(), header) + "\"",
                                   "\"" + header.str() + "\"", "<" + header.str() + ">"};
  RelPath include = path_of("include");
  if (header.is_within(include)) {
    ways.push_back("\"" + std::string(header.below(include)) + "\"");
    ways.push_back("<" + std::string(header.below(include)) + ">");
  }
  return pick(random, ways);
}

std::string marker(const std::string& bytes) {
  std::smatch found;
  return std::regex_search(bytes, found, std::regex("marker-[0-9]+")) ? found.str() : "";
}

// A character behind a backslash stands for itself.
std::vector<std::string> words(const std::string& text) {
  std::vector<std::string> out;
  bool is_open = false;
  for (std::size_t i = 0; i < text.size(); ++i) {
    bool is_escaped = text[i] == '\\' && i + 1 < text.size();
    if (!is_escaped && std::isspace(static_cast<unsigned char>(text[i]))) {
      is_open = false;
      continue;
    }
    if (!is_open) out.emplace_back();
    is_open = true;
    out.back() += text[is_escaped ? ++i : i];
  }
  return out;
}

std::string first_group(const std::string& text, const std::string& pattern) {
  std::smatch found;
  return std::regex_search(text, found, std::regex(pattern)) ? found[1].str() : "";
}

std::optional<RelPath> find_include(const TreeReader& tree, const RelPath& user, const std::string& text,
                                    bool angled, const std::vector<std::string>& roots) {
  std::vector<RelPath> folders;
  if (!angled) folders.push_back(user.parent());
  for (const std::string& root : roots) {
    if (auto folder = RelPath::resolve({}, root)) folders.push_back(*folder);
  }
  for (const RelPath& folder : folders) {
    auto path = RelPath::resolve(folder, text);
    if (path && tree.is_file(*path)) return path;
  }
  return std::nullopt;
}

}  // namespace

GeneratedProject generate(unsigned seed, BuildKind kind) {
  std::mt19937 random(seed);
  GeneratedProject out;
  std::vector<RelPath> headers, sources;
  for (std::size_t i = 0, count = 2 + random() % 5; i < count; ++i)
    headers.push_back(path_of(joined(pick(random, kFolders), fmt::format("h{}.h", i))));
  for (std::size_t i = 0, count = 1 + random() % 5; i < count; ++i)
    sources.push_back(path_of(joined(pick(random, kFolders), fmt::format("s{}.c", i))));
  unsigned number = 0;
  auto write = [&](const RelPath& path, std::size_t most_headers) {
    std::string text = fmt::format("/* marker-{} \"h0.h\" is only mentioned here */\n", number++);
    for (std::size_t i = 0, count = random() % 4; i < count && most_headers > 0; ++i) {
      text += "#include " + include_of(random, path, headers[random() % most_headers]) + "\n";
    }
    text += "const char* text = \"#include <h0.h>\";\n";
    out.tree.write(path, std::make_shared<std::string>(text));
    out.files.push_back(path);
  };
  for (std::size_t i = 0; i < headers.size(); ++i)
    write(headers[i], i);  // a header includes only earlier ones
  for (const RelPath& source : sources) write(source, headers.size());
  std::string list;
  for (const RelPath& source : sources) list += " " + source.str();
  if (kind == BuildKind::make) {
    out.tree.write("Makefile", "# builds the station\nCFLAGS = -Iinclude -I.\nSRC =" + list +
                                   "\nstation: $(SRC)\n\t$(CC) $(CFLAGS) -o $@ $(SRC)\n");
  } else {
    out.tree.write("CMakeLists.txt", "project(station C)\nadd_executable(station" + list +
                                         ")\ntarget_include_directories(station PRIVATE include .)\n");
  }
  return out;
}

std::vector<Move> random_moves(const GeneratedProject& project, std::mt19937& random) {
  const std::vector<std::string> places = {"core", "src", "lib/deep/er", "include/tide", "api", ""};
  auto file = [&] { return project.files[random() % project.files.size()]; };
  std::vector<Move> out;
  switch (random() % 5) {
    case 0: {
      RelPath from = file();
      out.push_back({from, path_of(joined(pick(random, places), std::string(from.name())))});
      break;
    }
    case 1: {
      RelPath from = file();
      out.push_back({from, from.parent() / ("renamed_" + std::string(from.name()))});
      break;
    }
    case 2: {
      RelPath folder = file().parent();
      if (!folder.is_root())
        out.push_back({folder, path_of(pick(random, {"moved", "nested/in", "include2"}))});
      break;
    }
    case 3: {
      std::string to = pick(random, places);
      std::set<RelPath> chosen;
      for (int i = 0; i < 4; ++i) chosen.insert(file());
      for (const RelPath& from : chosen) out.push_back({from, path_of(joined(to, std::string(from.name())))});
      break;
    }
    default: {
      RelPath a = file(), b = file();
      if (a != b && a.extension() == b.extension()) out = {{a, b}, {b, a}};
      break;
    }
  }
  return out;
}

Meaning meaning(const TreeReader& tree, BuildKind kind) {
  Meaning out;
  std::vector<std::string> roots, sources;
  if (kind == BuildKind::make) {
    std::string script = **tree.read(path_of("Makefile"));
    for (const std::string& word : words(first_group(script, "CFLAGS =([^\n]*)")))
      roots.push_back(word.substr(2));
    sources = words(first_group(script, "SRC =([^\n]*)"));
  } else {
    std::string script = **tree.read(path_of("CMakeLists.txt"));
    sources = words(first_group(script, "add_executable\\(station([^)]*)\\)"));
    roots = words(first_group(script, "PRIVATE([^)]*)\\)"));
  }
  std::set<RelPath> done;
  std::vector<RelPath> queue;
  for (const std::string& source : sources) {
    auto path = RelPath::resolve({}, source);
    bool there = path && tree.is_file(*path);
    out["script"].insert(there ? marker(**tree.read(*path)) : "nothing");
    if (there) queue.push_back(*path);
  }
  static const std::regex include("^#include ([\"<])([^\">]*)[\">]");
  while (!queue.empty()) {
    RelPath path = queue.back();
    queue.pop_back();
    if (!done.insert(path).second) continue;
    std::istringstream lines(**tree.read(path));
    std::string own = marker(lines.str());
    for (std::string line; std::getline(lines, line);) {
      std::smatch found;
      if (!std::regex_search(line, found, include)) continue;
      auto target = find_include(tree, path, found[2].str(), found[1].str() == "<", roots);
      out[own].insert(target ? marker(**tree.read(*target)) : "nothing");
      if (target) queue.push_back(*target);
    }
  }
  return out;
}

std::map<std::string, std::string> contents(const TreeReader& tree) {
  std::map<std::string, std::string> out;
  for (const RelPath& path : tree.files()) out[path.str()] = **tree.read(path);
  return out;
}

MemoryTree carried_out(const TreeReader& tree, const Plan& plan) {
  OverlayTree overlay(tree, plan.moves);
  overlay.set_edits(&plan.edits);
  MemoryTree out;
  for (const RelPath& path : overlay.files()) out.write(path, *overlay.read(path));
  return out;
}

}  // namespace yc::test
