// Control flow: scripts, folders entered, branches, loops, subprojects.
#include <algorithm>

#include "formats/meson/meson_evaluation.h"
#include "formats/rival_values.h"

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

Evaluation::Evaluation(const TreeReader& tree, FactsCache& cache, GraphBuilder& out, std::uint8_t format,
                       BranchExplorer& branches)
    : tree_(tree), cache_(cache), out_(out), format_(format), branches_(branches) {}

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
  if (script.bytes) out_.admit(path, script.bytes->size());
  scripts_.push_back(&script);
  run(script.syntax->statements);
  returning_ = false;
  scripts_.pop_back();
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
        if (statement.value) evaluate(*statement.value);
        break;
      case Statement::Kind::assign: {
        Value value = evaluate(*statement.value);
        branches_.set(statement.name, [&] {
          Values known = variables_[statement.name].flat();
          return std::any_of(known.begin(), known.end(), [&](const Value& item) {
            return item.kind == Value::Kind::file ||
                   could_lead_somewhere(tree_, base().folder, item.as_text().text());
          });
        });
        assign(statement.name, std::move(value));
        break;
      }
      case Statement::Kind::append:
        append(statement.name, evaluate(*statement.value));
        break;
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

void Evaluation::append(const std::string& name, const Value& more) {
  const Value& known = variables_[name];
  if (known.kind == Value::Kind::list) {
    Values items = *known.items;
    Values added = more.kind == Value::Kind::list ? *more.items : Values{more};
    std::move(added.begin(), added.end(), std::back_inserter(items));
    assign(name, Value::of(std::move(items)));
  } else if (known.kind == Value::Kind::text && more.kind == Value::Kind::text) {
    TracedText text = known.text;
    text.append(more.text);
    assign(name, Value::of(std::move(text)));
  } else if (known.kind == Value::Kind::dictionary && more.kind == Value::Kind::dictionary) {
    Entries entries = *known.entries;
    entries.insert(entries.end(), more.entries->begin(), more.entries->end());
    assign(name, Value::of(std::move(entries)));
  } else if (known.kind == Value::Kind::unknown) {
    // What was there before cannot be known; what is added can.
    Values items = {Value()};
    Values added = more.flat();
    std::move(added.begin(), added.end(), std::back_inserter(items));
    assign(name, Value::of(std::move(items)));
  } else {
    assign(name, Value());
  }
}

void Evaluation::assign(const std::string& name, Value value) {
  if (!rounds_.empty()) loop_names_.insert(name);
  variables_[name] = std::move(value);
}

bool Evaluation::mentions_loop(const Node& node) const {
  bool out = false;
  each_name(node, [&](const std::string& name) { out = out || loop_names_.contains(name); });
  return out;
}

// Known only where a loop decides it: a constant in a script is there for people to change, and what depends
// on it must hold either way.
std::optional<bool> Evaluation::condition(const Node& node) {
  Value value = evaluate(node);
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
  unsigned side = branches_.enter({script().file, statement.span.begin}, sides);
  if (side < open.size()) run(open[side]->body);
  branches_.leave();
}

void Evaluation::run_loop(const Statement& statement) {
  if (!statement.value) return;
  Value over = evaluate(*statement.value);
  std::vector<Values> rounds;
  if (over.kind == Value::Kind::dictionary) {
    for (const auto& [key, value] : *over.entries) rounds.push_back({Value::of(key), value});
  } else if (over.kind == Value::Kind::list) {
    for (const Value& item : *over.items) rounds.push_back({item});
  } else {
    rounds.push_back({Value(), Value()});  // nobody knows over what it runs
  }
  rounds_.push_back(0);
  for (Values& round : rounds) {
    for (std::size_t i = 0; i < statement.variables.size(); ++i)
      assign(statement.variables[i], i < round.size() ? round[i] : Value());
    run(statement.body);
    continuing_ = false;
    ++rounds_.back();
    if (breaking_ || returning_) break;
  }
  breaking_ = false;
  rounds_.pop_back();
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
  bool again = read_.contains(path);
  if (again || folders_.size() > kFolderLimit) return {};  // Meson refuses to enter one twice
  folders_.push_back({place.path, out_.files().index(path), Space::tree});
  run_script(path);
  folders_.pop_back();
  return {};
}

Value Evaluation::do_subdir_done(const Call&) {
  returning_ = true;
  return {};
}

std::shared_ptr<const Variables> Evaluation::run_subproject(const RelPath& folder) {
  auto [known, fresh] = projects_.try_emplace(folder, std::make_shared<const Variables>());
  if (!fresh) return known->second;
  RelPath script = folder / "meson.build";
  if (!tree_.is_file(script) || folders_.size() > kFolderLimit) return known->second;
  Variables outer;
  outer.swap(variables_);
  Base outer_root = root_;
  Bundle outer_all = for_all_;
  TracedText outer_subprojects = subprojects_;
  root_ = {folder, out_.files().index(script), Space::tree};
  for_all_ = {};
  folders_.push_back(root_);
  run_script(script);
  folders_.pop_back();
  root_ = outer_root;
  for_all_ = outer_all;
  subprojects_ = outer_subprojects;
  outer.swap(variables_);
  projects_[folder] = std::make_shared<const Variables>(std::move(outer));
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
