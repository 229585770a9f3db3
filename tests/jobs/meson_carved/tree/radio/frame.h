#pragma once
int frame(int level);
