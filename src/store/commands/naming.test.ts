import { describeChange } from './naming';

test('what was changed is named as its field shows it: in the scene’s unit, in hundredths, in its own words', () => {
  expect(describeChange({ pitch: 1.8 }, { pitch: 2.4 }, 'm')).toBe('pitch 1.8 → 2.4');
  expect(describeChange({ pitch: 1.8 }, { pitch: 2.4 }, 'cm')).toBe('pitch 180 → 240');
  expect(describeChange({ position: [1, 0, 0.5] }, { position: [1, 0, 2] }, 'm')).toBe(
    'position 1, 0, 0.5 → 1, 0, 2',
  );
  expect(describeChange({ chance: 0 }, { chance: 0.25 }, 'm')).toBe('chance 0% → 25%');
  expect(describeChange({ turnDeg: 0 }, { turnDeg: 90 }, 'cm')).toBe('turn 0 → 90');
  expect(describeChange({ ends: 'half' }, { ends: 'included' }, 'm')).toBe('ends half in → at the ends');
  expect(describeChange({ pitch: null, count: 1 }, { pitch: 2, count: 3 }, 'm')).toBe(
    'pitch auto → 2 and more',
  );
});
