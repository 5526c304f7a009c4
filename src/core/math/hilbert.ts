/** Places in an order in which those that follow each other are near each other: along Hilbert's curve through space. */

/** Bits of a place along each axis that decide what is near what. */
const BITS = 6;

/** How far along the curve each cell of the cube is; made when it is first needed. */
let curve: Uint32Array | null = null;

function curveOfCells(): Uint32Array {
  const side = 1 << BITS;
  const out = new Uint32Array(side * side * side);
  const at = [0, 0, 0];
  for (let x = 0, i = 0; x < side; x++)
    for (let y = 0; y < side; y++)
      for (let z = 0; z < side; z++) {
        at[0] = x;
        at[1] = y;
        at[2] = z;
        out[i++] = alongHilbert(at);
      }
  return out;
}

/**
 * The order of places along a curve through space that never jumps, by the cells that they lie in; those of one cell stay
 * in theirs.
 * @param places x, y and z behind each other, `first` numbers from the beginning, each `stride` after the one before
 * @returns indices of places
 */
export function orderByPlace(places: ArrayLike<number>, count: number, first = 0, stride = 3): Uint32Array {
  const low = [Infinity, Infinity, Infinity];
  const high = [-Infinity, -Infinity, -Infinity];
  for (let i = 0, o = first; i < count; i++, o += stride)
    for (let a = 0; a < 3; a++) {
      const v = places[o + a];
      if (v < low[a]) low[a] = v;
      if (v > high[a]) high[a] = v;
    }
  const codes = (curve ??= curveOfCells());
  const most = (1 << BITS) - 1;
  const cells = most / Math.max(...low.map((v, a) => high[a] - v), 1e-30);
  const [x, y, z] = low;
  const code = new Uint32Array(count);
  const start = new Uint32Array(codes.length + 1);
  for (let i = 0, o = first; i < count; i++, o += stride) {
    const cell =
      (Math.round((places[o] - x) * cells) << (2 * BITS)) |
      (Math.round((places[o + 1] - y) * cells) << BITS) |
      Math.round((places[o + 2] - z) * cells);
    code[i] = codes[cell];
    start[code[i] + 1]++;
  }
  for (let c = 1; c < start.length; c++) start[c] += start[c - 1];
  const order = new Uint32Array(count);
  for (let i = 0; i < count; i++) order[start[code[i]]++] = i;
  return order;
}

/**
 * How far along Hilbert's curve through a cube a cell of it is (Skilling, “Programming the Hilbert curve”, 2004).
 * @param at the cell's three whole numbers below 2^{@link BITS}; written over
 */
function alongHilbert(at: number[]): number {
  const top = 1 << (BITS - 1);
  for (let q = top; q > 1; q >>= 1) {
    const p = q - 1;
    for (let a = 0; a < 3; a++) {
      if (at[a] & q) at[0] ^= p;
      else {
        const t = (at[0] ^ at[a]) & p;
        at[0] ^= t;
        at[a] ^= t;
      }
    }
  }
  at[1] ^= at[0];
  at[2] ^= at[1];
  let t = 0;
  for (let q = top; q > 1; q >>= 1) if (at[2] & q) t ^= q - 1;
  let code = 0;
  for (let bit = BITS - 1; bit >= 0; bit--)
    for (let a = 0; a < 3; a++) code = code * 2 + (((at[a] ^ t) >> bit) & 1);
  return code;
}
