import { cos, sin } from '../../math/portable';
import { channel, random01 } from '../../math/random';

/** Rows and columns on the ground, seen from above. They lie where they lie, whatever area is cut out of them. */
export interface Lattice {
  /** Metres from one to the next. */
  distance: number;
  /** Rows turned about Y, radians. */
  turn: number;
  /** Every second row moved by half a place; "six": rows as close as six neighbours lie. */
  stagger: 'none' | 'brick' | 'six';
  /** Each moved by chance, up to so much of half the distance. */
  loose: number;
  seed: number;
}

const RIGHT = channel('scatter.lattice.x');
const BACK = channel('scatter.lattice.z');
/** Numbers of columns and of rows come again after so many. */
const AGAIN = 4096;

/**
 * Calls for every place of the lattice that may lie in a box.
 * @param call x, z and the place's own number, below 2^24
 */
export function latticeIn(
  { distance, turn, stagger, loose, seed }: Lattice,
  min: readonly [number, number],
  max: readonly [number, number],
  call: (x: number, z: number, key: number) => void,
): void {
  const [c, s] = [cos(turn), sin(turn)];
  const rows = stagger === 'six' ? (distance * Math.sqrt(3)) / 2 : distance;
  // The box in the lattice's own directions.
  const corners = [min[0], max[0]].flatMap((x) =>
    [min[1], max[1]].map((z) => [x * c - z * s, x * s + z * c]),
  );
  const bound = (a: 0 | 1, of: (...v: number[]) => number) => of(...corners.map((k) => k[a]));
  const turned = (i: number) => ((i % AGAIN) + AGAIN) % AGAIN;
  for (let r = Math.floor(bound(1, Math.min) / rows) - 1; r * rows <= bound(1, Math.max) + rows; r++) {
    const shift = stagger !== 'none' && r % 2 !== 0 ? 0.5 : 0;
    const to = bound(0, Math.max) + distance;
    for (let k = Math.floor(bound(0, Math.min) / distance) - 1; (k + shift) * distance <= to; k++) {
      const key = turned(r) * AGAIN + turned(k);
      const off = (channelKey: number) =>
        loose > 0 ? (random01(seed, key, channelKey) - 0.5) * loose * distance : 0;
      const x = (k + shift) * distance + off(RIGHT);
      const z = r * rows + off(BACK);
      call(x * c + z * s, -x * s + z * c, key);
    }
  }
}
