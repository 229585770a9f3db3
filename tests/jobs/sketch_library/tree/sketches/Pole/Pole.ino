#include <Gauge.h>

void setup() {}
void loop() { gauge(); }
