// Variables, lists and strings.
#include <algorithm>

#include "base/expression.h"
#include "formats/cmake/cmake_evaluation.h"
#include "formats/rival_values.h"

namespace yc::cmake {

namespace {

constexpr std::size_t kPerPiece = 8;         // of the work to take a list apart and put it together
constexpr std::size_t kLongest = 4'000'000;  // of what a replacement gives

Words split_list(const TracedText& text) {
  Words out;
  for (TracedText& part : text.split(';')) {
    if (!part.empty()) out.push_back(std::move(part));
  }
  return out;
}

// Variables whose options every compiler call of a folder and of those below it gets.
bool holds_flags(const std::string& name) {
  return name.starts_with("CMAKE_") &&
         (name.ends_with("_FLAGS") || name.find("_FLAGS_") != std::string::npos);
}

// Texts compare by what they name where both are paths.
std::string normal(const TracedText& word) {
  Place place = place_of({}, word.text());
  return word.text().substr(0, 1) == "/" && place.space != Space::outside ? marked(place.space, place.path)
                                                                          : word.text();
}

}  // namespace

void Evaluation::give_up(const std::string& why) {
  out_.incomplete(Unread::cut_short, "runaway-script", out_.files().path(here_.file),
                  Span{here_.offset, here_.offset}, why);
}

void Evaluation::do_set(const Command&, const Words& words) {
  if (words.empty()) return;
  std::string name = words[0].text();
  if (name.substr(0, 4) == "ENV{") return;
  Words values;
  bool parent = false;
  for (std::size_t i = 1; i < words.size(); ++i) {
    std::string text = words[i].text();
    if (text == "PARENT_SCOPE" && i + 1 == words.size()) {
      parent = true;
    } else if (text == "CACHE" && i + 2 < words.size()) {
      break;
    } else {
      values.push_back(words[i]);
    }
  }
  if (words.size() == 1) {
    variables_.unset(name);
    return;
  }
  if (holds_flags(name)) take_flags(values);
  note_set(name, values);
  TracedText value = join(values, ";");
  if (parent && variables_.depth() < 2) return;
  const TracedText* known = parent ? variables_.find_outside(name) : variables_.find(name);
  std::string before = known ? known->text() : "";
  bool adds = !before.empty() && value.text().find(before) != std::string::npos;
  if (!adds) tell_set(name, parent, before);
  if (parent)
    variables_.set_outside(name, value);
  else
    variables_.set(name, value);
}

void Evaluation::do_unset(const Command&, const Words& words) {
  if (!words.empty()) variables_.unset(words[0].text());
}

namespace {

void transform_items(const std::string& how, const TracedText& more, std::vector<TracedText>& items) {
  for (TracedText& item : items) {
    TracedText changed = how == "PREPEND" ? more : item;
    changed.append(how == "PREPEND" ? item : how == "APPEND" ? more : TracedText());
    if (how == "PREPEND" || how == "APPEND") item = std::move(changed);
  }
}

TracedText with_replaced(const TracedText& input, const std::string& from, const TracedText& to) {
  TracedText out;
  std::string text = input.text();
  std::size_t at = 0;
  for (std::size_t hit = from.empty() ? std::string::npos : text.find(from); hit != std::string::npos;
       hit = text.find(from, at)) {
    out.append(input.substr(at, hit - at));
    out.append(to);
    at = hit + from.size();
  }
  out.append(input.substr(at));
  return out;
}

}  // namespace

// Keeps the items that match, or those that do not.
void Evaluation::filter_items(const std::string& expression, bool keep, Words& items) {
  // CMake's regular expressions are a subset of what the library knows; one that it refuses matches
  // nothing.
  auto pattern = Expression::of(expression);
  if (!pattern) return;
  std::erase_if(items, [&](const TracedText& item) {
    std::string text = item.text();
    out_.spend(text.size() * 20);
    Expression::Match match = pattern->find(text);
    if (match.kind == Expression::Match::Kind::gave_up) {
      give_up("a regular expression was given up: it tries too much");
      return false;
    }
    return static_cast<bool>(match) != keep;
  });
}

TracedText Evaluation::with_matches_replaced(const TracedText& input, const std::string& expression,
                                             const std::string& by) {
  auto pattern = Expression::of(expression);
  if (!pattern || input.has_hole()) return TracedText::hole();
  out_.spend(input.size() * 20);
  auto replaced = pattern->replaced(input.text(), by);
  if (replaced && replaced->size() <= kLongest) return TracedText::plain(*replaced);
  give_up("a regular expression was given up: it tries too much");
  return TracedText::hole();
}

void Evaluation::do_list(const Command&, const Words& words) {
  if (words.size() < 2) return;
  std::string action = words[0].text(), name = words[1].text();
  Words rest(words.begin() + 2, words.end());
  if (holds_flags(name) && (action == "APPEND" || action == "PREPEND")) take_flags(rest);
  if (action == "APPEND" || action == "PREPEND") note_set(name, rest);
  if (action == "APPEND") {
    // The usual one, of lists that grow: nothing is taken apart.
    TracedText& whole = variables_.at(name);
    for (const TracedText& word : rest) {
      if (!whole.empty()) whole.append(TracedText::plain(";"));
      whole.append(word);
    }
    return;
  }
  const TracedText* known = variables_.find(name);
  if (known && !out_.spend(known->pieces().size() * kPerPiece)) return;
  Words items = known ? split_list(*known) : Words();
  if (action == "PREPEND") {
    items.insert(items.begin(), rest.begin(), rest.end());
  } else if (action == "INSERT" && !rest.empty()) {
    items.insert(items.begin(), rest.begin() + 1, rest.end());
  } else if (action == "REMOVE_ITEM") {
    for (const TracedText& gone : rest) {
      refer_here(gone, Role::argument, Certainty::certain, false);
      std::erase_if(items, [&](const TracedText& item) { return normal(item) == normal(gone); });
    }
  } else if (action == "REMOVE_DUPLICATES") {
    std::set<std::string> seen;
    std::erase_if(
        items, [&](const TracedText& item) { return !item.has_hole() && !seen.insert(item.text()).second; });
  } else if (action == "FILTER" && rest.size() >= 3) {
    filter_items(rest[2].text(), rest[0].text() == "INCLUDE", items);
  } else if (action == "TRANSFORM" && rest.size() >= 2) {
    transform_items(rest[0].text(), rest[1], items);
  } else if (action == "SORT" || action == "REVERSE") {
    // The order of a list is no part of what it names.
  } else if (action == "LENGTH" || action == "GET" || action == "FIND" || action == "JOIN" ||
             action == "SUBLIST") {
    bool joins = action == "JOIN" && rest.size() >= 2;
    std::string result = rest.empty() ? "" : rest.back().text();
    if (!result.empty()) set_variable(result, joins ? join(items, rest[0].text()) : TracedText::hole());
    return;
  } else {
    return;
  }
  set_variable(name, join(items, ";"));
}

void Evaluation::do_string(const Command&, const Words& words) {
  if (words.size() < 2) return;
  std::string action = words[0].text();
  auto rest_from = [&](std::size_t i) {
    TracedText out;
    for (; i < words.size(); ++i) out.append(words[i]);
    return out;
  };
  if (action == "CONCAT") {
    set_variable(words[1].text(), rest_from(2));
  } else if (action == "APPEND") {
    TracedText value = variable(words[1].text());
    if (value.is_only_holes()) value = TracedText();
    if (holds_flags(words[1].text())) take_flags({words.begin() + 2, words.end()});
    value.append(rest_from(2));
    set_variable(words[1].text(), value);
  } else if (action == "REPLACE" && words.size() >= 5) {
    set_variable(words[3].text(), with_replaced(rest_from(4), words[1].text(), words[2]));
  } else if (action == "REGEX" && words.size() >= 6 && words[1].text() == "REPLACE") {
    set_variable(words[4].text(), with_matches_replaced(rest_from(5), words[2].text(), words[3].text()));
  } else if (action == "REGEX" && words.size() >= 4) {
    set_variable(words[3].text(), TracedText::hole());
  } else if (action == "STRIP" && words.size() >= 3) {
    set_variable(words[2].text(), words[1].trimmed());
  } else if ((action == "TOLOWER" || action == "TOUPPER") && words.size() >= 3) {
    std::string text = words[1].text();
    std::transform(text.begin(), text.end(), text.begin(), [&](unsigned char c) {
      return static_cast<char>(action == "TOLOWER" ? std::tolower(c) : std::toupper(c));
    });
    set_variable(words[2].text(), words[1].has_hole()       ? TracedText::hole()
                                  : text == words[1].text() ? words[1]
                                                            : TracedText::plain(text));
  } else if (action == "JOIN" && words.size() >= 3) {
    set_variable(words[2].text(), join({words.begin() + 3, words.end()}, words[1].text()));
  } else if (action == "MAKE_C_IDENTIFIER" && words.size() >= 3) {
    std::string text = words[1].text();
    for (char& c : text) c = std::isalnum(static_cast<unsigned char>(c)) ? c : '_';
    set_variable(words[2].text(), TracedText::plain(text));
  } else if (words.size() >= 3) {
    set_variable(words.back().text(), TracedText::hole());
  }
}

void Evaluation::do_filename(const Command&, const Words& words) {
  if (words.size() < 3) return;
  const TracedText& path = words[1];
  std::string text = path.text(), mode = words[2].text();
  std::size_t slash = text.rfind('/');
  std::size_t name_at = slash == std::string::npos ? 0 : slash + 1;
  TracedText out;
  if (mode == "NAME") {
    out = path.substr(name_at);
  } else if (mode == "NAME_WE" || mode == "NAME_WLE") {
    std::size_t dot = mode == "NAME_WE" ? text.find('.', name_at) : text.rfind('.');
    if (dot == std::string::npos || dot < name_at) dot = text.size();
    out = path.substr(name_at, dot - name_at);
  } else if (mode == "EXT" || mode == "LAST_EXT") {
    std::size_t dot = mode == "EXT" ? text.find('.', name_at) : text.rfind('.');
    if (dot != std::string::npos && dot >= name_at) out = path.substr(dot);
  } else if (mode == "DIRECTORY" || mode == "PATH") {
    if (slash != std::string::npos) {
      out = path.substr(0, slash);
    } else if (place_of({}, text).space != Space::outside && text.substr(0, 1) == "/") {
      // The folder above a folder that evaluation knows as one piece.
      out = path;
      out.append(TracedText::plain("/.."));
    }
    if (text.substr(0, kTreeMark.size()) == kTreeMark && slash < kTreeMark.size()) {
      out = path;
      out.append(TracedText::plain("/.."));
    }
  } else if (mode == "ABSOLUTE" || mode == "REALPATH") {
    bool relative = !text.empty() && text.front() != '/' && !path.has_hole();
    if (relative) {
      out = variable("CMAKE_CURRENT_SOURCE_DIR");
      out.append(TracedText::plain("/"));
    }
    out.append(path);
  } else {
    out = TracedText::hole();
  }
  set_variable(words[0].text(), out);
}

void Evaluation::do_parse_arguments(const Command&, const Words& words) {
  std::size_t at = 0;
  Words input;
  if (words.size() >= 2 && words[0].text() == "PARSE_ARGV") {
    at = 2;
    input = split_list(variable("ARGV"));
  }
  if (words.size() < at + 4) return;
  std::string prefix = words[at].text() + "_";
  std::set<std::string> flags, single, several;
  for (const TracedText& word : split_list(words[at + 1])) flags.insert(word.text());
  for (const TracedText& word : split_list(words[at + 2])) single.insert(word.text());
  for (const TracedText& word : split_list(words[at + 3])) several.insert(word.text());
  for (std::size_t i = at + 4; i < words.size(); ++i) {
    for (TracedText& word : split_list(words[i])) input.push_back(std::move(word));
  }
  std::map<std::string, Words> found;
  std::string current;
  for (const TracedText& word : input) {
    std::string text = word.text();
    if (flags.contains(text)) {
      set_variable(prefix + text, TracedText::plain("TRUE"));
      current.clear();
    } else if (single.contains(text) || several.contains(text)) {
      current = text;
      found[current];
    } else if (!current.empty()) {
      found[current].push_back(word);
      if (single.contains(current)) current.clear();
    } else {
      found["UNPARSED_ARGUMENTS"].push_back(word);
    }
  }
  for (const auto& names : {single, several}) {
    for (const std::string& name : names) set_variable(prefix + name, join(found[name], ";"));
  }
  set_variable(prefix + "UNPARSED_ARGUMENTS", join(found["UNPARSED_ARGUMENTS"], ";"));
}

void Evaluation::do_unknown_result(const Command& command, const Words& words) {
  if (words.empty()) return;
  std::size_t index = command.name == "math" && words.size() > 1 ? 1 : 0;
  set_variable(words[index].text(), TracedText::hole());
  for (std::size_t i = 1; i < words.size(); ++i) likely(words[i]);
}

}  // namespace yc::cmake
