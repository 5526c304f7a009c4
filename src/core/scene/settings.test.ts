import { newArrangement } from '../arrange/registry';
import { valueAt } from './guard';
import { settingsOf } from './settings';

/** The numbers and ranges of recipes, as their schemas tell them. */

const base = { id: 'x', name: 'x', thread: 'moss' as const };
const of = (kind: 'run' | 'stock') => {
  const a = newArrangement(kind, base, kind === 'run' ? { paths: [] } : {});
  return { a, found: new Map(settingsOf(a).map((s) => [s.field.join('.'), s])) };
};

test('each is known by its place, its measure, its bounds and what it is where nothing was said', () => {
  const { found } = of('run');
  expect(found.get('spacing.pitch')).toMatchObject({ measure: 'length', rest: null, isRange: false });
  expect(found.get('spacing.count')).toMatchObject({ measure: 'plain', whole: true, least: 1, rest: 10 });
  expect(found.get('gaps.chance')).toMatchObject({ measure: 'percent', least: 0, most: 1, rest: 0 });
  expect(found.get('facing.turnDeg')).toMatchObject({ measure: 'angle', whole: false, rest: 0 });
  expect(found.get('variation.turnDeg')).toMatchObject({ measure: 'angle', rest: [0, 0], isRange: true });
  expect(found.get('variation.side')).toMatchObject({ measure: 'length', isRange: true });
  expect(found.get('variation.size')).toMatchObject({ measure: 'percent', rest: [1, 1], isRange: true });
  expect(found.get('spacing.rows.distance')!.said).toContain('Metres');
});

test('a number or a range stands at every one, and nothing of the arrangement itself is among them', () => {
  for (const kind of ['run', 'stock'] as const) {
    const { a, found } = of(kind);
    expect(found.size).toBeGreaterThan(20);
    for (const { field, isRange, rest } of found.values()) {
      expect(valueAt(a, field)).toEqual(rest);
      if (isRange) expect(rest).toHaveLength(2);
    }
    expect([...found.keys()].filter((k) => /^(seed|hand|byFacing|shelves|paths)/.test(k))).toEqual([]);
  }
});
