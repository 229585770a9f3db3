import { axis } from "./axis";
import { colourOf } from "./colours";
import type { Station } from "@/station";

const WIDTH = 720;
const HEIGHT = 240;

// One line for each station, the hours of a day from left to right.
export function drawChart(target: SVGElement, stations: Station[]): void {
  const lines = stations.map((station, index) => {
    const points = station.levels.map((level) => `${(level.minute / 1440) * WIDTH},${HEIGHT - level.millimetres / 25}`);
    return `<polyline points="${points.join(' ')}" fill="none" stroke="${colourOf(index)}" stroke-width="3"/>`;
  });
  target.innerHTML = axis(WIDTH, HEIGHT) + lines.join('');
}
