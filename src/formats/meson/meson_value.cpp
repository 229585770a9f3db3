#include "formats/meson/meson_value.h"

#include <algorithm>

namespace yc::meson {

Value Value::of(TracedText text) {
  Value out;
  out.kind = Kind::text;
  out.text = std::move(text);
  return out;
}

Value Value::of(long number) {
  Value out;
  out.kind = Kind::number;
  out.number = number;
  return out;
}

Value Value::of(bool flag) {
  Value out;
  out.kind = Kind::boolean;
  out.flag = flag;
  return out;
}

Value Value::of(Values items) {
  Value out;
  out.kind = Kind::list;
  out.items = std::make_shared<const Values>(std::move(items));
  return out;
}

Value Value::of(Entries entries) {
  Value out;
  out.kind = Kind::dictionary;
  out.entries = std::make_shared<const Entries>(std::move(entries));
  return out;
}

Value Value::of(Bundle bundle) {
  Value out;
  out.kind = Kind::bundle;
  out.bundle = std::make_shared<const Bundle>(std::move(bundle));
  return out;
}

Value Value::object(std::string what) {
  Value out;
  out.kind = Kind::object;
  out.text = TracedText::plain(std::move(what));
  return out;
}

bool Value::is_object(std::string_view what) const {
  return kind == Kind::object && text.text() == what;
}

TracedText Value::as_text() const {
  if (kind == Kind::text) return text;
  if (kind == Kind::number) return TracedText::plain(std::to_string(number));
  if (kind == Kind::boolean) return TracedText::plain(flag ? "true" : "false");
  if (kind == Kind::list && items->size() == 1) return items->front().as_text();
  if (kind == Kind::file) {
    // Where a file is put into a text, Meson writes its path from the top; the folder follows its script.
    TracedText out =
        TracedText::folder(Piece::Nature::tree_folder, base.anchor, marked(Space::tree, base.folder));
    out.append(TracedText::plain("/"));
    out.append(text);
    return out;
  }
  return TracedText::hole();
}

Values Value::flat() const {
  if (kind != Kind::list) return {*this};
  Values out;
  for (const Value& item : *items) {
    Values inner = item.flat();
    std::move(inner.begin(), inner.end(), std::back_inserter(out));
  }
  return out;
}

Value Value::through(const Passage& passage) const {
  Value out = *this;
  if (kind == Kind::text || kind == Kind::file) {
    out.text = text.through(passage);
  } else if (kind == Kind::list) {
    Values inner;
    for (const Value& item : *items) inner.push_back(item.through(passage));
    out.items = std::make_shared<const Values>(std::move(inner));
  } else if (kind == Kind::dictionary) {
    Entries inner;
    for (const auto& [key, value] : *entries)
      inner.emplace_back(key.through(passage), value.through(passage));
    out.entries = std::make_shared<const Entries>(std::move(inner));
  }
  return out;
}

const Value* Value::entry(const std::string& key) const {
  if (kind != Kind::dictionary) return nullptr;
  auto at = std::find_if(entries->begin(), entries->end(),
                         [&](const auto& entry) { return entry.first.text() == key; });
  return at == entries->end() ? nullptr : &at->second;
}

std::optional<bool> equal(const Value& a, const Value& b) {
  if (a.kind == Value::Kind::unknown || b.kind == Value::Kind::unknown) return std::nullopt;
  if (a.kind != b.kind) return std::nullopt;
  if (a.kind == Value::Kind::text)
    return a.text.has_hole() || b.text.has_hole() ? std::nullopt
                                                  : std::optional(a.text.text() == b.text.text());
  if (a.kind == Value::Kind::number) return a.number == b.number;
  if (a.kind == Value::Kind::boolean) return a.flag == b.flag;
  if (a.kind != Value::Kind::list) return std::nullopt;
  if (a.items->size() != b.items->size()) return false;
  for (std::size_t i = 0; i < a.items->size(); ++i) {
    auto same = equal((*a.items)[i], (*b.items)[i]);
    if (!same || !*same) return same;
  }
  return true;
}

}  // namespace yc::meson
