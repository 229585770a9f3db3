#pragma once
void lamp(int level);
