#ifndef CLOCK_H
#define CLOCK_H

unsigned clock_hour(unsigned minute);
unsigned clock_minute(unsigned minute);
unsigned long clock_stamp(unsigned minute);

#endif
