#include "tide.h"

void tide_reset(struct tide *tide) { tide->filled = 0; }

int tide_smooth(struct tide *tide, int level) {
  int sum = 0;
  tide->last[tide->filled++ % 3] = level;
  unsigned count = tide->filled < 3 ? tide->filled : 3;
  for (unsigned i = 0; i < count; ++i) sum += tide->last[i];
  return sum / (int)count;
}
