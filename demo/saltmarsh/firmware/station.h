#ifndef STATION_H
#define STATION_H
#define STATION_NAME "Heron Creek"
#define STATION_DATUM_MM 1840
#endif
