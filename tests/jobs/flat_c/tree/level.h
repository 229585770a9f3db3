#ifndef LEVEL_H
#define LEVEL_H
int level_cm(int raw);
#endif
