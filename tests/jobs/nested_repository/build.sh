make -s
./gauge
git status --porcelain >/dev/null
