#ifndef TIDE_H
#define TIDE_H

struct tide {
  int last[3];
  unsigned filled;
};

void tide_reset(struct tide *tide);
/* Mean of the last three readings. */
int tide_smooth(struct tide *tide, int level);

#endif
