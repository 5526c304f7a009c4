import fc from 'fast-check';
import { parseSlotName, slotId, slotName } from './slotId';

test('ids and names are each other’s inverse, and ids stay exact integers', () => {
  const any = fc.tuple(
    fc.integer({ min: 1, max: 2 ** 32 - 1 }),
    fc.integer({ min: 0, max: 255 }),
    fc.integer({ min: 0, max: 4095 }),
  );
  fc.assert(
    fc.property(any, ([index, row, part]) => {
      const id = slotId(index, row, part);
      expect(Number.isSafeInteger(id)).toBe(true);
      expect(parseSlotName(slotName(id))).toBe(id);
    }),
  );
  expect(slotName(slotId(13))).toBe('13');
  expect(slotName(slotId(13, 2, 1))).toBe('p1.r2.13');
  expect(parseSlotName('nonsense')).toBeNaN();
});
