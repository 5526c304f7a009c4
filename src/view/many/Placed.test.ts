import { BoxGeometry, Group, InstancedMesh, MeshBasicMaterial } from 'three';
import { newArrangement, type Arrangement } from '@/core/arrange/registry';
import { newProp } from '@/core/scene/defaults';
import type { ServedArrangement } from '@/engine/served';
import type { DrawnMesh } from '../sceneMeshes';
import { Placed, type Look } from './Placed';
import { FEW } from './Pools';

jest.mock('@/store/engine', () => ({ engine: () => ({ bytesOf: () => undefined }) }));

const run = (id: string): Arrangement =>
  newArrangement('run', { id, name: id, thread: 'woad' }, { paths: [], order: { entries: [] } });
const mesh = (): DrawnMesh =>
  ({ geometry: new BoxGeometry(), materials: [new MeshBasicMaterial()], looks: [], colored: false }) as never;
const result = (count: number): ServedArrangement => {
  const rows = Uint32Array.from(Array(count).keys());
  const matrices = Float32Array.from({ length: count * 16 }, (_, i) => (i % 5 === 0 ? 1 : 0));
  return {
    placements: { slot: Float64Array.from(rows, (r) => r + 1) },
    batches: [{ prop: 'p', mirrored: false, matrices, rows }],
  } as never;
};

/** What is drawn, one count a mesh. */
const counts = (group: Group): number[] => group.children.map((o) => (o as InstancedMesh).count).sort();

test('of many only what has changed is looked at again; hidden, gone, many or dimmed ones are drawn as they are now', () => {
  const group = new Group();
  const placed = new Placed(group);
  const put = jest.spyOn(placed.pools, 'put');
  const look: Look = {
    props: [newProp('p', 'P', { source: 'built', name: 'crate' })],
    materials: [],
    meshes: new Map(),
    opened: null,
    distortion: false,
  };
  let runs = Array.from({ length: 50 }, (_, i) => run(`run${i}`));
  const results = new Map(runs.map((a) => [a.id, result(3)]));
  /** @returns how many were looked at */
  const show = (now: Look = look): number => {
    put.mockClear();
    placed.show(runs, results, now, () => {});
    return put.mock.calls.length;
  };
  // Its mesh is not there yet, and comes.
  expect([show(), counts(group)]).toEqual([0, []]);
  look.meshes = new Map([['p', mesh()]]);
  expect([show(), counts(group)]).toEqual([50, [150]]);
  expect(show()).toBe(0);
  results.set('run7', result(5));
  expect([show(), counts(group)]).toEqual([1, [152]]);
  // Hidden, shown again, gone.
  const [first, ...others] = runs;
  runs = [{ ...first, visible: false }, ...others];
  expect([show(), counts(group)]).toEqual([0, [149]]);
  runs = [first, ...others];
  expect([show(), counts(group)]).toEqual([1, [152]]);
  runs = others;
  expect([show(), counts(group)]).toEqual([0, [149]]);
  // More than are drawn with others, and few again.
  results.set('run8', result(FEW + 1));
  expect([show(), counts(group)]).toEqual([0, [146, FEW + 1]]);
  results.set('run8', result(1));
  expect([show(), counts(group)]).toEqual([1, [147]]);
  // What all are drawn by: a prop that is another, a bundle that is open.
  expect(show({ ...look, props: [...look.props] })).toBe(49);
  expect(show({ ...look, opened: new Set(['run9']) })).toBe(1);
  expect(counts(group).reduce((sum, n) => sum + n)).toBe(147);
  expect([...placed.alone.keys()]).toHaveLength(48);
});
