import { stampsOf } from '@/core/evaluate/stamps/laidRows';
import { bakedSchema } from '@/core/mesh/bake/bakeSchema';
import { baking } from '@/core/mesh/bake/baking';
import { loadTangents } from '@/core/mesh/bake/tangents';
import { thingsOf } from '@/core/mesh/bake/things';
import { firstHit, noHit } from '@/core/mesh/bvhQuery';
import { makeMesh } from '@/core/mesh/make';
import { shapeSchema } from '@/core/mesh/make/schema';
import type { PlacedMesh } from '@/core/mesh/merged';
import { keptBounds, propMatrix, type Mesh } from '@/core/mesh/mesh';
import { meshRefSchema, type Stamp } from '@/core/mesh/meshRef';
import { stampGround } from '@/core/mesh/stamp/laid';
import { stampLayers } from '@/core/mesh/stamp/layers';
import { makeTriMesh, type TriMesh } from '@/core/mesh/triMesh';
import { builtMesh } from '@/demo/library';

/** Maps: 4,000 stitches baked, and laid anew as stamps while their cloth moves. Run by itself: `npx tsx scripts/bench/maps.ts`. */

const timed = <T>(work: () => T): [ms: number, made: T] => {
  const began = performance.now();
  const result = work();
  return [performance.now() - began, result];
};
const line = (what: string, ms: number, reference: string, by: number) =>
  console.log(
    `${what.padEnd(58)} ${ms.toFixed(1).padStart(9)} ms  ${(ms / by).toFixed(2).padStart(7)} of ${reference}`,
  );
function all<T>(work: Generator<unknown, T>): T {
  for (;;) {
    const next = work.next();
    if (next.done) return next.value;
  }
}

await loadTangents();
const SIDE = 6;
const cloth = makeMesh(
  shapeSchema.parse({ shape: 'plane', width: SIDE, depth: SIDE, columns: 100, rows: 100 }),
  '#D8CDB6',
  {
    path: () => undefined,
  },
) as Mesh;
const standing = (move: number): TriMesh & { uvs: Float32Array } => {
  const positions = Float64Array.from(cloth.positions);
  for (let i = 0; i < positions.length; i += 3) positions[i + 1] = 0.1 * Math.sin(2 * positions[i] + move);
  return makeTriMesh({
    positions,
    normals: Float64Array.from(cloth.normals),
    indices: cloth.indices,
    uvs: cloth.uvs!,
  }) as never;
};
const places = Array.from({ length: 4000 }, (_, i) => {
  const [row, k] = [Math.floor(i / 80), i % 80];
  return [((k + 0.5) / 80 - 0.5) * SIDE * 0.98, ((row + 0.5) / 50 - 0.5) * SIDE * 0.98];
});

const stitch = builtMesh('stitch')!;
const own = propMatrix({ unitScale: 1, foot: { at: 'base' }, front: '+z', up: '+y' }, keptBounds(stitch));
const parts = places.map(([x, z]): PlacedMesh => {
  const matrix = own.slice();
  matrix[12] += x;
  matrix[13] += 0.1 * Math.sin(2 * x);
  matrix[14] += z;
  return { mesh: stitch, matrix, wears: undefined, of: 'stitch' };
});
const surface = standing(0);
const things = thingsOf(
  parts,
  parts.map(() => 1),
);
const job = { surface, own: new Float32Array(surface.indices.length * 3).fill(1), things };
const rays = (n: number) => {
  const hit = noHit();
  const tree = surface.tree();
  for (let i = 0; i < n; i++)
    firstHit(
      tree,
      ((i * 0.618) % 1) * SIDE - SIDE / 2,
      1,
      ((i * 0.414) % 1) * SIDE - SIDE / 2,
      0,
      -1,
      0,
      0,
      9,
      hit,
    );
};
rays(1000);
const [million] = timed(() => rays(1_000_000));
const bake = (settings: object) =>
  timed(() => all(baking(job, bakedSchema.parse({ reach: 0.2, ...settings }))))[0];
line(
  '4,000 stitches, 2048², normals and colours',
  bake({ size: 2048, maps: ['normal', 'color'] }),
  '4,200,000 rays',
  million * 4.2,
);
line(
  'the same, 512² with 16 rays of occlusion',
  bake({ size: 512, maps: ['occlusion'] }),
  '4,200,000 rays',
  million * 4.2,
);

const stamp = meshRefSchema.parse({ source: 'stamp', width: 0.03, length: 0.1 }) as Stamp;
const n = places.length;
const placements = {
  count: n,
  slot: Float64Array.from({ length: n }, (_, i) => i),
  state: new Uint8Array(n),
  prop: new Int32Array(n),
  props: ['p'],
  position: new Float64Array(n * 3),
  rotation: Float64Array.from({ length: n * 4 }, (_, i) => Number(i % 4 === 3)),
  scale: new Float64Array(n * 3).fill(1),
  s: new Float64Array(n),
};
const unit = Float64Array.of(1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1);
const times: number[] = [];
let layers = 0;
for (let frame = 0; frame < 40; frame++) {
  const now = standing(frame * 0.1);
  places.forEach(([x, z], i) => placements.position.set([x, 0.1 * Math.sin(2 * x + frame * 0.1), z], i * 3));
  // Its tree is there already: what stands on it has asked.
  now.tree();
  const [ms] = timed(() => {
    const laid = stampsOf(
      placements,
      () => ({ stamp, matrix: unit }),
      () => [stampGround('s', now)!],
    )!;
    layers += stampLayers([{ numbers: laid.on[0].numbers, pictures: [0], layers: [0] }]).count;
  });
  times.push(ms);
}
line(
  '4,000 stamps laid anew while a cloth moves, a frame',
  times.sort((a, b) => a - b)[20],
  '4,000 rays',
  (million * 4) / 1000,
);
if (layers !== 40 * 4000) throw new Error('Some lie nowhere.');
