# A component gets a folder with its style, its picture and its test; then what climbs far goes by the alias.
builds
clean
cat >moves <<'M'
src/components/Gauge.tsx -> src/components/Gauge/Gauge.tsx
src/styles/gauge.css -> src/components/Gauge/Gauge.css
src/assets/wave.svg -> src/components/Gauge/wave.svg
src/tests/gauge.test.ts -> src/components/Gauge/Gauge.test.ts
M
does move --sheet moves --index
rm moves
builds "colocated"
has src/main.tsx "from '@/components/Gauge';"
has src/components/Gauge/Gauge.tsx "from './wave.svg'"
has src/components/Gauge/Gauge.css 'url("wave.svg")'
has src/components/Gauge/index.tsx "from './Gauge'"
clean
does move src/lib src/shared/lib
builds "the library"
has src/main.tsx "from '@/shared/lib/level'"
does restyle --add-alias "@lib=src/shared/lib" --to alias --steps 9
does restyle --to relative src/components
builds "relative"
has src/components/Gauge/Gauge.tsx "from '../../shared/lib/level'"
clean
