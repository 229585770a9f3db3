#include "../surge.h"

int main() { return surge(50, 50); }
