import { Gauge } from '@/components/Gauge';
import { level } from '@/lib/level';

export const page = [Gauge(level(4))];
