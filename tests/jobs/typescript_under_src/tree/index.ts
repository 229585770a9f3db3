export { level } from './lib/level';
