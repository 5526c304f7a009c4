import { expect, type Page } from '@playwright/test';
import { make, newScene, pathByNumbers, pickOption, sendOut, settled, type, undo } from './support/app';
import { bodyOf, readStl, type Body } from './support/bodies';
import { test } from './support/test';

/** Profiles that are drawn in the flat view: swept, turned and lofted to bodies. */

const profile = (page: Page) => page.getByTestId('profile');
const point = (page: Page, n: number) =>
  profile(page).getByRole('button', { name: `Point ${n} of the profile` });

/** All that is shown, by its STL: metres. */
async function printed(page: Page): Promise<Body> {
  const body = bodyOf(readStl(await sendOut(page, 'stl')));
  return { ...body, volume: body.volume / 1e9 };
}

test('a plain profile becomes points: dragged, typed, one more, one less; then another one is drawn', async ({
  page,
}) => {
  await newScene(page);
  await pathByNumbers(page, [
    [0, 0],
    [0, 2],
  ]);
  await make(page, 'Profile along a path', { Width: '1', Height: '1' });
  await pickOption(page, page, 'Profile', 'Square');
  await settled(page);
  expect((await printed(page)).volume).toBeCloseTo(2, 5);
  await page.getByRole('button', { name: 'Turn into points' }).click();
  await settled(page);
  await expect(profile(page).getByRole('button')).toHaveCount(4);
  expect((await printed(page)).volume).toBeCloseTo(2, 5);

  // Corner 3, at the right above, by numbers: the square becomes a kite of 1 + ½ · 1 · 1 · 2 halves.
  await point(page, 3).focus();
  await type(page.getByLabel('Right', { exact: true }), '1.5');
  await settled(page);
  expect((await printed(page)).volume).toBeCloseTo(2 * 1.5, 5);
  // By arrow keys, ten centimetres with Shift.
  await point(page, 3).press('Shift+ArrowLeft');
  await settled(page);
  expect((await printed(page)).volume).toBeCloseTo(2 * 1.45, 5);
  await undo(page);
  await undo(page);
  await settled(page);
  expect((await printed(page)).volume).toBeCloseTo(2, 5);

  // By hand: a corner is dragged outwards by half of the square’s side.
  const [a, b] = [await point(page, 1).boundingBox(), await point(page, 2).boundingBox()];
  const side = b!.x - a!.x;
  await page.mouse.move(b!.x + 4, b!.y + 4);
  await page.mouse.down();
  await page.mouse.move(b!.x + 4 + side / 2, b!.y + 4, { steps: 4 });
  await page.mouse.up();
  await settled(page);
  expect((await printed(page)).volume).toBeCloseTo(2 * 1.25, 1);

  // A click on the line adds a point without a change of shape; Delete takes it out again.
  const [c, d] = [await point(page, 3).boundingBox(), await point(page, 4).boundingBox()];
  await page.mouse.click((c!.x + d!.x) / 2 + 4, c!.y + 4);
  await expect(profile(page).getByRole('button')).toHaveCount(5);
  await settled(page);
  expect((await printed(page)).volume).toBeCloseTo(2 * 1.25, 1);
  await point(page, 2).focus();
  await page.keyboard.press('Delete');
  await expect(profile(page).getByRole('button')).toHaveCount(4);

  // Another one, clicked: a triangle of half its box.
  await page.getByRole('button', { name: 'Draw anew' }).click();
  const box = (await profile(page).boundingBox())!;
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  for (const [h, v] of [
    [-60, 40],
    [60, 40],
    [60, -40],
  ])
    await page.mouse.click(x + h, y + v);
  await page.keyboard.press('Enter');
  await expect(profile(page).getByRole('button')).toHaveCount(3);
  await settled(page);
  const drawn = await printed(page);
  expect(drawn.open).toBe(0);
  // An STL has z up.
  const [wide, high] = [0, 2].map((k) => (drawn.max[k] - drawn.min[k]) / 1000);
  expect(wide / high).toBeCloseTo(1.5, 1);
  expect(drawn.volume / (wide * high)).toBeCloseTo(1, 4);
  await undo(page);
  await expect(profile(page).getByRole('button')).toHaveCount(4);
});

test('a turned profile is closed to a body, and changed by its points', async ({ page }) => {
  await newScene(page);
  await pathByNumbers(page, [
    [1, 0],
    [1, 0.1],
  ]);
  await page.getByRole('button', { name: /^Path\b/ }).click();
  await type(page.getByLabel('Point 2 Y in the list'), '2');
  await type(page.getByLabel('Point 2 Z in the list'), '0');
  await make(page, 'Turned profile', { Columns: '64' });
  await page.getByRole('switch', { name: 'Ends closed' }).click();
  await settled(page);
  const around = 32 * Math.sin(Math.PI / 32);
  const tower = await printed(page);
  expect(tower.open).toBe(0);
  expect(tower.volume).toBeCloseTo(2 * around, 4);
  await point(page, 2).focus();
  await type(page.getByLabel('Right', { exact: true }), '0.5');
  await settled(page);
  expect((await printed(page)).volume).toBeCloseTo(((2 * around) / 3) * (1 + 0.5 + 0.25), 3);
});
