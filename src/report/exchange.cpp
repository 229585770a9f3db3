#include "report/exchange.h"

#include <fmt/format.h>

#include <algorithm>
#include <cctype>
#include <map>
#include <nlohmann/json.hpp>
#include <pugixml.hpp>
#include <sstream>

#include "report/text.h"
#include "words/report.h"

namespace yc::report {

namespace {

using json = nlohmann::ordered_json;

// A path as a relative reference (RFC 3986, section 4.2).
std::string uri_of(std::string_view path) {
  std::string out;
  for (char c : path) {
    bool is_plain = std::isalnum(static_cast<unsigned char>(c)) ||
                    std::string_view("-._~/!$&'()*+,;=@").find(c) != std::string_view::npos;
    out += is_plain ? std::string(1, c) : fmt::format("%{:02X}", static_cast<unsigned char>(c));
  }
  return out;
}

// The line, and the column in characters, both from 1.
Position in_characters(std::string_view bytes, std::uint32_t offset, Position out) {
  std::string_view line = bytes.substr(offset + 1 - out.column, out.column - 1);
  out.column = 1;
  for (char c : line) out.column += (static_cast<unsigned char>(c) & 0xC0) != 0x80;
  return out;
}

std::string described_finding(const std::string& id) {
  return std::string(words::report::findings().find(id).value_or(id));
}

json location_of(const Finding& finding, const TreeReader& tree, const Positions& positions) {
  json physical = {{"artifactLocation", {{"uri", uri_of(finding.file.str())}, {"uriBaseId", "ROOT"}}}};
  auto bytes = finding.has_place ? tree.read(finding.file) : Result<Bytes>(Error{});
  if (bytes && finding.span.begin <= (*bytes)->size()) {
    auto in_file = [&](std::uint32_t offset) {
      return in_characters(**bytes, offset, positions.at(finding.file, offset).value_or(Position()));
    };
    Position begin = in_file(finding.span.begin);
    Position end = in_file(std::min(finding.span.end, static_cast<std::uint32_t>((*bytes)->size())));
    physical["region"] = {{"startLine", begin.line}, {"startColumn", begin.column}};
    bool is_forward = end.line > begin.line || end.column > begin.column;
    if (is_forward) {
      physical["region"]["endLine"] = end.line;
      physical["region"]["endColumn"] = end.column;
    }
  }
  return {{"physicalLocation", std::move(physical)}};
}

std::string message_of(const Finding& finding) {
  std::string out = printable(finding.message);
  if (!finding.suggestion.empty()) out += "; most likely meant: " + printable(finding.suggestion);
  return out;
}

std::string xml_text(const pugi::xml_document& document) {
  std::ostringstream out;
  document.save(out, "  ");
  return out.str();
}

}  // namespace

std::string findings_sarif(const std::vector<Finding>& findings, const TreeReader& tree,
                           const std::string& root, const std::string& version) {
  std::map<std::string, std::size_t> rules;  // their numbers
  json all = json::array(), results = json::array();
  const Positions positions(tree);
  for (const Finding& finding : findings) {
    auto [rule, fresh] = rules.emplace(finding.id, rules.size());
    if (fresh)
      all.push_back({{"id", finding.id}, {"shortDescription", {{"text", described_finding(finding.id)}}}});
    json result = {{"ruleId", finding.id},
                   {"ruleIndex", rule->second},
                   {"level", finding.is_note ? "note" : "error"},
                   {"message", {{"text", message_of(finding)}}}};
    if (!finding.file.is_root()) result["locations"] = json::array({location_of(finding, tree, positions)});
    results.push_back(std::move(result));
  }
  json run = {
      {"tool", {{"driver", {{"name", "Yellow Compass"}, {"version", version}, {"rules", std::move(all)}}}}},
      {"columnKind", "unicodeCodePoints"},
      {"originalUriBaseIds", {{"ROOT", {{"uri", "file://" + uri_of(root) + "/"}}}}},
      {"results", std::move(results)}};
  json out = {{"$schema", "https://json.schemastore.org/sarif-2.1.0.json"},
              {"version", "2.1.0"},
              {"runs", json::array({std::move(run)})}};
  return out.dump(2, ' ', false, json::error_handler_t::replace) + "\n";
}

std::string findings_junit(const std::vector<Finding>& findings, const TreeReader& tree) {
  std::map<std::string, std::vector<const Finding*>> by_id;
  for (const Finding& finding : findings) by_id[finding.id].push_back(&finding);
  const Positions positions(tree);
  pugi::xml_document document;
  pugi::xml_node declaration = document.append_child(pugi::node_declaration);
  declaration.append_attribute("version") = "1.0";
  declaration.append_attribute("encoding") = "UTF-8";
  pugi::xml_node suites = document.append_child("testsuites");
  suites.append_attribute("name") = "yellow-compass check";
  for (const auto& [id, list] : by_id) {
    pugi::xml_node suite = suites.append_child("testsuite");
    std::size_t notes = 0;
    for (const Finding* finding : list) notes += finding->is_note;
    suite.append_attribute("name") = id.c_str();
    suite.append_attribute("tests") = static_cast<unsigned long long>(list.size());
    suite.append_attribute("failures") = static_cast<unsigned long long>(list.size() - notes);
    suite.append_attribute("skipped") = static_cast<unsigned long long>(notes);
    for (const Finding* finding : list) {
      std::string place = place_text(
          finding->file, finding->has_place ? std::optional(finding->span) : std::nullopt, positions);
      pugi::xml_node one = suite.append_child("testcase");
      one.append_attribute("name") = place.c_str();
      one.append_attribute("classname") = id.c_str();
      std::string message = message_of(*finding);
      pugi::xml_node told = one.append_child(finding->is_note ? "skipped" : "failure");
      if (!finding->is_note) told.append_attribute("message") = message.c_str();
      told.text() = (place + ": " + message).c_str();
    }
  }
  if (findings.empty()) {
    pugi::xml_node suite = suites.append_child("testsuite");
    suite.append_attribute("name") = "references";
    suite.append_attribute("tests") = 1;
    suite.append_attribute("failures") = 0;
    pugi::xml_node one = suite.append_child("testcase");
    one.append_attribute("name") = "every reference leads somewhere";
    one.append_attribute("classname") = "references";
  }
  return xml_text(document);
}

}  // namespace yc::report
