import { PROVING } from '../../testing/prove';
import { triMeshOf } from '../../testing/surfaces';
import { buildBvh } from '../bvh';
import { meshesCross } from '../crossing';
import { topologyOf } from '../lines/topology';
import { RATE } from '../frames';
import { Cloth, type ClothSpec } from './cloth';

const CELLS = 12;
/** A sheet of 2 × 2 m, standing upright across Z, its upper edge at 2 m. */
function sheet(more: Partial<ClothSpec> = {}, hold: (x: number, y: number) => boolean = () => false) {
  const triMesh = triMeshOf(
    { shape: 'plane', width: 2, depth: 2, columns: CELLS, rows: CELLS },
    ([x, , z]) => [x, 1 - z, 0],
  );
  const topology = topologyOf(triMesh);
  const start = topology.position.slice();
  const held = Uint8Array.from({ length: start.length / 3 }, (_, i) =>
    hold(start[i * 3], start[i * 3 + 1]) ? 1 : 0,
  );
  const spec: ClothSpec = {
    start,
    topology,
    indices: triMesh.indices,
    held,
    gravity: 9.81,
    wind: 0,
    windDeg: 0,
    gusts: 0,
    weight: 0.35,
    stiffness: 0.2,
    give: 0,
    drag: 0.6,
    thickness: 0.01,
    itself: false,
    apart: 0.03,
    seconds: 8,
    seed: 1,
    ...more,
  };
  return { cloth: new Cloth(spec), spec };
}
const top = (_: number, y: number) => y > 2 - 1e-6;
const at = (cloth: Cloth, time: number) => {
  const out = new Float64Array(cloth['spec'].start.length);
  cloth.at(time, out);
  return out;
};
const rows = (p: Float64Array) =>
  Array.from({ length: p.length / 3 }, (_, i) => [...p.subarray(i * 3, i * 3 + 3)]);

test('let go and without air it falls as a stone does', () => {
  const { cloth, spec } = sheet({ drag: 0 });
  const h = 1 / RATE / 12;
  for (const time of [0.5, 1, 2]) {
    const p = at(cloth, time);
    // Symplectic steps fall g t (t + h) / 2.
    const fallen = (9.81 * time * (time + h)) / 2;
    rows(p).forEach(([x, y, z], i) => {
      expect(x).toBeCloseTo(spec.start[i * 3], 5);
      expect(Math.abs(y - (spec.start[i * 3 + 1] - fallen))).toBeLessThan(1e-4 * (1 + fallen));
      expect(z).toBeCloseTo(0, 5);
    });
  }
});

test('hung by its upper edge it comes to rest straight below, its threads as long as they were, its holds exact', () => {
  const { cloth, spec } = sheet({ drag: 3 }, top);
  const p = at(cloth, 8);
  rows(p).forEach(([x, y, z], i) => {
    if (spec.held[i]) expect([x, y, z]).toEqual([...spec.start.subarray(i * 3, i * 3 + 3)]);
    expect(Math.abs(x - spec.start[i * 3])).toBeLessThan(0.01);
    expect(Math.abs(y - spec.start[i * 3 + 1])).toBeLessThan(0.04);
    expect(Math.abs(z)).toBeLessThan(0.01);
  });
});

test('held by two corners it sags alike on both sides, no thread longer by more than a twentieth', () => {
  const { cloth, spec } = sheet({ drag: 2 }, (x, y) => top(x, y) && Math.abs(x) > 1 - 1e-6);
  const p = at(cloth, 8);
  const list = rows(p);
  const middle = list.findIndex(
    (_, i) => Math.abs(spec.start[i * 3]) < 1e-6 && spec.start[i * 3 + 1] > 2 - 1e-6,
  );
  expect(list[middle][1]).toBeLessThan(1.99);
  const { edges } = spec.topology;
  for (let e = 0; e < edges.length; e += 2) {
    const length = (q: ArrayLike<number>) =>
      Math.hypot(...[0, 1, 2].map((k) => q[edges[e] * 3 + k] - q[edges[e + 1] * 3 + k]));
    expect(length(p) / length(spec.start)).toBeLessThan(1.05);
  }
});

test('the wind blows it where it goes; from behind, the other way; stronger, further', () => {
  const mean = (cloth: Cloth) => {
    let sum = 0;
    const moments = PROVING ? 20 : 8;
    for (let k = 1; k <= moments; k++) sum += rows(at(cloth, 2 + k / 4)).reduce((s, [, , z]) => s + z, 0);
    return sum / moments / 169;
  };
  // North is −Z.
  const north = mean(sheet({ wind: 5 }, top).cloth);
  expect(north).toBeLessThan(-0.1);
  expect(mean(sheet({ wind: 5, windDeg: 180 }, top).cloth)).toBeGreaterThan(0.1);
  expect(mean(sheet({ wind: 10 }, top).cloth)).toBeLessThan(north - 0.05);
});

test('it falls onto a ball and stays off it by its thickness', () => {
  const collider = triMeshOf({ shape: 'sphere', radius: 0.6, columns: 64, rows: 32 }, ([x, y, z]) => [
    x,
    y - 0.2,
    z,
  ]);
  const cells = PROVING ? 24 : 16;
  const flat = triMeshOf({ shape: 'plane', width: 2, depth: 2, columns: cells, rows: cells }, ([x, , z]) => [
    x,
    0.7,
    z,
  ]);
  const { spec } = sheet();
  const topology = topologyOf(flat);
  const start = topology.position.slice();
  const cloth = new Cloth({
    ...spec,
    start,
    topology,
    indices: flat.indices,
    held: new Uint8Array(start.length / 3),
    collider,
    drag: 2,
  });
  const out = new Float64Array(start.length);
  for (const time of PROVING ? [0.4, 1, 2, 4] : [0.4, 1, 2]) {
    cloth.at(time, out);
    const nearest = Math.min(...rows(out).map(([x, y, z]) => Math.hypot(x, y + 0.2, z)));
    expect(nearest).toBeGreaterThan(0.6 - 0.004);
  }
  // Draped: its middle on the top, its corners well below.
  const list = rows(out);
  expect(Math.max(...list.map(([, y]) => y))).toBeGreaterThan(0.38);
  expect(Math.min(...list.map(([, y]) => y))).toBeLessThan(0);
});

test('a time has the same shape, bit for bit, however it was come to', () => {
  const gusty = { wind: 8, gusts: 0.8 };
  const straight = at(sheet(gusty, top).cloth, 1.234);
  const { cloth } = sheet(gusty, top);
  at(cloth, 3);
  at(cloth, 0.2);
  expect(at(cloth, 1.234)).toEqual(straight);
  expect(at(sheet({ ...gusty, seed: 2 }, top).cloth, 1.234)).not.toEqual(straight);
  // Beyond what is simulated it stays.
  const short = sheet({ ...gusty, seconds: 3 }, top).cloth;
  expect(at(short, 99)).toEqual(at(short, 3));
});

/** Two sheets of one mesh, one over the other: the lower is held all round, the upper falls onto it. */
function twoSheets(itself: boolean) {
  const cells = 10;
  const one = triMeshOf({ shape: 'plane', width: 1.6, depth: 1.6, columns: cells, rows: cells });
  const n = one.positions.length;
  const positions = new Float64Array(n * 2);
  positions.set(one.positions);
  // Turned a little, so that corners do not lie over corners.
  for (let o = 0; o < n; o += 3) {
    const [x, z] = [one.positions[o] * 0.7, one.positions[o + 2] * 0.7];
    positions.set([x * 0.9 - z * 0.43, 0.35, x * 0.43 + z * 0.9], n + o);
  }
  const indices = Uint32Array.from({ length: one.indices.length * 2 }, (_, i) =>
    i < one.indices.length ? one.indices[i] : one.indices[i - one.indices.length] + n / 3,
  );
  const topology = topologyOf({ positions, indices, normals: positions } as never);
  const start = topology.position.slice();
  const held = Uint8Array.from({ length: start.length / 3 }, (_, i) =>
    start[i * 3 + 1] < 0.1 && Math.max(Math.abs(start[i * 3]), Math.abs(start[i * 3 + 2])) > 0.79 ? 1 : 0,
  );
  const spec: ClothSpec = { ...sheet().spec, start, topology, indices, held, seconds: 3, itself };
  const faces = Array.from(indices, (i) => topology.weld[i]);
  return { cloth: new Cloth(spec), faces, lower: one.indices.length };
}

/** How many faces of the upper sheet cross one of the lower. */
function crossings(p: Float64Array, faces: number[], lower: number): number {
  const tree = (list: number[]) => {
    const at = Float64Array.from(list.flatMap((i) => [...p.subarray(i * 3, i * 3 + 3)]));
    return buildBvh(
      at,
      Uint32Array.from(list, (_, k) => k),
    );
  };
  const same = { m: Float64Array.of(1, 0, 0, 0, 1, 0, 0, 0, 1), at: new Float64Array(3) };
  const below = { tree: tree(faces.slice(0, lower)), ...same };
  let count = 0;
  for (let f = lower; f < faces.length; f += 3)
    if (meshesCross({ tree: tree(faces.slice(f, f + 3)), ...same }, below, 1e-4)) count++;
  return count;
}

test('a sheet that falls onto another of the same cloth lies on it, and goes through without', () => {
  const free = twoSheets(false);
  expect(Math.min(...rows(at(free.cloth, 1.2)).map(([, y]) => y))).toBeLessThan(-3);
  const kept = twoSheets(true);
  for (const time of [0.2, 0.4, 0.7, 1.2, 2, 3]) {
    const p = at(kept.cloth, time);
    expect(Math.min(...rows(p).map(([, y]) => y))).toBeGreaterThan(-0.9);
    expect(crossings(p, kept.faces, kept.lower)).toBe(0);
  }
  // The same whenever it is asked.
  const again = twoSheets(true);
  at(again.cloth, 3);
  expect(at(again.cloth, 1.2)).toEqual(at(kept.cloth, 1.2));
});
