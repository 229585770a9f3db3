# Inner headers of the library regrouped, a sketch renamed with its folder, a part of a sketch put below its src.
builds
clean
does move libraries/Gauge/src/levels libraries/Gauge/src/detail/levels
builds "the library's inside"
does move sketches/Buoy/lamp.cpp sketches/Buoy/lamp.h sketches/Buoy/src/
builds "a sketch with a src"
has sketches/Buoy/Buoy.ino '#include "src/lamp.h"'
printf '%s\n' 'sketches/Pole/Pole.ino -> sketches/TidePole/TidePole.ino' >moves
does move --sheet moves
rm moves
builds "a sketch renamed"
has README.md "sketches/TidePole/TidePole.ino"
clean
does undo
does undo
taken_back
