// What is read from a Meson script: a table of snippets and the references that they hold.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "formats/format.h"
#include "formats/meson/meson_syntax.h"
#include "support/dump.h"

namespace yc::test {
namespace {

using ::testing::Contains;
using ::testing::ElementsAre;
using ::testing::HasSubstr;
using ::testing::IsEmpty;
using ::testing::IsSupersetOf;
using ::testing::Not;

ReferenceGraph graph_of(const std::string& script) {
  return read(tree_of({{"meson.build", script},
                       {"main.c", ""},
                       {"tide.c", ""},
                       {"src/a.c", ""},
                       {"src/b.c", ""},
                       {"inc/tide.h", ""},
                       {"sub/meson.build", "subs = files('x.c')\nhere = meson.current_source_dir()\n"},
                       {"sub/x.c", ""},
                       {"vapi/gauge.vapi", ""},
                       {"data/level.csv", ""},
                       {"tools/gen.py", ""},
                       {"subprojects/pole/meson.build",
                        "project('pole')\npole_dep = declare_dependency(include_directories: 'include')\n"},
                       {"subprojects/pole/include/pole.h", ""}}));
}

TEST(MesonReading, sources_of_targets) {
  const std::vector<std::pair<std::string, std::vector<std::string>>> cases = {
      {"executable('p', 'main.c')", {"main.c -> main.c"}},
      {"executable('p', ['main.c', ['tide.c']])", {"main.c -> main.c", "tide.c -> tide.c"}},
      {"executable('p', sources: ['main.c'])", {"main.c -> main.c"}},
      {"s = ['main.c']\ns += 'tide.c'\nlibrary('p', s)", {"main.c -> main.c", "tide.c -> tide.c"}},
      {"s = []\ns += ['main.c', 'tide.c']\nlibrary('p', s)", {"main.c -> main.c", "tide.c -> tide.c"}},
      {"static_library('p', ['main.c'] + ['tide.c'])", {"main.c -> main.c", "tide.c -> tide.c"}},
      {"d = {'linux': 'main.c', 'sea': 'tide.c'}\nlibrary('p', d['sea'])", {"tide.c -> tide.c"}},
      {"library('p', 'src' / 'a.c')", {"src/a.c -> src/a.c"}},
      {"library('p', join_paths('src', 'a.c'))", {"src/a.c -> src/a.c"}},
      {"top = 'src'\nlibrary('p', top / 'a.c', top / 'b.c')", {"src/a.c -> src/a.c", "src/b.c -> src/b.c"}},
      {"library('p', meson.project_source_root() / 'src/a.c')", {"@/src/a.c -> src/a.c"}},
      {"n = 'a'\nlibrary('p', 'src/@0@.c'.format(n))", {"src/a.c -> src/a.c"}},
      {"n = 'a'\nlibrary('p', f'src/@n@.c')", {"src/a.c -> src/a.c"}},
      {"library('p', 'main.c tide.c'.split())", {"main.c -> main.c", "tide.c -> tide.c"}},
      {"foreach n : ['a', 'b']\n  library(n, 'src/' + n + '.c')\nendforeach",
       {"src/a.c -> src/a.c", "src/b.c -> src/b.c"}},
      {"foreach n, s : {'p': 'main.c', 'q': ['tide.c']}\n  library(n, s)\nendforeach",
       {"main.c -> main.c", "tide.c -> tide.c"}},
      {"foreach t : [['p', 'main.c'], ['q', 'tide.c']]\n  library(t[0], t[1])\nendforeach",
       {"main.c -> main.c", "tide.c -> tide.c"}},
      {"foreach n : ['a', 'b']\n  if n == 'b'\n    continue\n  endif\n  library(n, 'src/' + n + "
       "'.c')\nendforeach",
       {"src/a.c -> src/a.c"}},
      {"if x\n  s = 'main.c'\nelif y\n  s = 'tide.c'\nelse\n  s = 'src/a.c'\nendif\nlibrary('p', s)",
       {"main.c -> main.c", "src/a.c -> src/a.c", "tide.c -> tide.c"}},
      {"library('p', get_option('x') ? 'main.c' : 'tide.c')", {"main.c -> main.c", "tide.c -> tide.c"}},
      {"k = {'sources': files('main.c')}\nlibrary('p', kwargs: k)", {"main.c -> main.c"}},
      {"subdir('sub')\nlibrary('p', subs)", {"x.c -> sub/x.c"}},
      {"set_variable('s_' + 'p', files('main.c'))\nlibrary('p', get_variable('s_p'))", {"main.c -> main.c"}},
      {"library('p', 'main.c') # 'tide.c'", {"main.c -> main.c"}},
      {"library('p',\n  'main.c', # first\n  'tide.c',\n)", {"main.c -> main.c", "tide.c -> tide.c"}},
      {"a = 1 \\\n  + 2\nlibrary('p', 'main.c')", {"main.c -> main.c"}},
      {"custom_target('g', input: ['data/level.csv'], output: 'l.c', command: ['cp', '@INPUT@', '@OUTPUT@'])",
       {"data/level.csv -> data/level.csv"}},
      {"g = generator(prog, output: 'x.c')\nlibrary('p', g.process('main.c', 'tide.c'))",
       {"main.c -> main.c", "tide.c -> tide.c"}},
      {"fs = import('fs')\nlibrary('p', 'src' / fs.replace_suffix(fs.name('x/a.h'), '.c'))",
       {"src/a.c -> src/a.c"}},
      {"d = declare_dependency(sources: 'tide.c')\nexecutable('p', 'main.c', dependencies: d)",
       {"main.c -> main.c", "tide.c -> tide.c"}},
      {"valac.find_library('gauge', dirs: meson.current_source_dir() / 'vapi')",
       {"gauge.vapi -> vapi/gauge.vapi"}},
  };
  for (const auto& [script, expected] : cases)
    EXPECT_EQ(dump(graph_of(script), Role::source), expected) << script;
}

TEST(MesonReading, other_places_that_name_files) {
  const std::vector<std::tuple<std::string, Role, std::string>> cases = {
      {"install_data('data/level.csv')", Role::listed, "data/level.csv -> data/level.csv"},
      {"install_headers('inc/tide.h', subdir: 'tide')", Role::listed, "inc/tide.h -> inc/tide.h"},
      {"install_subdir('data', install_dir: 'x')", Role::listed, "data -> data"},
      {"find_program('tools/gen.py')", Role::argument, "tools/gen.py -> tools/gen.py"},
      {"meson.add_install_script('tools/gen.py', 'x')", Role::argument, "tools/gen.py -> tools/gen.py"},
      {"custom_target('g', output: 'x', command: [py, files('tools/gen.py'), '@OUTPUT@'])", Role::argument,
       "tools/gen.py -> tools/gen.py"},
      {"custom_target('g', output: 'x', command: ['sh', '@SOURCE_ROOT@/tools/gen.py'])", Role::argument,
       "@/tools/gen.py -> tools/gen.py ?"},
      {"run_command('tools/gen.py', 'data/level.csv')", Role::argument, "data/level.csv -> data/level.csv ?"},
      {"configure_file(input: 'data/level.csv', output: 'x', copy: true)", Role::source,
       "data/level.csv -> data/level.csv"},
      {"test('t', e, args: [meson.current_source_dir() / 'data' / 'level.csv'])", Role::argument,
       "@/data/level.csv -> data/level.csv ?"},
      {"test('t', e, workdir: meson.current_source_dir() / 'data', args: ['level.csv'])", Role::argument,
       "level.csv -> data/level.csv ?"},
      {"conf.set_quoted('D', meson.current_source_dir() / 'data')", Role::argument, "@/data -> data ?"},
      {"executable('p', 'main.c', vala_args: ['--vapidir', meson.current_source_dir() / 'vapi'])",
       Role::argument, "@/vapi -> vapi ?"},
      {"executable('p', 'main.c', link_args: '-Wl,--version-script=' + meson.current_source_dir() / "
       "'data/level.csv')",
       Role::argument, "@/data/level.csv -> data/level.csv ?"},
      {"executable('p', 'main.c', c_args: '-I../inc')", Role::argument, "../inc -> inc ?"},
      {"fs = import('fs')\nif fs.exists('data/level.csv')\nendif", Role::argument,
       "data/level.csv -> data/level.csv ?"},
      {"subproject('pole')", Role::subfolder, "pole -> subprojects/pole"},
      {"subdir('sub')", Role::subfolder, "sub/meson.build -> sub/meson.build"},
      {"include_directories('inc')", Role::search_root, "inc -> inc"},
      {"gnome = import('gnome')\ngnome.compile_resources('r', 'data/level.csv', source_dir: 'data')",
       Role::search_root, "data -> data"},
      {"a_new_function('data/level.csv', 'main')", Role::argument, "data/level.csv -> data/level.csv ?"}};
  for (const auto& [script, role, expected] : cases)
    EXPECT_THAT(dump(graph_of(script), role), Contains(expected)) << script;
}

TEST(MesonReading, search_roots_of_units) {
  EXPECT_THAT(
      compiled(graph_of("i = include_directories('inc')\nexecutable('p', 'main.c', include_directories: i)")),
      ElementsAre("main.c [][][inc][inc]"))
      << "own folder first; each is also looked up in the build tree";
}

TEST(MesonReading, what_dependencies_bring) {
  std::vector<std::string> units = compiled(
      graph_of("d = declare_dependency(include_directories: 'inc')\ne = declare_dependency(dependencies: d)\n"
               "executable('p', 'main.c', dependencies: [e], implicit_include_directories: false)\n"
               "executable('q', 'tide.c', dependencies: subproject('pole').get_variable('pole_dep'))\n"));
  EXPECT_THAT(units, Contains("main.c [inc][inc]"));
  EXPECT_THAT(units, Contains(HasSubstr("subprojects/pole/include")));
}

TEST(MesonReading, what_names_nothing_is_left_alone) {
  for (const char* script :
       {"message('main.c')", "x = 'main.c'", "error('see src/a.c')", "option = get_option('main.c')",
        "executable('main.c')", "s = '''\nmain.c\n'''"}) {
    ReferenceGraph graph = graph_of(script);
    EXPECT_THAT(dump(graph, Role::source), IsEmpty()) << script;
    EXPECT_THAT(dump(graph, Role::argument), IsEmpty()) << script;
    EXPECT_THAT(dump(graph, Role::listed), ElementsAre("x.c -> sub/x.c")) << script;
  }
}

TEST(MesonReading, unknown_parts_are_holes) {
  EXPECT_THAT(holes(graph_of("library('p', 'src/' + get_option('x') + '.c')")),
              ElementsAre(HasSubstr("src/")));
  EXPECT_THAT(holes(graph_of("n = run_command('x').stdout().strip()\nlibrary('p', n)")), IsEmpty());
}

TEST(MesonReading, a_loop_over_the_unknown_is_read_once) {
  EXPECT_EQ(
      dump(graph_of("foreach x : run_command('l').stdout().split()\n  library(x, 'main.c')\nendforeach"),
           Role::source),
      std::vector<std::string>{"main.c -> main.c"});
}

TEST(MesonReading, garbled_scripts_are_told_and_survived) {
  const std::vector<std::string> scripts = {"executable('p', 'main.c'",
                                            "if x\nlibrary('p', 'main.c')\n",
                                            "foreach : x\nendforeach",
                                            "x = = 3\nlibrary('p', 'main.c')",
                                            "endif",
                                            "x = 'no end",
                                            "x = '''no end",
                                            "a.b",
                                            "foo(a: )",
                                            "{1 2}",
                                            std::string(5000, '('),
                                            "x = " + std::string(5000, '['),
                                            "x = not " + std::string(5000, '-') + "1",
                                            "$&;!"};
  for (const std::string& script : scripts)
    EXPECT_THAT(notices(graph_of(script)), Not(IsEmpty())) << script.substr(0, 60);
}

TEST(MesonReading, what_comes_after_a_garbled_line_is_read) {
  EXPECT_EQ(dump(graph_of("x = = 3\nlibrary('p', 'main.c')"), Role::source),
            std::vector<std::string>{"main.c -> main.c"});
}

TEST(MesonReading, runaway_values_are_given_up) {
  std::string script = "x = ['main.c']\n";
  for (int i = 0; i < 40; ++i) script += "x += x\n";
  EXPECT_THAT(notices(graph_of(script + "library('p', x)")), Contains("runaway-script meson.build"));
}

TEST(MesonReading, a_folder_is_entered_once) {
  EXPECT_EQ(dump(graph_of("subdir('sub')\nsubdir('sub')\nlibrary('p', subs)"), Role::source),
            std::vector<std::string>{"x.c -> sub/x.c"});
}

// Each value that sides of conditionals can give reaches whoever reads it.
TEST(MesonReading, values_of_all_sides_are_seen) {
  const std::vector<std::pair<std::string, std::vector<std::string>>> cases = {
      // What a side sets reaches what stands behind it, and not what does not read it.
      {"s = ['main.c']\nif a\n  s += 'tide.c'\nendif\nif b\n  s += 'src/a.c'\nendif\nlibrary('p', s)",
       {"main.c -> main.c", "src/a.c -> src/a.c", "tide.c -> tide.c"}},
      // Through a function that sets a variable, and one that reads it by its name.
      {"set_variable('f', 'main.c')\nif a\n  set_variable('f', 'tide.c')\nendif\n"
       "library('p', get_variable('f'))",
       {"main.c -> main.c", "tide.c -> tide.c"}},
      // In loops, also over what a side of a conditional adds to.
      {"n = ['a']\nif x\n  n += 'b'\nendif\nforeach i : n\n  f = 'src/' + i + '.c'\n  library(i, f)\n"
       "endforeach\nexecutable('q', f)",
       {"src/a.c -> src/a.c", "src/b.c -> src/b.c"}},
      {"foreach t : [['p', 'main.c'], ['q', 'tide.c', 'src/a.c']]\n"
       "  more = t.length() > 2 ? t[2] : t[1]\n  library(t[0], more)\nendforeach",
       {"main.c -> main.c", "src/a.c -> src/a.c"}},
      // Arguments for all targets.
      {"if a\n  f = 'main.c'\nelse\n  f = 'tide.c'\nendif\nforeach i : [1]\n  g = "
       "f\nendforeach\nlibrary('p', g)",
       {"main.c -> main.c", "tide.c -> tide.c"}}};
  for (const auto& [script, wanted] : cases)
    EXPECT_EQ(dump(graph_of("project('t')\n" + script), Role::source), wanted) << script;
}

TEST(MesonReading, sides_of_several_conditionals_go_together_in_all_ways) {
  EXPECT_THAT(dump(graph_of("project('t')\nif a\n  d = 'src'\nelse\n  d = 'sub'\nendif\n"
                            "if b\n  n = 'a.c'\nelse\n  n = 'x.c'\nendif\nlibrary('p', d / n)"),
                   Role::source),
              ElementsAre("src/a.c -> src/a.c", "sub/x.c -> sub/x.c"));
  EXPECT_THAT(dump(graph_of("project('t')\nd = a ? 'sub' : 'src'\nn = b ? 'b.c' : 'a.c'\n"
                            "library('p', d / n)"),
                   Role::source),
              ElementsAre("src/a.c -> src/a.c", "src/b.c -> src/b.c"));
}

TEST(MesonReading, dictionaries_and_texts_grow_on_sides) {
  std::string script = "project('t')\nt = {}\nw = 'main.c'\n";
  for (std::string name : {"a", "b"})
    script += "if c_" + name + "\n  t += {'" + name + "': 'src/" + name + ".c'}\nendif\n";
  script +=
      "if d\n  w += ' tide.c'\nendif\nforeach n, s : t\n  library(n, s)\nendforeach\nlibrary('w', "
      "w.split())\n";
  EXPECT_THAT(dump(graph_of(script), Role::source), ElementsAre("main.c -> main.c", "src/a.c -> src/a.c",
                                                                "src/b.c -> src/b.c", "tide.c -> tide.c"));
}

// A side that leaves a loop or script does not bring its values to what follows there, but to what follows
// that.
TEST(MesonReading, sides_that_leave_are_left_out_of_what_follows) {
  const std::vector<std::pair<std::string, std::vector<std::string>>> cases = {
      {"f = 'main.c'\nif a\n  f = 'tide.c'\n  subdir_done()\nendif\nlibrary('p', f)", {"main.c -> main.c"}},
      {"f = 'main.c'\nforeach i : [1]\n  if a\n    f = 'tide.c'\n    break\n  endif\n  library('p', f)\n"
       "endforeach\n",
       {"main.c -> main.c"}},
      {"f = 'main.c'\nforeach i : [1]\n  if a\n    f = 'tide.c'\n    break\n  endif\nendforeach\n"
       "library('p', f)",
       {"main.c -> main.c", "tide.c -> tide.c"}},
      {"f = 'main.c'\nforeach i : [1, 2]\n  if a\n    f = 'tide.c'\n    continue\n  endif\n"
       "  library('p', f)\nendforeach\n",
       {"main.c -> main.c", "tide.c -> tide.c"}},
      {"if a\n  subdir_done()\nelse\n  subdir_done()\nendif\nlibrary('p', 'main.c')", {}}};
  for (const auto& [script, wanted] : cases)
    EXPECT_EQ(dump(graph_of("project('t')\n" + script), Role::source), wanted) << script;
}

TEST(MesonReading, sides_that_exclude_each_other_may_enter_one_folder) {
  EXPECT_THAT(dump(graph_of("project('t')\nif a\n  subdir('sub')\nelse\n  subdir('sub')\nendif\n"
                            "library('p', subs)"),
                   Role::source),
              ElementsAre("x.c -> sub/x.c"));
  EXPECT_THAT(
      dump(graph_of("project('t')\nsubdir('sub', if_found: a ? b : c)\nlibrary('p', subs)"), Role::source),
      ElementsAre("x.c -> sub/x.c"));
}

// Fewer values than a variable can have are kept; whoever uses it is told of, and nobody else.
TEST(MesonReading, values_that_are_not_kept_are_told) {
  std::string script = "project('t')\nf = 'main.c'\n";
  for (int i = 0; i < 20; ++i)
    script +=
        "if a" + std::to_string(i) + "\n  f = files('src/a.c', 'd" + std::to_string(i) + ".c')\nendif\n";
  EXPECT_THAT(notices(graph_of(script)), Not(Contains(HasSubstr("many-conditions"))));
  EXPECT_THAT(notices(graph_of(script + "library('p', f)")), Contains("many-conditions meson.build"));
  EXPECT_THAT(notices(graph_of(script + "f = 'main.c'\nlibrary('p', f)")),
              Not(Contains(HasSubstr("many-conditions"))));
}

TEST(MesonReading, arguments_for_all_targets_hold_on_their_side_of_a_conditional) {
  ReferenceGraph graph = graph_of(
      "project('t')\nif a\n  add_project_arguments('-Iinc', language: 'c')\nendif\nlibrary('p', 'main.c')\n");
  std::set<bool> has_root;
  for (const Compilation& one : graph.compilations) {
    const Context& context = graph.contexts[static_cast<std::size_t>(one.context)];
    has_root.insert(std::any_of(context.roots.begin(), context.roots.end(), [](const SearchRoot& root) {
      return root.place.path == RelPath::from_normal("inc");
    }));
  }
  EXPECT_EQ(has_root, (std::set<bool>{false, true}));
}

// However many conditionals there are.
TEST(MesonReading, a_project_is_run_once) {
  std::string script = "project('t')\n";
  for (int i = 0; i < 20; ++i)
    script += "if a" + std::to_string(i) + "\n  x = b" + std::to_string(i) + "\nendif\n";
  auto timings = std::make_shared<Timings>();
  FactsCache cache(timings);
  MemoryTree tree = tree_of({{"meson.build", script}});
  read_graph(tree, cache);
  for (const Timings::Line& line : timings->lines()) {
    if (line.part != "meson") continue;
    EXPECT_EQ(line.counts.at("runs of scripts"), 1U);
  }
}

TEST(MesonSyntax, spans_of_statements_and_arguments) {
  std::string script = "a = foo('x', y: ['z'], # why\n  )\nif a\n  b += 1\nendif\n";
  meson::Syntax syntax = meson::parse(script);
  ASSERT_EQ(syntax.statements.size(), 2U);
  EXPECT_THAT(syntax.problems, IsEmpty());
  const meson::Statement& first = syntax.statements[0];
  EXPECT_EQ(script.substr(first.span.begin, first.span.size()), "a = foo('x', y: ['z'], # why\n  )");
  ASSERT_EQ(first.value->arguments.size(), 2U);
  EXPECT_EQ(first.value->arguments[1].keyword, "y");
  Span literal = first.value->arguments[1].value->arguments[0].value->content;
  EXPECT_EQ(script.substr(literal.begin, literal.size()), "z");
  meson::Enclosing place = meson::enclosing(syntax, literal);
  EXPECT_EQ(place.owner->kind, meson::Node::Kind::array);
}

}  // namespace
}  // namespace yc::test
