import type { SheetLayout } from '@/core/arrange/result';
import { WHOLE } from '../../../flat/look';
import { outlinePath, planOf } from './plan';

const layout = { width: 6, height: 2, outline: Float64Array.of(0, 0, 6, 1, 1, 4, 2, 2, 2) } as SheetLayout;
const size = { width: 636, height: 400 };

test('the layout fits the panel with 18 pixels about it, y up', () => {
  const plan = planOf(layout, size, WHOLE);
  expect(plan.k).toBe(100);
  expect(plan.at(0, 0)).toEqual([18, 300]);
  expect(plan.at(6, 2)).toEqual([618, 100]);
});

test('pixels and metres are each other’s way back, also zoomed and moved', () => {
  const plan = planOf(layout, size, { zoom: 3, x: 0.7, y: -0.2 });
  for (const [x, y] of [
    [0, 0],
    [5.3, 1.9],
  ]) {
    const [px, py] = plan.at(x, y);
    const [bx, by] = plan.back(px, py);
    expect(bx).toBeCloseTo(x, 9);
    expect(by).toBeCloseTo(y, 9);
  }
});

test('an outline runs up on the right and down on the left, rows without width left out', () => {
  const plan = planOf(layout, size, WHOLE);
  expect(outlinePath(layout, plan)).toBe(
    'M18.0 300.0L118.0 200.0L218.0 100.0L418.0 100.0L518.0 200.0L618.0 300.0Z',
  );
  const none = { ...layout, outline: Float64Array.of(0, 0, 0) } as SheetLayout;
  expect(outlinePath(none, plan)).toBe('');
});
