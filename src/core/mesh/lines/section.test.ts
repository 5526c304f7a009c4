import { firstHit, noHit } from '../bvhQuery';
import { normalize, type Vec3 } from '../../math/vec3';
import { triMeshOf } from '../../testing/surfaces';
import { sectionFromAbove } from './section';

/** Cuts against rays straight down. */

const hills = () => triMeshOf({ shape: 'hills', width: 8, depth: 8, height: 1, seed: 5 });

test('the outline is where a ray from above meets first, its corners exact; beside the surface is nothing', () => {
  const mesh = hills();
  const tree = mesh.tree();
  for (const [from, way, span] of [
    [[-3, 5, -2.2], [3, 0, 2], 6],
    [[0.13, 5, 3], [0, 0, -1], 5],
    [[-9, 5, 0.21], [1, 0, 0], 18],
  ] as [Vec3, Vec3, number][]) {
    const along = normalize(way);
    const out = sectionFromAbove([mesh], { from, along, up: [0, 1, 0], span, low: -20, top: [0, 0] });
    let met = 0;
    for (let i = 0; i < out.length; i += 2) {
      const [x, y] = [out[i], out[i + 1]];
      const hit = noHit();
      const there = firstHit(tree, from[0] + along[0] * x, 5, from[2] + along[2] * x, 0, -1, 0, 0, 25, hit);
      if (y === -Infinity) expect(there && x > 1e-6 && x < span - 1e-6).toBe(false);
      else if (there) {
        met++;
        expect(Math.abs(-hit.t - y)).toBeLessThan(1e-9);
      }
    }
    expect(met).toBeGreaterThan(100);
    for (let i = 2; i < out.length; i += 2) expect(out[i]).toBeGreaterThan(out[i - 2]);
  }
});

test('what stands over the line as a roof does is left out', () => {
  const mesh = hills();
  const plane = {
    from: [-3, -4, 0.1] as Vec3,
    along: [1, 0, 0] as Vec3,
    up: [0, 1, 0] as Vec3,
    span: 6,
    low: -9,
  };
  const below = sectionFromAbove([mesh], { ...plane, top: [0.5, 0.5] });
  expect([...below].filter((_, i) => i % 2).every((y) => y === -Infinity)).toBe(true);
});
