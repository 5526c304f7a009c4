import { newArrangement } from '@/core/arrange/registry';
import { loadPhysics } from '@/core/arrange/release/physics';
import { releaseSchema } from '@/core/arrange/release/schema';
import { Evaluator } from '@/core/evaluate/scene';
import { emptyScene, newProp, newSurface } from '@/core/scene/defaults';
import { shapeSchema } from '@/core/mesh/make/schema';
import type { Scene } from '@/core/scene/schema';
import { builtMesh } from '@/demo/library';

/** Props that are let go, until all is at rest. Run by itself: `npx tsx scripts/bench/falls.ts`. */

const assets = { mesh: (ref: { source: string; name?: string }) => builtMesh(ref.name ?? '') };

/** So many props above a floor, in layers. */
function above(prop: string, count: number, apart: number): Scene {
  const scene = emptyScene('Falling');
  scene.props = [newProp('prop', prop, { source: 'built', name: prop })];
  const shape = shapeSchema.parse({ shape: 'plane', width: 40, depth: 40, columns: 20, rows: 20 });
  scene.surfaces = [newSurface('floor', 'Floor', { source: 'made', shape, color: '#888888' })];
  const pegs = Array.from({ length: count }, (_, i) => ({
    id: `peg${i}`,
    prop: 'prop',
    position: [
      ((i % 7) - 3 + ((i * 7) % 5) * 0.02) * apart,
      0.5 + Math.floor(i / 49) * apart,
      ((Math.floor(i / 7) % 7) - 3 + ((i * 3) % 5) * 0.02) * apart,
    ],
  }));
  const blocks = Array.from({ length: Math.ceil(count / 250) }, (_, b) => pegs.slice(b * 250, b * 250 + 250));
  scene.arrangements = [
    newArrangement(
      'pegs',
      { id: 'pegs', name: 'Heap', thread: 'weld' },
      { pegs: blocks, release: releaseSchema.parse({ seconds: 40, rolling: 0.05 }) },
    ),
  ];
  return scene;
}

await loadPhysics();
for (const [prop, apart] of [
  ['net-float', 0.3],
  ['crate', 1],
  ['tin', 0.2],
] as const) {
  const evaluator = new Evaluator(assets as never);
  const scene = above(prop, 500, apart);
  evaluator.evaluate(scene);
  const began = performance.now();
  const { arrangements } = evaluator.evaluate(scene, undefined, 40);
  const ms = performance.now() - began;
  const { frames } = (
    evaluator as unknown as { falls: { falls: Map<string, { fall: { frames: unknown[] } }> } }
  ).falls.falls.get('pegs')!.fall;
  console.log(
    `500 × ${prop} to rest: ${(ms / 1000).toFixed(1)} s for ${(frames.length / 60).toFixed(1)} s, findings: ${arrangements[0].findings.map((f) => `${f.kind} ${f.detail.count}`).join()}`,
  );
}
