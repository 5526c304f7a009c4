import fc from 'fast-check';
import { quatRotate, quatTurnTipRoll, turnTipRollOf } from './quat';

test('turn, tip and roll are read back from the rotation that they make, at the poles too', () => {
  const angle = fc.double({ min: -3, max: 3, noNaN: true });
  fc.assert(
    fc.property(
      angle,
      fc.oneof(fc.double({ min: -1.57, max: 1.57, noNaN: true }), fc.constantFrom(Math.PI / 2, -Math.PI / 2)),
      angle,
      (turn, tip, roll) => {
        const q = quatTurnTipRoll(turn, tip, roll);
        const again = quatTurnTipRoll(...turnTipRollOf(q));
        for (const axis of [
          [1, 0, 0],
          [0, 1, 0],
          [0, 0, 1],
        ] as [number, number, number][])
          quatRotate(q, axis).forEach((v, k) => expect(quatRotate(again, axis)[k]).toBeCloseTo(v, 6));
      },
    ),
  );
});
