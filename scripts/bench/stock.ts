import { newArrangement } from '@/core/arrange/registry';
import type { Stock } from '@/core/arrange/stock/schema';
import { Evaluator } from '@/core/evaluate/scene';
import { emptyScene, newPath, newPoint, newProp } from '@/core/scene/defaults';
import type { Scene } from '@/core/scene/schema';
import { builtMesh } from '@/demo/library';

/** Stock: a wall of shelves filled, one facing of it changed; bundles in bundles. Run by itself: `npx tsx scripts/bench/stock.ts`. */

const assets = { mesh: (ref: { source: string; name?: string }) => builtMesh(ref.name ?? '') };
const mean = (list: number[]) => [...list].sort((a, b) => a - b)[list.length >> 1];

function wall(shelves: number, length: number, varied: boolean): Scene {
  const scene = emptyScene('Wall');
  scene.props = [newProp('buoy', 'Float', { source: 'built', name: 'buoy' })];
  scene.paths = Array.from({ length: shelves }, (_, k) =>
    newPath(`edge${k}`, 'Edge', [
      newPoint(`a${k}`, 'corner', [0, 1 + (k % 8) * 0.5, -Math.floor(k / 8) * 2]),
      newPoint(`b${k}`, 'corner', [length, 1 + (k % 8) * 0.5, -Math.floor(k / 8) * 2]),
    ]),
  );
  scene.arrangements = [
    newArrangement(
      'stock',
      { id: 'stock', name: 'Stock', thread: 'weld' },
      {
        shelves: scene.paths.map((p, part) => ({
          from: 'path',
          path: p.id,
          part,
          depth: 0.4,
          levels: [{ height: 0.45 }],
        })),
        order: { entries: [{ id: 'e', item: { kind: 'prop', prop: 'buoy' } }] },
        stand: { size: 0.14 },
        ...(varied && { variation: { turnDeg: [-20, 20], size: [0.95, 1] } }),
      },
    ),
  ];
  return scene;
}

for (const varied of [false, true]) {
  const scene = wall(80, 25, varied);
  const times: number[] = [];
  let count = 0;
  for (let k = 0; k < 12; k++) {
    const evaluator = new Evaluator(assets as never);
    const began = performance.now();
    count = evaluator.evaluate(scene).arrangements[0].placements.count;
    times.push(performance.now() - began);
  }
  console.log(`${count} props on 80 edges, ${varied ? 'varied' : 'plain'}: ${mean(times).toFixed(0)} ms`);
}

const scene = wall(12, 25, true);
const evaluator = new Evaluator(assets as never);
let { count } = evaluator.evaluate(scene).arrangements[0].placements;
const times: number[] = [];
for (let k = 0; k < 30; k++) {
  const stock = scene.arrangements[0] as Stock;
  const next = {
    ...scene,
    arrangements: [{ ...stock, byFacing: { [`p3.${k + 5}`]: { deep: 1 + (k % 2) } } }],
  };
  const began = performance.now();
  count = evaluator.evaluate(next).arrangements[0].placements.count;
  times.push(performance.now() - began);
}
console.log(`one facing changed among ${count}: ${mean(times).toFixed(1)} ms`);

/** Bundles three deep: 100 props in each of ten, those ten in each of fifty. */
const row = (id: string, prop: string, count: number, visible: boolean) =>
  newArrangement(
    'run',
    { id, name: id, thread: 'moss' },
    {
      visible,
      paths: [{ path: 'edge0', part: 0 }],
      order: { entries: [{ id: `e ${id}`, item: { kind: 'prop', prop } }] },
      spacing: { mode: 'count', count },
      variation: { turnDeg: [-20, 20] },
    },
  );
const bundleOf = (id: string) => ({
  ...newProp(id, id, { source: 'bundle', bundle: `of ${id}` }),
  foot: { at: 'origin' as const },
});
const holding = (id: string, member: string) => ({
  id: `of ${id}`,
  name: id,
  members: [{ id: member, shown: true }],
  origin: [0, 0, 0] as [number, number, number],
  alike: false,
  open: false,
});
const nested: Scene = {
  ...wall(1, 25, false),
  arrangements: [
    row('tins', 'buoy', 100, false),
    row('boxes', 'box', 10, false),
    row('loads', 'load', 50, true),
  ],
};
nested.props = [...nested.props, bundleOf('box'), bundleOf('load')];
nested.bundles = [holding('box', 'tins'), holding('load', 'boxes')];
const deep: number[] = [];
let inAll = 0;
for (let k = 0; k < 12; k++) {
  const began = performance.now();
  inAll = new Evaluator(assets as never).evaluate(nested).arrangements[2].inside!.count;
  deep.push(performance.now() - began);
}
console.log(`${inAll} props and copies in bundles three deep: ${mean(deep).toFixed(0)} ms`);
