#include "tide_view.h"

int main(void) { return tide_view(); }
