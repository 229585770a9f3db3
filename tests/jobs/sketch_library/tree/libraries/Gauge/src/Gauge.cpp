#include "Gauge.h"

int gauge() { return level(3); }
