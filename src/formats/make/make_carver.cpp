#include "formats/make/make_carver.h"

#include <algorithm>

#include "formats/make/make_syntax.h"

namespace yc::make {

namespace {

constexpr const char* kGoal = "!goal";

// Variables in a text.
void note_uses(const std::string& text, std::set<std::string>& uses) {
  for (std::size_t at = 0; (at = text.find('$', at)) != std::string::npos;) {
    std::size_t end = reference_end(text, at);
    std::string inner = text.substr(at, end - at);
    std::string name;
    for (char c : inner) {
      bool in_name = std::isalnum(static_cast<unsigned char>(c)) || c == '_' || c == '-' || c == '.';
      if (in_name) name += c;
      if (!in_name && !name.empty()) uses.insert(std::exchange(name, {}));
    }
    if (!name.empty()) uses.insert(name);
    at = std::max(end, at + 1);
  }
}

void note(const Statement& statement, ScriptPart& part) {
  std::string name = statement.name.text(), value = statement.value.text();
  switch (statement.kind) {
    case Statement::Kind::assign:
      part.sets.insert(name);
      // Built-in rules use them for everything.
      if (name.ends_with("FLAGS") || name.ends_with("LIBS")) part.is_fixed = true;
      if (statement.op == "+=") part.uses.insert(name);
      note_uses(value, statement.op == "=" || statement.op == "?=" ? part.later_uses : part.uses);
      break;
    case Statement::Kind::rule: {
      note_uses(name, part.uses);
      note_uses(value, part.uses);
      // The first target that is no special one is what a plain "make" makes.
      bool is_goal = name.empty() || name.front() != '.';
      if (is_goal) part.sets.insert(kGoal), part.uses.insert(kGoal);
      for (std::size_t at = 0; at < name.size();) {
        std::size_t end = std::min(name.find_first_of(" \t", at), name.size());
        if (end > at) part.sets.insert("target:" + name.substr(at, end - at));
        at = end + 1;
      }
      break;
    }
    case Statement::Kind::conditional:
      for (const Branch& branch : statement.branches) {
        note_uses(branch.condition.text(), part.uses);
        for (const Statement& inner : branch.block) note(inner, part);
      }
      break;
    case Statement::Kind::recipe:
      note_uses(value, part.later_uses);
      break;
    case Statement::Kind::include:
    case Statement::Kind::vpath:
    case Statement::Kind::exported:
    case Statement::Kind::bare:
      note_uses(name, part.uses);
      part.is_fixed = true;
      if (statement.kind == Statement::Kind::include && name.find_first_of(" $*") == std::string::npos) {
        std::size_t cut = name.rfind('/');
        part.enters = cut == std::string::npos ? "." : name.substr(0, cut);
      }
      break;
  }
}

class MakeCarver : public Carver {
 public:
  bool is_script(const RelPath& path) const override {
    return path.name() == "Makefile" || path.name() == "GNUmakefile" || path.name() == "makefile" ||
           path.name() == "Makefile.am";
  }
  // As the fragments are called that it includes already.
  std::string script_name(std::string_view parent) const override {
    for (std::size_t at = 0; (at = parent.find("include ", at)) != std::string_view::npos; ++at) {
      if (at > 0 && parent[at - 1] != '\n' && parent[at - 1] != '-') continue;
      std::size_t begin = at + 8, end = std::min(parent.find_first_of(" \t\r\n", begin), parent.size());
      std::string_view path = parent.substr(begin, end - begin);
      std::size_t cut = path.rfind('/');
      if (cut == std::string_view::npos || path.find_first_of("$*?", cut) != std::string_view::npos) continue;
      return std::string(path.substr(cut + 1));
    }
    return "rules.mk";
  }
  bool is_relative() const override { return false; }
  bool shares_names() const override { return true; }

  // The parser tells where statements begin; each goes on to the next one.
  std::vector<ScriptPart> parts(std::string_view bytes) const override {
    std::vector<ScriptPart> out;
    Syntax syntax = parse(bytes, kNoFile);
    std::vector<std::uint32_t> begins;
    for (const Statement& statement : syntax.block) {
      if (statement.kind == Statement::Kind::recipe && !out.empty()) {
        note(statement, out.back());
        continue;
      }
      ScriptPart part;
      note(statement, part);
      begins.push_back(statement.site.offset);
      out.push_back(std::move(part));
    }
    for (std::size_t i = 0; i < out.size(); ++i) {
      std::uint32_t next = i + 1 < out.size() ? lines_of(bytes, {begins[i + 1], begins[i + 1]}).begin
                                              : static_cast<std::uint32_t>(bytes.size());
      std::uint32_t end = next;
      while (end > begins[i] && std::isspace(static_cast<unsigned char>(bytes[end - 1]))) --end;
      out[i].sentence = {begins[i], std::max(end, begins[i])};
      out[i].span = lines_of(bytes, out[i].sentence);
    }
    return out;
  }

  std::string call(const std::string& folder, const std::string& name) const override {
    return "include " + folder + "/" + name + "\n";
  }

  bool is_own_folder(std::string_view) const override { return false; }

  std::vector<Edit> keep_build_folder(const RelPath&, std::string_view, const Span&, const std::string&,
                                      bool) const override {
    return {};
  }

  std::optional<ScriptSplit> split(const RelPath&, std::string_view, const ScriptPart&,
                                   const std::vector<Span>&, const std::vector<std::string>&,
                                   const std::string&, const std::string&) const override {
    return std::nullopt;
  }

  std::string keeps_apart(std::string_view child, std::string_view) const override {
    bool asks = child.find("MAKEFILE_LIST") != std::string_view::npos;
    return asks ? "it asks where it stands (MAKEFILE_LIST)" : "";
  }
};

}  // namespace

const Carver& carver(const Format&) {
  static const MakeCarver one;
  return one;
}

}  // namespace yc::make
