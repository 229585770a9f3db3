# A component went by hand.
mkdir src/components/Gauge
mv src/components/Gauge.tsx src/components/Gauge/
breaks
finds dangling src/main.tsx
finds dangling src/components/Gauge/Gauge.tsx
does catch-up
builds
clean

# The folder of an alias was renamed.
as_before
mv src/lib src/core
breaks
finds dangling src/main.tsx
does catch-up
builds
clean
