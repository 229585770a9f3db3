#include "lamp.h"

void lamp(int) {}
