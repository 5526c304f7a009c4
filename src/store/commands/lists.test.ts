import { emptyScene, newPath, newProp } from '@/core/scene/defaults';
import { applyPatches } from '@/core/scene/patch';
import { sceneSchema, type Scene } from '@/core/scene/schema';
import { applyCommand, type Command } from '../command';
import { groupNodes, moveNodes, renameGroup, stepNodes } from './lists';

/** Props by what they are called: "a b(x) c(x)" is a, then b and c in the group x. */
const scene = (text: string): Scene => ({
  ...emptyScene('Lists'),
  props: text.split(' ').map((word) => {
    const [, id, group] = /^(\w+)(?:\((\w+)\))?$/.exec(word)!;
    return { ...newProp(id, id.toUpperCase(), { source: 'built', name: 'box' }), ...(group && { group }) };
  }),
});
const text = (s: Scene) => s.props.map((p) => p.id + (p.group ? `(${p.group})` : '')).join(' ');

function done<A>(from: string, command: Command<A>, args: A): string {
  const before = scene(from);
  const { scene: after, entry } = applyCommand(before, command, args);
  expect(sceneSchema.safeParse(after).success).toBe(true);
  if (entry) {
    expect(applyPatches(after, entry.inverse).value).toEqual(before);
    expect(applyPatches(before, entry.patches).value).toEqual(after);
  }
  return text(after);
}

test.each([
  [['c'], 'a', undefined, 'c a b d'],
  [['a'], 'd', undefined, 'b c a d'],
  [['a', 'c'], null, undefined, 'b d a c'],
  [['d', 'b'], 'a', 'x', 'b(x) d(x) a c'],
  [['b'], 'c', 'x', 'a b(x) c d'],
])('%j moved before %j', (ids, before, group, result) => {
  expect(done('a b c d', moveNodes, { ids, before, group })).toBe(result);
});

test('several are gathered where the first of them stands, or behind those that are there already', () => {
  expect(done('a b c d', groupNodes, { ids: ['b', 'd'], group: 'x' })).toBe('a b(x) d(x) c');
  expect(done('a b(x) c d', groupNodes, { ids: ['a', 'd'], group: 'x' })).toBe('b(x) a(x) d(x) c');
});

test('whatever leaves a group that stays stands behind it', () => {
  expect(done('a(x) b(x) c(x) d', groupNodes, { ids: ['b'], group: '' })).toBe('a(x) c(x) b d');
  expect(done('a b(x) c(x) d', groupNodes, { ids: ['b', 'c'], group: '' })).toBe('a b c d');
});

test('a group takes another name in all lists, and joins the one that has it', () => {
  expect(done('a(x) b c(y) d', renameGroup, { from: 'x', to: 'z' })).toBe('a(z) b c(y) d');
  expect(done('a(x) b c(y) d', renameGroup, { from: 'x', to: 'y' })).toBe('b c(y) a(y) d');
  const both = { ...scene('a(x)'), paths: [{ ...newPath('p', 'P', []), group: 'x' }] };
  const { scene: after } = applyCommand(both, renameGroup, { from: 'x', to: 'y' });
  expect(after.paths[0].group).toBe('y');
  expect(text(after)).toBe('a(y)');
});

test.each([
  ['a b c', ['c'], -1, 'a c b'],
  ['a b c', ['a', 'b'], 1, 'c a b'],
  ['a b c', ['a'], -1, 'a b c'],
  ['a b(x) c(x)', ['c'], -1, 'a c(x) b(x)'],
  ['a b(x) c(x)', ['b'], -1, 'a b c(x)'],
  ['a b(x) c(x)', ['c'], 1, 'a b(x) c'],
  ['a b(x) c', ['c'], -1, 'a b(x) c(x)'],
  ['a b(x) c', ['a'], 1, 'a(x) b(x) c'],
] as const)('%s: %j by %i', (from, ids, by, result) => {
  expect(done(from, stepNodes, { ids: [...ids], by })).toBe(result);
});

test('rows that go down one by one come by every place and every group, and back again', () => {
  let now = scene('a b(x) c(x) d e(y) f');
  const seen: string[] = [];
  for (let i = 0; i < 9; i++) {
    now = applyCommand(now, stepNodes, { ids: ['a'], by: 1 }).scene;
    seen.push(text(now));
  }
  expect(seen.at(-1)).toBe('b(x) c(x) d e(y) f a');
  for (let i = 0; i < 9; i++) now = applyCommand(now, stepNodes, { ids: ['a'], by: -1 }).scene;
  expect(text(now)).toBe('a b(x) c(x) d e(y) f');
});
