// YAML 1.1. libyaml parses and marks where each scalar begins and ends.
#include <yaml.h>

#include <memory>

#include "formats/values/values.h"

namespace yc::values {

namespace {

constexpr std::size_t kDeepest = 100;  // the library looks at every level for each token

class YamlCollector {
 public:
  explicit YamlCollector(std::string_view bytes) : bytes_(bytes) {}

  std::vector<Value> run() {
    yaml_parser_t parser;
    if (!yaml_parser_initialize(&parser)) return {};
    std::unique_ptr<yaml_parser_t, void (*)(yaml_parser_t*)> owner(&parser, yaml_parser_delete);
    yaml_parser_set_input_string(&parser, reinterpret_cast<const unsigned char*>(bytes_.data()),
                                 bytes_.size());
    yaml_parser_set_encoding(&parser, YAML_UTF8_ENCODING);
    while (true) {
      yaml_event_t event;
      if (!yaml_parser_parse(&parser, &event)) break;  // what came before is good
      yaml_event_type_t type = event.type;
      take(event);
      yaml_event_delete(&event);
      if (type == YAML_STREAM_END_EVENT || levels_.size() > kDeepest) break;
    }
    return std::move(out_);
  }

 private:
  // What is open: a list, or a map with the key whose value comes next.
  struct Level {
    bool is_map = false;
    bool at_key = true;
    std::size_t index = 0;
    std::string key;
  };

  // Marks count characters.
  std::size_t offset_of(std::size_t characters) {
    if (characters < known_characters_) known_characters_ = known_offset_ = 0;
    std::size_t at = known_offset_;
    if (known_characters_ == 0 && bytes_.starts_with("\xEF\xBB\xBF")) at = 3;
    for (std::size_t i = known_characters_; i < characters && at < bytes_.size(); ++i) {
      ++at;
      while (at < bytes_.size() && (static_cast<unsigned char>(bytes_[at]) & 0xC0U) == 0x80U) ++at;
    }
    known_characters_ = characters;
    known_offset_ = at;
    return at;
  }

  std::vector<std::string> path() const {
    std::vector<std::string> out;
    for (const Level& level : levels_) out.push_back(level.is_map ? level.key : std::to_string(level.index));
    return out;
  }

  // A value of the level that is open has ended.
  void next() {
    if (levels_.empty()) return;
    Level& level = levels_.back();
    if (level.is_map) {
      level.at_key = !level.at_key;
    } else {
      ++level.index;
    }
  }

  void take(const yaml_event_t& event) {
    if (event.type == YAML_MAPPING_START_EVENT || event.type == YAML_SEQUENCE_START_EVENT) {
      levels_.push_back({event.type == YAML_MAPPING_START_EVENT, true, 0, ""});
    } else if (event.type == YAML_MAPPING_END_EVENT || event.type == YAML_SEQUENCE_END_EVENT) {
      levels_.pop_back();
      next();
    } else if (event.type == YAML_ALIAS_EVENT) {
      next();
    } else if (event.type == YAML_SCALAR_EVENT) {
      std::string text(reinterpret_cast<const char*>(event.data.scalar.value), event.data.scalar.length);
      bool is_key = !levels_.empty() && levels_.back().is_map && levels_.back().at_key;
      if (is_key) {
        levels_.back().key = text;
      } else {
        add(event, text);
      }
      next();
    }
  }

  void add(const yaml_event_t& event, const std::string& text) {
    if (levels_.empty()) return;  // the whole text is one scalar, and no key leads to it
    std::size_t begin = offset_of(event.start_mark.index), end = offset_of(event.end_mark.index);
    if (begin >= end || end > bytes_.size()) return;
    WritingStyle style = kYamlPlain;
    switch (event.data.scalar.style) {
      case YAML_SINGLE_QUOTED_SCALAR_STYLE:
      case YAML_DOUBLE_QUOTED_SCALAR_STYLE:
        style = event.data.scalar.style == YAML_SINGLE_QUOTED_SCALAR_STYLE ? kYamlSingle : kYamlDouble;
        // A tag or an anchor may stand before it.
        begin = bytes_.find(style == kYamlSingle ? '\'' : '"', begin);
        if (begin == std::string_view::npos || begin + 2 > end) return;
        ++begin, --end;
        break;
      case YAML_LITERAL_SCALAR_STYLE:
      case YAML_FOLDED_SCALAR_STYLE:
        block(begin, end);
        return;
      default:
        if (std::size_t at = bytes_.substr(begin, end - begin).find(text); at != std::string_view::npos) {
          begin += at;
          end = begin + text.size();
        }
        break;
    }
    std::string_view raw = bytes_.substr(begin, end - begin);
    if (raw.find('\n') != std::string_view::npos) return;  // folded over lines
    out_.push_back({path(), span_of(begin, end), text, style, raw == text});
  }

  // Each line of a block is a value: a list of files is often written so.
  void block(std::size_t begin, std::size_t end) {
    std::size_t at = bytes_.find('\n', begin);
    while (at != std::string_view::npos && at + 1 < end) {
      std::size_t stop = std::min(bytes_.find('\n', at + 1), bytes_.size());
      std::size_t first = bytes_.find_first_not_of(" \t", at + 1), last = stop;
      while (last > at + 1 && (bytes_[last - 1] == ' ' || bytes_[last - 1] == '\r')) --last;
      if (first != std::string_view::npos && first < last)
        out_.push_back(
            {path(), span_of(first, last), std::string(bytes_.substr(first, last - first)), kBareLine, true});
      at = stop;
    }
  }

  std::string_view bytes_;
  std::vector<Level> levels_;
  std::vector<Value> out_;
  std::size_t known_characters_ = 0, known_offset_ = 0;
};

}  // namespace

std::vector<Value> read_yaml(std::string_view bytes) {
  return YamlCollector(bytes).run();
}

}  // namespace yc::values
