import 'fake-indexeddb/auto';
import fc from 'fast-check';
import { cases, SEED } from '@/core/testing/prove';
import { exampleScene, firstRun } from '@/core/testing/scene';
import { setStep } from '../commands/arrangements';
import { setScene } from '../commands/scene';
import {
  cancelGesture,
  dispatch,
  onChange,
  openDocument,
  redo,
  setView,
  undo,
  useDocument,
} from '../document';
import type { Kept, Step } from '../steps';
import { KeepingDatabase, type LogRecord } from './database';
import { loadScene } from './load';
import { appendSteps, foldLog, readKept, recordsOf, replay } from './log';
import { createScene } from './scenes';

let db: KeepingDatabase;
let count = 0;
beforeEach(() => {
  db = new KeepingDatabase(`log-${count++}`);
});
afterEach(() => db.delete());

const keptNow = (): Kept => {
  const { scene, past, future } = useDocument.getState();
  return { scene, past, future };
};

type Deed = { deed: 'pitch' | 'drag' | 'undo' | 'redo' | 'cancel' | 'view' | 'name'; n: number };
const deed = fc.record({
  deed: fc.constantFrom<Deed['deed']>('pitch', 'drag', 'undo', 'redo', 'cancel', 'view', 'name'),
  n: fc.integer({ min: 1, max: 9 }),
});

function run({ deed: what, n }: Deed): void {
  const spacing = { id: 'run5', step: 'spacing' as const, values: { pitch: n } };
  if (what === 'pitch') dispatch(setStep, spacing);
  else if (what === 'drag') dispatch(setStep, spacing, 'drag');
  else if (what === 'name') dispatch(setScene, { name: `Name ${n}` });
  else if (what === 'undo') undo();
  else if (what === 'redo') redo();
  else if (what === 'cancel') cancelGesture('drag');
  else setView({ eye: [n, 2, 3], target: [0, 0, 0] });
}

/** Every step that deeds take, with the document after each. */
function stepsOf(deeds: Deed[]): { step: Step; after: Kept }[] {
  openDocument('s', exampleScene());
  const taken: { step: Step; after: Kept }[] = [];
  const stop = onChange((change) => {
    if (change.kind === 'step') taken.push({ step: structuredClone(change.step), after: keptNow() });
  });
  deeds.forEach(run);
  stop();
  return taken;
}

test('whatever is done, a log that ends anywhere gives the document as it was there, undo list and all', () => {
  fc.assert(
    fc.property(fc.array(deed, { maxLength: 40 }), fc.nat(), (deeds, cut) => {
      const taken = stepsOf(deeds);
      const end = taken.length && cut % (taken.length + 1);
      const records = taken.slice(0, end).map(({ step }, i) => ({ scene: 's', at: i + 1, steps: [step] }));
      const snapshot = { id: 's', scene: exampleScene(), past: [], future: [], at: 0 };
      const { scene, past, future, torn } = replay(snapshot, records);
      const want = end ? taken[end - 1].after : { scene: exampleScene(), past: [], future: [] };
      expect({ scene, past, future }).toEqual(want);
      expect(torn).toBe(0);
    }),
    { seed: SEED, numRuns: cases(5000) },
  );
});

test('a torn end is left out and counted: a record that is missing, and steps that fit nothing', () => {
  const records: LogRecord[] = stepsOf([
    { deed: 'pitch', n: 1 },
    { deed: 'pitch', n: 2 },
    { deed: 'pitch', n: 3 },
  ]).map(({ step }, i) => ({ scene: 's', at: i + 1, steps: [step] }));
  const snapshot = { id: 's', scene: exampleScene(), past: [], future: [], at: 0 };
  const read = (list: LogRecord[]) => {
    const { scene, torn, at } = replay(snapshot, list);
    return { pitch: firstRun(scene).spacing.pitch, torn, at };
  };
  expect(read(records)).toEqual({ pitch: 3, torn: 0, at: 3 });
  expect(read([records[0], records[2]])).toEqual({ pitch: 1, torn: 1, at: 1 });
  for (const steps of [[{ do: 'redo', held: [] }], [{ do: 'what' }], [null], 'torn', undefined])
    expect(read([records[0], { ...records[1], steps: steps as never }, records[2]])).toMatchObject({
      pitch: 1,
      at: 1,
      torn: expect.any(Number),
    });
});

test('folding changes nothing of what is read, whenever it stops and whatever is written meanwhile', async () => {
  const taken = stepsOf(Array.from({ length: 30 }, (_, i) => ({ deed: 'pitch' as const, n: (i % 9) + 1 })));
  const id = await createScene(exampleScene(), 't', undefined, db);
  const append = (k: number) => appendSteps({ id, tab: 't', at: k + 1 }, [taken[k].step], 'n', undefined, db);
  for (let k = 0; k < 20; k++) await append(k);
  const same = async (k: number) => {
    const { scene, past, future } = (await loadScene(id, db))!;
    expect({ scene, past, future }).toEqual(taken[k].after);
  };
  const folding = foldLog(id, db);
  for (let k = 20; k < 25; k++) await append(k);
  await folding;
  await same(24);
  expect((await db.bodies.get(id))!.at).toBeGreaterThanOrEqual(20);
  // Records that are in the snapshot already, as where the fold stopped half way.
  await db.log.put({ scene: id, at: 3, steps: [taken[3].step] });
  await same(24);
  await foldLog(id, db);
  expect(await recordsOf(db, id).count()).toBe(0);
  await append(25);
  await same(25);
});

test('a scene that is another one on disk is written whole with its first step, and no fold brings the old one back', async () => {
  const id = await createScene(exampleScene(), 't', undefined, db);
  const [first, second] = stepsOf([
    { deed: 'pitch', n: 4 },
    { deed: 'name', n: 2 },
  ]);
  await appendSteps({ id, tab: 't', at: 1 }, [first.step], 'n', undefined, db);
  const folding = foldLog(id, db);
  const mended: Kept = { scene: { ...exampleScene(), units: 'cm' }, past: [], future: [] };
  await appendSteps({ id, tab: 't', at: 2 }, [second.step], 'n', mended, db);
  await folding;
  expect(await readKept(id, db)).toMatchObject({ at: 3, torn: 0, scene: { units: 'cm', name: 'Name 2' } });
});
