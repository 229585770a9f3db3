#include <Gauge.h>

#include "lamp.h"

void setup() {}
void loop() { lamp(gauge()); }
