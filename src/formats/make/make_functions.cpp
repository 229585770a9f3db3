// The functions of GNU make (manual, chapter 8), over traced text.
#include <fmt/format.h>

#include <algorithm>
#include <charconv>

#include "formats/make/make_evaluation.h"
#include "formats/shell/programs.h"
#include "model/add_reference.h"

namespace yc::make {

namespace {

constexpr int kEvalDepth = 8;

// Splits a function's arguments at commas outside of references and brackets; at most `most` of them.
std::vector<TracedText> split_arguments(const TracedText& arguments, std::size_t most) {
  std::string text = arguments.text();
  std::vector<TracedText> out;
  std::size_t begin = 0;
  int depth = 0;
  for (std::size_t i = 0; i < text.size();) {
    if (text[i] == '$') {
      i = reference_end(text, i);
      continue;
    }
    if (text[i] == '(' || text[i] == '{') ++depth;
    if (text[i] == ')' || text[i] == '}') --depth;
    if (text[i] == ',' && depth <= 0 && out.size() + 1 < most) {
      out.push_back(arguments.substr(begin, i - begin));
      begin = i + 1;
    }
    ++i;
  }
  out.push_back(arguments.substr(begin));
  return out;
}

template <typename Change>
TracedText each_word(const TracedText& text, Change change) {
  std::vector<TracedText> out;
  for (const TracedText& word : text.words()) {
    TracedText changed = change(word);
    if (!changed.empty()) out.push_back(std::move(changed));
  }
  return join(out, " ");
}

TracedText substitute(const TracedText& from, const TracedText& to, const TracedText& in) {
  std::string text = in.text();
  std::string wanted = from.text();
  if (wanted.empty()) return in;
  TracedText out;
  std::size_t at = 0;
  for (std::size_t hit = text.find(wanted); hit != std::string::npos; hit = text.find(wanted, at)) {
    out.append(in.substr(at, hit - at));
    out.append(to);
    at = hit + wanted.size();
  }
  out.append(in.substr(at));
  return out;
}

TracedText sorted_words(const TracedText& text) {
  std::vector<TracedText> words = text.words();
  std::stable_sort(words.begin(), words.end(),
                   [](const TracedText& a, const TracedText& b) { return a.text() < b.text(); });
  // A hole has no text; two words with holes are not known to be equal.
  words.erase(std::unique(words.begin(), words.end(),
                          [](const TracedText& a, const TracedText& b) {
                            return !a.has_hole() && !b.has_hole() && a.text() == b.text();
                          }),
              words.end());
  return join(words, " ");
}

std::size_t counted(const TracedText& text) {
  std::string digits = text.trimmed().text();
  std::size_t value = 0;
  std::from_chars(digits.data(), digits.data() + digits.size(), value);
  return value;
}

TracedText slice(const TracedText& text, std::size_t first, std::size_t last) {
  std::vector<TracedText> words = text.words();
  std::vector<TracedText> out;
  for (std::size_t i = std::max<std::size_t>(first, 1); i <= last && i <= words.size(); ++i)
    out.push_back(words[i - 1]);
  return join(out, " ");
}

TracedText folder_part(const TracedText& word) {
  std::size_t cut = word.text().rfind('/');
  return cut == std::string::npos ? TracedText::plain("./") : word.substr(0, cut + 1);
}

TracedText name_part(const TracedText& word) {
  std::size_t cut = word.text().rfind('/');
  return cut == std::string::npos ? word : word.substr(cut + 1);
}

std::size_t suffix_at(const std::string& text) {
  std::size_t dot = text.rfind('.');
  std::size_t slash = text.rfind('/');
  if (dot == std::string::npos || (slash != std::string::npos && dot < slash)) return text.size();
  return dot;
}

TracedText affix(const TracedText& fixed, const TracedText& words, bool before) {
  return each_word(words, [&](const TracedText& word) {
    TracedText out = before ? fixed : word;
    out.append(before ? word : fixed);
    return out;
  });
}

TracedText zip(const TracedText& left, const TracedText& right) {
  std::vector<TracedText> a = left.words(), b = right.words(), out;
  for (std::size_t i = 0; i < std::max(a.size(), b.size()); ++i) {
    TracedText both = i < a.size() ? a[i] : TracedText();
    if (i < b.size()) both.append(b[i]);
    out.push_back(std::move(both));
  }
  return join(out, " ");
}

}  // namespace

// Sources of two folders that come to one name make one object.
TracedText Evaluation::without_folders(const TracedText& words) {
  std::map<std::string, std::set<RelPath>> by_name;
  for (const TracedText& word : words.words()) {
    std::string text = word.text();
    if (text.ends_with(".o")) {  // an object beside its source
      for (const char* ending : {".c", ".cc", ".cpp", ".cxx", ".S"}) {
        std::string source = text.substr(0, text.size() - 2) + ending;
        Place at = place_of(base_.folder, source);
        if (at.space == Space::tree && tree_.is_file(at.path)) text = source;
      }
    }
    Place place = place_of(base_.folder, text);
    if (!shell::is_source_name(text) || place.space != Space::tree || !tree_.is_file(place.path)) continue;
    std::string name(place.path.name());
    by_name[name.substr(0, name.rfind('.')) + ".o"].insert(place.path);
  }
  for (auto& [name, sources] : by_name) {
    if (sources.size() > 1) out_.graph().clashes.insert({name, std::move(sources), here_});
  }
  return each_word(words, name_part);
}

TracedText Evaluation::filter(const TracedText& patterns, const TracedText& words, bool keep) {
  std::vector<TracedText> kept;
  std::vector<TracedText> forms = patterns.words();
  std::vector<std::vector<Target>> hits(forms.size());
  // Most are plain words.
  std::unordered_map<std::string, std::vector<std::size_t>> plain;
  std::vector<std::size_t> with_percent;
  for (std::size_t i = 0; i < forms.size(); ++i) {
    std::string form = forms[i].text();
    if (form.find('%') == std::string::npos) {
      plain[form].push_back(i);
    } else {
      with_percent.push_back(i);
    }
  }
  for (const TracedText& word : words.words()) {
    std::vector<std::size_t> fitting;
    if (auto same = plain.find(word.text()); same != plain.end()) fitting = same->second;
    for (std::size_t i : with_percent) {
      if (match_percent(forms[i], word)) fitting.push_back(i);
    }
    bool fits = !fitting.empty();
    for (std::size_t i : fitting) {
      Place place = place_of(base_.folder, word.text());
      if (place.space == Space::tree && tree_.find(place.path))
        hits[i].push_back({Target::Kind::tree, place.path, {}});
    }
    if (fits == keep) kept.push_back(word);
  }
  for (std::size_t i = 0; i < forms.size(); ++i) {
    if (hits[i].empty()) continue;
    Reference reference = Reference::of(Role::pattern, format_, key_at(here_), base_, forms[i]);
    if (forms[i].text().find('%') != std::string::npos)
      reference.kind = GlobPattern{GlobPattern::Kind::percent};
    reference.in_list = true;
    reference.feeds_list = true;
    reference.excludes = !keep;
    reference.targets = std::move(hits[i]);
    add(std::move(reference));
  }
  return join(kept, " ");
}

TracedText Evaluation::wildcard(const TracedText& patterns) {
  std::vector<TracedText> out;
  for (const TracedText& pattern : patterns.words()) {
    std::string text = pattern.text();
    if (pattern.has_hole()) {
      add_unseen(out_, tree_, pattern, base_, format_, key_at(here_));
      continue;
    }
    std::vector<RelPath> found = match_paths(tree_, base_.folder, text);
    Reference reference = Reference::of(Role::pattern, format_, key_at(here_), base_, pattern);
    if (has_wildcard(text)) reference.kind = GlobPattern{};
    reference.in_list = true;
    reference.feeds_list = true;
    reference.lead_to(found);
    add(std::move(reference));
    if (!has_wildcard(text) && found.empty()) continue;
    // The literal folders at the pattern's head keep their trace; what the wildcard found has none.
    std::size_t wild = std::min(text.find_first_of("*?["), text.size());
    std::size_t head = wild == text.size()                          ? text.size()
                       : text.rfind('/', wild) == std::string::npos ? 0
                                                                    : text.rfind('/', wild) + 1;
    Place head_place = place_of(base_.folder, head == 0 ? "." : text.substr(0, head));
    for (const RelPath& path : found) {
      TracedText word = pattern.substr(0, head);
      if (wild != text.size()) word.append(TracedText::plain(std::string(path.below(head_place.path))));
      out.push_back(std::move(word));
    }
  }
  return join(out, " ");
}

TracedText Evaluation::shell_output(const TracedText& command) {
  if (command.text().find("mkdir") != std::string::npos) makes_folders_at_once_ = true;
  shell::CommandLine line = shell::read(command, base_, tree_);
  SiteChain key = key_at(here_);
  bool listed = false;
  TracedText out;
  if (line.commands.size() == 1) {
    if (auto words = shell::listed_files(line.commands.front(), tree_, [&](Reference reference) {
          reference.format = format_;
          reference.feeds_list = true;
          reference.construct = key;
          add(std::move(reference));
        })) {
      out = join(*words, " ");
      listed = true;
    }
    if (line.commands.front().words.size() == 1 && line.commands.front().words.front().text.text() == "pwd") {
      return expand_variable("CURDIR");
    }
  }
  if (listed) return out;
  for (const shell::Command& item : line.commands) {
    shell::Picked picked = shell::pick(item, tree_);
    for (Reference& reference : picked.references) {
      bool is_folder = !reference.targets.empty() && tree_.is_folder(reference.targets.front().path);
      if (is_folder && shell::lists_files(item)) {
        TracedText inside = reference.text;
        inside.append(TracedText::plain("/"));
        inside.append(TracedText::hole());
        add_unseen(out_, tree_, inside, item.base, format_, key_at(here_));
      }
      reference.format = format_;
      reference.construct = key;
      reference.certainty = Certainty::likely;
      add(std::move(reference));
    }
  }
  return TracedText::hole();
}

namespace {

// Functions of their expanded arguments alone, and how many they take.
using Simple = std::function<TracedText(const std::vector<TracedText>&)>;
const std::map<std::string, std::pair<std::size_t, Simple>>& simple_functions() {
  static const std::map<std::string, std::pair<std::size_t, Simple>> all = {
      {"subst", {3, [](const auto& a) { return substitute(a[0], a[1], a[2]); }}},
      {"strip", {1, [](const auto& a) { return join(a[0].words(), " "); }}},
      {"sort", {1, [](const auto& a) { return sorted_words(a[0]); }}},
      {"word", {2, [](const auto& a) { return slice(a[1], counted(a[0]), counted(a[0])); }}},
      {"wordlist", {3, [](const auto& a) { return slice(a[2], counted(a[0]), counted(a[1])); }}},
      {"words", {1, [](const auto& a) { return TracedText::plain(std::to_string(a[0].words().size())); }}},
      {"firstword", {1, [](const auto& a) { return slice(a[0], 1, 1); }}},
      {"lastword",
       {1,
        [](const auto& a) {
          auto w = a[0].words();
          return w.empty() ? TracedText{} : w.back();
        }}},
      {"dir", {1, [](const auto& a) { return each_word(a[0], folder_part); }}},
      {"suffix",
       {1,
        [](const auto& a) {
          return each_word(a[0], [](const TracedText& w) { return w.substr(suffix_at(w.text())); });
        }}},
      {"basename",
       {1,
        [](const auto& a) {
          return each_word(a[0], [](const TracedText& w) { return w.substr(0, suffix_at(w.text())); });
        }}},
      {"addprefix", {2, [](const auto& a) { return affix(a[0], a[1], true); }}},
      {"addsuffix", {2, [](const auto& a) { return affix(a[0], a[1], false); }}},
      {"join", {2, [](const auto& a) { return zip(a[0], a[1]); }}},
      {"patsubst",
       {3,
        [](const auto& a) {
          return each_word(a[2], [&](const TracedText& word) {
            auto stem = match_percent(a[0].trimmed(), word);
            return stem ? fill_percent(a[1].trimmed(), *stem) : word;
          });
        }}},
      {"findstring",
       {2,
        [](const auto& a) {
          return a[1].text().find(a[0].text()) == std::string::npos ? TracedText{} : a[0];
        }}},
      {"error", {1, [](const auto&) { return TracedText{}; }}},
      {"warning", {1, [](const auto&) { return TracedText{}; }}},
      {"info", {1, [](const auto&) { return TracedText{}; }}},
      {"file", {2, [](const auto&) { return TracedText{}; }}},
      {"flavor", {1, [](const auto&) { return TracedText::hole(); }}},
      {"origin", {1, [](const auto&) { return TracedText::hole(); }}},
      {"guile", {1, [](const auto&) { return TracedText::hole(); }}},
  };
  return all;
}

}  // namespace

std::optional<TracedText> Evaluation::call_function(const std::string& name, const TracedText& raw) {
  auto all = [&](std::size_t most) {
    std::vector<TracedText> out = split_arguments(raw, most);
    for (TracedText& argument : out) argument = expand(argument);
    out.resize(std::max<std::size_t>(out.size(), 3));
    return out;
  };
  const auto& simple = simple_functions();
  if (auto at = simple.find(name); at != simple.end()) {
    std::vector<TracedText> arguments = all(at->second.first);
    if (name == "patsubst") refer_to_folder_of(arguments[0].trimmed(), here_);
    return at->second.second(arguments);
  }
  // What others do may depend on where they stand, or tell the graph something.
  bool depends_on_variables_only = name == "filter" || name == "filter-out" || name == "value" ||
                                   name == "or" || name == "and" || name == "foreach" || name == "call";
  is_fixed_ = is_fixed_ && depends_on_variables_only;
  if (name == "wildcard") return wildcard(all(1)[0]);
  if (name == "notdir") return without_folders(all(1)[0]);
  if (name == "filter" || name == "filter-out") {
    auto arguments = all(2);
    return filter(arguments[0], arguments[1], name == "filter");
  }
  if (name == "shell") return shell_output(all(1)[0]);
  if (name == "abspath" || name == "realpath") return absolute(all(1)[0]);
  if (name == "value") {
    auto at = scope_.find(all(1)[0].text());
    return at == scope_.end() ? TracedText() : at->second.value;
  }
  if (name == "eval") return evaluate_as_makefile(all(1)[0]);
  if (name == "if" || name == "or" || name == "and") return choose(name, raw);
  if (name == "foreach") return for_each(raw);
  if (name == "call") return call(raw);
  return std::nullopt;
}

TracedText Evaluation::absolute(const TracedText& words) {
  return each_word(words, [&](const TracedText& word) {
    std::string text = word.text();
    if (text.empty() || text.front() == '/') return word;
    TracedText out = expand_variable("CURDIR");
    out.append(TracedText::plain("/"));
    out.append(word);
    return out;
  });
}

TracedText Evaluation::evaluate_as_makefile(const TracedText& text) {
  Site site{text.first_origin().file, text.first_origin().span.begin};
  if (site.file == kNoFile) site = {base_.anchor, 0};
  // A definition that evaluates itself would go on for ever; each round costs a parse.
  work_ += text.size() * 20;
  if (++evals_ <= kEvalDepth) {
    run(parse_traced(text, site).block);
  } else {
    problem("runaway-expansion", site, "eval was given up: it nests too deeply");
  }
  --evals_;
  return TracedText();
}

namespace {

// "$<", "$(@F)": whether a text has an automatic variable.
bool hangs_on_target(std::string_view text) {
  for (std::size_t at = text.find('$'); at != std::string_view::npos; at = text.find('$', at + 1)) {
    std::size_t name = text.substr(at + 1, 1) == "(" || text.substr(at + 1, 1) == "{" ? at + 2 : at + 1;
    if (name < text.size() && std::string_view("@<^+?*|").find(text[name]) != std::string_view::npos)
      return true;
  }
  return false;
}

}  // namespace

TracedText Evaluation::choose(const std::string& name, const TracedText& raw) {
  std::vector<TracedText> sides = split_arguments(raw, name == "if" ? 3 : 99);
  TracedText condition = expand(sides[0]);
  if (name == "and") return expand(sides.back());
  if (name == "or") {
    for (const TracedText& side : sides) {
      if (TracedText value = expand(side); value.size() > 0) return value;
    }
    return TracedText();
  }
  // What hangs on the target alone is known; all else whoever calls make may set otherwise.
  if (automatic_ && !automatic_->shape && hangs_on_target(sides[0].text()) && !condition.has_hole()) {
    std::size_t known = condition.trimmed().empty() ? 2 : 1;
    return known < sides.size() ? expand(sides[known]) : TracedText();
  }
  unsigned side = branches_.enter(here_, 2);
  TracedText value = side + 1 < sides.size() ? expand(sides[side + 1]) : TracedText();
  branches_.leave();
  return value;
}

TracedText Evaluation::for_each(const TracedText& raw) {
  std::vector<TracedText> parts = split_arguments(raw, 3);
  if (parts.size() < 3) return TracedText();
  std::string variable = expand(parts[0]).trimmed().text();
  std::vector<TracedText> out;
  auto saved = scope_.find(variable) == scope_.end() ? std::nullopt : std::optional(scope_[variable]);
  ++bound_;
  for (const TracedText& word : expand(parts[1]).words()) {
    scope_[variable] = Variable{word, true, false, false, {}};
    out.push_back(expand(parts[2]));
  }
  --bound_;
  if (saved) {
    scope_[variable] = *saved;
  } else {
    scope_.erase(variable);
  }
  return join(out, " ");
}

TracedText Evaluation::call(const TracedText& raw) {
  std::vector<TracedText> parts = split_arguments(raw, 99);
  std::string callee = expand(parts[0]).trimmed().text();
  Scope saved;
  std::vector<std::string> fresh;
  for (std::size_t i = 1; i < parts.size(); ++i) {
    std::string parameter = std::to_string(i);
    TracedText value = expand(parts[i]);
    if (auto at = scope_.find(parameter); at != scope_.end()) saved[parameter] = at->second;
    fresh.push_back(parameter);
    saved.try_emplace(parameter + "=", Variable{value, true, false, false, {}});
  }
  ++bound_;
  for (const std::string& parameter : fresh) scope_[parameter] = saved[parameter + "="];
  auto at = scope_.find(callee);
  // A function may call itself, so the guard against self-reference does not apply; the depth limit does.
  TracedText value;
  if (at != scope_.end()) {
    value = at->second.simple ? at->second.value : expand(TracedText(at->second.value));
  } else if (auto built_in = call_function(callee, join({parts.begin() + 1, parts.end()}, ","))) {
    value = *built_in;
  } else if (callee == "my-dir" && !reading_.empty()) {
    // Of Android's build: the folder of the makefile that is being read.
    RelPath folder = out_.files().path(reading_.back()).parent();
    value = TracedText::folder(Piece::Nature::tree_folder, reading_.back(), marked(Space::tree, folder));
  } else {
    value = TracedText::hole();
  }
  --bound_;
  for (const std::string& parameter : fresh) {
    if (auto old = saved.find(parameter); old != saved.end()) {
      scope_[parameter] = old->second;
    } else {
      scope_.erase(parameter);
    }
  }
  return value;
}

}  // namespace yc::make
