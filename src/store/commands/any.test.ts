import fc from 'fast-check';
import { readFileSync } from 'node:fs';
import { readScene } from '@/core/scene/migrate';
import { applyPatches } from '@/core/scene/patch';
import { sceneSchema, type Scene } from '@/core/scene/schema';
import { cases, PROVING, SEED } from '@/core/testing/prove';
import { applyCommand, type Command } from '../command';
import * as arrangements from './arrangements';
import * as gaps from './gaps';
import * as hand from './hand';
import * as nodes from './nodes';
import * as order from './order';
import * as pathEdits from './pathEdits';
import * as paths from './paths';
import * as pegs from './pegs';
import * as riders from './riders';
import * as runs from './runs';
import * as scenes from './scene';
import * as sheets from './sheets';
import * as spans from './spans';
import * as surfaces from './surfaces';

/** Every command that there is, by name. */
const COMMANDS = Object.entries(
  Object.assign(
    {},
    arrangements,
    gaps,
    hand,
    nodes,
    order,
    pathEdits,
    paths,
    pegs,
    riders,
    runs,
    scenes,
    sheets,
    spans,
    surfaces,
  ),
).filter(
  (entry): entry is [string, Command<unknown>] =>
    typeof entry[1] === 'object' && entry[1] !== null && ('apply' in entry[1] || 'patches' in entry[1]),
);

const NUMBERS = [0, 1, 2, 3, -1, 0.5, 7.3, 1e16, 5e-324, -1e300, 1e-9, NaN, Infinity];

/** Every id anywhere in a value. */
function idsIn(value: unknown, found: string[] = []): string[] {
  if (typeof value !== 'object' || value === null) return found;
  const { id } = value as { id?: unknown };
  if (typeof id === 'string') found.push(id);
  Object.values(value).forEach((v) => idsIn(v, found));
  return found;
}

/** Draws from a list by a row of numbers, so that a sequence can be told again. */
function drawer(numbers: number[]) {
  let at = 0;
  return <T>(list: readonly T[]): T => list[numbers[at++ % numbers.length] % list.length];
}

/**
 * Something under every name that commands ask for. Much of it makes no sense together: then the command says so, and
 * nothing has happened.
 */
function anyArguments(scene: Scene, draw: ReturnType<typeof drawer>): Record<string, unknown> {
  const nodes = [...scene.props, ...scene.paths, ...scene.surfaces, ...scene.arrangements];
  const arrangements = scene.arrangements.map((a) => a.id);
  const all = idsIn(scene);
  const path = draw<{ id: string; source: object }>(
    scene.paths.length ? scene.paths : [{ id: 'none', source: {} }],
  );
  const points = idsIn(path.source);
  const number = () => draw(NUMBERS);
  const vec = () => [number(), number(), number()];
  const node = draw(nodes) as Record<string, unknown>;
  const step = draw(['spacing', 'facing', 'ground', 'variation', 'gaps', 'pulley', 'order', 'grid']);
  const owner = draw(scene.arrangements) as unknown as Record<string, object>;
  // No command takes another id for a thing: ids are never given by hand.
  const fields = Object.keys(draw([node, owner, (owner?.[step] ?? {}) as Record<string, unknown>])).filter(
    (field) => field !== 'id',
  );
  const value = () =>
    draw<() => unknown>([number, number, vec, () => draw([true, false]), () => draw(all)])();
  const curve = () => ({
    name: 'L',
    points: [
      [0, 0],
      [number(), 1],
    ],
    closed: false,
    smooth: false,
  });
  const peg = () => ({
    prop: draw(scene.props)?.id ?? 'none',
    pin: null,
    position: vec(),
    rotation: [0, 0, 0, number()],
    scale: [1, number(), 1],
  });
  return {
    id: draw([draw(all), draw(arrangements), owner?.id]),
    path: path.id,
    other: draw(scene.paths)?.id,
    paths: [draw(scene.paths)?.id],
    on: draw(arrangements),
    prop: draw([draw(scene.props)?.id, null]),
    surface: draw(scene.surfaces)?.id,
    sheet: draw(arrangements),
    name: draw(['A', 'x'.repeat(300)]),
    units: draw(['m', 'cm', 'ell']),
    slots: [1, 2, number()],
    slot: 1,
    removed: draw([true, false]),
    entry: draw(all),
    keepOut: draw<unknown>([draw(all), { kind: 'range', part: 0, stroke: 0, from: number(), to: number() }]),
    item: draw<unknown>([draw(all), { kind: 'prop', prop: draw(scene.props)?.id }, { kind: 'pause' }]),
    deformer: draw(all),
    kind: draw(['wave', 'bend', 'cloth', 'corner', 'smooth', 'free']),
    shape: draw(['plane', 'sphere', 'tube', 'circle', 'helix', 'strand']),
    values: {
      [draw(fields.length ? fields : ['x'])]: value(),
      ...(draw([0, 1]) && { [draw(fields)]: value() }),
    },
    step,
    part: step,
    seed: number(),
    point: draw(points.length ? points : all),
    ids: [draw(points.length ? points : all)],
    points: [vec(), vec()],
    to: { [draw(points.length ? points : all)]: vec() },
    pegs: draw<unknown>([[peg(), peg()], [draw(all)]]),
    peg: draw(all),
    curves: draw<unknown>([[curve()], [draw(all)]]),
    curve: draw(all),
    at: draw<unknown>([vec().slice(0, 2), number()]),
    distance: number(),
    step_: number(),
    tolerance: number(),
    within: number(),
    radius: number(),
    plane: draw(['level', 'x', 'z', 'nearest']),
    stroke: 0,
    s: number(),
    segment: 0,
    t: 0.5,
    color: draw(['#112233', 'red']),
    mesh: { source: 'built', name: draw(['crate', 'bollard']) },
    take: { what: 'borders' },
    way: draw([1, -1]),
    repeat: draw([true, false]),
    width: number(),
    height: number(),
    end: draw(['from', 'to', 'both']),
    names: draw([undefined, ['1']]),
    bend: draw([true, false, null]),
    places: { 1: { part: 0, stroke: 0, row: 0, s: number() } },
  };
}

const start = readScene(JSON.parse(readFileSync('src/core/testing/fixtures/version-2.json', 'utf8'))).scene;
const worked = new Set<string>();

test('whatever commands are run in whatever order with whatever numbers, the schema takes the scene, and every step leads back', () => {
  fc.assert(
    fc.property(
      fc.array(
        fc.tuple(fc.nat(COMMANDS.length - 1), fc.array(fc.nat(999), { minLength: 60, maxLength: 60 })),
        {
          minLength: 10,
          maxLength: 30,
        },
      ),
      (deeds) => {
        let scene = start;
        for (const [which, numbers] of deeds) {
          const [name, c] = COMMANDS[which];
          let applied: ReturnType<typeof applyCommand>;
          try {
            applied = applyCommand(scene, c, anyArguments(scene, drawer(numbers)));
          } catch {
            continue;
          }
          if (!applied.entry) {
            expect(applied.scene).toBe(scene);
            continue;
          }
          worked.add(name);
          const { scene: after, entry } = applied;
          const { success, error } = sceneSchema.safeParse(after);
          if (!success)
            throw new Error(`${name}: ${error.issues[0].path.join('.')} ${error.issues[0].message}`);
          const ids = [...after.props, ...after.paths, ...after.surfaces, ...after.arrangements].map(
            (n) => n.id,
          );
          if (new Set(ids).size !== ids.length) throw new Error(`${name}: two nodes of one id`);
          expect(applyPatches(after, entry.inverse).value).toEqual(scene);
          expect(applyPatches(scene, entry.patches).value).toEqual(after);
          scene = after;
        }
      },
    ),
    { seed: SEED, numRuns: cases(2000), endOnFailure: true },
  );
  // Not only refusals were tried.
  expect(worked.size).toBeGreaterThan(COMMANDS.length / (PROVING ? 3 : 5));
});
