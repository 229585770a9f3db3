// Control flow: scripts, folders entered, branches, loops, subprojects.
#include <algorithm>

#include "formats/meson/meson_evaluation.h"

namespace yc::meson {

namespace {

constexpr std::size_t kStepLimit = 200'000;  // statements in one run
constexpr std::size_t kFolderLimit = 60;

template <typename Visit>
void each_name(const Node& node, const Visit& visit) {
  if (node.kind == Node::Kind::identifier) visit(node.text);
  for (const NodePtr& child : node.children) each_name(*child, visit);
  for (const Argument& argument : node.arguments) {
    if (argument.key) each_name(*argument.key, visit);
    each_name(*argument.value, visit);
  }
}

}  // namespace

Evaluation::Evaluation(const TreeReader& tree, FactsCache& cache, GraphBuilder& out, std::uint8_t format)
    : tree_(tree), cache_(cache), out_(out), format_(format) {}

void Evaluation::run_project(const RelPath& top) {
  root_ = {top.parent(), out_.files().index(top), Space::tree};
  top_ = root_;
  folders_.push_back(root_);
  assign(kForAll, Value::of(Values()));
  run_script(top);
}

void Evaluation::run_script(const RelPath& path) {
  Script& script = loaded_[path];
  if (!script.syntax) {
    auto bytes = tree_.read(path);
    if (!bytes) return;
    script.file = out_.files().index(path);
    script.bytes = *bytes;
    if ((*bytes)->find('\0') != std::string::npos) {
      out_.incomplete(Unread::garbled, "binary-script", path, std::nullopt,
                      "holds NUL bytes and is not read as a Meson script");
      script.syntax = std::make_shared<const Syntax>();
    } else {
      script.syntax =
          cache_.get<Syntax>(format_, *bytes, [](const std::string& text) { return parse(text); });
      for (const auto& [offset, message] : script.syntax->problems)
        out_.incomplete(Unread::garbled, "garbled-script", path, Span{offset, offset}, message);
    }
  }
  read_.insert(path);
  Worlds* outer = std::exchange(worlds_, nullptr);
  bool was_in_ternary = std::exchange(in_ternary_, false);
  std::size_t closed = closed_.size();
  if (script.bytes) out_.admit(path, script.bytes->size());
  scripts_.push_back(&script);
  run(script.syntax->statements);
  leaving_ = Leaving::no;
  reopen(Leaving::script, closed);
  scripts_.pop_back();
  in_ternary_ = was_in_ternary;
  worlds_ = outer;
}

// What a step comes to, in each of the worlds that it could be taken in.
template <typename Take>
Evaluation::Alternatives Evaluation::step(const Take& take) {
  Worlds worlds(choices_, path_);
  Worlds* outer = std::exchange(worlds_, &worlds);
  std::vector<Entered> outer_entering = std::exchange(entering_, {});
  std::vector<Variables::Outcome> outcomes;
  Alternatives out;
  while (worlds.next()) {
    variables_.open();
    Stamped value = stamps_.stamped(take());
    outcomes.push_back({worlds.picked(), variables_.close()});
    add_alternative(out, {worlds.picked(), {{{}, std::move(value)}}});
  }
  worlds_ = outer;
  if (worlds.count() == 1) out[0].guard.clear();
  if (worlds.is_cut_short()) left_out_.insert(script().file);
  sort_alternatives(out);
  variables_.join(std::move(outcomes), [&](Alternatives& values) { limit(values); });
  std::vector<Entered> entering = std::exchange(entering_, std::move(outer_entering));
  for (const Entered& one : entering) {
    run_apart(worlds.count() == 1 ? Guard() : one.guard, [&] { enter(one.folder); });
  }
  return out;
}

// What is run under a guard changes variables there alone.
template <typename Run>
void Evaluation::run_apart(const Guard& guard, const Run& run) {
  Guard fresh;
  std::set_difference(guard.begin(), guard.end(), path_.taken.begin(), path_.taken.end(),
                      std::back_inserter(fresh));
  if (fresh.empty()) return run();
  auto taken = both(path_.taken, fresh);
  if (!taken) return;
  Guard before = std::exchange(path_.taken, std::move(*taken));
  variables_.open();
  run();
  std::vector<Variables::Outcome> outcomes = {{fresh, variables_.close()}, {{}, {}}};
  path_.taken = std::move(before);
  variables_.join(std::move(outcomes), [&](Alternatives& values) { limit(values); });
  leave(fresh, std::exchange(leaving_, Leaving::no));
}

// A side goes no further in its script or loop: what follows is run without it.
void Evaluation::leave(const Guard& guard, Leaving how) {
  if (how == Leaving::no || guard.size() != 1) return;
  closed_.emplace_back(guard[0], how);
  path_.closed.insert(guard[0]);
}

void Evaluation::reopen(Leaving scope, std::size_t from) {
  auto ends = [&](const auto& closed) { return closed.second <= scope; };
  auto begin = closed_.begin() + static_cast<std::ptrdiff_t>(from);
  for (auto at = begin; at != closed_.end(); ++at) {
    if (ends(*at)) path_.closed.erase(at->first);
  }
  closed_.erase(std::remove_if(begin, closed_.end(), ends), closed_.end());
}

void Evaluation::run(const std::vector<Statement>& statements) {
  for (const Statement& statement : statements) {
    if (leaving_ != Leaving::no) return;
    if (++steps_ > kStepLimit || !out_.spend(100)) {
      out_.incomplete(Unread::cut_short, "runaway-script", out_.files().path(script().file), statement.span,
                      "was given up: it runs too long");
      return;
    }
    switch (statement.kind) {
      case Statement::Kind::expression:
        if (statement.value) step([&] { return evaluate(*statement.value); });
        break;
      case Statement::Kind::assign:
        assign(statement.name, step([&] { return evaluate(*statement.value); }));
        break;
      case Statement::Kind::append:
        append(statement.name, step([&] { return evaluate(*statement.value); }));
        break;
      case Statement::Kind::branches:
        run_branches(statement);
        break;
      case Statement::Kind::loop:
        run_loop(statement);
        break;
      case Statement::Kind::leave:
        if (!rounds_.empty()) leaving_ = Leaving::loop;
        break;
      case Statement::Kind::again:
        if (!rounds_.empty()) leaving_ = Leaving::round;
        break;
    }
  }
}

bool Evaluation::mentions_loop(const Node& node) const {
  bool out = false;
  each_name(node, [&](const std::string& name) { out = out || loop_names_.contains(name); });
  return out;
}

// Known only where a loop decides it: a constant in a script is there for people to change, and what depends
// on it must hold either way.
std::optional<bool> Evaluation::condition(const Node& node) {
  // In a ternary it is a part of the step that it stands in.
  Alternatives values;
  if (in_ternary_) {
    values = {{{}, {{{}, stamps_.stamped(evaluate(node))}}}};
  } else {
    values = step([&] { return evaluate(node); });
  }
  if (rounds_.empty() || !mentions_loop(node)) return std::nullopt;
  const Value& first = *values[0].parts[0].second.value;
  bool is_known = std::all_of(values.begin(), values.end(), [&](const auto& one) {
    const Value& value = *one.parts[0].second.value;
    return value.kind == Value::Kind::boolean && value.flag == first.flag;
  });
  return is_known ? std::optional(first.flag) : std::nullopt;
}

void Evaluation::run_branches(const Statement& statement) {
  std::vector<const Branch*> open;  // that may be taken
  bool complete = false;            // one of them must be
  for (const Branch& branch : statement.branches) {
    auto known = branch.condition ? condition(*branch.condition) : std::optional(true);
    if (known && !*known) continue;
    open.push_back(&branch);
    complete = known.has_value();
    if (complete) break;
  }
  if (complete && open.size() == 1) return run(open.front()->body);
  if (open.empty()) return;
  auto sides = static_cast<std::uint32_t>(open.size() + (complete ? 0 : 1));
  std::uint32_t choice = choices_.met({script().file, statement.span.begin}, rounds_, sides);
  std::vector<Variables::Outcome> outcomes;
  std::vector<std::pair<Guard, Leaving>> ends;
  for (std::uint32_t side = 0; side < sides; ++side) {
    Guard guard = {{choice, side}};
    auto taken = both(path_.taken, guard);
    if (!taken || !path_.allows(guard)) continue;
    Guard before = std::exchange(path_.taken, std::move(*taken));
    variables_.open();
    if (side < open.size()) run(open[side]->body);
    outcomes.push_back({guard, variables_.close()});
    ends.emplace_back(guard, std::exchange(leaving_, Leaving::no));
    path_.taken = std::move(before);
  }
  if (ends.empty()) return;
  variables_.join(std::move(outcomes), [&](Alternatives& values) { limit(values); });
  leaving_ = std::min_element(ends.begin(), ends.end(), [](const auto& a, const auto& b) {
               return a.second < b.second;
             })->second;
  for (const auto& [guard, how] : ends) {
    if (how > leaving_) leave(guard, how);
  }
}

void Evaluation::run_loop(const Statement& statement) {
  if (!statement.value) return;
  std::vector<Round> rounds = rounds_over(statement);
  std::size_t closed = closed_.size();
  rounds_.emplace_back(Site{script().file, statement.span.begin}, 0);
  for (const Round& round : rounds) {
    if (path_.allows(round.guard)) run_apart(round.guard, [&] { run_round(statement, round); });
    ++rounds_.back().second;
    if (leaving_ != Leaving::no) break;
  }
  if (leaving_ == Leaving::loop) leaving_ = Leaving::no;
  rounds_.pop_back();
  reopen(Leaving::loop, closed);
}

void Evaluation::run_round(const Statement& statement, const Round& round) {
  std::size_t closed = closed_.size();
  for (std::size_t i = 0; i < statement.variables.size(); ++i) {
    Stamped value = i < round.values.size() ? round.values[i] : stamps_.stamped(Value());
    assign(statement.variables[i], Alternatives{{{}, {{{}, std::move(value)}}}});
  }
  run(statement.body);
  if (leaving_ == Leaving::round) leaving_ = Leaving::no;
  reopen(Leaving::round, closed);
}

std::vector<Evaluation::Round> Evaluation::rounds_over(const Statement& statement) {
  const Node& over = *statement.value;
  const Alternatives* known = over.kind == Node::Kind::identifier ? variables_.find(over.text) : nullptr;
  if (!known || known->size() != 1) return rounds_over(step([&] { return evaluate(over); }));
  // What was added to a list on some side alone is there in its rounds alone.
  std::vector<Round> out;
  for (const auto& [guard, part] : known->front().parts) {
    if (!path_.allows(guard)) continue;
    for (std::vector<Stamped>& values : rounds_over(*part.value)) out.push_back({guard, std::move(values)});
  }
  return out;
}

// A member that several of the values have is there where any of them is.
std::vector<Evaluation::Round> Evaluation::rounds_over(const Alternatives& values) {
  std::vector<Round> out;
  std::map<std::vector<Stamp>, std::size_t> known;  // rounds over earlier values
  for (const auto& one : values) {
    std::size_t earlier = out.size();
    for (std::vector<Stamped>& round : rounds_over(*one.parts[0].second.value)) {
      std::vector<Stamp> key;
      for (const Stamped& value : round) key.push_back(value.stamp);
      auto [at, fresh] = known.try_emplace(key, out.size());
      if (fresh || at->second >= earlier) {
        out.push_back({one.guard, std::move(round)});
      } else {
        out[at->second].guard = common(out[at->second].guard, one.guard);
      }
    }
  }
  return out;
}

// What the variables of a loop get in each round.
std::vector<std::vector<Stamped>> Evaluation::rounds_over(const Value& value) {
  std::vector<std::vector<Stamped>> out;
  if (value.kind == Value::Kind::dictionary) {
    for (const auto& [key, entry] : *value.entries)
      out.push_back({stamps_.stamped(Value::of(key)), stamps_.stamped(entry)});
  } else if (value.kind == Value::Kind::list) {
    for (const Value& item : *value.items) out.push_back({stamps_.stamped(item)});
  } else {
    out.push_back({stamps_.stamped(Value()), stamps_.stamped(Value())});  // nobody knows over what it runs
  }
  return out;
}

Value Evaluation::do_subdir(const Call& call) {
  Value folder = call.positional.empty() ? Value() : call.positional[0];
  TracedText text = folder.as_text();
  // Meson takes no "..", which the way of writing tells to whoever changes the text.
  TracedText written;
  for (Piece piece : text.pieces()) {
    if (piece.has_origin() && piece.style == kSingle && piece.via.empty()) piece.style = kSubfolder;
    written.append(std::move(piece));
  }
  Place place = place_of(base().folder, text.text());
  RelPath path = place.path / "meson.build";
  // Named is the folder, and meant the script in it: that may go without the folder's other files.
  bool is_there = place.space == Space::tree && tree_.is_file(path);
  if (is_there)
    written.append(TracedText::plain(text.text().ends_with("/") ? "meson.build" : "/meson.build"));
  if (!refer_text(written, base(), Role::subfolder, Certainty::certain, true)) return {};
  if (place.space != Space::tree || !tree_.is_file(path)) return {};
  // Its script is run after the step: the folder may be the same in all worlds.
  auto known = std::find_if(entering_.begin(), entering_.end(),
                            [&](const Entered& one) { return one.folder == place.path; });
  if (known == entering_.end()) {
    entering_.push_back({worlds_->picked(), place.path});
  } else {
    known->guard = common(known->guard, worlds_->picked());
  }
  return {};
}

// Meson refuses to enter a folder twice; sides that exclude each other may each enter it.
void Evaluation::enter(const RelPath& folder) {
  std::vector<Guard>& before = entered_[folder];
  bool again = std::any_of(before.begin(), before.end(),
                           [&](const Guard& guard) { return both(guard, path_.taken).has_value(); });
  if (again || folders_.size() > kFolderLimit) return;
  before.push_back(path_.taken);
  RelPath path = folder / "meson.build";
  folders_.push_back({folder, out_.files().index(path), Space::tree});
  run_script(path);
  folders_.pop_back();
}

Value Evaluation::do_subdir_done(const Call&) {
  leaving_ = Leaving::script;
  return {};
}

std::shared_ptr<const Variables> Evaluation::run_subproject(const RelPath& folder) {
  auto [at, fresh] = projects_.try_emplace(folder, std::make_shared<const Variables>());
  if (!fresh) return at->second;
  RelPath script = folder / "meson.build";
  if (!tree_.is_file(script) || folders_.size() > kFolderLimit) return at->second;
  Variables outer = std::exchange(variables_, {});
  Guard outer_path = path_.taken;
  if (auto inside = both(path_.taken, worlds_->picked())) path_.taken = std::move(*inside);
  Base outer_root = root_;
  TracedText outer_subprojects = subprojects_;
  root_ = {folder, out_.files().index(script), Space::tree};
  folders_.push_back(root_);
  assign(kForAll, Value::of(Values()));
  run_script(script);
  folders_.pop_back();
  root_ = outer_root;
  subprojects_ = outer_subprojects;
  path_.taken = std::move(outer_path);
  projects_[folder] = std::make_shared<const Variables>(std::exchange(variables_, std::move(outer)));
  return projects_[folder];
}

Value Evaluation::do_subproject(const Call& call) {
  TracedText name = call.text(0);
  Value out;
  out.kind = Value::Kind::project;
  out.variables = std::make_shared<const Variables>();
  if (name.empty() || name.has_hole()) return out;
  Place inside = place_of(top_.folder, subprojects_.text());
  if (inside.space != Space::tree) return out;
  RelPath folder = inside.path / name.text();
  if (!tree_.is_folder(folder)) return out;
  // The name is looked up in that folder; a subproject cannot be anywhere else.
  out_.add(Reference::of(Role::subfolder, format_, key(), {inside.path, kNoFile, Space::tree}, name)
               .leading_to(folder));
  out.variables = run_subproject(folder);
  return out;
}

}  // namespace yc::meson
