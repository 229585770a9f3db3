#!/bin/sh
# Installs what is missing, builds, and runs all tests; then the core's tests once more under address and
# undefined-behaviour sanitizers, and a few hundred inputs of the fuzzer for each reader.
set -eu
cd "$(dirname "$0")"
sh tools/install-missing.sh
cmake --preset release >/dev/null
cmake --build --preset release
ctest --preset release -j "$(nproc)"
sh tools/test-sanitized.sh
