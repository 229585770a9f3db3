#ifndef RADIO_H
#define RADIO_H
#include "level.h"
int radio_send(int level);
#endif
