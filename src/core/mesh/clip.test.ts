import { volumeOf } from '../testing/meshes';
import { exampleMesh } from '../testing/scene';
import { clipAlong } from './clip';
import { ownSpace } from './slice';

/** A box of 0.4 × 0.6 × 0.5 about 1.2, 2.3, 3.25. */
const box = ownSpace(exampleMesh(), [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1]);

test.each([
  [0, 1.1, 1.3, 0.2 * 0.6 * 0.5],
  [1, 2, 2.25, 0.4 * 0.25 * 0.5],
  [2, 3.1, 9, 0.4 * 0.6 * 0.4],
] as const)(
  'cut square to axis %i from %f to %f it is whole, and encloses just that',
  (axis, low, high, want) => {
    const part = clipAlong(box, axis, low, high);
    expect(volumeOf(part.positions, part.indices)).toBeCloseTo(want, 6);
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
