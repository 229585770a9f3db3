/* Gauge firmware: reads the float, smooths it, sends packets. */
#include <stdio.h>

#include "clock.h"
#include "gauge.h"
#include "packet.h"
#include "tide.h"
#include "version.h"

int main(void) {
  struct tide tide;
  unsigned char bytes[PACKET_SIZE];
  tide_reset(&tide);
  printf("gauge firmware %s, station %s\n", FIRMWARE_VERSION, gauge_station());
  for (unsigned minute = 0; minute < 6; ++minute) {
    int level = tide_smooth(&tide, gauge_read(minute));
    packet_write(bytes, clock_stamp(minute), level);
    printf("%02u:%02u  %5d mm ", clock_hour(minute), clock_minute(minute), level);
    for (unsigned i = 0; i < PACKET_SIZE; ++i) printf(" %02x", bytes[i]);
    printf("\n");
  }
  return 0;
}
