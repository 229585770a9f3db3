import type { Level, Station } from './station';

const tide = (high: number, shift: number): Level[] =>
  Array.from({ length: 49 }, (_, i) => ({
    minute: i * 30,
    millimetres: Math.round(2500 + high * Math.sin(((i * 30 + shift) / 745) * 2 * Math.PI)),
  }));

export const stations: Station[] = [
  { name: 'Heron Sluice', levels: tide(1900, 0) },
  { name: 'Old Ferry Stage', levels: tide(1600, 55) },
  { name: 'Reed Island', levels: tide(1200, 110) },
];
