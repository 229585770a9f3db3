// Prints what the scanner of Python sources finds in the files named on standard input, one a line, for
// bench/python-scan: "F path", then lines with byte offsets: "I begin level module|name as bound|…" for each
// import, "C begin in_fstring text" for each chain of names, "S begin" for each run of strings. With -q only
// the speed.
#include "scan_files.h"

#include "formats/python/python_scan.h"

int main(int argc, char** argv) {
  using namespace yc::python;
  return scan_files(
      argc, argv, [](const std::string& text) { return scan_python(text); },
      [](const std::string& path, const std::string&, const PythonFacts& facts) {
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
      });
}
