import { byPlace, unitNormal } from './corners';
import type { MergedPart } from './parts';

const HEADER = 80;
const TRIANGLE = 50;

/**
 * A binary STL: all parts as one list of triangles, corners counterclockwise seen from outside. The format names no unit;
 * the header says the one that is meant. Triangles without area are left out, whose edges others close.
 */
export function writeStl(parts: readonly MergedPart[], unit: string): Uint8Array {
  const all = parts.map(({ mesh }) => byPlace(mesh));
  const count = all.reduce((n, { face }) => n + face.length, 0);
  const bytes = new Uint8Array(HEADER + 4 + count * TRIANGLE);
  const view = new DataView(bytes.buffer);
  // One that began with “solid” would be taken for text.
  bytes.set(new TextEncoder().encode(`Clothesline, ${unit}`).subarray(0, HEADER));
  view.setUint32(HEADER, count, true);
  let at = HEADER + 4;
  for (const { places, corners } of all)
    for (let f = 0; f * 3 < corners.length; f++, at += TRIANGLE) {
      const n = unitNormal(places, corners, f);
      for (let k = 0; k < 3; k++) {
        view.setFloat32(at + k * 4, n[k], true);
        const from = corners[f * 3 + k] * 3;
        for (let c = 0; c < 3; c++) view.setFloat32(at + 12 + k * 12 + c * 4, places[from + c], true);
      }
    }
  return bytes;
}
