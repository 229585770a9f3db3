#include "radio.h"

#include "clock.h"
#include "frame.h"

int send_level(int level) { return frame(level) + now(); }
