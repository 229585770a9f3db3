#include "sample.h"

int sample(void) { return 3; }
