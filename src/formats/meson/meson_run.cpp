// Control flow: scripts, folders entered, branches, loops, subprojects.
#include <algorithm>

#include "formats/meson/meson_evaluation.h"
#include "formats/rival_values.h"

namespace yc::meson {

namespace {

constexpr std::size_t kStepLimit = 200'000;  // statements in one run
constexpr std::size_t kFolderLimit = 60;
// Before a variable's name among the reads of a step: whether a loop sets it.
constexpr char kLoopSets = ' ';

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

Evaluation::Evaluation(const TreeReader& tree, FactsCache& cache, GraphBuilder& out, std::uint8_t format,
                       BranchExplorer& branches, Memory& memory)
    : tree_(tree), cache_(cache), out_(out), format_(format), branches_(branches), memory_(memory) {}

void Evaluation::run_project(const RelPath& top) {
  root_ = {top.parent(), out_.files().index(top), Space::tree};
  top_ = root_;
  folders_.push_back(root_);
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
  // What another script does is no part of the step that has it run.
  take_anew();
  Recording* outer = std::exchange(recording_, nullptr);
  if (script.bytes) out_.admit(path, script.bytes->size());
  scripts_.push_back(&script);
  run(script.syntax->statements);
  returning_ = false;
  scripts_.pop_back();
  recording_ = outer;
}

// The step that is being taken is taken again in every run.
void Evaluation::take_anew() {
  if (recording_) recording_->is_kept = false;
}

// The value of a step: what it gave in an earlier run, if all that it reads is as it was then.
template <typename Take>
Stamped Evaluation::step(std::uint32_t offset, const Take& take) {
  std::string& key = step_key_;
  key.clear();
  add_site(key, {script().file, offset});
  add_number(key, root_.anchor);
  for (const auto& [loop, round] : rounds_) add_number(key, round);
  auto now = [&](const std::string& name) {
    if (name.starts_with(kLoopSets)) return Stamp{loop_names_.contains(name.substr(1)) ? 1U : 0U};
    return stamp_of(name);
  };
  if (const Remembered<Gave>* known = memory_.steps.find(key, now)) {
    if (recording_) {
      for (const auto& [name, stamp] : known->reads) {
        if (!recording_->set.contains(name)) recording_->reads.emplace(name, stamp);
      }
    }
    retake(known->gave);
    return known->gave.value;
  }
  std::string kept_key = key;
  Recording recording;
  Recording* outer = std::exchange(recording_, &recording);
  Stamped out = memory_.stamped(take());
  recording_ = outer;
  if (outer) close(recording);
  if (!recording.is_kept) return out;
  Gave gave{out, {}, recording.in_loop, recording.assigned};
  for (const std::string& name : recording.set) gave.set.emplace_back(name, variables_[name]);
  memory_.steps.keep(kept_key, {recording.reads.begin(), recording.reads.end()}, std::move(gave));
  return out;
}

// What a step did to the variables, without taking it.
void Evaluation::retake(const Gave& gave) {
  for (const std::string& name : gave.assigned) note_assigned(name);
  loop_names_.insert(gave.in_loop.begin(), gave.in_loop.end());
  if (recording_) recording_->in_loop.insert(gave.in_loop.begin(), gave.in_loop.end());
  for (const auto& [name, value] : gave.set) assign(name, value);
}

// A step ends that is a part of another.
void Evaluation::close(const Recording& recording) {
  for (const auto& [name, stamp] : recording.reads) {
    if (!recording_->set.contains(name)) recording_->reads.emplace(name, stamp);
  }
  recording_->set.insert(recording.set.begin(), recording.set.end());
  recording_->in_loop.insert(recording.in_loop.begin(), recording.in_loop.end());
  recording_->assigned.insert(recording.assigned.begin(), recording.assigned.end());
  recording_->is_kept = recording_->is_kept && recording.is_kept;
}

void Evaluation::note_assigned(const std::string& name) {
  if (recording_) recording_->assigned.insert(name);
  auto matters = [&] {
    auto before = variables_.find(name);
    Values known = before == variables_.end() ? Values() : before->second.value->flat();
    return std::any_of(known.begin(), known.end(), [&](const Value& item) {
      if (item.kind == Value::Kind::boolean || item.is_object("boolean")) return false;
      return item.kind == Value::Kind::file ||
             could_lead_somewhere(tree_, base().folder, item.as_text().text());
    });
  };
  branches_.set(name, matters, rounds_);
}

void Evaluation::run(const std::vector<Statement>& statements) {
  for (const Statement& statement : statements) {
    if (returning_ || breaking_ || continuing_) return;
    if (++steps_ > kStepLimit || !out_.spend(100)) {
      out_.incomplete(Unread::cut_short, "runaway-script", out_.files().path(script().file), statement.span,
                      "was given up: it runs too long");
      return;
    }
    switch (statement.kind) {
      case Statement::Kind::expression:
        if (statement.value) step(statement.span.begin, [&] { return evaluate(*statement.value); });
        break;
      case Statement::Kind::assign: {
        Stamped value = step(statement.span.begin, [&] { return evaluate(*statement.value); });
        note_assigned(statement.name);
        assign(statement.name, std::move(value));
        break;
      }
      case Statement::Kind::append: {
        // A list that grows is not kept as it was after each step: what is added is.
        Stamped more = step(statement.span.begin, [&] { return evaluate(*statement.value); });
        Stamp before = stamp_of(statement.name);
        auto whole = std::make_shared<const Value>(appended(statement.name, *more.value));
        assign(statement.name, Stamped{std::move(whole), memory_.stamp_of_sum(before, more.stamp)});
        break;
      }
      case Statement::Kind::branches:
        run_branches(statement);
        break;
      case Statement::Kind::loop:
        run_loop(statement);
        break;
      case Statement::Kind::leave:
        breaking_ = !rounds_.empty();
        break;
      case Statement::Kind::again:
        continuing_ = !rounds_.empty();
        break;
    }
  }
}

Value Evaluation::appended(const std::string& name, const Value& more) {
  const Value* before = variable(name);
  Value known = before ? *before : Value();
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

void Evaluation::assign(const std::string& name, Value value) {
  assign(name, memory_.stamped(std::move(value)));
}

void Evaluation::assign(const std::string& name, Stamped value) {
  if (!rounds_.empty()) {
    loop_names_.insert(name);
    if (recording_) recording_->in_loop.insert(name);
  }
  if (recording_) recording_->set.insert(name);
  variables_[name] = std::move(value);
}

Stamp Evaluation::stamp_of(const std::string& name) const {
  auto known = variables_.find(name);
  return known == variables_.end() ? Stamp{0} : known->second.stamp;
}

const Value* Evaluation::variable(const std::string& name) {
  auto known = variables_.find(name);
  bool is_there = known != variables_.end();
  if (recording_ && !recording_->set.contains(name))
    recording_->reads.emplace(name, is_there ? known->second.stamp : Stamp{0});
  return is_there ? known->second.value.get() : nullptr;
}

bool Evaluation::mentions_loop(const Node& node) const {
  bool out = false;
  each_name(node, [&](const std::string& name) {
    bool is_set = loop_names_.contains(name);
    if (recording_) recording_->reads.emplace(kLoopSets + name, is_set ? 1 : 0);
    out = out || is_set;
  });
  return out;
}

// Known only where a loop decides it: a constant in a script is there for people to change, and what depends
// on it must hold either way.
std::optional<bool> Evaluation::condition(const Node& node) {
  // In a ternary it is a part of the step that it stands in.
  Value value = in_ternary_ ? evaluate(node) : *step(node.span.begin, [&] { return evaluate(node); }).value;
  if (rounds_.empty() || value.kind != Value::Kind::boolean || !mentions_loop(node)) return std::nullopt;
  return value.flag;
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
  unsigned sides = static_cast<unsigned>(open.size()) + (complete ? 0 : 1);
  take_anew();  // every run says which side it takes
  unsigned side = branches_.enter({script().file, statement.span.begin}, sides);
  if (side < open.size()) run(open[side]->body);
  branches_.leave();
}

// A loop whose rounds meet no conditional that could go either way is one step.
void Evaluation::run_loop(const Statement& statement) {
  if (!statement.value) return;
  step(statement.span.begin, [&] {
    take_loop(statement);
    return Value();
  });
}

void Evaluation::take_loop(const Statement& statement) {
  Stamped over = step(statement.value->span.begin, [&] { return evaluate(*statement.value); });
  rounds_.emplace_back(Site{script().file, statement.span.begin}, 0);
  for (const std::vector<Stamped>& round : memory_.rounds_over(over)) {
    for (std::size_t i = 0; i < statement.variables.size(); ++i)
      assign(statement.variables[i], i < round.size() ? round[i] : memory_.stamped(Value()));
    run(statement.body);
    continuing_ = false;
    ++rounds_.back().second;
    if (breaking_ || returning_) break;
  }
  breaking_ = false;
  rounds_.pop_back();
}

Value Evaluation::do_subdir(const Call& call) {
  take_anew();
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
  bool again = read_.contains(path);
  if (again || folders_.size() > kFolderLimit) return {};  // Meson refuses to enter one twice
  folders_.push_back({place.path, out_.files().index(path), Space::tree});
  run_script(path);
  folders_.pop_back();
  return {};
}

Value Evaluation::do_subdir_done(const Call&) {
  take_anew();
  returning_ = true;
  return {};
}

std::shared_ptr<const Variables> Evaluation::run_subproject(const RelPath& folder) {
  auto [at, fresh] = projects_.try_emplace(folder, std::make_shared<const Variables>());
  if (!fresh) return at->second;
  RelPath script = folder / "meson.build";
  if (!tree_.is_file(script) || folders_.size() > kFolderLimit) return at->second;
  std::unordered_map<std::string, Stamped> outer;
  outer.swap(variables_);
  Base outer_root = root_;
  TracedText outer_subprojects = subprojects_;
  root_ = {folder, out_.files().index(script), Space::tree};
  folders_.push_back(root_);
  run_script(script);
  folders_.pop_back();
  root_ = outer_root;
  subprojects_ = outer_subprojects;
  outer.swap(variables_);
  Variables known;
  for (auto& [name, variable] : outer) known.emplace(name, *variable.value);
  projects_[folder] = std::make_shared<const Variables>(std::move(known));
  return projects_[folder];
}

Value Evaluation::do_subproject(const Call& call) {
  take_anew();
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
