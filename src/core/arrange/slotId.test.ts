import fc from 'fast-check';
import { SEED } from '../testing/prove';
import { lineNumber, mostPlaces, mostStrokes, parseSlotName, slotId, slotName, slotParts } from './slotId';

test('ids and names are each other’s inverse, and ids stay exact integers', () => {
  const nat = (max: number) => fc.integer({ min: 0, max });
  const near = fc.tuple(fc.integer({ min: 1, max: 2 ** 24 - 1 }), nat(255), nat(4095), nat(255));
  const far = fc.tuple(
    fc.integer({ min: 1, max: 2 ** 23 - 1 }),
    nat(127),
    nat(255),
    fc.integer({ min: 256, max: 16383 }),
  );
  fc.assert(
    fc.property(fc.oneof(near, far), fc.oneof(near, far), (a, b) => {
      const [id, other] = [slotId(...a), slotId(...b)];
      expect(Number.isSafeInteger(id)).toBe(true);
      expect(id === other).toBe(a.join() === b.join());
      const [index, row, part, stroke] = a;
      expect(slotParts(id)).toEqual({ index, row, part, stroke });
      expect(parseSlotName(slotName(id))).toBe(id);
      expect(stroke < mostStrokes(part) && index < mostPlaces(stroke)).toBe(true);
    }),
    { seed: SEED, numRuns: 2000 },
  );
  expect(slotName(slotId(13, 2, 1, 9_999))).toBe('p1.k9999.r2.13');
  // What was drawn for strokes by their number is drawn so again.
  expect([slotId(7, 3, 5, 2), lineNumber(5, 2)]).toEqual([5 * 2 ** 40 + 3 * 2 ** 32 + 2 * 2 ** 24 + 7, 1282]);
  expect(slotName(slotId(13))).toBe('13');
  expect(slotName(slotId(13, 2, 1))).toBe('p1.r2.13');
  expect(parseSlotName('nonsense')).toBeNaN();
});
