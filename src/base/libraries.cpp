#include "base/libraries.h"

#define PCRE2_CODE_UNIT_WIDTH 8
#include <fmt/format.h>
#include <git2.h>
#include <pcre2.h>
#include <sodium.h>
#include <sqlite3.h>
#include <toml++/toml.h>
#include <xxhash.h>
#include <yaml.h>

#include <cereal/version.hpp>
#include <nlohmann/json.hpp>
#include <pugixml.hpp>

namespace yc {

std::vector<std::pair<std::string, std::string>> library_versions() {
  auto dotted = [](unsigned major, unsigned minor, unsigned patch) {
    return fmt::format("{}.{}.{}", major, minor, patch);
  };
  int major = 0, minor = 0, patch = 0;
  git_libgit2_version(&major, &minor, &patch);
  char pcre[64] = "";
  pcre2_config(PCRE2_CONFIG_VERSION, pcre);
  std::string pcre_version = pcre;
  unsigned hash = XXH_versionNumber();
  return {{"libgit2", fmt::format("{}.{}.{}", major, minor, patch)},
          {"fmt", dotted(FMT_VERSION / 10000, FMT_VERSION / 100 % 100, FMT_VERSION % 100)},
          {"nlohmann-json",
           dotted(NLOHMANN_JSON_VERSION_MAJOR, NLOHMANN_JSON_VERSION_MINOR, NLOHMANN_JSON_VERSION_PATCH)},
          {"toml++", dotted(TOML_LIB_MAJOR, TOML_LIB_MINOR, TOML_LIB_PATCH)},
          {"libyaml", yaml_get_version_string()},
          {"PCRE2", pcre_version.substr(0, pcre_version.find(' '))},
          {"pugixml", dotted(PUGIXML_VERSION / 1000, PUGIXML_VERSION % 1000 / 10, PUGIXML_VERSION % 10)},
          {"xxHash", dotted(hash / 10000, hash / 100 % 100, hash % 100)},
          {"libsodium", sodium_version_string()},
          {"SQLite", sqlite3_libversion()},
          {"cereal", dotted(CEREAL_VERSION_MAJOR, CEREAL_VERSION_MINOR, CEREAL_VERSION_PATCH)}};
}

}  // namespace yc
