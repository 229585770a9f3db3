#ifndef CRC_H
#define CRC_H
int crc8(int value);
#endif
