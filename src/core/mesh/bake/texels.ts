/** Calls for each place of a picture that lies on a face, by the weights of its second and third corner. */
export type OnTexel = (x: number, y: number, face: number, b: number, c: number) => void;

/** A place on an edge belongs to one of both faces, and never to none. */
const EDGE = 1e-9;

/**
 * Goes through the places of some rows of a picture that faces cover by their texture coordinates, u to the right and v
 * down. What is beyond 0 to 1 is left out.
 * @param taken one byte a place of these rows, 0 to begin with: where faces lie over each other the first one has it
 * @returns places that more than one face covers by more than its edge
 */
export function eachTexel(
  { uvs, indices }: { uvs: Float32Array; indices: Uint32Array },
  size: number,
  [from, to]: readonly [number, number],
  taken: Uint8Array,
  call: OnTexel,
): number {
  let twice = 0;
  for (let f = 0; f * 3 < indices.length; f++) {
    const [i, j, k] = [indices[f * 3] * 2, indices[f * 3 + 1] * 2, indices[f * 3 + 2] * 2];
    const [ax, ay] = [uvs[i] * size - 0.5, uvs[i + 1] * size - 0.5];
    const [bx, by] = [uvs[j] * size - 0.5 - ax, uvs[j + 1] * size - 0.5 - ay];
    const [cx, cy] = [uvs[k] * size - 0.5 - ax, uvs[k + 1] * size - 0.5 - ay];
    const area = bx * cy - by * cx;
    if (area === 0) continue;
    const y0 = Math.max(from, Math.ceil(ay + Math.min(0, by, cy)));
    const y1 = Math.min(to - 1, Math.floor(ay + Math.max(0, by, cy)));
    if (y1 < y0) continue;
    const x0 = Math.max(0, Math.ceil(ax + Math.min(0, bx, cx)));
    const x1 = Math.min(size - 1, Math.floor(ax + Math.max(0, bx, cx)));
    for (let y = y0; y <= y1; y++)
      for (let x = x0; x <= x1; x++) {
        const [dx, dy] = [x - ax, y - ay];
        const b = (dx * cy - dy * cx) / area;
        const c = (bx * dy - by * dx) / area;
        if (b < -EDGE || c < -EDGE || b + c > 1 + EDGE) continue;
        const at = (y - from) * size + x;
        if (taken[at]) {
          if (b > 1e-6 && c > 1e-6 && b + c < 1 - 1e-6) twice++;
          continue;
        }
        taken[at] = 1;
        call(x, y, f, b, c);
      }
  }
  return twice;
}

/**
 * Lets a picture go on beyond what is covered, a pixel a step, as the mean of the covered ones beside each.
 * @param covered one byte a pixel; what is filled is covered afterwards
 */
export function goOn(
  pixels: Uint8Array | Uint16Array | Float32Array,
  channels: number,
  size: number,
  covered: Uint8Array,
  steps: number,
): void {
  // A pixel is looked at once for each that was filled beside it, and not all of them at each step.
  let rim: number[] = [];
  const beside = (p: number, found: (q: number) => void) => {
    const [x, y] = [p % size, Math.floor(p / size)];
    for (let j = Math.max(0, y - 1); j <= Math.min(size - 1, y + 1); j++)
      for (let i = Math.max(0, x - 1); i <= Math.min(size - 1, x + 1); i++)
        if (i !== x || j !== y) found(j * size + i);
  };
  const asked = new Uint8Array(covered.length);
  const ask = (p: number) =>
    beside(p, (q) => {
      if (covered[q] || asked[q]) return;
      asked[q] = 1;
      rim.push(q);
    });
  if (steps > 0) for (let p = 0; p < covered.length; p++) if (covered[p]) ask(p);
  for (let step = 0; step < steps && rim.length > 0; step++) {
    const now = rim;
    rim = [];
    const whole = !(pixels instanceof Float32Array);
    for (const p of now) {
      let n = 0;
      const sum = new Float64Array(channels);
      beside(p, (q) => {
        if (!covered[q]) return;
        n++;
        for (let k = 0; k < channels; k++) sum[k] += pixels[q * channels + k];
      });
      for (let k = 0; k < channels; k++)
        pixels[p * channels + k] = whole ? Math.round(sum[k] / n) : sum[k] / n;
    }
    for (const p of now) covered[p] = 1;
    for (const p of now) ask(p);
  }
}
