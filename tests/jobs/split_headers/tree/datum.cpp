#include "datum.h"

#include "detail.h"

int to_datum(int level) { return level - kDatum; }
