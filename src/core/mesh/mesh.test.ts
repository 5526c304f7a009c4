import { ownAxes, quarterTurned } from './mesh';
import type { Axis } from './meshRef';

const AXES: Axis[] = ['+x', '-x', '+y', '-y', '+z', '-z'];

test('a quarter turn to the left: what was the left is the front, and four of them come round', () => {
  expect(quarterTurned('+z', '+y')).toBe('+x');
  for (const up of AXES)
    for (const front of AXES.filter((a) => a[1] !== up[1])) {
      const [left] = ownAxes(front, up);
      expect(ownAxes(quarterTurned(front, up), up)[2].map((v) => v + 0)).toEqual(left.map((v) => v + 0));
      let turned = front;
      for (let k = 0; k < 4; k++) turned = quarterTurned(turned, up);
      expect(turned).toBe(front);
    }
});
