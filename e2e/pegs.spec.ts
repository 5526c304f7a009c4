import { expect, type Page } from '@playwright/test';
import {
  make,
  newScene,
  onScreen,
  openStep,
  pathByNumbers,
  rows,
  scene,
  settled,
  takeProps,
  type,
} from './support/app';
import { test } from './support/test';

/** Pegs where they are meant to be: snapped to paths, and by numbers. */

test.beforeEach(({ page }) => newScene(page));

/** Moves the pointer so many pixels beside a place of the scene. */
async function beside(page: Page, place: [number, number, number], dx: number, dy = 0): Promise<void> {
  const p = await onScreen(page, place);
  await page.mouse.move(p.x + dx, p.y + dy);
}
const click = async (page: Page) => {
  await page.mouse.down();
  await page.mouse.up();
  await settled(page);
};
const mark = (page: Page, label: string) => page.locator(`[data-snap="${label}"]`);

test('pegs snap to a path in the air as drawing does, by a typed number; Ctrl puts them where the pointer is', async ({
  page,
}) => {
  await pathByNumbers(page, [
    [-2, 0],
    [2, 0],
  ]);
  for (const n of [1, 2]) await type(page.getByLabel(`Point ${n} Y in the list`), '1.5');
  await takeProps(page, 'Barrel');
  await page.keyboard.press('3');
  await scene(page).focus();
  await page.keyboard.press('4');
  await expect(page.getByRole('status').filter({ hasText: 'Snaps to 4 parts' })).toBeVisible();
  await beside(page, [1, 1.5, 0], 6, 3);
  await expect(mark(page, '3/4 of Path')).toBeVisible();
  await click(page);
  await beside(page, [-2, 1.5, 0], -5, 4);
  await expect(mark(page, 'End of Path')).toBeVisible();
  await click(page);
  // No surface is there: they stand free, just on the path.
  let list = await rows(page);
  expect(list.map((r) => [r.x, r.y, r.z])).toEqual([
    [1, 1.5, 0],
    [-2, 1.5, 0],
  ]);
  // Slid along, one snaps as well, and stays free.
  await beside(page, [-2, 1.5, 0], 0);
  await page.mouse.down();
  await beside(page, [-1, 1.5, 0], 40, 2);
  await beside(page, [0, 1.5, 0], 5, -4);
  await expect(mark(page, 'Midpoint of Path')).toBeVisible();
  await page.mouse.up();
  await settled(page);
  list = await rows(page);
  expect([list[1].x, list[1].y, list[1].z]).toEqual([0, 1.5, 0]);
  await expect(page.locator('[data-snap]')).toHaveCount(0);
  await page.keyboard.down('Control');
  await beside(page, [1.5, 1.5, 0], 0, 8);
  await click(page);
  await page.keyboard.up('Control');
  // From above, the pointer beside the path is over the ground.
  list = await rows(page);
  expect(list[2].y).toBe(0);
  expect(Math.abs(list[2].z)).toBeGreaterThan(0.01);
});

test('on a surface they snap to its paths, are pinned there, and go with it', async ({ page }) => {
  await make(page, 'Plane');
  await pathByNumbers(page, [
    [-2, 1],
    [2, 1],
  ]);
  await takeProps(page, 'Barrel');
  await page.keyboard.press('3');
  await scene(page).focus();
  await page.keyboard.press('4');
  await beside(page, [1, 0, 1], 6);
  await expect(mark(page, '3/4 of Path')).toBeVisible();
  await click(page);
  let [peg] = await rows(page);
  expect([peg.x, peg.y, peg.z]).toEqual([expect.closeTo(1, 6), expect.closeTo(0, 6), expect.closeTo(1, 6)]);
  await page.keyboard.press('1');
  await page.getByRole('button', { name: /^Plane Surface/ }).click();
  await type(page.getByLabel('Position Y', { exact: true }), '0.7');
  await settled(page);
  [peg] = await rows(page);
  expect([peg.x, peg.y, peg.z]).toEqual([expect.closeTo(1, 6), expect.closeTo(0.7, 6), expect.closeTo(1, 6)]);
});

test('places by numbers: of the scene, of a surface’s texture, and of pegs that are there', async ({
  page,
}) => {
  await make(page, 'Hills');
  await takeProps(page, 'Barrel');
  await page.keyboard.press('3');
  const place = (name: string) => page.getByLabel(`Typed place ${name}`, { exact: true });
  await type(place('X'), '0.5');
  await type(place('Y'), '7');
  await type(place('Z'), '-1.25');
  await page.getByRole('button', { name: 'Peg here' }).click();
  await settled(page);
  await page.getByLabel('Typed place is in').click();
  await page.getByRole('option', { name: 'Hills' }).click();
  await type(place('u'), '0.25');
  await type(place('v'), '0.75');
  await page.getByRole('button', { name: 'Peg here' }).click();
  await settled(page);
  let list = await rows(page);
  expect([list[0].x, list[0].y, list[0].z]).toEqual([0.5, 7, -1.25]);
  const steps = await openStep(page, 'Places');
  const field = (name: string) => steps.getByLabel(new RegExp(`^Peg \\d+ ${name}$`)).last();
  // The texture runs evenly over the ground: a quarter of the way, wherever it begins.
  await type(field('u'), '0.75');
  await settled(page);
  const right = (await rows(page))[1];
  await type(field('u'), '0.5');
  await settled(page);
  list = await rows(page);
  expect(list[1].x).toBeCloseTo((list[1].x + right.x) / 2 - (right.x - list[1].x) / 2, 6);
  expect(list[1].z).toBeCloseTo(right.z, 6);
  expect(Math.abs(right.x - list[1].x)).toBeGreaterThan(0.5);
  // x as it is typed, z as it was, and still on the hills.
  const z = list[1].z;
  await type(field('X'), '1.3');
  await settled(page);
  list = await rows(page);
  expect([list[1].x, list[1].z]).toEqual([expect.closeTo(1.3, 6), expect.closeTo(z, 6)]);
  const ground = list[1].y;
  await type(field('Y'), String(ground + 0.5));
  await settled(page);
  expect((await rows(page))[1].y).toBeCloseTo(ground + 0.5, 5);
  // Beside the surface there is nothing: it is said, and nothing is lost.
  await type(field('u'), '3');
  await expect(page.getByText(/“Hills” has nothing at u 3/)).toBeVisible();
  await type(field('X'), '900');
  await expect(page.getByText(/No surface lies there/)).toBeVisible();
  await settled(page);
  expect((await rows(page))[1].y).toBeCloseTo(ground + 0.5, 5);
});
