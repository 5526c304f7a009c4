import { showMeasure } from './measure';

/** Lengths and counts as they are read: "1.76 m", "40 cm", "24", "1,840". */
export const metres = (v: number, unit: 'm' | 'cm' = 'm', digits?: number): string =>
  `${unit === 'm' ? Number(v.toFixed(digits ?? 2)) : showMeasure(v, 'length', 'cm', 1)} ${unit}`;

/** Made once: it is asked for at every step of a drag. */
const inThousands = new Intl.NumberFormat('en');

export const whole = (n: number): string => inThousands.format(n);

export const plural = (n: number, one: string, many = `${one}s`): string =>
  `${whole(n)} ${n === 1 ? one : many}`;

/** A size in memory or on a disk: "12 kB", "3.4 MB". */
export const asBytes = (n: number): string =>
  n < 1e6 ? `${whole(Math.max(n > 0 ? 1 : 0, Math.round(n / 1000)))} kB` : `${(n / 1e6).toFixed(1)} MB`;

/** How far something goes round: "1 turn", "2.25 turns". */
export const inTurns = (n: number): string => {
  const shown = Number(n.toFixed(2));
  return `${shown} ${shown === 1 ? 'turn' : 'turns'}`;
};

export const degrees = (v: number): string => `${Number(v.toFixed(1))}°`;
