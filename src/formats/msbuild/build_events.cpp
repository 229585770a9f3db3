#include "formats/msbuild/build_events.h"

#include <algorithm>

#include "base/text.h"

namespace yc::msbuild {

namespace {

class Splitter {
 public:
  Splitter(const TracedText& text, const Base& start) : cutter_(text), all_(text.text()), base_(start) {}

  shell::CommandLine run() {
    for (std::size_t at = 0; at < all_.size();) {
      char c = all_[at];
      bool joins = c == '&' || c == '|' || c == ';' || c == '\n' || c == '\r';
      if (joins || c == '(' || c == ')') {
        if (joins) end_command();
        ++at;
      } else if (c == ' ' || c == '\t' || c == '@' || c == '>' || c == '<' || c == ',' || c == '=') {
        ++at;
      } else {
        at = word(at);
      }
    }
    end_command();
    return std::move(out_);
  }

 private:
  // A word may be quoted in parts: "$(ProjectDir)"data
  std::size_t word(std::size_t at) {
    shell::Word out;
    bool in_quotes = false;
    std::size_t from = at;
    for (; at < all_.size(); ++at) {
      char c = all_[at];
      if (c == '"') {
        if (at > from) out.text.append(cutter_.part(from, at - from));
        from = at + 1;
        in_quotes = !in_quotes;
        out.quoted = true;
      } else if (c == '\n' ||
                 (!in_quotes && std::string_view(" \t\r&|;<>,=").find(c) != std::string_view::npos)) {
        break;
      }
    }
    if (at > from) out.text.append(cutter_.part(from, at - from));
    command_.words.push_back(std::move(out));
    return at;
  }

  void end_command() {
    if (command_.words.empty()) return;
    command_.base = base_;
    std::string name = command_.name();
    name = lowered(name);
    bool changes = (name == "cd" || name == "pushd" || name == "chdir") && command_.words.size() > 1;
    TracedText target = changes ? command_.words.back().text : TracedText();
    out_.commands.push_back(std::move(command_));
    command_ = {};
    if (!changes) return;
    Place place = place_of(base_.folder, target.text(), base_.space);
    bool known = !target.has_hole() && place.space == Space::tree;
    base_ = known ? Base{place.path, kNoFile, Space::tree} : Base{{}, kNoFile, Space::outside};
  }

  Cutter cutter_;
  std::string all_;
  Base base_;
  shell::Command command_;
  shell::CommandLine out_;
};

}  // namespace

shell::CommandLine command_lines(const TracedText& text, const Base& start) {
  return Splitter(text, start).run();
}

}  // namespace yc::msbuild
