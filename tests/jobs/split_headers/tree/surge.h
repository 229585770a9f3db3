#pragma once
#include "datum.h"
int surge(int level, int expected);
