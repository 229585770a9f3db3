#include "tide_view.h"

#include "packet.h"

int tide_view(void) { return PACKET_SIZE - 8; }
