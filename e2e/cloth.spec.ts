import { expect, type Page } from '@playwright/test';
import {
  add,
  alerts,
  onScreen,
  openExample,
  rows,
  settled,
  type,
  undo,
  type Row,
  setTime,
} from './support/app';
import { test } from './support/test';

/** Simulated cloth: what hangs on a line, and what is sewn onto it. */

const weights = async (page: Page): Promise<Row[]> =>
  (await rows(page)).filter((r) => r.arrangement === 'Weights of the cloth' && r.state === 'placed');

test('cloth hangs on its line, billows in the wind, falls still without it, and is held by a click', async ({
  page,
}) => {
  await openExample(page, 'Sailcloth');
  const before = await weights(page);
  expect(before.length).toBeGreaterThan(5);
  await setTime(page, '2.5');
  const blown = await weights(page);
  expect(blown.length).toBe(before.length);
  // No weight is further from the line than the cloth is high; the wind has moved them all.
  const far = (r: Row) => Math.hypot(r.y - 3.5, r.z - 0.65);
  blown.forEach((r, i) => {
    expect(far(r)).toBeLessThan(1.5 * 1.12);
    expect(Math.hypot(r.x - before[i].x, r.y - before[i].y, r.z - before[i].z)).toBeGreaterThan(0.1);
  });
  // It blows to 200°, that is towards +Z here.
  expect(blown.reduce((s, r) => s + r.z, 0) / blown.length).toBeGreaterThan(0.75);
  // The same time is the same shape, however it is come to.
  await setTime(page, '0.5');
  await setTime(page, '2.5');
  (await weights(page)).forEach((r, i) => expect(r.y).toBe(blown[i].y));

  // Without wind it hangs straight down in the end.
  await page.getByRole('button', { name: /^Signal cloth Surface/ }).click();
  const cloth = page.getByRole('group', { name: 'Cloth', exact: true });
  await type(cloth.getByLabel('Wind, metres a second', { exact: true }), '0');
  await add(cloth, 'Dies down');
  await type(cloth.getByLabel('Dies down', { exact: true }), '4');
  await setTime(page, '8');
  const still = await weights(page);
  const low = (list: Row[]) => list.reduce((s, r) => s + r.y, 0) / list.length;
  expect(low(still)).toBeLessThan(low(blown) - 0.1);
  expect(low(still)).toBeCloseTo(3.45 - 1.44, 0);

  // A place that is held by a click stays up, another click lets it go.
  await setTime(page, '0');
  await cloth.getByRole('button', { name: 'Hold places' }).click();
  await expect(page.getByText('Click the cloth to hold it there')).toBeVisible();
  // At time 0 it is a plane 2.2 m wide and 1.5 m high about this place; the view looks at it a little from the left.
  const held = await onScreen(page, [5.4, 2.4, 0.65]);
  await page.mouse.click(held.x, held.y);
  await expect(cloth.getByText('1 held')).toBeVisible();
  const mark = (await page.getByLabel('Held place 1').boundingBox())!;
  // It is held at the nearest vertex, and those are 0.1 m apart.
  const step = await onScreen(page, [5.5, 2.5, 0.65]);
  const reach = Math.hypot(step.x - held.x, step.y - held.y);
  expect(Math.hypot(mark.x + mark.width / 2 - held.x, mark.y + mark.height / 2 - held.y)).toBeLessThan(reach);
  await page.mouse.click(held.x, held.y);
  await expect(cloth.getByText('0 held')).toBeVisible();
  await page.keyboard.press('Escape');

  // Falling on the sail is a choice; a side let go falls altogether.
  await cloth.getByRole('button', { name: 'Side v 1' }).click();
  await setTime(page, '2');
  expect(low(await weights(page))).toBeLessThan(low(still) - 2.5);
  await undo(page);
  await settled(page);
  expect(low(await weights(page))).toBeGreaterThan(low(still) - 1);
  await expect(alerts(page)).toHaveCount(0);
});

test('the wind of a cloth comes with the time, and is taken back', async ({ page }) => {
  await openExample(page, 'Sailcloth');
  await page.getByRole('button', { name: /^Signal cloth Surface/ }).click();
  const cloth = page.getByRole('group', { name: 'Cloth', exact: true });
  const wind = cloth.getByLabel('Wind, metres a second', { exact: true });
  const south = async () => (await weights(page)).reduce((sum, r, _, all) => sum + r.z / all.length, 0);
  await setTime(page, '0');
  await type(wind, '0 @ 0');
  await setTime(page, '3');
  const still = await south();
  // It blows to the south from a second on.
  await type(wind, '14 @ 1');
  await settled(page);
  expect(await south()).toBeGreaterThan(still + 0.2);
  await undo(page);
  await settled(page);
  expect(await south()).toBeCloseTo(still, 9);
  await expect(page.getByRole('button', { name: 'Moment of Signal cloth: wind at 0 s' })).toBeAttached();
});
