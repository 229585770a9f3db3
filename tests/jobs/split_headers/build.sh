cmake -S . -B build >/dev/null
cmake --build build
ctest --test-dir build -Q
cmake --install build --prefix "$PWD/build/root" >/dev/null
# Somebody else uses what is installed, with nothing but its folder of headers.
echo '#include <surge.h>' >build/user.cpp
g++ -fsyntax-only -Ibuild/root/include build/user.cpp || {
  echo '#include <waterlevel/surge.h>' >build/user.cpp
  g++ -fsyntax-only -Ibuild/root/include build/user.cpp
}
