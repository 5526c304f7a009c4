import type { FieldSpec } from './NumberFields';

const angle = (name: string, label: string, axis: string, step: number): FieldSpec => ({
  name,
  label,
  hint: `Degrees about its ${axis} axis`,
  dimension: 'angle',
  step,
  reset: 0,
});

/** How a thing is turned. @param tilt degrees that one step tips or rolls it */
export const angleFields = (tilt = 5): FieldSpec[] => [
  angle('turnDeg', 'Turn', 'up', 5),
  angle('tipDeg', 'Tip', 'side', tilt),
  angle('rollDeg', 'Roll', 'front', tilt),
];

/** How large a thing is, of its own size. */
export const sizeField = (min = 0.01): FieldSpec => ({
  name: 'size',
  label: 'Size',
  hint: 'Of its own size',
  dimension: 'percent',
  step: 0.05,
  min,
  max: 1000,
  reset: 1,
});
