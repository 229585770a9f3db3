#include "radio.h"

#include <stdio.h>

int radio_send(int level) { return printf("%d\n", level) < 0; }
