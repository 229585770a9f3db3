#include "surge.h"

int surge(int level, int expected) { return to_datum(level) - to_datum(expected); }
