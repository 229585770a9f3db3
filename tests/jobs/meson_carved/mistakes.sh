# The folder went, and its subdir() still names the old place.
does carve radio
git add -A
git commit -qm carved
mkdir parts
mv radio parts/radio
breaks
finds dangling meson.build
does catch-up
builds
clean

# A source was taken out of the tree.
as_before
mv gauge/sample.c gauge/samples.c
breaks
finds dangling meson.build
does catch-up
builds

# A header went to a folder that no unit looks in.
as_before
mkdir shared
mv common/clock.h shared/clock.h
breaks
finds dangling common/clock.c
does catch-up
builds
clean
