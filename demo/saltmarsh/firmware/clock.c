#include "clock.h"

unsigned clock_hour(unsigned minute) { return 6 + minute / 60; }
unsigned clock_minute(unsigned minute) { return minute % 60; }
unsigned long clock_stamp(unsigned minute) { return 0x5a17ul + minute * 60ul; }
