import { level } from '@/lib/level';
import wave from '../assets/wave.svg';
import '../styles/gauge.css';

export const Gauge = (raw: number): string => `${level(raw)} ${wave}`;
