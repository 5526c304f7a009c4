import { expect, type Page } from '@playwright/test';
import { at, newScene, pathByNumbers, settled, type } from './support/app';
import { test } from './support/test';

test.beforeEach(({ page }) => newScene(page));

const numbers = async (page: Page, point: number): Promise<number[]> =>
  Promise.all(
    ['X', 'Y', 'Z'].map(async (axis) =>
      Number(await page.getByLabel(`Point ${point} ${axis} in the list`).inputValue()),
    ),
  );
const press = async (page: Page, x: number, y: number) => {
  const p = await at(page, x, y);
  await page.mouse.move(p.x, p.y);
  await page.mouse.click(p.x, p.y);
};
const middle = async (page: Page, point: number) => {
  const b = (await page.getByRole('button', { name: `Point ${point}`, exact: true }).boundingBox())!;
  return { x: b.x + b.width / 2, y: b.y + b.height / 2 };
};

test('in an upright plane the points stay in it, and go as high as the pointer does', async ({ page }) => {
  await page.keyboard.press('2');
  await press(page, 0.4, 0.75);
  await page.getByRole('radio', { name: 'Across Z' }).click();
  await page.keyboard.down('Control');
  await press(page, 0.55, 0.45);
  await press(page, 0.65, 0.55);
  await page.keyboard.up('Control');
  await page.keyboard.press('Enter');
  await settled(page);
  const [a, b, c] = await Promise.all([1, 2, 3].map((n) => numbers(page, n)));
  expect(a[1]).toBe(0);
  expect(b[1]).toBeGreaterThan(0.5);
  expect(c[1]).toBeLessThan(b[1]);
  expect([b[2], c[2]]).toEqual([a[2], a[2]]);
  expect(b[0]).not.toBeCloseTo(a[0], 1);
});

test('square onto a path: marked and named, and the angle is a right one', async ({ page }) => {
  await pathByNumbers(page, [
    [-5, 2],
    [5, -1],
  ]);
  await page.getByRole('button', { name: 'Fit', exact: true }).click();
  await settled(page);
  const [a, b] = [await middle(page, 1), await middle(page, 2)];
  await page.keyboard.press('2');
  const from = { x: a.x + (b.x - a.x) * 0.4 + 60, y: a.y + (b.y - a.y) * 0.4 + 130 };
  await page.mouse.move(from.x, from.y);
  await page.mouse.click(from.x, from.y);
  // On the screen, seen from the top, the foot of the square lies where it does in the scene.
  const d = { x: b.x - a.x, y: b.y - a.y };
  const u = ((from.x - a.x) * d.x + (from.y - a.y) * d.y) / (d.x * d.x + d.y * d.y);
  const foot = { x: a.x + d.x * u, y: a.y + d.y * u };
  await page.mouse.move(foot.x + 3, foot.y + 2);
  await expect(page.locator('[data-snap="Square to Path"]')).toBeVisible();
  await page.mouse.click(foot.x + 3, foot.y + 2);
  await page.keyboard.press('Enter');
  await settled(page);
  const [p, q] = [await numbers(page, 1), await numbers(page, 2)];
  const across = [q[0] - p[0], q[2] - p[2]];
  // The fields show centimetres; the angle is right to as much.
  expect(Math.abs(across[0] * 10 + across[1] * -3) / Math.hypot(...across) / Math.hypot(10, 3)).toBeLessThan(
    0.01,
  );
  expect(q[2]).toBeCloseTo(2 - 0.3 * (q[0] + 5), 1);
});

test('on the grid every point is a whole number of steps, while drawn and while dragged', async ({
  page,
}) => {
  await page.getByRole('button', { name: 'Top', exact: true }).click();
  await page.getByRole('button', { name: /^Snap: on/ }).click();
  for (const name of ['Ground grid', '15° steps']) await page.getByRole('switch', { name }).click();
  await type(page.getByLabel('Grid step'), '0.4');
  await page.keyboard.press('Escape');
  await page.keyboard.press('2');
  await press(page, 0.37, 0.41);
  await press(page, 0.61, 0.55);
  await page.keyboard.press('Enter');
  await settled(page);
  const whole = (v: number) => Math.abs(v / 0.4 - Math.round(v / 0.4)) < 1e-6;
  for (const n of [1, 2]) expect((await numbers(page, n)).every(whole)).toBe(true);
  const before = await numbers(page, 2);
  const b = await middle(page, 2);
  await page.mouse.move(b.x, b.y);
  await page.mouse.down();
  await page.mouse.move(b.x + 83, b.y + 37, { steps: 4 });
  await page.mouse.up();
  await settled(page);
  const after = await numbers(page, 2);
  expect(after.every(whole)).toBe(true);
  expect(after[0]).toBeGreaterThan(before[0]);
});
