import { level } from './index';
import { stations } from './lib/stations';

console.log(`${stations[0]} ${level(4)}`);
