// Functions, and methods of modules, that name files; targets aside.
#include <algorithm>
#include <unordered_map>

#include "formats/meson/meson_evaluation.h"
#include "words/meson.h"

namespace yc::meson {

namespace {

// A keyword whose value names files, whatever call it is given to.
std::optional<Role> role_of(const std::string& keyword) {
  static const std::unordered_map<std::string, Role> roles = {
      {"sources", Role::source},       {"input", Role::source},           {"depend_files", Role::source},
      {"link_depends", Role::source},  {"moc_headers", Role::source},     {"moc_sources", Role::source},
      {"ui_files", Role::source},      {"qresources", Role::source},      {"headers", Role::source},
      {"h_template", Role::source},    {"c_template", Role::source},      {"xml_files", Role::listed},
      {"main_xml", Role::source},      {"main_sgml", Role::source},       {"extra_files", Role::listed},
      {"license_files", Role::listed}, {"source_dir", Role::search_root}, {"src_dir", Role::search_root},
      {"po_dir", Role::argument},      {"data_dirs", Role::search_root},  {"workdir", Role::argument}};
  auto at = roles.find(keyword);
  return at == roles.end() ? std::nullopt : std::optional(at->second);
}

bool names_nothing(const std::string& function) {
  return words::meson::silent_functions().contains(function);
}

}  // namespace

Value Evaluation::function(const Call& call, const std::string& name) {
  static const std::unordered_map<std::string, Handler> handlers = {
      {"project", &Evaluation::do_project},
      {"files", &Evaluation::do_files},
      {"include_directories", &Evaluation::do_include_directories},
      {"subdir", &Evaluation::do_subdir},
      {"subdir_done", &Evaluation::do_subdir_done},
      {"subproject", &Evaluation::do_subproject},
      {"configure_file", &Evaluation::do_custom_target},
      {"custom_target", &Evaluation::do_custom_target},
      {"vcs_tag", &Evaluation::do_custom_target},
      {"run_target", &Evaluation::do_run_target},
      {"run_command", &Evaluation::do_run_command},
      {"test", &Evaluation::do_test},
      {"benchmark", &Evaluation::do_test},
      {"find_program", &Evaluation::do_find_program},
      {"import", &Evaluation::do_import},
      {"generator", &Evaluation::do_generator},
      {"get_variable", &Evaluation::do_get_variable},
      {"set_variable", &Evaluation::do_set_variable},
      {"join_paths", &Evaluation::do_join_paths},
      {"dependency", &Evaluation::do_dependency},
      {"declare_dependency", &Evaluation::do_declare_dependency},
      {"add_project_arguments", &Evaluation::do_project_arguments},
      {"add_global_arguments", &Evaluation::do_project_arguments},
      {"add_project_link_arguments", &Evaluation::do_project_arguments},
      {"add_global_link_arguments", &Evaluation::do_project_arguments},
      {"executable", &Evaluation::do_target},
      {"library", &Evaluation::do_target},
      {"shared_library", &Evaluation::do_target},
      {"static_library", &Evaluation::do_target},
      {"both_libraries", &Evaluation::do_target},
      {"shared_module", &Evaluation::do_target},
      {"build_target", &Evaluation::do_target},
      {"jar", &Evaluation::do_target}};
  if (auto at = handlers.find(name); at != handlers.end()) return (this->*at->second)(call);
  if (names_nothing(name)) return do_nothing(call);
  if (name == "environment") {
    do_other(call);
    return Value::object("environment");
  }
  if (name == "install_headers" || name == "install_data" || name == "install_man" ||
      name == "install_subdir") {
    for (const Value& item : call.flat()) refer(item, Role::listed);
    if (name == "install_headers") note_installed(call);
    if (name == "install_subdir") note_installed_folder(call);
    if (const Value* sources = call.keyword("sources")) refer(*sources, Role::listed);
    return {};
  }
  if (name == "range" && call.positional.size() == 1 && call.positional[0].kind == Value::Kind::number) {
    Values items;
    for (long i = 0; i < std::min(call.positional[0].number, 1000L); ++i) items.push_back(Value::of(i));
    return Value::of(std::move(items));
  }
  return do_other(call);
}

// Reference manual, install_headers(): all into one folder, unless their folders are kept.
void Evaluation::note_installed(const Call& call) {
  const Value *subfolder = call.keyword("subdir"), *folder = call.keyword("install_dir");
  const Value* keeps = call.keyword("preserve_path");
  TracedText to = folder ? folder->as_text() : TracedText::hole();  // as get_option('includedir') is
  if (!folder && subfolder) {
    to.append(TracedText::plain("/"));
    to.append(subfolder->as_text());
  }
  for (const Value& item : call.flat()) {
    if (item.kind != Value::Kind::text && item.kind != Value::Kind::file) continue;
    TracedText text = item.as_text();
    Place place = place_of(item.kind == Value::Kind::file ? item.base.folder : base().folder, text.text());
    if (text.has_hole() || place.space != Space::tree) continue;
    std::string name = keeps && keeps->flag ? text.text() : std::string(place.path.name());
    out_.install(place.path, to, name);
  }
}

// Reference manual, install_subdir(): with its last name unless that is stripped, and without what is
// excluded.
void Evaluation::note_installed_folder(const Call& call) {
  TracedText text = call.text(0);
  Place place = place_of(base().folder, text.text());
  const Value* to = call.keyword("install_dir");
  if (text.has_hole() || place.space != Space::tree || !tree_.is_folder(place.path) || !to) return;
  std::set<RelPath> out_of_it;
  for (const char* list : {"exclude_files", "exclude_directories"}) {
    const Value* excluded = call.keyword(list);
    for (const Value& item : excluded ? excluded->flat() : Values()) {
      refer_text(item.as_text(), {place.path, kNoFile, Space::tree}, Role::argument, Certainty::certain,
                 false);
      out_of_it.insert(place.path / item.as_text().text());
    }
  }
  const Value* strips = call.keyword("strip_directory");
  RelPath in = strips && strips->flag ? RelPath() : RelPath::from_normal(std::string(place.path.name()));
  for (const RelPath& file : tree_.files_below(place.path, "*")) {
    bool is_out = std::any_of(out_of_it.begin(), out_of_it.end(),
                              [&](const RelPath& path) { return file.is_within(path); });
    if (!is_out) out_.install(file, to->as_text(), (in / file.below(place.path)).str());
  }
}

// What is made goes into one folder, or each into its own (reference manual, custom_target()).
void Evaluation::note_installed(const Values& outputs, const Values& folders) {
  for (std::size_t i = 0; i < outputs.size() && !folders.empty(); ++i) {
    std::string name = outputs[i].as_text().text();
    const Value& folder = folders[std::min(i, folders.size() - 1)];
    if (folder.kind != Value::Kind::boolean && name.find_first_of("@\x03") == std::string::npos)
      out_.install_made(base().folder / name, folder.as_text(), name);
  }
}

Value Evaluation::do_nothing(const Call& call) {
  return call.node.text == "configuration_data" ? Value::object("configuration") : Value();
}

// A call nobody knows: files are files; a text is taken for a path only if it looks like one and names
// something.
Value Evaluation::do_other(const Call& call) {
  for (const Value& item : call.flat()) likely(item);
  for (const auto& [name, value] : call.keywords) {
    if (auto role = role_of(name)) {
      refer(value, *role, Certainty::certain, false);
    } else {
      for (const Value& item : value.flat()) likely(item);
    }
  }
  return {};
}

Value Evaluation::do_project(const Call& call) {
  // The options stand in a file of a fixed name beside the script.
  for (const char* name : {"meson.options", "meson_options.txt"})
    refer_text(TracedText::plain(name), root_, Role::script, Certainty::certain, false);
  if (const Value* folder = call.keyword("subproject_dir"); folder && root_.folder == top_.folder) {
    subprojects_ = folder->as_text();
    refer(*folder, Role::argument, Certainty::certain, false);
  }
  if (const Value* version = call.keyword("version"); version && version->kind == Value::Kind::file)
    refer(*version, Role::argument);
  if (const Value* licences = call.keyword("license_files")) refer(*licences, Role::listed);
  return {};
}

Value Evaluation::do_files(const Call& call) {
  Values out;
  for (const Value& item : call.flat()) {
    refer(item, Role::listed);
    if (item.kind == Value::Kind::text) {
      Value file = item;
      file.kind = Value::Kind::file;
      file.base = base();
      out.push_back(std::move(file));
    } else {
      out.push_back(item);
    }
  }
  return Value::of(std::move(out));
}

Value Evaluation::do_include_directories(const Call& call) {
  Bundle out;
  for (const Value& item : call.flat()) take_folders(item, out);
  return Value::of(std::move(out));
}

// Whatever a command makes, it is known by the call.
Value Evaluation::do_custom_target(const Call& call) {
  Values inputs;
  if (const Value* input = call.keyword("input")) inputs = input->flat();
  for (const Value& input : inputs) refer(input, Role::source);
  for (const char* name : {"depend_files", "env"}) {
    if (const Value* value = call.keyword(name)) refer(*value, Role::source, Certainty::certain, false);
  }
  std::optional<RelPath> only = inputs.size() == 1 ? path_of(inputs[0]) : std::nullopt;
  if (const Value* output = call.keyword("output")) {
    for (const Value& item : output->flat()) name_output(item.as_text(), only);
    if (const Value* folder = call.keyword("install_dir")) note_installed(output->flat(), folder->flat());
  }
  if (const Value* command = call.keyword("command")) run_line(command->flat(), build_base(), true);
  return made();
}

Value Evaluation::do_run_target(const Call& call) {
  if (const Value* command = call.keyword("command")) run_line(command->flat(), build_base(), true);
  return {};
}

Value Evaluation::do_run_command(const Call& call) {
  run_line(call.flat(), base(), true);
  return Value::object("result");
}

Value Evaluation::do_test(const Call& call) {
  if (!call.positional.empty()) name_unit(call.positional[0].as_text());
  if (call.positional.size() > 1) refer(call.positional[1], Role::argument, Certainty::certain, false);
  Base from = build_base();
  if (const Value* folder = call.keyword("workdir")) {
    TracedText text = folder->as_text();
    refer_text(text, base_of_run(text), Role::argument, Certainty::certain, false);
    Place place = place_of(base().folder, text.text());
    if (place.space == Space::tree) from = {place.path, kNoFile, Space::tree};
  }
  if (const Value* words = call.keyword("args")) run_line(words->flat(), from, false);
  if (const Value* settings = call.keyword("env")) {
    for (const Value& item : settings->flat()) likely(item);
  }
  return {};
}

Value Evaluation::do_find_program(const Call& call) {
  for (const Value& item : call.flat()) program(item);
  if (const Value* folders = call.keyword("dirs"))
    refer(*folders, Role::search_root, Certainty::certain, false);
  Value out = Value::object("program");
  out.items = std::make_shared<const Values>(call.flat());
  return out;
}

Value Evaluation::do_add_script(const Call& call) {
  Values words = call.flat();
  if (words.empty()) return {};
  program(words[0]);
  for (std::size_t i = 1; i < words.size(); ++i) likely(words[i]);
  return {};
}

Value Evaluation::do_import(const Call& call) {
  std::string name = call.text(0).text();
  if (name.starts_with("unstable-")) name.erase(0, 9);
  return Value::object("module " + name);
}

Value Evaluation::do_generator(const Call& call) {
  if (!call.positional.empty()) program(call.positional[0]);
  if (const Value* words = call.keyword("arguments")) run_line(words->flat(), build_base(), false);
  Value out = Value::object("generator");
  Entries entries;
  if (const Value* output = call.keyword("output"))
    entries.emplace_back(TracedText::plain("output"), *output);
  out.entries = std::make_shared<const Entries>(std::move(entries));
  return out;
}

Value Evaluation::do_process(const Call& call) {
  Values outputs;
  for (const auto& [name, value] : *call.object->entries) outputs = value.flat();
  for (const Value& item : call.flat()) {
    refer(item, Role::source);
    for (const Value& output : outputs) name_output(output.as_text(), path_of(item));
  }
  if (const Value* words = call.keyword("extra_args")) run_line(words->flat(), build_base(), false);
  if (const Value* folder = call.keyword("preserve_path_from"))
    refer(*folder, Role::search_root, Certainty::certain, false);
  return made();
}

Value Evaluation::do_get_variable(const Call& call) {
  if (call.positional.empty()) return {};
  std::string name = call.text(0).text();
  if (!call.object) {
    if (auto known = variable(name)) return *known;
  } else if (const Alternatives* values = call.object->variables->find(name)) {
    if (auto known = value_of(*values)) return *known;
  }
  return call.positional.size() > 1 ? call.positional[1] : Value();
}

Value Evaluation::do_set_variable(const Call& call) {
  if (call.positional.size() == 2 && !call.text(0).has_hole())
    assign(call.text(0).text(), call.positional[1]);
  return {};
}

Value Evaluation::do_join_paths(const Call& call) {
  TracedText out;
  for (const Value& item : call.flat()) {
    TracedText part = item.as_text();
    std::string text = part.text(), so_far = out.text();
    if (so_far.empty() || text.starts_with('/')) {
      out = std::move(part);
      continue;
    }
    if (so_far.back() != '/') out.append(TracedText::plain("/"));
    out.append(part);
  }
  return Value::of(std::move(out));
}

Value Evaluation::do_dependency(const Call& call) {
  Bundle unknown;
  unknown.open = true;
  if (const Value* fallback = call.keyword("fallback")) {
    Values words = fallback->flat();
    if (!words.empty()) {
      Call inner{call.node, nullptr, {words[0]}, {}};
      Value project = do_subproject(inner);
      if (words.size() > 1) {
        const Alternatives* values = project.variables->find(words[1].as_text().text());
        if (auto known = values ? value_of(*values) : nullptr) return *known;
      }
    }
  }
  return Value::of(std::move(unknown));
}

// Arguments for all targets of the project.
Value Evaluation::do_project_arguments(const Call& call) {
  Bundle more;
  take_options(call.flat(), more);
  if (more.roots.empty() && more.macros.empty() && !more.open) return {};
  variables_.grow(kForAll, {}, stamps_.stamped(Value::of(Values{Value::of(std::move(more))})));
  return {};
}

// A resource bundle's own paths are looked up in folders that are told here.
Value Evaluation::do_compile_resources(const Call& call) {
  std::vector<Base> folders;
  if (const Value* source_dirs = call.keyword("source_dir")) {
    refer(*source_dirs, Role::search_root);
    for (const Value& item : source_dirs->flat()) {
      Place place = place_of(base().folder, item.as_text().text());
      if (place.space == Space::tree) folders.push_back({place.path, kNoFile, Space::tree});
    }
  }
  folders.push_back(base());
  if (call.positional.size() > 1) {
    refer(call.positional[1], Role::source);
    if (auto bundle = path_of(call.positional[1])) out_.look_up(*bundle, folders);
  }
  for (const char* ending : {".c", ".h"}) out_.make(base().folder / (call.text(0).text() + ending), "meson");
  if (const Value* value = call.keyword("dependencies"))
    refer(*value, Role::source, Certainty::certain, false);
  return made();
}

// valac.find_library('name', dirs: …): a binding `name.vapi` in one of the folders.
Value Evaluation::do_find_library(const Call& call) {
  Bundle out;
  out.open = true;
  const Value* folders = call.keyword("dirs");
  if (!folders || call.positional.empty()) return Value::of(std::move(out));
  refer(*folders, Role::search_root, Certainty::certain, false);
  TracedText name = call.text(0);
  name.append(TracedText::plain(".vapi"));
  for (const Value& folder : folders->flat()) {
    Place place = place_of(base().folder, folder.as_text().text());
    if (place.space != Space::tree || folder.as_text().has_hole()) continue;
    refer_text(name, {place.path, kNoFile, Space::tree}, Role::source, Certainty::certain, false);
  }
  return Value::of(std::move(out));
}

}  // namespace yc::meson
