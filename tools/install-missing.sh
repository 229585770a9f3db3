#!/bin/sh
# Installs the packages of packages.txt that are missing. Needs root (or sudo) only if one is.
set -eu
here=$(cd "$(dirname "$0")/.." && pwd)
missing=""
for package in $(sed 's/#.*//' "$here/packages.txt"); do
  dpkg-query -W -f='${Status}' "$package" 2>/dev/null | grep -q 'install ok installed' || missing="$missing $package"
done
[ -n "$missing" ] || exit 0
echo "Installing:$missing"
run=""
[ "$(id -u)" = 0 ] || run=sudo
export DEBIAN_FRONTEND=noninteractive
$run apt-get update -q >/dev/null
# shellcheck disable=SC2086
$run apt-get install -y -q --no-install-recommends $missing >/dev/null
