# A source goes by hand: the makefile names nothing any more.
mkdir src
git mv crc.c src/crc.c
breaks
finds dangling Makefile
does catch-up
builds "after catching up"
clean

# A header goes by hand, and stays where no search root leads.
as_before
mkdir include
mv level.h include/
breaks
finds dangling level.c
does catch-up
builds
clean

# What the last build left behind.
as_before
make -s check >/dev/null
mkdir include
does move crc.h include/
says "crc.d: was made by a build and names crc.h"
make -s check >/dev/null 2>&1 && fault "the stale files do no harm"
does undo
does move crc.h include/ --sweep
make -s check >/dev/null
