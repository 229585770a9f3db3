#ifndef CHART_H
#define CHART_H

#include <stdio.h>

#include "levels.h"

int chart_width(double level);
void chart_draw(const struct levels *levels, FILE *out);

#endif
