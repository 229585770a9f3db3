import { Gauge } from '../components/Gauge';

if (Gauge(2) === '') throw new Error('gauge');
