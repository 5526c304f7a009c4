import fc from 'fast-check';
import { quatRotate, quatTurnTipRoll, turnTipRollOf, writeUnitQuat, type Quat } from './quat';

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

test('a rotation that is given has unit length, turns as the given one does, and keeps its bits where it had it', () => {
  const out = new Float64Array(4);
  const part = fc.oneof(fc.constantFrom(0, 5e-324, 1e6), fc.double({ min: -1e6, max: 1e6, noNaN: true }));
  fc.assert(
    fc.property(part, part, part, part, (...q) => {
      writeUnitQuat(out, 0, q);
      expect(Math.hypot(...out)).toBeCloseTo(1, 9);
      const l = Math.hypot(...q);
      if (l > 1e-300) q.forEach((v, k) => expect(out[k]).toBeCloseTo(v / l, 9));
    }),
  );
  const unit: Quat = quatTurnTipRoll(0.3, 1.1, -2);
  writeUnitQuat(out, 0, unit);
  expect([...out]).toEqual(unit);
  writeUnitQuat(out, 0, [0, 0, 0, 0]);
  expect([...out]).toEqual([0, 0, 0, 1]);
});
