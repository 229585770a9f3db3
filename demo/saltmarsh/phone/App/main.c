#include "tide_view.h"

int main(void) { return show_tide(142); }
