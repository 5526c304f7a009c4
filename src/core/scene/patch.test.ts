import fc from 'fast-check';
import { applyPatches as reference, enablePatches, produceWithPatches } from 'immer';
import { cases, SEED } from '../testing/prove';
import { applyPatches, type Patch } from './patch';

enablePatches();

interface Doc {
  name: string;
  list: { id: number; at: number[] }[];
  map: Record<string, { v: number }>;
}
const doc = (): Doc => ({
  name: 'a',
  list: Array.from({ length: 5 }, (_, id) => ({ id, at: [id, 0, 0] })),
  map: { x: { v: 1 }, y: { v: 2 } },
});

const deed = fc.record({
  what: fc.constantFrom('set', 'push', 'splice', 'move', 'put', 'drop', 'clear', 'name'),
  i: fc.nat(6),
  v: fc.integer(),
});

/** What commands do to documents: setting, pushing, splicing, moving, and putting into and out of records. */
function change(d: Doc, { what, i, v }: { what: string; i: number; v: number }): void {
  if (what === 'set' && d.list[i]) d.list[i].at[1] = v;
  if (what === 'push') d.list.push({ id: v, at: [v] });
  if (what === 'splice') d.list.splice(i, 1 + (v & 1));
  if (what === 'move' && d.list.length) d.list.splice(i, 0, ...d.list.splice(0, 1));
  if (what === 'put') d.map[`k${i}`] = { v };
  if (what === 'drop') delete d.map[i % 2 ? 'x' : `k${i}`];
  if (what === 'clear') d.list.length = Math.min(d.list.length, i);
  if (what === 'name') d.name = String(v);
}

test('any change is applied as its author applies it, there and back; what it does not name stays the same object', () => {
  fc.assert(
    fc.property(fc.array(deed, { maxLength: 12 }), (deeds) => {
      const before = doc();
      const [after, patches, back] = produceWithPatches(before, (d) => deeds.forEach((x) => change(d, x)));
      const applied = applyPatches(before, patches as Patch[]);
      expect(applied.value).toEqual(after);
      expect(applied.value).toEqual(reference(before, patches));
      expect(before).toEqual(doc());
      expect(applyPatches(applied.value, applied.inverse).value).toEqual(before);
      expect(applyPatches(after, back as Patch[]).value).toEqual(before);
      before.list.forEach((item, i) => {
        if (after.list[i] === item) expect(applied.value.list[i]).toBe(item);
      });
    }),
    { seed: SEED, numRuns: cases(20_000) },
  );
});

test('a place that is not there is an error, and nothing is changed', () => {
  const before = doc();
  expect(() => applyPatches(before, [{ op: 'replace', path: ['list', 9, 'at'], value: 1 }])).toThrow(
    'not there',
  );
  expect(() => applyPatches(before, [{ op: 'add', path: ['name', 'x'], value: 1 }])).toThrow('not there');
  expect(before).toEqual(doc());
});
