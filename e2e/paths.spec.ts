import { expect, type Page } from '@playwright/test';
import {
  at,
  choose,
  clickAt,
  hang,
  newScene,
  pathByNumbers,
  pickOption,
  rows,
  scene,
  settled,
  takeProps,
  type,
  undo,
} from './support/app';
import { test } from './support/test';

test.beforeEach(({ page }) => newScene(page));

const make = async (page: Page, shape: string) => {
  await choose(page, 'New path or surface', shape);
  await settled(page);
};
const set = async (page: Page, label: string, value: string) => {
  await type(page.getByRole('region', { name: 'Recipe' }).getByLabel(label, { exact: true }), value);
  await settled(page);
};
const pathRow = (page: Page, name: string | RegExp) => page.getByRole('button', { name }).first();

test('a circle with live parameters carries a run, and becomes points when wanted', async ({ page }) => {
  await make(page, 'Circle');
  await set(page, 'Radius', '2');
  for (const axis of ['X', 'Y', 'Z']) await set(page, `Position ${axis}`, axis === 'Y' ? '0.5' : '1');
  await expect(page.getByTestId('path-facts')).toContainText('2 m');
  await takeProps(page, 'Crate');
  await hang(page, 'Crate');
  for (const r of await rows(page)) {
    expect(Math.hypot(r.x - 1, r.z - 1)).toBeCloseTo(2, 4);
    expect(r.y).toBeCloseTo(0.5, 9);
  }
  await pathRow(page, /^Circle Path/).click();
  await page.getByRole('button', { name: 'Into points' }).click();
  await settled(page);
  await expect(page.getByText(/12\.57 m · 8 points/)).toBeVisible();
  for (const r of await rows(page)) expect(Math.hypot(r.x - 1, r.z - 1)).toBeCloseTo(2, 4);
  await undo(page);
  await settled(page);
  await expect(page.getByText(/generated, live/)).toBeVisible();
});

test('a coil winds around a path, an offset stays beside it, and both follow when it changes', async ({
  page,
}) => {
  await make(page, 'Circle');
  await make(page, 'Coil around a path');
  await set(page, 'Radius', '0.4');
  await set(page, 'Turns', '7');
  await takeProps(page, 'Net float');
  await hang(page, 'Net float');
  const away = (r: { x: number; y: number; z: number }, x: number, z: number, radius: number) =>
    Math.hypot(Math.hypot(r.x - x, r.z - z) - radius, r.y);
  const middle = async () => {
    const list = await rows(page);
    return {
      list,
      x: list.reduce((s, r) => s + r.x, 0) / list.length,
      z: list.reduce((s, r) => s + r.z, 0) / list.length,
    };
  };
  await pathRow(page, /^Circle Path/).click();
  await set(page, 'Position X', '0');
  await set(page, 'Position Z', '0');
  let { list } = await middle();
  expect(list.length).toBeGreaterThan(20);
  for (const r of list) expect(away(r, 0, 0, 3)).toBeCloseTo(0.4, 3);
  await set(page, 'Radius', '5');
  ({ list } = await middle());
  for (const r of list) expect(away(r, 0, 0, 5)).toBeCloseTo(0.4, 3);
  await page.getByRole('button', { name: 'Offset', exact: true }).click();
  await set(page, 'Distance', '-1.5');
  await hang(page, 'Net float');
  const beside = (await rows(page)).filter((r) => r.arrangement === 'Net float 2');
  for (const r of beside) expect(Math.hypot(r.x, r.z)).toBeCloseTo(3.5, 4);
});

test('a strand hangs with just the length that its slack asks for', async ({ page }) => {
  await make(page, 'Strand');
  await set(page, 'Other end X', '8');
  await set(page, 'Slack', '25%');
  await expect(page.getByText(/10 m · generated/)).toBeVisible();
  await page.getByRole('radio', { name: 'Sag' }).click();
  await set(page, 'Sag', '2');
  await takeProps(page, 'Bulb');
  await hang(page, 'Bulb');
  const list = await rows(page);
  const lowest = Math.min(...list.map((r) => r.y));
  expect(lowest).toBeGreaterThanOrEqual(2 - 2 - 1e-9);
  expect(lowest).toBeLessThan(0.05);
  expect(list[0].y).toBeCloseTo(2, 9);
});

test('paths taken from a surface: a ring of constant v, its borders, and an edge loop picked in the view', async ({
  page,
}) => {
  await make(page, 'Beacon tower, with uv');
  await pathRow(page, /^Beacon tower Surface/).click();
  const lines = page.getByRole('button', { name: 'Lines of constant v' });
  // What is found out a moment later has its place from the beginning: nothing moves away from under the pointer.
  const place = await lines.boundingBox();
  await expect(page.getByText(/^Open, 113 m² of faces/)).toBeVisible();
  expect(await lines.boundingBox()).toEqual(place);
  await lines.click();
  await settled(page);
  await set(page, 'At', '0.35');
  await takeProps(page, 'Bulb');
  await hang(page, 'Bulb');
  // The tower's profile at 3.5 m: see its own formula.
  const radius = 2.1 - 0.11 * 3.5 + 0.85 * Math.exp(-((3.5 - 9.2) ** 2) / 0.9) + 0.5 * Math.exp(-3.5 * 1.4);
  const ring = await rows(page);
  for (const r of ring) {
    expect(r.y).toBeCloseTo(3.5, 3);
    // Between the columns of the mesh it runs on the chord.
    expect(Math.hypot(r.x, r.z)).toBeLessThanOrEqual(radius + 1e-3);
    expect(Math.hypot(r.x, r.z)).toBeGreaterThan(radius * Math.cos(Math.PI / 40) - 1e-2);
  }
  await pathRow(page, /^Beacon tower Surface/).click();
  await page.getByRole('button', { name: 'Its borders' }).click();
  await settled(page);
  await expect(page.getByText(/from a surface, live · 2 strokes/)).toBeVisible();
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Front', exact: true }).click();
  await page.getByRole('button', { name: 'Fit', exact: true }).click();
  await settled(page);
  await pathRow(page, /^Beacon tower Surface/).click();
  await page.getByRole('button', { name: 'An edge loop, picked in the scene' }).click();
  const p = await at(page, 0.5, 0.55);
  await page.mouse.move(p.x, p.y);
  // A level line has no height of its own.
  await expect(page.locator('[data-edge]')).toHaveCount(1);
  await page.mouse.click(p.x, p.y);
  await settled(page);
  await expect(page.getByLabel('Name of the path')).toHaveValue('Edge loop');
  await expect(page.getByTestId('path-facts')).toBeVisible();
});

test('another stroke in the same path carries the run too; going on from an end; strokes apart and joined', async ({
  page,
}) => {
  await pathByNumbers(page, [
    [-4, 0],
    [4, 0],
  ]);
  await takeProps(page, 'Crate');
  await hang(page, 'Crate');
  await pathRow(page, /^Path Path/).click();
  await page.getByRole('button', { name: 'Stroke', exact: true }).click();
  await clickAt(page, 0.3, 0.75);
  await clickAt(page, 0.7, 0.75);
  await page.keyboard.press('Enter');
  await settled(page);
  let list = await rows(page);
  expect(list.some((r) => r.slot.startsWith('k1.'))).toBe(true);
  await expect(page.getByText(/4 points · 2 strokes/)).toBeVisible();
  await choose(page, 'More for this path', 'Strokes apart');
  await settled(page);
  list = await rows(page);
  expect(list.some((r) => r.slot.startsWith('p1.'))).toBe(true);
  await undo(page);
  await settled(page);
  await page.getByRole('button', { name: 'Join', exact: true }).click();
  await settled(page);
  await expect(page.getByText(/m · 4 points$/)).toBeVisible();
  await undo(page);
  await undo(page);
  await settled(page);
  await page.getByRole('button', { name: 'Continue' }).click();
  await clickAt(page, 0.8, 0.7);
  await page.keyboard.press('Enter');
  await settled(page);
  await expect(page.getByText(/m · 3 points$/)).toBeVisible();
});

test('while drawing, a number divides every path and the snap is exact, marked and named', async ({
  page,
}) => {
  await pathByNumbers(page, [
    [-5, 1],
    [5, 1],
  ]);
  await page.getByRole('button', { name: 'Fit', exact: true }).click();
  await settled(page);
  const [a, b] = await Promise.all(
    [1, 2].map(
      async (n) => (await page.getByRole('button', { name: `Point ${n}`, exact: true }).boundingBox())!,
    ),
  );
  const on = (u: number) => ({ x: a.x + a.width / 2 + (b.x - a.x) * u, y: a.y + a.height / 2 });
  await page.keyboard.press('2');
  const start = await at(page, 0.5, 0.8);
  await page.mouse.move(start.x, start.y);
  await page.mouse.click(start.x, start.y);
  await page.keyboard.press('4');
  const q = on(0.25);
  await page.mouse.move(q.x + 5, q.y - 4);
  await expect(page.locator('[data-snap="1/4 of Path"]')).toBeVisible();
  await page.mouse.click(q.x + 5, q.y - 4);
  const end = on(1);
  await page.mouse.move(end.x + 4, end.y + 3);
  await expect(page.locator('[data-snap="End of Path"]')).toBeVisible();
  // Ctrl suspends it.
  await page.keyboard.down('Control');
  await page.mouse.move(end.x + 5, end.y + 4);
  await expect(page.locator('[data-snap]')).toHaveCount(0);
  await page.keyboard.up('Control');
  const mid = on(0.5);
  await page.mouse.move(mid.x + 4, mid.y + 3);
  await page.mouse.click(mid.x + 4, mid.y + 3);
  await page.keyboard.press('Enter');
  await settled(page);
  await expect(page.getByLabel('Point 2 X in the list')).toHaveValue('-2.50');
  await expect(page.getByLabel('Point 2 Z in the list')).toHaveValue('1.00');
  await expect(page.getByLabel('Point 3 X in the list')).toHaveValue('0.00');
});

test('several points: taken in by a box, turned and sized about their middle, aligned, zoned, split and welded', async ({
  page,
}) => {
  await pathByNumbers(page, [
    [-3, -1],
    [-1, 1],
    [1, -1],
    [3, 1],
  ]);
  await page.getByRole('button', { name: 'Fit', exact: true }).click();
  await settled(page);
  const box = (await scene(page).boundingBox())!;
  await page.keyboard.down('Shift');
  await page.mouse.move(box.x + 12, box.y + 120);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width - 20, box.y + box.height - 60, { steps: 4 });
  await page.mouse.up();
  await page.keyboard.up('Shift');
  const group = page.getByRole('group', { name: 'Selected points' });
  await expect(group).toContainText('4 points selected');
  const value = async (n: number, axis: string) =>
    Number(await page.getByLabel(`Point ${n} ${axis} in the list`).inputValue());
  // Twice a fifth larger, by the knob's keys: about the middle at 0, 0.
  const knob = page.getByRole('slider', { name: 'Size the points' });
  await knob.focus();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowRight');
  await settled(page);
  expect(await value(4, 'X')).toBeCloseTo(3 * 1.05 * 1.05, 2);
  await undo(page);
  const turn = page.getByRole('slider', { name: 'Turn the points' });
  const t = (await turn.boundingBox())!;
  const c = { x: t.x + t.width / 2, y: t.y + t.height / 2 };
  await page.mouse.move(c.x, c.y);
  await page.mouse.down();
  await page.keyboard.down('Shift');
  await page.mouse.move(c.x + 58, c.y + 58, { steps: 5 });
  await page.mouse.up();
  await page.keyboard.up('Shift');
  await settled(page);
  // A quarter clockwise as seen from above.
  expect(await value(4, 'X')).toBeCloseTo(-1, 1);
  expect(await value(4, 'Z')).toBeCloseTo(3, 1);
  await undo(page);
  await group.getByRole('button', { name: 'Align: upright across Z' }).click();
  for (const n of [1, 2, 3, 4]) expect(await value(n, 'Z')).toBeCloseTo(0, 6);
  await type(group.getByLabel('Zone'), '2');
  await page.getByRole('button', { name: 'Select point 2' }).click();
  await group.getByRole('button', { name: 'Split' }).click();
  await settled(page);
  await expect(page.getByText(/5 points · 2 strokes/)).toBeVisible();
  await page.getByRole('button', { name: 'Weld ends' }).click();
  await settled(page);
  await expect(page.getByText(/6 m · 4 points$/)).toBeVisible();
});

test('subdivide, resample, simplify and round keep the line where it was', async ({ page }) => {
  await pathByNumbers(page, [
    [-4, 0],
    [0, 0],
    [0, 3],
  ]);
  await page.getByRole('button', { name: 'Subdivide' }).click();
  await settled(page);
  await expect(page.getByText('7 m · 5 points')).toBeVisible();
  await type(page.getByLabel('Resample by'), '0.5');
  await page.getByRole('button', { name: 'Resample', exact: true }).click();
  await settled(page);
  await expect(page.getByText('7 m · 15 points')).toBeVisible();
  await page.getByRole('button', { name: 'Simplify', exact: true }).click();
  await settled(page);
  await expect(page.getByText('7 m · 3 points')).toBeVisible();
  await page.getByRole('button', { name: 'Select point 2' }).click();
  await type(page.getByLabel('Round by'), '1');
  await settled(page);
  // Two straights cut by 1 m each, and a quarter of a circle.
  await expect(page.getByText(`${(5 + Math.PI / 2).toFixed(2)} m · 3 points`)).toBeVisible();
  await expect(page.getByTestId('path-facts')).toContainText('1 m');
  await expect(page.getByTestId('path-facts')).toContainText('0.25 turns');
});

test('roll and size of a point are turned and pulled in the scene', async ({ page }) => {
  await pathByNumbers(page, [
    [-4, 0],
    [0, 0],
    [4, 0],
  ]);
  await takeProps(page, 'Crate');
  await hang(page, 'Crate');
  await page.getByRole('button', { name: 'Point 2', exact: true }).click();
  const size = page.getByRole('slider', { name: 'Size at the point' });
  await size.focus();
  for (let i = 0; i < 4; i++) await page.keyboard.press('ArrowUp');
  await settled(page);
  await expect(page.getByLabel('Point size', { exact: true })).toHaveValue('120');
  const list = await rows(page);
  const middle = list.reduce((a, r) => (Math.abs(r.x) < Math.abs(a.x) ? r : a));
  expect(middle.sx).toBeGreaterThan(1.15);
  expect(list[0].sx).toBeCloseTo(1, 6);
  const knob = page.getByRole('slider', { name: 'Roll of the point' });
  const b = (await knob.boundingBox())!;
  await page.mouse.move(b.x + b.width / 2, b.y + b.height / 2);
  await page.mouse.down();
  await page.mouse.move(b.x + b.width / 2 + 66, b.y + b.height / 2 + 66, { steps: 4 });
  await page.mouse.up();
  await settled(page);
  await expect(page.getByLabel('Point roll', { exact: true })).toHaveValue('90');
});

test('a path over the pointer shows its way, its length and its bends; what is made from itself says so', async ({
  page,
}) => {
  await make(page, 'Circle');
  await pathRow(page, /^Circle Path/).hover();
  await expect(page.getByText(/^Circle · 18\.85 m · 1 turn · tightest 3 m$/)).toBeVisible();
  await make(page, 'Coil around a path');
  await pathRow(page, /^Circle Path/).click();
  await page.getByRole('button', { name: 'Offset', exact: true }).click();
  await settled(page);
  // The offset beside the coil, the coil around the offset: a ring.
  await pickOption(page, page, 'Beside', 'Coil');
  await pathRow(page, /^Coil Path/).click();
  await pickOption(page, page, 'Around', 'Circle offset');
  await settled(page);
  await expect(
    page.getByText(/is made from itself \(“.+” → “.+”\)\. Choose another base/).first(),
  ).toBeVisible();
  await takeProps(page, 'Crate');
  await pathRow(page, /^Circle Path/).click();
  await hang(page, 'Crate');
  expect((await rows(page)).length).toBeGreaterThan(5);
});
