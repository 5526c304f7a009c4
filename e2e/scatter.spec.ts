import { expect, type Page } from '@playwright/test';
import {
  axes,
  choose,
  counts,
  hang,
  make,
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

/** Props over areas: surfaces, what closed paths enclose, the inside of a closed mesh. */

const closest = (list: Row[]) => {
  let least = Infinity;
  list.forEach((a, i) => {
    for (const b of list.slice(i + 1)) least = Math.min(least, Math.hypot(a.x - b.x, a.y - b.y, a.z - b.z));
  });
  return least;
};

test('places are seen before there is a prop, then props share them; a hand empties and nudges single ones', async ({
  page,
}) => {
  await newScene(page);
  await make(page, 'Plane', { Width: '12', Depth: '8' });
  await takeProps(page, 'Grass tuft', 'Boulder');
  await choose(page, 'New arrangement', 'Over Plane');
  await settled(page);
  await expect(page.getByRole('img', { name: 'Places to be filled' })).toBeVisible();
  const spread = await openStep(page, 'Spread');
  await type(spread.getByRole('textbox', { name: 'At least apart' }), '0.8');
  const bare = await rows(page);
  expect(bare.length).toBeGreaterThan(0.5 * (96 / 0.64));
  expect(bare.every((r) => r.state === 'gap')).toBe(true);
  for (const name of ['Grass tuft', 'Boulder']) await hang(page, name);
  await expect(page.getByRole('img', { name: 'Places to be filled' })).toHaveCount(0);
  const all = await rows(page);
  // The same places as before, each with a prop of its own.
  expect(all.map((r) => r.slot)).toEqual(bare.map((r) => r.slot));
  expect(closest(all)).toBeGreaterThanOrEqual(0.8);
  expect(all.every((r) => Math.abs(r.x) <= 6 && Math.abs(r.z) <= 4 && r.y === 0)).toBe(true);
  const boulders = all.filter((r) => r.prop === 'Boulder').length;
  expect(boulders).toBeGreaterThan(all.length * 0.3);
  expect(boulders).toBeLessThan(all.length * 0.7);
  expect(await counts(page)).toEqual({ placed: all.length, gaps: 0 });

  // By the keys: the first place is emptied.
  const plan = page.getByRole('application', { name: /places from above/ });
  await plan.focus();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Enter');
  await settled(page);
  expect((await rows(page))[0]).toMatchObject({ state: 'gap', reason: 'hand' });
  // By the pointer: one is dragged a metre to the right, as the plan has it.
  const box = (await plan.boundingBox())!;
  const k = Math.min((box.width - 48) / span(all, 'x'), (box.height - 48) / span(all, 'z'));
  const middle = (axis: 'x' | 'z') => (edge(all, axis, Math.min) + edge(all, axis, Math.max)) / 2;
  const one = all.toSorted((a, b) => Math.hypot(a.x, a.z) - Math.hypot(b.x, b.z))[0];
  const at = {
    x: box.x + box.width / 2 + (one.x - middle('x')) * k,
    y: box.y + box.height / 2 + (one.z - middle('z')) * k,
  };
  await page.mouse.move(at.x, at.y);
  await expect(page.getByText(`#${one.slot} · placed`)).toBeVisible();
  await page.mouse.down();
  await page.mouse.move(at.x + k / 2, at.y, { steps: 3 });
  await page.mouse.move(at.x + k, at.y, { steps: 3 });
  await page.mouse.up();
  await settled(page);
  const after = (await rows(page)).find((r) => r.slot === one.slot)!;
  expect(after.x - one.x).toBeCloseTo(1, 1);
  expect(after.z - one.z).toBeCloseTo(0, 6);
  // Another way to say how many begins at about as many.
  await spread.getByRole('radio', { name: 'Per metre' }).click();
  await settled(page);
  expect((await rows(page)).length / all.length).toBeCloseTo(1, 0);
  await spread.getByRole('radio', { name: 'Apart' }).click();
  // Fewer or more of them leave those two as the hand had it.
  await type(spread.getByRole('textbox', { name: 'At least apart' }), '0.6');
  const more = await rows(page);
  expect(more.length).toBeGreaterThan(all.length * 1.3);
  const kept = new Set(all.map((r) => r.slot));
  expect(more.filter((r) => kept.has(r.slot)).length).toBeGreaterThan(all.length * 0.4);
  await undo(page);
  await settled(page);
  expect((await rows(page)).length).toBe(all.length);
});

const edge = (list: Row[], axis: 'x' | 'z', of: (...v: number[]) => number) =>
  of(...list.map((r) => r[axis]));
const span = (list: Row[], axis: 'x' | 'z') => edge(list, axis, Math.max) - edge(list, axis, Math.min);

/** A boulder in the basket, and a closed path about ten metres by eight. */
async function boulderAndBorder(page: Page): Promise<void> {
  await newScene(page);
  await takeProps(page, 'Boulder');
  await pathByNumbers(page, [
    [-5, -4],
    [5, -4],
    [5, 4],
    [-5, 4],
  ]);
  await page.getByRole('button', { name: /^Path Path/ }).click();
  await page.getByRole('radio', { name: 'Closed' }).click();
}

test('inside a closed path, on the ground beneath: so many, in rows, in clumps; inside a ball', async ({
  page,
}) => {
  await boulderAndBorder(page);
  await settled(page);
  await make(page, 'Hills', { Width: '30', Depth: '30', Height: '2' });
  await page.getByRole('button', { name: 'Boulder', exact: true }).click();
  await choose(page, 'New arrangement', 'Inside Path, from above');
  await settled(page);
  const spread = await openStep(page, 'Spread');
  await spread.getByRole('radio', { name: 'Number' }).click();
  await type(spread.getByRole('textbox', { name: 'Number' }), '60');
  const even = await rows(page);
  expect(even.length).toBe(60);
  expect(even.every((r) => Math.abs(r.x) <= 5 && Math.abs(r.z) <= 4)).toBe(true);
  // They stand on the hills, not on the height of the path.
  expect(new Set(even.map((r) => r.y.toFixed(3))).size).toBeGreaterThan(50);

  await spread.getByRole('radio', { name: 'Rows' }).click();
  await spread.getByRole('radio', { name: 'Apart' }).click();
  await type(spread.getByRole('textbox', { name: 'Apart' }), '2');
  const grid = await rows(page);
  expect(grid.every((r) => r.x % 2 === 0 && r.z % 2 === 0)).toBe(true);
  expect(grid.length).toBeGreaterThanOrEqual(15);
  await spread.getByRole('radio', { name: 'Clumps' }).click();
  const clumps = await rows(page);
  expect(clumps.length).toBeGreaterThan(grid.length * 2);

  // Another area keeps the recipe.
  await make(page, 'Sphere', { Radius: '3' });
  await page.getByRole('button', { name: /^Boulder inside Path Scatter/ }).click();
  const area = await openStep(page, 'Area');
  await area.getByRole('radio', { name: 'Inside' }).click();
  await pickOption(page, area, 'Surface', 'Sphere');
  await (await openStep(page, 'Ground')).getByRole('radio', { name: 'None' }).click();
  await spread.getByRole('radio', { name: 'Even' }).click();
  await settled(page);
  const inside = await rows(page);
  expect(inside.length).toBeGreaterThan(5);
  expect(inside.every((r) => Math.hypot(r.x, r.y, r.z) <= 3)).toBe(true);
  expect(closest(inside)).toBeGreaterThanOrEqual(2);
  await expect(page.getByRole('radio', { name: 'Front' }).last()).toBeVisible();
});

test('a border gets a point midway; over a coarse stand-in, landed on the fine ground', async ({ page }) => {
  await boulderAndBorder(page);
  await page.getByRole('button', { name: 'Boulder', exact: true }).click();
  await choose(page, 'New arrangement', 'Inside Path, from above');
  await settled(page);
  const square = await rows(page);
  expect(square.every((r) => Math.abs(r.x) <= 5 && Math.abs(r.z) <= 4)).toBe(true);
  // A click on the side between two corners puts a point there; it is drawn out to the east.
  await page.getByRole('button', { name: /^Path Path/ }).click();
  await page.getByRole('button', { name: 'Fit', exact: true }).click();
  await settled(page);
  const midway = await onScreen(page, [5, 0, 0.3]);
  await page.mouse.move(midway.x, midway.y);
  await page.mouse.click(midway.x, midway.y);
  await settled(page);
  await page.keyboard.press('Escape');
  await type(page.getByLabel('Point 3 X in the list'), '9');
  await type(page.getByLabel('Point 3 Z in the list'), '0');
  await settled(page);
  const wider = await rows(page);
  expect(Math.max(...wider.map((r) => r.x))).toBeGreaterThan(6);
  // Where the border did not move, the same ones stand.
  const west = (list: Row[]) => list.filter((r) => r.x < 3).map((r) => r.slot);
  const stay = new Set(west(wider));
  expect(west(square).filter((slot) => stay.has(slot)).length).toBeGreaterThan(west(square).length * 0.7);

  await make(page, 'Plane', { Width: '12', Depth: '8' });
  await make(page, 'Hills', { Width: '40', Depth: '40', Height: '2' });
  await page.getByRole('button', { name: 'Boulder', exact: true }).click();
  await choose(page, 'New arrangement', 'Over Plane');
  await settled(page);
  const over = async () => (await rows(page)).filter((r) => r.arrangement !== square[0].arrangement);
  const flat = await over();
  expect(flat.every((r) => r.y === 0)).toBe(true);
  const ground = await openStep(page, 'Ground');
  await ground.getByRole('radio', { name: 'Land', exact: true }).click();
  await ground.getByText('Every surface shown').click();
  await ground.getByText('Hills', { exact: true }).click();
  await ground.getByText('Plane', { exact: true }).click();
  await settled(page);
  const landed = await over();
  // Each where it was, seen from above, and as high as the hills are there.
  expect(landed.map((r) => [r.slot, r.x, r.z])).toEqual(flat.map((r) => [r.slot, r.x, r.z]));
  expect(new Set(landed.map((r) => r.y.toFixed(3))).size).toBeGreaterThan(landed.length / 2);
});

test('a shell of a ball, the box of what is open, drifting fronts, rows by uv; copied to another surface; riders on it', async ({
  page,
}) => {
  await newScene(page);
  await takeProps(page, 'Crate', 'Sea pink');
  await make(page, 'Sphere', { Radius: '3' });
  await make(page, 'Hills', { Width: '12', Depth: '10', Height: '2' });
  await page.getByRole('button', { name: 'Crate', exact: true }).click();
  await choose(page, 'New arrangement', 'Filling Sphere');
  const area = await openStep(page, 'Area');
  const spread = await openStep(page, 'Spread');
  await type(spread.getByRole('textbox', { name: 'At least apart' }), '0.6');
  const whole = await rows(page);
  expect(Math.min(...whole.map(far))).toBeLessThan(1);
  await type(area.getByRole('textbox', { name: 'Shell' }), '0.4');
  const shell = await rows(page);
  expect(shell.length).toBeGreaterThan(50);
  // The ball has faces: it is nowhere quite as large.
  expect(shell.every((r) => far(r) <= 3 && far(r) > 2.5)).toBe(true);
  await pickOption(page, area, 'Surface', 'Hills');
  await expect(page.getByText(/is open/).first()).toBeVisible();
  await area.getByRole('radio', { name: 'Box' }).click();
  await type(area.getByRole('textbox', { name: 'Shell' }), '');
  const box = await rows(page);
  expect(box.every((r) => Math.abs(r.x) <= 6 && Math.abs(r.z) <= 5)).toBe(true);
  expect(edge(box, 'x', Math.max) - edge(box, 'x', Math.min)).toBeGreaterThan(11);

  const facing = await openStep(page, 'Facing');
  await pickOption(page, facing, 'Heading', 'Drift');
  await settled(page);
  const drift = await rows(page);
  const front = (r: Row) => axes(r).front;
  const dots = drift.map((r) => {
    const near = drift.filter((o) => o !== r).reduce((a, b) => (apart(a, r) < apart(b, r) ? a : b));
    return front(r).reduce((sum, v, k) => sum + v * front(near)[k], 0);
  });
  expect(dots.reduce((a, b) => a + b) / dots.length).toBeGreaterThan(0.9);
  expect(Math.min(...drift.map((r) => front(r)[2]))).toBeLessThan(-0.5);
  expect(Math.max(...drift.map((r) => front(r)[2]))).toBeGreaterThan(0.5);

  // The same recipe on the ball, in rows along its u.
  await page.getByRole('button', { name: /^Crate inside Sphere Scatter/ }).click({ button: 'right' });
  await page.getByRole('menuitem', { name: 'Duplicate to Sphere' }).click();
  const own = await openStep(page, 'Spread');
  await own.getByRole('radio', { name: 'Rows' }).click();
  await own.getByRole('radio', { name: 'By uv' }).click();
  await settled(page);
  const both = await rows(page);
  const copy = both.filter((r) => r.arrangement !== both[0].arrangement);
  expect(copy.every((r) => Math.abs(far(r) - 3) < 0.1)).toBe(true);
  // Rows lie level, as far apart as they are asked to be along the ball.
  const levels = new Set(copy.map((r) => r.y.toFixed(4)));
  expect(levels.size).toBeGreaterThanOrEqual(Math.floor((Math.PI * 3) / 0.6) - 1);
  expect(levels.size).toBeLessThanOrEqual(Math.ceil((Math.PI * 3) / 0.6) + 1);

  await page
    .getByRole('button', { name: /Scatter/ })
    .last()
    .click({ button: 'right' });
  await page.getByRole('menuitem', { name: /riders/ }).click();
  await hang(page, 'Sea pink');
  await settled(page);
  const riding = (await rows(page)).filter((r) => r.prop === 'Sea pink');
  expect(riding.length).toBe(copy.length);

  // Members from each to a neighbour: one less than there are, none longer than it need be.
  await page.getByRole('button', { name: `${copy[0].arrangement} Scatter` }).click({ button: 'right' });
  await page.getByRole('menuitem', { name: /spans/ }).click();
  await hang(page, 'Crate');
  await settled(page);
  const members = (await rows(page)).filter((r) => /^Between/.test(r.arrangement));
  expect(members.length).toBe(copy.length - 1);

  // A border that crosses itself is told, and marked where it does.
  await pathByNumbers(page, [
    [10, -2],
    [16, 2],
    [16, -2],
    [10, 2],
  ]);
  await page.getByRole('button', { name: /^Path Path/ }).click();
  await page.getByRole('radio', { name: 'Closed' }).click();
  await choose(page, 'New arrangement', 'Inside Path, from above');
  await settled(page);
  await openStep(page, 'Checks');
  await expect(page.getByText(/“Path” crosses itself/).first()).toBeVisible();
  await expect(page.getByRole('img', { name: 'Found here' })).toHaveCount(1);
});

const far = (r: Row) => Math.hypot(r.x, r.y, r.z);
const apart = (a: Row, b: Row) => Math.hypot(a.x - b.x, a.y - b.y, a.z - b.z);
