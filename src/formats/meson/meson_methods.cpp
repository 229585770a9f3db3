// Methods of texts, lists, dictionaries, of `meson` and of the file system module.
#include <algorithm>

#include "formats/meson/meson_evaluation.h"

namespace yc::meson {

namespace {

std::string mapped(const std::string& text, const std::string& how) {
  std::string out = text;
  for (char& c : out) {
    bool lower = c >= 'a' && c <= 'z', upper = c >= 'A' && c <= 'Z', digit = c >= '0' && c <= '9';
    if (how == "to_upper" && lower) c = static_cast<char>(c - 'a' + 'A');
    if (how == "to_lower" && upper) c = static_cast<char>(c - 'A' + 'a');
    if (how == "underscorify" && !lower && !upper && !digit) c = '_';
  }
  return out;
}

// `text` with every `from` in it replaced.
TracedText replaced(const TracedText& text, const std::string& from, const TracedText& to) {
  std::string all = text.text();
  TracedText out;
  std::size_t at = 0;
  while (!from.empty()) {
    std::size_t found = all.find(from, at);
    if (found == std::string::npos) break;
    out.append(text.substr(at, found - at));
    out.append(to);
    at = found + from.size();
  }
  out.append(text.substr(at));
  return out;
}

// Where the last component begins, and where its suffix does.
std::size_t name_begin(const std::string& text) {
  std::size_t cut = text.rfind('/');
  return cut == std::string::npos ? 0 : cut + 1;
}
std::size_t suffix_begin(const std::string& text) {
  std::size_t dot = text.rfind('.');
  return dot == std::string::npos || dot <= name_begin(text) ? text.size() : dot;
}

}  // namespace

Value Evaluation::method_of_text(const Call& call, const std::string& name) {
  const TracedText& text = call.object->text;
  std::string all = text.text();
  if (name == "format") return format_text(call);
  if (name == "split" || name == "splitlines") return split_text(call);
  if (name == "strip")
    return Value::of(text.trimmed(call.positional.empty() ? " \t\r\n" : call.text(0).text()));
  if (name == "join") {
    std::vector<TracedText> words;
    for (const Value& item : call.flat()) words.push_back(item.as_text());
    TracedText out;
    for (std::size_t i = 0; i < words.size(); ++i) {
      if (i) out.append(text);
      out.append(words[i]);
    }
    return Value::of(std::move(out));
  }
  if (name == "replace" && call.positional.size() == 2 && !call.text(0).has_hole())
    return Value::of(replaced(text, call.text(0).text(), call.text(1)));
  if (name == "to_upper" || name == "to_lower" || name == "underscorify")
    return Value::of(text.has_hole() ? TracedText::hole() : TracedText::plain(mapped(all, name)));
  if (name == "substring") {
    long size = static_cast<long>(all.size()), begin = 0, end = size;
    auto number = [&](std::size_t i, long& out) {
      if (i >= call.positional.size()) return true;
      if (call.positional[i].kind != Value::Kind::number) return false;
      out = call.positional[i].number < 0 ? size + call.positional[i].number : call.positional[i].number;
      return true;
    };
    if (text.has_hole() || !number(0, begin) || !number(1, end)) return {};
    begin = std::clamp(begin, 0L, size);
    end = std::clamp(end, begin, size);
    return Value::of(text.substr(static_cast<std::size_t>(begin), static_cast<std::size_t>(end - begin)));
  }
  if (text.has_hole() || call.text(0).has_hole() || call.positional.empty()) return {};
  std::string other = call.text(0).text();
  if (name == "startswith") return Value::of(all.starts_with(other));
  if (name == "endswith") return Value::of(all.ends_with(other));
  if (name == "contains") return Value::of(all.find(other) != std::string::npos);
  return {};
}

Value Evaluation::format_text(const Call& call) {
  const TracedText& text = call.object->text;
  std::string all = text.text();
  Values given = call.flat();
  TracedText out;
  std::size_t from = 0;
  for (std::size_t i = 0; i < all.size(); ++i) {
    if (all[i] != '@') continue;
    std::size_t end = all.find_first_not_of("0123456789", i + 1);
    if (end == i + 1 || end == std::string::npos || all[end] != '@' || end - i > 4) continue;
    std::size_t number = static_cast<std::size_t>(std::stoul(all.substr(i + 1, end - i - 1)));
    out.append(text.substr(from, i - from));
    out.append(number < given.size() ? given[number].as_text() : TracedText::hole());
    from = end + 1;
    i = end;
  }
  out.append(text.substr(from));
  return Value::of(std::move(out));
}

Value Evaluation::split_text(const Call& call) {
  TracedText text;
  for (Piece piece : call.object->text.pieces()) {
    // A member that is added or changed stands between blanks, not between quotes of its own.
    if (piece.has_origin() && (piece.style == kSingle || piece.style == kTriple)) piece.style = kWordInString;
    text.append(std::move(piece));
  }
  Values items;
  bool lines = call.node.text == "splitlines";
  if (!lines && !call.positional.empty()) {
    std::string border = call.text(0).text();
    if (border.size() != 1) return {};
    for (TracedText& part : text.split(border[0])) items.push_back(Value::of(std::move(part)));
  } else {
    for (TracedText& word : text.words(lines ? "\n" : " \t\r\n")) items.push_back(Value::of(std::move(word)));
  }
  return Value::of(std::move(items));
}

Value Evaluation::method_of_list(const Call& call, const std::string& name) {
  const Values& items = *call.object->items;
  if (name == "length") return Value::of(static_cast<long>(items.size()));
  if (name == "contains" && !call.positional.empty()) {
    for (const Value& item : items) {
      auto same = equal(item, call.positional[0]);
      if (!same) return {};
      if (*same) return Value::of(true);
    }
    return Value::of(false);
  }
  if (name == "get" && !call.positional.empty() && call.positional[0].kind == Value::Kind::number) {
    long place = call.positional[0].number;
    if (place < 0) place += static_cast<long>(items.size());
    if (place >= 0 && static_cast<std::size_t>(place) < items.size())
      return items[static_cast<std::size_t>(place)];
    return call.positional.size() > 1 ? call.positional[1] : Value();
  }
  return {};
}

Value Evaluation::method_of_dictionary(const Call& call, const std::string& name) {
  if (name == "keys" || name == "values") {
    Values out;
    for (const auto& [key, value] : *call.object->entries)
      out.push_back(name == "keys" ? Value::of(key) : value);
    return Value::of(std::move(out));
  }
  if (call.positional.empty() || call.text(0).has_hole()) return {};
  const Value* found = call.object->entry(call.text(0).text());
  if (name == "has_key") return Value::of(found != nullptr);
  if (name != "get") return {};
  if (found) return *found;
  return call.positional.size() > 1 ? call.positional[1] : Value();
}

Value Evaluation::method_of_meson(const Call& call, const std::string& name) {
  struct Folder {
    std::string_view name;
    Base base;
    bool built;
  };
  for (const Folder& known :
       {Folder{"current_source_dir", base(), false}, Folder{"current_build_dir", base(), true},
        Folder{"project_source_root", root_, false}, Folder{"project_build_root", root_, true},
        Folder{"source_root", top_, false}, Folder{"global_source_root", top_, false},
        Folder{"build_root", top_, true}, Folder{"global_build_root", top_, true}}) {
    if (known.name != name) continue;
    return Value::of(
        folder_text(known.built ? Piece::Nature::build_folder : Piece::Nature::tree_folder, known.base));
  }
  if (name == "add_install_script" || name == "add_postconf_script" || name == "add_dist_script")
    return do_add_script(call);
  if (name == "get_compiler") return Value::object("compiler");
  if (name == "override_dependency" || name == "override_find_program") return {};
  return do_nothing(call);
}

Value Evaluation::method_of_fs(const Call& call, const std::string& name) {
  if (call.positional.empty()) return {};
  const Value& what = call.positional[0];
  TracedText text = what.kind == Value::Kind::file ? what.text : what.as_text();
  std::string all = text.text();
  if (name == "exists" || name == "is_file" || name == "is_dir") {
    refer(what, Role::argument, Certainty::likely, false);
    return {};
  }
  if (name == "read" || name == "hash" || name == "size" || name == "copyfile") {
    refer(what, Role::argument);
    if (name != "copyfile") return {};
    Place source = place_of(base().folder, all);
    std::string copy = call.positional.size() > 1 ? call.text(1).text() : std::string(source.path.name());
    bool known = !text.has_hole() && copy.find_first_of("@\x03") == std::string::npos;
    if (known && source.space == Space::tree && tree_.is_file(source.path))
      note_copy({source.path, false, base().anchor}, base().folder / copy);
    return made();
  }
  if (text.has_hole()) return {};
  if (name == "name") return Value::of(text.substr(name_begin(all)));
  if (name == "stem") return Value::of(text.substr(name_begin(all), suffix_begin(all) - name_begin(all)));
  if (name == "suffix") return Value::of(text.substr(suffix_begin(all)));
  if (name == "parent") {
    std::size_t cut = all.rfind('/');
    return Value::of(cut == std::string::npos ? TracedText::plain(".") : text.substr(0, cut));
  }
  if (name == "replace_suffix") {
    TracedText out = text.substr(0, suffix_begin(all));
    out.append(call.text(1));
    return Value::of(std::move(out));
  }
  if (name == "as_posix" || name == "expanduser") return Value::of(std::move(text));
  return {};
}

Value Evaluation::method_of_object(const Call& call, const std::string& name) {
  const Value& object = *call.object;
  std::string what = object.kind == Value::Kind::object ? object.text.text() : "";
  if (what == "module fs") return method_of_fs(call, name);
  if (what.starts_with("module gnome") && (name == "compile_resources" || name == "compile_schemas"))
    return name == "compile_resources" ? do_compile_resources(call) : do_other(call);
  if (what == "module i18n" && name == "gettext") {
    // The lists of a translation are looked for beside the script.
    for (const char* list : {"LINGUAS", "POTFILES", "POTFILES.in"})
      refer_text(TracedText::plain(list), base(), Role::script, Certainty::certain, false);
    return do_other(call);
  }
  if (what.starts_with("module python") && name == "find_installation") return Value::object("python");
  if (what == "python" && name == "extension_module") return do_target(call);
  if (what == "generator" && name == "process") return do_process(call);
  if (name == "find_library") return do_find_library(call);
  if (object.kind == Value::Kind::bundle && name == "partial_dependency") return object;
  if (object.kind == Value::Kind::bundle && name == "as_system") return object;
  Value out = do_other(call);
  // What only says yes or no is no part of a path.
  bool is_yes_or_no = name == "found" || name == "compiles" || name == "links" || name.starts_with("has_") ||
                      name.starts_with("check_") || name == "version_compare";
  return is_yes_or_no ? Value::object("boolean") : out;
}

}  // namespace yc::meson
