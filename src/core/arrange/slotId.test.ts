import fc from 'fast-check';
import { SEED } from '../testing/prove';
import {
  blockId,
  lineNumber,
  MOST_IN_BLOCK,
  mostPlaces,
  mostStrokes,
  parseSlotName,
  slotId,
  slotName,
  slotParts,
} from './slotId';

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

test('places in a block have ids and names of their own, whatever is counted how far', () => {
  const { across, deep, high } = MOST_IN_BLOCK;
  const seen = new Set<number>();
  for (const part of [0, 1, 255])
    for (const stroke of [0, 3, 255])
      for (const a of [1, 77, across])
        for (const b of [1, 2, deep])
          for (const c of [1, 9, high]) {
            const id = blockId(a, b, c, part, stroke);
            expect(Number.isSafeInteger(id) && id < 0).toBe(true);
            expect(parseSlotName(slotName(id))).toBe(id);
            expect(slotParts(id)).toMatchObject({ part, stroke, index: a });
            seen.add(id);
          }
  expect(seen.size).toBe(3 ** 5);
  expect(slotName(blockId(13, 2, 4))).toBe('13.2.4');
  expect(slotName(blockId(13, 2, 4, 1, 5))).toBe('p1.k5.13.2.4');
});
