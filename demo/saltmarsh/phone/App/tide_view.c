#include "tide_view.h"

#include <stdio.h>

#include "packet.h"

int show_tide(int centimetres) {
  printf("%d cm, packets of %d\n", centimetres, PACKET_SIZE);
  return 0;
}
