import { exampleMesh } from '../testing/scene';
import { clipAlong } from './clip';
import { ownSpace, type Sliced } from './slice';

/** A box of 0.4 × 0.6 × 0.5 about 1.2, 2.3, 3.25. */
const box = ownSpace(exampleMesh(), [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1]);

/** The volume that the faces enclose, if they run counter-clockwise outside. */
function volume({ positions: p, indices }: Sliced): number {
  let sum = 0;
  for (let i = 0; i < indices.length; i += 3) {
    const [a, b, c] = [0, 1, 2].map((k) => p.subarray(indices[i + k] * 3, indices[i + k] * 3 + 3));
    sum +=
      a[0] * (b[1] * c[2] - b[2] * c[1]) +
      a[1] * (b[2] * c[0] - b[0] * c[2]) +
      a[2] * (b[0] * c[1] - b[1] * c[0]);
  }
  return sum / 6;
}

test.each([
  [0, 1.1, 1.3, 0.2 * 0.6 * 0.5],
  [1, 2, 2.25, 0.4 * 0.25 * 0.5],
  [2, 3.1, 9, 0.4 * 0.6 * 0.4],
] as const)(
  'cut square to axis %i from %f to %f it is whole, and encloses just that',
  (axis, low, high, want) => {
    const part = clipAlong(box, axis, low, high);
    expect(volume(part)).toBeCloseTo(want, 6);
    for (let v = 0; v * 3 < part.positions.length; v++) {
      // Nothing of what is cut off stays behind, not even a vertex.
      expect(part.indices).toContain(v);
      expect(part.positions[v * 3 + axis]).toBeGreaterThanOrEqual(low - 1e-6);
      expect(part.positions[v * 3 + axis]).toBeLessThanOrEqual(high + 1e-6);
    }
    // Caps look out of the cut.
    const faces = part.indices.length / 3;
    expect(faces).toBeGreaterThan(12);
  },
);

test('nothing beyond the planes: it stays as it is', () => {
  expect(clipAlong(box, 2, 0, 9)).toBe(box);
});
