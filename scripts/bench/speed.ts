import { CatmullRomCurve3, Vector3 } from 'three';
import { Bench } from 'tinybench';
import { compilePath } from '@/core/curve/compile';
import { framesAlong } from '@/core/curve/frames';
import { nearestOnPath } from '@/core/curve/nearest';
import { samplePath } from '@/core/curve/sample';
import { evaluateRun } from '@/core/arrange/run/evaluate';
import { Evaluator } from '@/core/evaluate/scene';
import { sheetSchema } from '@/core/arrange/sheet/schema';
import { inBlocks } from '@/core/arrange/pegs/blocks';
import { pegsSchema } from '@/core/arrange/pegs/schema';
import { groundSchema } from '@/core/arrange/steps/schema';
import { random01 } from '@/core/math/random';
import { boxesOverlap, newBoxes, writeBox, type Boxes } from '@/core/mesh/boxes';
import { buildBoxTree, eachPair, type BoxTree } from '@/core/mesh/boxTree';
import { deformerSchema } from '@/core/mesh/deform/schema';
import { shapeSchema } from '@/core/mesh/make/schema';
import { newEntry, newPath, newPoint, newProp, newRun, newSurface } from '@/core/scene/defaults';
import type { Scene } from '@/core/scene/schema';
import { builtMesh } from '@/demo/library';
import { drawBatches } from '@/engine/drawing';
import { ternQuay } from '../examples/ternQuay';

/** Speed as ratios between rows of one run on one machine; the milliseconds are only to read the ratios by. */

const COUNT = 100_000;
const at: [number, number, number][] = Array.from({ length: 50 }, (_, i) => [
  30 * Math.cos(i * 0.7) + i,
  2 * Math.sin(i),
  30 * Math.sin(i * 0.7),
]);
const document = newPath(
  'p',
  'P',
  at.map((p, i) => newPoint(`pt${i}`, 'smooth', p)),
);
const compiled = compilePath(document);
if (!compiled.ok) throw new Error(compiled.problem);
const path = compiled.path;
const s = Float64Array.from({ length: COUNT }, (_, i) => (path.length * i) / (COUNT - 1));
const curve = new CatmullRomCurve3(
  at.map((p) => new Vector3(...p)),
  false,
  'centripetal',
);
const bounds = {
  min: [-0.2, 0, -0.2] as [number, number, number],
  max: [0.2, 1, 0.2] as [number, number, number],
};
const context = { path: () => compiled, prop: () => ({ state: 'ready' as const, bounds }) };
const plain = newRun('r', 'R', 'madder', 'p', [newEntry('e', { kind: 'prop', prop: 'a' })]);
plain.spacing = { ...plain.spacing, mode: 'count', count: COUNT };
const varied = structuredClone(plain);
varied.variation = { ...varied.variation, turnDeg: [-30, 30], size: [0.9, 1.1], side: [-0.1, 0.1] };
varied.gaps = { ...varied.gaps, chance: 0.1 };
const placements = evaluateRun(varied, context).placements;
const assets = {
  mesh: (ref: Parameters<typeof builtMesh>[0] | { source: string; name?: string }) =>
    typeof ref === 'object' && ref.name ? builtMesh(ref.name) : undefined,
};
const quay = ternQuay();
const evaluator = new Evaluator(assets);
let flip = 0;
/** The example with one setting of one run changed, as a drag on a label does. */
const dragged = (): Scene => ({
  ...quay,
  arrangements: quay.arrangements.map((a, i) =>
    i === 0 && a.kind === 'run' ? { ...a, spacing: { ...a.spacing, pitch: 1.5 + (flip++ % 50) / 100 } } : a,
  ),
});

/** A path of 50 points that carries 2,000 props, one of its points dragged. */
const loaded: Scene = (() => {
  const scene = structuredClone(quay);
  const run = newRun('r', 'R', 'madder', 'p', [newEntry('e', { kind: 'prop', prop: quay.props[0].id })]);
  run.spacing = { ...run.spacing, mode: 'count', count: 2000 };
  run.variation = { ...run.variation, turnDeg: [-30, 30], size: [0.9, 1.1] };
  return { ...scene, paths: [structuredClone(document)], arrangements: [run] };
})();
const touching: Scene = {
  ...loaded,
  arrangements: loaded.arrangements.map((a) =>
    a.kind === 'run'
      ? {
          ...a,
          spacing: { ...a.spacing, mode: 'touch' as const },
          facing: { ...a.facing, size: path.length / 2000 / 0.52 },
        }
      : a,
  ),
};
const bending: Scene = {
  ...loaded,
  arrangements: loaded.arrangements.map((a) =>
    a.kind === 'run'
      ? { ...a, spacing: { ...a.spacing, count: 50 }, facing: { ...a.facing, bend: true, size: 4 } }
      : a,
  ),
};
const evaluators = {
  pitch: new Evaluator(assets),
  touch: new Evaluator(assets),
  bent: new Evaluator(assets),
};
const moved = (scene: Scene): Scene => ({
  ...scene,
  paths: scene.paths.map((p) =>
    p.source.kind === 'points'
      ? {
          ...p,
          source: {
            ...p.source,
            points: p.source.points.map((q, i) =>
              i === 20
                ? {
                    ...q,
                    position: [q.position[0], (flip++ % 40) / 20, q.position[2]] as [number, number, number],
                  }
                : q,
            ),
          },
        }
      : p,
  ),
});

/** 2,000 props landing on a ground of 200,000 triangles, a point of their path dragged. */
const hilly = (columns: number, rows: number) => {
  const surface = newSurface('hills', 'Hills', {
    source: 'made',
    shape: shapeSchema.parse({ shape: 'hills', width: 120, depth: 120, columns, rows }),
    color: '#D8CDB6',
  });
  return surface;
};
const landing = (contact: 'foot' | 'lowest' | 'footprint'): Scene => ({
  ...loaded,
  surfaces: [hilly(400, 250)],
  arrangements: loaded.arrangements.map((a) =>
    a.kind === 'run'
      ? { ...a, ground: groundSchema.parse({ mode: 'land', contact, lean: 1, above: 50 }) }
      : a,
  ),
});
const landings = { foot: landing('foot'), lowest: landing('lowest'), footprint: landing('footprint') };
/** 10,000 pegs on 100,000 triangles that wave; what the wave alone costs is its own row. */
const waving = (pegs: number): Scene => ({
  ...loaded,
  paths: [],
  surfaces: [
    {
      ...hilly(250, 200),
      deformers: [deformerSchema.parse({ id: 'w', kind: 'wave', length: 9 })],
    },
  ],
  arrangements: [
    pegsSchema.parse({
      id: 'pegs',
      kind: 'pegs',
      name: 'Pegs',
      thread: 'woad',
      pegs: inBlocks(
        Array.from({ length: pegs }, (_, i) => ({
          id: `peg${i + 1}`,
          prop: quay.props[0].id,
          position: [0, 0, 0],
          pin: { surface: 'hills', face: (i * 7) % 100000, u: 0.3, v: 0.3, faces: 100000 },
        })),
      ),
    }),
  ],
});
const grounds = {
  foot: new Evaluator(assets),
  lowest: new Evaluator(assets),
  footprint: new Evaluator(assets),
  bare: new Evaluator(assets),
  pegged: new Evaluator(assets),
};
let tick = 0;
/** Sheets of tiles whose left margin is dragged: round the tower, or over hills. */
const tiled = (grid: object, facing: object, over: 'tower' | 'hills' = 'tower'): Scene => ({
  ...loaded,
  paths: [],
  props: [newProp('tile', 'Tile', { source: 'built', name: 'scallop-tile' })],
  surfaces: [
    over === 'tower'
      ? newSurface('s', 'S', { source: 'built', name: 'tower' })
      : { ...hilly(64, 64), id: 's' },
  ],
  arrangements: [
    sheetSchema.parse({
      id: 'sheet',
      kind: 'sheet',
      name: 'Sheet',
      thread: 'woad',
      surface: 's',
      order: { entries: [{ id: 'e', item: { kind: 'prop', prop: 'tile' } }] },
      grid: { ...grid, left: 0.01 + (tick++ % 50) / 1000 },
      facing,
    }),
  ],
});
const sheets = { rigid: new Evaluator(assets), bent: new Evaluator(assets) };
const [bare, pegged] = [waving(1), waving(10000)];
for (const contact of ['foot', 'lowest', 'footprint'] as const) grounds[contact].evaluate(landings[contact]);

/** So many boxes of half a metre, strewn so that each meets about one other. */
const strewn = (count: number, wide: number): Boxes => {
  const boxes = newBoxes(count);
  const own = { min: [-0.25, 0, -0.25], max: [0.25, 0.5, 0.25] };
  const [position, rotation, scale] = [new Float64Array(3), new Float64Array(4), Float64Array.of(1, 1, 1)];
  for (let i = 0; i < count; i++) {
    const [x, z, turn] = [0, 1, 2].map((k) => random01(i, k, 1));
    position.set([x * wide, 0, z * wide]);
    rotation.set([0, Math.sin(turn), 0, Math.cos(turn)]);
    writeBox(boxes, i, own, { position, rotation, scale }, 0);
  }
  return boxes;
};
const crowd = strewn(COUNT, 250);
const crowdTree = buildBoxTree(crowd);
const overlapsIn = (a: BoxTree, b: BoxTree): number => {
  let met = 0;
  eachPair(a, b, (i, j) => (met += boxesOverlap(a.boxes, i, b.boxes, j, 1e-6) ? 1 : 0));
  return met;
};

const THREE_ROW = 'three: getSpacedPoints + computeFrenetFrames';
const bench = new Bench({ time: 600, warmupTime: 150, iterations: 3 });
bench
  .add(THREE_ROW, () => {
    curve.updateArcLengths();
    curve.getSpacedPoints(COUNT - 1);
    curve.computeFrenetFrames(COUNT - 1, false);
  })
  .add('ours: positions and bank frames (no flips, exact lengths)', () => void framesAlong(path, s, 'bank'))
  .add('ours: positions and upright frames', () => void framesAlong(path, s, 'upright'))
  .add('ours: positions alone', () => void samplePath(path, s))
  .add('a whole run of 100,000 slots, plain', () => void evaluateRun(plain, context))
  .add('a whole run of 100,000 slots, varied, with gaps', () => void evaluateRun(varied, context))
  .add('instance matrices of 100,000 slots', () => void drawBatches(placements))
  .add('compile a path of 50 points', () => void compilePath(document))
  .add('1,000 nearest points', () => {
    for (let i = 0; i < 1000; i++) nearestOnPath(path, [Math.sin(i) * 40, 1, Math.cos(i * 1.3) * 40]);
  })
  .add('a point dragged on a path with 2,000 props', () => void evaluators.pitch.evaluate(moved(loaded)))
  .add(
    'a point dragged, about 2,000 props end to end and evened out',
    () => void evaluators.touch.evaluate(moved(touching)),
  )
  .add(
    '2,000 props land on 200,000 triangles by their foot, a point dragged',
    () => void grounds.foot.evaluate(moved(landings.foot)),
  )
  .add('… by their lowest point', () => void grounds.lowest.evaluate(moved(landings.lowest)))
  .add('… by their footprint', () => void grounds.footprint.evaluate(moved(landings.footprint)))
  .add('50 bent props of 252 triangles, a point dragged', () => void evaluators.bent.evaluate(moved(bending)))
  .add(
    'a sheet of 10,000 rigid tiles round a tower, a margin dragged',
    () => void sheets.rigid.evaluate(tiled({ columns: 100, rows: 100 }, {})),
  )
  .add(
    'a sheet of 200 tiles bent to hills, a margin dragged',
    () => void sheets.bent.evaluate(tiled({ columns: 20, rows: 10 }, { bend: true, size: 2 }, 'hills')),
  )
  .add('100,000 boxes, every two that overlap', () => {
    const tree = buildBoxTree(crowd);
    overlapsIn(tree, tree);
  })
  .add('2,000 boxes against these', () => void overlapsIn(buildBoxTree(strewn(2000, 250)), crowdTree))
  .add('100,000 triangles wave, one peg', () => void grounds.bare.evaluate(bare, undefined, tick++ / 30))
  .add(
    '100,000 triangles wave, 10,000 pegs',
    () => void grounds.pegged.evaluate(pegged, undefined, tick++ / 30),
  )
  .add('tern-quay from nothing', () => void new Evaluator(assets).evaluate(quay))
  .add('tern-quay, one setting dragged', () => void evaluator.evaluate(dragged()));
await bench.run();

const mean = (name: string) => {
  const result = bench.getTask(name)?.result as { latency?: { mean: number } } | undefined;
  return result?.latency?.mean ?? NaN;
};
const base = mean(THREE_ROW);
console.log('| 100,000 slots unless said otherwise | ms | times three |');
console.log('|---|---:|---:|');
for (const task of bench.tasks) {
  const ms = mean(task.name);
  console.log(
    `| ${task.name} | ${ms.toFixed(ms < 1 ? 3 : 1)} | ${(ms / base).toFixed(ms / base < 0.01 ? 4 : 2)} |`,
  );
}
