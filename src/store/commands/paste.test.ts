import { newArrangement, type Arrangement, type KindName } from '@/core/arrange/registry';
import { emptyScene } from '@/core/scene/defaults';
import { readScene } from '@/core/scene/migrate';
import { sceneSchema } from '@/core/scene/schema';
import { applyCommand } from '../command';
import { pasteStep, type CopiedStep } from './arrangements';

const KINDS: KindName[] = ['run', 'sheet', 'riders', 'spans', 'pegs'];
const STEPS = ['order', 'spacing', 'facing', 'ground', 'variation', 'gaps', 'pulley', 'grid', 'match'];
const needed = { surface: 'surface1', on: 'other1', paths: [] };
const fresh = (kind: KindName, id: string): Arrangement =>
  newArrangement(kind, { id, name: id, thread: 'woad' }, needed);
const block = (a: Arrangement, step: string) => (a as unknown as Record<string, object | undefined>)[step];

test('a step that is copied from any kind fits every kind that has it, and leaves no field of another behind', () => {
  let pasted = 0;
  for (const from of KINDS)
    for (const to of KINDS)
      for (const step of STEPS) {
        const [source, target] = [fresh(from, 'a'), fresh(to, 'b')];
        const settings = structuredClone(block(source, step));
        if (!settings || !block(target, step)) continue;
        if ('chance' in settings) settings.chance = 0.25;
        if ('turnDeg' in settings && typeof settings.turnDeg === 'number') settings.turnDeg = 30;
        const scene = { ...emptyScene('Paste'), nextId: 9, arrangements: [source, target] };
        const copied = { step, settings } as CopiedStep;
        const { scene: next, refused } = applyCommand(scene, pasteStep, { id: 'b', copied });
        expect(refused).toBeNull();
        sceneSchema.parse(next);
        const { unknown, mends } = readScene(JSON.parse(JSON.stringify(next)));
        expect([unknown, mends]).toEqual([[], []]);
        const made = block(next.arrangements[1], step)!;
        expect(Object.keys(made).sort()).toEqual(Object.keys(block(target, step)!).sort());
        if ('chance' in made) expect(made.chance).toBe('chance' in settings ? 0.25 : 0);
        if ('turnDeg' in made && typeof made.turnDeg === 'number') expect(made.turnDeg).toBe(30);
        pasted++;
      }
  expect(pasted).toBeGreaterThan(20);
});

test('what an arrangement has beside the pasted step keeps its ids, so that slots, hands and what sits on them stay', () => {
  const base = (kind: KindName, values: object) =>
    newArrangement(kind, { id: 'b', name: 'B', thread: 'woad' }, { ...needed, ...values });
  const pegs = [{ id: 'peg7', prop: 'p', position: [0, 0, 0] }];
  const keepOuts = [{ id: 'keep5', kind: 'near', of: { kind: 'path', id: 'path4' }, distance: 1 }];
  for (const target of [
    base('pegs', { pegs: [pegs] }),
    base('run', { order: { entries: [{ id: 'entry3', item: { kind: 'pause' } }] } }),
  ]) {
    const scene = { ...emptyScene('Paste'), nextId: 9, arrangements: [fresh('run', 'a'), target] };
    const settings = { ...block(scene.arrangements[0], 'gaps'), keepOuts };
    const put = (step: string, value: unknown) =>
      applyCommand(scene, pasteStep, { id: 'b', copied: { step, settings: value } as CopiedStep }).scene;
    const ids = (text: string) => [...text.matchAll(/"id":"(\w+)"/g)].map((m) => m[1]);
    const before = ids(JSON.stringify(target));
    expect(
      ids(JSON.stringify(put('ground', block(scene.arrangements[0], 'ground')).arrangements[1])),
    ).toEqual(before);
    const gaps = ids(JSON.stringify(put('gaps', settings).arrangements[1]));
    for (const id of before) expect(gaps).toContain(id);
    expect(gaps).not.toContain('keep5');
    // What it names it names still.
    expect(gaps).toContain('path4');
  }
});
