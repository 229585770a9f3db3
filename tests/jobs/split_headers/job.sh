# Public headers go to include/, sources and private headers to src/.
builds
clean
does move surge.h datum.h include/
builds "headers in include/"
has tests/surge_test.cpp '#include "surge.h"'
does move surge.cpp datum.cpp detail.h src/
builds "sources in src/"
has src/surge.cpp '#include "surge.h"'
clean
does undo
taken_back
