#include "check.hpp"
#include "harmonic.hpp"

int main() {
  const waterlevel::Constituent one[] = {{1000, 12}};
  CHECK(waterlevel::predict(one, 1, 0).millimetres == 3000);
  CHECK(waterlevel::predict(one, 1, 6).millimetres < 1001);
}
