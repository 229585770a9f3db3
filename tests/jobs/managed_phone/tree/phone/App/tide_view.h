#pragma once
int tide_view(void);
