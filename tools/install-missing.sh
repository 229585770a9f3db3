#!/bin/sh
# Installs the packages of packages.txt that are missing (needs root, or sudo, only if one is), and the compilers for web
# projects that tests/npm names into build/npm. With the path of one more list, its packages too.
set -eu
here=$(cd "$(dirname "$0")/.." && pwd)
missing=""
for package in $(sed 's/#.*//' "$here/packages.txt" ${1:+"$here/$1"}); do
  dpkg-query -W -f='${Status}' "$package" 2>/dev/null | grep -q 'install ok installed' || missing="$missing $package"
done
command -v npm >/dev/null || missing="$missing nodejs npm"
if [ -n "$missing" ]; then
  echo "Installing:$missing"
  run=""
  [ "$(id -u)" = 0 ] || run=sudo
  export DEBIAN_FRONTEND=noninteractive
  $run apt-get update -q >/dev/null
  # shellcheck disable=SC2086
  $run apt-get install -y -q --no-install-recommends $missing >/dev/null
fi
if ! cmp -s "$here/tests/npm/package-lock.json" "$here/build/npm/package-lock.json"; then
  echo "Installing the compilers for web projects"
  mkdir -p "$here/build/npm"
  cp "$here/tests/npm/package.json" "$here/build/npm/package.json"
  cp "$here/tests/npm/package-lock.json" "$here/build/npm/package-lock.json"
  (cd "$here/build/npm" && npm ci --ignore-scripts --no-audit --no-fund >npm.log 2>&1) ||
    { tail -5 "$here/build/npm/npm.log"; rm -f "$here/build/npm/package-lock.json"; exit 1; }
fi
