// Types that C# sources declare.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "formats/csharp_names/csharp_names.h"

namespace yc::csharp {
namespace {

using ::testing::ElementsAre;
using ::testing::UnorderedElementsAre;

std::vector<std::string> types(std::string_view bytes) {
  std::vector<std::string> out;
  for (const TypeName& type : types_of(bytes)) {
    std::string name = type.name.substr(0, type.name.find('`'));
    EXPECT_EQ(bytes.substr(type.offset, name.size()), name);
    out.push_back(type.space + ":" + type.name + (type.is_partial ? " partial" : ""));
  }
  return out;
}

TEST(CsharpNames, types_that_stand_in_no_other) {
  EXPECT_THAT(types("namespace Salt.Core {\n  class Tide { class Inner { } }\n  partial struct Level { }\n}\n"
                    "enum Loose { }\n"),
              ElementsAre("Salt.Core:Tide", "Salt.Core:Level partial", ":Loose"));
  EXPECT_THAT(types("namespace Salt;\ninterface ITide { }\nclass Tide<T> where T : class { }\n"),
              ElementsAre("Salt:ITide", "Salt:Tide`1"));
  EXPECT_THAT(types("namespace A { namespace B { class C<K, V> { } } class D { } }\n"),
              ElementsAre("A.B:C`2", "A:D"));
  EXPECT_THAT(types("record struct Level(int Cm);\nrecord Tide { }\n// class Not { }\nclass S { string s = "
                    "\"class N { \"; }"),
              ElementsAre(":Level", ":Tide", ":S"));
  EXPECT_TRUE(types_of("#if A\nclass Tide { }\n#endif\n").empty()) << "which lines count is not known";
}

TEST(CsharpNames, what_other_assemblies_may_not_name) {
  EXPECT_THAT(hidden_names("namespace Salt { class Tide { } public sealed class Level { internal int Cm; } "
                           "public static class Pier { private int n; internal static List<int> All() { } } "
                           "internal delegate void Turned<T>(T tide); }"),
              UnorderedElementsAre("Tide", "Cm", "All", "Turned"));
  EXPECT_THAT(hidden_names("public class Pole { public int Mark { get; internal set; } }"),
              ElementsAre("Mark"));
}

TEST(CsharpNames, a_delegate_is_known_by_its_name) {
  EXPECT_THAT(namespaces_of("public delegate IList<K, V> Turned<T>(T tide); ").types, ElementsAre("Turned"));
  EXPECT_THAT(namespaces_of("class A { void B() { C(delegate (int x) { }); } }").types, ElementsAre("A"));
}

}  // namespace
}  // namespace yc::csharp
