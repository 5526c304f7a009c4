import { showMeasure } from './measure';

/** Lengths and counts as they are read: "1.76 m", "40 cm", "24", "1,840". */
export const metres = (v: number, unit: 'm' | 'cm' = 'm', digits?: number): string =>
  `${unit === 'm' ? Number(v.toFixed(digits ?? 2)) : showMeasure(v, 'length', 'cm', 1)} ${unit}`;

export const whole = (n: number): string => n.toLocaleString('en');

export const plural = (n: number, one: string, many = `${one}s`): string =>
  `${whole(n)} ${n === 1 ? one : many}`;

export const degrees = (v: number): string => `${Number(v.toFixed(1))}°`;
