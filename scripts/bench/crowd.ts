import { newPoses } from '@/core/arrange/poses/schema';
import { Evaluator } from '@/core/evaluate/scene';
import { emptyScene, newEntry, newPath, newPoint, newProp, newRun, newSurface } from '@/core/scene/defaults';
import { newTravel } from '@/core/arrange/travel/schema';
import { shapeSchema } from '@/core/mesh/make/schema';
import type { Scene } from '@/core/scene/schema';
import { builtMesh, builtMotion } from '@/demo/library';

/** Ten thousand walkers, frame after frame. Run by itself: `npx tsx scripts/bench/crowd.ts`. */

const WALKERS = 10_000;
const assets = {
  mesh: (ref: { name?: string }) => builtMesh(ref.name ?? ''),
  motion: (ref: { name?: string }) => builtMotion(ref.name ?? ''),
};

/** Walkers along a winding path over hills. */
function crowd(lands: boolean): Scene {
  const scene = emptyScene('Crowd');
  scene.props = [newProp('prop', 'Skipper', { source: 'built', name: 'skipper' })];
  const shape = shapeSchema.parse({ shape: 'hills', width: 200, depth: 200, columns: 128, rows: 128 });
  scene.surfaces = [newSurface('hills', 'Hills', { source: 'made', shape, color: '#888888' })];
  const at = Array.from({ length: 60 }, (_, i): [number, number, number] => [
    -85 + 3 * i,
    4,
    60 * Math.sin(i * 1.1) * (i % 2 ? 1 : -1),
  ]);
  scene.paths = [
    newPath(
      'way',
      'Way',
      at.map((p, i) => newPoint(`p${i}`, 'smooth', p)),
    ),
  ];
  const run = newRun('run', 'Walkers', 'woad', 'way', [newEntry('e', { kind: 'prop', prop: 'prop' })]);
  run.spacing = { ...run.spacing, mode: 'count', count: WALKERS };
  run.pulley = { ...run.pulley, speed: 1.2, ends: 'wrap' };
  run.poses = newPoses();
  if (lands) run.ground = { ...run.ground, mode: 'land', contact: 'foot', surfaces: ['hills'] };
  scene.arrangements = [run];
  return scene;
}

function frames(name: string, scene: Scene): void {
  const evaluator = new Evaluator(assets as never);
  for (let k = 0; k < 5; k++) evaluator.evaluate(scene, undefined, k / 25);
  const times = Array.from({ length: 20 }, (_, k) => {
    const began = performance.now();
    evaluator.evaluate(scene, undefined, 1 + k / 25);
    return performance.now() - began;
  }).sort((a, b) => a - b);
  const { pose } = evaluator.evaluate(scene, undefined, 2).arrangements[0].placements;
  console.log(
    `${name}: ${times[10].toFixed(1)} ms a frame (${times[0].toFixed(1)}–${times[19].toFixed(1)}), poses ${new Set(pose).size}`,
  );
}

frames(`${WALKERS} walkers on a path`, crowd(false));
frames(`${WALKERS} walkers on hills by foot`, crowd(true));
const over = crowd(false);
over.arrangements[0] = {
  ...over.arrangements[0],
  travel: { ...newTravel(), surface: 'hills', u: { by: 0, speed: 1 }, border: 'around', steers: true },
} as never;
frames(`${WALKERS} over hills in u`, over);
