#ifndef PACKET_H
#define PACKET_H

/* A packet: stamp (4 bytes), level (2 bytes), checksum (2 bytes), all big-endian. */
#define PACKET_SIZE 8

void packet_write(unsigned char *out, unsigned long stamp, int level);

#endif
