#pragma once
inline int level(int raw) { return raw * 2; }
