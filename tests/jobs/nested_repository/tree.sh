git init -q "$PRISTINE.nested"
cat >"$PRISTINE.nested/crc.h" <<'C'
#pragma once
int crc8(int value);
C
cat >"$PRISTINE.nested/crc.c" <<'C'
#include "crc.h"

int crc8(int value) { return value & 255; }
C
(cd "$PRISTINE.nested" && git config user.name t && git config user.email t@example.org && git add -A && git commit -qm first)
git -c protocol.file.allow=always submodule --quiet add "$PRISTINE.nested" crclib
