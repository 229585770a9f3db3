#include "formats/rust/rust_macros.h"

#include <fmt/format.h>

#include <algorithm>

namespace yc::rust {

namespace {

using MacroNames = std::set<std::string>;
using SeenByFile = std::map<std::pair<RelPath, RelPath>, MacroNames>;  // by root and source

class Order {
 public:
  explicit Order(const Crates& crates) : crates_(crates) {}

  SeenByFile run() {
    for (int crate = 0; crate < static_cast<int>(crates_.crates().size()); ++crate) {
      if (crates_.root_of(crate) >= 0) visit(crates_.root_of(crate), {});
    }
    return std::move(out_);
  }

 private:
  // What is seen at a module's end.
  MacroNames visit(int module, MacroNames seen) {
    const Source& source = crates_.source_of(module);
    const SourceFacts& facts = *source.facts;
    std::int32_t scope = crates_.module(module).scope;
    if (crates_.is_file(module) && !seen.empty()) {
      RelPath root = crates_.path_of(crates_.root_of(crates_.module(module).crate));
      out_[{root, source.path}].insert(seen.begin(), seen.end());
    }
    struct Event {
      std::uint32_t at;
      const MacroRules* macro;
      std::size_t line;
    };
    std::vector<Event> events;
    for (const MacroRules& macro : facts.macros) {
      if (macro.scope == scope) events.push_back({macro.name.begin, &macro, 0});
    }
    for (std::size_t i = 0; i < facts.modules.size(); ++i) {
      if (facts.modules[i].scope == scope) events.push_back({facts.modules[i].name.begin, nullptr, i});
    }
    std::sort(events.begin(), events.end(), [](const Event& a, const Event& b) { return a.at < b.at; });
    for (const Event& event : events) {
      if (event.macro) {
        seen.emplace(source.text(event.macro->name));
        continue;
      }
      const ModuleLine& line = facts.modules[event.line];
      bool passes_on = std::any_of(line.attributes.begin(), line.attributes.end(), [&](const Span& span) {
        return source.text(span).find("macro_use") != std::string_view::npos;
      });
      for (int child : crates_.module(module).children) {
        if (crates_.module(child).line != static_cast<int>(event.line)) continue;
        MacroNames behind = visit(child, seen);
        if (passes_on) seen.merge(behind);
      }
    }
    return seen;
  }

  const Crates& crates_;
  SeenByFile out_;
};

}  // namespace

std::vector<Blocker> lost_macros(const Crates& before, const Crates& planned, const MoveSet& moves) {
  std::vector<Blocker> out;
  SeenByFile then = Order(before).run(), now = Order(planned).run();
  for (const auto& [file, names] : then) {
    MacroNames after = now[{moves.map_file(file.first), moves.map_file(file.second)}], lost;
    std::set_difference(names.begin(), names.end(), after.begin(), after.end(),
                        std::inserter(lost, lost.end()));
    if (lost.empty()) continue;
    const std::vector<int>& modules = before.modules_of(file.second);
    if (modules.empty()) continue;
    const Source& source = before.source_of(modules.front());
    for (std::string_view name : names_in(*source.bytes)) {
      auto at = static_cast<std::size_t>(name.data() - source.bytes->data());
      bool is_call = source.bytes->compare(at + name.size(), 1, "!") == 0;
      if (!is_call || !lost.contains(std::string(name)) || source.imports.contains(name)) continue;
      out.push_back({"rust-macro", source.path, span_of(at, at + name.size()), std::string(name),
                     "is a macro that would be defined only behind the module line that takes this source in",
                     "put the line that defines it before those that use it, or import it by its path",
                     Blocker::Bearing::tells_why});
      break;
    }
  }
  return out;
}

}  // namespace yc::rust
