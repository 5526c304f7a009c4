import { expect, type Page } from '@playwright/test';
import {
  add,
  choose,
  counts,
  hang,
  newScene,
  openStep,
  pathByNumbers,
  pickOption,
  rows,
  sendOut,
  settled,
  takeProps,
  type,
  undo,
  axes,
  type Row,
} from './support/app';
import { test } from './support/test';

test.beforeEach(({ page }) => newScene(page));

const circle = async (page: Page, radius: string) => {
  await choose(page, 'New path or surface', 'Circle');
  await settled(page);
  await type(page.getByLabel('Radius', { exact: true }), radius);
  for (const axis of ['X', 'Z']) await type(page.getByLabel(`Position ${axis}`, { exact: true }), '0');
  await settled(page);
};
/** A straight run of bollards, 12 m along X, unless another prop is asked for. */
const straight = async (page: Page, ...props: string[]) => {
  await pathByNumbers(page, [
    [-6, 0],
    [6, 0],
  ]);
  await takeProps(page, 'Bollard', ...props);
  await hang(page, 'Bollard');
};
const placed = (list: Row[]) => list.filter((r) => r.state === 'placed');
const xs = (list: Row[]) => list.map((r) => r.x);
const near = (values: number[]) => values.map((v) => expect.closeTo(v, 6));

test('end to end around a circle: each back meets the front before it, over the seam too', async ({
  page,
}) => {
  await circle(page, '3');
  await takeProps(page, 'Rail');
  await hang(page, 'Rail');
  const step = await openStep(page, 'Spacing');
  await step.getByRole('radio', { name: 'Touch' }).click();
  await expect(step.getByText(/slots fit in 18\.8 m; all are scaled to/)).toBeVisible();
  const list = await rows(page);
  const n = list.length;
  // A regular polygon of rails, 1.6 m each before they were evened out.
  const side = 2 * 3 * Math.sin(Math.PI / n);
  expect(list[0].sz).toBeCloseTo(side / 1.6, 5);
  const tip = (r: Row, way: number) => {
    const { front } = axes(r);
    return [r.x, r.y, r.z].map((v, a) => v + front[a] * 0.8 * r.sz * way);
  };
  list.forEach((r, i) => {
    const [a, b] = [tip(r, 1), tip(list[(i + 1) % n], -1)];
    expect(Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2])).toBeLessThan(1e-6);
  });
  await type(step.getByLabel('Clearance', { exact: true }), '20 cm');
  const apart = await rows(page);
  const [a, b] = [tip(apart[0], 1), tip(apart[1], -1)];
  expect(Math.hypot(a[0] - b[0], a[2] - b[2])).toBeCloseTo(0.2 * apart[0].sz, 6);
});

test('divide the whole and each side, every second one; at corners; rows; a density curve with its chart', async ({
  page,
}) => {
  await pathByNumbers(page, [
    [-6, 0],
    [0, 0],
    [0, 6],
  ]);
  await takeProps(page, 'Bollard');
  await hang(page, 'Bollard');
  const step = await openStep(page, 'Spacing');
  await step.getByRole('radio', { name: 'Divide' }).click();
  await type(step.getByLabel('Parts', { exact: true }), '6');
  expect((await rows(page)).map((r) => r.s)).toEqual(near([0, 2, 4, 6, 8, 10, 12]));
  await type(step.getByLabel('Take every'), '2');
  await type(step.getByLabel('Starting at'), '1');
  expect((await rows(page)).map((r) => r.s)).toEqual(near([2, 6, 10]));
  await type(step.getByLabel('Take every'), '1');
  await type(step.getByLabel('Starting at'), '0');
  await step.getByRole('radio', { name: 'Side' }).click();
  await type(step.getByLabel('Parts', { exact: true }), '2');
  await step.getByRole('switch', { name: 'With the ends' }).click();
  expect((await rows(page)).map((r) => r.s)).toEqual(near([3, 9]));
  await step.getByRole('radio', { name: 'Points', exact: true }).first().click();
  await step.getByRole('radio', { name: 'Corners' }).click();
  expect((await rows(page)).map((r) => r.s)).toEqual(near([0, 6, 12]));
  // Rows on both sides.
  await add(step, 'Rows');
  await pickOption(page, step, 'Rows', 'on both sides');
  await type(step.getByLabel('Row distance'), '2');
  const both = await rows(page);
  expect(both).toHaveLength(6);
  expect(new Set(both.map((r) => r.z.toFixed(6))).has('1.000000')).toBe(true);
  await pickOption(page, step, 'Rows', 'about the path');
  // Denser at the start: the curve's own first point, by keys.
  await step.getByRole('radio', { name: 'Count' }).click();
  await type(step.getByRole('textbox', { name: 'Count' }), '13');
  await add(step, 'Density');
  await step.getByRole('button', { name: 'Shape density' }).click();
  await step.getByRole('slider', { name: 'Density, point 1' }).focus();
  for (let i = 0; i < 5; i++) await page.keyboard.press('ArrowDown');
  const dense = (await rows(page)).map((r) => r.s);
  expect(dense[1] - dense[0]).toBeLessThan((dense[12] - dense[11]) * 0.75);
  await page.getByRole('radio', { name: 'Spacing', exact: true }).click();
  const chart = page.getByTestId('spacing-chart');
  expect(Number(await chart.getAttribute('data-least'))).toBeCloseTo(
    Math.min(...dense.slice(1).map((s, i) => s - dense[i])),
    9,
  );
  await expect(chart.locator('.recharts-bar-rectangle').first()).toBeVisible();
});

test('groups in the order, by drag too; exact shares without repeats; first, last, corners, every third; by zone', async ({
  page,
}) => {
  await pathByNumbers(page, [
    [-6, 0],
    [0, 0],
    [0, 6],
  ]);
  await takeProps(page, 'Bollard', 'Crate', 'Barrel', 'Cleat');
  await hang(page, 'Bollard');
  await type((await openStep(page, 'Spacing')).getByLabel('Pitch', { exact: true }), '1');
  const step = await openStep(page, 'Props');
  await add(step, 'Special places');
  const letters = async () =>
    placed(await rows(page))
      .map((r) => r.prop[0] + r.prop[1])
      .join(' ');
  await step.getByRole('button', { name: 'Add a group', exact: true }).click();
  await choose(page, 'Add a prop to the group', 'Crate');
  await choose(page, 'Add a prop to the group', 'Barrel');
  await type(step.getByLabel('Group times, most'), '2');
  await type(step.getByLabel('Group times, least'), '2');
  expect(await letters()).toBe('Bo Cr Ba Cr Ba Bo Cr Ba Cr Ba Bo Cr Ba');
  // Dragged into the group and out again by its grip.
  const drag = async (name: string, onto: string) => {
    // Where things are is asked for once the list has come to rest.
    await settled(page);
    const box = async (entry: string) =>
      (await step.getByRole('button', { name: `Swap ${entry}` }).boundingBox())!;
    const [a, b] = [await box(name), await box(onto)];
    await page.mouse.move(a.x - 8, a.y + a.height / 2);
    await page.mouse.down();
    await page.mouse.move(a.x - 8, a.y + a.height / 2 + 12, { steps: 3 });
    await page.mouse.move(b.x - 8, b.y + b.height / 2, { steps: 6 });
    // It is dropped on what is seen to be under it.
    await settled(page);
    await page.mouse.up();
    await settled(page);
  };
  await drag('Bollard', 'Barrel');
  expect(await letters()).toMatch(/^(Cr Bo Ba|Cr Ba Bo) /);
  await undo(page);
  await drag('Barrel', 'Bollard');
  expect(await letters()).toMatch(/^Ba Bo Cr Cr /);
  await undo(page);
  // And by its own menu.
  await choose(page, 'More for Barrel', 'Out of the group');
  expect(await letters()).toBe('Ba Bo Cr Cr Ba Bo Cr Cr Ba Bo Cr Cr Ba');
  await choose(page, step.getByRole('button', { name: /^First:/ }), 'Cleat');
  await choose(page, step.getByRole('button', { name: /^Corners:/ }), 'Crate');
  await choose(page, step.getByRole('button', { name: /^Every n-th:/ }), 'Pause');
  await type(step.getByLabel('Every so many slots'), '4');
  await type(step.getByLabel('Counted from slot'), '4');
  const special = await rows(page);
  expect(special[0].prop).toBe('Cleat');
  expect(special[6].prop).toBe('Crate');
  expect(special.filter((r) => r.reason === 'pause').map((r) => r.slot)).toEqual(['4', '8', '12']);
  for (const name of [/^First:/, /^Corners:/, /^Every n-th:/])
    await choose(page, step.getByRole('button', { name }), 'As the order says');
  await choose(page, 'More for Group', 'Take the group apart');
  await step.getByRole('radio', { name: 'Mix' }).click();
  await step.getByRole('switch', { name: 'Exact shares' }).click();
  await step.getByRole('switch', { name: 'No repeats' }).click();
  const mixed = (await letters()).split(' ');
  for (let i = 1; i < mixed.length; i++) expect(mixed[i]).not.toBe(mixed[i - 1]);
  for (let i = 0; i + 3 <= 12; i += 3) expect(new Set(mixed.slice(i, i + 3)).size).toBe(3);
  // The second side is zone 1: crates alone there.
  await page.getByRole('button', { name: /^Path Path · / }).click();
  await page.getByRole('button', { name: 'Select point 2' }).click();
  await type(page.getByRole('group', { name: 'Selected points' }).getByLabel('Zone'), '1');
  await page.getByRole('button', { name: /^Bollard Run/ }).click();
  for (const [name, zone] of [
    ['Crate', '1'],
    ['Bollard', '0'],
    ['Barrel', '0'],
  ]) {
    await choose(page, `More for ${name}`, 'Only in some zones');
    await step.getByLabel(`${name} zones`).fill(zone);
    await step.getByLabel(`${name} zones`).press('Enter');
  }
  for (const r of placed(await rows(page))) expect(r.prop === 'Crate').toBe(r.s >= 6 - 1e-6);
});

test('towards a point and another run; every second mirrored; the side follows its curve', async ({
  page,
}) => {
  await straight(page);
  const step = await openStep(page, 'Facing');
  await step.getByRole('radio', { name: 'Target' }).click();
  await type(step.getByLabel('Target X'), '1');
  await type(step.getByLabel('Target Z'), '5');
  for (const r of await rows(page)) {
    const d = [1 - r.x, 5 - r.z];
    const l = Math.hypot(...d);
    expect(axes(r).front[0]).toBeCloseTo(d[0] / l, 6);
    expect(axes(r).front[2]).toBeCloseTo(d[1] / l, 6);
  }
  await step.getByRole('radio', { name: 'Along' }).click();
  await add(step, 'Every second', 'Side along the way');
  await step.getByRole('radio', { name: 'Mirror' }).click();
  (await rows(page)).forEach((r, i) => expect(r.sx).toBe(i % 2 ? -1 : 1));
  const glb = await sendOut(page, 'glb');
  expect(glb.length).toBeGreaterThan(1000);
  await step.getByRole('button', { name: 'Shape side along the way' }).click();
  await step.getByRole('slider', { name: 'Side along the way, point 2' }).focus();
  for (let i = 0; i < 10; i++) await page.keyboard.press('ArrowUp');
  const list = await rows(page);
  const middle = list.reduce((a, r) => (Math.abs(r.x) < Math.abs(a.x) ? r : a));
  expect(middle.z).toBeCloseTo(1 - Math.abs(middle.x) / 6, 6);
});

test('variation: own ranges for one prop, spread, tint in the file; six seeds side by side, a click keeps one', async ({
  page,
}) => {
  await straight(page, 'Crate');
  const order = await openStep(page, 'Props');
  await choose(page, 'Add a prop to the order', 'Crate');
  const step = await openStep(page, 'Variation');
  await choose(page, 'Ranges of its own for a prop', 'Crate');
  const own = step.getByRole('group', { name: 'Own ranges of Crate' });
  await type(own.getByRole('textbox', { name: 'Size, most' }), '200%');
  await type(own.getByRole('textbox', { name: 'Size, least' }), '150%');
  await add(step, 'Turn', 'Tint');
  await type(step.getByRole('textbox', { name: 'Turn, most' }).first(), '40');
  await step
    .getByRole('button', { name: /^Turn: evenly/ })
    .first()
    .click();
  await step.getByRole('button', { name: 'Add a tint' }).click();
  const list = placed(await rows(page));
  for (const r of list) {
    if (r.prop === 'Crate') expect(r.sx).toBeGreaterThanOrEqual(1.5);
    else expect(r.sx).toBe(1);
  }
  const glb = await sendOut(page, 'glb');
  const json = JSON.parse(glb.subarray(20, 20 + glb.readUInt32LE(12)).toString());
  expect(
    json.materials.some(
      (m: { pbrMetallicRoughness?: { baseColorFactor?: number[] } }) =>
        (m.pbrMetallicRoughness?.baseColorFactor?.[2] ?? 1) < 0.9,
    ),
  ).toBe(true);
  await step.getByRole('button', { name: 'Compare seeds' }).click();
  const six = page.getByRole('dialog', { name: 'Compare seeds' });
  await expect(six.locator('img')).toHaveCount(6, { timeout: 60_000 });
  const before = (await rowsBehind(page)).map((r) => r.qy);
  await step.getByRole('button', { name: 'Compare seeds' }).click();
  await page.getByRole('button', { name: 'Keep seed 4' }).click();
  await page.getByRole('button', { name: 'Close', exact: true }).click();
  await settled(page);
  await expect(step.getByRole('textbox', { name: 'Seed' })).toHaveValue('4');
  expect((await rows(page)).map((r) => r.qy)).not.toEqual(before);
  await expect(order).toBeVisible();
});

/** The rows, with the panel of seeds put away first. */
async function rowsBehind(page: Page): Promise<Row[]> {
  await page.keyboard.press('Escape');
  return rows(page);
}

test('gaps: a longest run, taken from an end, closed up, inside a closed path, near another run', async ({
  page,
}) => {
  await circle(page, '2');
  await straight(page, 'Crate');
  await type((await openStep(page, 'Spacing')).getByLabel('Pitch', { exact: true }), '0.5');
  const step = await openStep(page, 'Gaps');
  await type(step.getByLabel('Chance'), '70%');
  await type(step.getByLabel('Longest run'), '1');
  const chance = (await rows(page)).map((r) => (r.state === 'gap' ? 'x' : '.')).join('');
  expect(chance).not.toContain('xx');
  expect(chance).toContain('x.x');
  await type(step.getByLabel('Chance'), '0');
  await type(step.getByRole('textbox', { name: 'As if taken' }), '20%');
  await step.getByRole('radio', { name: 'End' }).click();
  const taken = await rows(page);
  expect(taken.filter((r) => r.reason === 'taken').map((r) => Number(r.slot))).toEqual([21, 22, 23, 24, 25]);
  await step.getByRole('radio', { name: 'Start' }).click();
  await step.getByRole('radio', { name: 'Close up' }).click();
  const closed = placed(await rows(page));
  expect(closed[0].slot).toBe('6');
  expect(xs(closed)).toEqual(near(Array.from({ length: 20 }, (_, i) => -6 + i * 0.5)));
  await type(step.getByRole('textbox', { name: 'As if taken' }), '0');
  await choose(page, step.getByRole('button', { name: 'Add a keep-out' }), 'Inside a closed path');
  await pickOption(page, step, 'Of path', 'Circle');
  await step.getByRole('radio', { name: 'Leave a hole' }).click();
  // On the circle itself either is right.
  for (const r of await rows(page))
    if (Math.abs(Math.abs(r.x) - 2) > 0.01) expect(r.reason === 'keep-out').toBe(Math.abs(r.x) < 2);
  await page.getByRole('button', { name: 'Remove Keep-out' }).click();
  // Near itself it waits for itself, and says so; the rest goes on.
  await page.getByRole('button', { name: /^Circle Path/ }).click();
  await hang(page, 'Crate');
  await choose(
    page,
    step.getByRole('button', { name: 'Add a keep-out' }),
    'Near props of another arrangement',
  );
  await type(step.getByLabel('Within'), '1.2');
  await settled(page);
  const crates = (await rows(page)).filter((r) => r.arrangement === 'Crate');
  for (const r of crates) {
    const close = Array.from({ length: 25 }, (_, i) => -6 + i * 0.5).some(
      (x) => Math.hypot(r.x - x, r.z) <= 1.2,
    );
    expect(r.reason === 'keep-out').toBe(close);
  }
  await pickOption(page, step, 'Near', 'props of Crate');
  await expect(step.getByText(/waits for itself/)).toBeVisible();
  expect((await rows(page)).filter((r) => r.arrangement === 'Bollard')).toHaveLength(25);
});

test('by hand: nudged in the flat view and the scene, swapped, locked, listed and let go', async ({
  page,
}) => {
  await straight(page, 'Crate');
  await type((await openStep(page, 'Spacing')).getByLabel('Pitch', { exact: true }), '1');
  await settled(page);
  const tag = page.locator('[data-slot="5"]');
  const b = (await tag.boundingBox())!;
  const flat = (await page.getByTestId('flat').boundingBox())!;
  const perMetre = (flat.width - 60) / 12;
  await page.mouse.move(b.x + b.width / 2, b.y + 25);
  await page.mouse.down();
  await page.mouse.move(b.x + b.width / 2 + perMetre * 0.4, b.y + 25, { steps: 4 });
  await page.mouse.up();
  await settled(page);
  let list = await rows(page);
  expect(list[4].x).toBeCloseTo(-2 + 0.4, 1);
  expect(list[4].state).toBe('placed');
  expect(list[5].x).toBeCloseTo(-1, 9);
  const hand = await openStep(page, 'By hand');
  await hand.getByRole('button', { name: /^#5/ }).click();
  const panel = page.getByRole('group', { name: 'Selected prop' });
  await type(panel.getByLabel('Nudge side'), '0.5');
  await type(panel.getByLabel('Nudge turn'), '90');
  await choose(page, panel.getByRole('button', { name: 'Swap the prop' }), 'Crate');
  list = await rows(page);
  expect(list[4]).toMatchObject({ prop: 'Crate', z: expect.closeTo(0.5, 6) });
  expect(axes(list[4]).front[2]).toBeCloseTo(-1, 6);
  await panel.getByRole('button', { name: 'Lock where it stands' }).click();
  const locked = (await rows(page))[4];
  await type((await openStep(page, 'Spacing')).getByLabel('Pitch', { exact: true }), '2');
  const facing = await openStep(page, 'Facing');
  await add(facing, 'Lift');
  await type(facing.getByLabel('Lift'), '1');
  const after = (await rows(page)).find((r) => r.slot === '5')!;
  expect([after.x, after.z, after.prop, after.qy]).toEqual([locked.x, locked.z, 'Crate', locked.qy]);
  await hand.getByRole('button', { name: 'Let go of #5' }).click();
  await settled(page);
  expect((await rows(page)).find((r) => r.slot === '5')!.z).toBeCloseTo(0, 9);
  await expect(hand.getByText(/^Nothing yet/)).toBeVisible();
  // Several at once; one that is clicked again leaves.
  await page.keyboard.press('Escape');
  for (const slot of [2, 6, 3, 6]) {
    const tag = (await page.locator(`[data-slot="${slot}"]`).boundingBox())!;
    await page.keyboard.down('Shift');
    await page.mouse.click(tag.x + tag.width / 2, tag.y + 25);
    await page.keyboard.up('Shift');
  }
  await page.locator('[data-slot="4"]').focus();
  await page.keyboard.press('Shift+Enter');
  await expect(panel.getByText('3 props')).toBeVisible();
  await choose(page, panel.getByRole('button', { name: 'Swap the prop' }), 'Crate');
  await panel.getByRole('button', { name: 'Lock where it stands' }).click();
  await type((await openStep(page, 'Spacing')).getByLabel('Pitch', { exact: true }), '1.5');
  await settled(page);
  const held = (await rows(page)).filter((r) => ['2', '3', '4'].includes(r.slot));
  expect(held.map((r) => r.x)).toEqual([-4, -2, 0].map((x) => expect.closeTo(x, 6)));
  await panel.getByRole('button', { name: 'Let go' }).click();
  await settled(page);
  await expect(hand.getByText(/^Nothing yet/)).toBeVisible();
  // In the scene: the arm to the side.
  await page.getByRole('button', { name: 'Top', exact: true }).click();
  await page.locator('[data-slot="3"]').focus();
  await page.keyboard.press('Alt+ArrowUp');
  await settled(page);
  expect((await rows(page)).find((r) => r.slot === '3')!.y).toBeCloseTo(1.05, 9);
});

test('a run on another path keeps its recipe; a step is copied to another run; frozen into pegs and back', async ({
  page,
}) => {
  await circle(page, '3');
  await straight(page, 'Crate');
  await type((await openStep(page, 'Spacing')).getByLabel('Pitch', { exact: true }), '1.5');
  const facing = await openStep(page, 'Facing');
  await add(facing, 'Lift');
  await type(facing.getByLabel('Lift'), '0.3');
  await choose(page, 'More for this run', 'Duplicate to Circle');
  await settled(page);
  const second = (await rows(page)).filter((r) => r.arrangement === 'Bollard 2');
  expect(second).toHaveLength(Math.round((6 * Math.PI) / 1.5));
  for (const r of second) {
    expect(r.y).toBeCloseTo(0.3, 9);
    expect(Math.hypot(r.x, r.z)).toBeCloseTo(3, 4);
  }
  await page.getByRole('button', { name: /^Bollard Run/ }).click();
  await choose(page, 'More for Spacing', 'Copy Spacing');
  await hang(page, 'Crate');
  await choose(page, 'More for Spacing', 'Paste Spacing');
  await settled(page);
  const crates = placed(await rows(page)).filter((r) => r.arrangement === 'Crate');
  expect(crates[1].s - crates[0].s).toBeCloseTo(1.5, 9);
  const before = crates.map((r) => [r.x, r.y, r.z]);
  await choose(page, 'More for this run', 'Into pegs');
  await settled(page);
  await expect(page.getByLabel('Name of the pegs')).toHaveValue('Crate');
  let pegs = (await rows(page)).filter((r) => r.arrangement === 'Crate');
  expect(pegs.map((r) => [r.x, r.y, r.z])).toEqual(before);
  const first = page.getByRole('button', { name: /^Peg \d+$/ }).first();
  const p = (await first.boundingBox())!;
  await page.mouse.move(p.x + p.width / 2, p.y + p.height / 2);
  await page.mouse.down();
  await page.mouse.move(p.x + p.width / 2 + 30, p.y + p.height / 2 + 12, { steps: 3 });
  await page.mouse.up();
  await settled(page);
  pegs = (await rows(page)).filter((r) => r.arrangement === 'Crate');
  expect(pegs[0].x).toBeGreaterThan(before[0][0] + 0.1);
  expect(pegs.slice(1).map((r) => r.x)).toEqual(before.slice(1).map((v) => v[0]));
  await undo(page);
  await undo(page);
  await settled(page);
  await expect(page.getByLabel('Name of the run')).toHaveValue('Crate');
});

test('the pulley: by hand around a loop, off the ends of an open path, and by itself in time', async ({
  page,
}) => {
  await circle(page, '3');
  await takeProps(page, 'Bollard');
  await hang(page, 'Bollard');
  const spacing = await openStep(page, 'Spacing');
  await spacing.getByRole('radio', { name: 'Count' }).click();
  await type(spacing.getByRole('textbox', { name: 'Count' }), '8');
  const start = (await rows(page)).map((r) => r.s);
  const length = start[1] * 8;
  await page.getByRole('button', { name: 'Pulley', exact: true }).click();
  await type(page.getByLabel('Offset', { exact: true }), '3');
  await page.keyboard.press('Escape');
  const moved = await rows(page);
  moved.forEach((r, i) => expect(r.s).toBeCloseTo((start[i] + 3) % length, 9));
  expect(await counts(page)).toEqual({ placed: 8, gaps: 0 });
  await page.getByRole('button', { name: 'Play the pulley' }).click();
  await expect(page.getByTestId('time')).not.toHaveText('0.0 s');
  await expect
    .poll(async () => Number((await page.getByTestId('time').innerText()).replace(' s', '')), {
      timeout: 20_000,
    })
    .toBeGreaterThan(0.5);
  await page.getByRole('button', { name: 'Stop the pulley' }).click();
  await settled(page);
  const time = Number((await page.getByTestId('time').innerText()).replace(' s', ''));
  const ran = (await rows(page))[0].s;
  // The speed is 0.2 m a second; the time is shown to a tenth.
  expect(Math.abs(((ran - moved[0].s + length) % length) - 0.2 * time)).toBeLessThan(0.011);
  await page.getByRole('button', { name: 'Back to the beginning' }).click();
  await settled(page);
  expect((await rows(page))[0].s).toBeCloseTo(moved[0].s, 9);
});

test('a bend tighter than the props is a line in Checks that leads there', async ({ page }) => {
  await circle(page, '0.2');
  await takeProps(page, 'Bench');
  await hang(page, 'Bench');
  const step = await openStep(page, 'Checks');
  await expect(step.getByText(/bends tighter than the props are long/)).toBeVisible();
  await step.getByRole('button', { name: /bends tighter/ }).click();
  await expect(page.getByRole('group', { name: 'Selected prop' })).toBeVisible();
});

test('rows waver along their path together and keep their distance; each by itself; undone by name', async ({
  page,
}) => {
  await pathByNumbers(page, [
    [-8, 0],
    [8, 0],
  ]);
  await takeProps(page, 'Bollard');
  await hang(page, 'Bollard');
  const spacing = await openStep(page, 'Spacing');
  await spacing.getByRole('radio', { name: 'Count' }).click();
  await type(spacing.getByLabel('Count', { exact: true }), '33');
  await add(spacing, 'Rows');
  await type(spacing.getByLabel('Number of rows'), '2');
  await type(spacing.getByLabel('Row distance'), '2');
  const variation = await openStep(page, 'Variation');
  await add(variation, 'Waver');
  await type(variation.getByLabel('Waver sideways'), '40cm');
  await settled(page);
  const apart = async () => {
    const list = await rows(page);
    const first = list.filter((r) => !r.slot.startsWith('r'));
    return first.map((r) => ({ z: r.z, by: list.find((o) => o.slot === `r1.${r.slot}`)!.z - r.z }));
  };
  const together = await apart();
  expect(together).toHaveLength(33);
  for (const { by } of together) expect(Math.abs(by)).toBeCloseTo(2, 9);
  const middle = (Math.min(...together.map((r) => r.z)) + Math.max(...together.map((r) => r.z))) / 2;
  const swing = Math.max(...together.map((r) => Math.abs(r.z - middle)));
  expect(swing).toBeGreaterThan(0.2);
  expect(swing).toBeLessThanOrEqual(0.4 + 1e-9);
  await variation.getByRole('radio', { name: 'Each' }).click();
  await settled(page);
  expect((await apart()).some(({ by }) => Math.abs(Math.abs(by) - 2) > 0.1)).toBe(true);
  await undo(page);
  await settled(page);
  await expect(page.getByRole('button', { name: /^Undo waver sideways 0 → 0.4/ })).toBeVisible();
  expect(await apart()).toEqual(together);
});
