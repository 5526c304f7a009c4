import fc from 'fast-check';
import type { Run } from '@/core/arrange/run/schema';
import { sceneSchema } from '@/core/scene/schema';
import { cases } from '@/core/testing/prove';
import { exampleScene } from '@/core/testing/scene';
import { applyCommand, command } from './command';
import { setStep } from './commands/arrangements';
import { addProp } from './commands/scene';

const step = (name: string, values: object) =>
  applyCommand(exampleScene(), setStep as never, { id: 'run5', step: name, values } as never);
const spacingOf = (name: string, values: object) =>
  (step(name, values).scene.arrangements[0] as { spacing: Record<string, unknown> }).spacing;

test.each([
  ['count', 1e16, 500_000],
  ['count', -3, 1],
  ['parts', 0, 1],
  ['every', 0, 1],
  ['from', -1, 0],
  ['pitch', 1e300, 1e6],
  ['looseBy', -2, 0],
])('spacing.%s of %d is held to %d, and said', (field, given, held) => {
  const applied = step('spacing', { [field]: given });
  expect(spacingOf('spacing', { [field]: given })[field]).toBe(held);
  expect(applied.held).toEqual([{ path: ['arrangements', 0, 'spacing', field], given, held }]);
  expect(sceneSchema.safeParse(applied.scene).success).toBe(true);
});

test('a number is held deep in what is put, also where that comes to what was there', () => {
  const rows = { count: 0, distance: 3, stagger: 0, side: 'middle', mirrored: false };
  const { scene, held } = step('spacing', { rows });
  expect((scene.arrangements[0] as Run).spacing.rows).toEqual({ ...rows, count: 1 });
  expect(held).toMatchObject([{ given: 0, held: 1 }]);
});

test('what no bound can hold is refused, and nothing is changed', () => {
  const scene = exampleScene();
  for (const [values, kind] of [
    [{ pitch: NaN }, 'not-allowed'],
    [{ mode: 'by-ear' }, 'not-allowed'],
  ] as const) {
    const {
      scene: after,
      entry,
      refused,
    } = applyCommand(
      scene,
      setStep as never,
      {
        id: 'run5',
        step: 'spacing',
        values,
      } as never,
    );
    expect([after === scene, entry, refused?.kind]).toEqual([true, null, kind]);
  }
  const many = command<null>({
    apply: (draft) => {
      const { source } = draft.paths[0];
      if (source.kind === 'points')
        for (let i = 0; i < 20_000; i++) source.points.push({ ...source.points[0], id: `m${i}` });
    },
    name: () => 'too many',
  });
  expect(applyCommand(scene, many, null).refused).toMatchObject({
    kind: 'too-many',
    path: ['paths', 0, 'source', 'points'],
    most: 20_000,
  });
});

test('ids do not run out silently', () => {
  const scene = { ...exampleScene(), nextId: 2 ** 52 };
  const { refused, scene: after } = applyCommand(scene, addProp, {
    name: 'One more',
    mesh: { source: 'built', name: 'crate' },
  } as never);
  expect(refused?.kind).toBe('ids-used-up');
  expect(after).toBe(scene);
});

test('any number in any setting of a run leaves a scene that the schema takes', () => {
  const scene = exampleScene();
  const run = scene.arrangements[0] as unknown as Record<string, Record<string, unknown>>;
  const fields = ['spacing', 'facing', 'variation', 'gaps', 'pulley', 'ground'].flatMap((name) =>
    Object.entries(run[name])
      .filter(([, v]) => typeof v === 'number' || v === null)
      .map(([field]) => [name, field] as const),
  );
  const number = fc.oneof(fc.double({ noNaN: false }), fc.integer(), fc.constantFrom(0, -1, 1e16, 5e-324));
  fc.assert(
    fc.property(fc.constantFrom(...fields), number, ([name, field], value) => {
      const { scene: after } = step(name, { [field]: value });
      expect(sceneSchema.safeParse(after).success).toBe(true);
    }),
    { numRuns: cases(20_000) },
  );
});
