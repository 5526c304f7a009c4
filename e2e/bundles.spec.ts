import { expect, type Page } from '@playwright/test';
import {
  add,
  choose,
  hang,
  newScene,
  onScreen,
  openStep,
  pathByNumbers,
  rows,
  sendOut,
  settled,
  takeProps,
  type,
  undo,
  type Row,
} from './support/app';
import { standing } from './support/glb';
import { test } from './support/test';

/** Bundles as a person makes, places, opens, nests and takes them apart, read back out of the exported rows. */

const placed = (list: Row[]) => list.filter((r) => r.state === 'placed');
const basket = (page: Page, name: string) =>
  page.getByRole('region', { name: 'Basket' }).getByRole('button', { name, exact: true });
const turns = (list: Row[], copy: number) =>
  list.filter((r) => r.slot.startsWith(`${copy}/`)).map((r) => Math.atan2(r.qy, r.qw).toFixed(4));

/** Three barrels a metre apart along X, each turned by chance, as a bundle. @returns what stood there before */
async function bundled(page: Page): Promise<Row[]> {
  await newScene(page);
  await takeProps(page, 'Barrel');
  await pathByNumbers(page, [
    [-1, 0],
    [1, 0],
  ]);
  await hang(page, 'Barrel');
  await type((await openStep(page, 'Spacing')).getByLabel('Pitch', { exact: true }), '1');
  const variation = await openStep(page, 'Variation');
  await add(variation, 'Turn');
  await type(variation.getByRole('textbox', { name: 'Turn, most' }), '90');
  const before = placed(await rows(page));
  expect(before.length).toBe(3);
  await choose(page, 'More for this run', 'Make a bundle of it');
  await settled(page);
  return before;
}

/** Hangs the bundle along a further line of ten metres, five metres apart: three copies. */
async function along(page: Page): Promise<Row[]> {
  await pathByNumbers(page, [
    [-5, 4],
    [5, 4],
  ]);
  await hang(page, 'Barrel bundle');
  await type((await openStep(page, 'Spacing')).getByLabel('Pitch', { exact: true }), '5');
  await settled(page);
  return placed(await rows(page)).filter((r) => r.arrangement !== 'Barrel bundle');
}

test('a run becomes one prop where it stood; its copies draw for themselves, or are alike', async ({
  page,
}) => {
  const before = await bundled(page);
  const once = placed(await rows(page));
  expect(once.map((r) => r.prop)).toEqual(['Barrel', 'Barrel', 'Barrel']);
  once.forEach((r, i) => {
    for (const axis of ['x', 'y', 'z'] as const) expect(r[axis]).toBeCloseTo(before[i][axis], 5);
  });
  const copies = await along(page);
  expect(copies.map((r) => r.slot)).toEqual([1, 2, 3].flatMap((c) => [1, 2, 3].map((s) => `${c}/${s}`)));
  // Barrels of a copy stand across its line: what was along X is along its side.
  for (const c of [1, 2, 3]) {
    const own = copies.filter((r) => r.slot.startsWith(`${c}/`));
    expect(Math.hypot(own[2].x - own[0].x, own[2].z - own[0].z)).toBeCloseTo(2, 5);
  }
  expect(new Set([1, 2, 3].map((c) => turns(copies, c).join())).size).toBe(3);
  await basket(page, 'Barrel bundle').click();
  await page.getByRole('switch', { name: 'Copies alike' }).click();
  await settled(page);
  const alike = placed(await rows(page)).filter((r) => r.arrangement !== 'Barrel bundle');
  expect(new Set([1, 2, 3].map((c) => turns(alike, c).join())).size).toBe(1);
});

test('what is changed in an open bundle changes in every copy; taken apart it stands by itself again', async ({
  page,
}) => {
  await bundled(page);
  await expect(page.getByRole('button', { name: /Run · 3 placed/ })).toHaveCount(0);
  await basket(page, 'Barrel bundle').click();
  await page.getByRole('button', { name: 'Open to edit' }).click();
  await expect(page.getByRole('status').filter({ hasText: 'is open' })).toBeVisible();
  await type((await openStep(page, 'Spacing')).getByLabel('Pitch', { exact: true }), '0.5');
  await page.getByRole('status').filter({ hasText: 'is open' }).getByRole('button', { name: 'Done' }).click();
  await settled(page);
  expect(placed(await rows(page)).length).toBe(5);
  await page.getByRole('button', { name: 'Take apart' }).click();
  await settled(page);
  const apart = placed(await rows(page));
  expect(apart.map((r) => r.slot)).toEqual(['1', '2', '3', '4', '5']);
  await expect(basket(page, 'Barrel bundle')).toHaveCount(0);
  await undo(page);
  await settled(page);
  expect(placed(await rows(page))[0].slot).toMatch(/\//);
});

test('a bundle of bundles names its way through both, and goes out as nodes in nodes', async ({ page }) => {
  await bundled(page);
  await along(page);
  await choose(page, 'More for this run', 'Make a bundle of it');
  await settled(page);
  const nested = placed(await rows(page)).filter((r) => r.slot.split('/').length === 3);
  expect(nested.length).toBe(9);
  const bytes = await sendOut(page, 'glb');
  const barrels = (await standing(bytes)).filter((s) => s.mesh === 'Barrel');
  expect(barrels.length).toBe(12);
  const middles = barrels.map(({ points }) =>
    [0, 2].map((a) => points.reduce((n, p) => n + p[a], 0) / points.length),
  );
  for (const r of nested)
    expect(Math.min(...middles.map(([x, z]) => Math.hypot(x - r.x, z - r.z)))).toBeLessThan(0.02);
  // Replaced by a plain prop everywhere, and a plain prop by a bundle.
  await basket(page, 'Barrel bundle').click();
  await page.keyboard.press('Delete');
  await settled(page);
  expect(placed(await rows(page)).filter((r) => r.prop === 'Barrel')).toEqual([]);
  await undo(page);
  await settled(page);
  expect(placed(await rows(page)).length).toBe(12);
});

test('one prop within one copy is moved, swapped and taken out; all other copies stay', async ({ page }) => {
  await bundled(page);
  const before = await along(page);
  const at = before.find((r) => r.slot === '2/3')!;
  await page.getByRole('button', { name: 'Top', exact: true }).click();
  await settled(page);
  const seen = await onScreen(page, [at.x, at.y + 0.5, at.z]);
  await page.mouse.click(seen.x, seen.y);
  await expect(page.getByRole('group', { name: 'Selected prop' })).toContainText('#2');
  // A further click goes into the copy, to what is under the pointer.
  await page.mouse.click(seen.x, seen.y);
  const panel = page.getByRole('group', { name: 'Selected within a copy' });
  await expect(panel).toContainText('#2/3');
  await type(panel.getByRole('textbox', { name: 'Nudge lift' }), '0.5');
  await settled(page);
  const own = async () => placed(await rows(page)).filter((r) => r.arrangement !== 'Barrel bundle');
  const lifted = await own();
  expect(lifted.map((r) => r.y - before.find((b) => b.slot === r.slot)!.y)).toEqual(
    before.map((r) => (r.slot === '2/3' ? 0.5 : 0)),
  );
  await panel.getByRole('button', { name: 'The one before' }).click();
  await expect(panel).toContainText('#2/2');
  await page.keyboard.press('Delete');
  await settled(page);
  expect((await own()).map((r) => r.slot)).toEqual(before.map((r) => r.slot).filter((s) => s !== '2/2'));
  // One step out the copy as a whole is in hand, and what was done stands in the recipe.
  await expect(page.getByRole('group', { name: 'Selected prop' })).toContainText('#2');
  const step = await openStep(page, 'Within copies');
  await expect(step.getByRole('listitem')).toHaveCount(2);
  await step.getByRole('button', { name: 'Let go of #2/2' }).click();
  await settled(page);
  expect((await own()).map((r) => r.slot)).toEqual(before.map((r) => r.slot));
  await undo(page);
  await undo(page);
  await undo(page);
  await settled(page);
  expect(await own()).toEqual(before);
});

test('a stocked rack becomes one prop with its goods', async ({ page }) => {
  await newScene(page);
  await page.getByRole('button', { name: 'New path or surface' }).click();
  await page.getByRole('menuitem', { name: 'Rack with boards, to stock' }).click();
  await page.getByRole('button', { name: 'Stock its boards' }).click();
  await takeProps(page, 'Tin');
  await hang(page, 'Tin');
  const before = placed(await rows(page));
  expect(before.length).toBeGreaterThan(50);
  await choose(page, 'More for this stock', 'Make a bundle of it');
  await settled(page);
  const one = placed(await rows(page));
  // The rack went in as a prop: one row more, and every tin where it stood.
  expect(one.length).toBe(before.length + 1);
  const tins = one.filter((r) => r.prop === 'Tin');
  tins.forEach((r, i) => {
    for (const axis of ['x', 'y', 'z'] as const) expect(r[axis]).toBeCloseTo(before[i][axis], 5);
  });
  await undo(page);
  await settled(page);
  expect(placed(await rows(page))).toEqual(before);
});

test('one prop of a run is made a bundle of by itself, and leaves the run for it', async ({ page }) => {
  await newScene(page);
  await takeProps(page, 'Barrel');
  await pathByNumbers(page, [
    [-4, 0],
    [4, 0],
  ]);
  await hang(page, 'Barrel');
  await type((await openStep(page, 'Spacing')).getByLabel('Pitch', { exact: true }), '2');
  const before = placed(await rows(page));
  const at = before.find((r) => r.slot === '4')!;
  await page.getByRole('button', { name: 'Top', exact: true }).click();
  await settled(page);
  const seen = await onScreen(page, [at.x, at.y + 0.5, at.z]);
  await page.mouse.click(seen.x, seen.y);
  await page.mouse.click(seen.x, seen.y, { button: 'right' });
  await page.getByRole('menuitem', { name: 'Make a bundle of it' }).first().click();
  await settled(page);
  const after = placed(await rows(page));
  expect(after.filter((r) => !r.slot.includes('/')).map((r) => r.slot)).toEqual(['1', '2', '3', '5']);
  const [own] = after.filter((r) => r.slot.includes('/'));
  for (const axis of ['x', 'y', 'z', 'qy', 'qw'] as const) expect(own[axis]).toBeCloseTo(at[axis], 5);
});
