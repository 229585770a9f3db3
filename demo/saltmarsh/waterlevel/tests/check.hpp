#pragma once
#include <cstdio>
#define CHECK(condition) \
  if (!(condition)) return std::printf("%s:%d: failed: %s\n", __FILE__, __LINE__, #condition), 1
