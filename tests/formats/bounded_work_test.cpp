// Inputs that were once read without bounds: nested, doubling, recursive, endless. Each must be read to an
// end, within the time that a test may take, and leave no plan that claims more than was read.
#include <gtest/gtest.h>

#include <ostream>

#include "plan/plan.h"
#include "support/dump.h"
#include "support/snippets.h"

namespace yc::test {
namespace {

#ifdef __SANITIZE_ADDRESS__
constexpr std::size_t kSize = 10'000;
#elif defined(__has_feature)
#if __has_feature(address_sanitizer)
constexpr std::size_t kSize = 10'000;
#else
constexpr std::size_t kSize = 100'000;
#endif
#else
constexpr std::size_t kSize = 100'000;
#endif

std::string repeated(const std::string& text) {
  std::string out;
  while (out.size() < kSize) out += text;
  return out;
}

std::string nested(const std::string& open, const std::string& close) {
  std::string out, end;
  while (out.size() + end.size() < kSize) out += open, end += close;
  return out + end;
}

std::string numbered(int count, const std::string& before, const std::string& between,
                     const std::string& after) {
  std::string out;
  for (int i = 0; i < count; ++i) out += before + std::to_string(i + 1) + between + std::to_string(i) + after;
  return out;
}

struct Hostile {
  const char* name;
  std::string path, text;
};

std::vector<Hostile> hostile_inputs() {
  std::string loops = "set(x src/a.c)\n", meson_loops = "x = 'src/a.c'\n";
  for (int i = 0; i < 12; ++i) {
    loops = "foreach(a" + std::to_string(i) + " 1 2 3 4 5 6 7 8 9 10)\n" + loops + "endforeach()\n";
    meson_loops =
        "foreach a" + std::to_string(i) + " : [1,2,3,4,5,6,7,8,9,10]\n" + meson_loops + "endforeach\n";
  }
  return {
      {"make_doubling", "Makefile",
       "a0 = src/a.c\n" + numbered(60, "a", " = $(a", ")$(a0)$(a0)\n") + "x: $(a60)\n"},
      {"make_includes_that_fan_out", "Makefile", repeated("include Makefile\ninclude *.mk\n")},
      {"make_recursion", "Makefile", "f = $(call f,$(1)a)$(call f,$(1)b)\nx: $(call f,b)\n"},
      {"make_rules_made_while_rules_are_walked", "Makefile",
       "define r\nx: ; $$(eval y: src/a.c)$$(eval $(r))\nendef\n$(eval $(r))\nz: $(eval w: "
       "src/b.c)src/a.c\n\t$(eval "
       "q: src/a.c)cc -c src/a.c\n"},
      {"make_many_wildcards", "Makefile", "x: " + repeated("$(wildcard src/*.c) ") + "\n"},
      {"make_many_conditionals", "Makefile",
       repeated("ifdef A\nS = src/a.c\nelse\nS = src/b.c\nendif\n") + "x: $(S)\n"},
      {"cmake_nested_loops", "CMakeLists.txt", loops},
      {"cmake_recursion", "CMakeLists.txt", "function(f x)\nf(${x}a)\nf(${x}b)\nendfunction()\nf(src/a.c)\n"},
      {"cmake_doubling_lists", "CMakeLists.txt",
       "set(a0 \"src/a.c;\")\n" + numbered(60, "set(a", " ${a", "}${a0}${a0})\n") +
           "add_library(x ${a60})\n"},
      {"cmake_expression_that_tries_for_ever", "CMakeLists.txt",
       "string(REGEX REPLACE \"(a+)+$\" \"x\" y \"" + std::string(40, 'a') + "b\")\n"},
      {"cmake_expression_that_nests", "CMakeLists.txt",
       "string(REGEX REPLACE \"" + repeated("(") + "\" x y z)\n"},
      {"cmake_names_in_names", "CMakeLists.txt", "set(x " + nested("${", "}") + ")\n"},
      {"cmake_nested_conditionals", "CMakeLists.txt", nested("if(A)\n", "endif()\n")},
      {"meson_nested_loops", "meson.build", "project('p', 'c')\n" + meson_loops},
      {"meson_chain", "meson.build", "project('p', 'c')\nx = 1" + repeated(" * 2") + "\n"},
      {"meson_sum_past_the_last_number", "meson.build",
       "project('p', 'c')\nx = 9999 + 9223372036854775807\n"},
      {"meson_many_conditionals", "meson.build",
       "project('p', 'c')\n" + repeated("if a\ns = 'src/a.c'\nelse\ns = 'src/b.c'\nendif\n") +
           "executable('x', s)\n"},
      {"project_doubling", "q.csproj",
       "<Project Sdk=\"Microsoft.NET.Sdk\"><PropertyGroup><A0>src\\</A0>" +
           numbered(60, "<A", ">$(A", ")$(A0)</A0>") + "</PropertyGroup></Project>"},
      {"project_imports", "q.csproj",
       "<Project>" + repeated("<Import Project=\"**/*.csproj\"/>") + "</Project>"},
      {"yaml_flow", "docker-compose.yml", nested("[", "]")},
      {"yaml_flow_left_open", ".github/workflows/w.yml", repeated("{a: ")},
      {"markdown_links_left_open", "a.md", repeated("[a](")},
      {"toml_dotted_key", "pyproject.toml", repeated("a.") + "b = 1\n"},
      {"toml_dotted_table", "yellow-compass.toml", "[" + repeated("a.") + "b]\n"},
      {"cmake_growing_list", "CMakeLists.txt",
       "set(N " + repeated("a ") +
           ")\nforeach(x ${N})\nlist(APPEND S lib/${x}.c)\nlist(REMOVE_ITEM S q)\nendforeach()\n"},
      {"configure_nested_lists", "sub/configure.ac", repeated("AC_CONFIG_FILES([")},
      {"shell_doubling", "run.sh", numbered(60, "A", "=$A", "$A0$A0\n") + "cat $A60\n"},
      {"shell_many_paths", "run.sh", "cat " + repeated("src/a.c ") + "\n"},
      {"shell_ticks", "run.sh", repeated("`")},
      {"module_quotes", "web/m.ts", repeated("\"")},
      {"batch_blanks", "run.bat", repeated(" ")},
      {"linker_nested", "part.ld", repeated("INPUT(")},
      {"module_sum", "web/m.ts", "x = " + repeated("'a' + ") + "b\n"},
      {"search_roots", "compile_commands.json",
       "[{\"directory\": \"/t\", \"command\": \"cc " + repeated("-Id ") +
           " -c src/a.c\", \"file\": \"/t/src/a.c\"}]"},
      {"make_rules_in_a_circle", "Makefile", "%h: ./s ; x\ns: b.ce.\nb.ce.:\n"},
      {"json_nested", "web/package.json", nested("[", "]")},
      {"xml_nested", "a.xml", nested("<a>", "</a>")},
  };
}

// What a failure prints.
void PrintTo(const Hostile& input, std::ostream* out) {
  *out << input.name;
}

class BoundedWork : public ::testing::TestWithParam<Hostile> {};

TEST_P(BoundedWork, is_read_to_an_end) {
  std::vector<Snippet> files = companions();
  std::erase_if(files, [](const Snippet& file) { return file.first == GetParam().path; });
  files.emplace_back(GetParam().path, GetParam().text);
  MemoryTree tree = tree_of(files);
  auto at = [](const char* text) { return RelPath::from_normal(text); };
  auto moves = MoveSet::make(tree, {{at("src/a.c"), at("core/a.c")}, {at("data"), at("tables")}});
  ASSERT_TRUE(moves);
  Plan plan = make_plan(tree, std::move(*moves), {});
  EXPECT_TRUE(plan.verified || !plan.blockers.empty());
}

INSTANTIATE_TEST_SUITE_P(Inputs, BoundedWork, ::testing::ValuesIn(hostile_inputs()),
                         [](const auto& param) { return std::string(param.param.name); });

}  // namespace
}  // namespace yc::test
