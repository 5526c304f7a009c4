import { newArrangement, type Arrangement } from '../arrange/registry';
import { loadPhysics } from '../arrange/release/physics';
import { releaseSchema } from '../arrange/release/schema';
import { STATE, type Placements } from '../arrange/result';
import { travelSchema, type Travel } from '../arrange/travel/schema';
import { quatRotate, type Quat } from '../math/quat';
import { distance, rotateAbout, type Vec3 } from '../math/vec3';
import { nearestPlace, noHit } from '../mesh/bvhQuery';
import { metresPerUv } from '../mesh/chart/measure';
import { shapeSchema } from '../mesh/make/schema';
import type { TriMesh } from '../mesh/triMesh';
import { emptyScene, newPath, newProp, newSurface } from '../scene/defaults';
import { sceneSchema, type Scene } from '../scene/schema';
import { exampleMesh } from '../testing/scene';
import { circlePoints, points } from '../testing/paths';
import { triMeshOf } from '../testing/surfaces';
import { Evaluator, type Assets } from './scene';

/** Arrangements that travel: against turns, slides and ways by hand. */

const ASSETS: Assets = { mesh: () => exampleMesh() };

type Shape = { shape: string } & Record<string, unknown>;

/** A scene with a surface, and an arrangement of it that travels. */
function travelling(
  shape: Shape,
  what: object,
  travel: object,
  change: (s: Scene) => void = () => {},
): Scene {
  const scene = emptyScene('travel');
  scene.props.push(newProp('p', 'Gull', { source: 'built', name: 'any' }));
  scene.surfaces.push(
    newSurface('ground', 'Ground', { source: 'made', shape: shapeSchema.parse(shape), color: '#D8CDB6' }),
  );
  scene.paths.push(newPath('ring', 'Ring', circlePoints(5, 24), true));
  scene.arrangements.push(
    newArrangement(
      'scatter',
      { id: 'a', name: 'Flock', thread: 'woad' },
      {
        over: { kind: 'surfaces', surfaces: ['ground'] },
        spread: { how: 'loose', amount: 'number', number: 60 },
        props: [{ prop: 'p', weight: 1 }],
        ...what,
        travel: travelSchema.parse({ surface: 'ground', ...travel }),
      },
    ),
  );
  change(scene);
  return sceneSchema.parse(scene);
}

const still = (scene: Scene): Scene => ({
  ...scene,
  arrangements: scene.arrangements.map((a) => ({ ...a, travel: undefined }) as Arrangement),
});

const evaluated = (scene: Scene, time = 0) =>
  new Evaluator(ASSETS).evaluate(scene, undefined, time).arrangements[0];
const placed = (scene: Scene, time = 0): Placements => evaluated(scene, time).placements;
const at = ({ position: p }: Placements, i: number): Vec3 => [p[i * 3], p[i * 3 + 1], p[i * 3 + 2]];
const axis = ({ rotation: r }: Placements, i: number, v: Vec3): Vec3 =>
  quatRotate([r[i * 4], r[i * 4 + 1], r[i * 4 + 2], r[i * 4 + 3]] as Quat, v);

const PLANE: Shape = { shape: 'plane', width: 8, depth: 4, columns: 5, rows: 3 };

/** x and z of what a plane of 8 by 4 m has, after a way, when what leaves comes in on the other side. */
const wrapped = (x: number, half: number) => ((((x + half) % (2 * half)) + 2 * half) % (2 * half)) - half;

test('over a plane all slide by the metres asked for and come in at the other side', () => {
  const scene = travelling(PLANE, {}, { u: { by: 1.25, speed: 0.5 }, v: { speed: -0.75 }, border: 'around' });
  const was = placed(still(scene));
  const is = placed(scene, 3);
  expect(was.count).toBeGreaterThan(40);
  const [du, dv] = [1.25 + 1.5, -2.25];
  // Which way u and v run in the scene is the plane's own: found by one of them.
  const signs = [1, -1].flatMap((a) => [1, -1].map((b) => [a, b]));
  const fits = signs.filter(([a, b]) =>
    Array.from({ length: was.count }).every((_, i) => {
      const [x, y, z] = at(was, i);
      return distance(at(is, i), [wrapped(x + a * du, 4), y, wrapped(z + b * dv, 2)]) < 1e-6;
    }),
  );
  expect(fits).toHaveLength(1);
});

test('all stop with their distances as soon as one comes to the border, and turn back together', () => {
  const going = (border: Travel['border'], time: number) =>
    placed(travelling(PLANE, {}, { u: { speed: 1 }, border }), time);
  const was = going('stop', 0);
  const stopped = going('stop', 100);
  const [x, X] = [was, stopped].map((p) => Array.from({ length: p.count }, (_, i) => at(p, i)[0]));
  const way = X[0] - x[0];
  expect(Math.max(...X.map((v, i) => Math.abs(v - x[i] - way)))).toBeLessThan(1e-6);
  const end = way > 0 ? Math.max(...X) : -Math.min(...X);
  expect(end).toBeCloseTo(4, 6);
  const span = 8 - (Math.max(...x) - Math.min(...x));
  const there = Math.abs(way);
  // There, back over all the room, and half of it on again.
  const back = going('back', there + span * 1.5);
  const half = at(back, 0)[0] - x[0];
  expect(Math.abs(half)).toBeCloseTo(Math.abs(there - span / 2), 6);
  // Whole times there and back are as it was.
  const once = going('back', 2 * span);
  for (let i = 0; i < was.count; i++) expect(distance(at(once, i), at(was, i))).toBeLessThan(1e-6);
});

test('what leaves is gone where it comes over the border, and nobody else', () => {
  const scene = travelling(PLANE, {}, { u: { speed: 1 }, border: 'leave' });
  const was = placed(scene, 0);
  const is = placed(scene, 3);
  const moved = Array.from({ length: was.count }, (_, i) => i).filter((i) => is.state[i] === STATE.placed);
  const sign = Math.sign(at(is, moved[0])[0] - at(was, moved[0])[0]);
  for (let i = 0; i < was.count; i++)
    expect(is.state[i]).toBe(Math.abs(at(was, i)[0] + 3 * sign) <= 4 ? STATE.placed : STATE.pastEnd);
  expect(moved.length).toBeLessThan(was.count);
});

test('on a disc they stop at its own border, not at that of the square about it', () => {
  const disc = travelling(
    PLANE,
    { spread: { how: 'loose', amount: 'number', number: 30 } },
    {
      u: { speed: 1 },
      border: 'stop',
    },
  );
  const round: Assets = {
    mesh: () => {
      const sides = 64;
      const ring = Array.from({ length: sides }, (_, k) => (k / sides) * 2 * Math.PI);
      const xz = [[0, 0], ...ring.map((a) => [Math.cos(a), Math.sin(a)])];
      return {
        ...exampleMesh(),
        positions: Float32Array.from(xz.flatMap(([x, z]) => [x * 3, 0, z * 3])),
        normals: Float32Array.from(xz.flatMap(() => [0, 1, 0])),
        uvs: Float32Array.from(xz.flatMap(([x, z]) => [(x + 1) / 2, (1 - z) / 2])),
        colors: new Float32Array(xz.length * 4).fill(1),
        indices: Uint32Array.from(ring.flatMap((_, k) => [0, 1 + ((k + 1) % sides), 1 + k])),
      };
    },
  };
  disc.surfaces[0].mesh = { source: 'built', name: 'disc' };
  const get = (time: number) =>
    new Evaluator(round).evaluate(disc, undefined, time).arrangements[0].placements;
  const [was, is] = [get(0), get(50)];
  expect(was.count).toBe(30);
  const way = at(is, 0)[0] - at(was, 0)[0];
  const apothem = 3 * Math.cos(Math.PI / 64);
  const far = Array.from({ length: 30 }, (_, i) => Math.hypot(at(is, i)[0], at(is, i)[2]));
  for (let i = 0; i < 30; i++) {
    expect(at(is, i)[0] - at(was, i)[0]).toBeCloseTo(way, 6);
    expect(far[i]).toBeLessThan(3 + 1e-9);
  }
  expect(Math.max(...far)).toBeGreaterThan(apothem - 1e-6);
});

const RING: Shape = { shape: 'torus', radius: 2, thickness: 0.5, columns: 64, rows: 24 };

test('round a ring a way over it is a turn about its axis', () => {
  const around = (travel: object) => placed(travelling(RING, { stand: { lean: 1 } }, travel));
  const was = around({ on: false });
  const isTurned = (p: Placements, deg: number, within: number) =>
    Array.from({ length: was.count }).every((_, i) => {
      const turn = (v: Vec3) => rotateAbout(v, [0, 1, 0], (deg * Math.PI) / 180);
      return (
        distance(at(p, i), turn(at(was, i))) < within &&
        AXES.every((v) => distance(axis(p, i, v), turn(axis(was, i, v))) < within)
      );
    });
  expect(isTurned(around({ way: 'turn', turn: { byDeg: 45 }, surface: null }), 45, 1e-9)).toBe(true);
  // Kept on the ring itself the same: it comes onto itself.
  expect(isTurned(around({ way: 'turn', turn: { byDeg: 45 } }), 45, 1e-5)).toBe(true);
  const mesh = triMeshOf(RING) as TriMesh & { uvs: Float32Array };
  const [round, across] = metresPerUv(mesh, 1);
  expect(round).toBeCloseTo(2 * Math.PI * 2, 1);
  expect(across).toBeCloseTo(2 * Math.PI * 0.5, 1);
  const slid = around({ u: { by: round / 8 } });
  expect([45, -45].filter((deg) => isTurned(slid, deg, 1e-5))).toHaveLength(1);
  // Nothing ends on it: a border means nothing there.
  for (const border of ['stop', 'back', 'leave'])
    expect(around({ u: { by: round / 8 }, border }).position).toEqual(slid.position);
});

const AXES: Vec3[] = [
  [0, 1, 0],
  [0, 0, 1],
];

test('along a ring each goes round at its own distance beside it, turned with it', () => {
  // The path is a circle of 5 m to a fifth of a millimetre.
  const scene = travelling(
    { shape: 'plane', width: 16, depth: 16 },
    {},
    {
      way: 'along',
      path: 'ring',
      surface: null,
      along: { by: 1, speed: 2 },
    },
  );
  const was = placed(still(scene));
  const is = placed(scene, 1.5);
  const lies = Array.from({ length: was.count }, (_, i) => i).filter((i) => Math.hypot(...at(was, i)) > 0.5);
  const angle = 4 / 5;
  const fits = [angle, -angle].filter((a) =>
    lies.every(
      (i) =>
        distance(at(is, i), rotateAbout(at(was, i), [0, 1, 0], a)) < 5e-3 &&
        distance(axis(is, i, [0, 0, 1]), rotateAbout(axis(was, i, [0, 0, 1]), [0, 1, 0], a)) < 5e-3,
    ),
  );
  expect(fits).toHaveLength(1);
});

test('steered fronts point to where each is a moment later, there and back', () => {
  const ways: object[] = [
    { way: 'turn', turn: { speed: 20 }, centre: [1, 0, 0] },
    { way: 'along', path: 'ring', along: { speed: -2 } },
    { u: { speed: 1 }, v: { speed: 0.4 }, border: 'back' },
    { u: { speed: -0.6 }, border: 'around' },
  ];
  const meadow: Shape = { shape: 'hills', width: 20, depth: 20, height: 1, span: 6 };
  for (const travel of ways)
    for (const time of [0.4, 7.3, 31.7]) {
      const scene = travelling(meadow, { stand: { lean: 0 } }, { ...travel, steers: true });
      const [a, b] = [placed(scene, time), placed(scene, time + 1e-4)];
      let [seen, right] = [0, 0];
      for (let i = 0; i < a.count; i++) {
        const [p, q] = [at(a, i), at(b, i)];
        const way: Vec3 = [q[0] - p[0], 0, q[2] - p[2]];
        const l = Math.hypot(...way);
        if (!(l > 1e-9) || l > 0.1) continue;
        seen++;
        const front = axis(a, i, [0, 0, 1]);
        if ((front[0] * way[0] + front[2] * way[2]) / l > 0.99) right++;
      }
      expect(seen).toBeGreaterThan(a.count * 0.8);

      // At the edge of a face, and over the rim, the way turns between the two moments.
      expect(right).toBeGreaterThanOrEqual(seen * 0.9);
    }
});

test('what lands stands on its ground at every moment, and a time has one result however it is come to', () => {
  const hills: Shape = { shape: 'hills', width: 30, depth: 30, height: 2, span: 9 };
  const scene = travelling(
    hills,
    { ground: { mode: 'land', surfaces: ['ground'], lean: 1 } },
    { way: 'along', path: 'ring', along: { speed: 1.3 }, steers: true, surface: null },
  );
  const ground = triMeshOf(hills);
  const times = [0, 2.5, 5, 7.5, 10];
  const fresh = times.map((t) => placed(scene, t));
  for (const p of fresh) {
    expect(p.state.filter((s) => s === STATE.placed).length).toBeGreaterThan(40);
    for (let i = 0; i < p.count; i++)
      if (p.state[i] === STATE.placed) {
        const [x, y, z] = at(p, i);
        if (Math.max(Math.abs(x), Math.abs(z)) > 14.9) continue;
        expect(nearestPlace(ground.tree(), x, y, z, 1, hit)).toBe(true);
        expect(hit.t).toBeLessThan(1e-9);
      }
  }
  const one = new Evaluator(ASSETS);
  for (const k of [4, 0, 3, 1, 2, 2, 0]) {
    const p = one.evaluate(scene, undefined, times[k]).arrangements[0].placements;
    expect(p.position).toEqual(fresh[k].position);
    expect(p.rotation).toEqual(fresh[k].rotation);
  }
});

test('pegs, runs and sheets travel too; what has nothing to go over stays, and it is said', () => {
  for (const a of [
    newArrangement('pegs', { id: 'a', name: 'Pegs', thread: 'moss' }, { pegs: [[PEG]] }),
    newArrangement(
      'run',
      { id: 'a', name: 'Run', thread: 'moss' },
      {
        paths: [{ part: 0, path: 'ring' }],
        order: { entries: [{ id: 'e', item: { kind: 'prop', prop: 'p' } }] },
      },
    ),
    newArrangement(
      'sheet',
      { id: 'a', name: 'Sheet', thread: 'moss' },
      {
        surface: 'ground',
        order: { entries: [{ id: 'e', item: { kind: 'prop', prop: 'p' } }] },
        grid: { columns: 4, rows: 3 },
      },
    ),
  ]) {
    const make = (travel: object) =>
      travelling({ shape: 'plane', width: 24, depth: 24 }, {}, {}, (s) => {
        s.arrangements[0] = { ...a, travel: travelSchema.parse(travel) } as Arrangement;
      });
    const was = placed(make({ on: false }));
    expect(was.count).toBeGreaterThan(0);
    const over = placed(make({ surface: 'ground', u: { by: 0.5 } }));
    const turned = placed(make({ way: 'turn', turn: { byDeg: 30 }, centre: [1, 0, 2] }));
    for (let i = 0; i < was.count; i++) {
      expect(Math.abs(at(over, i)[0] - at(was, i)[0])).toBeCloseTo(0.5, 5);
      const arm = at(was, i).map((v, k) => v - [1, 0, 2][k]) as Vec3;
      const to = rotateAbout(arm, [0, 1, 0], Math.PI / 6).map((v, k) => v + [1, 0, 2][k]) as Vec3;
      expect(distance(at(turned, i), to)).toBeLessThan(1e-9);
    }
    for (const [travel, finding] of [
      [{ surface: null }, 'travel-no-surface'],
      [{ surface: 'gone' }, 'travel-no-surface'],
      [{ way: 'along' }, 'travel-no-path'],
      [{ way: 'along', path: 'gone' }, 'travel-no-path'],
    ] as const) {
      const { placements, findings } = evaluated(make({ u: { by: 1 }, ...travel }));
      expect(placements.position).toEqual(was.position);
      expect(findings.map((f) => f.kind)).toContain(finding);
    }
  }
});

test('what is let fall at a border leaves its surface there with the speed that it had, and falls beside it', async () => {
  await loadPhysics();
  const scene = travelling(
    PLANE,
    { release: releaseSchema.parse({ who: 'border', near: 0.15, floor: -6, drag: 0 }) },
    { u: { speed: 2 }, border: 'leave' },
  );
  const was = placed(
    still({
      ...scene,
      arrangements: scene.arrangements.map((a) => ({ ...a, release: undefined }) as Arrangement),
    }),
  );
  const one = new Evaluator(ASSETS);
  let result = one.evaluate(scene, undefined, 6);
  while (result.unfinished) result = one.evaluate(scene, undefined, 6);
  const { placements: is } = result.arrangements[0];
  let fallen = 0;
  for (let i = 0; i < was.count; i++) {
    // Those that begin beside another border are let go there, and slide to rest.
    const begins = at(was, i);
    const isBeside = Math.abs(begins[2]) > 1.8 || Math.abs(begins[0]) > 3.8;
    if (is.state[i] !== STATE.placed || isBeside) continue;
    const [x, y] = at(is, i);
    expect(y).toBeLessThan(-1);
    // A plane of 8 m: what went over its edge is beyond it.
    if (Math.abs(x) > 4) fallen++;
  }
  expect(fallen).toBeGreaterThan(was.count / 2);
});

test('what a pulley has let go at a place falls on when its slot has left the path', async () => {
  await loadPhysics();
  const scene = travelling({ shape: 'plane', width: 40, depth: 40 }, {}, {}, (s) => {
    s.paths.push(
      newPath(
        'line',
        'Line',
        points('corner', [
          [0, 5, 0],
          [4, 5, 0],
        ]),
      ),
    );
    s.arrangements[0] = newArrangement(
      'run',
      { id: 'a', name: 'Run', thread: 'moss' },
      {
        paths: [{ part: 0, path: 'line' }],
        order: { entries: [{ id: 'e', item: { kind: 'prop', prop: 'p' } }] },
        spacing: { mode: 'count', count: 3 },
        pulley: { speed: 1, ends: 'clip' },
        release: releaseSchema.parse({ who: 'place', place: 3 }),
      },
    );
  });
  const one = new Evaluator(ASSETS);
  let result = one.evaluate(scene, undefined, 7);
  while (result.unfinished) result = one.evaluate(scene, undefined, 7);
  const { placements: p } = result.arrangements[0];
  // The last of the three begins beyond the place: it leaves the path, and is gone.
  expect([...p.state]).toEqual([STATE.placed, STATE.placed, STATE.pastEnd]);
  for (const i of [0, 1]) expect(at(p, i)[1]).toBeLessThan(1);
});

const PEG = {
  id: 'peg1',
  prop: 'p',
  pin: null,
  position: [1.5, 0.25, -2],
  rotation: [0, 0, 0, 1],
  scale: [1, 1, 1],
};
const hit = noHit();
