import { expect } from '@playwright/test';
import { at, counts, openExample, rows, scene, settled } from './support/app';
import { test } from './support/test';

test('the start page offers the example, and it opens with its numbers', async ({ page }) => {
  await openExample(page);
  await expect(page.getByLabel('Scene name')).toHaveValue('Tern Quay by day');
  expect(await counts(page)).toEqual({ placed: 25, gaps: 2 });
  const list = await rows(page);
  const bollards = list.filter((r) => r.arrangement === 'Quay bollards');
  expect(bollards).toHaveLength(27);
  // Evened out: every slot as far from the next as the first from the second.
  const pitch = (bollards[26].s - bollards[0].s) / 26;
  bollards.forEach((r, i) => expect(r.s).toBeCloseTo(0.5 + i * pitch, 9));
  // Three plain ones and a painted one, over and over; nothing on the steps.
  bollards.forEach((r, i) => expect(r.prop).toBe(i % 4 === 3 ? 'Painted bollard' : 'Bollard'));
  for (const r of bollards) {
    if (r.s >= 28.9 && r.s <= 32.2) expect(r.reason).toBe('keep-out');
  }
  expect(list.filter((r) => r.arrangement === 'Lamp posts' && r.state === 'placed')).toHaveLength(5);
  expect(new Set(list.map((r) => r.prop)).size).toBeGreaterThanOrEqual(10);
});

test('the view turns, pans, zooms, and has Top, Front, Side and Fit', async ({ page }) => {
  await openExample(page);
  const handle = page.getByRole('button', { name: 'Point 4', exact: true });
  const place = async () => (await handle.boundingBox())!;
  const before = await place();
  const p = await at(page, 0.55, 0.3);
  await page.mouse.move(p.x, p.y);
  await page.mouse.down();
  await page.mouse.move(p.x + 60, p.y + 10, { steps: 4 });
  await page.mouse.up();
  await settled(page);
  const turned = await place();
  expect(Math.hypot(turned.x - before.x, turned.y - before.y)).toBeGreaterThan(10);
  await page.mouse.move(p.x, p.y);
  await page.mouse.down({ button: 'right' });
  await page.mouse.move(p.x - 50, p.y, { steps: 4 });
  await page.mouse.up({ button: 'right' });
  await settled(page);
  expect((await place()).x).toBeLessThan(turned.x - 20);
  await page.getByRole('button', { name: 'Top', exact: true }).click();
  await page.getByRole('button', { name: 'Fit', exact: true }).click();
  await settled(page);
  // From the top, x runs to the right and the points stand in the order of the path.
  const xs: number[] = [];
  for (let i = 1; i <= 8; i++)
    xs.push((await page.getByRole('button', { name: `Point ${i}`, exact: true }).boundingBox())!.x);
  expect(xs).toEqual([...xs].sort((a, b) => a - b));
  const wide = xs[7] - xs[0];
  const box = (await scene(page).boundingBox())!;
  expect(wide).toBeGreaterThan(box.width * 0.5);
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.wheel(0, 400);
  await settled(page);
  expect(
    (await page.getByRole('button', { name: 'Point 8', exact: true }).boundingBox())!.x -
      (await page.getByRole('button', { name: 'Point 1', exact: true }).boundingBox())!.x,
  ).toBeLessThan(wide * 0.95);
  await page.getByRole('button', { name: 'Front', exact: true }).click();
  await page.getByRole('button', { name: 'Fit', exact: true }).click();
  await settled(page);
  // From the front all points of the edge are at one height.
  const ys: number[] = [];
  for (let i = 1; i <= 8; i++)
    ys.push((await page.getByRole('button', { name: `Point ${i}`, exact: true }).boundingBox())!.y);
  expect(Math.max(...ys) - Math.min(...ys)).toBeLessThan(1.5);
});
