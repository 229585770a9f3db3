#include "crc.h"

int main(void) { return crc8(256); }
