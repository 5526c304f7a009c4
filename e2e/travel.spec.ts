import { expect, type Page } from '@playwright/test';
import {
  axes,
  choose,
  counts,
  cratesAlong,
  hang,
  make,
  newScene,
  onScreen,
  pathByNumbers,
  openStep,
  pickOption,
  rows,
  sendOut,
  settled,
  takeProps,
  type,
  undo,
  type Row,
  setTime,
} from './support/app';
import { standing } from './support/glb';
import { test } from './support/test';

/** Arrangements that travel as a whole: where each has come to, read out of the rows of the moment that is shown. */

const placed = async (page: Page): Promise<Row[]> => (await rows(page)).filter((r) => r.state === 'placed');
const ways = (from: Row[], to: Row[]) =>
  to.map((r, i) => [r.x - from[i].x, r.y - from[i].y, r.z - from[i].z]);

/** Five crates in a row in the middle of a floor of 20 by 20 m; their recipe is in hand. */
async function cratesOnFloor(page: Page): Promise<void> {
  await cratesAlong(
    page,
    [
      [-3, 0],
      [3, 0],
    ],
    '1.5',
  );
  await make(page, 'Plane', { Width: '20', Depth: '20' });
  await page
    .getByRole('button', { name: /^Crate Run/ })
    .first()
    .click();
}

test('crates slide over a floor by hand and at a speed, and stop together at its edge', async ({ page }) => {
  await cratesOnFloor(page);
  const before = await placed(page);
  await choose(page, 'More for this run', 'Let it travel');
  const step = page.getByRole('region', { name: 'Travel', exact: true });
  await expect(step.getByRole('switch', { name: 'Travels' })).toBeChecked();
  await type(step.getByLabel('Along u', { exact: true }), '1.25');
  await settled(page);
  for (const [x, y, z] of ways(before, await placed(page))) {
    expect(Math.abs(x)).toBeCloseTo(1.25, 5);
    expect(Math.abs(y)).toBeLessThan(1e-9);
    expect(Math.abs(z)).toBeLessThan(1e-6);
  }
  await type(step.getByLabel('Along v a second', { exact: true }), '2');
  await setTime(page, '2');
  for (const [, , z] of ways(before, await placed(page))) expect(Math.abs(z)).toBeCloseTo(4, 5);
  await setTime(page, '60');
  for (const r of await placed(page)) expect(Math.abs(r.z)).toBeCloseTo(10, 5);
  await pickOption(page, step, 'At a border', 'each is gone');
  await settled(page);
  expect((await counts(page)).placed).toBe(0);
  await undo(page);
  await settled(page);
  expect((await counts(page)).placed).toBe(5);
});

test('the grip slides them by pointer and by keys, and a turn steers them', async ({ page }) => {
  await cratesOnFloor(page);
  const before = await placed(page);
  await page.keyboard.press('Control+k');
  await page.keyboard.type('crowd');
  await page.keyboard.press('Enter');
  const step = page.getByRole('region', { name: 'Travel', exact: true });
  await expect(step.getByRole('switch', { name: 'Travels' })).toBeFocused();
  const grip = page.getByRole('slider', { name: 'Slide it on' });
  const first = before[0];
  const from = await onScreen(page, [first.x, first.y, first.z]);
  const to = await onScreen(page, [first.x + 2, 0, first.z + 1]);
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move((from.x + to.x) / 2, (from.y + to.y) / 2);
  await page.mouse.move(to.x, to.y, { steps: 3 });
  await page.mouse.up();
  await settled(page);
  for (const [x, , z] of ways(before, await placed(page))) {
    expect(x).toBeCloseTo(2, 1);
    expect(z).toBeCloseTo(1, 1);
  }
  await undo(page);
  await settled(page);
  expect(
    ways(before, await placed(page))
      .flat()
      .every((v) => Math.abs(v) < 1e-9),
  ).toBe(true);
  await grip.focus();
  await page.keyboard.press('ArrowRight');
  await settled(page);
  for (const [x] of ways(before, await placed(page))) expect(Math.abs(x)).toBeCloseTo(0.1, 5);
  await step.getByRole('radio', { name: 'Turn' }).click();
  await type(step.getByLabel('Angle a second', { exact: true }), '30');
  await step.getByRole('switch', { name: 'Steers' }).click();
  await setTime(page, '1');
  const turned = await placed(page);
  for (const [i, r] of turned.entries()) {
    const { x, z } = before[i];
    const [c, s] = [Math.cos(Math.PI / 6), Math.sin(Math.PI / 6)];
    expect([r.x, r.z].map((v) => v.toFixed(6))).toEqual(
      [x * c + z * s, z * c - x * s].map((v) => v.toFixed(6)),
    );
    // Each goes square to its arm.
    const radius = Math.hypot(r.x, r.z);
    if (radius < 0.1) continue;
    const { front } = axes(r);
    expect((front[0] * r.z - front[2] * r.x) / radius).toBeCloseTo(1, 6);
  }
  await expect(openStep(page, 'Travel').then((s) => s.textContent())).resolves.toContain('Turns, 30°/s');
});

test('a strip goes round by its own pulley, and what is pegged onto it in the same frame', async ({
  page,
}) => {
  await newScene(page);
  await make(page, 'Circle', { Radius: '2' });
  await choose(page, 'New path or surface', 'Strip along a path');
  await settled(page);
  await choose(page, 'Add a deformer', 'Pulley');
  await type(
    page.getByRole('group', { name: 'Pulley' }).getByLabel('Speed a second', { exact: true }),
    '0.8',
  );
  await takeProps(page, 'Crate');
  await page.getByRole('button', { name: 'Top', exact: true }).click();
  await page.getByRole('button', { name: 'Fit', exact: true }).click();
  await settled(page);
  await page.keyboard.press('3');
  const on = await onScreen(page, [2, 0, 0]);
  await page.mouse.click(on.x, on.y);
  await settled(page);
  await page.keyboard.press('Escape');
  const [was] = await placed(page);
  expect(Math.hypot(was.x, was.z)).toBeGreaterThan(1.7);
  for (const seconds of [1, 4.5]) {
    await setTime(page, String(seconds));
    const [is] = await placed(page);
    const turned = [1, -1].map((sign) => {
      const angle = (sign * 0.8 * seconds) / 2;
      const [x, z] = [was.x, was.z];
      return Math.hypot(
        is.x - (x * Math.cos(angle) + z * Math.sin(angle)),
        is.z - (z * Math.cos(angle) - x * Math.sin(angle)),
      );
    });
    expect(Math.min(...turned)).toBeLessThan(0.01);
  }
});

test('a wagon turns its wheels by the way that it makes', async ({ page }) => {
  await newScene(page);
  await pathByNumbers(page, [
    [-4, 0],
    [8, 0],
  ]);
  await takeProps(page, 'Wagon');
  await hang(page, 'Wagon');
  const spacing = await openStep(page, 'Spacing');
  await spacing.getByRole('radio', { name: 'Count', exact: true }).click();
  await type(spacing.getByLabel('Count', { exact: true }), '1');
  await choose(page, 'More for this run', 'Let it play');
  const poses = page.getByRole('region', { name: 'Poses', exact: true });
  await expect(poses.getByRole('button', { name: 'Animation' })).toHaveText('Wheels, by the way');
  await poses.getByRole('radio', { name: 'Together' }).click();
  await choose(page, 'More for this run', 'Let it travel');
  const travel = page.getByRole('region', { name: 'Travel', exact: true });
  await travel.getByRole('radio', { name: 'Along' }).click();
  /** Its vertices as seen from itself, after a way. */
  const after = async (way: number): Promise<number[]> => {
    await type(travel.getByLabel('Distance', { exact: true }), String(way));
    await settled(page);
    const [{ x }] = await placed(page);
    const [{ points }] = await standing(await sendOut(page, 'glb'));
    return points.flatMap(([px, py, pz]) => [px - x, py, pz].map((v) => Math.round(v * 1e4) / 1e4));
  };
  const off = (a: number[], b: number[]) => Math.max(...a.map((v, i) => Math.abs(v - b[i])));
  const stride = 2 * Math.PI * 0.17;
  const was = await after(0);
  // Half round every spoke stands opposite, at two radii from where it was; once round all is as before.
  expect(off(was, await after(stride / 2))).toBeGreaterThan(0.3);
  expect(off(was, await after(stride))).toBeLessThan(2e-3);
});
