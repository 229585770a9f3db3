// Shapes of resource bundles: what a program asks for by name must go on being there when the files move.
#include <gtest/gtest.h>

#include "support/workspace.h"

namespace yc::test {
namespace {

const char* const kMainC = R"(#include <gio/gio.h>
#include <stdio.h>
static void show(const char *name) {
  GBytes *bytes = g_resources_lookup_data(name, G_RESOURCE_LOOKUP_FLAGS_NONE, NULL);
  printf("%s: %s", name, bytes ? (const char *)g_bytes_get_data(bytes, NULL) : "missing\n");
}
int main(void) {
  show("/org/saltmarsh/viewer/ui/window.ui");
  show("/org/saltmarsh/viewer/tide.svg");
  return 0;
}
)";
const std::string kRun =
    "meson setup out >/dev/null && ninja -C out >/dev/null && find out -name viewer -type f -exec {} \\;";
const char* const kBundle =
    "<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n<gresources>\n  <gresource "
    "prefix=\"/org/saltmarsh/viewer\">\n"
    "    <file preprocess=\"xml-stripblanks\">ui/window.ui</file>\n"
    "    <file alias=\"tide.svg\">icons/tide-icon.svg</file>\n  </gresource>\n</gresources>\n";

Files viewer(const std::string& script) {
  return {{"meson.build", "project('viewer', 'c')\ngnome = import('gnome')\n" + script},
          {"main.c", kMainC},
          {"viewer.gresource.xml", kBundle},
          {"ui/window.ui", "<interface/>\n"},
          {"icons/tide-icon.svg", "<svg/>\n"}};
}

const char* const kProgram =
    "executable('viewer', 'main.c', gnome.compile_resources('resources', 'viewer.gresource.xml'),\n"
    "  dependencies: dependency('gio-2.0'))\n";

TEST(ResourceShapes, a_member_keeps_its_name_by_an_alias) {
  Workspace tree(viewer(kProgram));
  Outcome moved = expect_move_keeps_build(tree, "ui/window.ui -> data/ui/window.ui\n", kRun);
  EXPECT_NE(
      moved.out.find("<file alias=\"ui/window.ui\" preprocess=\"xml-stripblanks\">data/ui/window.ui</file>"),
      std::string::npos)
      << moved.told;
}

TEST(ResourceShapes, a_member_with_an_alias_keeps_it) {
  Workspace tree(viewer(kProgram));
  Outcome moved = expect_move_keeps_build(tree, "icons/ -> data/icons/\n", kRun);
  EXPECT_NE(moved.out.find("<file alias=\"tide.svg\">data/icons/tide-icon.svg</file>"), std::string::npos)
      << moved.told;
}

TEST(ResourceShapes, a_bundle_is_looked_up_from_the_script_not_from_its_own_folder) {
  Workspace tree(viewer(kProgram));
  Outcome moved = expect_move_keeps_build(tree, "viewer.gresource.xml -> data/viewer.gresource.xml\n", kRun);
  EXPECT_NE(moved.out.find("1 edit in 1 file"), std::string::npos) << moved.told;
}

TEST(ResourceShapes, all_goes_below_a_folder_that_the_script_names) {
  Files files = viewer(
      "executable('viewer', 'main.c', gnome.compile_resources('resources', 'viewer.gresource.xml',\n"
      "  source_dir: 'data'), dependencies: dependency('gio-2.0'))\n");
  files[3].first = "data/ui/window.ui";
  files[4].first = "data/icons/tide-icon.svg";
  Outcome moved = expect_move_keeps_build(Workspace(files), "data/ -> share/viewer/\n", kRun);
  EXPECT_NE(moved.out.find("source_dir: 'share/viewer'"), std::string::npos) << moved.told;
  EXPECT_NE(moved.out.find("1 edit in 1 file"), std::string::npos) << moved.told;
}

TEST(ResourceShapes, the_whole_program_goes_to_a_folder_of_its_own) {
  Files files = viewer("subdir('.')\n");
  files[0].second = "project('viewer', 'c')\nsubdir('app')\n";
  for (std::size_t i = 1; i < files.size(); ++i) files[i].first = "app/" + files[i].first;
  files.emplace_back("app/meson.build", "gnome = import('gnome')\n" + std::string(kProgram));
  Outcome moved = expect_move_keeps_build(Workspace(files), "app/ -> desktop/viewer/\n", kRun);
  EXPECT_NE(moved.out.find("1 edit in 1 file"), std::string::npos) << moved.told;
}

TEST(ResourceShapes, vala_sources_and_bindings) {
  Workspace tree(
      Files{{"meson.build",
             "project('viewer', 'vala', 'c')\nvapi = meson.current_source_dir() / 'vapi'\n"
             "executable('viewer', 'main.vala', 'chart.vala', 'level.c',\n"
             "  vala_args: ['--vapidir', vapi, '--pkg', 'level'],\n"
             "  dependencies: [dependency('gobject-2.0'), "
             "meson.get_compiler('vala').find_library('level', dirs: vapi)])\n"},
            {"main.vala", "int main() { stdout.printf(\"%d\\n\", new Chart().height()); return 0; }\n"},
            {"chart.vala", "public class Chart { public int height() { return Level.now(); } }\n"},
            {"level.c", "int level_now(void) { return 7; }\n"},
            {"level.h", "int level_now(void);\n"},
            {"vapi/level.vapi",
             "[CCode (cheader_filename = \"level.h\")]\nnamespace Level { public int now(); }\n"}});
  Outcome moved = expect_move_keeps_build(
      tree, "main.vala -> src/main.vala\nchart.vala -> src/chart/chart.vala\nvapi/ -> src/vapi/\n", kRun);
  EXPECT_NE(moved.out.find("'src/chart/chart.vala'"), std::string::npos) << moved.told;
}

TEST(ResourceShapes, a_vala_source_beside_the_scripts_folder_is_named_absolutely) {
  Workspace tree(
      Files{{"meson.build", "project('viewer', 'vala', 'c')\nsubdir('src')\n"},
            {"src/meson.build",
             "executable('viewer', ['main.vala', 'chart.vala'], dependencies: dependency('gobject-2.0'))\n"},
            {"src/main.vala", "int main() { stdout.printf(\"%d\\n\", new Chart().height()); return 0; }\n"},
            {"src/chart.vala", "public class Chart { public int height() { return 7; } }\n"}});
  Outcome moved = expect_move_keeps_build(tree, "src/chart.vala -> charts/chart.vala\n", kRun);
  EXPECT_NE(moved.out.find("meson.current_source_dir() / '../charts/chart.vala'"), std::string::npos)
      << moved.told;
}

TEST(ResourceShapes, a_translation_keeps_its_name_and_place) {
  Workspace tree(Files{{"meson.build", "project('viewer')\nsubdir('po')\n"},
                       {"po/meson.build", "import('i18n').gettext('viewer')\n"},
                       {"po/LINGUAS", "# spoken here\nsv fy\n"},
                       {"po/POTFILES", "main.c\n"},
                       {"po/sv.po", ""},
                       {"po/fy.po", ""},
                       {"main.c", "int main(void) { return 0; }\n"}});
  expect_refusal(tree, "po/sv.po -> parts/sv.po\n", {"po/LINGUAS:2:1", "sv.po"});
  expect_refusal(tree, "po/LINGUAS -> parts/LINGUAS\n", {"po/meson.build:1", "finds there by its name"});
  expect_move_keeps_build(tree, "po/ -> i18n/po/\nmain.c -> src/main.c\n",
                          "ls */po/LINGUAS po/LINGUAS 2>/dev/null | wc -l");
}

TEST(ResourceShapes, a_garbled_bundle_is_told_and_left_alone) {
  Workspace tree(Files{{"viewer.gresource.xml", "<gresources><gresource><file>a.ui</gresource>"},
                       {"a.ui", "<interface/>"}});
  Outcome checked = tree.run({"check"});
  EXPECT_NE((checked.out + checked.err).find("no well-formed XML"), std::string::npos) << checked.told;
}

}  // namespace
}  // namespace yc::test
