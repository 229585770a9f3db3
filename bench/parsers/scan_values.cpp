// Prints where the values of the data files named on standard input stand, one file a line, for
// bench/value-edits: "F path", then "V begin end text" with what would be written there instead of each
// value.
#include <fstream>
#include <iostream>
#include <sstream>

#include "formats/values/values.h"

int main(int argc, char** argv) {
  std::string fresh = argc > 1 ? argv[1] : "zz/new-1.png";
  std::string path;
  while (std::getline(std::cin, path)) {
    std::ifstream in(path, std::ios::binary);
    std::stringstream content;
    content << in.rdbuf();
    auto language = yc::values::language_of(yc::RelPath::from_normal(path.substr(path.rfind('/') + 1)));
    std::cout << "F " << path << "\n";
    if (!language) continue;
    for (const yc::values::Value& value : yc::values::read(content.str(), *language)) {
      auto written = yc::values::written(fresh, value.style);
      if (written) std::cout << "V " << value.span.begin << " " << value.span.end << " " << *written << "\n";
    }
  }
}
