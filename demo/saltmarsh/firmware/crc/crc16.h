#ifndef CRC16_H
#define CRC16_H
unsigned crc16(const unsigned char *bytes, unsigned count);
#endif
