#include "chart.h"

int chart_width(double level) { return (int)(level * 10.0 + 0.5); }

void chart_draw(const struct levels *levels, FILE *out) {
  for (int i = 0; i < levels->count; ++i) {
    for (int x = chart_width(levels->metres[i]); x > 0; --x) fputc('#', out);
    fprintf(out, " %.2f m\n", levels->metres[i]);
  }
}
