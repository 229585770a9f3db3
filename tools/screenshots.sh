#!/bin/sh
# Takes the pictures of docs/screenshots/ anew: the program in a terminal window, on the demo tree. Needs the built program
# and Debian's xvfb, xterm, imagemagick, fonts-dejavu-core, emacs-nox and elpa-eglot.
set -eu
cd "$(dirname "$0")/.."
compass=$PWD/build/release/yellow-compass
shots=$PWD/docs/screenshots
work=$(mktemp -d)
trap 'rm -rf "$work"' EXIT
fresh() {
  rm -rf "$work/saltmarsh"
  cp -r demo/saltmarsh "$work/saltmarsh"
  cp demo/tidy.sheet "$work/tidy.sheet"
  grep '^viewer' demo/tidy.sheet >"$work/viewer.sheet"
  grep -E '^(office|phone)' demo/tidy.sheet >"$work/office.sheet"
}

# shoot NAME LINES COMMANDS [SECONDS]: runs the commands in the demo tree, shows LINES lines of what they print.
shoot() {
  cat >"$work/run.sh" <<EOF
cd "$work/saltmarsh"
PATH=$(dirname "$compass"):\$PATH
export TERM=xterm-256color COLUMNS=141
{ $3
} 2>&1 | $2
sleep 30
EOF
  xvfb-run -a -s "-screen 0 1280x800x24" sh -c "
    xterm -fa 'DejaVu Sans Mono' -fs 11 -geometry 141x44+0+0 -bg '#fdfcf7' -fg '#22303a' -b 8 -e sh '$work/run.sh' &
    sleep ${4:-3}; import -window root '$shots/$1.png'; kill %1 2>/dev/null || true"
}

# Words with blanks are shown as one types them.
shown='printf "\\033[1m$ yellow-compass"; for w; do case $w in *" "*) printf " '"\047%s\047"'" "$w" ;; *) printf " %s" "$w" ;; esac; done; printf "\\033[0m\\n"'
say="p() { $shown; yellow-compass --color always \"\$@\"; };"
fresh
shoot survey "head -42" "$say p survey"
shoot refs "head -42" "$say p refs firmware/packet.h; p refs viewer/tide.svg viewer/levels.h"
(cd "$work/saltmarsh" && git init -q . && git add -A && git -c user.name=demo -c user.email=demo@example commit -qm start
  "$compass" chart tree --sheet ../tidy.sheet -o "$shots/chart-tree.png"
  "$compass" chart folders --sheet ../tidy.sheet -o "$shots/chart-folders.png"
  "$compass" move --sheet ../viewer.sheet --preview --report "$work/page-plan.html" -q) >/dev/null
chromium --headless --no-sandbox --disable-gpu --hide-scrollbars --window-size=1280,1600 \
  --screenshot="$shots/page-plan.png" "file://$work/page-plan.html" >/dev/null 2>&1
fresh
shoot preview "head -42" "$say p move --sheet ../viewer.sheet --preview"
shoot impact "head -42" "$say p impact; p impact waterlevel/level.hpp office/Ledger; p impact --sheet ../office.sheet --figure '$shots/units.png'"
shoot restyle "head -42" "$say p restyle --to alias dashboard/src/main.ts --preview; p restyle --add-alias @text=dashboard/src --preview; p move dashboard/src/format.ts dashboard/src/format/format.ts --forward --preview"
shoot refused "head -42" "$say p move firmware/tide.c 'firmware/the tide.c'; p move firmware/gauge.c firmware/packet.c; p move firmware/crc firmware/main.c"
shoot move "head -42" "$say p move firmware/gauge.c firmware/gauge.h firmware/sensor/ -v; p undo; p move --sheet ../tidy.sheet --includes new-root,root,relative; p undo"
fresh
(cd "$work/saltmarsh" && "$compass" move --sheet ../tidy.sheet --includes new-root,root,relative -q)
shoot carve "head -42" "$say p carve viewer/src --preview"
fresh
mkdir "$work/saltmarsh/firmware/include"
mv "$work"/saltmarsh/firmware/*.h "$work/saltmarsh/firmware/include/"
mv "$work/saltmarsh/waterlevel/series.cpp" "$work/saltmarsh/waterlevel/stations/"
sed -i '/Members.cs/d;/Letters/,/<.Compile>/d' "$work/saltmarsh/office/Office/Office.csproj"
sed -i 's/Dues.cs/dues.cs/' "$work/saltmarsh/office/Ledger/Ledger.csproj"
printf 'int more(void) { return 0; }\n' >"$work/saltmarsh/phone/App/more.c"
rm "$work/saltmarsh/office/protocol/Station.cs"
shoot check "head -42" "$say p check | { head -27; tail -3; }; p check --mend dangling; p check --mend wrong-case --preview"
fresh
(cd "$work/saltmarsh" && git init -q . && git add -A && git -c user.name=demo -c user.email=demo@example commit -qm start &&
  mkdir firmware/sensor && mv firmware/gauge.c firmware/gauge.h firmware/sensor/ && mv waterlevel/tests waterlevel/trials)
shoot catch-up "head -42" "$say p catch-up --preview; p catch-up; p check --clone"
fresh
cp docs/layouts/programs-and-libraries.toml "$work/saltmarsh/layout.toml"
shoot layout "head -42" "$say p layout; p check --layout; p layout --move; p restyle --shared; p move decoder/libraries/tide/src/level.rs decoder/libraries/tide/src/water/ -v"
fresh
plain="p() { $shown; yellow-compass \"\$@\"; };"
shoot history "head -42" "$plain p move firmware/packet.c firmware/packet.h firmware/link/; p move firmware/crc firmware/lib/; p undo; p history -v; p history --patch 1"
shoot rehearse "head -42" "$say p rehearse firmware/gauge.c firmware/sensor/ -- make -s -C firmware; p rehearse waterlevel/stations/stations.csv waterlevel/gauges.csv -- head -3 waterlevel/stations/stations.csv" 12
fresh
(cd "$work/saltmarsh" && git init -q . && git add -A && git -c user.name=demo -c user.email=demo@example commit -qm start)
xvfb-run -a -s "-screen 0 1280x800x24" sh -c "
  cd '$work/saltmarsh' && PATH=$(dirname "$compass"):\$PATH HOME=$work SHOTS=$work xterm -fa 'DejaVu Sans Mono' -fs 11 -geometry 141x41+0+0 \
    -bg '#fdfcf7' -fg '#22303a' -e emacs -q -nw -l '$PWD/tools/editor-pictures.el' &
  for when in before after; do
    while ! [ -e '$work/'\$when ]; do sleep 0.2; done
    sleep 1; import -window root '$shots/editor-'\$when.png
  done; kill %1 2>/dev/null || true"
