// Reading a makefile: what its statements do to variables and rules.
#include <fmt/format.h>

#include <algorithm>

#include "formats/make/make_evaluation.h"
#include "formats/rival_values.h"
#include "model/add_reference.h"
#include "words/make.h"

namespace yc::make {

namespace {

// The implicit rules that GNU make knows by itself (manual, section 10.2), as a makefile.
constexpr std::string_view kBuiltIn = R"(
%.o: %.c
	$(CC) $(CFLAGS) $(CPPFLAGS) $(TARGET_ARCH) -c -o $@ $<
%.o: %.cc
	$(CXX) $(CXXFLAGS) $(CPPFLAGS) $(TARGET_ARCH) -c -o $@ $<
%.o: %.cpp
	$(CXX) $(CXXFLAGS) $(CPPFLAGS) $(TARGET_ARCH) -c -o $@ $<
%.o: %.C
	$(CXX) $(CXXFLAGS) $(CPPFLAGS) $(TARGET_ARCH) -c -o $@ $<
%.o: %.S
	$(CC) $(ASFLAGS) $(CPPFLAGS) -c -o $@ $<
%.o: %.s
	$(AS) $(ASFLAGS) -o $@ $<
%.c: %.y
	$(YACC) $(YFLAGS) $<
%.c: %.l
	$(LEX) $(LFLAGS) -t $< > $@
%: %.o
	$(CC) $(LDFLAGS) $(TARGET_ARCH) $^ $(LOADLIBES) $(LDLIBS) -o $@
%: %.c
	$(CC) $(CFLAGS) $(CPPFLAGS) $(LDFLAGS) $(TARGET_ARCH) $^ $(LOADLIBES) $(LDLIBS) -o $@
%: %.cc
	$(CXX) $(CXXFLAGS) $(CPPFLAGS) $(LDFLAGS) $(TARGET_ARCH) $^ $(LOADLIBES) $(LDLIBS) -o $@
%: %.cpp
	$(CXX) $(CXXFLAGS) $(CPPFLAGS) $(LDFLAGS) $(TARGET_ARCH) $^ $(LOADLIBES) $(LDLIBS) -o $@
%: %.sh
	cat $< >$@
)";

// A suffix rule such as ".c.o" as the pattern pair it stands for.
std::optional<std::pair<std::string, std::string>> suffix_rule(const std::string& target,
                                                               const std::set<std::string>& declared) {
  if (target.size() < 2 || target[0] != '.' || target.find('/') != std::string::npos) return std::nullopt;
  std::size_t second = target.find('.', 1);
  if (second == std::string::npos) return std::nullopt;
  std::string from = target.substr(0, second), to = target.substr(second);
  auto is_suffix = [&](const std::string& text) {
    return words::make::suffixes().contains(text) || declared.contains(text);
  };
  if (!is_suffix(from) || !is_suffix(to)) return std::nullopt;
  return std::pair("%" + to, "%" + from);
}

}  // namespace

namespace {

constexpr std::size_t kMostNested = 30;  // scripts that take each other in

}  // namespace

Evaluation::Evaluation(const TreeReader& tree, GraphBuilder& out, std::uint8_t format,
                       BranchExplorer& branches, UsedPlaces& used, Base base, SiteChain call)
    : tree_(tree),
      out_(out),
      format_(format),
      branches_(branches),
      used_(used),
      base_(std::move(base)),
      call_(std::move(call)) {}

void Evaluation::set_override(const std::string& name, const TracedText& value) {
  scope_[name] = Variable{value, true, true, false, {}};
}

SiteChain Evaluation::key_at(Site site) const {
  SiteChain key = call_;
  key.push_back(site);
  return key;
}

void Evaluation::read_file(const RelPath& makefile) {
  if (reading_.size() > kMostNested) {
    problem("runaway-expansion", {reading_.back(), 0}, "takes in other scripts too deeply");
    return;
  }
  auto bytes = tree_.read(makefile);
  FileIndex file = out_.files().index(makefile);
  if (!bytes) {
    out_.incomplete(Unread::no_access, "unreadable-script", makefile, std::nullopt, bytes.error().message);
    return;
  }
  if ((*bytes)->find('\0') != std::string::npos) {
    out_.incomplete(Unread::garbled, "binary-script", makefile, std::nullopt,
                    "holds NUL bytes and is not read as a makefile");
    return;
  }
  if (std::find(reading_.begin(), reading_.end(), file) != reading_.end()) {
    out_.notice("include-cycle", makefile, std::nullopt, "includes itself");
    return;
  }
  out_.admit(makefile, (*bytes)->size());
  if (!out_.spend((*bytes)->size() * 4)) {
    problem("runaway-expansion", {file, 0}, "was given up: scripts take each other in too often");
    return;
  }
  included_.insert(makefile);
  reading_.push_back(file);
  Syntax syntax = parse(**bytes, file, automake_);
  if (is_configured_) put_in_folders(syntax.block, file);
  for (const auto& [offset, message] : syntax.problems) {
    out_.incomplete(Unread::garbled, "garbled-script", makefile, Span{offset, offset}, message);
  }
  run(syntax.block);
  if (reading_.size() > 1) reading_.pop_back();
}

void Evaluation::run(const Block& block) {
  if (++depth_ > 150) {
    --depth_;
    return;
  }
  for (const Statement& statement : block) run_statement(statement);
  --depth_;
}

void Evaluation::run_statement(const Statement& statement) {
  out_.spend(50);
  bool is_setting = statement.kind == Statement::Kind::assign || statement.kind == Statement::Kind::exported;
  if (is_setting) expanded_.clear();
  if (is_emitting_ && !is_setting && statement.kind != Statement::Kind::bare &&
      statement.kind != Statement::Kind::conditional)
    return;
  switch (statement.kind) {
    case Statement::Kind::assign:
      open_rules_.clear();
      assign(statement, scope_);
      break;
    case Statement::Kind::rule:
      define_rule(statement);
      break;
    case Statement::Kind::recipe:
      for (std::size_t index : open_rules_)
        rules_[index].recipe.lines.emplace_back(statement.value, statement.site);
      break;
    case Statement::Kind::include:
      include(statement);
      break;
    case Statement::Kind::vpath:
      vpath(expand(statement.name));
      break;
    case Statement::Kind::exported:
      if (statement.name.empty()) exports_all_ = true;
      for (const TracedText& name : expand(statement.name).words()) scope_[name.text()].is_exported = true;
      break;
    case Statement::Kind::bare:
      expand(statement.value);
      break;
    case Statement::Kind::conditional: {
      for (const Branch& branch : statement.branches) expand(branch.condition);
      unsigned sides = static_cast<unsigned>(statement.branches.size()) + (statement.has_else ? 0 : 1);
      unsigned side = branches_.enter(statement.site, sides);
      for (std::size_t i = 0; i < statement.branches.size(); ++i) {
        if (i != side) note_unset(statement.branches[i].block);
      }
      if (side < statement.branches.size()) run(statement.branches[side].block);
      branches_.leave();
      break;
    }
  }
}

// A variable that only another side of a conditional sets is empty in this one.
void Evaluation::note_unset(const Block& block) {
  for (const Statement& statement : block) {
    if (statement.kind == Statement::Kind::assign && statement.name.text().find('$') == std::string::npos)
      unset_.insert(statement.name.text());
    for (const Branch& branch : statement.branches) note_unset(branch.block);
  }
}

void Evaluation::assign(const Statement& statement, Scope& scope) {
  TracedText word = expand(statement.name);
  std::string name = word.text();
  auto known = scope.find(name);
  bool fixed = known != scope.end() && known->second.from_command_line;
  if (&scope == &scope_ && !is_emitting_) assignments_.push_back(statement);
  if (fixed && !statement.is_override) return;
  bool fresh = known == scope.end();
  Variable& variable = scope[name];
  if (statement.op == "?=" && !fresh) return;
  if (&scope == &scope_ && statement.op != "+=")
    branches_.set(name, [&] { return could_lead_somewhere(tree_, base_.folder, variable.value.text()); });
  variable.site = statement.site;
  variable.name = std::move(word);
  variable.is_exported = variable.is_exported || statement.is_export;
  if (statement.op == "!=") {
    variable.value = shell_output(expand(statement.value));
    variable.simple = true;
  } else if (statement.op == "+=" && !fresh) {
    TracedText more = variable.simple ? expand(statement.value) : statement.value;
    if (!variable.value.empty()) variable.value.append(TracedText::plain(" "));
    variable.value.append(more);
  } else if (statement.op == "+=" && &scope != &scope_) {
    // The first "+=" of a target's own variable builds on the global one.
    variable.value = TracedText::plain("$(" + name + ") ");
    if (auto global = scope_.find(name); global != scope_.end()) {
      variable.value =
          global->second.simple ? global->second.value : expand(TracedText(global->second.value));
      variable.value.append(TracedText::plain(" "));
    } else {
      variable.value = TracedText();
    }
    variable.value.append(expand(statement.value));
    variable.simple = true;
  } else {
    variable.simple = statement.op == ":=";
    variable.value = variable.simple ? expand(statement.value) : statement.value;
  }
}

void Evaluation::target_assignment(const std::vector<TracedText>& targets, const Statement& assignment) {
  for (const TracedText& target : targets) {
    if (target.text().find('%') != std::string::npos) {
      Scope scope;  // what it says may define others
      assign(assignment, scope);
      pattern_scopes_.emplace_back(target, std::move(scope));
    } else {
      assign(assignment, target_scopes_[spelled(target)]);
      target_words_[spelled(target)].emplace_back(target, assignment.site);
    }
  }
  assignments_.push_back(assignment);
}

namespace {

// The words of a list; what a second expansion would still change is left out.
std::vector<TracedText> words_once(const TracedText& part, bool is_expanded_again) {
  if (!is_expanded_again || part.text().find('$') == std::string::npos) return part.words();
  std::vector<TracedText> words;
  std::string all = part.text();
  for (std::size_t at = 0; at < all.size();) {
    std::size_t end = std::min(find_outside(all, " \t", at), all.size());
    TracedText word = part.substr(at, end - at);
    if (!word.empty() && word.text().find('$') == std::string::npos) words.push_back(word);
    at = end + 1;
  }
  return words;
}

}  // namespace

void Evaluation::define_rule(const Statement& statement) {
  open_rules_.clear();
  std::vector<TracedText> targets = expand(statement.name).words();
  Statement assignment;
  assignment.site = statement.site;
  if (split_assignment(statement.value, assignment)) {
    target_assignment(targets, assignment);
    return;
  }
  TracedText rest = statement.value;
  std::string text = rest.text();
  Rule rule;
  rule.site = statement.site;
  std::size_t semicolon = find_outside(text, ";");
  if (semicolon != std::string::npos) {
    rule.recipe.lines.emplace_back(rest.substr(semicolon + 1).trimmed(), statement.site);
    rest = rest.substr(0, semicolon);
  }
  if (targets.empty()) return;
  std::string first = targets.front().text();
  if (first == ".SECONDEXPANSION") secondary_ = true;
  TracedText expanded = expand(rest);
  text = expanded.text();
  // Static pattern rule: "targets: target-pattern: prerequisite-patterns".
  std::size_t colon = text.find(':');
  TracedText target_pattern;
  if (colon != std::string::npos && text.find('%') < colon) {
    target_pattern = expanded.substr(0, colon).trimmed();
    expanded = expanded.substr(colon + 1);
    text = expanded.text();
  }
  std::size_t bar = text.find('|');
  rule.prerequisites = words_once(expanded.substr(0, bar), secondary_);
  if (bar != std::string::npos) rule.order_only = words_once(expanded.substr(bar + 1), secondary_);
  if (note_special(first, rule.prerequisites)) return;
  // What else it would depend on is ignored.
  if (auto pair = suffix_rule(first, suffixes_); pair && targets.size() == 1) {
    rule.targets = {TracedText::plain(pair->first)};
    rule.prerequisites = {TracedText::plain(pair->second)};
    rule.is_pattern = true;
  } else {
    rule.targets = std::move(targets);
    rule.is_pattern = target_pattern.empty() && first.find('%') != std::string::npos;
  }
  if (!target_pattern.empty()) {
    for (const TracedText& target : rule.targets) {
      rule.static_stems.push_back(match_percent(target_pattern, target).value_or(TracedText()));
    }
  }
  rule.static_form = std::move(target_pattern);
  if (rule.is_pattern) {
    for (const TracedText& target : rule.targets) rule.target_texts.push_back(target.text());
  }
  add_rule(std::move(rule));
}

// Targets that tell make something. True for those that make nothing.
bool Evaluation::note_special(const std::string& first, const std::vector<TracedText>& prerequisites) {
  if (first == ".PHONY") {
    for (const TracedText& name : prerequisites) phony_.insert(spelled(name));
  }
  if (first == ".SUFFIXES") {
    if (prerequisites.empty()) built_in_ = false;
    for (const TracedText& suffix : prerequisites) suffixes_.insert(suffix.text());
  }
  if (first.size() > 1 && first[0] == '.' && std::isupper(static_cast<unsigned char>(first[1]))) return true;
  if (automake_ && first[0] == '.' && scope_.contains("SUFFIXES")) {
    for (const TracedText& suffix : expand_variable("SUFFIXES").words()) suffixes_.insert(suffix.text());
  }
  return false;
}

void Evaluation::add_rule(Rule rule) {
  rules_.push_back(std::move(rule));
  open_rules_.push_back(rules_.size() - 1);
  if (rules_.back().is_pattern) {
    pattern_rules_.push_back(rules_.size() - 1);
  } else {
    Rule& added = rules_.back();
    for (std::size_t i = 0; i < added.targets.size(); ++i) {
      std::string name = spelled(added.targets[i]);
      rules_by_target_[name].push_back(rules_.size() - 1);
      if (!added.static_stems.empty()) added.static_targets.try_emplace(std::move(name), i);
    }
  }
}

void Evaluation::include(const Statement& statement) {
  open_rules_.clear();
  for (const TracedText& word : expand(statement.name).words()) {
    if (word.has_hole()) {
      add_unseen(out_, tree_, word, base_, format_, key_at(statement.site));
      continue;
    }
    Reference reference = reference_by(word, Role::script, key_at(statement.site));
    reference.in_list = true;
    std::vector<RelPath> found = match_paths(tree_, base_.folder, word.text());
    reference.lead_to(found);
    if (has_wildcard(word.text())) reference.kind = GlobPattern{};
    // A missing file may be made by a rule, as dependency files are; only then is it not an error.
    reference.dangling = found.empty() && statement.op == "include";
    add(std::move(reference));
    for (const RelPath& path : found) {
      if (tree_.is_file(path)) read_file(path);
    }
  }
}

void Evaluation::vpath(const TracedText& arguments) {
  open_rules_.clear();
  std::vector<TracedText> words = arguments.words(" \t:");
  if (words.empty()) {
    vpaths_.clear();
    return;
  }
  std::vector<TracedText> folders(words.begin() + 1, words.end());
  if (folders.empty()) {
    std::erase_if(vpaths_, [&](const auto& entry) { return entry.first.text() == words.front().text(); });
  } else {
    vpaths_.emplace_back(words.front(), std::move(folders));
  }
}

void Evaluation::read_built_in() {
  if (auto flags = scope_.find("MAKEFLAGS"); flags != scope_.end()) {
    for (const TracedText& word : expand(TracedText(flags->second.value)).words()) {
      if (word.text() == "-r" || word.text() == "--no-builtin-rules" || word.text() == "-rR")
        built_in_ = false;
    }
  }
  if (!built_in_) return;
  std::size_t before = rules_.size();
  Syntax syntax = parse(kBuiltIn, kNoFile);
  run(syntax.block);
  for (std::size_t i = before; i < rules_.size(); ++i) rules_[i].is_built_in = true;
  open_rules_.clear();
}

}  // namespace yc::make
