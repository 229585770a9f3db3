#ifndef GAUGE_H
#define GAUGE_H

/* Name of the station that this firmware was built for. */
const char *gauge_station(void);
/* Water level in millimetres above the station's datum. */
int gauge_read(unsigned minute);

#endif
