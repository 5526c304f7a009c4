/**
 * Which rows of whole numbers are alike, by a table of their hashes.
 * @param rows `width` numbers a row @returns for each row the first one that is the same
 */
export function sameRows(rows: Int32Array, width: number): Uint32Array {
  const n = rows.length / width;
  let size = 16;
  while (size < n * 2) size *= 2;
  const table = new Int32Array(size).fill(-1);
  const out = new Uint32Array(n);
  for (let i = 0; i < n; i++) {
    const o = i * width;
    let hash = 0;
    for (let k = 0; k < width; k++) {
      hash = Math.imul(hash ^ rows[o + k], 0x9e3779b1);
      hash ^= hash >>> 15;
    }
    let at = hash & (size - 1);
    for (;;) {
      const first = table[at];
      if (first < 0) {
        table[at] = i;
        out[i] = i;
        break;
      }
      let k = 0;
      while (k < width && rows[first * width + k] === rows[o + k]) k++;
      if (k === width) {
        out[i] = first;
        break;
      }
      at = (at + 1) & (size - 1);
    }
  }
  return out;
}
