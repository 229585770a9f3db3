#include "crc16.h"

unsigned crc16(const unsigned char *bytes, unsigned count) {
  unsigned crc = 0xffff;
  for (unsigned i = 0; i < count; ++i) {
    crc ^= (unsigned)bytes[i] << 8;
    for (int bit = 0; bit < 8; ++bit) crc = crc & 0x8000 ? (crc << 1) ^ 0x1021 : crc << 1;
    crc &= 0xffff;
  }
  return crc;
}
