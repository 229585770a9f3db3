#include "chart.h"

int main(void) { return chart_width(1.25) == 13 ? 0 : 1; }
