# The headers went, and the search root was forgotten.
mkdir include
mv surge.h datum.h include/
breaks
finds dangling CMakeLists.txt
finds dangling tests/surge_test.cpp
does catch-up
builds
clean

# A source was renamed on disk alone.
as_before
mv surge.cpp storm.cpp
breaks
finds dangling CMakeLists.txt
does catch-up
builds

# A target was renamed where it is made, and not where it is linked.
as_before
sed -i 's/add_library(waterlevel /add_library(levels_core /' CMakeLists.txt
breaks
finds unknown-target CMakeLists.txt
