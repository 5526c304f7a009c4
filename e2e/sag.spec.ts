import { expect, type Page } from '@playwright/test';
import {
  add,
  alerts,
  choose,
  make,
  newScene,
  pathByNumbers,
  sendOut,
  setTime,
  settled,
  type,
  undo,
} from './support/app';
import { standing, type P3 } from './support/glb';
import { test } from './support/test';

/** A tube that sags onto what is under it, read out of the file that is sent out. */

const RADIUS = 0.12;

/** Every corner of the tube, metres in the scene. */
async function corners(page: Page): Promise<P3[]> {
  const bytes = await sendOut(page, 'glb', async () => {
    const surfaces = page.getByRole('dialog').getByLabel('Surfaces');
    if (!(await surfaces.isChecked())) await surfaces.click();
  });
  const tube = (await standing(bytes)).filter((m) => m.mesh.startsWith('Tube'));
  expect(tube.length).toBe(1);
  return tube[0].points;
}
const along = (list: P3[], k: number) => list.map((p) => p[k]);
/** How wide and how high those near a place of the path are. */
const sectionAt = (list: P3[], x: number) => {
  const near = list.filter((p) => Math.abs(p[0] - x) < 0.03);
  const size = (k: number) => Math.max(...along(near, k)) - Math.min(...along(near, k));
  return { wide: size(2), high: size(1), low: Math.min(...along(near, 1)) };
};

test('a tube sags over a box, flattens where it lies, slides or sticks, and hangs between its ends', async ({
  page,
}) => {
  await newScene(page);
  await pathByNumbers(page, [
    [-3, 0],
    [3, 0],
  ]);
  await make(page, 'Rounded box', { Width: '2', Height: '1', Depth: '2', 'Position Y': '-1.3' });
  await make(page, 'Plane', { 'Position Y': '-1.3' });
  await make(page, 'Tube along a path', { Radius: `${RADIUS}`, Rows: '120' });
  await expect.poll(async () => Math.min(...along(await corners(page), 1))).toBeCloseTo(-RADIUS, 4);
  await choose(page, 'Add a deformer', 'Sag');
  await settled(page);

  // In its middle it lies on the box, a quarter flatter and as much wider; its ends are on the plane.
  const lies = await corners(page);
  const middle = sectionAt(lies, 0);
  expect(middle.low).toBeCloseTo(-0.3, 2);
  // What hangs down on both sides presses it a little more.
  expect(middle.high).toBeLessThan(2 * RADIUS * 0.755);
  expect(middle.high).toBeGreaterThan(2 * RADIUS * 0.68);
  expect(middle.wide).toBeCloseTo((2 * RADIUS) / 0.75, 1);
  const ends = Math.max(...along(lies, 0));
  expect(sectionAt(lies, ends - 0.1).low).toBeCloseTo(-1.3, 1);
  expect(Math.min(...along(lies, 1))).toBeGreaterThan(-1.31);
  // As long as it was it does not reach as far as before.
  expect(ends).toBeLessThan(2.95);
  await expect(page.getByText(/is no tube/)).toHaveCount(0);

  const sag = page.getByRole('group', { name: 'Sag', exact: true });
  await type(sag.getByLabel('Flattens by', { exact: true }), '60');
  await settled(page);
  const flat = sectionAt(await corners(page), 0).high;
  expect(flat).toBeLessThan(2 * RADIUS * 0.42);
  expect(flat).toBeGreaterThan(2 * RADIUS * 0.3);
  await undo(page);

  // Not settled it begins with the time.
  await sag.getByRole('switch', { name: 'Settled' }).click();
  await settled(page);
  expect(Math.min(...along(await corners(page), 1))).toBeCloseTo(-RADIUS, 3);
  await setTime(page, '5');
  const fallen = await corners(page);
  fallen.forEach((p, i) => expect(Math.hypot(...p.map((v, k) => v - lies[i][k]))).toBeLessThan(1e-4));
  await setTime(page, '0');
  await sag.getByRole('switch', { name: 'Settled' }).focus();
  await page.keyboard.press('Space');
  await settled(page);

  // Turned on its side the box is a slope: without friction it slides off, but not where it sticks.
  await page.getByRole('button', { name: /^Rounded box Surface/ }).click();
  await type(page.getByLabel('Tip', { exact: true }), '-20');
  await page.getByRole('button', { name: /^Tube along a path Surface/ }).click();
  await type(sag.getByLabel('Friction', { exact: true }), '0');
  await settled(page);
  const slid = Math.abs(along(await corners(page), 2).reduce((s, z) => s + z, 0)) / lies.length;
  await sag.getByRole('switch', { name: 'Sticks' }).click();
  await settled(page);
  const stuck = Math.abs(along(await corners(page), 2).reduce((s, z) => s + z, 0)) / lies.length;
  expect(slid).toBeGreaterThan(0.5);
  expect(stuck).toBeLessThan(0.3);

  // With nothing to lie on it hangs between its ends, and by a short path hardly at all.
  for (const name of ['Rounded box', 'Plane']) await sag.getByRole('switch', { name }).click();
  await sag.getByRole('switch', { name: 'Hold its beginning' }).click();
  await sag.getByRole('switch', { name: 'Hold its end' }).click();
  await settled(page);
  const hangs = await corners(page);
  expect(Math.max(...along(hangs, 0))).toBeCloseTo(3, 1);
  expect(Math.min(...along(hangs, 1))).toBeGreaterThan(-0.4);
  await add(sag, 'Gravity');
  await type(sag.getByLabel('Gravity', { exact: true }), '0');
  await settled(page);
  expect(Math.min(...along(await corners(page), 1))).toBeCloseTo(-RADIUS, 2);

  // What is no tube does not sag, and says so.
  await page.getByRole('button', { name: /^Plane Surface/ }).click();
  await choose(page, 'Add a deformer', 'Sag');
  await expect(alerts(page).getByText(/“Plane” is no tube, so it does not sag/)).toBeVisible();
});
