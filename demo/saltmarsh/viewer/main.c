#include <gio/gio.h>
#include <stdio.h>

#include "chart.h"
#include "colours.h"
#include "levels.h"
#include "settings.h"

static const char *text_of(const char *name) {
  GBytes *bytes = g_resources_lookup_data(name, G_RESOURCE_LOOKUP_FLAGS_NONE, NULL);
  return bytes ? g_bytes_get_data(bytes, NULL) : "(missing)\n";
}

int main(int argc, char **argv) {
  printf("viewer %s\n%s", VIEWER_VERSION, text_of("/org/saltmarsh/viewer/window.ui"));
  printf("%s", text_of("/org/saltmarsh/viewer/style.css"));
  struct levels levels = levels_read(argc > 1 ? argv[1] : "sample.csv");
  printf("%s", colour_of(0));
  chart_draw(&levels, stdout);
  printf("%s", colour_of(-1));
  return 0;
}
