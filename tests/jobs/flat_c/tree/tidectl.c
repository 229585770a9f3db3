#include "level.h"
#include "radio.h"

int main(void) { return radio_send(level_cm(400)); }
