// Plans of sites that are served as they are.
#include <gtest/gtest.h>

#include "support/plans.h"

namespace yc::test {
namespace {

using Lines = std::vector<std::string>;

TreeFiles site(TreeFiles more) {
  TreeFiles out = {{"package.json", "{}\n"},
                   {"public/index.html", "<a href=\"/pages/stations/\">S</a><img src=\"img/pole.png\">\n"},
                   {"public/pages/about.html", "<a href=\"./stations\">S</a><img src=\"/img/pole.png\">\n"},
                   {"public/pages/stations/index.html", "<p>\n"},
                   {"public/css/site.css", "a { background: url(../img/pole.png) }\n"},
                   {"public/img/pole.png", "p"}};
  out.insert(out.end(), more.begin(), more.end());
  return out;
}

TEST(SitePlans, what_is_served_does_not_leave_what_is_served) {
  EXPECT_EQ(reasons(planned(site({}), {{"public/img/pole.png", "art/pole.png"}})),
            (Lines{"not-served public/index.html", "not-served public/css/site.css"}));
  EXPECT_EQ(in_the_way(planned(site({}), {{"public/img/pole.png", "public/art/pole.png"}})), Lines());
  EXPECT_EQ(in_the_way(planned(site({}), {{"public", "web/public"}})), Lines());
}

TEST(SitePlans, an_index_that_gets_another_name_is_named_with_its_ending) {
  EXPECT_EQ(
      edits(planned(site({}), {{"public/pages/stations/index.html", "public/pages/stations/all.html"}})),
      (Lines{"public/index.html: pages/stations/ -> pages/stations/all.html",
             "public/pages/about.html: ./stations -> ./stations/all.html"}));
}

TEST(SitePlans, a_service_worker_serves_its_own_folder) {
  TreeFiles files = site({{"public/js/main.js", "navigator.serviceWorker.register(\"/sw.js\");\n"},
                          {"public/sw.js", "self.x = 1;\n"}});
  EXPECT_EQ(edits(planned(files, {{"public/sw.js", "public/worker.js"}})),
            Lines{"public/js/main.js: /sw.js -> /worker.js ?"});
  EXPECT_EQ(reasons(planned(files, {{"public/sw.js", "public/js/sw.js"}})),
            Lines{"serves-others public/js/main.js"});
}

}  // namespace
}  // namespace yc::test
