import { level } from './level';

if (level(2) !== 4) throw new Error('level');
