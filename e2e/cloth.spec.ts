import { expect, type Page } from '@playwright/test';
import { alerts, at, openExample, rows, settled, type, undo, type Row } from './support/app';
import { test } from './support/test';

/** Simulated cloth: what hangs on a line, and what is sewn onto it. */

const setTime = async (page: Page, seconds: string) => {
  await page.getByRole('button', { name: 'Speed and loop' }).click();
  await type(page.getByLabel('Time', { exact: true }), seconds);
  await page.keyboard.press('Escape');
  await settled(page);
};
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
  await type(cloth.getByLabel('Wind, metres a second'), '0');
  await type(cloth.getByLabel('Dies down'), '4');
  await setTime(page, '8');
  const still = await weights(page);
  const low = (list: Row[]) => list.reduce((s, r) => s + r.y, 0) / list.length;
  expect(low(still)).toBeLessThan(low(blown) - 0.1);
  expect(low(still)).toBeCloseTo(3.45 - 1.44, 0);

  // A place that is held by a click stays up, another click lets it go.
  await setTime(page, '0');
  await cloth.getByRole('button', { name: 'Hold places' }).click();
  await expect(page.getByText('Click the cloth to hold it there')).toBeVisible();
  const view = await at(page, 0, 0);
  const box = (await page.getByRole('application', { name: 'Scene' }).boundingBox())!;
  let hit: { x: number; y: number } | null = null;
  // The cloth is somewhere in the right half of the view.
  for (let x = 0.6; x < 0.98 && !hit; x += 0.04)
    for (let y = 0.35; y < 0.7 && !hit; y += 0.06) {
      const p = { x: view.x + box.width * x, y: view.y + box.height * y };
      await page.mouse.click(p.x, p.y);
      await settled(page);
      if ((await cloth.getByText('1 held').count()) > 0) hit = p;
    }
  expect(hit).not.toBeNull();
  await expect(page.getByLabel('Held place 1')).toBeVisible();
  await page.mouse.click(hit!.x, hit!.y);
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
