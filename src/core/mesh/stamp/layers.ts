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
      from[n] = i;
      at[n] = o;
      layer[n] = layers[numbers[o + 6]];
      n++;
    }
  });
  const order = Uint32Array.from({ length: count }, (_, i) => i);
  if (layer.some((l) => l !== layer[0])) order.sort((a, b) => layer[a] - layer[b] || a - b);
  const out = new Float32Array(count * STAMP_STRIDE);
  const box = new Float32Array(count * 4);
  const domain = Float64Array.of(Infinity, Infinity, -Infinity, -Infinity);
  for (let i = 0; i < count; i++) {
    const k = order[i];
    const { numbers, pictures } = all[from[k]];
    const o = i * STAMP_STRIDE;
    const q = i * 4;
    for (let n0 = 0; n0 < STAMP_STRIDE; n0++) out[o + n0] = numbers[at[k] + n0];
    out[o + 6] = pictures[out[o + 6]];
    const [wide, high] = reachOf(out, o);
    box[q] = out[o] - wide;
    box[q + 1] = out[o + 1] - high;
    box[q + 2] = out[o] + wide;
    box[q + 3] = out[o + 1] + high;
    domain[0] = Math.min(domain[0], box[q]);
    domain[1] = Math.min(domain[1], box[q + 1]);
    domain[2] = Math.max(domain[2], box[q + 2]);
    domain[3] = Math.max(domain[3], box[q + 3]);
  }
  if (count === 0) domain.fill(0);
  const grid = Math.min(MOST_SQUARES, Math.max(1, Math.ceil(2 * Math.sqrt(count))));
  // From corners to the squares that they are in.
  const kx = grid / (domain[2] - domain[0] || 1);
  const ky = grid / (domain[3] - domain[1] || 1);
  for (let q = 0; q < box.length; q += 2) {
    box[q] = Math.min(grid - 1, Math.max(0, Math.floor((box[q] - domain[0]) * kx)));
    box[q + 1] = Math.min(grid - 1, Math.max(0, Math.floor((box[q + 1] - domain[1]) * ky)));
  }
  const cells = new Uint32Array(grid * grid * 2);
  for (let q = 0; q < box.length; q += 4)
    for (let y = box[q + 1]; y <= box[q + 3]; y++)
      for (let x = box[q]; x <= box[q + 2]; x++) cells[(y * grid + x) * 2 + 1]++;
  let begin = 0;
  for (let c = 0; c < cells.length; c += 2) {
    cells[c] = begin;
    begin += cells[c + 1];
    cells[c + 1] = 0;
  }
  const list = new Uint32Array(begin);
  for (let i = 0; i < count; i++)
    for (let y = box[i * 4 + 1]; y <= box[i * 4 + 3]; y++)
      for (let x = box[i * 4]; x <= box[i * 4 + 2]; x++) {
        const c = (y * grid + x) * 2;
        list[cells[c] + cells[c + 1]++] = i;
      }
  return {
    count,
    numbers: out,
    domain: [domain[0], domain[1], domain[2] - domain[0], domain[3] - domain[1]],
    grid,
    cells,
    list,
  };
}
