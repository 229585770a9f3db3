// Control flow: scripts, branches, loops, functions.
#include <fmt/format.h>

#include <algorithm>

#include "base/hash.h"
#include "base/text.h"
#include "formats/cmake/cmake_evaluation.h"
#include "formats/rival_values.h"
#include "words/cmake.h"

namespace yc::cmake {

namespace {

constexpr std::size_t kStepLimit = 200'000;  // commands in one run; stops endless recursion
constexpr std::size_t kDepthLimit = 60;

}  // namespace

Evaluation::Evaluation(const TreeReader& tree, GraphBuilder& out, std::uint8_t format,
                       BranchExplorer& branches, ParsedScripts& parsed)
    : tree_(tree), out_(out), format_(format), branches_(branches), parsed_(parsed) {}

void Evaluation::begin_in(const RelPath& top) {
  FileIndex file = out_.files().index(top);
  folders_.push_back({Base{top.parent(), file, Space::tree}, {}, {}, {}});
  for (const char* kind : {"CMAKE", "PROJECT"}) {
    for (bool binary : {false, true}) {
      variables_.set(std::string(kind) + (binary ? "_BINARY_DIR" : "_SOURCE_DIR"),
                     TracedText::folder(binary ? Piece::Nature::build_folder : Piece::Nature::tree_folder,
                                        file, marked(binary ? Space::build : Space::tree, top.parent())));
    }
  }
}

void Evaluation::run_project(const RelPath& top) {
  begin_in(top);
  run_script(top);
  emit_unread_values();
  emit_units();
  emit_installed();
}

void Evaluation::run_loose(const RelPath& script, const RelPath& top) {
  bool has_project = tree_.is_file(top / "CMakeLists.txt");
  begin_in(has_project ? top / "CMakeLists.txt" : script);
  folders_.back().base.space = Space::outside;  // nobody knows where it is started
  run_script(script);
  emit_unread_values();
}

void Evaluation::run_folder(const RelPath& script, const Base& folder_base) {
  std::size_t outer = folder_;
  Folder folder = folders_[folder_];  // search roots and libraries are inherited
  folder.base = folder_base;
  folders_.push_back(std::move(folder));
  folder_ = folders_.size() - 1;
  out_.spend(100);
  enter_scope();
  std::vector<Site> calls;
  calls.swap(calls_);
  run_script(script);
  calls_.swap(calls);
  leave_scope();
  folder_ = outer;
}

void Evaluation::enter_scope() {
  variables_.enter();
  unsigned before = entered_[{scopes_.back(), here_}]++;
  std::string place = fmt::format("{}/{}:{}:{}", scopes_.back(), here_.file, here_.offset, before);
  scopes_.push_back(fmt::format("{:x}", seeded_hash(place, 0).low));
}

void Evaluation::leave_scope() {
  variables_.leave();
  scopes_.pop_back();
}

// Says that a variable gets another value. One of a function or a folder is none of what stands outside, and
// begins with the value that is seen from there.
void Evaluation::tell_set(const std::string& name, bool in_parent, const std::string& before) {
  std::vector<std::string> all;
  for (auto scope = scopes_.rbegin() + (in_parent ? 1 : 0); scope != scopes_.rend(); ++scope)
    all.push_back(*scope + " " + name);
  std::string own = std::move(all.front());
  all.erase(all.begin());
  branches_.set(
      own, [&] { return could_lead_somewhere(tree_, base().folder, before); }, {}, all);
}

void Evaluation::run_script(const RelPath& path) {
  if (scripts_.size() > kDepthLimit) {
    out_.incomplete(Unread::cut_short, "include-cycle", path, std::nullopt, "includes nest too deeply");
    return;
  }
  std::shared_ptr<const Script>& known = parsed_[path];
  auto bytes = tree_.read(path);  // asked each time: who keeps what a project comes to must know
  if (!bytes) return;
  if (!known || (known->bytes != *bytes && *known->bytes != **bytes)) {
    auto script = std::make_shared<Script>();
    script->file = out_.files().index(path);
    script->bytes = *bytes;
    script->is_binary = (*bytes)->find('\0') != std::string::npos;
    if (!script->is_binary) script->syntax = parse(**bytes);
    known = script;
  }
  if (known->is_binary)
    out_.incomplete(Unread::garbled, "binary-script", path, std::nullopt,
                    "holds NUL bytes and is not read as a CMake script");
  for (const auto& [offset, message] : known->syntax.problems)
    out_.incomplete(Unread::garbled, "garbled-script", path, Span{offset, offset}, message);
  std::shared_ptr<const Script> script = known;
  read_.insert(path);
  if (script->bytes) out_.admit(path, script->bytes->size());
  bool cycle = std::any_of(scripts_.begin(), scripts_.end(),
                           [&](const auto& other) { return other->file == script->file; });
  if (cycle) {
    out_.notice("include-cycle", path, std::nullopt, "includes itself");
    return;
  }
  scripts_.push_back(script);
  run_body({script, 0, script->syntax.commands.size()});
  returning_ = false;
  scripts_.pop_back();
}

std::size_t Evaluation::block_end(const Body& body, std::size_t at, const std::string& open,
                                  const std::string& close) const {
  int depth = 0;
  for (std::size_t i = at; i < body.end; ++i) {
    // Blocks in blocks are looked through again and again. Once all is spent, the next command says so.
    if (i % 64 == 0 && !out_.spend(64)) return body.end;
    const std::string& name = body.script->syntax.commands[i].name;
    if (name == open) ++depth;
    if (name == close && --depth == 0) return i;
  }
  out_.incomplete(Unread::garbled, "garbled-script", out_.files().path(body.script->file),
                  body.script->syntax.commands[at].span, fmt::format("{} has no {}", open, close));
  return body.end;
}

void Evaluation::run_body(const Body& body) {
  constexpr int kDeepest = 400;
  if (blocks_ > kDeepest) {
    give_up("was given up: its blocks nest too deeply");
    return;
  }
  ++blocks_;
  run_commands(body);
  --blocks_;
}

void Evaluation::run_commands(const Body& body) {
  const auto& commands = body.script->syntax.commands;
  for (std::size_t i = body.begin; i < body.end && !returning_ && !breaking_;) {
    const Command& command = commands[i];
    if (++steps_ > kStepLimit || !out_.spend(100)) {
      out_.incomplete(Unread::cut_short, "runaway-script", out_.files().path(body.script->file), command.span,
                      "was given up: it runs too long");
      return;
    }
    here_ = {body.script->file, command.span.begin};
    if (command.name == "if") {
      i = run_if(body, i);
    } else if (command.name == "foreach" || command.name == "while") {
      i = run_loop(body, i);
    } else if (command.name == "function" || command.name == "macro") {
      i = define_routine(body, i);
    } else {
      run_command(command);
      ++i;
    }
  }
}

// Whether two texts that a loop or a call gave are equal; nothing where that is not what the condition asks,
// or where a user could have set a part of it otherwise.
std::optional<bool> Evaluation::comparison(const Command& command, const Words& words) const {
  if (loops_ == 0 && calls_.empty()) return std::nullopt;
  if (words.size() != 3 || words[1].text() != "STREQUAL" || words[0].has_hole() || words[2].has_hole())
    return std::nullopt;
  bool quoted = command.arguments[0].kind == Argument::Kind::quoted &&
                command.arguments.back().kind == Argument::Kind::quoted;
  if (!quoted || command.arguments.size() != 3) return std::nullopt;
  return words[0].text() == words[2].text();
}

std::optional<bool> Evaluation::condition(const Command& command) {
  Words words = words_of(command);
  for (std::size_t i = 0; i < words.size(); ++i) {
    std::string text = words[i].text();
    bool tested = (text == "EXISTS" || text == "IS_DIRECTORY") && i + 1 < words.size();
    if (tested) refer_here(words[i + 1], Role::argument, Certainty::likely, false);
  }
  return comparison(command, words);
}

std::size_t Evaluation::run_if(const Body& body, std::size_t at) {
  const auto& commands = body.script->syntax.commands;
  std::size_t end = block_end(body, at, "if", "endif");
  std::vector<std::size_t> starts = {at};
  bool has_else = false;
  int depth = 0;
  for (std::size_t i = at; i < end; ++i) {
    if (commands[i].name == "if") ++depth;
    if (commands[i].name == "endif") --depth;
    if (depth == 1 && (commands[i].name == "elseif" || commands[i].name == "else")) {
      starts.push_back(i);
      has_else = has_else || commands[i].name == "else";
    }
  }
  auto run_side = [&](std::size_t side) {
    std::size_t stop = side + 1 < starts.size() ? starts[side + 1] : end;
    run_body({body.script, starts[side] + 1, stop});
  };
  // The side that is taken for certain: all before it are known not to be.
  std::optional<std::size_t> taken;
  bool all_known = true;
  for (std::size_t i = 0; i < starts.size(); ++i) {
    here_ = {body.script->file, commands[starts[i]].span.begin};
    auto known = commands[starts[i]].name == "else" ? std::optional(true) : condition(commands[starts[i]]);
    if (!taken && all_known && known && *known) taken = i;
    all_known = all_known && (taken || known);
  }
  if (all_known) {
    if (taken) run_side(*taken);
    return end + 1;
  }
  unsigned sides = static_cast<unsigned>(starts.size()) + (has_else ? 0 : 1);
  unsigned side = branches_.enter({body.script->file, commands[at].span.begin}, sides);
  if (side < starts.size()) run_side(side);
  branches_.leave();
  return end + 1;
}

std::size_t Evaluation::run_loop(const Body& body, std::size_t at) {
  const Command& head = body.script->syntax.commands[at];
  std::size_t end = block_end(body, at, head.name, "end" + head.name);
  Body inside{body.script, at + 1, end};
  Words words = words_of(head);
  if (head.name == "while" || words.empty()) {
    run_body(inside);
    breaking_ = false;
    return end + 1;
  }
  std::string name = words[0].text();
  Words items;
  std::string mode = words.size() > 1 ? words[1].text() : "";
  if (mode == "IN") {
    bool lists = false;
    for (std::size_t i = 2; i < words.size(); ++i) {
      std::string text = words[i].text();
      if (text == "LISTS" || text == "ZIP_LISTS") {
        lists = true;
      } else if (text == "ITEMS") {
        lists = false;
      } else if (lists) {
        for (TracedText& item : variable(text).split(';')) {
          if (!item.empty()) items.push_back(std::move(item));
        }
      } else {
        items.push_back(words[i]);
      }
    }
  } else if (mode == "RANGE") {
    items.push_back(TracedText::hole());
  } else {
    items.assign(words.begin() + 1, words.end());
  }
  std::optional<TracedText> saved;
  if (const TracedText* known = variables_.find(name)) saved = *known;
  ++loops_;
  for (const TracedText& item : items) {
    variables_.set(name, item);
    run_body(inside);
    breaking_ = false;
    if (returning_) break;
  }
  --loops_;
  if (saved) {
    variables_.set(name, *saved);
  } else {
    variables_.unset(name);
  }
  return end + 1;
}

std::size_t Evaluation::define_routine(const Body& body, std::size_t at) {
  const Command& head = body.script->syntax.commands[at];
  std::size_t end = block_end(body, at, head.name, "end" + head.name);
  Words words = words_of(head);
  if (!words.empty()) {
    Routine routine;
    routine.is_macro = head.name == "macro";
    routine.body = {body.script, at + 1, end};
    for (std::size_t i = 1; i < words.size(); ++i) routine.parameters.push_back(words[i].text());
    std::string name = words[0].text();
    name = lowered(name);
    routines_[name] = std::move(routine);
  }
  return end + 1;
}

void Evaluation::call_routine(const Routine& routine, const Words& words) {
  if (calls_.size() > kDepthLimit) {
    give_up("calls nest too deeply");
    return;
  }
  if (!out_.spend(100)) return;
  std::map<std::string, TracedText> given;
  for (std::size_t i = 0; i < routine.parameters.size(); ++i)
    given[routine.parameters[i]] = i < words.size() ? words[i] : TracedText();
  Words rest;
  for (std::size_t i = routine.parameters.size(); i < words.size(); ++i) rest.push_back(words[i]);
  given["ARGN"] = join(rest, ";");
  given["ARGV"] = join(words, ";");
  given["ARGC"] = TracedText::plain(std::to_string(words.size()));
  for (std::size_t i = 0; i < words.size(); ++i) given["ARGV" + std::to_string(i)] = words[i];
  calls_.push_back(here_);
  scripts_.push_back(routine.body.script);
  if (routine.is_macro) {
    std::map<std::string, std::optional<TracedText>> saved;
    for (auto& [name, value] : given) {
      const TracedText* known = variables_.find(name);
      saved[name] = known ? std::optional(*known) : std::nullopt;
      variables_.set(name, value);
    }
    run_body(routine.body);
    for (auto& [name, value] : saved) {
      if (value) {
        variables_.set(name, *value);
      } else {
        variables_.unset(name);
      }
    }
  } else {
    enter_scope();
    for (auto& [name, value] : given) variables_.set(name, value);
    run_body(routine.body);
    leave_scope();
    returning_ = false;
  }
  scripts_.pop_back();
  here_ = calls_.back();
  calls_.pop_back();
}

void Evaluation::set_variable(const std::string& name, TracedText value) {
  branches_.change(scopes_.back() + " " + name);
  variables_.set(name, std::move(value));
}

Evaluation::Handler Evaluation::handler_for(const std::string& name) {
  static const std::unordered_map<std::string, Handler> handlers = {
      {"set", &Evaluation::do_set},
      {"unset", &Evaluation::do_unset},
      {"list", &Evaluation::do_list},
      {"string", &Evaluation::do_string},
      {"get_filename_component", &Evaluation::do_filename},
      {"cmake_parse_arguments", &Evaluation::do_parse_arguments},
      {"project", &Evaluation::do_project},
      {"include", &Evaluation::do_include},
      {"add_subdirectory", &Evaluation::do_subdirectory},
      {"file", &Evaluation::do_file},
      {"configure_file", &Evaluation::do_configure_file},
      {"configure_package_config_file", &Evaluation::do_configure_file},
      {"install", &Evaluation::do_install},
      {"add_custom_command", &Evaluation::do_custom},
      {"add_custom_target", &Evaluation::do_custom},
      {"add_test", &Evaluation::do_test},
      {"execute_process", &Evaluation::do_execute},
      {"find_package", &Evaluation::do_find_package},
      {"set_source_files_properties", &Evaluation::do_source_properties},
      {"set_property", &Evaluation::do_property},
      {"set_directory_properties", &Evaluation::do_folder_properties},
      {"aux_source_directory", &Evaluation::do_aux_source},
      {"add_executable", &Evaluation::do_add_target},
      {"add_library", &Evaluation::do_add_target},
      {"target_sources", &Evaluation::do_target_sources},
      {"target_include_directories", &Evaluation::do_target_includes},
      {"target_link_libraries", &Evaluation::do_target_links},
      {"target_compile_options", &Evaluation::do_target_options},
      {"add_compile_options", &Evaluation::do_target_options},
      {"target_precompile_headers", &Evaluation::do_precompile},
      {"include_directories", &Evaluation::do_include_directories},
      {"link_libraries", &Evaluation::do_link_libraries},
      {"add_dependencies", &Evaluation::do_target_names},
      {"set_target_properties", &Evaluation::do_target_properties},
      {"set_tests_properties", &Evaluation::do_test_properties},
      {"get_target_property", &Evaluation::do_target_names},
      {"target_compile_definitions", &Evaluation::do_definitions},
      {"target_compile_features", &Evaluation::do_target_names},
      {"target_link_options", &Evaluation::do_target_names},
      {"add_definitions", &Evaluation::do_definitions},
      {"add_compile_definitions", &Evaluation::do_definitions}};
  if (words::cmake::silent_commands().contains(name)) return &Evaluation::do_nothing;
  if (words::cmake::unknown_result_commands().contains(name)) return &Evaluation::do_unknown_result;
  auto at = handlers.find(name);
  return at == handlers.end() ? &Evaluation::do_other : at->second;
}

void Evaluation::run_command(const Command& command) {
  if (command.name == "return") {
    returning_ = true;
    return;
  }
  if (command.name == "break" || command.name == "continue") {
    breaking_ = true;
    return;
  }
  Words words = words_of(command);
  for (const auto& word : words) note_written_includes(word);
  if (auto routine = routines_.find(command.name); routine != routines_.end()) {
    Routine copy = routine->second;
    call_routine(copy, words);
    return;
  }
  std::size_t references = out_.added().size();
  (this->*handler_for(command.name))(command, words);
  for (const auto& word : words) note_paths_within(word, references);
}

void Evaluation::do_nothing(const Command&, const Words&) {}

}  // namespace yc::cmake
