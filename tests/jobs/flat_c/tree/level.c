#include "level.h"

#include "crc.h"

int level_cm(int raw) { return raw / 4 + (crc8(raw) & 1); }
