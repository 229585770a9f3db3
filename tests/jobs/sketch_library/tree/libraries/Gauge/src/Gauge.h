#pragma once
#include "levels/Level.h"
int gauge();
