// Scanners of documents, pages, templates and code in other languages: what they find, and where it stands.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "formats/code_paths/string_scan.h"
#include "formats/documents/link_scan.h"
#include "formats/pages/page_scan.h"
#include "formats/pages/template_tags.h"
#include "formats/python/export_lists.h"

namespace yc {
namespace {

using ::testing::ElementsAre;
using ::testing::IsEmpty;

std::string cut(std::string_view bytes, Span span) {
  return std::string(bytes.substr(span.begin, span.size()));
}

std::vector<std::string> links(std::string_view bytes, const std::vector<documents::Link>& all) {
  std::vector<std::string> out;
  static constexpr std::string_view kKinds[] = {"", " (html)", " (document)", " (glob)"};
  for (const documents::Link& link : all)
    out.push_back(cut(bytes, link.span) + std::string(kKinds[static_cast<std::size_t>(link.kind)]));
  return out;
}

TEST(LinkScan, markdown) {
  auto found = [](std::string_view bytes) { return links(bytes, documents::scan_markdown(bytes)); };
  EXPECT_THAT(found("[a](b.md) ![c](d.png \"t\") [e](<f g.md>)\n"), ElementsAre("b.md", "d.png", "f g.md"));
  EXPECT_THAT(found("[a]: b.md \"t\"\n[c]: <d.md>\n"), ElementsAre("b.md", "d.md"));
  EXPECT_THAT(found("[a](b.md#top) [c](#here)\n"), ElementsAre("b.md"));
  EXPECT_THAT(found("`[a](b.md)`\n\n```\n[e](f.md)\n```\n~~~\n[g](h.md)\n~~~\n"), IsEmpty());
  EXPECT_THAT(found("[a](https://x.example/b.md) [c](mailto:d@e.example)\n"), IsEmpty());
  EXPECT_THAT(found("<a href=\"b.md\"><img src='c.png'></a>\n"),
              testing::UnorderedElementsAre("b.md (html)", "c.png (html)"));
  EXPECT_THAT(found("[a](b(1).md)\n"), ElementsAre("b(1).md"));
  EXPECT_THAT(found("```{toctree}\n:glob:\n\nb\nC <c/d>\ne/*\n```\n[f](g.md)\n"),
              ElementsAre("b (document)", "c/d (document)", "e/* (glob)", "g.md"));
  EXPECT_THAT(found(":::{include} b.md\n:::\n```{literalinclude} ../c.py\nd\n```\n"),
              ElementsAre("b.md", "../c.py"));
  EXPECT_THAT(found("{doc}`b` {doc}`C <c/d>` {download}`e.csv` `f`\n"),
              ElementsAre("b (document)", "c/d (document)", "e.csv"));
  for (const char* garbled : {"[a](", "[a]:", "![", "```\n[a](b.md)", "<img src=\"", "[a](<b"})
    found(garbled);
}

TEST(LinkScan, restructured_text) {
  auto found = [](std::string_view bytes) { return links(bytes, documents::scan_restructured(bytes)); };
  EXPECT_THAT(found(".. image:: a.png\n   :target: b.rst\n\n.. include:: c.txt\n"),
              ElementsAre("a.png", "b.rst", "c.txt"));
  EXPECT_THAT(found("`it <d.html>`_ and .. _e: f.html\n\n.. _g: h.html\n"), ElementsAre("d.html", "h.html"));
  EXPECT_THAT(found(".. toctree::\n   :maxdepth: 2\n\n   intro\n   The guide <guide/start>\n"),
              ElementsAre("intro (document)", "guide/start (document)"));
}

TEST(PageScan, urls_regions_and_base) {
  std::string text =
      "<base href='b/'><a href=\"c.html\"><img srcset=\"d.png 1x, e.png 2x\"></a>\n<!-- <a href=f.html> -->\n"
      "<style>g { }</style><p style=\"h: i\"><script type=\"importmap\">{}</script><script>var x = '<a "
      "href=j>';</script>\n";
  pages::PageFacts facts = pages::scan_page(text);
  std::vector<std::string> urls;
  for (const pages::PageUrl& url : facts.urls) urls.push_back(cut(text, url.span));
  EXPECT_THAT(urls, ElementsAre("c.html", "d.png", "e.png"));
  EXPECT_EQ(cut(text, facts.base), "b/");
  EXPECT_EQ(facts.styles.size(), 2U);
  ASSERT_EQ(facts.import_maps.size(), 1U);
  EXPECT_EQ(cut(text, facts.import_maps[0]), "{}");
  for (const char* garbled : {"<", "<a", "<a href", "<a href=", "<a href=\"", "<style>", "<script", "<!--"})
    pages::scan_page(garbled);
}

TEST(TemplateTags, names_in_tags_of_engines) {
  auto found = [](std::string_view bytes) {
    std::vector<std::string> out;
    for (const pages::TemplateName& name : pages::template_names(bytes))
      out.push_back(cut(bytes, name.span) + (name.from_own ? " (own)" : ""));
    return out;
  };
  EXPECT_THAT(found("{% include \"a.html\" %}{%- extends 'b.html' -%}{% from \"c.html\" import d %}"),
              ElementsAre("a.html", "b.html", "c.html"));
  EXPECT_THAT(found("<%- include('e.ejs', { x: 1 }) %><% if (x) { %>"), ElementsAre("e.ejs (own)"));
  EXPECT_THAT(found("{{ \"a.html\" }}{# {% include 'b.html' %} #}{% set x = 'c.html' %}"),
              ElementsAre("b.html"))
      << "what a comment of the engine holds is found too, and followed";
  EXPECT_THAT(found("{% include name %}{% include \"a\" + b %}{% include '' %}"), ElementsAre("a"));
  for (const char* garbled : {"{%", "{% include", "{% include \"", "<%", "{% include \"a%}"})
    EXPECT_THAT(found(garbled), IsEmpty());
}

TEST(StringScan, languages_with_braces) {
  auto found = [](std::string_view bytes, code_paths::Language language) {
    std::vector<std::string> out;
    for (const code_paths::CodeString& string : code_paths::scan_strings(bytes, language))
      out.push_back(cut(bytes, string.span) + (string.plain ? "" : " (not plain)"));
    return out;
  };
  using code_paths::Language;
  EXPECT_THAT(found("f(\"a\"); // \"b\"\n/* \"c\" */ g('\"', \"d\\n\");", Language::c),
              ElementsAre("a", "d\\n (not plain)"));
  EXPECT_THAT(found("let r = r#\"a\"b\"#; let s: &'a str = \"c\";", Language::rust), testing::Contains("c"));
  EXPECT_THAT(found("var a = `raw`; b := \"c\"", Language::go), testing::Contains("c"));
  EXPECT_THAT(found("var p = @\"a\\b\"; var q = $\"c{d}\"; var r = \"e\";", Language::csharp),
              testing::Contains("e"));
  // A macro whose name ends in the letter of raw strings is none.
  EXPECT_THAT(found("#define DIR \"a\"\nf(\"b\");", Language::c), ElementsAre("a", "b"));
  EXPECT_THAT(found("auto r = u8R\"x(a\"b)x\"; f(\"c\");", Language::c), ElementsAre("a\"b", "c"));
  EXPECT_THAT(found("expr!(for \"a\", br\"b\\\", \"c\")", Language::rust), ElementsAre("a", "b\\", "c"));
  for (const char* garbled : {"\"", "'", "/*", "R\"(", "r#\"", "`", "\"\\"}) {
    for (Language language : {Language::c, Language::csharp, Language::rust, Language::go, Language::java})
      found(garbled, language);
  }
}

TEST(ExportLists, names_of_all_forms) {
  auto found = [](std::string_view bytes) {
    std::vector<std::string> out;
    for (const Span& span : python::exported_names(bytes, python::scan_python(bytes)))
      out.push_back(cut(bytes, span));
    return out;
  };
  EXPECT_THAT(found("__all__ = [\"a\", 'b',\n  \"c\"]\n"), ElementsAre("a", "b", "c"));
  EXPECT_THAT(found("__all__ = ('a',)\n__all__ += ['b']\n"), ElementsAre("a", "b"));
  EXPECT_THAT(found("__all__ = other.__all__\nx = ['a']\n"), IsEmpty());
  EXPECT_THAT(found("__all__ = ['a b', f'{c}', b'd', 'e']\n"), ElementsAre("e"));
  EXPECT_THAT(found("print(__all__)\n__all__.append('a')\n"), IsEmpty());
}

}  // namespace
}  // namespace yc
