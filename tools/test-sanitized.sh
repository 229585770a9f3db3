#!/bin/sh
# Builds the core, its tests and the fuzzer by clang with address and undefined-behaviour sanitizers, runs the tests in
# as many parts as there are processors, and a fixed number of inputs for each reader (see fuzz/run).
set -eu
cd "$(dirname "$0")/.."
sh tools/install-missing.sh fuzz/packages.txt
export ASAN_OPTIONS=malloc_context_size=2:quarantine_size_mb=16 UBSAN_OPTIONS=print_stacktrace=1
mkdir -p build/fuzz
cmake --preset fuzz >/dev/null
cmake --build --preset fuzz --target core_tests fuzz
parts=$(nproc)
running=""
part=0
while [ "$part" -lt "$parts" ]; do
  GTEST_TOTAL_SHARDS=$parts GTEST_SHARD_INDEX=$part build/fuzz/tests/core_tests --gtest_brief=1 >"build/fuzz/tests-$part.log" 2>&1 &
  running="$running $!"
  part=$((part + 1))
done
failed=0
for process in $running; do wait "$process" || failed=1; done
part=0
while [ "$part" -lt "$parts" ]; do
  if [ $failed = 1 ]; then tail -40 "build/fuzz/tests-$part.log"; else tail -1 "build/fuzz/tests-$part.log"; fi
  part=$((part + 1))
done
[ $failed = 0 ] || exit 1
fuzz/run 0
