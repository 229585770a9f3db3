#include <algorithm>

#include "formats/assemblies/assemblies.h"
#include "formats/autoconf/autoconf.h"
#include "formats/batch_scripts/batch_scripts.h"
#include "formats/c_family/c_family.h"
#include "formats/cargo/cargo.h"
#include "formats/cmake/cmake.h"
#include "formats/code_paths/code_paths.h"
#include "formats/compile_database/compile_database.h"
#include "formats/containers/containers.h"
#include "formats/data_files/data_files.h"
#include "formats/doc_settings/doc_settings.h"
#include "formats/documented_modules/documented_modules.h"
#include "formats/documents/documents.h"
#include "formats/editor_settings/editor_settings.h"
#include "formats/format.h"
#include "formats/go/go.h"
#include "formats/linker_scripts/linker_scripts.h"
#include "formats/links/links.h"
#include "formats/make/make.h"
#include "formats/meson/meson.h"
#include "formats/modules/modules.h"
#include "formats/modules/program_settings.h"
#include "formats/msbuild/msbuild.h"
#include "formats/nmake/nmake.h"
#include "formats/package_workspaces/package_workspaces.h"
#include "formats/pages/pages.h"
#include "formats/path_lists/path_lists.h"
#include "formats/pipelines/pipelines.h"
#include "formats/property_lists/property_lists.h"
#include "formats/python/python.h"
#include "formats/python_settings/python_settings.h"
#include "formats/qmake/qmake.h"
#include "formats/resource_scripts/resource_scripts.h"
#include "formats/resources/resources.h"
#include "formats/role_settings/role_settings.h"
#include "formats/rust/rust.h"
#include "formats/shell_scripts/shell_scripts.h"
#include "formats/sketches/sketches.h"
#include "formats/solutions/solutions.h"
#include "formats/studio_projects/studio_projects.h"
#include "formats/styles/styles.h"
#include "formats/taught/taught.h"
#include "formats/web_settings/compiler_settings.h"
#include "formats/web_settings/package_manifests.h"

namespace yc {

const std::vector<std::unique_ptr<Format>>& formats() {
  static const auto all = [] {
    std::vector<std::unique_ptr<Format>> list;
    list.push_back(make_format());
    list.push_back(cmake_format());
    list.push_back(cmake_presets_format());
    list.push_back(meson_format());
    list.push_back(autoconf_format());
    list.push_back(shell_scripts_format());
    list.push_back(batch_scripts_format());
    list.push_back(solutions_format());
    list.push_back(msbuild_format());  // after the solutions that list its projects
    list.push_back(resource_scripts_format());
    list.push_back(studio_projects_format());
    list.push_back(nmake_format());
    list.push_back(qmake_format());
    list.push_back(property_lists_format());
    list.push_back(assemblies_format());
    list.push_back(sketches_format());
    list.push_back(containers_format());
    list.push_back(pipelines_format());
    list.push_back(editor_settings_format());
    list.push_back(compile_database_format());
    list.push_back(linker_scripts_format());  // after the commands that tell where to look
    list.push_back(doc_settings_format());
    list.push_back(resources_format());  // after the scripts that tell where to look
    list.push_back(links_format());
    list.push_back(path_lists_format());
    list.push_back(role_settings_format());
    list.push_back(compiler_settings_format());
    list.push_back(package_manifests_format());  // after the settings that tell where compilers put things
    list.push_back(package_lists_format());
    list.push_back(package_locks_format());
    list.push_back(program_settings_format());
    list.push_back(python_settings_format());
    list.push_back(taught_format());
    list.push_back(pages_format());  // before modules: import maps give them names
    list.push_back(styles_format());
    list.push_back(modules_format());
    list.push_back(python_format());
    list.push_back(cargo_format());
    list.push_back(go_format());
    list.push_back(rust_format());  // after the manifests that tell what makes a crate
    list.push_back(code_paths_format());
    list.push_back(documents_format());
    list.push_back(documented_modules_format());  // after the programs that tell where modules are
    list.push_back(data_files_format());
    list.push_back(c_family_format());  // after everything that gives contexts
    return list;
  }();
  return all;
}

const Format& format_at(std::uint8_t index) {
  return *formats()[index];
}

}  // namespace yc
