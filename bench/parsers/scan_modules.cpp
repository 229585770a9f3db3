// Prints what the scanner of modules finds in the files named on standard input, one a line, for
// bench/module-scan: "F path", then "S begin end" for each string and "M kind begin end" for each specifier.
// With -q only the speed.
#include <chrono>
#include <fstream>
#include <iostream>
#include <sstream>

#include "formats/modules/module_scan.h"

int main(int argc, char** argv) {
  using namespace yc::modules;
  static const char* const kNames[] = {"import_from",  "dynamic",   "require", "mock",
                                       "augmentation", "url",       "worker",  "glob",
                                       "folder",       "reference", "types"};
  bool quiet = argc > 1 && std::string(argv[1]) == "-q";
  std::string path;
  double seconds = 0, bytes = 0;
  while (std::getline(std::cin, path)) {
    std::ifstream in(path, std::ios::binary);
    std::stringstream content;
    content << in.rdbuf();
    std::string text = content.str();
    auto dialect = dialect_of(yc::RelPath::from_normal(path)).value_or(Dialect::script);
    std::vector<yc::Span> strings;
    std::function<void(yc::Span)> keep = [&](yc::Span span) { strings.push_back(span); };
    auto start = std::chrono::steady_clock::now();
    ModuleFacts facts = scan_module(text, dialect, quiet ? nullptr : &keep);
    seconds += std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count();
    bytes += static_cast<double>(text.size());
    if (quiet) continue;
    std::cout << "F " << path << "\n";
    for (const yc::Span& span : strings) std::cout << "S " << span.begin << " " << span.end << "\n";
    for (const Specifier& each : facts.specifiers)
      std::cout << "M " << kNames[static_cast<int>(each.kind)] << " " << each.span.begin << " "
                << each.span.end << "\n";
  }
  std::cerr << bytes / 1e6 << " MB, " << bytes / 1e6 / seconds << " MB/s\n";
}
