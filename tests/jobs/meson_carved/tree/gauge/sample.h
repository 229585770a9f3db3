#pragma once
int sample(void);
