#include "formats/web_settings/style_calls.h"

#include <algorithm>

namespace yc::web_settings {

namespace {

struct StyleCall {
  std::vector<std::string> load_paths;
  std::vector<std::string> places;  // sources and outputs, each alone or as "source:output"
};

// The words behind the compiler's name; nothing if the command calls none.
std::optional<StyleCall> style_call(const shell::Command& command) {
  std::vector<std::string> words;
  for (const shell::Word& word : command.words) words.push_back(word.text.text());
  auto tool = std::find_if(words.begin(), words.end(), [](const std::string& word) {
    return word == "sass" || word == "node-sass" || word == "lessc";
  });
  if (tool == words.end()) return std::nullopt;
  StyleCall out;
  for (auto word = tool + 1; word != words.end(); ++word) {
    if (*word == "-I" || *word == "--load-path" || *word == "--include-path") {
      if (++word == words.end()) break;
      out.load_paths.push_back(*word);
    } else if (word->starts_with("--load-path=") || word->starts_with("--include-path=")) {
      out.load_paths.push_back(word->substr(word->find('=') + 1));
    } else if (!word->starts_with("-")) {
      out.places.push_back(*word);
    }
  }
  return out;
}

}  // namespace

void read_style_call(const Settings& settings, const shell::Command& command) {
  std::optional<StyleCall> call = style_call(command);
  if (!call) return;
  for (const std::string& folder : call->load_paths) {
    auto place = RelPath::resolve(command.base.folder, folder);
    if (!place) continue;
    Alias alias;
    alias.scope = settings.folder();
    alias.settings = settings.path;
    alias.open = alias.styles = true;
    alias.place = *place;
    settings.out.graph().aliases.push_back(alias);
  }
  const std::vector<std::string>& places = call->places;
  for (std::size_t i = 0; i < places.size(); ++i) {
    std::size_t colon = places[i].find(':');
    std::string from = places[i].substr(0, colon);
    std::string to;
    if (colon != std::string::npos) {
      to = places[i].substr(colon + 1);
    } else if (i + 1 < places.size()) {
      to = places[++i];
    }
    auto source = RelPath::resolve(command.base.folder, from),
         output = RelPath::resolve(command.base.folder, to);
    if (to.empty() || !source || !output) continue;
    if (!settings.tree.is_folder(*source)) {
      source = source->parent();
      if (output->extension() == ".css") output = output->parent();
    }
    settings.out.graph().outputs.push_back({settings.path, *source, *output, false});
  }
}

}  // namespace yc::web_settings
