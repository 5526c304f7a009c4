import { cross, dot, normalize, type Vec3 } from '../../math/vec3';
import {
  bollard,
  boxBetween,
  field,
  posed,
  roomByPairs,
  SAME,
  together,
  treeOf,
  type Triangles,
} from '../../testing/plumb';
import { cases } from '../../testing/prove';
import { Fall, newFaller } from './fall';
import { planeUnder } from './planeUnder';
import { restingNormal } from './rest';
import { Tilt } from './tilt';

/** A cart: a wheelbase of 3 m, a track of 1.6 m, wheels as blocks of 0.3 m, its body 0.35 m over the ground. */
const wheels = [-1.5, 1.5].flatMap((z) =>
  [-0.8, 0.8].map((x) => boxBetween([x - 0.1, 0, z - 0.15], [x + 0.1, 0.6, z + 0.15])),
);
const cart = together(boxBetween([-0.7, 0.35, -1.9], [0.7, 1, 1.9]), ...wheels);
const UP: Vec3 = [0, 1, 0];
const DOWN: Vec3 = [0, -1, 0];

/** Rows of the matrix that takes Y to a normal by the shortest way (Rodrigues). */
function onto([x, y, z]: Vec3): number[] {
  const k = 1 / (1 + y);
  return [1 - x * x * k, x, -x * z * k, -x, y, -z, -x * z * k, z, 1 - z * z * k];
}
const byPairs = (thing: Triangles, ground: Triangles, n: Vec3, foot: Vec3 = [0, 0, 0]) =>
  roomByPairs(posed(thing, onto(n), foot), ground);
function rest(thing: Triangles, ground: Triangles, foot: Vec3 = [0, 0, 0], start = UP) {
  const fall = new Fall([treeOf(ground)]);
  fall.from(foot, DOWN);
  const tilt = new Tilt().of({ m: SAME, up: UP }, fall.frame);
  const normal = restingNormal(fall, newFaller(treeOf(thing)), tilt, start);
  return { normal, room: byPairs(thing, ground, normal, foot) };
}
const tiltsAround = (n: Vec3, reach: number): Vec3[] => {
  const e = normalize(cross(n, [0, 0, 1]));
  const f = cross(n, e);
  return Array.from({ length: 16 }, (_, k) => {
    const [c, s] = [Math.cos((k * Math.PI) / 8) * reach, Math.sin((k * Math.PI) / 8) * reach];
    return normalize([n[0] + e[0] * c + f[0] * s, n[1] + e[1] * c + f[1] * s, n[2] + e[2] * c + f[2] * s]);
  });
};

test('on a level and on a slope it stands on all four wheels', () => {
  for (const [a, b] of [
    [0, 0],
    [0.3, -0.2],
    [-0.9, 0.4],
  ]) {
    const { normal } = rest(
      cart,
      field(4, 12, (x, z) => a * x + b * z),
    );
    expect(dot(normal, normalize([-a, 1, -b]))).toBeCloseTo(1, 12);
  }
});

test('across a ridge its crest carries it, and it tips over it until an axle stands', () => {
  const ridge = field(60, 12, (_, z) => Math.max(0, 0.8 - Math.abs(z) * 2));
  // By pitch alone, since all is the same across: the lowest of 200,000.
  let best = -Infinity;
  for (let k = 0; k <= 2000; k++) {
    const p = (k / 2000) * 0.9;
    const [c, s] = [Math.cos(p), Math.sin(p)];
    // The plane of the belly over the crest at z = 0, and the corners of the front wheels over both slopes.
    const crest = 0.35 / c - 0.8;
    const corner = Math.min(...[1.35, 1.65].map((z) => -s * z - Math.max(0, 0.8 - Math.abs(c * z) * 2)));
    best = Math.max(best, Math.min(crest, corner));
  }
  const found = rest(cart, ridge);
  expect(found.room).toBeGreaterThan(best - 1e-5);
  expect(found.room).toBeLessThan(best + 1e-4);
  expect(Math.abs(found.normal[0])).toBeLessThan(1e-6);
});

test('on any uneven ground no pose nearby is lower, by a look at every pair', () => {
  for (let seed = 0; seed < 12; seed++) {
    const ground = field(
      12,
      6,
      (x, z) => 0.35 * Math.sin(x * 1.7 + seed * 2.1) * Math.cos(z * 1.3 + seed * 5.3),
    );
    const { normal, room } = rest(cart, ground);
    for (const reach of [1e-4, 1e-3, 1e-2, 0.05])
      for (const n of tiltsAround(normal, reach)) expect(byPairs(cart, ground, n)).toBeLessThan(room + 1e-6);
  }
});

/** What lies under the corners of a bollard's base. */
const base = Array.from({ length: 8 }, (_, k): Vec3 => {
  const angle = (k * Math.PI) / 4;
  return [0.26 * Math.sin(angle), 0, 0.26 * Math.cos(angle)];
});

test.each([
  // Places where what holds it was taken for something that has ended before.
  {
    name: 'upright',
    ground: field(
      40,
      12,
      (x, z) => 0.5 * Math.sin(x * 1.7 + 1) * Math.cos(z * 1.3) + 0.1 * Math.sin(5 * x + 3 * z),
    ),
    places: [876, 1689],
  },
  // And where what ends just there was taken for something that goes on.
  {
    name: 'on the plane under it',
    ground: field(30, 12, (x, z) => 0.3 * Math.sin(x * 2.1 + z)),
    places: [1718, 2445, 3057, 4565, 6026],
  },
])('wherever a bollard stands at first $name, and however it is turned, no pose nearby is lower', (kind) => {
  const thing = treeOf(bollard);
  const fall = new Fall([treeOf(kind.ground)]);
  for (const i of [...kind.places, ...Array(cases(3000)).keys()]) {
    const at = (step: number) => ((i * step) % 1) * 10 - 5;
    fall.from([at(0.618034), 0, at(0.754878)], DOWN);
    const [c, s] = [Math.cos(i), Math.sin(i)];
    const tilt = new Tilt().of({ m: [c, 0, s, 0, 1, 0, -s, 0, c], up: UP }, fall.frame);
    const faller = newFaller(thing);
    const roomAt = (n: Vec3) => {
      tilt.to(n);
      return fall.room(faller, tilt.m);
    };
    tilt.to(UP);
    const plane = kind.name === 'upright' ? UP : planeUnder(fall, faller, tilt.m, base, 1);
    const normal = restingNormal(fall, faller, tilt, plane ?? UP);
    const room = roomAt(normal);
    for (const reach of [1e-4, 1e-3, 1e-2])
      for (const n of tiltsAround(normal, reach)) expect(roomAt(n)).toBeLessThan(room + 1e-6);
  }
});
