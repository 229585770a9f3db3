#pragma once
int now(void);
