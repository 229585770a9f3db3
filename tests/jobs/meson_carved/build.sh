meson setup build >/dev/null
ninja -C build
meson test -C build >/dev/null
test -f build/station.conf || test -f build/gauge/station.conf
