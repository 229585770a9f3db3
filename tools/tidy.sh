#!/bin/sh
# Formats all sources and runs the static checks on them (with --check, formatting is only checked). Needs Debian's
# clang-format and clang-tidy.
set -eu
cd "$(dirname "$0")/.."
files=$(git ls-files 'src/**/*.cpp' 'src/**/*.h' 'tests/**/*.cpp' 'tests/**/*.h' ':(exclude,glob)tests/jobs/*/tree/**')
if [ "${1:-}" = --check ]; then
  clang-format --dry-run --Werror $files
else
  clang-format -i $files
fi
cmake --preset debug >/dev/null
# The compiler's precompiled headers are not for clang.
mkdir -p build/tidy
sed -e 's/ -include [^ ]*cmake_pch.hxx//g' -e 's/ -Winvalid-pch//g' -e 's/ -Wno-restrict//g' -e 's/ -Wno-maybe-uninitialized//g' build/debug/compile_commands.json >build/tidy/compile_commands.json
git ls-files 'src/**/*.cpp' | xargs -P "$(nproc)" -n 4 clang-tidy -p build/tidy --quiet
