#include "formats/c_family/include_scan.h"

#include <gtest/gtest.h>

namespace yc::c_family {
namespace {

// "q:name" for "…", "a:name" for <…>, "m:NAME" for a macro; "?" marks a test, "+" include_next, "!" data.
std::string dump(const std::string& bytes) {
  std::string out;
  for (const Include& include : scan_includes(bytes).includes) {
    if (!out.empty()) out += ' ';
    out += include.test ? "?" : "";
    out += include.next ? "+" : "";
    out += include.data ? "!" : "";
    out += include.form == Include::Form::quoted ? "q:" : include.form == Include::Form::angled ? "a:" : "m:";
    out += include.text;
    if (include.form == Include::Form::macro) continue;
    EXPECT_EQ(bytes.substr(include.span.begin, include.span.size()), include.text);
  }
  return out;
}

TEST(IncludeScan, forms_and_what_must_not_be_taken_for_one) {
  const std::vector<std::pair<std::string, std::string>> cases = {
      {"#include \"tide.h\"\n", "q:tide.h"},
      {"#include <tide.h>", "a:tide.h"},
      {"  #  include\t\"a b.h\"  // why\n", "q:a b.h"},
      {"%: include <x.h>\n", "a:x.h"},
      {"#include_next <stdlib.h>\n", "+a:stdlib.h"},
      {"#import \"x.h\"\n", "q:x.h"},
      {"#embed \"table.bin\" limit(4)\n", "!q:table.bin"},
      {"#include MACRO\n", "m:MACRO"},
      {"#if __has_include(<a.h>) && __has_include(\"b.h\")\n#endif\n", "?a:a.h ?q:b.h"},
      {"#elif defined(X) || __has_include_next(<c.h>)\n", "?+a:c.h"},
      {"#inc\\\nlude \"spliced.h\"\n", "q:spliced.h"},
      {"#include /* here */ \"x.h\"\n", "q:x.h"},
      {"/* #include \"no.h\" */\n// #include \"no.h\"\n", ""},
      {"// goes on \\\n#include \"no.h\"\n#include \"yes.h\"\n", "q:yes.h"},
      {"const char* s = \"\\\n#include <no.h>\\\n\";\n", ""},
      {"auto s = R\"(\n#include <no.h>\n)\";\n#include <yes.h>\n", "a:yes.h"},
      {"auto s = u8R\"x(\n#include <no.h>\n)\"\n#include <no.h>\n)x\";\n#include <yes.h>\n", "a:yes.h"},
      {"int x = 1'000'000;\n#include <yes.h>\n", "a:yes.h"},
      {"char c = '\"';\n#include <yes.h>\n", "a:yes.h"},
      {"#error don't do this\n#include <yes.h>\n", "a:yes.h"},
      {"x #include <no.h>\n", ""},
      {"\xEF\xBB\xBF#include <bom.h>\r\n#include <crlf.h>\r\n", "a:bom.h a:crlf.h"},
      {"#include \"open.h\n#include <next.h>\n", "a:next.h"},
      {"#include <>\n#include \"\"\n", ""},
      {"#includes \"no.h\"\n", ""},
      {"/* never closed\n#include <no.h>\n", ""},
  };
  for (const auto& [bytes, expected] : cases) EXPECT_EQ(dump(bytes), expected) << bytes;
}

TEST(IncludeScan, macros_that_are_one_path) {
  IncludeFacts facts = scan_includes(
      "#define A \"a.h\"\n#define B <b.h> // x\n#define C \"c.h\" \"d.h\"\n#define D(x) \"e.h\"\n#define E "
      "3\n");
  ASSERT_EQ(facts.path_macros.size(), 2u);
  EXPECT_EQ(facts.path_macros.find("A")->second.text, "a.h");
  EXPECT_EQ(facts.path_macros.find("B")->second.text, "b.h");
}

TEST(IncludeScan, strings_that_could_be_paths) {
  auto literals = [](const std::string& bytes) {
    std::string out;
    for (const PathLiteral& literal : scan_includes(bytes).literals) out += literal.text + ";";
    return out;
  };
  EXPECT_EQ(literals("f(\"data/x.csv\"); g(\"icons/\", \"./a-b+c.d/e\");"), "data/x.csv;icons/;./a-b+c.d/e;");
  EXPECT_EQ(literals("f(\"plain.txt\", \"/etc/x\", \"a b/c\", \"a\\n/b\", \"%s/x\", '/', \"http://x/y\"); // "
                     "\"no/no\"\n"),
            "");
  EXPECT_EQ(literals("f(\"data/%s.csv\", L\"data/in/\\x0442.xml\", \"data/{}/x\", \"%d/x\");"),
            "data/;data/in/;data/;");
  EXPECT_EQ(literals("#include \"a/b.h\"\n#error \"a/b\"\n"), "");
}

TEST(IncludeScan, any_bytes_are_survived) {
  std::string bytes;
  for (int i = 0; i < 4096; ++i) bytes += static_cast<char>((i * 7919) >> (i % 5));
  for (std::size_t cut = 0; cut < bytes.size(); cut += 37) (void)scan_includes(bytes.substr(cut));
  for (const char* text : {"#", "#include", "#include \\", "R\"", "R\"(", "'", "\"\\", "#if __has_include(",
                           "%:", "#define X \""})
    (void)scan_includes(text);
}

}  // namespace
}  // namespace yc::c_family
