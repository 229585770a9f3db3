#include "colours.h"

const char *colour_of(int index) { return index < 0 ? "" : ""; }
