#include "formats/python_settings/settings_words.h"

#include <algorithm>
#include <cctype>

#include "formats/python_settings/setup_call.h"
#include "words/python_settings.h"

namespace yc::python_settings {

using values::Value;

namespace {

bool is_index(const std::string& key) {
  return !key.empty() && key.find_first_not_of("0123456789") == std::string::npos;
}

}  // namespace

bool is_settings(const RelPath& path) {
  return words::python_settings::file_names().contains(path.name());
}

std::vector<Value> values_of(const RelPath& path, std::string_view bytes) {
  if (path.name() == "setup.py") return setup_values(bytes);
  if (path.extension() == ".toml") return values::read_toml(bytes);
  if (path.extension() == ".json") return values::read(bytes, values::Language::json);
  if (path.name() == "MANIFEST.in") return {};
  return values::read_ini(bytes);
}

std::string normal_key(std::string key) {
  std::transform(key.begin(), key.end(), key.begin(),
                 [](unsigned char c) { return c == '-' ? '_' : static_cast<char>(std::tolower(c)); });
  return key;
}

std::vector<std::string> keys_of(const Value& value) {
  std::vector<std::string> out;
  for (const std::string& key : value.path) {
    if (is_index(key)) continue;
    // [options.packages.find], [tool:pytest]
    std::string normal = normal_key(key);
    for (std::size_t at = 0; at <= normal.size();) {
      std::size_t end = std::min(normal.find_first_of(".:", at), normal.size());
      out.push_back(normal.substr(at, end - at));
      at = end + 1;
    }
  }
  return out;
}
const std::string& last_of(const std::vector<std::string>& keys) {
  static const std::string kNone;
  return keys.empty() ? kNone : keys.back();
}
bool has(const std::vector<std::string>& keys, std::string_view key) {
  return std::find(keys.begin(), keys.end(), key) != keys.end();
}

bool is_root_key(const std::vector<std::string>& keys, const Word& word) {
  const std::string& key = last_of(keys);
  if (has(keys, "package_dir")) return key.empty() || (word.has_key && word.key.empty());
  if (key == "where" || key == "find_packages" || key == "find_namespace_packages") return true;
  if (key == "from") return has(keys, "packages");
  if (key == "packages") return has(keys, "hatch") && has(keys, "wheel");
  return key == "pythonpath" || key == "mypy_path" || key == "extrapaths" || key == "python_paths" ||
         key == "python_path" || key == "extra_paths";
}

bool is_dotted_key(const std::vector<std::string>& keys) {
  return std::any_of(keys.begin(), keys.end(), [&](const std::string& key) {
    return words::python_settings::dotted_keys().contains(key);
  });
}

std::vector<Word> words_of(const Value& value, const std::vector<std::string>& keys, bool in_program) {
  std::vector<Word> out;
  if (!value.verbatim) return out;
  const std::string& text = value.text;
  bool ini = value.style == values::kBareLine;
  std::size_t begin = 0;
  Word word;
  // "main = pole.app:main", "=src"
  std::size_t equals = text.find('=');
  bool pairs = ini || has(keys, "entry_points") || in_program;
  if (pairs && equals != std::string::npos && text.find_first_of(" /") >= equals - (equals > 0 ? 1 : 0)) {
    word.key = normal_key(text.substr(0, text.find_last_not_of(" \t", equals == 0 ? 0 : equals - 1) + 1));
    if (equals == 0) word.key.clear();
    word.has_key = true;
    begin = equals + 1;
  }
  if (ini && (text.starts_with("attr:") || text.starts_with("file:"))) begin = 5;
  while (begin < text.size()) {
    std::size_t first = text.find_first_not_of(" \t,", begin);
    if (first == std::string::npos) break;
    std::size_t end = std::min(ini ? text.find_first_of(" \t,", first) : text.size(), text.size());
    word.text = text.substr(first, end - first);
    word.begin = first;
    // "tests/*.py: E501"
    if (ini && word.text.ends_with(":")) word.text.pop_back();
    if (!word.text.empty()) out.push_back(word);
    begin = end;
  }
  return out;
}

}  // namespace yc::python_settings
