import fc from 'fast-check';
import { channel, random01 } from '../math/random';
import { exampleScene } from '../testing/scene';
import { cases } from '../testing/prove';
import { patchesHold, readScene } from './migrate';
import { sceneSchema, type Scene } from './schema';

const json = (): Record<string, unknown> & Scene => structuredClone(exampleScene()) as never;

test('numbers beyond their bounds are held, words that are not known take the default, each is named', () => {
  const given = json();
  const run = given.arrangements[0] as unknown as Record<string, Record<string, unknown>>;
  run.spacing.rows = { count: 200 };
  run.spacing.count = 1e16;
  run.spacing.mode = 'by-ear';
  run.spacing.parts = 0;
  run.facing.turnDeg = 'north';
  const { scene, mends } = readScene(given);
  const { spacing, facing } = scene.arrangements[0] as Extract<Scene['arrangements'][0], { kind: 'run' }>;
  expect([spacing.rows.count, spacing.count, spacing.mode, spacing.parts, facing.turnDeg]).toEqual([
    120,
    500_000,
    'pitch',
    1,
    0,
  ]);
  expect(mends.map((m) => `${m.how} ${m.where}`).sort()).toEqual([
    'default arrangements[0].facing.turnDeg',
    'default arrangements[0].spacing.mode',
    'held arrangements[0].spacing.count',
    'held arrangements[0].spacing.parts',
    'held arrangements[0].spacing.rows.count',
  ]);
});

test('what has no kind or no id, or another’s id, is set aside and goes out with the file again', () => {
  const given = json();
  const whole = structuredClone(given.arrangements[0]);
  given.arrangements.push({ ...structuredClone(whole), id: 'x1', kind: 'chorus' } as never);
  given.arrangements.push({ ...structuredClone(whole), id: undefined } as never);
  given.props.push({ ...structuredClone(given.props[0]), name: 'Twin' });
  const { scene, mends } = readScene(given);
  expect(scene.arrangements).toHaveLength(exampleScene().arrangements.length);
  expect(scene.props).toHaveLength(exampleScene().props.length);
  expect(mends.map((m) => m.how)).toEqual(['aside', 'aside', 'aside']);
  expect(scene.aside.map((a) => (a.value as { kind?: string; name?: string }).kind ?? 'prop').sort()).toEqual(
    ['chorus', 'prop', 'run'],
  );
  // Opened again nothing more is to be mended, and what was set aside is still there.
  const again = readScene(structuredClone(scene));
  expect(again.mends).toEqual([]);
  expect(again.scene.aside).toEqual(scene.aside);
});

test('a seed from before it had 32 bits draws as it did', () => {
  const given = json() as Record<string, unknown>;
  given.version = 2;
  const draws = (seed: number) =>
    Array.from({ length: 50 }, (_, slot) => random01(seed, slot, channel('turnDeg')));
  for (const seed of [5e9, -7e12, 2 ** 40 + 3, 9007199254740991]) {
    (given.arrangements as { seed: number }[])[0].seed = seed;
    const { scene, mends } = readScene(given);
    expect(mends).toEqual([]);
    expect(draws((scene.arrangements[0] as { seed: number }).seed)).toEqual(draws(seed));
  }
});

test('a missing list is empty; ids at the end of the integers leave room for more', () => {
  const given = json() as Record<string, unknown>;
  delete given.surfaces;
  given.nextId = Number.MAX_SAFE_INTEGER;
  const { scene } = readScene(given);
  expect(scene.surfaces).toEqual([]);
  const numbers = [...scene.props, ...scene.paths, ...scene.arrangements].map((n) =>
    Number(/\d+/.exec(n.id)![0]),
  );
  expect(scene.nextId).toBeGreaterThan(Math.max(...numbers));
  expect(scene.nextId).toBeLessThan(1000);
});

/** Every place of a document that holds something, as paths. */
function places(value: unknown, path: (string | number)[] = []): (string | number)[][] {
  if (typeof value !== 'object' || value === null) return [path];
  return [
    path,
    ...Object.entries(value).flatMap(([k, v]) => places(v, [...path, Array.isArray(value) ? Number(k) : k])),
  ];
}

test('whatever is broken in a scene, it opens as one that the schema takes', () => {
  const all = places(exampleScene()).filter(
    (p) => p.length > 0 && !['format', 'version'].includes(String(p[0])),
  );
  const junk = fc.constantFrom<unknown>(
    0,
    -1,
    1e16,
    1e308,
    5e-324,
    -0.5,
    NaN,
    '',
    'abc',
    null,
    undefined,
    [],
    {},
    true,
    [1],
    'x'.repeat(5000),
  );
  fc.assert(
    fc.property(
      fc.array(fc.tuple(fc.constantFrom(...all), junk), { minLength: 1, maxLength: 6 }),
      (breaks) => {
        const given = json() as unknown;
        for (const [path, value] of breaks) {
          const parent = path
            .slice(0, -1)
            .reduce<unknown>((at, k) => (at as Record<string, unknown> | undefined)?.[k], given);
          if (typeof parent === 'object' && parent !== null)
            (parent as Record<string, unknown>)[path.at(-1)!] = value;
        }
        const { scene } = readScene(given);
        expect(sceneSchema.safeParse(scene).success).toBe(true);
      },
    ),
    { numRuns: cases(20_000) },
  );
});

test('one slot alone, spaced by count at the ends, stays in the middle where it was', () => {
  const old = { ...json(), version: 4 };
  const run = { ...old.arrangements[0], spacing: { mode: 'count', count: 1 } };
  const { scene } = readScene({ ...old, arrangements: [run] });
  expect(scene.arrangements[0]).toMatchObject({ spacing: { mode: 'count', count: 1, ends: 'half' } });
});

test('steps of the undo list go on beside an earlier scene, but for those that name what is called otherwise now', () => {
  const step = { op: 'replace' as const, path: ['arrangements', 0, 'spacing', 'pitch'], value: 2 };
  const moved = { ...step, path: ['arrangements', 1, 'pegs', 40, 'position'] };
  const put = { op: 'add' as const, path: ['arrangements', 1], value: { id: 'a', kind: 'pegs', pegs: [] } };
  const list = { ...step, path: ['arrangements'], value: [{ id: 'b', kind: 'run' }, put.value] };
  expect([1, 2, 6, 7].map((version) => patchesHold(version, [step]))).toEqual([false, true, true, true]);
  for (const named of [moved, put, list])
    expect([6, 7].map((version) => patchesHold(version, [step, named]))).toEqual([false, true]);
  const order = {
    ...step,
    path: ['arrangements', 0, 'order'],
    value: { entries: [{ item: { kind: 'rest' } }] },
  };
  const kind = { ...step, path: ['arrangements', 0, 'order', 'last', 'kind'], value: 'rest' };
  for (const named of [order, kind])
    expect([7, 8].map((version) => patchesHold(version, [step, named]))).toEqual([false, true]);
});
