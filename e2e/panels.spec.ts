import { expect, type Locator } from '@playwright/test';
import { newScene, onScreen, openExample, scene, settled } from './support/app';
import { ownTest as test } from './support/test';

/** The parts of the screen: resized, folded, and clear of each other on small screens and under fingers. */

const box = async (of: Locator) => (await of.boundingBox())!;

test('edges move by pointer and by keys, fold, and stay as they were left', async ({ page }) => {
  await openExample(page, 'Rope fence');
  const recipe = page.getByRole('region', { name: 'Recipe' });
  const edge = page.getByRole('separator', { name: 'Width of the recipe' });
  const wide = (await box(recipe)).width;
  const at = await box(edge);
  await page.mouse.move(at.x, at.y + 200);
  await page.mouse.down();
  await page.mouse.move(at.x - 80, at.y + 200, { steps: 4 });
  await page.mouse.up();
  await expect.poll(async () => Math.round((await box(recipe)).width - wide)).toBe(80);
  const flat = page.getByRole('region', { name: 'Flat view' });
  const tall = (await box(flat)).height;
  await page.getByRole('separator', { name: 'Height of the flat view' }).focus();
  await page.keyboard.press('ArrowUp');
  await expect.poll(async () => (await box(flat)).height).toBeGreaterThan(tall + 5);
  const left = await box(flat);
  await page.reload();
  await settled(page);
  await expect.poll(async () => Math.round((await box(recipe)).width - wide)).toBe(80);
  expect(Math.abs((await box(flat)).height - left.height)).toBeLessThan(2);
  await page.keyboard.press('Control+k');
  await page.getByLabel('Search the commands').fill('collapse outliner');
  await page.keyboard.press('Enter');
  const lists = page.getByRole('region', { name: 'Contents' });
  await expect.poll(async () => (await box(scene(page))).x).toBeLessThan(3);
  await page.getByRole('button', { name: 'Show the lists' }).click();
  await expect.poll(async () => (await box(lists)).width).toBeGreaterThan(150);
});

test('a recipe with every step open fits two screens', async ({ page }) => {
  await openExample(page);
  const recipe = page.getByRole('region', { name: 'Recipe' });
  const closed = recipe.locator('section button[aria-expanded="false"]:not([aria-haspopup])');
  while ((await closed.count()) > 0) await closed.first().click();
  const tall = await recipe.evaluate((root) =>
    Math.max(...[...root.querySelectorAll('*')].map((e) => e.scrollHeight)),
  );
  expect(tall).toBeGreaterThan(800);
  // A line for each arrangement that it is meant to touch comes on top.
  expect(tall).toBeLessThanOrEqual(2 * 800 + 40);
});

test.describe('on a small screen', () => {
  test.use({ viewport: { width: 1024, height: 700 } });
  test('nothing over the scene lies on anything else, and all of it is within the scene', async ({
    page,
  }) => {
    await openExample(page, 'Tern Quay');
    await page.keyboard.press('2');
    const parts = [
      page.getByRole('group', { name: 'View', exact: true }),
      page.getByRole('group', { name: 'Time bar' }),
      page.getByText(/props drawn in full/),
      page.getByRole('toolbar', { name: 'Tools' }),
      page.getByRole('radiogroup', { name: 'Where points go' }),
      page.getByText('Click where the path begins'),
    ];
    const around = await box(scene(page));
    const boxes = await Promise.all(parts.map(box));
    boxes.forEach((a, i) => {
      expect(a.x).toBeGreaterThanOrEqual(around.x - 1);
      expect(a.x + a.width).toBeLessThanOrEqual(around.x + around.width + 1);
      expect(a.y + a.height).toBeLessThanOrEqual(around.y + around.height + 1);
      boxes.slice(i + 1).forEach((b) => {
        const apart =
          a.x + a.width <= b.x || b.x + b.width <= a.x || a.y + a.height <= b.y || b.y + b.height <= a.y;
        expect(apart).toBe(true);
      });
    });
  });
});

test.describe('at twice the size', () => {
  test.use({ viewport: { width: 640, height: 400 } });
  test('everything is reached by scrolling', async ({ page }) => {
    await openExample(page, 'Tern Quay');
    for (const name of ['Send out', 'Bring in', 'Fit', 'Play the time', 'Add props']) {
      const button = page.getByRole('button', { name, exact: true });
      await button.scrollIntoViewIfNeeded();
      await expect(button).toBeInViewport();
    }
  });
});

test.describe('under fingers', () => {
  test.use({ hasTouch: true });
  test('a tap takes in hand and draws; a finger leaves the view as it is, two turn it', async ({ page }) => {
    await openExample(page, 'Rope fence');
    const view = page.getByRole('application', { name: 'Scene' });
    const { x, y, width, height } = await box(view);
    const [cx, cy] = [x + width / 2, y + height / 2];
    const client = await page.context().newCDPSession(page);
    const touch = (type: string, points: [number, number][]) =>
      client.send('Input.dispatchTouchEvent', {
        type: type as 'touchStart',
        touchPoints: points.map(([px, py], id) => ({ x: px, y: py, id })),
      });
    const eye = async () => JSON.stringify(await onScreen(page, [0, 0, 0]));
    const before = await eye();
    await touch('touchStart', [[cx, cy]]);
    await touch('touchMove', [[cx + 60, cy + 10]]);
    await touch('touchEnd', []);
    await settled(page);
    expect(await eye()).toBe(before);
    await touch('touchStart', [
      [cx - 40, cy],
      [cx + 40, cy],
    ]);
    await touch('touchMove', [
      [cx + 20, cy + 20],
      [cx + 100, cy + 20],
    ]);
    await touch('touchEnd', []);
    await settled(page);
    await expect.poll(eye).not.toBe(before);
    await page.getByRole('button', { name: 'Draw path' }).first().tap();
    for (const [dx, dy] of [
      [-80, 60],
      [40, 80],
      [120, 40],
    ])
      await page.touchscreen.tap(cx + dx, cy + dy);
    await page.getByRole('button', { name: 'Finish', exact: true }).tap();
    await expect(page.getByLabel('Name of the path')).toBeVisible();
    await expect(page.getByLabel('Point 3 X in the list')).toBeVisible();
  });
});

test('the tip of a pen draws, takes in hand and drags', async ({ page }) => {
  await newScene(page);
  await page.getByRole('button', { name: 'Top', exact: true }).click();
  await settled(page);
  const view = await box(page.getByRole('application', { name: 'Scene' }));
  const client = await page.context().newCDPSession(page);
  const pen = (
    type: 'mousePressed' | 'mouseMoved' | 'mouseReleased',
    x: number,
    y: number,
    buttons: number,
  ) =>
    client.send('Input.dispatchMouseEvent', {
      type,
      x: view.x + view.width * x,
      y: view.y + view.height * y,
      button: type === 'mouseMoved' ? 'none' : 'left',
      buttons,
      clickCount: 1,
      pointerType: 'pen',
    });
  const tap = async (x: number, y: number) => {
    await pen('mouseMoved', x, y, 0);
    await pen('mousePressed', x, y, 1);
    await pen('mouseReleased', x, y, 0);
  };
  await page.getByRole('button', { name: 'Draw path' }).first().click();
  for (const [x, y] of [
    [0.3, 0.4],
    [0.5, 0.6],
    [0.7, 0.4],
  ])
    await tap(x, y);
  await page.getByRole('button', { name: 'Finish', exact: true }).click();
  await settled(page);
  const field = page.getByLabel('Point 2 Z in the list');
  const before = parseFloat(await field.inputValue());
  // The point is taken hold of, and dragged down the view, that is nearer.
  const point = await box(page.getByRole('button', { name: 'Point 2', exact: true }));
  const [x, y] = [
    (point.x + point.width / 2 - view.x) / view.width,
    (point.y + point.height / 2 - view.y) / view.height,
  ];
  await pen('mouseMoved', x, y, 0);
  await pen('mousePressed', x, y, 1);
  await pen('mouseMoved', x, y + 0.05, 1);
  await pen('mouseMoved', x, y + 0.1, 1);
  await pen('mouseReleased', x, y + 0.1, 0);
  await settled(page);
  expect(parseFloat(await field.inputValue())).toBeGreaterThan(before + 0.3);
});
