import { compilePath } from '../curve/compile';
import { pathSchema } from '../curve/schema';
import { Evaluator } from '../evaluate/scene';
import { emptyScene, newEntry, newProp, newRun } from '../scene/defaults';
import type { Run } from '../arrange/run/schema';
import type { Scene } from '../scene/schema';
import { points } from '../testing/paths';
import { quatRotate, type Quat } from '../math/quat';
import { distance, type Vec3 } from '../math/vec3';
import { triMeshOf } from '../testing/surfaces';
import { bendMesh, piecesFor, type BentMesh } from './bend';
import { sliceAlongZ, type Sliced } from './slice';
import type { Mesh } from './mesh';

/** A beam 2 m long, 0.2 m wide and 0.3 m high, its foot in the middle of its base. */
function beam(): Sliced {
  const box = triMeshOf({ shape: 'box', width: 0.2, height: 0.3, depth: 2, fillet: 0, cells: 1 });
  const ys = box.positions.filter((_, i) => i % 3 === 1);
  const low = Math.min(...ys);
  return {
    positions: box.positions.map((v, i) => (i % 3 === 1 ? v - low : v)),
    normals: box.normals,
    indices: box.indices,
    groups: [{ start: 0, count: box.indices.length, material: 0 }],
  };
}
const compiled = (path: Parameters<typeof compilePath>[0]) => {
  const made = compilePath(path);
  if (!made.ok) throw new Error(made.problem);
  return made.path;
};
const list = (p: ArrayLike<number>) =>
  Array.from({ length: p.length / 3 }, (_, i): Vec3 => [p[i * 3], p[i * 3 + 1], p[i * 3 + 2]]);
const areaOf = (m: { positions: ArrayLike<number>; indices: Uint32Array }) => {
  let sum = 0;
  for (let i = 0; i < m.indices.length; i += 3) {
    const [a, b, c] = [0, 1, 2].map((k) => [0, 1, 2].map((x) => m.positions[m.indices[i + k] * 3 + x]));
    const [e, f] = [b, c].map((q) => q.map((v, x) => v - a[x]));
    sum += Math.hypot(e[1] * f[2] - e[2] * f[1], e[2] * f[0] - e[0] * f[2], e[0] * f[1] - e[1] * f[0]) / 2;
  }
  return sum;
};

test('slices leave the shape as it is, and no face crosses a plane', () => {
  const mesh = beam();
  const planes = [-0.7, -0.1, 0, 0.35, 0.9];
  const cut = sliceAlongZ(mesh, planes);
  expect(areaOf(cut)).toBeCloseTo(areaOf(mesh), 12);
  for (let i = 0; i < cut.indices.length; i += 3) {
    const z = [0, 1, 2].map((k) => cut.positions[cut.indices[i + k] * 3 + 2]);
    for (const plane of planes)
      expect(Math.min(...z) < plane - 1e-9 && Math.max(...z) > plane + 1e-9).toBe(false);
  }
  expect(cut.groups.reduce((n, g) => n + g.count, 0)).toBe(cut.indices.length);
  cut.normals.forEach((v) => expect(Math.abs(v)).toBeLessThan(1 + 1e-9));
});

test('on a straight path bending is the identity, to 1e-12', () => {
  const path = compiled({
    source: {
      kind: 'points',
      points: points('corner', [
        [0, 0, 0],
        [0, 0, 20],
      ]),
    },
    closed: false,
  });
  const mesh = beam();
  const bent = bendMesh(mesh, {
    path,
    posture: 'bank',
    s: 8,
    side: 0,
    lift: 0,
    position: [0, 0, 8],
    rotation: [0, 0, 0, 1],
    scale: [1, 1, 1],
    front: [0, 0, 1],
    up: [0, 1, 0],
  });
  mesh.positions.forEach((v, i) => expect(Math.abs(bent.positions[i] - v)).toBeLessThan(1e-12));
  mesh.normals.forEach((v, i) => expect(Math.abs(bent.normals[i] - v)).toBeLessThan(1e-6));
});

function bentRun(shape: object, change: (r: Run) => void = () => {}) {
  const run = newRun('r', 'R', 'madder', 'p', [newEntry('e', { kind: 'prop', prop: 'beam' })]);
  run.facing = { ...run.facing, bend: true, tolerance: 0.001 };
  run.spacing = { ...run.spacing, mode: 'touch' };
  change(run);
  const own = beam();
  const mesh: Mesh = {
    positions: Float32Array.from(own.positions),
    normals: Float32Array.from(own.normals),
    indices: own.indices,
    groups: own.groups,
    materials: [
      { name: 'm', color: [1, 1, 1, 1], metallic: 0, roughness: 1, emissive: [0, 0, 0], doubleSided: false },
    ],
  };
  const scene: Scene = {
    ...emptyScene('Bent'),
    props: [newProp('beam', 'Beam', { source: 'built', name: 'beam' })],
    paths: [pathSchema.parse({ id: 'p', name: 'P', source: { kind: 'generator', generator: shape } })],
    arrangements: [run],
  };
  return new Evaluator({ mesh: () => mesh }).evaluate(scene).arrangements[0].placements;
}
/** Vertices of a bent row in the scene. */
const standing = (p: ReturnType<typeof bentRun>, i: number, bent: BentMesh): Vec3[] => {
  const q = [...p.rotation.subarray(i * 4, i * 4 + 4)] as Quat;
  return list(bent.positions).map((v) => quatRotate(q, v).map((x, k) => x + p.position[i * 3 + k]) as Vec3);
};

test('round a circle every vertex lies where the closed form says, within a fifth of the tolerance, and each item begins where the last one ends', () => {
  const R = 4;
  const p = bentRun({ shape: 'circle', radius: R });
  // All round alike: one shape for all.
  expect(p.bent!.length).toBe(1);
  expect(p.count).toBe(Math.round((2 * Math.PI * R) / 2));
  const bent = p.bent![0];
  const spans: [number, number][] = [];
  for (let i = 0; i < p.count; i++) {
    expect(p.shape![i]).toBe(0);
    const angles: number[] = [];
    const middle = Math.atan2(p.position[i * 3 + 2], p.position[i * 3]);
    const corners = beam().positions.length / 3;
    let [out, inside, low, over, between] = [0, 0, 0, 0, 0];
    for (const [n, [x, y, z]] of standing(p, i, bent).entries()) {
      // 0.1 m to either side of the circle; what was sliced lies on the faces in between.
      const off = Math.abs(Math.hypot(x, z) - R) - 0.1 * p.scale[i * 3];
      out = Math.max(out, off);
      if (n < corners) inside = Math.max(inside, -off);
      const high = 0.3 * p.scale[i * 3 + 1];
      low = Math.max(low, -y);
      over = Math.max(over, y - high);
      if (n < corners) between = Math.max(between, Math.min(y, high - y));
      const away = Math.atan2(z, x) - middle;
      angles.push(away - 2 * Math.PI * Math.round(away / (2 * Math.PI)));
    }
    expect(Math.max(out, inside)).toBeLessThan(2e-4);
    expect(Math.max(low, over, between)).toBeLessThan(1e-5);
    // As long along the arc as the ring shared by all.
    expect(Math.max(...angles) - Math.min(...angles)).toBeCloseTo((2 * Math.PI) / p.count, 3);
    spans.push([middle + Math.min(...angles), middle + Math.max(...angles)]);
  }
  const turn = (a: number) => ((a % (2 * Math.PI)) + 2 * Math.PI) % (2 * Math.PI);
  for (let i = 0; i < p.count; i++) {
    const [a, b] = [spans[i], spans[(i + 1) % p.count]];
    const meets = [turn(a[1] - b[0]), turn(a[0] - b[1])].map((v) => Math.min(v, 2 * Math.PI - v));
    expect(Math.min(...meets)).toBeLessThan(2e-4);
  }
});

test('a conveyor of strips round a closed rounded path: straight ones stay rigid, no chord is off by more than asked', () => {
  const p = bentRun({ shape: 'rectangle', width: 12, depth: 8, fillet: 2 });
  const rigid = [...p.shape!].filter((s) => s < 0).length;
  expect(rigid).toBeGreaterThan(4);
  expect(rigid).toBeLessThan(p.count - 4);
  // Slices as fine as a radius of 1.9 m asks for, to a millimetre.
  expect(piecesFor(2, 1 / 2, 0.001)).toBe(16);
  let longest = 0;
  for (const bent of p.bent!) {
    const points = list(bent.positions);
    for (let i = 0; i < bent.indices.length; i += 3)
      for (let k = 0; k < 3; k++) {
        const [a, b] = [points[bent.indices[i + k]], points[bent.indices[i + ((k + 1) % 3)]]];
        longest = Math.max(longest, distance(a, b));
      }
  }
  expect(longest).toBeLessThan(2.3);
});
