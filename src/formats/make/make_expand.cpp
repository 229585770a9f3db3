// Expansion of variables, keeping the trace.
#include <fmt/format.h>

#include "formats/make/make_evaluation.h"
#include "words/make.h"

namespace yc::make {

namespace {

constexpr int kDepthLimit = 60;
constexpr std::size_t kWorkLimit =
    6'000'000;  // bytes and pieces handled in one run; stops doubling definitions
constexpr std::size_t kValueLimit = 4'000'000;

// Folders of an installation, set by whoever installs: they never lie in the tree.
bool is_install_folder(const std::string& name) {
  return words::make::install_folders().contains(name);
}

const std::map<std::string, std::string>& defaults() {
  static const std::map<std::string, std::string> table = {
      {"CC", "cc"},           {"CXX", "g++"},      {"CPP", "$(CC) -E"},
      {"AR", "ar"},           {"ARFLAGS", "rv"},   {"AS", "as"},
      {"RM", "rm -f"},        {"LD", "ld"},        {"MAKE", "make"},
      {"SHELL", "/bin/sh"},   {"YACC", "yacc"},    {"LEX", "lex"},
      {"INSTALL", "install"}, {"CFLAGS", ""},      {"CXXFLAGS", ""},
      {"CPPFLAGS", ""},       {"LDFLAGS", ""},     {"LDLIBS", ""},
      {"LOADLIBES", ""},      {"TARGET_ARCH", ""}, {"ASFLAGS", ""},
      {"MAKEFLAGS", ""},      {"MFLAGS", ""},      {"MAKEOVERRIDES", ""},
      {"MAKECMDGOALS", ""},   {"YFLAGS", ""},      {"LFLAGS", ""},
      {"LIBS", ""},           {"V", ""},           {"Q", ""},
      {"EXEEXT", ""},         {"OBJEXT", "o"}};
  return table;
}

}  // namespace

std::optional<Passage> passage_of(const TracedText& text) {
  const Piece* first = nullptr;
  const Piece* last = nullptr;
  for (const Piece& piece : text.pieces()) {
    if (!piece.has_origin() || !piece.via.empty()) continue;
    if (!first) first = &piece;
    last = &piece;
  }
  if (!first || first->file != last->file || last->span.end < first->span.begin) return std::nullopt;
  return Passage{first->file, {first->span.begin, last->span.end}};
}

void Evaluation::problem(const std::string& id, Site site, const std::string& message) {
  if (site.file == kNoFile) return;
  const RelPath& file = out_.files().path(site.file);
  Span at{site.offset, site.offset};
  if (id == "runaway-expansion")
    out_.incomplete(Unread::cut_short, id, file, at, message);
  else
    out_.notice(id, file, at, message);
}

TracedText Evaluation::expand(const TracedText& raw) {
  std::string text = raw.text();
  if (text.find('$') == std::string::npos) return raw;
  work_ += text.size();
  if (depth_ > kDepthLimit || work_ > kWorkLimit || !out_.spend(text.size() + 16)) {
    is_fixed_ = false;
    problem("runaway-expansion", call_.empty() ? Site{base_.anchor, 0} : call_.back(),
            "expansion was given up: it nests too deeply or grows too large");
    return TracedText::hole();
  }
  ++depth_;
  TracedText out;
  Cutter parts(raw);
  std::size_t at = 0;
  while (at < text.size()) {
    std::size_t dollar = std::min(text.find('$', at), text.size());
    out.append(parts.part(at, dollar - at));
    if (dollar == text.size()) break;
    if (dollar + 1 == text.size()) break;
    std::size_t end = reference_end(text, dollar);
    TracedText whole = parts.part(dollar, end - dollar);
    auto passage = passage_of(whole);
    char next = text[dollar + 1];
    if (next == '$') {
      Piece piece;
      piece.text = "$";
      piece.verbatim = false;
      if (passage) piece.file = passage->file, piece.span = passage->span;
      out.append(std::move(piece));
    } else {
      bool wrapped = next == '(' || next == '{';
      TracedText inner = wrapped ? parts.part(dollar + 2, end - dollar - 3) : parts.part(dollar + 1, 1);
      Site outside = here_;
      if (passage) here_ = {passage->file, passage->span.begin};
      TracedText value = expand_reference(inner);
      here_ = outside;
      for (const Piece& piece : value.pieces()) work_ += 16 + piece.via.size();
      if (work_ > kWorkLimit) break;
      out.append(passage ? value.through(*passage) : value);
    }
    at = end;
    if (out.size() > kValueLimit) {
      work_ = kWorkLimit + 1;
      break;
    }
  }
  --depth_;
  return out;
}

TracedText Evaluation::expand_reference(const TracedText& inner) {
  std::string text = inner.text();
  std::size_t blank = text.find_first_of(" \t");
  if (blank != std::string::npos) {
    std::string name = text.substr(0, blank);
    std::size_t begin = text.find_first_not_of(" \t", blank);
    TracedText arguments = begin == std::string::npos ? TracedText() : inner.substr(begin);
    SlotsBefore slots = slots_before();
    if (auto value = call_function(name, arguments)) {
      auto slot = slot_for_all(slots, inner);
      return slot ? std::move(*slot) : std::move(*value);
    }
  }
  std::size_t colon = find_outside(text, ":");
  if (colon != std::string::npos) {
    std::size_t equals = find_outside(text, "=", colon);
    if (equals != std::string::npos) {
      SlotsBefore slots = slots_before();
      TracedText value = expand_variable(expand(inner.substr(0, colon)).text());
      TracedText from = expand(inner.substr(colon + 1, equals - colon - 1));
      TracedText to = expand(inner.substr(equals + 1));
      if (from.text().find('%') == std::string::npos) {
        TracedText percent = TracedText::plain("%");
        TracedText head = percent, tail = percent;
        head.append(from);
        tail.append(to);
        from = head;
        to = tail;
      }
      refer_to_folder_of(from, here_);
      std::vector<TracedText> words = value.words();
      for (TracedText& word : words) {
        if (auto stem = match_percent(from, word)) word = fill_percent(to, *stem);
      }
      auto slot = slot_for_all(slots, inner);
      return slot ? std::move(*slot) : join(words, " ");
    }
  }
  if (!automatic_ || text.find('$') == std::string::npos) return expand_variable(expand(inner).text());
  SlotsBefore slots = slots_before();
  std::string name = expand(inner).text();
  is_fixed_ = false;
  if (auto slot = slot_for_all(slots, inner)) return *slot;
  if (!automatic_->shape) refer_to_own_variable(name);
  return expand_variable(name);
}

// A variable that is called after the target, "$($@-cflags)": it must be called after it where that goes.
void Evaluation::refer_to_own_variable(const std::string& name) {
  auto variable = scope_.find(name);
  if (variable == scope_.end() || automatic_->found.empty() || variable->second.name.text() != name) return;
  refer_by_stem(variable->second.name, variable->second.site, automatic_->found.front());
}

// The folder in "src/%.c" follows where all of it goes; what goes from it alone is another's to tell.
void Evaluation::refer_to_folder_of(const TracedText& form, Site site) {
  std::string text = form.text();
  std::size_t percent = text.find('%');
  std::size_t slash = percent == std::string::npos ? percent : text.rfind('/', percent);
  if (slash == std::string::npos || slash == 0 || site.file == kNoFile) return;
  TracedText folder = form.substr(0, slash + 1);  // as what is made of the pattern is spelled, too
  // A variable is for its own uses to follow.
  if (folder.pieces().size() != 1 || !folder.pieces().front().has_origin()) return;
  Place place = place_of(base_.folder, folder.text(), base_.space);
  bool is_there = !folder.has_hole() && place.space == Space::tree && !place.path.is_root() &&
                  tree_.is_folder(place.path);
  if (!is_there) return;
  Reference reference = reference_by(folder, Role::argument, key_at(site));
  reference.may_gain = true;
  reference.lead_to(place.path);
  add(std::move(reference));
}

// A name that holds the source's path but for its ending leads to the source.
void Evaluation::refer_by_stem(const TracedText& name, Site site, const TracedText& source) {
  Place place = place_of(base_.folder, source.text(), base_.space);
  if (site.file == kNoFile || place.space != Space::tree || !tree_.is_file(place.path)) return;
  std::string path = source.text(), ending = ending_of(path);
  std::string stem = path.substr(0, path.size() - ending.size());
  std::size_t at = name.text().find(stem);
  if (stem.empty() || at == std::string::npos) return;
  TracedText spelled = name.substr(at, stem.size());
  spelled.append(TracedText::plain(ending));
  Reference reference = reference_by(spelled, Role::listed, key_at(site));
  reference.construct_part = ConstructPart::of(place.path);
  reference.lead_to(place.path);
  out_.add(std::move(reference));
}

std::optional<TracedText> Evaluation::expand_special(const std::string& name) {
  auto folder_of = [&](FileIndex anchor) {
    RelPath folder = anchor == base_.anchor ? base_.folder : out_.files().path(anchor).parent();
    return TracedText::folder(Piece::Nature::tree_folder, anchor, marked(Space::tree, folder));
  };
  if (name == "CURDIR" || name == "PWD") {
    if (base_.anchor == kNoFile) return TracedText::plain(marked(Space::tree, base_.folder));
    return folder_of(base_.anchor);
  }
  if (name == "MAKEFILE_LIST" && !reading_.empty()) {
    TracedText out;
    for (FileIndex file : reading_) {
      if (!out.empty()) out.append(TracedText::plain(" "));
      out.append(folder_of(file));
      out.append(TracedText::plain("/" + std::string(out_.files().path(file).name())));
    }
    return out;
  }
  return std::nullopt;
}

namespace {

bool is_automatic(const std::string& name) {
  if (name.empty() || name.size() > 2 || std::string_view("@<^+?|*%").find(name[0]) == std::string_view::npos)
    return false;
  return name.size() == 1 || name[1] == 'D' || name[1] == 'F';
}

}  // namespace

std::optional<TracedText> Evaluation::expand_automatic(const std::string& name) const {
  if (!is_automatic(name)) return std::nullopt;
  if (automatic_->shape) return slot(TracedText::plain(name));
  bool is_part = name.size() == 2;
  TracedText out;
  auto add = [&](const TracedText& word) {
    if (!out.empty()) out.append(TracedText::plain(" "));
    std::size_t cut = is_part ? word.text().rfind('/') : std::string::npos;
    if (!is_part || (name[1] == 'F' && cut == std::string::npos))
      out.append(word);
    else if (name[1] == 'F')
      out.append(word.substr(cut + 1));
    else
      out.append(cut == std::string::npos ? TracedText::plain(".") : word.substr(0, cut));
  };
  switch (name[0]) {
    case '@':
      add(automatic_->target);
      break;
    case '<':
      if (!automatic_->found.empty()) add(automatic_->found.front());
      break;
    case '|':
      for (const TracedText& word : automatic_->order_only) add(word);
      break;
    case '*':
      if (!automatic_->stem.empty()) add(automatic_->stem);
      break;
    case '%':
      break;
    default:
      for (const TracedText& word : automatic_->found) add(word);
      break;
  }
  out.mark_automatic();
  return out;
}

TracedText Evaluation::expand_variable(const std::string& name) {
  const Variable* variable = nullptr;
  if (is_automatic(name)) is_fixed_ = false;
  if (automatic_) {
    if (auto value = expand_automatic(name)) return *value;
    if (auto at = automatic_->own.find(name); at != automatic_->own.end()) variable = &at->second;
  }
  bool is_own = variable != nullptr;
  if (!variable) {
    if (auto at = scope_.find(name); at != scope_.end()) variable = &at->second;
  }
  if (!variable) {
    if (auto special = expand_special(name)) return *special;
    if (auto at = defaults().find(name); at != defaults().end()) return expand(TracedText::plain(at->second));
    // A configure script that is nobody's but the project's writes it in front of the template.
    if (is_configured_ && name == "VPATH") return TracedText::plain(".");
    if (is_install_folder(name)) return TracedText::plain("/outside");
    return unset_.contains(name) ? TracedText() : TracedText::hole();
  }
  if (variable->simple) return variable->value;
  bool is_kept = is_emitting_ && bound_ == 0 && !is_own && (!automatic_ || automatic_->own.empty());
  if (!is_kept) {
    is_fixed_ = is_fixed_ && !is_own;
    return expand_recursive(name, *variable);
  }
  if (auto known = expanded_.find(name); known != expanded_.end()) return known->second;
  bool outer = std::exchange(is_fixed_, true);
  TracedText value = expand_recursive(name, *variable);
  if (is_fixed_) expanded_.emplace(name, value);
  is_fixed_ = is_fixed_ && outer;
  return value;
}

TracedText Evaluation::expand_recursive(const std::string& name, const Variable& variable) {
  if (!expanding_.insert(name).second) {
    is_fixed_ = false;
    problem("self-reference", variable.site, fmt::format("variable {} names itself", name));
    return {};
  }
  TracedText value = expand(TracedText(variable.value));
  expanding_.erase(name);
  return value;
}

std::optional<TracedText> match_percent(const TracedText& pattern, const TracedText& word) {
  std::string form = pattern.text();
  std::string text = word.text();
  std::size_t percent = form.find('%');
  if (percent == std::string::npos)
    return form == text ? std::optional<TracedText>(TracedText()) : std::nullopt;
  std::size_t tail = form.size() - percent - 1;
  if (text.size() < percent + tail || text.compare(0, percent, form, 0, percent) != 0 ||
      text.compare(text.size() - tail, tail, form, percent + 1, tail) != 0) {
    return std::nullopt;
  }
  return word.substr(percent, text.size() - percent - tail);
}

TracedText fill_percent(const TracedText& pattern, const TracedText& stem) {
  std::size_t percent = pattern.text().find('%');
  if (percent == std::string::npos) return pattern;
  TracedText out = pattern.substr(0, percent);
  out.append(stem);
  out.append(pattern.substr(percent + 1));
  return out;
}

}  // namespace yc::make
