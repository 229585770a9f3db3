# A module went by hand.
mkdir lib/gauges
mv lib/level.ts lib/gauges/
breaks
finds dangling index.ts
does catch-up
builds
clean

# Everything went below src, and the settings still include the old folders.
as_before
mkdir src
mv index.ts cli.ts lib globals.d.ts src/
breaks
finds empty-pattern tsconfig.json
does catch-up
builds
clean
