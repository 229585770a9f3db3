#include "observe/observation_text.h"

#include <nlohmann/json.hpp>
#include <unordered_map>

namespace yc {

namespace {

using nlohmann::json;

constexpr int kVersion = 1;

// Names need not be UTF-8, but texts of JSON are: each byte from 0x80 on is put as the character of that
// number.
std::string as_latin(std::string_view bytes) {
  std::string out;
  for (char byte : bytes) {
    auto value = static_cast<unsigned char>(byte);
    if (value < 0x80) {
      out += byte;
    } else {
      out += static_cast<char>(0xC0 | (value >> 6));
      out += static_cast<char>(0x80 | (value & 0x3F));
    }
  }
  return out;
}

std::string from_latin(const std::string& text) {
  std::string out;
  for (std::size_t at = 0; at < text.size(); ++at) {
    auto value = static_cast<unsigned char>(text[at]);
    if (value < 0x80 || at + 1 == text.size()) {
      out += text[at];
    } else {
      out += static_cast<char>(((value & 0x03) << 6) | (static_cast<unsigned char>(text[++at]) & 0x3F));
    }
  }
  return out;
}

// Each text once; processes hold its number.
class Texts {
 public:
  std::size_t number(const std::string& text) {
    auto [at, is_new] = numbers_.try_emplace(text, list_.size());
    if (is_new) list_.push_back(as_latin(text));
    return at->second;
  }
  json numbers(const std::vector<RelPath>& paths) {
    json out = json::array();
    for (const RelPath& path : paths) out.push_back(number(path.str()));
    return out;
  }
  json list() const { return list_; }

 private:
  std::unordered_map<std::string, std::size_t> numbers_;
  std::vector<std::string> list_;
};

class Parser {
 public:
  explicit Parser(const json& whole) {
    for (const json& text : whole.at("texts")) texts_.push_back(from_latin(text.get<std::string>()));
  }
  const std::string& text(const json& number) const { return texts_.at(number.get<std::size_t>()); }
  RelPath path(const json& number) const { return normal(text(number)); }
  std::vector<RelPath> paths(const json& numbers) const {
    std::vector<RelPath> out;
    for (const json& number : numbers) out.push_back(path(number));
    return out;
  }

 private:
  static RelPath normal(const std::string& text) {
    auto path = RelPath::resolve({}, text);
    if (!path || path->str() != text) throw std::out_of_range("a path out of the tree");
    return *path;
  }
  std::vector<std::string> texts_;
};

ObservedProcess process_of(const json& from, const Parser& parser, std::size_t index) {
  ObservedProcess out;
  out.parent = from.at("parent").get<std::int32_t>();
  if (out.parent >= static_cast<std::int32_t>(index) || out.parent < -1)
    throw std::out_of_range("a process that began before its parent");
  out.is_started = from.at("started").get<bool>();
  out.program = parser.text(from.at("program"));
  for (const json& word : from.at("arguments")) out.arguments.push_back(parser.text(word));
  if (from.contains("folder")) out.folder = parser.path(from.at("folder"));
  if (from.contains("status")) out.status = from.at("status").get<int>();
  out.read = parser.paths(from.at("read"));
  out.listed = parser.paths(from.at("listed"));
  out.missed = parser.paths(from.at("missed"));
  out.wrote = parser.paths(from.at("wrote"));
  return out;
}

}  // namespace

std::string observation_text(const Observation& observation) {
  Texts texts;
  json processes = json::array();
  for (const ObservedProcess& process : observation.processes) {
    json one = {{"parent", process.parent},
                {"started", process.is_started},
                {"program", texts.number(process.program)},
                {"arguments", json::array()},
                {"read", texts.numbers(process.read)},
                {"listed", texts.numbers(process.listed)},
                {"missed", texts.numbers(process.missed)},
                {"wrote", texts.numbers(process.wrote)}};
    for (const std::string& word : process.arguments) one["arguments"].push_back(texts.number(word));
    if (process.folder) one["folder"] = texts.number(process.folder->str());
    if (process.status) one["status"] = *process.status;
    processes.push_back(std::move(one));
  }
  json digests = json::array();
  for (const auto& [path, digest] : observation.digests)
    digests.push_back({texts.number(path.str()), digest});
  json made = texts.numbers(observation.made);
  json out = {{"observation", kVersion}, {"command", as_latin(observation.command)},
              {"processes", processes},  {"made", made},
              {"digests", digests},      {"texts", texts.list()}};
  return out.dump();
}

Result<Observation> parse_observation(std::string_view text, const std::string& place) {
  auto refuse = [&](const std::string& why) {
    return Error{Failure::io, place, "is no observation of a build: " + why, "delete it and rehearse again"};
  };
  json whole = json::parse(text, nullptr, false);
  if (whole.is_discarded() || !whole.is_object()) return refuse("it is not written in JSON");
  if (!whole.contains("observation") || whole["observation"] != kVersion)
    return refuse("its version is not known here");
  try {  // the library tells by exceptions what has another shape
    Parser parser(whole);
    Observation out;
    out.command = from_latin(whole.at("command").get<std::string>());
    for (const json& process : whole.at("processes"))
      out.processes.push_back(process_of(process, parser, out.processes.size()));
    out.made = parser.paths(whole.at("made"));
    for (const json& pair : whole.at("digests"))
      out.digests.emplace(parser.path(pair.at(0)), pair.at(1).get<std::string>());
    return out;
  } catch (const std::exception& error) {
    return refuse(error.what());
  }
}

}  // namespace yc
