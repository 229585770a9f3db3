#include "formats/web_settings/left_uncompiled.h"

#include <fmt/format.h>

#include <algorithm>
#include <nlohmann/json.hpp>

#include "formats/web_settings/folder_pattern.h"

namespace yc::web_settings {

namespace {

bool is_typed_source(const RelPath& file) {
  std::string_view ending = file.extension();
  bool is_source = ending == ".ts" || ending == ".tsx" || ending == ".mts" || ending == ".cts";
  return is_source && file.str().find(".d.") == std::string::npos;
}

// Settings that take in all below their folder, but for what they exclude.
struct Taker {
  RelPath settings;
  std::vector<std::string> excluded;
  bool takes(const RelPath& home, const RelPath& file) const {
    return file.is_within(home) && std::none_of(excluded.begin(), excluded.end(), [&](const auto& text) {
             return FolderPattern(text).takes(home, file);
           });
  }
};

bool takes_all(const nlohmann::json& settings) {
  if (settings.contains("files")) return false;
  auto include = settings.find("include");
  // What it builds on may list something.
  if (include == settings.end()) return !settings.contains("extends");
  return include->is_array() && std::any_of(include->begin(), include->end(), [](const auto& one) {
           if (!one.is_string()) return false;
           std::string text = one.template get<std::string>();
           return text.starts_with("**") || text.starts_with("./**") || text == "." || text == "./";
         });
}

std::vector<Taker> takers(const TreeView& view) {
  std::vector<Taker> out;
  for (const RelPath& path : view.files) {
    auto bytes = view.tree.read(path);
    auto settings = bytes ? nlohmann::json::parse(**bytes, nullptr, false, true) : nlohmann::json();
    if (!settings.is_object() || !takes_all(settings)) continue;
    Taker taker{path, {}};
    auto excluded = settings.find("exclude");
    if (excluded != settings.end() && excluded->is_array()) {
      for (const auto& one : *excluded) {
        if (one.is_string()) taker.excluded.push_back(one.get<std::string>());
      }
    }
    out.push_back(std::move(taker));
  }
  return out;
}

// By a list or a pattern of settings, or because another source imports it.
bool is_named(const TreeView& planned, const RelPath& file) {
  return std::any_of(
      planned.graph.references.begin(), planned.graph.references.end(), [&](const Reference& reference) {
        bool counts = reference.role == Role::module || reference.role == Role::pattern ||
                      reference.role == Role::source;
        return counts && !reference.excludes &&
               std::any_of(reference.targets.begin(), reference.targets.end(), [&](const Target& target) {
                 return target.kind == Target::Kind::tree && target.path == file;
               });
      });
}

}  // namespace

std::vector<Blocker> left_uncompiled(const TreeView& before, const TreeView& planned, const MoveSet& moves) {
  std::vector<Blocker> out;
  bool any = std::any_of(moves.files().begin(), moves.files().end(),
                         [](const Move& move) { return is_typed_source(move.from); });
  if (!any) return out;
  std::vector<Taker> all = takers(before), later = takers(planned);
  for (const Move& move : moves.files()) {
    if (!is_typed_source(move.from)) continue;
    auto taken = std::find_if(all.begin(), all.end(), [&](const Taker& taker) {
      return taker.takes(taker.settings.parent(), move.from);
    });
    bool is_taken = std::any_of(later.begin(), later.end(), [&](const Taker& taker) {
      return taker.takes(taker.settings.parent(), move.to);
    });
    if (taken == all.end() || is_taken || is_named(planned, move.to)) continue;
    out.push_back(
        {"not-compiled", move.from, std::nullopt, move.from.str(),
         fmt::format("is compiled because it lies below {}, and would not be from {}: no settings take it in "
                     "there, and nothing imports it",
                     taken->settings.str(), move.to.str()),
         "choose a place below that folder, or list it under \"include\" first",
         Blocker::Bearing::tells_why});
  }
  return out;
}

}  // namespace yc::web_settings
