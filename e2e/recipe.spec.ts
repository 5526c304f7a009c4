import { expect, type Page } from '@playwright/test';
import {
  add,
  axes,
  counts,
  drawPath,
  newScene,
  openStep,
  rows,
  settled,
  takeProps,
  type,
  undo,
  type Row,
} from './support/app';
import { test } from './support/test';

/** A straight path from the top, of a length that the recipe tells, with one run of bollards. */
async function straightRun(page: Page): Promise<void> {
  await newScene(page);
  await drawPath(page, [
    [0.2, 0.5],
    [0.8, 0.5],
  ]);
  await takeProps(page, 'Bollard', 'Painted bollard', 'Crate');
  // Exactly 10 m, by numbers.
  for (const [i, x] of [
    [1, -5],
    [2, 5],
  ]) {
    await type(page.getByLabel(`Point ${i} X in the list`), String(x));
    await type(page.getByLabel(`Point ${i} Z in the list`), '0');
  }
  await page.getByRole('button', { name: 'Bollard', exact: true }).hover();
  await page.getByRole('button', { name: 'Hang Bollard' }).click();
  await settled(page);
}

const placed = (list: Row[]) => list.filter((r) => r.state === 'placed');
const distances = (list: Row[]) => list.slice(1).map((r, i) => r.s - list[i].s);

test.beforeEach(({ page }) => straightRun(page));

test('spacing by pitch: leftover, insets, looseness, expressions and units', async ({ page }) => {
  const step = await openStep(page, 'Spacing');
  await type(step.getByLabel('Pitch', { exact: true }), '2.4/2');
  // 10 / 1.2 is 8.33: eight whole stretches, evened out to 1.25 m.
  expect(distances(await rows(page))).toEqual(Array(8).fill(expect.closeTo(1.25, 9)));
  await expect(step.getByText('9 slots fit in 10 m; pitch becomes 1.25 m.')).toBeVisible();
  await openStep(page, 'Spacing');
  await step.getByRole('radio', { name: 'At end' }).click();
  const atEnd = await rows(page);
  expect(distances(atEnd)).toEqual(Array(8).fill(expect.closeTo(1.2, 9)));
  expect(atEnd[0].s).toBe(0);
  await step.getByRole('radio', { name: 'Centre' }).click();
  expect((await rows(page))[0].s).toBeCloseTo(0.2, 9);
  await type(step.getByLabel('Inset at start'), '100 cm');
  await type(step.getByLabel('Inset at end'), '1 m');
  const inset = await rows(page);
  expect(inset[0].s).toBeCloseTo(1 + 0.4, 9);
  expect(inset).toHaveLength(7);
  await add(step, 'Loose by');
  await type(step.getByLabel('Loose by'), '0.2');
  const loose = await rows(page);
  loose.forEach((r, i) => expect(Math.abs(r.s - inset[i].s)).toBeLessThanOrEqual(0.2 + 1e-9));
  expect(loose.some((r, i) => Math.abs(r.s - inset[i].s) > 0.02)).toBe(true);
});

test('spacing by count, at the ends or half in; dragging the label changes it live', async ({ page }) => {
  const step = await openStep(page, 'Spacing');
  await step.getByRole('radio', { name: 'Count' }).click();
  await type(step.getByRole('textbox', { name: 'Count' }), '6');
  expect((await rows(page)).map((r) => r.x)).toEqual([-5, -3, -1, 1, 3, 5].map((x) => expect.closeTo(x, 9)));
  await step.getByRole('radio', { name: 'Half a pitch in' }).click();
  expect((await rows(page))[0].s).toBeCloseTo(10 / 12, 9);
  const label = step.getByText('Count', { exact: true }).last();
  const box = (await label.boundingBox())!;
  await page.mouse.move(box.x + 5, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + 45, box.y + box.height / 2, { steps: 6 });
  // Live, before the button is let go.
  await expect(page.getByTestId('counts')).toContainText('11 placed');
  await page.mouse.up();
  expect((await counts(page)).placed).toBe(11);
  // The whole drag is one step of the undo list.
  await page.getByRole('button', { name: /^Undo count 6 → 11/ }).click();
  await settled(page);
  expect((await counts(page)).placed).toBe(6);
});

test('order as a pattern with times ranges and pauses, and as a mix by weight', async ({ page }) => {
  const step = await openStep(page, 'Props');
  await type(page.getByLabel('Pitch', { exact: true }), '0.25');
  await step.getByRole('button', { name: 'Add a prop to the order' }).click();
  await page.getByRole('menuitem', { name: 'Painted bollard' }).click();
  await step.getByRole('button', { name: 'Add a pause' }).click();
  await type(step.getByLabel('Bollard times, least', { exact: true }), '2');
  await settled(page);
  let list = await rows(page);
  expect(list).toHaveLength(41);
  list.forEach((r, i) => expect(r.prop).toBe(['Bollard', 'Bollard', 'Painted bollard', ''][i % 4]));
  expect(list[3].reason).toBe('pause');
  await openStep(page, 'Props');
  await type(step.getByLabel('Bollard times, most', { exact: true }), '5');
  list = await rows(page);
  const groups = list
    .map((r) => (r.prop === 'Bollard' ? 'b' : r.prop ? 'p' : '-'))
    .join('')
    .split('p-')
    .slice(0, -1);
  for (const g of groups) expect(g.length).toBeGreaterThanOrEqual(2);
  for (const g of groups) expect(g.length).toBeLessThanOrEqual(5);
  expect(new Set(groups.map((g) => g.length)).size).toBeGreaterThan(1);
  // Reordered by keyboard-reachable buttons.
  await step.getByRole('button', { name: 'Move Painted bollard up' }).click();
  expect((await rows(page))[0].prop).toBe('Painted bollard');
  await step.getByRole('radio', { name: 'Mix' }).click();
  await type(step.getByLabel('Painted bollard weight'), '0');
  await type(step.getByLabel('Pause weight'), '0');
  list = await rows(page);
  expect(new Set(list.map((r) => r.prop))).toEqual(new Set(['Bollard']));
  await step.getByRole('button', { name: 'Take Bollard out' }).click();
  await expect(step.getByRole('alert')).toContainText('Every weight');
});

test('heading and posture', async ({ page }) => {
  // One end 5 m up.
  await page.getByRole('button', { name: /Path · / }).click();
  await type(page.getByLabel('Point 2 Y in the list'), '5');
  await page.getByRole('button', { name: /Run · / }).click();
  const step = await openStep(page, 'Facing');
  const first = async () => axes((await rows(page))[2]);
  let a = await first();
  expect(a.front).toEqual([1, 0, 0].map((v) => expect.closeTo(v, 9)));
  expect(a.up).toEqual([0, 1, 0].map((v) => expect.closeTo(v, 9)));
  await step.getByRole('radio', { name: 'Slope' }).click();
  a = await first();
  const k = 1 / Math.sqrt(125);
  expect(a.front).toEqual([10 * k, 5 * k, 0].map((v) => expect.closeTo(v, 9)));
  expect(a.up).toEqual([-5 * k, 10 * k, 0].map((v) => expect.closeTo(v, 9)));
  await step.getByRole('radio', { name: 'Upright' }).click();
  await step.getByRole('radio', { name: 'Across' }).click();
  a = await first();
  expect(Math.abs(a.front[2])).toBeCloseTo(1, 9);
  await step.getByRole('radio', { name: 'Compass' }).click();
  await type(step.getByLabel('Clockwise from north'), '90');
  a = await first();
  expect(a.front).toEqual([1, 0, 0].map((v) => expect.closeTo(v, 9)));
  await add(step, 'Side');
  await type(step.getByLabel('Side', { exact: true }), '50 cm');
  const r = (await rows(page))[2];
  // Right of the way along +x is +z.
  expect(r.z).toBeCloseTo(0.5, 9);
  await expect(page.getByRole('region', { name: 'Facing' }).getByRole('button').first()).toContainText(
    'Compass 90°, upright',
  );
});

test('bank takes the roll of the points', async ({ page }) => {
  await page.getByRole('button', { name: 'Point 2', exact: true }).click();
  await type(page.getByLabel('Point roll'), '90');
  const step = await openStep(page, 'Facing');
  await step.getByRole('radio', { name: 'Bank' }).click();
  const list = await rows(page);
  expect(axes(list[0]).up[1]).toBeCloseTo(1, 6);
  const end = axes(list[list.length - 1]);
  expect(Math.abs(end.up[2])).toBeCloseTo(1, 6);
  // It begins the other way up.
  await step.getByRole('radio', { name: 'Down', exact: true }).click();
  const over = await rows(page);
  expect(axes(over[0]).up[1]).toBeCloseTo(-1, 6);
  expect(axes(over[over.length - 1]).up[2]).toBeCloseTo(-end.up[2], 6);
});

test('variation: ranges with two ends, steps, size; a seed; nothing else moves', async ({ page }) => {
  await type(page.getByLabel('Pitch', { exact: true }), '0.1');
  const still = await rows(page);
  const step = await openStep(page, 'Variation');
  await add(step, 'Turn', 'Size', 'Side');
  await type(step.getByLabel('Turn, least', { exact: true }), '-90');
  await type(step.getByLabel('Turn, most', { exact: true }), '90');
  await step.getByRole('switch', { name: 'In steps' }).click();
  await type(step.getByLabel('Turn in steps of'), '45');
  const turned = await rows(page);
  const heading = (r: Row) => Math.round((Math.atan2(axes(r).front[2], axes(r).front[0]) * 180) / Math.PI);
  expect(new Set(turned.map((r) => Math.abs(heading(r))))).toEqual(new Set([0, 45, 90]));
  turned.forEach((r, i) => expect([r.x, r.y, r.z]).toEqual([still[i].x, still[i].y, still[i].z]));
  await type(step.getByLabel('Size, least', { exact: true }), '80%');
  await type(step.getByLabel('Size, most', { exact: true }), '120%');
  const sized = await rows(page);
  for (const r of sized) {
    expect(r.sx).toBeGreaterThanOrEqual(0.8);
    expect(r.sx).toBeLessThanOrEqual(1.2);
  }
  // One setting does not reshuffle another.
  expect(sized.map(heading)).toEqual(turned.map(heading));
  await step.getByRole('button', { name: 'Next seed' }).click();
  const other = await rows(page);
  expect(other.map(heading)).not.toEqual(turned.map(heading));
  // By keyboard on the range's own handle.
  await step.getByRole('slider', { name: 'Side, most, slider' }).focus();
  for (let i = 0; i < 5; i++) await page.keyboard.press('ArrowRight');
  const shifted = await rows(page);
  expect(Math.max(...shifted.map((r) => r.z))).toBeLessThanOrEqual(0.05 + 1e-9);
  expect(Math.max(...shifted.map((r) => r.z))).toBeGreaterThan(0.03);
  await undo(page);
  await expect(page.getByText('Turn ±90°, size 80–120%')).toBeVisible();
});

test('gaps by chance and by keep-outs; a smaller chance keeps a subset', async ({ page }) => {
  await type(page.getByLabel('Pitch', { exact: true }), '0.05');
  const step = await openStep(page, 'Gaps');
  await type(step.getByLabel('Chance'), '30');
  const many = (await rows(page)).filter((r) => r.reason === 'chance').map((r) => r.slot);
  expect(many.length).toBeGreaterThan(40);
  expect(many.length).toBeLessThan(81);
  await type(step.getByLabel('Chance'), '10');
  const few = (await rows(page)).filter((r) => r.reason === 'chance').map((r) => r.slot);
  expect(few.length).toBeGreaterThan(5);
  for (const slot of few) expect(many).toContain(slot);
  await step.getByRole('button', { name: 'Add a keep-out' }).click();
  await page.getByRole('menuitem', { name: 'A stretch of the path' }).click();
  await type(step.getByLabel('Keep-out from'), '2');
  await type(step.getByLabel('Keep-out to'), '3.5');
  const list = await rows(page);
  for (const r of list) expect(r.reason === 'keep-out').toBe(r.s >= 2 && r.s <= 3.5);
  expect(await counts(page)).toEqual({
    placed: placed(list).length,
    gaps: list.length - placed(list).length,
  });
});

test('a prop dragged from the basket into the order joins it', async ({ page }) => {
  const step = await openStep(page, 'Props');
  const from = (await page.getByRole('button', { name: 'Crate', exact: true }).boundingBox())!;
  const to = (await step.getByRole('button', { name: 'Add a pause' }).boundingBox())!;
  await page.mouse.move(from.x + 20, from.y + 20);
  await page.mouse.down();
  await page.mouse.move(from.x + 60, from.y - 20, { steps: 3 });
  await page.mouse.move(to.x + 60, to.y + 8, { steps: 5 });
  // Where it would go is told before it is let go.
  await expect(step.locator('.ring-woad').first()).toBeVisible();
  await page.mouse.up();
  await settled(page);
  const list = await rows(page);
  list.forEach((r, i) => expect(r.prop).toBe(i % 2 ? 'Crate' : 'Bollard'));
});
