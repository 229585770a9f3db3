// URLs of pages and stylesheets, and what they lead to.
#include "formats/site_paths.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "formats/pages/page_scan.h"
#include "support/dump.h"

namespace yc::test {
namespace {

using ::testing::ElementsAre;
using ::testing::IsEmpty;
using ::testing::IsSupersetOf;

TEST(SitePaths, which_urls_are_local) {
  for (const char* url : {"https://x.org/a", "//x.org/a", "mailto:a@b", "data:,x", "#top", "", "?q"})
    EXPECT_FALSE(local_part(url)) << url;
  EXPECT_EQ(local_part("a/b.html?c#d")->end, 8U);
  EXPECT_EQ(url_encoded("a b/ü#.png"), "a%20b/ü%23.png");
  EXPECT_EQ(url_decoded("a%20b/%zz%2"), "a b/%zz%2");
}

std::vector<std::string> urls(const std::string& page) {
  std::vector<std::string> out;
  for (const pages::PageUrl& url : pages::scan_page(page).urls)
    out.push_back(page.substr(url.span.begin, url.span.size()) + (url.likely ? "?" : ""));
  return out;
}

TEST(SitePaths, attributes_of_pages) {
  EXPECT_THAT(urls("<a href='x.html'>a > b</a><IMG SRC=y.png alt=\"<a href=no>\"><!-- <a href=\"no\"> -->"),
              ElementsAre("x.html", "y.png"));
  EXPECT_THAT(urls("<img srcset=\"a.png 1x, b.png 2x,c.png\" data-src='d.png'>"),
              ElementsAre("a.png", "b.png", "c.png", "d.png?"));
  EXPECT_THAT(urls("<script>x = \"<a href='no'>\"</script><style>a{b:url(no)}</style><video poster=p.png>"),
              ElementsAre("p.png"));
  EXPECT_THAT(
      urls("<meta property=og:image content=/a.png><meta name=author content=b.png><object data=c.svg>"),
      ElementsAre("/a.png?", "c.svg"));
  EXPECT_THAT(urls("<a class=\"{% if a > b %}x{% endif %}\" href=\"y.html\">"), ElementsAre("y.html"));
  EXPECT_THAT(urls("<img src=\""), IsEmpty());
}

TEST(SitePaths, where_urls_lead) {
  ReferenceGraph graph = read(tree_of({
      {"site/index.html",
       "<a href='about/'></a><a href='news'></a><img src='/img/a%20b.png'><a href='gone.html'></a>"
       "<div style=\"background: url('img/c.png')\"></div><a href='{{ base }}/img/c.png'></a>"},
      {"site/about/index.html", "<base href='../img/'><img src='c.png'>"},
      {"site/news.html",
       "<script type=importmap>{\"imports\": {\"tide\": \"./js/tide.js\"}}</script>"
       "<script type=module>import 'tide'</script>"},
      {"site/js/tide.js", ""},
      {"site/img/a b.png", ""},
      {"site/img/c.png", ""},
      {"site/app.webmanifest", R"({"icons": [{"src": "img/c.png"}], "start_url": "/"})"},
  }));
  EXPECT_THAT(dump(graph, Role::argument),
              IsSupersetOf({"about/ -> site/about/index.html", "news -> site/news.html",
                            "img/a b.png -> site/img/a b.png", "img/c.png -> site/img/c.png",
                            "img/c.png -> site/img/c.png ?", "c.png -> site/img/c.png",
                            "./js/tide.js -> site/js/tide.js"}));
  EXPECT_THAT(dump(graph, Role::module), ElementsAre("tide -> site/js/tide.js"));
}

TEST(SitePaths, names_of_stylesheets) {
  const std::vector<std::pair<std::string, std::string>> files = {
      {"package.json", R"({"scripts": {"css": "sass --load-path=packages scss/:public/css/"}})"},
      {"scss/main.scss",
       "@use 'parts/buttons'; @use 'parts'; @use 'core'; @use 'sass:math'; @import 'plain.css';\n"
       "a { b: url('../img/a.png') }"},
      {"scss/parts/_buttons.scss", ""},
      {"scss/parts/_index.scss", "@forward 'buttons'; @forward 'src/styles';"},
      {"scss/parts/src/_styles.scss", ""},
      {"packages/core/_index.scss", ""},
      {"public/img/a.png", ""},
      {"public/index.html", "<link href='css/main.css' rel=stylesheet>"}};
  ReferenceGraph graph = read(tree_of(files));
  EXPECT_THAT(dump(graph, Role::module),
              ElementsAre("buttons -> scss/parts/_buttons.scss", "core -> packages/core/_index.scss",
                          "parts -> scss/parts/_index.scss", "parts/buttons -> scss/parts/_buttons.scss",
                          "src/styles -> scss/parts/src/_styles.scss"));
  EXPECT_THAT(dump(graph, Role::argument), IsSupersetOf({"../img/a.png -> public/img/a.png"}));
  bool linked = std::any_of(graph.references.begin(), graph.references.end(), [](const Reference& reference) {
    return reference.text.text() == "css/main.css" && reference.targets.front().kind == Target::Kind::made &&
           reference.targets.front().path.str() == "scss/main.scss";
  });
  EXPECT_TRUE(linked);
}

}  // namespace
}  // namespace yc::test
