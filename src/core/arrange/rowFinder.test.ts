import fc from 'fast-check';
import { rowFinder } from './rowFinder';

test('rows are those that looking through all of them finds, however many are asked for', () => {
  fc.assert(
    fc.property(fc.array(fc.nat(40)), fc.array(fc.nat(50)), (slots, ids) => {
      const row = rowFinder({ slot: Float64Array.from(slots) });
      expect(ids.map(row)).toEqual(ids.map((id) => slots.indexOf(id)));
    }),
  );
});
