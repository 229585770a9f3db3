#include "radio.h"
#include "sample.h"

int main(void) { return send_level(sample()) > 0 ? 0 : 1; }
