#include "colours.h"

const char *colour_of(int index) { return index < 0 ? "\033[0m" : "\033[34m"; }
