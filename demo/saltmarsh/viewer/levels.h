#ifndef LEVELS_H
#define LEVELS_H

struct levels {
  int count;
  double metres[96];
};

/* Reads one level a line; an unreadable file gives none. */
struct levels levels_read(const char *path);

#endif
