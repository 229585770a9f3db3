#ifndef TIDE_VIEW_H
#define TIDE_VIEW_H
int show_tide(int centimetres);
#endif
