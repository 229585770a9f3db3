// Types that C# sources declare.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "formats/csharp_names/csharp_names.h"

namespace yc::csharp {
namespace {

using ::testing::ElementsAre;

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

}  // namespace
}  // namespace yc::csharp
