// A small program for the tests of make: main.c, gauge.c and gauge.h, with a makefile.
#pragma once

#include "support/workspace.h"

namespace yc::test {

inline const char* const kGauge = "#include \"gauge.h\"\nint gauge(void) { return 1; }\n";
inline const char* const kMain =
    "#include <stdio.h>\n#include \"gauge.h\"\nint main(void) { printf(\"level %d\\n\", gauge()); return 0; "
    "}\n";
inline const char* const kGaugeH = "int gauge(void);\n";
inline const char* const kRun = "make -s && ./station";

// main.c, gauge.c and gauge.h in `folder`, and a makefile.
inline Files station(const std::string& makefile, const std::string& folder = "") {
  return {{"Makefile", makefile},
          {folder + "main.c", kMain},
          {folder + "gauge.c", kGauge},
          {folder + "gauge.h", kGaugeH}};
}

}  // namespace yc::test
