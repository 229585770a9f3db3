# The folder was renamed and the sketch was not.
mv sketches/Pole sketches/TidePole
breaks
finds misnamed-sketch sketches/TidePole/Pole.ino

# A header went, and stays where the sketch tool does not look.
as_before
mkdir sketches/Buoy/parts
mv sketches/Buoy/lamp.h sketches/Buoy/parts/
breaks
finds dangling sketches/Buoy/Buoy.ino
SAID=$(yc catch-up 2>&1) && fault "catch-up mends what the sketch tool cannot find"
says "move it to a place beside the sketch or below its src"
# As it says.
mkdir sketches/Buoy/src
mv sketches/Buoy/parts/lamp.h sketches/Buoy/src/
SAID=$(yc catch-up 2>&1) && fault "a text that was wrong before is taken for right"
says "write it so that it leads to sketches/Buoy/src/lamp.h"
sed -i 's|parts/lamp.h|src/lamp.h|' sketches/Buoy/Buoy.ino sketches/Buoy/lamp.cpp
does catch-up
builds
clean
