// The scanner of Python sources. That it agrees with Python's own parser is shown by bench/python-scan.
#include "formats/python/python_scan.h"

#include <gmock/gmock.h>

namespace yc::python {
namespace {

using ::testing::ElementsAre;
using ::testing::IsEmpty;

std::vector<std::string> imports(std::string_view text) {
  std::vector<std::string> out;
  for (const Import& each : scan_python(text).imports) {
    std::string line = each.from ? std::string(each.level, '.') + each.module + ":" : "";
    for (const ImportName& name : each.names)
      line += " " + name.name + (name.bound == name.name ? "" : "=" + name.bound);
    out.push_back(line + (each.late ? " late" : ""));
  }
  return out;
}

std::vector<std::string> chains(std::string_view text) {
  std::vector<std::string> out;
  for (const Chain& each : scan_python(text).chains) out.push_back(each.text);
  return out;
}

TEST(PythonScan, all_forms_of_imports) {
  EXPECT_THAT(
      imports("import os, a.b as c, x.y\nfrom . import tide\nfrom ..units.level import (\n  a,  # why\n  "
              "b as B,\n)\nfrom...far import *\n"),
      ElementsAre(" os a.b=c x.y=x", ".: tide", "..units.level: a b=B", "...far: *"));
}

TEST(PythonScan, where_an_import_runs) {
  EXPECT_THAT(
      imports(
          "try:\n  import a\nexcept ImportError: import b\ndef f():\n    import c\n    if x: from d import "
          "e\nimport g\nif TYPE_CHECKING:\n    import h\nelse:\n    import i\n"),
      ElementsAre(" a", " b", " c late", "d: e late", " g", " h late", " i"));
}

TEST(PythonScan, what_looks_like_an_import) {
  EXPECT_THAT(
      imports(
          "x = 'import a'\n'''\nimport b\n'''\n# import c\ny = (yield from d)\nraise E from import_error\n"
          "s = f\"{x!r:>{w}} import e\"\nimporter = 1; import f\\\n  as g\n"),
      ElementsAre(" f=g"));
}

TEST(PythonScan, members_and_not_what_they_belong_to) {
  EXPECT_THAT(chains("a.b.c(d.e)[f.g]\nx().y.z\nf'{h.i!r} {{j.k}} {l.m:{n.o}}'\nrb'p.q'\n"),
              ElementsAre("a.b.c", "d.e", "f.g", "h.i", "l.m", "n.o"));
}

TEST(PythonScan, names_of_a_function_are_its_own) {
  PythonFacts facts = scan_python(
      "def f(tide, *rest, unit: a.b = c, **more):\n    level = 1\n    for x, (y, z) in q: pass\n    global "
      "shared\n"
      "    shared = 2\ntop = 3\n");
  std::vector<std::string> names;
  for (const LocalName& each : facts.locals) names.push_back(each.name);
  EXPECT_THAT(names, ElementsAre("tide", "rest", "unit", "more", "level", "x", "y", "z"));
  EXPECT_THAT(facts.bound, ElementsAre("f", "top"));
}

TEST(PythonScan, programs_say_so) {
  EXPECT_TRUE(scan_python("#!/usr/bin/env python3\n").is_script);
  EXPECT_TRUE(scan_python("if __name__ == '__main__':\n    main()\n").is_script);
  EXPECT_FALSE(scan_python("print('__main__')\n").is_script);
}

TEST(PythonScan, garbled_text_ends_well) {
  for (const char* text :
       {"'''never closed", "f'{f'{f'{", "import", "from . import (", "def f(((", "\\", "x = \"\\",
        "from a import b as", "\xff\xfe import x", "f'{a!", "import a.\nimport b"}) {
    PythonFacts facts = scan_python(text);
    EXPECT_LE(facts.imports.size(), 2U) << text;
  }
  EXPECT_THAT(imports(std::string(100000, '(')), IsEmpty());
}

}  // namespace
}  // namespace yc::python
