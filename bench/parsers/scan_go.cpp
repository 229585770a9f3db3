// Prints what the scanner of Go sources finds in the files named on standard input, one a line, for
// bench/go-scan: "F path", then "P name", "I begin name path" for each import, "E pattern" for each word of
// an embed directive, "Q path begin …" with the places where a package is named that is imported without a
// name ("Q path ?" where the word is not clear). With -q only the speed.
#include <chrono>
#include <fstream>
#include <iostream>
#include <sstream>

#include "formats/go/go_names.h"
#include "formats/go/go_scan.h"

int main(int argc, char** argv) {
  using namespace yc::go;
  bool quiet = argc > 1 && std::string(argv[1]) == "-q";
  std::string path;
  double seconds = 0, bytes = 0;
  while (std::getline(std::cin, path)) {
    std::ifstream in(path, std::ios::binary);
    std::stringstream content;
    content << in.rdbuf();
    std::string text = content.str();
    auto start = std::chrono::steady_clock::now();
    SourceFacts facts = scan_source(text);
    seconds += std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count();
    bytes += static_cast<double>(text.size());
    if (quiet) continue;
    std::cout << "F " << path << "\nP " << facts.package << "\n";
    for (const Import& each : facts.imports)
      std::cout << "I " << each.span.begin - 1 << " " << each.name.value_or("-") << " " << each.path << "\n";
    for (const Word& each : facts.embeds) std::cout << "E " << each.text << "\n";
    for (const Import& each : facts.imports) {
      if (each.name) continue;
      auto places = qualifiers_in(text, each.path.substr(each.path.rfind('/') + 1));
      std::cout << "Q " << each.path;
      if (!places) std::cout << " ?";
      for (const yc::Span& span : places.value_or(std::vector<yc::Span>())) std::cout << " " << span.begin;
      std::cout << "\n";
    }
  }
  std::cerr << bytes / 1e6 << " MB, " << bytes / 1e6 / seconds << " MB/s\n";
}
