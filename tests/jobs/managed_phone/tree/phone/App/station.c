int station(void) { return 1; }
