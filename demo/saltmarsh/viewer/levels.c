#include "levels.h"

#include <stdio.h>

struct levels levels_read(const char *path) {
  struct levels out = {0};
  FILE *file = fopen(path, "r");
  if (!file) return out;
  while (out.count < 96 && fscanf(file, "%lf", &out.metres[out.count]) == 1) ++out.count;
  fclose(file);
  return out;
}
