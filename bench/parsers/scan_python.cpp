// Prints what the scanner of Python sources finds in the files named on standard input, one a line, for
// bench/python-scan: "F path", then lines with byte offsets: "I begin level module|name as bound|…" for each
// import, "C begin in_fstring text" for each chain of names, "S begin" for each run of strings. With -q only
// the speed.
#include <chrono>
#include <fstream>
#include <iostream>
#include <sstream>

#include "formats/python/python_scan.h"

int main(int argc, char** argv) {
  using namespace yc::python;
  bool quiet = argc > 1 && std::string(argv[1]) == "-q";
  std::string path;
  double seconds = 0, bytes = 0;
  while (std::getline(std::cin, path)) {
    std::ifstream in(path, std::ios::binary);
    std::stringstream content;
    content << in.rdbuf();
    std::string text = content.str();
    auto start = std::chrono::steady_clock::now();
    PythonFacts facts = scan_python(text);
    seconds += std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count();
    bytes += static_cast<double>(text.size());
    if (quiet) continue;
    std::cout << "F " << path << "\n";
    for (const Import& each : facts.imports) {
      std::cout << "I " << each.statement.begin << " " << (each.from ? 1 : 0) << " " << each.level << " "
                << each.module;
      for (const ImportName& name : each.names) std::cout << "|" << name.name << " as " << name.bound;
      std::cout << "\n";
    }
    std::size_t depth = 0, strings = 0;
    std::vector<yc::Span> fields;
    std::vector<std::uint32_t> open;
    for (const Token& token : facts.tokens) {
      if (token.kind == Token::Kind::field) {
        ++depth;
        open.push_back(token.span.begin);
      } else if (token.kind == Token::Kind::field_end) {
        --depth;
        if (depth == 0) fields.push_back({open.front(), token.span.end});
        open.pop_back();
      } else if (depth == 0) {
        bool is_string = token.kind == Token::Kind::string;
        if (is_string && strings == 0) std::cout << "S " << token.span.begin << "\n";
        strings = is_string ? strings + 1 : 0;
      }
    }
    for (const Chain& each : facts.chains) {
      bool inside = false;
      for (const yc::Span& field : fields) inside = inside || field.holds(each.span);
      std::cout << "C " << each.span.begin << " " << inside << " " << each.text << "\n";
    }
  }
  std::cerr << bytes / 1e6 << " MB, " << bytes / 1e6 / seconds << " MB/s\n";
}
