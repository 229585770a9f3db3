// Prints what the scanner of Go sources finds in the files named on standard input, one a line, for
// bench/go-scan: "F path", then "P name", "I begin name path" for each import, "E begin pattern" for each
// word of an embed directive. With -q only the speed.
#include <chrono>
#include <fstream>
#include <iostream>
#include <sstream>

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
  }
  std::cerr << bytes / 1e6 << " MB, " << bytes / 1e6 / seconds << " MB/s\n";
}
