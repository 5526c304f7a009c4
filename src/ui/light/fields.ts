import type { FieldSpec } from '../controls/NumberFields';

/** Fields that lights have in common. */

export const angle = (
  name: string,
  label: string,
  reset: number,
  hint: string,
  least: number,
  most: number,
): FieldSpec => ({
  ...{ name, label, hint, dimension: 'angle', step: 1 },
  ...{ min: least, max: most, reset },
});

export const plain = (
  name: string,
  label: string,
  reset: number,
  hint: string,
  step: number,
  least: number,
  most: number,
): FieldSpec => ({ ...{ name, label, hint, step }, ...{ min: least, max: most, reset } });

export const share = (name: string, label: string, hint: string, reset = 1): FieldSpec => ({
  ...plain(name, label, reset, hint, 0.05, 0, 1e9),
  dimension: 'percent',
});

export const warmth = (reset: number): FieldSpec =>
  plain(
    'warmth',
    'Warmth, kelvin',
    reset,
    'Low is warm, as a candle at 1,900; high is cold',
    100,
    1667,
    25000,
  );
