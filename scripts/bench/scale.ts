import 'fake-indexeddb/auto';
import { performance } from 'node:perf_hooks';
import { inBlocks } from '@/core/arrange/pegs/blocks';
import { pegsSchema } from '@/core/arrange/pegs/schema';
import { deformerSchema } from '@/core/mesh/deform/schema';
import { shapeSchema } from '@/core/mesh/make/schema';
import { emptyScene, newEntry, newPath, newPoint, newProp, newRun, newSurface } from '@/core/scene/defaults';
import type { Scene } from '@/core/scene/schema';
import { towerOn } from '@/core/testing/scene';
import { Mirror } from '@/engine/mirror';
import { Told } from '@/engine/served';
import { EngineService } from '@/engine/service';
import { setPegs } from '@/store/commands/pegs';
import { setStep } from '@/store/commands/arrangements';
import { dispatch, onChange, openDocument, useDocument } from '@/store/document';
import { KeepingDatabase } from '@/store/keeping/database';
import { appendSteps } from '@/store/keeping/log';
import { createScene } from '@/store/keeping/scenes';
import type { Step } from '@/store/steps';

/** What a change costs in a large scene, as a ratio to the same in a small one: the aim is not to grow. */

/** A waving flag with pegs on it, pegs that stand free, and runs on paths of their own. */
function sceneOf(pegs: number, runs: number): Scene {
  const scene = emptyScene('Scale');
  scene.props = [newProp('prop', 'Bollard', { source: 'built', name: 'bollard' })];
  scene.surfaces = [
    {
      ...newSurface('flag', 'Flag', {
        source: 'made',
        shape: shapeSchema.parse({ shape: 'plane', width: 4, depth: 2, columns: 12, rows: 6 }),
        color: '#D8CDB6',
      }),
      deformers: [deformerSchema.parse({ id: 'w', kind: 'wave', length: 1 })],
    },
  ];
  scene.paths = Array.from({ length: runs }, (_, i) =>
    newPath(`path${i}`, `Path ${i}`, [
      newPoint(`a${i}`, 'corner', [0, 0, i]),
      newPoint(`b${i}`, 'corner', [5, 0, i]),
    ]),
  );
  const many = (id: string, count: number, pin: boolean) =>
    pegsSchema.parse({
      id,
      kind: 'pegs',
      name: id,
      thread: 'woad',
      pegs: inBlocks(
        Array.from({ length: count }, (_, i) => ({
          id: `${id}${i + 1}`,
          prop: 'prop',
          position: [i % 300, 0, Math.floor(i / 300)],
          ...(pin && { pin: { surface: 'flag', face: i % 144, u: 0.3, v: 0.3, faces: 144 } }),
        })),
      ),
    });
  scene.arrangements = [
    ...Array.from({ length: runs }, (_, i) => ({
      ...newRun(`run${i}`, `Run ${i}`, 'madder', `path${i}`, [
        newEntry(`entry${i}`, { kind: 'prop', prop: 'prop' }),
      ]),
      ground: { ...newRun('x', 'x', 'madder', null, []).ground, mode: 'none' as const },
    })),
    many('pinned', 10, true),
    many('free', pegs, false),
  ];
  scene.nextId = 1_000_000;
  return scene;
}

/** A scene that is open as it is in the application: page, worker and disk, the journeys between them as copies. */
async function opened(scene: Scene) {
  const db = new KeepingDatabase(`bench-${Math.random()}`);
  const id = await createScene(scene, 'tab', undefined, db);
  const service = new EngineService();
  const mirror = new Mirror();
  const told = new Told();
  let at = 0;
  let time = 0;
  let record = 0;
  let last: Step | undefined;
  openDocument(id, scene);
  const { past, future } = useDocument.getState();
  mirror.whole(structuredClone(scene), 0);
  service.evaluate(mirror.scene(0), told);
  let tick = 0;
  const change = (make: (n: number) => void) => {
    useDocument.setState({ scene: current, past, future });
    const stop = onChange((c) => {
      if (c.kind !== 'step') return;
      last = c.step;
      mirror.change(structuredClone(c.patches), at, ++at);
    });
    make(tick++);
    stop();
    current = useDocument.getState().scene;
    return structuredClone(service.evaluate(mirror.scene(at), told, undefined, time));
  };
  let current = scene;
  return {
    setting: () =>
      change((n) =>
        dispatch(setStep, { id: 'run3', step: 'spacing', values: { pitch: 1 + (n % 50) / 100 } }),
      ),
    peg: () =>
      change((n) => dispatch(setPegs, { id: 'free', values: { free5: { position: [n % 9, 0, 1] } } })),
    frame: () => structuredClone(service.evaluate(mirror.scene(at), told, undefined, (time += 1 / 30))),
    save: () => appendSteps({ id, tab: 'tab', at: ++record }, [last!], 'Scale', undefined, db),
  };
}

/** The median of what a deed takes, milliseconds. */
async function median(deed: () => unknown, times = 200): Promise<number> {
  const all: number[] = [];
  for (let i = 0; i < times; i++) {
    const start = performance.now();
    await deed();
    all.push(performance.now() - start);
  }
  return all.sort((a, b) => a - b)[times >> 1];
}

const tower = (deep: number) => towerOn(sceneOf(10, 10), deep);

const small = await opened(sceneOf(10, 10));
const deeds = ['setting', 'peg', 'frame', 'save'] as const;
const before = {} as Record<(typeof deeds)[number], number>;
for (const deed of deeds) before[deed] = await median(small[deed]);
const large = await opened(sceneOf(100_000, 1000));
const after = {} as typeof before;
for (const deed of deeds) after[deed] = await median(large[deed]);
const open = (scene: Scene) => median(() => new EngineService().evaluate(scene, new Told()), 12);
const [ten, hundred] = [await open(tower(10)), await open(tower(100))];

const WORDS = {
  setting: 'one setting of a run',
  peg: 'one peg moved',
  frame: 'a frame of playing, a flag with ten pegs on it',
  save: 'a save',
};
console.log('| beside 100,000 pegs and 1,000 runs | ms | times the same beside 10 and 10 |');
console.log('|---|---:|---:|');
for (const deed of deeds)
  console.log(`| ${WORDS[deed]} | ${after[deed].toFixed(2)} | ${(after[deed] / before[deed]).toFixed(1)} |`);
console.log(
  `| 100 riders on each other opened, beside ten times 10 | ${hundred.toFixed(1)} | ${(hundred / ten / 10).toFixed(2)} |`,
);
