import { boxMesh, drained, exactlyClosed, madeMesh, placedAt as at } from '../../testing/bodies';
import type { PlacedMesh } from '../merged';
import type { Mesh } from '../mesh';
import { bodiesOf } from './bodies';
import { closedTube } from '../network/tube';
import { solidFacts } from './facts';
import { joining, type StepInput } from './joining';
import { loadKernel, kernel } from './kernel';

beforeAll(loadKernel);

const step = (how: StepInput['how'], parts: PlacedMesh[], more: Partial<StepInput> = {}): StepInput => ({
  how,
  node: 'n',
  mend: 'none',
  grain: 0.05,
  parts,
  ...more,
});
const joined = (...steps: StepInput[]) => drained(joining(kernel()!, steps));

const BOX = boxMesh(2, 2, 2);
const BALL = madeMesh({ shape: 'sphere', radius: 1, columns: 96, rows: 48 });

test('two balls joined hold what the closed form says, to the facets’ own error', () => {
  const { mesh, refused } = joined(step('join', [at(BALL), at(BALL, 1.2)]));
  expect(refused).toEqual([]);
  expect(exactlyClosed(mesh)).toBe(true);
  const d = 1.2;
  // Two balls of radius 1, less the lens between them: π (4 + d) (2 − d)² / 12.
  const wanted = (8 / 3) * Math.PI - (Math.PI * (4 + d) * (2 - d) ** 2) / 12;
  const facets = 1 - solidFacts(BALL).volume! / ((4 / 3) * Math.PI);
  const error = 1 - solidFacts(mesh).volume! / wanted;
  expect(error).toBeGreaterThan(0);
  expect(error).toBeLessThan(facets * 1.5);
});

test('joined, cut and cut to what is inside, in order; normals look out of what is left', () => {
  const cut = joined(step('join', [at(BOX)]), step('cut', [at(BOX, 1, 1, 1)]));
  expect(solidFacts(cut.mesh).volume).toBeCloseTo(7, 5);
  const kept = joined(step('join', [at(BOX)]), step('keep', [at(BOX, 1, 1, 1)]));
  expect(solidFacts(kept.mesh).volume).toBeCloseTo(1, 5);
  const both = joined(
    step('join', [at(BOX)]),
    step('cut', [at(BOX, 1, 1, 1)]),
    step('join', [at(BOX, 1, 1, 1)]),
  );
  expect(solidFacts(both.mesh).volume).toBeCloseTo(15, 5);
  for (const { mesh } of [cut, kept, both]) {
    expect(exactlyClosed(mesh)).toBe(true);
    for (let i = 0; i < mesh.indices.length; i += 3) {
      const [a, b, c] = [0, 1, 2].map((k) => mesh.positions.subarray(mesh.indices[i + k] * 3).slice(0, 3));
      const [u, v] = [b, c].map((p) => p.map((x, k) => x - a[k]));
      const cross = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
      for (let k = 0; k < 3; k++) {
        const n = mesh.normals.subarray(mesh.indices[i + k] * 3, mesh.indices[i + k] * 3 + 3);
        expect(cross[0] * n[0] + cross[1] * n[1] + cross[2] * n[2]).toBeGreaterThan(0);
      }
    }
  }
  // Nothing to cut from, and nothing within nothing.
  expect(joined(step('cut', [at(BOX)])).mesh.indices).toHaveLength(0);
  expect(joined(step('join', [at(BOX)]), step('keep', [])).mesh.indices).toHaveLength(0);
});

test('parts that touch, that are doubled, and that hang together of several bodies', () => {
  expect(solidFacts(joined(step('join', [at(BOX), at(BOX, 2)])).mesh).volume).toBeCloseTo(16, 5);
  expect(solidFacts(joined(step('join', [at(BOX), at(BOX)])).mesh).volume).toBeCloseTo(8, 5);
  const { mesh } = joined(step('join', [at(BOX), at(BOX, 1, 0.5, 0.25)]));
  // The joined mesh as one prop: what is crossing in it is resolved when it is joined to anything.
  const two = {
    ...BOX,
    positions: Float32Array.from([
      ...BOX.positions,
      ...BOX.positions.map((v, i) => v + [1, 0.5, 0.25][i % 3]),
    ]),
    normals: Float32Array.from([...BOX.normals, ...BOX.normals]),
    uvs: undefined,
    colors: undefined,
    indices: Uint32Array.from([...BOX.indices, ...BOX.indices.map((i) => i + BOX.positions.length / 3)]),
    groups: [{ start: 0, count: BOX.indices.length * 2, material: 0 }],
  };
  expect(bodiesOf(two).volumes).toHaveLength(2);
  expect(solidFacts(joined(step('join', [at(two)])).mesh).volume).toBeCloseTo(solidFacts(mesh).volume!, 5);
});

test('hollows stay hollow, and a body in a hollow stays there', () => {
  const nested = (scale: number, inward: boolean) => ({
    positions: BOX.positions.map((v, i) => (i % 3 === 1 ? (v - 1) * scale + 1 : v * scale)),
    indices: inward ? BOX.indices.slice().reverse() : BOX.indices,
  });
  const parts = [nested(1, false), nested(0.5, true), nested(0.25, false)];
  const count = BOX.positions.length / 3;
  const mesh: Mesh = {
    ...BOX,
    uvs: undefined,
    positions: Float32Array.from(parts.flatMap((p) => [...p.positions])),
    normals: Float32Array.from(parts.flatMap(() => [...BOX.normals])),
    indices: Uint32Array.from(parts.flatMap((p, k) => [...p.indices].map((i) => i + k * count))),
    groups: [{ start: 0, count: BOX.indices.length * 3, material: 0 }],
  };
  const wanted = 8 * (1 - 0.125 + 1 / 64);
  const { mesh: whole } = joined(step('join', [at(mesh)]), step('join', [at(BOX, 9)]));
  expect(solidFacts(whole).volume).toBeCloseTo(wanted + 8, 4);
});

test('looks, colours and texture coordinates go along', () => {
  const red = { ...BALL, materials: [{ ...BALL.materials[0], name: 'red' }] };
  const { mesh } = joined(step('join', [at(BOX, 0, 0, 0, 'a')]), step('cut', [at(red, 0, 2, 0, 'b')]));
  expect(mesh.materials.map((m) => m.name)).toEqual([BOX.materials[0].name, 'red']);
  expect(mesh.groups).toHaveLength(2);
  // The bowl that the ball has left is of the ball's look, and is below the top.
  const { start, count } = mesh.groups[1];
  for (let i = start; i < start + count; i++) {
    const [x, y, z] = mesh.positions.subarray(mesh.indices[i] * 3, mesh.indices[i] * 3 + 3);
    expect(Math.hypot(x, y - 2, z)).toBeCloseTo(1, 2);
    expect(y).toBeLessThanOrEqual(2 + 1e-6);
  }
  expect(mesh.uvs).toHaveLength((mesh.positions.length / 3) * 2);
});

test('what is open, inside out or joined three at an edge is named and left out, and mended on asking', () => {
  const lidless: Mesh = { ...BALL, indices: BALL.indices.slice(96 * 3 * 3), groups: [] };
  lidless.groups = [{ start: 0, count: lidless.indices.length, material: 0 }];
  const open = joined(step('join', [at(lidless)], { node: 'bowl' }), step('join', [at(BOX, 5)]));
  expect(open.refused).toMatchObject([{ node: 'bowl', why: 'open', count: 1 }]);
  expect(solidFacts(open.mesh).volume).toBeCloseTo(8, 5);
  // Just those edges are marked that only one of its faces has, where it stands.
  const name = (places: readonly ArrayLike<number>[]) =>
    places
      .map((p) => Array.from(p, (v) => v.toFixed(4).replace('-0.0000', '0.0000')).join(' '))
      .sort()
      .join('|');
  const times = new Map<string, number>();
  for (let i = 0; i < lidless.indices.length; i++) {
    const to = i % 3 === 2 ? i - 2 : i + 1;
    const [a, b] = [i, to].map((k) => lidless.positions.subarray(lidless.indices[k] * 3).subarray(0, 3));
    times.set(name([a, b]), (times.get(name([a, b])) ?? 0) + 1);
  }
  const [{ marks }] = open.refused;
  const rim = [...times].flatMap(([edge, n]) => (n === 1 ? [edge] : []));
  expect(marks.map(name).sort()).toEqual(rim.sort());
  const away = joined(step('join', [at(lidless, 3)])).refused[0].marks;
  expect(away.map((m) => name(m.map(([x, y, z]) => [x - 3, y, z]))).sort()).toEqual(rim);
  const narrow = joined(step('join', [at(lidless)], { mend: 'faces', grain: 0.01 }));
  expect(narrow.refused).toMatchObject([{ why: 'open' }]);
  const mended = joined(step('join', [at(lidless)], { mend: 'faces', grain: 1 }));
  expect(mended.refused).toEqual([]);
  expect(exactlyClosed(mended.mesh)).toBe(true);
  expect(solidFacts(mended.mesh).volume! / solidFacts(BALL).volume!).toBeCloseTo(1, 2);

  const inside: Mesh = { ...BOX, indices: BOX.indices.slice().reverse() };
  expect(joined(step('join', [at(inside, 2)])).refused).toMatchObject([
    { why: 'inside-out', marks: [[[2, 1, 0]]] },
  ]);
  expect(solidFacts(joined(step('join', [at(inside)], { mend: 'faces' })).mesh).volume).toBeCloseTo(8, 5);
  const some = BOX.indices.slice();
  for (let i = 0; i < some.length; i += 9) [some[i], some[i + 1]] = [some[i + 1], some[i]];
  const mixed = joined(step('join', [at({ ...BOX, indices: some })], { mend: 'faces' }));
  expect(solidFacts(mixed.mesh).volume).toBeCloseTo(8, 5);

  const cells = joined(step('join', [at(lidless)], { mend: 'voxels', grain: 0.06 }));
  expect(exactlyClosed(cells.mesh)).toBe(true);
  expect(solidFacts(cells.mesh).volume! / solidFacts(BALL).volume!).toBeCloseTo(1, 1);
  expect(joined(step('join', [at(lidless)], { mend: 'voxels', grain: 0.001 })).refused).toMatchObject([
    { why: 'many-cells' },
  ]);
});

test('a body that goes through itself is named, and made anew of voxels on asking; bodies of one mesh may cross', () => {
  // A tube that comes back to where it was, and goes on through itself.
  const way = Array.from({ length: 60 }, (_, i): [number, number, number] => {
    const a = 0.3 + (i / 59) * 2 * Math.PI * 0.99;
    return [Math.sin(a), 0.003 * i, Math.sin(2 * a) / 2];
  });
  const fat = closedTube(way, 0.15, 12, false, BALL.materials[0]);
  expect(joined(step('join', [at(fat)])).refused).toMatchObject([{ why: 'crossing', count: 1 }]);
  expect(
    joined(step('join', [at(BALL), at(BOX), at(madeMesh({ shape: 'torus', radius: 0.5, thickness: 0.2 }))]))
      .refused,
  ).toEqual([]);
  const made = joined(step('join', [at(fat)], { mend: 'voxels', grain: 0.1 }));
  expect(made.refused).toEqual([]);
  expect(exactlyClosed(made.mesh)).toBe(true);
});
