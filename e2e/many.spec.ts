import { expect } from '@playwright/test';
import { onScreen, openStep, rows, scene, settled } from './support/app';
import { openMany } from './support/many';
import { test } from './support/test';

/** Long lists and plans of many: what cannot be seen is not there, and all of it can be come to. */

const PEGS = 4000;

test('thousands of pegs and points: lists scroll to the last, and any peg of the plan is taken hold of', async ({
  page,
}) => {
  await openMany(page, PEGS, 2, 1500);
  await page.getByRole('button', { name: /^Tufts Pegs/ }).click();
  await openStep(page, 'Places');
  const list = page.getByRole('list', { name: 'Pegs' });
  await expect(list.getByRole('button', { name: 'Remove peg 900001' })).toBeVisible();
  expect(await list.getByRole('listitem').count()).toBeLessThan(60);
  // On to the last of them, as far as the wheel goes; it is edited like the first.
  await list.hover();
  const last = list.getByRole('textbox', { name: `Peg ${900000 + PEGS} X`, exact: true });
  await expect(async () => {
    await page.mouse.wheel(0, 1_000_000);
    await expect(list.getByRole('button', { name: `Remove peg ${900000 + PEGS}` })).toBeVisible({
      timeout: 500,
    });
  }).toPass();
  await last.fill('-7');
  await last.press('Enter');
  await settled(page);
  const pegs = async () => (await rows(page)).filter((r) => r.arrangement === 'Tufts');
  expect((await pegs()).at(-1)!.x).toBe(-7);

  // In the plan one that nobody has chosen is dragged.
  const plan = page.getByTestId('plan');
  const box = (await plan.boundingBox())!;
  const middle = { x: box.x + box.width / 2, y: box.y + box.height / 2 };
  await page.mouse.move(middle.x, middle.y);
  await expect(plan.getByRole('button', { name: /^Peg \d+$/ }).first()).toBeVisible();
  const slot = await page.evaluate(
    ({ x, y }) => document.elementFromPoint(x, y)!.getAttribute('aria-label')!.replace('Peg ', ''),
    middle,
  );
  const before = (await pegs()).find((r) => r.slot === slot)!;
  await page.mouse.down();
  await page.mouse.move(middle.x + 20, middle.y, { steps: 3 });
  await page.mouse.up();
  await settled(page);
  const after = (await pegs()).find((r) => r.slot === slot)!;
  expect(after.x).toBeGreaterThan(before.x);
  expect(after.z).toBe(before.z);

  await page.getByRole('button', { name: /^Coast Path/ }).click();
  const points = page.getByRole('button', { name: /^Select point \d+$/ });
  await expect(points.first()).toBeVisible();
  expect(await points.count()).toBeLessThan(80);
  await points.first().hover();
  await expect(async () => {
    await page.mouse.wheel(0, 1_000_000);
    await expect(page.getByRole('button', { name: 'Select point 1500' })).toBeVisible({ timeout: 500 });
  }).toPass();

  // In the scene all are drawn as one; the one under the pointer is taken hold of, and stays what is held.
  const handles = scene(page).getByRole('button', { name: /^Point \d+$/ });
  await expect(handles).toHaveCount(0);
  const to = await onScreen(page, [0.5, 0, -20]);
  await page.mouse.move(to.x, to.y);
  await expect(handles.first()).toBeVisible();
  expect(await handles.count()).toBeLessThan(250);
  const held = await page.evaluate(
    ({ x, y }) => document.elementFromPoint(x, y)!.closest('[role=button]')!.getAttribute('aria-label')!,
    to,
  );
  await page.mouse.down();
  await page.mouse.move(to.x, to.y + 25, { steps: 3 });
  await page.mouse.up();
  await settled(page);
  await expect(handles).not.toHaveCount(0);
  await points.first().hover();
  const z = page.getByLabel(`${held} Z in the list`);
  await expect(async () => {
    await page.mouse.wheel(0, -1_000_000);
    expect(parseFloat(await z.inputValue({ timeout: 500 }))).toBeGreaterThan(-20);
  }).toPass();
});

test('of twenty thousand it is said how many are drawn how; a far one is taken by a click; shown as boxes and as points', async ({
  page,
}) => {
  await openMany(page, 20_000, 2);
  await page.keyboard.press('Escape');
  const said = page.getByTestId('drawn');
  /** "20,023 props: 2,000 in full, 4,000 simply, 14,023 as points" */
  const drawn = async () => {
    await settled(page);
    const text = (await said.innerText()).replace(/,(?=\d)/g, '');
    const of = (what: string) => Number(new RegExp(`(\\d+) ${what}`).exec(text)?.[1] ?? 0);
    return { all: of('props'), full: of('in full'), simple: of('simply'), points: of('as points') };
  };
  const placed = (await rows(page)).filter((r) => r.state === 'placed');
  // 252 triangles each: not all of them can be drawn in full, and none is forgotten.
  await expect(said).toHaveText(/simply, .* as points$/);
  const before = await drawn();
  expect(before.all).toBe(placed.length);
  expect(before.full + before.simple + before.points).toBe(before.all);
  for (const n of [before.full, before.simple, before.points]) expect(n).toBeGreaterThan(0);

  // The farthest that is in view: drawn as a point, and met as what it is.
  const pegs = placed.filter((r) => r.arrangement === 'Tufts');
  await page.getByRole('button', { name: 'Fit', exact: true }).click();
  await settled(page);
  const far = pegs[0];
  const to = await onScreen(page, [far.x, 0.25, far.z]);
  await page.mouse.move(to.x, to.y);
  await page.mouse.click(to.x, to.y);
  await expect(page.getByText(new RegExp(`^#${far.slot} · `))).toBeVisible();

  await page.getByRole('button', { name: /^Tufts Pegs/ }).click({ button: 'right' });
  await page.getByRole('menuitem', { name: 'Show as boxes' }).click();
  // Twelve triangles each: all of them can be drawn at once.
  await expect(said).toHaveText(/ props: \d+ in full, 20,000 as boxes$/);
  await page.keyboard.press('Control+k');
  await page.getByLabel('Search the commands').fill('point cloud');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: 'Undo show “Tufts” as points' })).toBeVisible();
  const points = await drawn();
  expect(points.points).toBe(pegs.length);
  expect(points.full).toBe(placed.length - pegs.length);
  // It is how they are shown, and nothing else; and it is kept.
  expect((await rows(page)).filter((r) => r.state === 'placed')).toEqual(placed);
  await page.reload();
  expect(await drawn()).toEqual(points);
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  expect((await drawn()).all).toBe(placed.length);
  await expect(said).toHaveText(/simply/);
});
