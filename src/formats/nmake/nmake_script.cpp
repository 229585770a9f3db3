#include "formats/nmake/nmake_script.h"

#include <algorithm>
#include <cctype>

#include "base/text.h"

namespace yc::nmake {

namespace {

constexpr std::size_t kMostValues = 8;     // of a macro, and of a text
constexpr std::size_t kDeepest = 24;       // macros within macros
constexpr std::size_t kMostIncluded = 64;  // files

bool in_name(char c) {
  return std::isalnum(static_cast<unsigned char>(c)) || c == '_' || c == '-';
}
std::uint32_t narrow(std::size_t offset) {
  return static_cast<std::uint32_t>(offset);
}

// A name at `at` with '=' behind it; its end, or npos.
std::size_t assigned_name(std::string_view bytes, Span line) {
  std::size_t at = line.begin;
  while (at < line.end && (in_name(bytes[at]) || bytes[at] == '.')) ++at;
  std::size_t end = at;
  while (at < line.end && (bytes[at] == ' ' || bytes[at] == '\t')) ++at;
  return end > line.begin && at < line.end && bytes[at] == '=' ? end : std::string_view::npos;
}

// The colon that ends a rule's targets; that of a drive ("c:\") does not.
std::size_t rule_colon(std::string_view bytes, Span line) {
  for (std::size_t at = line.begin; at < line.end; ++at) {
    if (bytes[at] == '$' && at + 1 < line.end && bytes[at + 1] == '(') {
      at = std::min<std::size_t>(bytes.find(')', at), line.end);
      continue;
    }
    bool is_drive = at == line.begin + 1 && at + 1 < line.end && bytes[at + 1] == '\\';
    if (bytes[at] == ':' && !is_drive) return at;
  }
  return std::string_view::npos;
}

class Reader {
 public:
  Reader(const TreeReader& tree, GraphBuilder& out) : tree_(tree), out_(out) {}

  Script run(const RelPath& path) {
    scan(path);
    script_.is_garbled = strange_ > 0 && !has_commands_ && directives_.empty();
    if (script_.is_garbled) return std::move(script_);
    for (const Rule& rule : rules_) put_rule(rule);
    for (const auto& [name, values] : macros_) {
      for (const Text& value : values) add_words(value, nullptr, Word::Kind::other, value.span.begin);
    }
    for (const Text& text : directives_) add_words(text, nullptr, Word::Kind::other, text.span.begin);
    for (const Word& word : script_.words) note_object(word.text.text());
    tell_limits(path);
    return std::move(script_);
  }

 private:
  struct File {
    FileIndex index = kNoFile;
    RelPath path;
    Bytes bytes;
    WritingStyle habit = kBackslash;
  };
  struct Text {
    const File* file = nullptr;
    Span span;
  };
  struct Rule {
    Text targets, prerequisites;
    std::vector<Text> commands;
  };

  void tell_limits(const RelPath& path) {
    if (gave_up_) {
      out_.incomplete(Unread::cut_short, "runaway-script", path, std::nullopt,
                      "was given up: it runs too long");
    } else if (is_partial_) {
      out_.incomplete(Unread::partly, "many-conditions", path, std::nullopt,
                      "gives a macro more values than are looked at");
    }
  }

  void note_object(const std::string& text) {
    std::string ending = lowered(ending_of(text));
    if (ending != ".obj" && ending != ".o" && ending != ".res") return;
    std::size_t slash = text.find_last_of("/+");
    std::size_t begin = slash == std::string::npos ? 0 : slash + 1;
    script_.objects.insert(text.substr(begin, text.size() - ending.size() - begin));
  }

  void scan(const RelPath& path) {
    auto bytes = tree_.read(path);
    gave_up_ = gave_up_ || files_.size() >= kMostIncluded;
    if (!bytes || gave_up_) return;
    for (const auto& known : files_) {
      if (known->path == path) return;
    }
    out_.admit(path, (*bytes)->size());
    bool slashes = (*bytes)->find('/') != std::string::npos && (*bytes)->find("\\") == std::string::npos;
    files_.push_back(
        std::make_unique<File>(File{out_.files().index(path), path, *bytes, slashes ? kSlash : kBackslash}));
    const File& file = *files_.back();
    note_names(**bytes);
    bool in_rule = false;
    for (const Line& line : lines_of(**bytes)) {
      std::string_view text = std::string_view(**bytes).substr(line.span.begin, line.span.size());
      if (text.find_first_not_of(" \t") == std::string_view::npos) continue;
      // The lines of a file that a command writes into itself are commands as well.
      if (in_rule && (line.is_indented || text.starts_with("<<"))) {
        has_commands_ = true;
        rules_.back().commands.push_back({&file, line.span});
      } else if (text.front() == '!') {
        directive(file, line.span, text);
      } else if (std::size_t end = assigned_name(**bytes, line.span); end != std::string_view::npos) {
        std::size_t value = (*bytes)->find('=', end) + 1;
        std::vector<Text>& values = macros_[std::string(text.substr(0, end - line.span.begin))];
        is_partial_ = is_partial_ || values.size() == kMostValues;
        if (values.size() < kMostValues) values.push_back({&file, {narrow(value), line.span.end}});
        in_rule = false;
      } else if (auto header = inference_header(**bytes, line.span)) {
        inference(file, line.span, *header);
        rules_.push_back({{&file, {line.span.begin, line.span.begin}}, {}, {}});
        in_rule = true;
      } else if (std::size_t colon = rule_colon(**bytes, line.span); colon != std::string_view::npos) {
        std::size_t rest = std::min<std::size_t>((*bytes)->find_first_not_of(':', colon), line.span.end);
        rules_.push_back(
            {{&file, {line.span.begin, narrow(colon)}}, {&file, {narrow(rest), line.span.end}}, {}});
        in_rule = true;
      } else if (in_rule) {
        rules_.back().commands.push_back({&file, line.span});  // of an inline file
      } else {
        ++strange_;
      }
    }
  }

  void note_names(std::string_view bytes) {
    for (std::size_t at = 0; at < bytes.size(); ++at) {
      std::size_t end = at;
      while (end < bytes.size() && in_name(bytes[end])) ++end;
      if (end > at) script_.names.emplace(bytes.substr(at, end - at));
      at = end;
    }
  }

  void directive(const File& file, Span span, std::string_view text) {
    std::size_t at = std::min(text.find_first_not_of(" \t", 1), text.size());
    std::size_t end = std::min(text.find_first_of(" \t(<\"", at), text.size());
    std::string word = lowered(text.substr(at, end - at));
    if (word == "message" || word == "error" || word == "cmdswitches") return;
    Text rest{&file, {span.begin + narrow(end), span.end}};
    if (word != "include") {
      directives_.push_back(rest);
      return;
    }
    for (const TracedText& name : expand(rest, nullptr, 0)) {
      TracedText path = name.trimmed(" \t\"<>");
      if (path.has_hole() || path.empty()) continue;
      // From where it is started, which is not known yet, or from beside.
      for (RelPath folder = file.path.parent();; folder = folder.parent()) {
        auto found = RelPath::resolve(folder, path.text());
        if (found && tree_.is_file(*found)) {
          script_.includes.push_back({path, Word::Kind::other, {file.index, span.begin}});
          script_.included_from.push_back(folder);
          scan(*found);
          break;
        }
        if (folder.is_root()) break;
      }
    }
  }

  void inference(const File& file, Span line, const InferenceHeader& header) {
    if (header.to != ".obj" && header.to != ".o" && header.to != ".res") return;
    for (const TracedText& folder : expand({&file, header.folder}, nullptr, 0)) {
      TracedText trimmed = folder;
      while (trimmed.size() > 1 && trimmed.text().ends_with("/"))
        trimmed = trimmed.substr(0, trimmed.size() - 1);
      script_.inferences.push_back({trimmed, header.from, {file.index, line.begin}});
    }
  }

  void put_rule(const Rule& rule) {
    std::uint32_t at = rule.targets.span.begin;
    std::vector<TracedText> targets;
    for (const TracedText& text : expand(rule.targets, nullptr, 0)) {
      for (TracedText& word : text.words()) targets.push_back(std::move(word));
    }
    std::string stem;
    bool has_stem = targets.size() == 1 && !targets.front().has_hole();
    if (has_stem) {
      stem = targets.front().text();
      stem.resize(stem.size() - ending_of(stem).size());
    }
    for (TracedText& target : targets) {
      if (!rule.commands.empty()) script_.own_commands.insert(target.text());
      script_.words.push_back({std::move(target), Word::Kind::target, {rule.targets.file->index, at}});
    }
    if (rule.prerequisites.file)
      add_words(rule.prerequisites, nullptr,
                rule.commands.empty() ? Word::Kind::dependency : Word::Kind::prerequisite, at);
    for (const Text& command : rule.commands)
      add_words(command, has_stem ? &stem : nullptr, Word::Kind::other, command.span.begin);
  }

  void add_words(const Text& text, const std::string* stem, Word::Kind kind, std::uint32_t at) {
    for (const TracedText& value : expand(text, stem, 0)) {
      for (TracedText& word : value.words(" \t\r\n\"();,|&<>"))
        script_.words.push_back({std::move(word), kind, {text.file->index, at}});
    }
  }

  // All that a text may be; `stem` is what $* stands for.
  std::vector<TracedText> expand(const Text& text, const std::string* stem, std::size_t depth) {
    std::vector<TracedText> out(1);
    std::string_view bytes = *text.file->bytes;
    auto put = [&](const TracedText& piece) {
      for (TracedText& each : out) each.append(piece);
    };
    if (!out_.spend(text.span.size() + 1)) {
      gave_up_ = true;
      return {};
    }
    for (std::size_t at = text.span.begin; at < text.span.end;) {
      if (bytes[at] == '\\' && is_continued(bytes, at)) {
        put(TracedText::plain(" "));
        at = bytes.find('\n', at) + 1;
      } else if (bytes[at] != '$' || at + 1 == text.span.end) {
        std::size_t end = at + 1;
        while (end < text.span.end && bytes[end] != '$' && !(bytes[end] == '\\' && is_continued(bytes, end)))
          ++end;
        put(literal(*text.file, at, end));
        at = end;
      } else {
        at = put_macro(text, at, stem, depth, out);
      }
    }
    return out;
  }

  static bool is_continued(std::string_view bytes, std::size_t at) {
    std::size_t next = at + 1;
    if (next < bytes.size() && bytes[next] == '\r') ++next;
    return next < bytes.size() && bytes[next] == '\n';
  }

  static TracedText literal(const File& file, std::size_t begin, std::size_t end) {
    std::string text = file.bytes->substr(begin, end - begin);
    bool backslash = text.find('\\') != std::string::npos, slash = text.find('/') != std::string::npos;
    std::replace(text.begin(), text.end(), '\\', '/');
    return TracedText::literal(std::move(text), file.index, {narrow(begin), narrow(end)},
                               backslash ? kBackslash
                               : slash   ? kSlash
                                         : file.habit);
  }

  // What begins with a '$'; where it ends.
  std::size_t put_macro(const Text& text, std::size_t at, const std::string* stem, std::size_t depth,
                        std::vector<TracedText>& out) {
    std::string_view bytes = *text.file->bytes;
    auto put = [&](const TracedText& piece) {
      for (TracedText& each : out) each.append(piece);
    };
    char next = bytes[at + 1];
    if (next == '(') {
      std::size_t close = bytes.find(')', at);
      if (close == std::string_view::npos || close >= text.span.end) return text.span.end;
      put_value(std::string(bytes.substr(at + 2, close - at - 2)),
                {text.file->index, {narrow(at), narrow(close + 1)}}, depth, out);
      return close + 1;
    }
    if (next == '$') {
      put(TracedText::plain("$"));
      return at + 2;
    }
    // "$*.c" is spelled here as one word.
    std::size_t end = at + 2;
    while (next == '*' && end < text.span.end &&
           (std::isalnum(static_cast<unsigned char>(bytes[end])) || bytes[end] == '.'))
      ++end;
    if (next == '*' && stem && end > at + 2 && bytes[at + 2] == '.') {
      Piece piece;
      piece.text = *stem + std::string(bytes.substr(at + 2, end - at - 2));
      piece.file = text.file->index;
      piece.span = {narrow(at), narrow(end)};
      piece.style = text.file->habit;
      piece.verbatim = false;
      TracedText whole;
      whole.append(std::move(piece));
      put(whole);
      return end;
    }
    put(TracedText::hole());
    return at + 2 + (next == '*' && at + 2 < text.span.end && bytes[at + 2] == '*' ? 1 : 0);
  }

  // $(NAME:from=to): every `from` in a value becomes `to`.
  static TracedText substituted(const TracedText& text, const std::string& from, const std::string& to) {
    TracedText out;
    std::string all = text.text();
    std::size_t at = 0;
    for (std::size_t hit = all.find(from); hit != std::string::npos; hit = all.find(from, at)) {
      out.append(text.substr(at, hit - at));
      out.append(TracedText::plain(to));
      at = hit + from.size();
    }
    out.append(text.substr(at));
    return out;
  }

  void put_value(const std::string& written, const Passage& passage, std::size_t depth,
                 std::vector<TracedText>& out) {
    std::size_t colon = written.find(':'), equals = written.find('=', std::min(colon, written.size()));
    bool substitutes = colon != std::string::npos && equals != std::string::npos && equals > colon + 1;
    std::string name = written.substr(0, substitutes ? colon : std::string::npos);
    bool is_automatic = !name.empty() && std::string_view("@*<?").find(name[0]) != std::string_view::npos;
    bool is_known = name.find(':') == std::string::npos && !is_automatic && name != "MAKEDIR";
    std::vector<TracedText> values;
    auto macro = macros_.find(name);
    if (!is_known || depth == kDeepest) {
      values.push_back(TracedText::hole());
    } else if (macro == macros_.end() || std::find(open_.begin(), open_.end(), name) != open_.end()) {
      return;  // nothing, as for nmake
    } else {
      open_.push_back(name);
      for (const Text& value : macro->second) {
        for (const TracedText& one : expand(value, nullptr, depth + 1)) {
          TracedText text = one.trimmed();
          if (substitutes)
            text =
                substituted(text, written.substr(colon + 1, equals - colon - 1), written.substr(equals + 1));
          values.push_back(text.through(passage));
        }
      }
      open_.pop_back();
    }
    std::vector<TracedText> all;
    for (const TracedText& head : out) {
      for (const TracedText& value : values) {
        is_partial_ = is_partial_ || all.size() == kMostValues;
        if (all.size() == kMostValues) break;
        all.push_back(head);
        all.back().append(value);
      }
    }
    out = std::move(all);
  }

  const TreeReader& tree_;
  GraphBuilder& out_;
  std::vector<std::unique_ptr<File>> files_;
  std::map<std::string, std::vector<Text>> macros_;
  std::vector<Rule> rules_;
  std::vector<Text> directives_;
  std::vector<std::string> open_;  // macros that are being put in
  std::size_t strange_ = 0;        // lines that are nothing known
  bool has_commands_ = false, gave_up_ = false, is_partial_ = false;
  Script script_;
};

}  // namespace

std::vector<Line> lines_of(std::string_view bytes) {
  std::vector<Line> out;
  for (std::size_t at = 0; at < bytes.size();) {
    std::size_t begin = at, end = at;
    bool is_continued = true;
    while (is_continued && at < bytes.size()) {
      end = std::min(bytes.find('\n', at), bytes.size());
      at = end + 1;
      std::size_t last = end;
      if (last > begin && bytes[last - 1] == '\r') --last;
      is_continued = last > begin && bytes[last - 1] == '\\';
    }
    while (end > begin && is_space(bytes[end - 1])) --end;
    bool is_indented = end > begin && (bytes[begin] == ' ' || bytes[begin] == '\t');
    // A '#' begins a comment, in commands only as the first sign.
    std::size_t first = std::min(bytes.find_first_not_of(" \t", begin), end);
    if (first < end && bytes[first] == '#') continue;
    for (std::size_t sign = begin; !is_indented && sign < end; ++sign) {
      if (bytes[sign] == '#' && bytes[sign - 1] != '^') end = sign;
    }
    if (end > begin) out.push_back({{narrow(begin), narrow(end)}, is_indented});
  }
  return out;
}

std::optional<InferenceHeader> inference_header(std::string_view bytes, Span line) {
  InferenceHeader out;
  std::size_t at = line.begin;
  auto braces = [&](Span& span) {
    span = {narrow(at), narrow(at)};
    if (at >= line.end || bytes[at] != '{') return true;
    std::size_t close = bytes.find('}', at);
    if (close >= line.end) return false;
    span = {narrow(at + 1), narrow(close)};
    at = close + 1;
    return true;
  };
  auto ending = [&](std::string& text) {
    std::size_t begin = at;
    if (at >= line.end || bytes[at] != '.') return false;
    for (++at; at < line.end && (in_name(bytes[at]) || bytes[at] == '+'); ++at) {
    }
    text = bytes.substr(begin, at - begin);
    return text.size() > 1;
  };
  bool holds = braces(out.folder) && ending(out.from) && braces(out.made) && ending(out.to);
  at = std::min<std::size_t>(bytes.find_first_not_of(" \t", at), line.end);
  if (!holds || at == line.end || bytes[at] != ':') return std::nullopt;
  return out;
}

Script read_script(const TreeReader& tree, const RelPath& path, GraphBuilder& out) {
  return Reader(tree, out).run(path);
}

}  // namespace yc::nmake
