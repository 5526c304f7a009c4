import { expect, type Page } from '@playwright/test';
import { strFromU8, unzipSync } from 'fflate';
import type { Scene } from '@/core/scene/schema';
import {
  cratesAlong,
  hang,
  make,
  newScene,
  onScreen,
  openExample,
  pathByNumbers,
  readRows,
  rows,
  sendOut,
  settled,
  takeProps,
  undo,
} from './support/app';
import { test } from './support/test';

/** Copy, cut and paste, within a scene and between scenes, and several things in hand at once. */

const copied = (page: Page) => expect(page.getByText(/copied\. Paste here/)).toBeVisible();
const row = (page: Page, name: string) =>
  page.getByRole('region', { name: 'Contents' }).getByRole('button', { name: new RegExp(`^${name}\\b`) });

test('a run is copied beside itself, with its path onto the copy of that, and into another scene with all that it needs', async ({
  page,
}) => {
  await cratesAlong(
    page,
    [
      [-4, 0],
      [4, 0],
    ],
    '2',
  );
  const placed = async (name: string) =>
    (await rows(page)).filter((r) => r.arrangement === name && r.state === 'placed');
  const before = await placed('Crate');
  expect(before.map((r) => Math.round(r.x * 1e9) / 1e9)).toEqual([-4, -2, 0, 2, 4]);
  await row(page, 'Crate Run').click();
  await page.keyboard.press('Control+c');
  await copied(page);
  await page.keyboard.press('Control+v');
  await expect(page.getByLabel('Name of the run')).toHaveValue('Crate 2');
  const beside = await placed('Crate 2');
  expect(beside.map((r) => r.x)).toEqual(before.map((r) => r.x));
  expect(Math.abs(beside[0].z - before[0].z)).toBeGreaterThan(0.3);
  await undo(page);
  expect(await placed('Crate 2')).toEqual([]);
  // Both at once: the copy stands on the path that came with it.
  await row(page, 'Crate Run').click();
  await row(page, 'Path Path').click({ modifiers: ['Control'] });
  await expect(page.getByRole('heading', { name: '2 selected' })).toBeVisible();
  await page.getByRole('button', { name: 'Copy', exact: true }).click();
  await copied(page);
  await page.keyboard.press('Control+v');
  await expect(page.getByRole('button', { name: 'Undo paste 2 things' })).toBeVisible();
  const [one] = await placed('Crate 2');
  expect([one.x - before[0].x, one.z - before[0].z].map((v) => v > 0.1)).toEqual([true, true]);
  // Into another scene.
  await newScene(page);
  await page.keyboard.press('Control+v');
  await expect(row(page, 'Crate Run')).toBeVisible();
  await expect(row(page, 'Path Path')).toBeVisible();
  expect((await placed('Crate')).map((r) => [r.x, r.z])).toEqual(before.map((r) => [r.x, r.z]));
  await expect(
    page.getByRole('region', { name: 'Basket' }).getByLabel('Crate', { exact: true }),
  ).toBeVisible();
});

test('cut takes away what it has copied; what is typed in a field is copied as text', async ({ page }) => {
  await openExample(page, 'Rope fence');
  const posts = async () =>
    (await rows(page)).filter((r) => r.arrangement === 'Posts' && r.state === 'placed').length;
  const before = await posts();
  expect(before).toBeGreaterThan(5);
  await row(page, 'Posts Run').click();
  await page.getByLabel('Name of the run').focus();
  await page.keyboard.press('Control+a');
  await page.keyboard.press('Control+x');
  expect(await posts()).toBe(before);
  await page.keyboard.press('Escape');
  await row(page, 'Posts Run').click();
  await page.keyboard.press('Control+x');
  await expect(row(page, 'Posts Run')).toHaveCount(0);
  expect(await posts()).toBe(0);
  await page.keyboard.press('Control+v');
  await expect(row(page, 'Posts Run')).toBeVisible();
  expect(await posts()).toBe(before);
});

test('points become a path of their own, placed props become pegs', async ({ page }) => {
  await cratesAlong(
    page,
    [
      [-4, 0],
      [0, -2],
      [4, 0],
    ],
    '2',
  );
  await row(page, 'Path Path').click();
  const points = page.getByRole('group', { name: 'Points of Path' });
  await points.getByRole('button', { name: 'Point 1', exact: true }).press('Enter');
  await points.getByRole('button', { name: 'Point 2', exact: true }).press('Shift+Enter');
  await page.keyboard.press('Control+c');
  await expect(page.getByText('2 points copied.')).toBeVisible();
  await newScene(page);
  await page.keyboard.press('Control+v');
  await expect(row(page, 'Path Path')).toBeVisible();
  await expect(page.getByLabel('Point 2 Z in the list')).toHaveValue(/^-2/);
  await expect(page.getByLabel('Point 3 Z in the list')).toHaveCount(0);
  await takeProps(page, 'Crate');
  await row(page, 'Path Path').click();
  await hang(page, 'Crate');
  const hung = (await rows(page)).filter((r) => r.state === 'placed');
  const at = await onScreen(page, [hung[1].x, 0.2, hung[1].z]);
  await page.mouse.click(at.x, at.y);
  await page.keyboard.press('Control+c');
  await expect(page.getByText('1 placed prop copied.')).toBeVisible();
  await page.keyboard.press('Control+v');
  await expect(row(page, 'Crate 2 Pegs')).toBeVisible();
  const [peg] = (await rows(page)).filter((r) => r.arrangement === 'Crate 2');
  expect(peg.prop).toBe('Crate');
  expect(peg.z).toBeCloseTo(hung[1].z, 9);
});

test('several rows: from one to another, hidden, on one thread, set alike, sent out alone, deleted, each one step', async ({
  page,
}) => {
  await openExample(page, 'Rope fence');
  const list = page.getByRole('region', { name: 'Contents' });
  const names = ['Posts', 'Lower rails', 'Boards of the footpath'];
  const all = [...new Set((await rows(page)).map((r) => r.arrangement))];
  for (const name of names) expect(all).toContain(name);
  await row(page, 'Posts Run').click();
  await row(page, 'Lower rails').click({ modifiers: ['Shift'] });
  await expect(list.locator('[aria-current="true"]')).toHaveCount(2);
  await page.keyboard.press('h');
  await settled(page);
  await expect(page.getByRole('button', { name: 'Show Posts', exact: true })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Show Lower rails', exact: true })).toBeVisible();
  await page.keyboard.press('h');
  await page.getByRole('button', { name: 'Thread of all: plum' }).click();
  await page.getByRole('button', { name: 'Send out these' }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByLabel('Just what is selected (2)')).toBeChecked();
  await dialog.getByRole('radio', { name: /\.csv/ }).click();
  const download = page.waitForEvent('download');
  await page.keyboard.press('Enter');
  const file = await (await download).createReadStream();
  let text = '';
  for await (const part of file) text += part;
  expect([...new Set(readRows(text).map((r) => r.arrangement))].sort()).toEqual(['Lower rails', 'Posts']);
  // The whole again, when it is asked for from above.
  const whole = readRows((await sendOut(page, 'csv')).toString());
  expect(new Set(whole.map((r) => r.arrangement)).size).toBe(all.length);
  await row(page, 'Posts Run').click();
  await row(page, 'Boards of the footpath').click({ modifiers: ['Control'] });
  await page.keyboard.press('Delete');
  await settled(page);
  const left = new Set((await rows(page)).map((r) => r.arrangement));
  expect(left.has('Posts') || left.has('Boards of the footpath')).toBe(false);
  await undo(page);
  expect(new Set((await rows(page)).map((r) => r.arrangement)).size).toBe(all.length);
});

test('one step of the recipe alike in several runs', async ({ page }) => {
  await cratesAlong(
    page,
    [
      [-4, 0],
      [4, 0],
    ],
    '4',
  );
  await page.keyboard.press('Control+d');
  await settled(page);
  await page.keyboard.press('Control+d');
  await settled(page);
  const spaced = async () => {
    const all = (await rows(page)).filter((r) => r.state === 'placed');
    return ['Crate', 'Crate 2', 'Crate 3'].map((name) => all.filter((r) => r.arrangement === name).length);
  };
  expect(await spaced()).toEqual([3, 3, 3]);
  await page
    .getByRole('spinbutton', { name: 'Pitch', exact: true })
    .or(page.getByLabel('Pitch', { exact: true }))
    .first()
    .fill('2');
  await page.keyboard.press('Enter');
  expect(await spaced()).toEqual([3, 3, 5]);
  await row(page, 'Crate Run').click();
  await row(page, 'Crate 2').click({ modifiers: ['Control'] });
  await row(page, 'Crate 3').click({ modifiers: ['Control'] });
  await page.getByRole('region', { name: 'Set together' }).getByRole('button', { name: 'Spacing' }).click();
  expect(await spaced()).toEqual([5, 5, 5]);
  await undo(page);
  expect(await spaced()).toEqual([3, 3, 5]);
});

test('paths in hand together are closed and turned round, surfaces get one outside, normals and hold, each one step', async ({
  page,
}) => {
  await cratesAlong(
    page,
    [
      [0, 0],
      [4, 0],
      [4, 3],
    ],
    '1',
  );
  await row(page, 'Crate Run').click();
  await row(page, 'Path Path').click({ modifiers: ['Control'] });
  await page.keyboard.press('Control+d');
  await settled(page);
  await row(page, 'Path Path').click();
  await row(page, 'Path 2 Path').click({ modifiers: ['Control'] });
  const placed = async () => {
    const all = (await rows(page)).filter((r) => r.state === 'placed');
    return [...new Set(all.map((r) => r.arrangement))].map((name) =>
      all.filter((r) => r.arrangement === name),
    );
  };
  const count = async () => (await placed()).map((list) => list.length);
  // 7 m of open path, 12 m of the closed one: 3, 4 and 5.
  expect(await count()).toEqual([8, 8]);
  const panel = page.getByRole('region', { name: 'Recipe' });
  await expect(panel.getByRole('radio', { name: 'Open', exact: true })).toBeChecked();
  await panel.getByRole('radio', { name: 'Closed' }).click();
  expect(await count()).toEqual([12, 12]);
  await expect(page.getByRole('button', { name: 'Undo close 2 things' })).toBeVisible();
  await undo(page);
  expect(await count()).toEqual([8, 8]);
  const before = await placed();
  await panel.getByRole('button', { name: 'Reverse the paths' }).click();
  const round = await placed();
  for (const [i, list] of round.entries()) {
    const ends = [before[i].at(-1)!, before[i][0]];
    [list[0], list.at(-1)!].forEach((r, k) => {
      expect(r.x).toBeCloseTo(ends[k].x, 9);
      expect(r.z).toBeCloseTo(ends[k].z, 9);
    });
  }
  // Surfaces that differ: no choice is marked until one is made.
  await make(page, 'Sphere');
  await page.getByRole('radio', { name: 'Flat', exact: true }).click();
  await make(page, 'Plane');
  await row(page, 'Sphere Surface').click({ modifiers: ['Control'] });
  for (const name of ['Smooth', 'Flat'])
    await expect(panel.getByRole('radio', { name, exact: true })).not.toBeChecked();
  for (const name of ['Flat', 'Inside out', 'Locked'])
    await panel.getByRole('radio', { name, exact: true }).click();
  await panel.getByLabel('Colour of the surface').fill('#446688');
  const sent = unzipSync(new Uint8Array(await sendOut(page, 'clothesline')));
  const { surfaces } = JSON.parse(strFromU8(sent['scene.json'])) as Scene;
  expect(surfaces).toHaveLength(2);
  for (const s of surfaces)
    expect(s).toMatchObject({ normals: 'flat', flipped: true, locked: true, mesh: { color: '#446688' } });
  await expect(page.getByRole('button', { name: /^Undo 2 things: colour/ })).toBeVisible();
});

test('several props of the basket hang as one mix, in equal shares', async ({ page }) => {
  await newScene(page);
  await takeProps(page, 'Crate', 'Barrel', 'Bollard');
  await pathByNumbers(page, [
    [-15, 0],
    [15, 0],
  ]);
  const basket = page.getByRole('region', { name: 'Basket' });
  await basket.getByRole('button', { name: 'Crate', exact: true }).click();
  await basket.getByRole('button', { name: 'Barrel', exact: true }).click({ modifiers: ['Control'] });
  await basket.getByRole('button', { name: 'Bollard', exact: true }).click({ modifiers: ['Control'] });
  await page.getByRole('button', { name: 'Hang as one mix' }).click();
  const count = new Map<string, number>();
  for (const r of (await rows(page)).filter((r) => r.state === 'placed'))
    count.set(r.prop, (count.get(r.prop) ?? 0) + 1);
  expect([...count.keys()].sort()).toEqual(['Barrel', 'Bollard', 'Crate']);
  const shares = [...count.values()];
  expect(Math.max(...shares) - Math.min(...shares)).toBeLessThanOrEqual(1);
});

test('the menu of the right button in the flat view and on points; a loop begins where it is told; Alt drags a copy of a stroke', async ({
  page,
}) => {
  await cratesAlong(
    page,
    [
      [-4, -2],
      [4, -2],
      [4, 2],
      [-4, 2],
    ],
    '4',
  );
  const menu = page.getByRole('menu');
  const placed = async () =>
    (await rows(page))
      .filter((r) => r.state === 'placed')
      .map((r) => [r.x, r.z].map((v) => Math.round(v)).join(' '));
  const flat = page.getByRole('region', { name: 'Flat view' });
  const before = await placed();
  await flat.getByRole('button', { name: /^Slot 2/ }).click({ button: 'right' });
  await menu.getByRole('menuitem', { name: 'Remove it' }).click();
  await expect.poll(placed).toEqual(before.filter((_, i) => i !== 1));
  await undo(page);
  await row(page, 'Path Path').click();
  await page.getByRole('radio', { name: 'Closed' }).click();
  await settled(page);
  expect((await placed())[0]).toBe('-4 -2');
  const points = page.getByRole('group', { name: 'Points of Path' });
  const third = points.getByRole('button', { name: 'Point 3', exact: true });
  await third.click({ button: 'right' });
  await menu.getByRole('menuitem', { name: 'Begin the loop here' }).click();
  await expect.poll(async () => (await placed())[0]).toBe('4 2');
  await undo(page);
  await page.getByRole('button', { name: 'Top', exact: true }).click();
  await page.getByRole('button', { name: 'Fit', exact: true }).click();
  await settled(page);
  // On the line, clear of its points.
  const { x, y } = await onScreen(page, [1.3, 0, -2]);
  const once = (await placed()).length;
  await page.keyboard.down('Alt');
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x + 30, y + 30, { steps: 4 });
  await page.mouse.up();
  await page.keyboard.up('Alt');
  await settled(page);
  await expect(points.getByRole('button', { name: 'Point 8', exact: true })).toBeVisible();
  expect((await placed()).length).toBe(once * 2);
  await undo(page);
  await expect.poll(async () => (await placed()).length).toBe(once);
});
