#pragma once
int to_datum(int level);
