#include "formats/meson/meson_stamps.h"

namespace yc::meson {

namespace {

void add_place(std::string& key, const Place& place) {
  add_number(key, place.space);
  add_bytes(key, place.path.str());
}

void add_bundle(std::string& key, const Bundle& bundle) {
  add_number(key, bundle.roots.size());
  for (const RootWord& root : bundle.roots) {
    add_text(key, root.word);
    add_place(key, root.place);
  }
  add_number(key, bundle.sources.size());
  for (const RelPath& source : bundle.sources) add_bytes(key, source.str());
  add_number(key, bundle.macros.size());
  for (const PathMacro& macro : bundle.macros) {
    add_bytes(key, macro.name);
    add_text(key, macro.value);
    key += macro.angled ? '<' : '"';
    add_base(key, macro.definition.base);
    for (const Site& site : macro.definition.construct) add_site(key, site);
  }
  add_number(key, bundle.uses.size());
  for (const std::string& name : bundle.uses) add_bytes(key, name);
  key += bundle.open ? 'o' : '-';
}

}  // namespace

Stamped ValueStamps::stamped(Value value) {
  Stamp stamp = stamp_of(value);
  return {std::make_shared<const Value>(std::move(value)), stamp};
}

// Members of a value are known by their own stamps.
Stamp ValueStamps::stamp_of(const Value& value) {
  std::string key;
  add_number(key, value.kind);
  add_text(key, value.text);
  add_base(key, value.base);
  add_number(key, value.number);
  key += value.flag ? 't' : 'f';
  add_site(key, value.site);
  if (value.items) {
    key += 'i';
    for (const Value& item : *value.items) add_number(key, stamp_of(item));
  }
  if (value.entries) {
    key += 'e';
    for (const auto& [name, entry] : *value.entries) {
      add_text(key, name);
      add_number(key, stamp_of(entry));
    }
  }
  if (value.bundle) {
    key += 'b';
    add_bundle(key, *value.bundle);
  }
  add_number(key, value.variables.get());
  return stamps_.of(key);
}

}  // namespace yc::meson
