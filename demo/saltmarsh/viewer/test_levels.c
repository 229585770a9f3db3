#include "levels.h"

int main(int argc, char **argv) { return argc == 2 && levels_read(argv[1]).count == 4 ? 0 : 1; }
