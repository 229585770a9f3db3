// Prints what the scanner of Go sources finds in the files named on standard input, one a line, for
// bench/go-scan: "F path", then "P name", "I begin name path" for each import, "E pattern" for each word of
// an embed directive, "Q path begin …" with the places where a package is named that is imported without a
// name ("Q path ?" where the word is not clear). With -q only the speed.
#include "scan_files.h"

#include "formats/go/go_names.h"
#include "formats/go/go_scan.h"

int main(int argc, char** argv) {
  using namespace yc::go;
  return scan_files(
      argc, argv, [](const std::string& text) { return scan_source(text); },
      [](const std::string& path, const std::string& text, const SourceFacts& facts) {
        std::cout << "F " << path << "\nP " << facts.package << "\n";
        for (const Import& each : facts.imports)
          std::cout << "I " << each.span.begin - 1 << " " << each.name.value_or("-") << " " << each.path
                    << "\n";
        for (const Word& each : facts.embeds) std::cout << "E " << each.text << "\n";
        for (const Import& each : facts.imports) {
          if (each.name) continue;
          auto places = qualifiers_in(text, each.path.substr(each.path.rfind('/') + 1));
          std::cout << "Q " << each.path;
          if (!places) std::cout << " ?";
          for (const yc::Span& span : places.value_or(std::vector<yc::Span>()))
            std::cout << " " << span.begin;
          std::cout << "\n";
        }
      });
}
