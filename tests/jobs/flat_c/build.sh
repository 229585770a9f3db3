make -s check
make -s dist
