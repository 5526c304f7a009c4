import type { CompiledPath } from './compile';

/**
 * The zone at a length: that of the point before it. The last point of an open path begins nothing: it belongs to the
 * stretch that ends there. @param s metres along the path; of a loop it wraps
 */
export function zoneAt({ pointS, zone, closed, length }: CompiledPath, s: number): number {
  const at = closed ? ((s % length) + length) % length : s;
  let i = pointS.length - (closed ? 1 : 2);
  while (i > 0 && pointS[i] > at + 1e-9 * length) i--;
  // Before the first point of a loop lies the stretch from the last.
  return pointS[i] > at + 1e-9 * length && closed ? zone[zone.length - 1] : zone[Math.max(0, i)];
}
