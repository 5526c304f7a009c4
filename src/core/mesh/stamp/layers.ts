import { reachOf, STAMP_STRIDE } from './laid';

/** The stamps of one surface in the order in which they are drawn, found by where they lie. */
export interface StampLayers {
  count: number;
  /** {@link STAMP_STRIDE} numbers a stamp, the undermost first. */
  numbers: Float32Array;
  /** Least u and v that any of them reaches to, and how far all of them reach from there. */
  domain: [number, number, number, number];
  /** Squares along each side of the domain. */
  grid: number;
  /** For each square, row by row, where its stamps begin in the list, and how many they are. */
  cells: Uint32Array;
  list: Uint32Array;
}

/** Some stamps of one arrangement that lie on a surface. */
export interface StampsLaid {
  numbers: Float32Array;
  /** What {@link STAMP.of} is by the pictures of all. */
  pictures: ArrayLike<number>;
  /** The layer of each of them, by {@link STAMP.of}. */
  layers: ArrayLike<number>;
}

/** As fine as this it is looked for at most. */
const MOST_SQUARES = 256;

/** Puts stamps in order: those of higher layers over the others, in one layer in the order in which they are given. */
export function stampLayers(all: readonly StampsLaid[]): StampLayers {
  const count = all.reduce((n, a) => n + a.numbers.length / STAMP_STRIDE, 0);
  const from = new Uint32Array(count);
  const at = new Uint32Array(count);
  const layer = new Int32Array(count);
  let n = 0;
  all.forEach(({ numbers, layers }, i) => {
    for (let o = 0; o < numbers.length; o += STAMP_STRIDE) {
      [from[n], at[n], layer[n]] = [i, o, layers[numbers[o + 6]]];
      n++;
    }
  });
  const order = Uint32Array.from({ length: count }, (_, i) => i);
  if (layer.some((l) => l !== layer[0])) order.sort((a, b) => layer[a] - layer[b] || a - b);
  const out = new Float32Array(count * STAMP_STRIDE);
  const box = new Float32Array(count * 4);
  const domain: [number, number, number, number] = [Infinity, Infinity, -Infinity, -Infinity];
  order.forEach((k, i) => {
    const { numbers, pictures } = all[from[k]];
    const o = i * STAMP_STRIDE;
    out.set(numbers.subarray(at[k], at[k] + STAMP_STRIDE), o);
    out[o + 6] = pictures[out[o + 6]];
    const [wide, high] = reachOf(out, o);
    box.set([out[o] - wide, out[o + 1] - high, out[o] + wide, out[o + 1] + high], i * 4);
    for (let s = 0; s < 2; s++) {
      domain[s] = Math.min(domain[s], box[i * 4 + s]);
      domain[s + 2] = Math.max(domain[s + 2], box[i * 4 + 2 + s]);
    }
  });
  if (count === 0) domain.fill(0);
  const grid = Math.min(MOST_SQUARES, Math.max(1, Math.ceil(2 * Math.sqrt(count))));
  const [kx, ky] = [grid / (domain[2] - domain[0] || 1), grid / (domain[3] - domain[1] || 1)];
  const held = (v: number) => Math.min(grid - 1, Math.max(0, Math.floor(v)));
  const squares = (i: number, call: (cell: number) => void) => {
    const [x0, x1] = [held((box[i * 4] - domain[0]) * kx), held((box[i * 4 + 2] - domain[0]) * kx)];
    const [y0, y1] = [held((box[i * 4 + 1] - domain[1]) * ky), held((box[i * 4 + 3] - domain[1]) * ky)];
    for (let y = y0; y <= y1; y++) for (let x = x0; x <= x1; x++) call(y * grid + x);
  };
  const cells = new Uint32Array(grid * grid * 2);
  for (let i = 0; i < count; i++) squares(i, (cell) => cells[cell * 2 + 1]++);
  let begin = 0;
  for (let c = 0; c < cells.length; c += 2) {
    cells[c] = begin;
    begin += cells[c + 1];
    cells[c + 1] = 0;
  }
  const list = new Uint32Array(begin);
  for (let i = 0; i < count; i++) squares(i, (cell) => (list[cells[cell * 2] + cells[cell * 2 + 1]++] = i));
  return {
    count,
    numbers: out,
    domain: [domain[0], domain[1], domain[2] - domain[0], domain[3] - domain[1]],
    grid,
    cells,
    list,
  };
}
