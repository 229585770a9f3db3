#!/bin/sh
# Installs what is missing, builds, and runs all tests.
set -eu
cd "$(dirname "$0")"
sh tools/install-missing.sh
cmake --preset release >/dev/null
cmake --build --preset release
ctest --preset release -j "$(nproc)"
