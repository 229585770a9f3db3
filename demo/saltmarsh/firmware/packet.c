#include "packet.h"

#include <crc16.h>

void packet_write(unsigned char *out, unsigned long stamp, int level) {
  for (int i = 0; i < 4; ++i) out[i] = (unsigned char)(stamp >> (24 - 8 * i));
  out[4] = (unsigned char)(level >> 8);
  out[5] = (unsigned char)level;
  unsigned crc = crc16(out, 6);
  out[6] = (unsigned char)(crc >> 8);
  out[7] = (unsigned char)crc;
}
