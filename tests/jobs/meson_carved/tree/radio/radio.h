#pragma once
int send_level(int level);
