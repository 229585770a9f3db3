#ifndef COLOURS_H
#define COLOURS_H

/* The escape sequence of a colour; -1 ends it. */
const char *colour_of(int index);

#endif
