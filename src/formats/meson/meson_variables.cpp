// What variables come to, with the sides of conditionals that their values came from.
#include <algorithm>

#include "formats/meson/meson_evaluation.h"
#include "formats/rival_values.h"

namespace yc::meson {

namespace {

// Values of one variable; in a loop fewer, as a round seldom uses what earlier ones set.
constexpr std::size_t kMostAlternatives = 16, kMostInLoops = 4;

Value appended(const Value& known, const Value& more) {
  if (known.kind == Value::Kind::list) {
    Values items = *known.items;
    Values added = more.kind == Value::Kind::list ? *more.items : Values{more};
    std::move(added.begin(), added.end(), std::back_inserter(items));
    return Value::of(std::move(items));
  }
  if (known.kind == Value::Kind::text && more.kind == Value::Kind::text) {
    TracedText text = known.text;
    text.append(more.text);
    return Value::of(std::move(text));
  }
  if (known.kind == Value::Kind::dictionary && more.kind == Value::Kind::dictionary) {
    Entries entries = *known.entries;
    entries.insert(entries.end(), more.entries->begin(), more.entries->end());
    return Value::of(std::move(entries));
  }
  if (known.kind == Value::Kind::unknown) {
    // What was there before cannot be known; what is added can.
    Values items = {Value()};
    Values added = more.flat();
    std::move(added.begin(), added.end(), std::back_inserter(items));
    return Value::of(std::move(items));
  }
  return {};
}

// The parts of a list, of a dictionary or of a text.
Value put_together(const std::vector<const Value*>& parts) {
  Values items;
  Entries entries;
  TracedText text;
  for (const Value* part : parts) {
    if (part->items) items.insert(items.end(), part->items->begin(), part->items->end());
    if (part->entries) entries.insert(entries.end(), part->entries->begin(), part->entries->end());
    if (part->kind == Value::Kind::text) text.append(part->text);
  }
  if (parts.empty() || parts[0]->kind == Value::Kind::list) return Value::of(std::move(items));
  return parts[0]->kind == Value::Kind::text ? Value::of(std::move(text)) : Value::of(std::move(entries));
}

}  // namespace

// Whether a value could lead anywhere.
bool Evaluation::matters(const Alternative<Stamped>& value) {
  return std::any_of(value.parts.begin(), value.parts.end(), [&](const auto& part) {
    auto [known, fresh] = matters_.try_emplace({part.second.stamp, base().anchor}, false);
    if (!fresh) return known->second;
    Values items = part.second.value->flat();
    return known->second = std::any_of(items.begin(), items.end(), [&](const Value& item) {
             if (item.kind == Value::Kind::boolean || item.is_object("boolean")) return false;
             return item.kind == Value::Kind::file ||
                    could_lead_somewhere(tree_, base().folder, item.as_text().text());
           });
  });
}

// Keeps the last ones of those that could lead anywhere. Whoever uses one of the others is told of.
void Evaluation::limit(Alternatives& values) {
  std::size_t most = rounds_.empty() ? kMostAlternatives : kMostInLoops;
  for (std::size_t i = 0; values.size() > most && i < values.size();) {
    if (values[i].is_lost || matters(values[i])) {
      ++i;
    } else {
      values.erase(values.begin() + static_cast<std::ptrdiff_t>(i));
    }
  }
  if (values.size() <= most) return;
  auto end = values.end() - static_cast<std::ptrdiff_t>(most);
  Alternative<Stamped> lost{values.front().guard, {}, true};
  for (auto one = values.begin(); one != end; ++one) lost.guard = common(lost.guard, one->guard);
  values.erase(values.begin(), end);
  values.push_back(std::move(lost));
  sort_alternatives(values);
}

void Evaluation::assign(const std::string& name, Value value) {
  assign(name, Alternatives{{{}, {{{}, stamps_.stamped(std::move(value))}}}});
}

void Evaluation::assign(const std::string& name, Alternatives values) {
  if (!rounds_.empty()) loop_names_.insert(name);
  limit(values);
  variables_.set(name, std::move(values));
}

// Adds to a list, dictionary or text in a part of its own. False if the values are of other kinds.
bool Evaluation::grow(const std::string& name, const Alternatives& before, const Alternatives& more) {
  auto all_are = [](const Alternatives& values, Value::Kind kind) {
    return std::all_of(values.begin(), values.end(), [&](const auto& one) {
      return one.is_lost || (!one.parts.empty() && one.parts[0].second.value->kind == kind);
    });
  };
  bool is_list = all_are(before, Value::Kind::list);
  auto are_of = [&](Value::Kind kind) { return all_are(before, kind) && all_are(more, kind); };
  bool is_text = more.size() == 1 && are_of(Value::Kind::text);
  if (!is_list && !is_text && !are_of(Value::Kind::dictionary)) return false;
  if (!rounds_.empty()) loop_names_.insert(name);
  for (const auto& added : more) {
    const Stamped& part = added.parts[0].second;
    bool is_member = is_list && part.value->kind != Value::Kind::list;
    variables_.grow(name, added.guard, is_member ? stamps_.stamped(Value::of(Values{*part.value})) : part);
  }
  return true;
}

void Evaluation::append(const std::string& name, const Alternatives& more) {
  const Alternatives* known = variables_.find(name);
  const Alternatives unset = {{}};
  const Alternatives& before = known && !known->empty() ? *known : unset;
  if (grow(name, before, more)) return;
  Alternatives out;
  for (const auto& one : before) {
    for (const auto& added : more) {
      auto guard = both(one.guard, added.guard);
      if (!guard) continue;
      if (one.is_lost) {
        add_alternative(out, {std::move(*guard), {}, true});
        continue;
      }
      Value value =
          appended(one.parts.empty() ? Value() : *one.parts[0].second.value, *added.parts[0].second.value);
      add_alternative(out, {std::move(*guard), {{{}, stamps_.stamped(std::move(value))}}});
    }
  }
  sort_alternatives(out);
  assign(name, std::move(out));
}

std::shared_ptr<const Value> Evaluation::variable(const std::string& name) {
  const Alternatives* known = variables_.find(name);
  return known ? value_of(*known) : nullptr;
}

// The value in this world.
std::shared_ptr<const Value> Evaluation::value_of(const Alternatives& values) {
  const Alternative<Stamped>* found = nullptr;
  for (const auto& one : values) {
    if (!one.is_lost) worlds_->expect(one.guard);
  }
  for (const auto& one : values) {
    if (one.is_lost) {
      if (path_.allows(one.guard)) left_out_.insert(script().file);
      continue;
    }
    bool holds = worlds_->holds(one.guard);
    if (holds || (!found && path_.allows(one.guard))) found = &one;
    if (holds) break;
  }
  if (!found || found->parts.empty()) return nullptr;
  if (found->parts.size() == 1) return found->parts[0].second.value;
  std::vector<const Value*> parts;
  if (!out_.spend(10 * found->parts.size())) return nullptr;
  for (const auto& [guard, part] : found->parts) {
    if (worlds_->holds(guard)) parts.push_back(part.value.get());
  }
  return std::make_shared<const Value>(put_together(parts));
}

}  // namespace yc::meson
