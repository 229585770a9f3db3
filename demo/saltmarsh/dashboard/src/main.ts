import { drawChart } from './chart';
import { stations } from '@levels';
import { metres, clock } from './format';
import type { Station } from './station';

function row(station: Station): HTMLElement {
  const line = document.createElement('li');
  const last = station.levels[station.levels.length - 1];
  line.textContent = `${station.name}: ${metres(last.millimetres)} at ${clock(last.minute)}`;
  return line;
}

const list = document.querySelector('#stations');
for (const station of stations) list?.append(row(station));

const canvas = document.querySelector<SVGElement>('#chart');
if (canvas) drawChart(canvas, stations);
