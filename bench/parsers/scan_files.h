// What the programs that hold a scanner against a parser have in common: files named on standard input.
#pragma once

#include <chrono>
#include <fstream>
#include <iostream>
#include <sstream>
#include <string>

// Calls scan(text), timed, for each file, and then print(path, text, facts), unless -q is given. Tells the
// speed.
template <typename Scan, typename Print>
int scan_files(int argc, char** argv, const Scan& scan, const Print& print) {
  bool quiet = argc > 1 && std::string(argv[1]) == "-q";
  std::string path;
  double seconds = 0, bytes = 0;
  while (std::getline(std::cin, path)) {
    std::ifstream in(path, std::ios::binary);
    std::stringstream content;
    content << in.rdbuf();
    std::string text = content.str();
    auto start = std::chrono::steady_clock::now();
    auto facts = scan(text);
    seconds += std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count();
    bytes += static_cast<double>(text.size());
    if (!quiet) print(path, text, facts);
  }
  std::cerr << bytes / 1e6 << " MB, " << bytes / 1e6 / seconds << " MB/s\n";
  return 0;
}
