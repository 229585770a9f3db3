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
does catch-up
builds
clean
