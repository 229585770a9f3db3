#include "formats/modules/modules.h"

#include <atomic>
#include <future>
#include <set>
#include <thread>

#include "base/name_search.h"
#include "formats/modules/embedded.h"
#include "formats/modules/forwarding_modules.h"
#include "formats/modules/module_references.h"

namespace yc {

namespace {

using modules::ModuleFacts;

// Whether any text of a file could name something that moves: it holds one of the names, or a specifier that
// is put together when the program runs.
class Sieve {
 public:
  explicit Sieve(const Focus* focus) : search_(names_of(focus)), active_(focus != nullptr) {}
  bool is_active() const { return active_; }
  bool lets_through(const std::string& bytes) const { return search_.finds_any(bytes); }

 private:
  static std::vector<std::string> names_of(const Focus* focus) {
    if (!focus) return {};
    std::vector<std::string> out = {"import(`", "require(`", "(`./", " `./", "`../", "/' +", "/\" +"};
    // The stem of "tide.test" is found where "tide" is.
    std::set<std::string> heads;
    for (const std::string& stem : focus->stems) heads.insert(stem.substr(0, stem.find('.', 1)));
    out.insert(out.end(), heads.begin(), heads.end());
    // A folder stands for its index, as in "..".
    if (heads.contains("index")) out.insert(out.end(), {"./'", "./\"", "'.'", "\".\"", "..'", "..\""});
    return out;
  }

  NameSearch search_;
  bool active_;
};

class ModulesFormat : public LiteralFormat {
 public:
  std::string_view name() const override { return "modules"; }
  bool reads_sources() const override { return true; }
  void read(const TreeReader& tree, FactsCache& cache, std::uint8_t self, GraphBuilder& out) const override {
    Sieve sieve(out.focus());
    std::vector<RelPath> files;
    for (const RelPath& path : tree.files()) {
      if (!modules::dialect_of(path) && !modules::holds_scripts(path)) continue;
      const Entry* entry = tree.find(path);
      if (entry->kind == EntryKind::file && !entry->ignored && !entry->guarded) files.push_back(path);
    }
    out.graph().files_by_format[std::string(name())] = files.size();
    if (files.empty()) return;
    std::vector<std::shared_ptr<const ModuleFacts>> facts(files.size());
    std::atomic<std::size_t> next = 0;
    auto work = [&] {
      for (std::size_t i = next++; i < files.size(); i = next++) {
        auto bytes = tree.read(files[i]);
        if (!bytes) continue;
        // Both readings of a plan ask for the same names.
        if (sieve.is_active() && !out.wants(files[i]) &&
            !cache.verdict(files[i], (*bytes)->size(), [&] { return sieve.lets_through(**bytes); }))
          continue;
        facts[i] = cache.get<ModuleFacts>(self, *bytes, [&](const std::string& text) {
          auto dialect = modules::dialect_of(files[i]);
          return dialect ? modules::scan_module(text, *dialect) : modules::scan_embedded(text);
        });
      }
    };
    {
      std::vector<std::future<void>> others;
      for (unsigned i = 1; i < std::min(8U, std::thread::hardware_concurrency()); ++i)
        others.push_back(std::async(std::launch::async, work));
      work();
    }
    modules::ModuleResolver resolver(tree, out.graph());
    for (std::size_t i = 0; i < files.size(); ++i) {
      if (facts[i]) modules::emit_module(resolver, tree, files[i], *facts[i], self, out);
    }
  }

  std::optional<std::string> forwarder(const TreeReader& tree, const RelPath& old_path,
                                       const RelPath& new_path, std::string_view bytes) const override {
    return modules::forwarding_module(tree, old_path, new_path, bytes);
  }
  RelPath forwarder_place(const RelPath& old_path, const RelPath& new_path) const override {
    return modules::forwarding_place(old_path, new_path);
  }
  std::optional<RelPath> forwards_to(const RelPath& path, std::string_view bytes) const override {
    return modules::forwarded_to(path, bytes);
  }

  std::vector<Way> own_ways(const Need& need) const override { return modules::module_ways(need); }

  std::optional<std::string> write(std::string_view text, WritingStyle) const override {
    if (text.find_first_of("'\"`\\\n\r") != std::string_view::npos) return std::nullopt;
    return std::string(text);
  }
};

}  // namespace

std::unique_ptr<Format> modules_format() {
  return std::make_unique<ModulesFormat>();
}

}  // namespace yc
