#include "clock.h"

int now(void) { return 12; }
