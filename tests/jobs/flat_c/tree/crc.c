#include "crc.h"

static const int table[] = {
#include "crc_table.inc"
};

int crc8(int value) { return table[value & 3]; }
