#!/bin/sh
# Installs what is missing, builds the program, and shows it on the Saltmarsh tide network. Results: demo-output/.
set -eu
cd "$(dirname "$0")"
sh tools/install-missing.sh demo/packages.txt
PATH=$PWD/build/npm/node_modules/.bin:$PATH
echo "Building yellow-compass (a few minutes the first time) ..."
cmake --preset release -B build/release >/dev/null
cmake --build build/release --target yellow-compass >build/demo.log 2>&1 || { tail -20 build/demo.log; exit 1; }
compass=$PWD/build/release/yellow-compass
out=$PWD/demo-output
rm -rf "$out"
mkdir -p "$out"
cp -r demo/saltmarsh "$out/saltmarsh"
cp demo/tidy.sheet "$out/tidy.sheet"
tree=$out/saltmarsh
standins=$PWD/tests/standins

# Takes a picture of the page that a folder holds, served as it would be on the network, in a real browser.
picture() {
  : >"$out/server.log"  # there before the server has opened it
  python3 -m http.server 0 --bind 127.0.0.1 --directory "$1" >"$out/server.log" 2>&1 &
  server=$!
  port=""
  for _ in 1 2 3 4 5 6 7 8 9 10; do
    port=$(sed -n 's/.*port \([0-9]*\).*/\1/p' "$out/server.log")
    [ -n "$port" ] && break
    sleep 0.3
  done
  chromium --headless --no-sandbox --disable-gpu --hide-scrollbars --window-size=860,620 --virtual-time-budget=4000 \
    --screenshot="$out/$2" "http://127.0.0.1:$port/index.html" >/dev/null 2>&1 || true
  kill "$server"
  rm -f "$out/server.log"
  [ -s "$out/$2" ]
}

# Builds the projects and runs the scripts in a copy, so that no output of a build is left in the tree, and prints what they print. The
# page's picture goes to the file named.
build() {
  copy=$(mktemp -d)
  cp -r "$tree/." "$copy"
  (
    cd "$copy"
    make -s -C firmware && make -s --no-print-directory -C firmware run
    cmake -S waterlevel -B built -G Ninja >/dev/null && cmake --build built >/dev/null
    find built -name predict -type f -exec {} \;
    (cd built && ctest 2>/dev/null | grep 'tests passed')
    cmake --install built --prefix installed >/dev/null && (cd installed && find . -type f | sort)
    meson setup viewer-built viewer >/dev/null && ninja -C viewer-built >/dev/null
    "$(find viewer-built -name viewer -type f)" "$(find viewer -name sample.csv)"
    (cd dashboard && npm run --silent build 2>/dev/null && cksum public/js/main.js)
    picture dashboard/public "$1"
    (cd gateway && export GOCACHE="$copy/go-cache" GOPROXY=off GOTOOLCHAIN=local && go vet ./... && go test ./... | sed -n 's/^ok.*/the gateway is tested/p' &&
      go build -o . ./... && ./gateway)
    (cd decoder && export CARGO_TARGET_DIR="$copy/decoder-built" && cargo test -q --offline --locked >/dev/null 2>&1 && echo "the decoder is tested" &&
      cargo run -q --offline --locked -p decode "12*3" "13*3")
    xbuild /nologo /v:q /p:NoCompilerStandardLib=false office/Saltmarsh.sln >/dev/null && mono "$(find office -path '*/bin/Saltmarsh.Office.exe')"
    (cd "$(dirname "$(find office -name docker-compose.yml)")" && docker-compose config -q) && echo "the composition is valid"
    python3 "$standins/property_list_project.py" . | cut -f2 | sort | uniq -c
    cc $(sed -n 's/.*"$(SRCROOT)\(.*\)",/-Iphone\1/p' phone/Gauges.xcodeproj/project.pbxproj) -Iphone/App -Iphone/App/views -o phone-app $(find phone -name '*.c') && ./phone-app
    (cd ingest && python3 -B ingest.py && python3 -B -m unittest -q "$(find . -name 'test_*.py')" 2>/dev/null)
    meson test -C viewer-built | sed -n 's/^ *[0-9]*\/[0-9]* \([a-z]*  *OK\).*/\1/p' | sort
  )
  rm -rf "$copy"
}

# Shows a command, runs it in the tree, and keeps what it printed.
number=0
show() {
  name=$1
  shift
  number=$((number + 1))
  file=$(printf '%s/%02d-%s.txt' "$out" "$number" "$name")
  printf '\n$ yellow-compass %s\n' "$*"
  status=0
  (cd "$tree" && "$compass" "$@") >"$file" 2>&1 || status=$?
  cat "$file"
  [ "$status" -le 1 ] || [ "$status" = 3 ] || exit "$status"
}

checksum() { (cd "$tree" && find . -path ./.yellow-compass -prune -o -type f -print | sort | xargs cksum); }

echo "Building the demo projects as they are ..."
build page-before.png >"$out/build-before.txt"
checksum >"$out/files-before.txt"

show survey -C . survey --report ../survey.html
show refs -C . refs firmware/packet.h viewer/levels.h
show check -C . check
show preview -C . move --sheet ../tidy.sheet --includes new-root,root,relative --preview --report ../plan.html
show tree -C . chart tree --sheet ../tidy.sheet -o ../tree.png
show folders -C . chart folders --sheet ../tidy.sheet -o ../folders.png
show refused -C . move firmware/tide.c "firmware/the tide.c"
show patch -C . move --sheet ../tidy.sheet --includes new-root,root,relative --patch ../tidy.patch
show move -C . move --sheet ../tidy.sheet --includes new-root,root,relative

echo
echo "Building them after the move ..."
build page-after.png >"$out/build-after.txt"
cmp "$out/build-before.txt" "$out/build-after.txt" && echo "All builds, all tests and the installed files are the same."
cmp "$out/page-before.png" "$out/page-after.png" && echo "The page looks the same, to the last dot."

show undo -C . undo
checksum >"$out/files-after-undo.txt"
cmp "$out/files-before.txt" "$out/files-after-undo.txt" && echo "Every byte is back."

show again -C . move --sheet ../tidy.sheet --includes new-root,root,relative
(cd "$tree" && find . -path ./.yellow-compass -prune -o -type f -print | sort) >"$out/tree-after.txt"
show history -C . history

echo
echo "The viewer's sources get a build script of their own; old users of a header are still served ..."
show carve -C . carve viewer/src --preview
show carved -C . carve viewer/src -q
show forward -C . move firmware/include/packet.h firmware/lib/packet/ --forward
build page-carved.png >"$out/build-carved.txt"
cmp "$out/build-before.txt" "$out/build-carved.txt" && echo "All builds say the same as at first."
show forwarders -C . check
show dropped -C . restyle --drop-forwarders
show undone -C . undo
show undone -C . undo
show folded -C . carve viewer/src --fold -q

echo
echo "The dashboard imports through its alias; a module is promoted to a folder ..."
show alias -C . restyle --to alias dashboard/src/main.ts
show promote -C . move dashboard/src/text/format.ts dashboard/src/text/format/format.ts --forward
build page-alias.png >"$out/build-alias.txt"
cmp "$out/page-before.png" "$out/page-alias.png" && echo "The page still looks the same."

echo
echo "Somebody moves files by hand ..."
(
  cd "$tree"
  git init -q . && git add -A && git -c user.name=demo -c user.email=demo@example commit -qm "The tidied tree"
  mkdir firmware/src/sensor && mv firmware/src/gauge.c firmware/src/sensor/ && mv waterlevel/tools waterlevel/programs
)
show catch-up -C . catch-up
show rehearse -C . rehearse firmware/src/sensor/gauge.c firmware/src/ -- make -s -C firmware
show clone -C . check --clone

printf '\nThe tidied tree and all outputs are in demo-output/: pages (survey.html, plan.html), figures (tree.png, folders.png), what each command printed.\n'
