// Resource bundles and UI files: what is read, where values stand, and how they are written.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "formats/xml/xml_places.h"
#include "support/dump.h"

namespace yc::test {
namespace {

using ::testing::ElementsAre;
using ::testing::IsEmpty;

TEST(XmlPlaces, values_and_where_they_stand) {
  std::string text =
      "<?xml version=\"1.0\"?><!-- <file>no</file> -->\n<a x = \"1\" y='2'>\n  <file alias=\"n&amp;m\"> "
      "a/b.ui </file></a>";
  auto found = xml::elements(text);
  ASSERT_TRUE(found);
  ASSERT_EQ(found->size(), 2U);
  const xml::Element& file = (*found)[1];
  EXPECT_EQ(file.parent, "a");
  EXPECT_EQ(file.text, "a/b.ui");
  EXPECT_EQ(text.substr(file.text_span.begin, file.text_span.size()), "a/b.ui");
  ASSERT_EQ(file.outer.size(), 2U);
  EXPECT_EQ(file.outer[0].name + file.outer[0].value + file.outer[1].name + file.outer[1].value, "x1y2");
  ASSERT_TRUE(file.attribute("alias"));
  EXPECT_EQ(xml::traced(text, file.attribute("alias")->span, 0).text(), "n&m");
  EXPECT_EQ(xml::escaped("n&m<\""), "n&amp;m&lt;&quot;");
}

TEST(XmlPlaces, what_is_not_well_formed_gives_nothing) {
  for (const std::string& text : {std::string("<a><b></a>"), std::string("<a x=>"), std::string("<a"),
                                  std::string(""), std::string("\xff\xfe<\0a", 5)})
    EXPECT_FALSE(xml::elements(text)) << text;
}

TEST(Resources, members_by_qt_and_glib) {
  ReferenceGraph graph = read(
      tree_of({{"app/viewer.qrc",
                "<RCC><qresource prefix=\"/\"><file>icons/a.png</file><file "
                "alias=\"b\">../b.png</file></qresource></RCC>"},
               {"app/icons/a.png", ""},
               {"b.png", ""},
               {"app/v.gresource.xml",
                "<gresources><gresource prefix=\"/x\"><file>icons/a.png</file></gresource></gresources>"}}));
  EXPECT_THAT(dump(graph, Role::source), ElementsAre("../b.png -> b.png", "icons/a.png -> app/icons/a.png"));
}

TEST(Resources, ui_files_name_icons_beside_them) {
  ReferenceGraph graph =
      read(tree_of({{"w.ui",
                     "<interface><property name=\"file\">a.png</property><pixmap>no such.png</pixmap>"
                     "<include location=\"v.qrc\"/><label>a.txt is here</label></interface>"},
                    {"a.png", ""},
                    {"a.txt", ""},
                    {"v.qrc", "<RCC/>"}}));
  EXPECT_THAT(dump(graph, Role::argument), ElementsAre("a.png -> a.png ?", "v.qrc -> v.qrc ?"));
}

TEST(Resources, what_no_bundle_says_is_none) {
  EXPECT_THAT(
      dump(read(tree_of({{"a.xml", "<gresources><gresource><file>b.png</file></gresource></gresources>"},
                         {"b.png", ""}})),
           Role::source),
      IsEmpty());
}

}  // namespace
}  // namespace yc::test
