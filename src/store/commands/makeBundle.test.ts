import { allPegs, inBlocks } from '@/core/arrange/pegs/blocks';
import type { Pegs } from '@/core/arrange/pegs/schema';
import { newArrangement } from '@/core/arrange/registry';
import type { Stock } from '@/core/arrange/stock/schema';
import { Evaluator } from '@/core/evaluate/scene';
import { keptBounds, propMatrix } from '@/core/mesh/mesh';
import { surfaceMatrix, through } from '@/core/mesh/surface';
import { surfaceAsProp } from '@/core/mesh/surfaceAsProp';
import { newProp, newSurface } from '@/core/scene/defaults';
import { applyPatches } from '@/core/scene/patch';
import { sceneSchema, type Scene } from '@/core/scene/schema';
import { exampleScene } from '@/core/testing/scene';
import { quatRotate } from '@/core/math/quat';
import { builtMesh } from '@/demo/library';
import { applyCommand } from '../command';
import { makeBundle } from './makeBundle';

/** What goes into a bundle beside arrangements: racks that are filled, surfaces, and single placed props. */

const ASSETS = { mesh: (ref: { source: string; name?: string }) => builtMesh(ref.name ?? '') } as never;
const RACK = {
  ...newSurface('wall', 'Rack', { source: 'built', name: 'wall-rack' }),
  position: [2, 0.5, -1] as [number, number, number],
  turnDeg: 35,
  tipDeg: 4,
  rollDeg: -3,
  size: 1.25,
};
const base = { name: 'x', thread: 'moss' as const };

function done(scene: Scene, args: Parameters<typeof makeBundle.apply>[1]) {
  const { scene: next, entry, made, refused } = applyCommand(scene, makeBundle, args);
  expect(refused).toBeNull();
  expect(sceneSchema.safeParse(next).success).toBe(true);
  expect(applyPatches(next, entry!.inverse).value).toEqual(scene);
  return { scene: next, made: made! };
}

test.each(['+y', '-y', '+z', '-z', '+x'] as const)('a surface with up %s is the same as a prop', (up) => {
  const surface = { ...RACK, up, unitScale: 0.7 };
  const { lies, place } = surfaceAsProp(surface)!;
  const mesh = builtMesh('wall-rack')!;
  const [as, own] = [surfaceMatrix(surface), propMatrix(lies, keptBounds(mesh))];
  for (let o = 0; o < mesh.positions.length; o += 3) {
    const p = [...mesh.positions.subarray(o, o + 3)] as [number, number, number];
    const there = quatRotate(place.rotation, through(own, p)).map(
      (v, a) => v * place.scale[a] + place.position[a],
    );
    through(as, p).forEach((v, a) => expect(there[a]).toBeCloseTo(v, 9));
  }
  expect(surfaceAsProp({ ...surface, mesh: { source: 'made', shape: {} } as never })).toBeNull();
});

test.each(['+z', '-z'] as const)(
  'stock on a rack (front %s) takes the rack along, and stands as it stood',
  (front) => {
    const stock = newArrangement(
      'stock',
      { id: 'stock', ...base },
      {
        shelves: [{ from: 'surface', surface: 'wall', part: 0, front }],
        order: { entries: [{ id: 'e', item: { kind: 'prop', prop: 'tin' } }] },
        variation: { turnDeg: [-30, 30] },
      },
    );
    const scene: Scene = {
      ...exampleScene(),
      props: [newProp('tin', 'Tin', { source: 'built', name: 'tin' })],
      paths: [],
      surfaces: [RACK],
      arrangements: [stock],
    };
    const before = new Evaluator(ASSETS).evaluate(scene).arrangements[0].placements;
    expect(before.count).toBeGreaterThan(20);
    const { scene: after, made } = done(scene, { members: ['stock'], name: 'Full rack', origin: [0, 0, 0] });
    expect(after.surfaces).toEqual([]);
    const result = new Evaluator(ASSETS).evaluate(after);
    const now = result.arrangements.find((a) => a.id === 'stock')!.placements;
    expect([...now.slot]).toEqual([...before.slot]);
    before.position.forEach((v, i) => expect(now.position[i]).toBeCloseTo(v, 9));
    const copies = result.arrangements.find((a) => a.id === made.split(' ')[1])!;
    // The rack and all that stands on it.
    expect(copies.inside!.count).toBe(before.count + 1);
    expect(copies.inside!.props).toContain(after.props.find((p) => p.name === 'Rack')!.id);
  },
);

test('a rack that something else names stays, hidden', () => {
  const scene: Scene = {
    ...exampleScene(),
    surfaces: [RACK],
    arrangements: [
      newArrangement(
        'stock',
        { id: 'stock', ...base },
        { shelves: [{ from: 'surface', surface: 'wall', part: 0 }] },
      ),
      newArrangement(
        'stock',
        { id: 'other', ...base },
        { shelves: [{ from: 'surface', surface: 'wall', part: 0 }] },
      ),
    ],
  };
  const { scene: after } = done(scene, { members: ['stock'], name: 'Rack', origin: [0, 0, 0] });
  expect(after.surfaces.map((s) => [s.id, s.visible])).toEqual([['wall', false]]);
  const shelf = (id: string) => (after.arrangements.find((a) => a.id === id) as Stock).shelves[0].from;
  expect([shelf('stock'), shelf('other')]).toEqual(['prop', 'surface']);
});

test('single placed props leave their arrangement for the bundle', () => {
  const peg = (n: number) => ({
    id: `peg${n}`,
    prop: 'prop1',
    position: [n, 0, 0] as [number, number, number],
  });
  const scene: Scene = {
    ...exampleScene(),
    arrangements: [
      newArrangement('pegs', { id: 'some', ...base }, { pegs: inBlocks([1, 2, 3].map(peg) as never) }),
    ],
  };
  const loose = {
    arrangement: 'some',
    slots: [1, 3],
    pegs: [1, 3].map((n) => {
      const { id: _, ...is } = allPegs((scene.arrangements[0] as Pegs).pegs)[n - 1];
      return is;
    }),
  };
  const { scene: after } = done(scene, { members: [], loose, name: 'Two', origin: [2, 0, 0] });
  expect(allPegs((after.arrangements[0] as Pegs).pegs).map((p) => p.id)).toEqual(['peg2']);
  const [member] = after.bundles[0].members;
  const held = after.arrangements.find((a) => a.id === member.id) as Pegs;
  expect([held.visible, allPegs(held.pegs).map((p) => p.position[0])]).toEqual([false, [1, 3]]);
});
