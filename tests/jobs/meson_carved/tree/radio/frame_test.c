#include "frame.h"

int main(void) { return frame(2) == 4 ? 0 : 1; }
