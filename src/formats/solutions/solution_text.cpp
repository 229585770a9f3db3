#include "formats/solutions/solution_text.h"

#include <algorithm>
#include <cctype>
#include <optional>

namespace yc::solutions {

namespace {

std::string upper(std::string_view text) {
  std::string out(text);
  std::transform(out.begin(), out.end(), out.begin(), [](unsigned char c) { return std::toupper(c); });
  return out;
}

std::string_view stripped(std::string_view text) {
  while (!text.empty() && std::isspace(static_cast<unsigned char>(text.front()))) text.remove_prefix(1);
  while (!text.empty() && std::isspace(static_cast<unsigned char>(text.back()))) text.remove_suffix(1);
  return text;
}

class Reader {
 public:
  explicit Reader(std::string_view bytes) : bytes_(bytes) {}

  Solution run() {
    for (std::size_t at = 0; at < bytes_.size();) {
      std::size_t end = std::min(bytes_.find('\n', at), bytes_.size());
      line(stripped(bytes_.substr(at, end - at)), at, std::min(end + 1, bytes_.size()));
      at = end + 1;
    }
    return std::move(out_);
  }

 private:
  Span span_in_file(std::string_view part) const {
    auto begin = static_cast<std::uint32_t>(part.data() - bytes_.data());
    return {begin, begin + static_cast<std::uint32_t>(part.size())};
  }

  void line(std::string_view text, std::size_t begin, std::size_t end) {
    if (text.starts_with("Project(")) {
      project(text, begin);
    } else if (text == "EndProject") {
      if (!out_.entries.empty()) out_.entries.back().line.end = static_cast<std::uint32_t>(end);
      out_.entries_end = static_cast<std::uint32_t>(end);
    } else if (text.starts_with("ProjectSection(") || text.starts_with("GlobalSection(")) {
      section_ = text.substr(text.find('(') + 1);
      section_ = section_.substr(0, section_.find(')'));
    } else if (text == "EndProjectSection" || text == "EndGlobalSection") {
      if (section_ == "NestedProjects") out_.nestings_end = static_cast<std::uint32_t>(begin);
      section_ = {};
    } else if (section_ == "SolutionItems" || section_ == "FolderStartupServices") {
      std::size_t equals = text.find(" = ");
      if (equals == std::string_view::npos) return;
      file(stripped(text.substr(0, equals)));
      file(stripped(text.substr(equals + 3)));
    } else if (section_ == "SharedMSBuildProjectFiles") {
      file(text.substr(0, text.find('*')));
    } else if (section_ == "NestedProjects") {
      std::size_t equals = text.find('=');
      if (equals == std::string_view::npos) return;
      std::string_view parent = stripped(text.substr(equals + 1));
      out_.nestings.push_back({upper(stripped(text.substr(0, equals))), upper(parent), span_of(begin, end),
                               span_in_file(parent)});
    }
  }

  void file(std::string_view text) {
    if (!text.empty()) out_.files.push_back({std::string(text), span_in_file(text)});
  }

  // Project("{type}") = "name", "path", "{identifier}"
  void project(std::string_view text, std::size_t begin) {
    std::vector<std::string_view> quoted;
    for (std::size_t at = text.find('"'); at != std::string_view::npos; at = text.find('"', at + 1)) {
      std::size_t end = text.find('"', at + 1);
      if (end == std::string_view::npos) return;
      quoted.push_back(text.substr(at + 1, end - at - 1));
      at = end;
    }
    if (quoted.size() < 4) return;
    Entry entry;
    entry.type = upper(quoted[0]);
    entry.name = quoted[1];
    entry.path = quoted[2];
    entry.identifier = upper(quoted[3]);
    entry.name_span = span_in_file(quoted[1]);
    entry.path_span = span_in_file(quoted[2]);
    entry.line = span_of(begin, begin);
    out_.entries.push_back(std::move(entry));
  }

  std::string_view bytes_, section_;
  Solution out_;
};

}  // namespace

bool Entry::is_folder() const {
  return type == "{2150E333-8FDC-42A3-9474-1A3956D46DE8}";
}

Solution read_solution(std::string_view bytes) {
  return Reader(bytes).run();
}

}  // namespace yc::solutions
