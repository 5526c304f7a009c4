import { cross, dot, type Vec3 } from '../math/vec3';
import { circlePoints, compiled, points } from '../testing/paths';
import { framesAlong, type Posture } from './frames';
import { rotationMinimising } from './reflect';

const row = (a: Float64Array, i: number): Vec3 => [a[i * 3], a[i * 3 + 1], a[i * 3 + 2]];

/** The rotation-minimising direction of a helix in closed form: the Frenet normal turned back by the torsion. */
function helix(n: number) {
  const [r, c, turns] = [2, 0.5, 2];
  const w = Math.hypot(r, c);
  const position = new Float64Array((n + 1) * 3);
  const tangent = new Float64Array((n + 1) * 3);
  const exact: Vec3[] = [];
  for (let i = 0; i <= n; i++) {
    const a = (turns * 2 * Math.PI * i) / n;
    position.set([r * Math.cos(a), c * a, r * Math.sin(a)], i * 3);
    tangent.set([(-r * Math.sin(a)) / w, c / w, (r * Math.cos(a)) / w], i * 3);
    const normal: Vec3 = [-Math.cos(a), 0, -Math.sin(a)];
    const binormal = cross(row(tangent, i), normal);
    // Torsion from the closed form (sign by the right-handed frame), times arc length.
    const twist = (c / (w * w)) * (a * w);
    exact.push([0, 1, 2].map((k) => Math.cos(twist) * normal[k] + Math.sin(twist) * binormal[k]) as Vec3);
  }
  return { position, tangent, exact };
}

function helixError(n: number): number {
  const { position, tangent, exact } = helix(n);
  const got = rotationMinimising({ position, tangent }, exact[0]);
  return Math.acos(Math.min(1, dot(row(got, n), exact[n])));
}

describe('bank', () => {
  test('converges at fourth order on a helix', () => {
    const errors = [40, 80, 160].map(helixError);
    expect(errors[0] / errors[1]).toBeGreaterThan(13);
    expect(errors[1] / errors[2]).toBeGreaterThan(13);
  });

  test('closes without a jump on a closed path in space', () => {
    const path = compiled(
      points('smooth', [
        [0, 0, 0],
        [4, 1, 0],
        [5, 3, 4],
        [0, 1, 5],
        [-2, -1, 2],
      ]),
      true,
    );
    const { up } = framesAlong(path, [1e-9, path.length - 1e-9], 'bank');
    expect(dot(row(up, 0), row(up, 1))).toBeGreaterThan(1 - 1e-9);
  });

  test('roll turns up about the way along, at its point by its full amount', () => {
    const pts = points('corner', [
      [0, 0, 0],
      [5, 0, 0],
      [10, 0, 0],
    ]);
    pts[1].rollDeg = 30;
    const { up } = framesAlong(compiled(pts), [0, 5, 10], 'bank');
    expect(row(up, 0)).toEqual([0, 1, expect.closeTo(0, 12)]);
    expect(dot(row(up, 1), [0, 1, 0])).toBeCloseTo(Math.cos(Math.PI / 6), 9);
    expect(row(up, 1)[2]).toBeCloseTo(Math.sin(Math.PI / 6), 9);
  });
});

describe('frames', () => {
  const climb = compiled(
    points('smooth', [
      [0, 0, 0],
      [3, 0, 0],
      [4, 3, 0],
      [4, 9, 0],
      [5, 12, 1],
      [9, 12, 1],
    ]),
  );
  const s = Array.from({ length: 2001 }, (_, i) => (climb.length * i) / 2000);

  test.each<Posture>(['upright', 'slope', 'bank'])(
    '%s: right angles, no flips, even up a vertical stretch',
    (posture) => {
      const f = framesAlong(climb, s, posture);
      let [askew, least] = [0, 1];
      for (let i = 0; i < s.length; i++) {
        askew = Math.max(askew, Math.abs(dot(row(f.front, i), row(f.up, i))));
        for (const axis of i > 0 ? [f.up, f.front] : [])
          least = Math.min(least, dot(row(axis, i), row(axis, i - 1)));
      }
      expect(askew).toBeLessThan(1e-9);
      expect(least).toBeGreaterThan(0.95);
      if (posture === 'upright') expect(f.up.every((v, k) => v === (k % 3 === 1 ? 1 : 0))).toBe(true);
    },
  );

  test('slope never rolls: its side is level', () => {
    const f = framesAlong(climb, s, 'slope');
    for (let i = 0; i < s.length; i++) {
      const steep = Math.hypot(f.front[i * 3], f.front[i * 3 + 2]) < 0.2;
      if (!steep) expect(Math.abs(cross(row(f.up, i), row(f.front, i))[1])).toBeLessThan(1e-9);
    }
  });

  test('a level circle: every frame looks along it', () => {
    const path = compiled(circlePoints(3, 12), true);
    const f = framesAlong(path, [0, path.length / 4], 'upright');
    expect(row(f.front, 0)[2]).toBeCloseTo(-1, 6);
    expect(row(f.front, 1)[0]).toBeCloseTo(-1, 6);
  });

  test('a wholly vertical path faces front, and stays there', () => {
    const path = compiled(
      points('corner', [
        [0, 0, 0],
        [0, 5, 0],
      ]),
    );
    const f = framesAlong(path, [0, 2, 5], 'upright');
    for (let i = 0; i < 3; i++) expect(row(f.front, i)).toEqual([0, 0, 1]);
  });
});
