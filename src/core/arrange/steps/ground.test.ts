import { quatMultiply, quatRotate, quatTurnTipRoll, type Quat } from '../../math/quat';
import type { Vec3 } from '../../math/vec3';
import { makeMesh } from '../../mesh/make';
import { shapeSchema } from '../../mesh/make/schema';
import type { Mesh } from '../../mesh/mesh';
import { faceNormals, sharedNormals } from '../../mesh/normals';
import { makeTriMesh, type TriMesh } from '../../mesh/triMesh';
import { propShape } from '../../mesh/contact/support';
import { STATE, type Placements } from '../result';
import { newEntry, newRun } from '../../scene/defaults';
import { asResult, compiled, points } from '../../testing/paths';
import { cases } from '../../testing/prove';
import { boxBetween, roomByPairs, together, trianglesBy } from '../../testing/plumb';
import type { ArrangeContext } from '../context';
import { evaluateRun } from '../run/evaluate';
import { groundSchema, type Ground } from './schema';

const SAME = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1];
/** A cart: a box 1.2 × 0.5 × 2 m on four legs of 0.2 m, its foot between them on the ground. */
const feet = [-0.5, 0.5].flatMap((x) => [-0.8, 0.8].map((z): Vec3 => [x, 0, z]));
const cart = together(
  boxBetween([-0.6, 0.2, -1], [0.6, 0.7, 1]),
  ...feet.map(([x, , z]) => boxBetween([x - 0.02, 0, z - 0.02], [x + 0.02, 0.2, z + 0.02])),
);
const shape = propShape(
  cart,
  SAME,
  Array.from({ length: cart.length / 3 }, (_, k) => k),
);
const soles = cart.filter((_, n) => cart[n - (n % 3) + 1] === 0);

function surface(settings: object, move?: (p: Vec3) => Vec3): TriMesh {
  const made = makeMesh(shapeSchema.parse(settings), '#D8CDB6', {
    path: () => undefined,
  }) as Mesh;
  const positions = Float64Array.from(made.positions);
  if (move)
    for (let o = 0; o < positions.length; o += 3)
      positions.set(move([positions[o], positions[o + 1], positions[o + 2]]), o);
  return makeTriMesh({
    positions,
    normals: move
      ? faceNormals(positions, made.indices, sharedNormals(positions, made.normals), made.normals)
      : Float64Array.from(made.normals),
    indices: made.indices,
    uvs: made.uvs,
  });
}
const line = compiled(
  points('smooth', [
    [-5, 0, -2],
    [0, 0, 2],
    [5, 0, -1],
  ]),
);
const high = compiled(
  points('smooth', [
    [-5, 4, -2],
    [0, 5, 2],
    [5, 4, -1],
  ]),
);

function run(
  ground: Partial<Ground>,
  surfaces: Record<string, TriMesh>,
  more: (r: ReturnType<typeof newRun>) => void = () => {},
  path = line,
) {
  const r = newRun('r', 'R', 'madder', 'p', [newEntry('e', { kind: 'prop', prop: 'cart' })]);
  r.spacing = { ...r.spacing, mode: 'count', count: 120 };
  r.ground = groundSchema.parse({ mode: 'land', ...ground });
  more(r);
  const context: ArrangeContext = {
    path: () => asResult(path),
    prop: () => ({
      state: 'ready',
      bounds: { min: [-0.6, 0, -1], max: [0.6, 0.7, 1] },
      shape: () => shape,
    }),
    surface: (id) => surfaces[id],
    grounds: () => Object.keys(surfaces),
  };
  return evaluateRun(r, context);
}
const at = (p: Placements, i: number): Vec3 => [
  p.position[i * 3],
  p.position[i * 3 + 1],
  p.position[i * 3 + 2],
];
const turned = (p: Placements, i: number, v: Vec3) =>
  quatRotate([...p.rotation.subarray(i * 4, i * 4 + 4)] as Quat, v);
/** Vertices of a placed cart in the scene. */
const vertices = (p: Placements, i: number, from = cart): Vec3[] =>
  Array.from({ length: from.length / 3 }, (_, k) => {
    const v = turned(p, i, [0, 1, 2].map((a) => from[k * 3 + a] * p.scale[i * 3 + a]) as Vec3);
    return v.map((c, a) => c + p.position[i * 3 + a]) as Vec3;
  });

/** Heights of a surface over a place, by every one of its triangles. */
function heights({ positions: p, indices }: TriMesh, x: number, z: number): number[] {
  const out: number[] = [];
  for (let i = 0; i < indices.length; i += 3) {
    const [a, b, c] = [0, 1, 2].map((k) => [...p.subarray(indices[i + k] * 3, indices[i + k] * 3 + 3)]);
    const det = (b[2] - c[2]) * (a[0] - c[0]) + (c[0] - b[0]) * (a[2] - c[2]);
    const u = ((b[2] - c[2]) * (x - c[0]) + (c[0] - b[0]) * (z - c[2])) / det;
    const v = ((c[2] - a[2]) * (x - c[0]) + (a[0] - c[0]) * (z - c[2])) / det;
    if (u >= -1e-12 && v >= -1e-12 && u + v <= 1 + 1e-12) out.push(u * a[1] + v * b[1] + (1 - u - v) * c[1]);
  }
  return out;
}

const hills = surface({ shape: 'hills', width: 16, depth: 12, columns: 40, rows: 30, seed: 5 });
const flat = surface({ shape: 'plane', width: 30, depth: 30, columns: 3, rows: 3 });

test('landing down agrees with a look at every triangle, from above and from below the ground', () => {
  for (const path of [line, high]) {
    const { placements: p, findings } = run({ above: 0 }, { hills }, undefined, path);
    for (let i = 0; i < p.count; i++) {
      const all = heights(hills, p.position[i * 3], p.position[i * 3 + 2]);
      expect(all.length).toBeGreaterThan(0);
      expect(p.position[i * 3 + 1]).toBeCloseTo(Math.max(...all), 9);
    }
    expect(findings.filter((f) => f.kind.startsWith('ground'))).toEqual([]);
  }
});

test('of several surfaces the first below is met; what lies higher than “above” is passed by', () => {
  const roof = surface({ shape: 'plane', width: 30, depth: 30 }, ([x, , z]) => [x, 6, z]);
  const low = surface({ shape: 'plane', width: 30, depth: 30 }, ([x, , z]) => [x, -2, z]);
  const y = (ground: Partial<Ground>, surfaces: Record<string, TriMesh>) =>
    run(ground, surfaces).placements.position[1];
  expect(y({}, { roof, low })).toBeCloseTo(-2, 12);
  expect(y({ above: 10 }, { roof, low })).toBeCloseTo(6, 12);
  expect(y({ surfaces: ['roof'] }, { roof, low })).toBeCloseTo(6, 12);
  // Inside out it is the same ground.
  const inside = makeTriMesh({ ...low, indices: low.indices.slice().reverse() });
  expect(run({ lean: 1 }, { inside }).placements.rotation).toEqual(
    run({ lean: 1 }, { low }).placements.rotation,
  );
});

test('landed by the lowest point nothing is in the floor or above it, however it is turned and sized', () => {
  const { placements: p } = run({ contact: 'lowest' }, { flat }, (r) => {
    Object.assign(r.variation, { tipDeg: [-60, 60], rollDeg: [-180, 180], turnDeg: [-180, 180] });
    Object.assign(r.variation, { size: [0.5, 2], sizeY: [0.6, 1.4], mirror: 0.5 });
  });
  for (let i = 0; i < p.count; i++) expect(Math.min(...vertices(p, i).map((v) => v[1]))).toBeCloseTo(0, 9);
});

test('by its footprint a cart leans with a slope, and all four legs touch it', () => {
  const slope = surface({ shape: 'plane', width: 40, depth: 40 }, ([x, , z]) => [x, 0.3 * x - 0.2 * z, z]);
  const { placements: p } = run({ contact: 'footprint', lean: 1 }, { slope });
  const l = Math.hypot(0.3, 1, 0.2);
  for (let i = 0; i < p.count; i++) {
    expect(turned(p, i, [0, 1, 0])).toEqual([-0.3 / l, 1 / l, 0.2 / l].map((v) => expect.closeTo(v, 9)));
    const off = vertices(p, i, soles).map(([x, y, z]) => Math.abs(y - 0.3 * x + 0.2 * z));
    expect(Math.max(...off)).toBeLessThan(5e-10);
  }
});

test('on uneven ground nothing of it enters, and it touches: upright, leaning by half and all the way', () => {
  const ground = trianglesBy(hills.positions, hills.indices);
  const rooms = (p: Placements, i: number) => roomByPairs(vertices(p, i).flat(), ground);
  const few = (r: ReturnType<typeof newRun>) => void (r.spacing = { ...r.spacing, count: 12 });
  for (const contact of ['lowest', 'footprint'] as const)
    for (const lean of [0, 0.5, 1]) {
      const { placements: p } = run({ contact, lean }, { hills }, few);
      for (let i = 0; i < p.count; i++) expect(Math.abs(rooms(p, i))).toBeLessThan(1e-6);
    }
});

test('by its footprint, whatever it heads for, no tilt nearby would let it lie lower', () => {
  const ground = trianglesBy(hills.positions, hills.indices);
  for (const heading of ['along', 'compass', 'target'] as const) {
    const { placements: p } = run({ contact: 'footprint', lean: 1 }, { hills }, (r) => {
      r.spacing = { ...r.spacing, count: cases(40) + 7 };
      r.facing = { ...r.facing, heading, compassDeg: 30, turnDeg: 20, size: 1.5 };
    });
    for (let i = 0; i < p.count; i++)
      for (const [tip, roll] of [
        [1e-3, 0],
        [-1e-3, 0],
        [0, 1e-3],
        [0, -1e-3],
      ]) {
        const q = [...p.rotation.subarray(i * 4, i * 4 + 4)] as Quat;
        const tipped = Float64Array.from(p.rotation);
        tipped.set(quatMultiply(q, quatTurnTipRoll(0, tip, roll)), i * 4);
        expect(roomByPairs(vertices({ ...p, rotation: tipped }, i).flat(), ground)).toBeLessThan(1e-6);
      }
  }
});

test('lean by its share and its upper angle; upright stays upright', () => {
  const slope = surface({ shape: 'plane', width: 40, depth: 40 }, ([x, , z]) => [x, x, z]);
  const tilt = (ground: Partial<Ground>) => {
    const { placements: p } = run(ground, { slope });
    return (Math.acos(turned(p, 3, [0, 1, 0])[1]) * 180) / Math.PI;
  };
  expect(tilt({})).toBeCloseTo(0, 9);
  expect(tilt({ lean: 1 })).toBeCloseTo(45, 9);
  expect(tilt({ lean: 0.4 })).toBeCloseTo(18, 9);
  expect(tilt({ lean: 1, leanMaxDeg: 30 })).toBeCloseTo(30, 9);
});

test('the heading stays as near as the lean lets it, and lift and sink count from the ground', () => {
  const { placements: p } = run({ lean: 1, sink: [0.1, 0.3] }, { hills }, (r) => {
    r.facing = { ...r.facing, lift: 0.5 };
  });
  const bare = run({ lean: 1 }, { hills }).placements;
  const sunk: number[] = [];
  for (let i = 0; i < p.count; i++) {
    const up = turned(p, i, [0, 1, 0]);
    expect(p.rotation.subarray(i * 4, i * 4 + 4)).toEqual(bare.rotation.subarray(i * 4, i * 4 + 4));
    const d = at(p, i).map((v, a) => v - at(bare, i)[a] - up[a] * 0.5);
    expect([d[0], d[2]]).toEqual([expect.closeTo(0, 9), expect.closeTo(0, 9)]);
    sunk.push(-d[1]);
  }
  expect(Math.min(...sunk)).toBeGreaterThanOrEqual(0.1 - 1e-9);
  expect(Math.max(...sunk)).toBeLessThanOrEqual(0.3 + 1e-9);
  expect(Math.max(...sunk) - Math.min(...sunk)).toBeGreaterThan(0.15);
});

test('hugging goes to the nearest place of a ball and stands square to it', () => {
  const ball = surface({ shape: 'sphere', radius: 2, columns: 200, rows: 100 });
  const { placements: p } = run({ mode: 'hug', lean: 1 }, { ball }, undefined, high);
  for (let i = 0; i < p.count; i++) {
    const [x, y, z] = at(p, i);
    const r = Math.hypot(x, y, z);
    expect(Math.abs(r - 2)).toBeLessThan(2e-3);
    turned(p, i, [0, 1, 0]).forEach((v, a) => expect(v).toBeCloseTo([x / r, y / r, z / r][a], 3));
  }
});

test('directions: typed, against the path’s up, against the prop’s own', () => {
  const wall = surface({ shape: 'plane', width: 60, depth: 60 }, ([x, , z]) => [x, z, -8]);
  const typed = run({ direction: 'typed', typed: [0, 0, -2], lean: 1 }, { wall }).placements;
  for (let i = 0; i < typed.count; i++) {
    expect(typed.position[i * 3 + 2]).toBeCloseTo(-8, 12);
    expect(turned(typed, i, [0, 1, 0])[2]).toBeCloseTo(1, 9);
  }
  const tipped = (r: ReturnType<typeof newRun>) =>
    void (r.facing = { ...r.facing, heading: 'compass', tipDeg: 90 });
  // Heading north and tipped forwards its up points north; against that it goes south.
  const south = surface({ shape: 'plane', width: 60, depth: 60 }, ([x, , z]) => [x, z, 9]);
  expect(run({ direction: 'prop' }, { south }, tipped).placements.position[2]).toBeCloseTo(9, 9);
  expect(run({ direction: 'path' }, { flat }, undefined, high).placements.position[1]).toBeCloseTo(0, 12);
});

test('where there is no ground: kept, put on the floor height, or left out; always counted', () => {
  const small = surface({ shape: 'plane', width: 4, depth: 30 });
  const off = (p: Placements, i: number) => Math.abs(p.position[i * 3]) > 2 + 1e-9;
  const count = (p: Placements) =>
    Array.from({ length: p.count }, (_, i) => off(p, i)).filter(Boolean).length;
  for (const missed of ['keep', 'floor', 'leave-out'] as const) {
    const { placements: p, findings } = run(
      { missed, floor: -3, contact: 'lowest' },
      { small },
      undefined,
      high,
    );
    const found = findings.find((f) => f.kind === 'ground-missed')!;
    expect(found.detail).toEqual({ count: count(p), missed });
    expect(found.slots).toHaveLength(count(p));
    for (let i = 0; i < p.count; i++) {
      if (!off(p, i)) expect(p.position[i * 3 + 1]).toBeCloseTo(0, 9);
      else if (missed === 'keep') expect(p.position[i * 3 + 1]).toBeGreaterThan(3.9);
      else if (missed === 'floor') expect(p.position[i * 3 + 1]).toBeCloseTo(-3, 9);
      else expect(p.state[i]).toBe(STATE.missed);
    }
  }
  expect(run({}, {}).findings.map((f) => f.kind)).toContain('no-ground');
  expect(run({ surfaces: ['gone'] }, { flat }).findings.map((f) => f.kind)).toContain('surface-missing');
  const edge = run({ direction: 'typed', typed: [1, -1e-4, 0] }, { flat }, undefined, high).findings;
  expect(edge.some((f) => f.kind === 'ground-along' || f.kind === 'ground-missed')).toBe(true);
});
