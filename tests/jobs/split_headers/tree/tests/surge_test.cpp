#include "surge.h"

int main() { return surge(60, 50) == 10 ? 0 : 1; }
