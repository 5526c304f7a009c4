import { BoxGeometry, Group, InstancedMesh, Matrix4, MeshBasicMaterial } from 'three';
import { BLOCK } from '@/engine/blocks';
import type { ServedArrangement } from '@/engine/served';
import type { InstancePick } from '../pick';
import type { Drawing } from './DrawnBatch';
import { Pools } from './Pools';

const drawn = {
  geometry: new BoxGeometry(1, 1, 1),
  materials: [new MeshBasicMaterial()],
  looks: [],
  colored: false,
};

/** An arrangement of so many props in a row along Z, at x, its slots numbered from 1. */
function drawing(arrangement: string, x: number, count: number, tinted = false): Drawing {
  const matrices = Float32Array.from(
    Array.from({ length: count }, (_, i) => new Matrix4().makeTranslation(x, 0, i).elements).flat(),
  );
  const rows = Uint32Array.from(Array(count).keys());
  return {
    arrangement,
    drawn,
    distortion: false,
    batch: {
      prop: 'p',
      mirrored: false,
      matrices,
      rows,
      ...(tinted && { tints: new Float32Array(count * 3).fill(0.5) }),
    },
    result: { placements: { slot: Float64Array.from(rows, (r) => r + 1) } } as ServedArrangement,
  };
}

/** Every instance that is drawn: which slot of which arrangement the pointer meets there, and its x and z. */
const drawnNow = (group: Group) =>
  group.children.flatMap((child) => {
    const mesh = child as InstancedMesh;
    const pick = mesh.userData.pick as InstancePick;
    return Array.from({ length: mesh.count }, (_, i) => {
      const m = new Matrix4().fromArray(mesh.instanceMatrix.array, i * 16).elements;
      const { arrangement, slot } = pick(i);
      return `${arrangement} ${slot}: ${m[12]} ${m[14]}`;
    });
  });

const all = (list: [string, number, number][]) =>
  list
    .flatMap(([name, x, count]) => Array.from({ length: count }, (_, i) => `${name} ${i + 1}: ${x} ${i}`))
    .sort();

test('a thousand arrangements of one prop are few meshes; each instance is still met as its own', () => {
  const group = new Group();
  const pools = new Pools(group);
  const list = Array.from({ length: 1000 }, (_, i): [string, number, number] => [`a${i}`, i, 40]);
  for (const [name, x, count] of list) pools.put(name, drawing(name, x, count));
  expect(group.children.length).toBeLessThanOrEqual(Math.ceil(40_000 / (BLOCK - 40)));
  expect(drawnNow(group).sort()).toEqual(all(list));
});

test('moved, grown, shrunk, tinted and gone: only what is there is drawn, and its bounds hold it', () => {
  const group = new Group();
  const pools = new Pools(group);
  pools.put('a', drawing('a', 0, 5));
  pools.put('b', drawing('b', 1, 3));
  pools.put('c', drawing('c', 2, 4));
  pools.put('b', drawing('b', 7, 3));
  pools.put('a', drawing('a', 0, 2));
  pools.put('c', drawing('c', 2, 200, true));
  expect(drawnNow(group).sort()).toEqual(
    all([
      ['a', 0, 2],
      ['b', 7, 3],
      ['c', 2, 200],
    ]),
  );
  const [mesh] = group.children as InstancedMesh[];
  expect(mesh.boundingBox!.min.toArray()).toEqual([-0.5, -0.5, -0.5]);
  expect(mesh.boundingBox!.max.toArray()).toEqual([7.5, 0.5, 199.5]);
  const tints = [...(mesh.instanceColor!.array as Float32Array)].slice(0, mesh.count * 3);
  expect([tints.filter((t) => t === 1).length, tints.filter((t) => t === 0.5).length]).toEqual([15, 600]);
  for (const gone of ['a', 'c', 'nothing']) pools.remove(gone);
  expect(drawnNow(group)).toEqual(['b 1: 7 0', 'b 2: 7 1', 'b 3: 7 2']);
  pools.remove('b');
  expect(group.children).toEqual([]);
});
