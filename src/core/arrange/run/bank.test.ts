import { quatRotate, type Quat } from '../../math/quat';
import type { Vec3 } from '../../math/vec3';
import { newEntry, newRun } from '../../scene/defaults';
import { asResult, compiled, points } from '../../testing/paths';
import { evaluateRun } from './evaluate';
import type { Run } from './schema';

/** A loop of 5 m that stands upright and begins at its bottom, towards +X. */
const loop = compiled(
  points(
    'smooth',
    Array.from({ length: 32 }, (_, k): Vec3 => {
      const a = (k / 32) * 2 * Math.PI;
      return [5 * Math.sin(a), -5 * Math.cos(a), 0];
    }),
  ),
  true,
);

function ups(bankFrom: Run['facing']['bankFrom'], lift = 0) {
  const run = newRun('r', 'R', 'madder', 'p', [newEntry('e', { kind: 'prop', prop: 'a' })]);
  run.spacing = { ...run.spacing, mode: 'count', count: 40 };
  run.facing = { ...run.facing, posture: 'bank', bankFrom, lift };
  const bounds = { min: [-0.2, 0, -0.2] as Vec3, max: [0.2, 1, 0.2] as Vec3 };
  const { placements: p } = evaluateRun(run, {
    path: () => asResult(loop),
    prop: () => ({ state: 'ready', bounds }),
  });
  return Array.from({ length: p.count }, (_, i) => {
    const [x, y] = [p.position[i * 3], p.position[i * 3 + 1]];
    const r = Math.hypot(x, y);
    const up = quatRotate([...p.rotation.subarray(i * 4, i * 4 + 4)] as Quat, [0, 1, 0]);
    return { r, out: (up[0] * x + up[1] * y) / r, aside: up[2] };
  });
}

test('round an upright loop a bank stands inside, outside, or to either side, as it begins', () => {
  for (const [from, out, aside] of [
    ['up', -1, 0],
    ['down', 1, 0],
    ['right', 0, 1],
    ['left', 0, -1],
  ] as const)
    for (const u of ups(from)) {
      expect(u.out).toBeCloseTo(out, 3);
      expect(u.aside).toBeCloseTo(aside, 9);
    }
  // Lifted they leave the loop on the side on which they stand.
  for (const u of ups('down', 0.5)) expect(u.r).toBeCloseTo(5.5, 3);
  for (const u of ups('up', 0.5)) expect(u.r).toBeCloseTo(4.5, 3);
});
