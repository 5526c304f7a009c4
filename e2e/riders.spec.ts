import { expect, type Page } from '@playwright/test';
import {
  add,
  axes,
  choose,
  hang,
  newScene,
  onScreen,
  openStep,
  pathByNumbers,
  pickOption,
  rows,
  settled,
  takeProps,
  type,
  undo,
  type Row,
} from './support/app';
import { test } from './support/test';

/** Props on props: riders, groups of pegs, and what lands on its fellows. */

test.beforeEach(({ page }) => newScene(page));

const placed = (list: Row[], arrangement: string) =>
  list.filter((r) => r.state === 'placed' && r.arrangement === arrangement);
const plane = async (page: Page, values: Record<string, string> = {}) => {
  await choose(page, 'New path or surface', 'Plane');
  await settled(page);
  for (const axis of ['X', 'Y', 'Z']) await type(page.getByLabel(`Position ${axis}`, { exact: true }), '0');
  for (const [label, value] of Object.entries(values))
    await type(page.getByLabel(label, { exact: true }), value);
  await settled(page);
};

test('riders sit on every prop of a run, are moved in the plan of their seat, and land three ways', async ({
  page,
}) => {
  await plane(page, { Width: '30', Depth: '20', Roll: '20' });
  await pathByNumbers(page, [
    [-6, 2],
    [6, 2],
  ]);
  await pickOption(page, page, 'Lies on', 'Nothing').catch(() => undefined);
  for (const n of [1, 2]) await type(page.getByLabel(`Point ${n} Y in the list`), '0');
  await takeProps(page, 'Bench', 'Barrel');
  await hang(page, 'Bench');
  const ground = await openStep(page, 'Ground');
  await ground.getByRole('radio', { name: 'Land', exact: true }).click();
  await type(ground.getByLabel('From above'), '20');
  await type(ground.getByLabel('Lean', { exact: true }), '100');
  await choose(page, 'More for this run', 'Add riders');
  await settled(page);
  await openStep(page, 'Props');
  await expect(page.getByRole('list', { name: 'Props of the riders' })).toContainText('Barrel');
  const seat = await openStep(page, 'Seat');
  await seat.getByRole('radio', { name: 'Its foot' }).click();
  await type(seat.getByLabel('Offset Y'), '0.4');
  await settled(page);
  const list = await rows(page);
  const [benches, barrels] = [placed(list, 'Bench'), placed(list, 'On Bench')];
  expect(barrels.length).toBe(benches.length);
  expect(benches.length).toBeGreaterThan(3);
  benches.forEach((bench, i) => {
    expect(barrels[i].slot).toBe(bench.slot);
    // 0.4 m along the bench's own up, which leans with the slope.
    const { up } = axes(bench);
    expect(up[1]).toBeCloseTo(Math.cos((20 * Math.PI) / 180), 6);
    (['x', 'y', 'z'] as const).forEach((k, a) =>
      expect(barrels[i][k] - bench[k]).toBeCloseTo(0.4 * up[a], 6),
    );
    expect(axes(barrels[i]).up[1]).toBeCloseTo(up[1], 6);
  });

  // Dragged in the plan: to the front along its way, to its left upwards.
  const dot = page.getByTestId('seat').getByRole('button', { name: 'The rider’s seat' });
  const box = (await dot.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2 + 30, box.y + box.height / 2 - 10, { steps: 3 });
  await page.mouse.up();
  await settled(page);
  const moved = placed(await rows(page), 'On Bench');
  const { front } = axes(benches[0]);
  const way = (['x', 'y', 'z'] as const).map((k) => moved[0][k] - barrels[0][k]);
  const ahead = way.reduce((sum, v, k) => sum + v * front[k], 0);
  expect(ahead).toBeGreaterThan(0.05);
  await undo(page);

  const landing = await openStep(page, 'Landing');
  await landing.getByRole('radio', { name: 'On its own' }).click();
  await landing.getByRole('radio', { name: 'Land', exact: true }).click();
  await type(landing.getByLabel('From above'), '20');
  await settled(page);
  const own = placed(await rows(page), 'On Bench');
  const slope = Math.tan((20 * Math.PI) / 180);
  own.forEach((r) => expect(Math.abs(r.y)).toBeCloseTo(Math.abs(r.x) * slope, 5));
  await landing.getByRole('radio', { name: 'Leader only' }).click();
  await settled(page);
  placed(await rows(page), 'On Bench').forEach((r) => {
    expect(r.y).toBeCloseTo(0.4, 6);
    expect(axes(r).up[1]).toBeCloseTo(1, 6);
  });
});

test('single riders are taken out and brought back, keep out of a closed path, and leave out what collides', async ({
  page,
}) => {
  await choose(page, 'New path or surface', 'Circle');
  await type(page.getByLabel('Radius', { exact: true }), '2');
  await pathByNumbers(page, [
    [-6, 0],
    [6, 0],
  ]);
  await takeProps(page, 'Bench', 'Barrel');
  await hang(page, 'Bench');
  await type((await openStep(page, 'Spacing')).getByLabel('Pitch', { exact: true }), '1');
  await choose(page, 'More for this run', 'Add riders');
  await settled(page);
  const riders = async () => (await rows(page)).filter((r) => r.arrangement === 'On Bench');
  const all = await riders();
  expect(all.map((r) => r.state)).toEqual(Array.from({ length: 13 }, () => 'placed'));

  // One of them, clicked in the scene, goes with Delete, and comes back from its panel.
  await page.getByRole('button', { name: 'Fit', exact: true }).click();
  await settled(page);
  const [third] = all.slice(2);
  const p = await onScreen(page, [third.x, third.y + 0.35, third.z]);
  await page.mouse.click(p.x, p.y);
  const panel = page.getByRole('group', { name: 'Selected prop' });
  await expect(panel).toContainText(`#${third.slot}`);
  await page.keyboard.press('Delete');
  await settled(page);
  const gone = await riders();
  expect(gone.filter((r) => r.reason === 'hand').map((r) => r.slot)).toEqual([third.slot]);
  await expect(await openStep(page, 'By hand')).toContainText(`#${third.slot}removed`);
  await panel.getByRole('button', { name: 'Bring back' }).click();
  await settled(page);
  expect((await riders()).every((r) => r.state === 'placed')).toBe(true);

  const step = await openStep(page, 'Gaps');
  await choose(page, step.getByRole('button', { name: 'Add a keep-out' }), 'Inside a closed path');
  await pickOption(page, step, 'Of path', 'Circle');
  await settled(page);
  // On the circle itself either is right.
  for (const r of await riders())
    if (Math.abs(Math.hypot(r.x, r.z) - 2) > 0.01)
      expect(r.reason === 'keep-out').toBe(Math.hypot(r.x, r.z) < 2);
  await page.getByRole('button', { name: 'Remove Keep-out' }).click();

  // A barrel that is 2.5 times its size is wider than a metre, and less than two.
  await type((await openStep(page, 'Seat')).getByLabel('Size', { exact: true }), '250%');
  await step.getByText('Leave out what collides').click();
  await settled(page);
  const states = (await riders()).map((r) =>
    r.state === 'placed' ? '|' : r.reason === 'collision' ? '.' : '?',
  );
  expect(states.join('')).toBe('|.|.|.|.|.|.|');

  // How benches vary is copied onto the barrels: they turn as much again as what they stand on.
  await page.getByRole('button', { name: /^Bench Run/ }).click();
  const variation = await openStep(page, 'Variation');
  await add(variation, 'Turn');
  for (const end of ['most', 'least'])
    await type(variation.getByLabel(`Turn, ${end}`, { exact: true }), '30');
  await choose(page, 'More for Variation', 'Copy Variation');
  await page.getByRole('button', { name: /^On Bench Riders/ }).click();
  await choose(page, 'More for Variation', 'Paste Variation');
  await settled(page);
  const list = await rows(page);
  const benches = list.filter((r) => r.arrangement === 'Bench');
  list
    .filter((r) => r.arrangement === 'On Bench')
    .forEach((r, i) => {
      const [own, under] = [axes(r).front, axes(benches[i]).front];
      expect(own.reduce((sum, v, k) => sum + v * under[k], 0)).toBeCloseTo(Math.cos(Math.PI / 6), 6);
    });
});

test('with stacking on, crates land on each other in slot order; off, on the ground alone', async ({
  page,
}) => {
  await plane(page, { Width: '30', Depth: '20' });
  await pathByNumbers(page, [
    [-3, 0],
    [3, 0],
  ]);
  await pickOption(page, page, 'Lies on', 'Nothing').catch(() => undefined);
  await takeProps(page, 'Crate');
  await hang(page, 'Crate');
  const spacing = await openStep(page, 'Spacing');
  await type(spacing.getByLabel('Pitch', { exact: true }), '0.3');
  const ground = await openStep(page, 'Ground');
  await ground.getByRole('radio', { name: 'Land', exact: true }).click();
  await settled(page);
  placed(await rows(page), 'Crate').forEach((r) => expect(r.y).toBeCloseTo(0, 6));
  await ground.getByRole('switch', { name: 'Stacking' }).click();
  await settled(page);
  const list = placed(await rows(page), 'Crate');
  // Each overlaps its neighbours: a stair of whole crates.
  const high = list[1].y;
  expect(high).toBeGreaterThan(0.3);
  list.forEach((r, i) => expect(r.y).toBeCloseTo(i * high, 5));
});

test('pegs are grouped under the last of them, and go with it', async ({ page }) => {
  await takeProps(page, 'Crate', 'Barrel');
  await page.getByRole('button', { name: 'Bring in', exact: true }).click();
  await page.getByLabel('File to bring in').setInputFiles({
    name: 'stores.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(
      'x,y,z,prop,turn,size\n1,0,2,Barrel,30,0.8\n1.2,0,1.2,Barrel,0,1\n2,0,2,Crate,90,1\n',
    ),
  });
  await expect(page.getByText(/3 pegs from “stores.csv”/)).toBeVisible();
  await settled(page);
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: /Pegs · 3 placed/ }).click();
  const before = await rows(page);
  const arrange = await openStep(page, 'Arrange');
  await arrange.getByRole('button', { name: 'Group under the last' }).click();
  await settled(page);
  const grouped = await rows(page);
  expect(grouped.filter((r) => r.prop === 'Barrel').length).toBe(2);
  for (const r of before) {
    const same = grouped.find(
      (g) => g.prop === r.prop && Math.abs(g.x - r.x) < 1e-6 && Math.abs(g.z - r.z) < 1e-6,
    );
    expect(same, `${r.prop} at ${r.x}`).toBeDefined();
    expect(axes(same!).front[0]).toBeCloseTo(axes(r).front[0], 6);
    expect(same!.sy).toBeCloseTo(r.sy, 6);
  }
});
