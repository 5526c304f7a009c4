import { expect, type Page } from '@playwright/test';
import {
  add,
  choose,
  counts,
  cratesAlong,
  make,
  openStep,
  pickOption,
  rows,
  settled,
  type,
  undo,
  type Row,
  setTime,
} from './support/app';
import { test } from './support/test';

/** Props that are let go: where they lie, read out of the rows of the moment that is shown. */

const LINE: [number, number][] = [
  [-3, 0],
  [3, 0],
];

const placed = (list: Row[]) => list.filter((r) => r.state === 'placed');
const heights = async (page: Page) => placed(await rows(page)).map((r) => r.y);

/** Crates in a row two metres over a wide floor; their recipe is in hand. */
async function cratesOver(page: Page): Promise<void> {
  await cratesAlong(page, LINE, '1.5');
  await make(page, 'Plane', { Width: '30', Depth: '30' });
  await page
    .getByRole('button', { name: /^Crate Run/ })
    .first()
    .click();
  const facing = await openStep(page, 'Facing');
  await add(facing, 'Lift');
  await type(facing.getByLabel('Lift', { exact: true }), '2');
  await settled(page);
}

test('crates fall to the floor, lie there, and stay as they lie', async ({ page }) => {
  await cratesOver(page);
  expect((await heights(page)).every((y) => Math.abs(y - 2) < 1e-9)).toBe(true);
  await choose(page, 'More for this run', 'Let it fall');
  const step = page.getByRole('region', { name: 'Release', exact: true });
  await expect(step.getByRole('switch', { name: 'Let go' })).toBeChecked();
  // Half a second later they have fallen by half of 9.81 times a quarter.
  await setTime(page, '0.5');
  for (const y of await heights(page)) expect(Math.abs(y - (2 - 9.81 / 8))).toBeLessThan(0.06);
  await step.getByRole('button', { name: 'Show at rest' }).click();
  await settled(page);
  const lying = placed(await rows(page));
  for (const r of lying) expect(Math.abs(r.y)).toBeLessThan(0.01);
  await expect((await openStep(page, 'Checks')).getByText('No prop reaches')).toBeVisible();
  await step.getByRole('button', { name: 'Take as it lies' }).click();
  await expect(page.getByRole('region', { name: 'By hand', exact: true })).toContainText('5 locked');
  await setTime(page, '0');
  const taken = placed(await rows(page));
  expect(taken.map((r) => [r.x, r.y, r.z])).toEqual(lying.map((r) => [r.x, r.y, r.z]));
  await undo(page);
  await settled(page);
  expect((await heights(page)).every((y) => Math.abs(y - 2) < 1e-9)).toBe(true);
});

test('one after the other by keyboard; what has come to rest is gone', async ({ page }) => {
  await cratesOver(page);
  await page.keyboard.press('Control+k');
  await page.keyboard.type('physics');
  await page.keyboard.press('Enter');
  const step = page.getByRole('region', { name: 'Release', exact: true });
  await expect(step.getByRole('switch', { name: 'Let go' })).toBeFocused();
  await pickOption(page, step, 'Who', 'one after the other');
  await type(step.getByLabel('Every', { exact: true }), '0.5');
  await setTime(page, '0.75');
  const falling = await heights(page);
  // Two of them are on their way, the second half as long as the first.
  expect(falling.filter((y) => y < 2 - 1e-6)).toHaveLength(2);
  expect(falling[0]).toBeLessThan(falling[1]);
  await step.getByRole('radio', { name: 'Is gone' }).click();
  await step.getByRole('button', { name: 'Show at rest' }).click();
  await settled(page);
  expect((await counts(page)).placed).toBe(0);
  expect((await rows(page)).every((r) => r.reason === 'fallen')).toBe(true);
});
