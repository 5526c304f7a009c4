import { expect, type Page } from '@playwright/test';
import {
  axes,
  choose,
  clickAt,
  hang,
  newScene,
  openStep,
  pickOption,
  rows,
  scene,
  settled,
  takeProps,
  type,
  type Row,
  add,
} from './support/app';
import { test } from './support/test';

/** Paths that lie on a surface, and what is strung along them. */

const placed = (list: Row[]) => list.filter((r) => r.state === 'placed');
const surface = async (page: Page, name: RegExp, values: Record<string, string>) => {
  await page.getByRole('button', { name }).click();
  for (const [label, value] of Object.entries(values))
    await type(page.getByLabel(label, { exact: true }), value);
  await settled(page);
};

test('a path drawn on a plane goes with it, its twin rows square to it; a dragged point stays on it; it is taken off', async ({
  page,
}) => {
  await newScene(page);
  await choose(page, 'New path or surface', 'Plane');
  await settled(page);
  for (const [label, value] of [
    ['Position X', '0'],
    ['Position Y', '0'],
    ['Position Z', '0'],
    ['Width', '16'],
    ['Depth', '12'],
  ])
    await type(page.getByLabel(label, { exact: true }), value);
  await page.getByRole('button', { name: 'Top', exact: true }).click();
  await page.getByRole('button', { name: 'Fit', exact: true }).click();
  await settled(page);
  await page.keyboard.press('2');
  await expect(page.getByRole('switch', { name: 'Stay on it' })).toBeChecked();
  for (const [x, y] of [
    [0.3, 0.4],
    [0.5, 0.55],
    [0.68, 0.45],
  ])
    await clickAt(page, x, y);
  await page.keyboard.press('Enter');
  await settled(page);
  await expect(page.getByRole('button', { name: 'Lies on', exact: true })).toHaveText('Plane');
  await takeProps(page, 'Bollard');
  await hang(page, 'Bollard');
  const spacing = await openStep(page, 'Spacing');
  await add(spacing, 'Rows');
  await type(spacing.getByLabel('Number of rows'), '2');
  await type(spacing.getByLabel('Row distance', { exact: true }), '0.8');
  const facing = await openStep(page, 'Facing');
  await facing.getByRole('radio', { name: 'Surface', exact: true }).click();
  await settled(page);
  const flat = placed(await rows(page));
  expect(flat.length).toBeGreaterThan(10);
  flat.forEach((r) => expect(r.y).toBeCloseTo(0, 6));

  // Tipped by 30°, everything on the plane lies and stands by it.
  await surface(page, /^Plane Surface/, { Roll: '30' });
  const tipped = placed(await rows(page));
  const [c, s] = [Math.cos(Math.PI / 6), Math.sin(Math.PI / 6)];
  const up = axes(tipped[0]).up;
  expect(Math.abs(up[0])).toBeCloseTo(s, 6);
  expect(up[1]).toBeCloseTo(c, 6);
  tipped.forEach((r, i) => {
    axes(r).up.forEach((v, k) => expect(v).toBeCloseTo(up[k], 6));
    expect(r.x * up[0] + r.y * up[1] + r.z * up[2]).toBeCloseTo(0, 5);
    expect(Math.abs(r.x)).toBeCloseTo(Math.abs(flat[i].x) * c, 5);
    expect(r.z).toBeCloseTo(flat[i].z, 5);
  });
  // Both rows, a row's width apart along the slope.
  const half = tipped.length / 2;
  for (let i = 0; i < half; i++) {
    const [a, b] = [tipped[i], tipped[i + half]];
    expect(Math.hypot(a.x - b.x, a.y - b.y, a.z - b.z)).toBeCloseTo(0.8, 5);
  }

  // Its middle point dragged: the path bends elsewhere, and stays on the slope.
  await page.getByRole('button', { name: /^Path Path/ }).click();
  const point = page.getByRole('button', { name: 'Point 2', exact: true });
  const box = (await point.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.keyboard.down('Control');
  await page.mouse.move(box.x + box.width / 2 + 40, box.y + box.height / 2 + 60, { steps: 4 });
  await page.mouse.up();
  await page.keyboard.up('Control');
  await settled(page);
  const after = (await point.boundingBox())!;
  expect(Math.hypot(after.x - box.x - 40, after.y - box.y - 60)).toBeLessThan(3);
  const dragged = placed(await rows(page));
  dragged.forEach((r) => expect(r.x * up[0] + r.y * up[1] + r.z * up[2]).toBeCloseTo(0, 5));
  expect(dragged.some((r, i) => Math.abs(r.z - (tipped[i]?.z ?? 99)) > 0.3)).toBe(true);

  // Taken off it stays where it is, and is left behind.
  await pickOption(page, page, 'Lies on', 'Nothing');
  await settled(page);
  await surface(page, /^Plane Surface/, { Roll: '0' });
  const left = placed(await rows(page));
  expect(left.length).toBe(dragged.length);
  const ends = [left[0], left[half - 1]];
  [dragged[0], dragged[half - 1]].forEach((r, k) => {
    for (const axis of ['x', 'y', 'z'] as const) expect(Math.abs(ends[k][axis] - r[axis])).toBeLessThan(0.5);
  });
  expect(Math.max(...left.map((r) => Math.abs(r.y)))).toBeGreaterThan(1);
  await page.getByRole('button', { name: /^Bollard Run/ }).click();
  await expect((await openStep(page, 'Checks')).getByText(/“Path” lies on no surface/)).toBeVisible();
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await settled(page);
  await expect(scene(page)).toBeVisible();
  const back = placed(await rows(page));
  back.forEach((r, i) => expect(r.x).toBeCloseTo(dragged[i].x, 6));
});
