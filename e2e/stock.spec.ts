import { expect, type Page } from '@playwright/test';
import { readFileSync } from 'node:fs';
import { TASKS } from '../src/ui/words/tasks';
import {
  choose,
  newScene,
  openStep,
  pathByNumbers,
  rows,
  settled,
  takeProps,
  type,
  undo,
  type Row,
} from './support/app';
import { test } from './support/test';

/** Shelves stocked as a person would, read back out of the exported rows. A tin is 0.1 m wide and deep, 0.12 m high. */

const placed = (list: Row[]) => list.filter((r) => r.state === 'placed');
const parts = (r: Row) => r.slot.split('.').slice(-3).map(Number);
const shelf = (page: Page) => page.getByTestId('stock-shelves').locator('canvas');

/** An edge two metres long with a board of 0.32 m behind it, tins and jars on it. */
async function stocked(page: Page, ...goods: string[]): Promise<void> {
  await newScene(page);
  await takeProps(page, ...goods);
  await pathByNumbers(page, [
    [-1, 0],
    [1, 0],
  ]);
  await choose(page, 'New arrangement', /^With the front edge/);
  const shelves = await openStep(page, 'Shelves');
  await type(shelves.getByLabel('Depth', { exact: true }), '0.32');
  await type(shelves.getByLabel('Board 1 clear height'), '0.3');
  await hangAll(page, goods);
}

async function hangAll(page: Page, goods: string[]): Promise<void> {
  for (const name of goods) {
    await page.getByRole('region', { name: 'Basket' }).getByRole('button', { name, exact: true }).hover();
    await page.getByRole('button', { name: `Hang ${name}`, exact: true }).click();
  }
  await settled(page);
}

/** Where metres along the only board are on the screen: two of them fit into the flat view, 18 pixels about them. */
async function along(page: Page, metres: number): Promise<{ x: number; y: number }> {
  const { x, y, width, height } = (await shelf(page).boundingBox())!;
  const k = Math.min(600, (width - 36) / 2, (height - 36 - 13) / 0.3);
  return { x: x + width / 2 + (metres - 1) * k, y: y + height * 0.72 };
}
/** The middle of a facing of tins, shared out over the two metres. */
const over = (page: Page, facing: number) => along(page, 0.05 + ((facing - 1) * 1.9) / 17);

test('an edge is filled: facings by their own width, rows behind, stacked, fronts on the edge', async ({
  page,
}) => {
  await stocked(page, 'Tin');
  const tins = placed(await rows(page));
  // 18 tins with a centimetre of air between them, three deep, two high: 0.24 and a centimetre of air under 0.3 m.
  expect(tins.length).toBe(18 * 3 * 2);
  for (const r of tins) {
    const [across, deep, high] = parts(r);
    expect(r.y).toBeCloseTo((high - 1) * 0.12, 6);
    expect(r.z).toBeCloseTo(-0.05 - (deep - 1) * 0.105, 6);
    expect(r.x).toBeCloseTo(-0.95 + ((across - 1) * 1.9) / 17, 6);
  }
  const filling = await openStep(page, 'Filling');
  await filling.getByRole('radiogroup', { name: 'Deep' }).getByRole('radio', { name: 'Number' }).click();
  await settled(page);
  const drawn = placed(await rows(page));
  const deeps = Array.from({ length: 18 }, (_, c) =>
    Math.max(...drawn.filter((r) => parts(r)[0] === c + 1).map((r) => parts(r)[1])),
  );
  expect(new Set(deeps)).toEqual(new Set([1, 2, 3]));
  const taken = await openStep(page, 'Taken');
  await type(taken.getByRole('textbox', { name: 'Sold out' }), '100');
  await settled(page);
  expect(placed(await rows(page)).length).toBe(0);
  await undo(page);
  await undo(page);
  await settled(page);
  expect(placed(await rows(page)).length).toBe(18 * 3 * 2);
});

test('in the flat view a click takes one away, a drag moves a facing, the edge of a group widens it', async ({
  page,
}) => {
  await stocked(page, 'Tin', 'Tin of tar');
  const props = async () => {
    const by = new Map(placed(await rows(page)).map((r) => [parts(r)[0], r.prop]));
    return Array.from({ length: 8 }, (_, i) => by.get(i + 1));
  };
  expect(await props()).toEqual([
    'Tin',
    'Tin of tar',
    'Tin',
    'Tin of tar',
    'Tin',
    'Tin of tar',
    'Tin',
    'Tin of tar',
  ]);
  const all = placed(await rows(page)).length;
  const second = await over(page, 2);
  await page.mouse.click(second.x, second.y);
  await settled(page);
  expect(placed(await rows(page)).length).toBe(all - 1);
  // The facing is in hand now: its bar says how deep it is.
  const bar = page.getByRole('group', { name: 'Facing 2' });
  await type(bar.getByLabel('Facing 2 deep'), '1');
  await settled(page);
  const own = placed(await rows(page)).filter((r) => parts(r)[0] === 2);
  expect(own.length).toBeLessThanOrEqual(2);
  await bar.getByRole('button', { name: 'Sold out' }).click();
  await settled(page);
  expect((await props())[1]).toBeUndefined();
  await bar.getByRole('button', { name: 'Let facing 2 go' }).click();
  await page.getByRole('button', { name: 'Put the facing down' }).click();
  await settled(page);
  // Dragged to the place of the fifth: those between move up by one.
  const [from, to] = [await over(page, 2), await over(page, 5)];
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(to.x, to.y, { steps: 6 });
  await page.mouse.up();
  await settled(page);
  expect(await props()).toEqual([
    'Tin',
    'Tin',
    'Tin of tar',
    'Tin',
    'Tin of tar',
    'Tin of tar',
    'Tin',
    'Tin of tar',
  ]);
  await page.getByRole('button', { name: 'Put the facing down' }).click();
  // The edge between the second and the third, pulled over the next two: the group has grown by them.
  const [edge, end] = [
    await along(page, 0.05 + 1.5 * (1.9 / 17)),
    await along(page, 0.05 + 3.5 * (1.9 / 17)),
  ];
  await page.mouse.move(edge.x, edge.y);
  await page.mouse.down();
  await page.mouse.move(end.x, end.y, { steps: 8 });
  await page.mouse.up();
  await settled(page);
  expect((await props()).slice(0, 6)).toEqual(['Tin', 'Tin', 'Tin', 'Tin', 'Tin of tar', 'Tin of tar']);
  await undo(page);
  await settled(page);
  expect((await props()).slice(0, 6)).toEqual([
    'Tin',
    'Tin',
    'Tin of tar',
    'Tin',
    'Tin of tar',
    'Tin of tar',
  ]);
});

test('by keys: from facing to facing, one taken away, sold out, moved, its group widened', async ({
  page,
}) => {
  await stocked(page, 'Tin', 'Tin of tar');
  const before = placed(await rows(page));
  await shelf(page).focus();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Enter');
  await settled(page);
  const after = placed(await rows(page));
  expect(before.filter((b) => !after.some((a) => a.slot === b.slot)).map((r) => parts(r))).toEqual([
    [1, 1, 2],
  ]);
  await shelf(page).focus();
  await page.keyboard.press('Alt+ArrowRight');
  await page.keyboard.press('Alt+ArrowRight');
  await settled(page);
  const first = async () => {
    const by = new Map(placed(await rows(page)).map((r) => [parts(r)[0], r.prop]));
    return [1, 2, 3, 4].map((c) => by.get(c));
  };
  expect(await first()).toEqual(['Tin of tar', 'Tin', 'Tin', 'Tin of tar']);
  await page.keyboard.press('Shift+ArrowRight');
  await settled(page);
  expect(await first()).toEqual(['Tin of tar', 'Tin', 'Tin', 'Tin']);
  await page.keyboard.press('Delete');
  await settled(page);
  expect((await first())[2]).toBeUndefined();
});

test('levels have goods of their own; units go out as a table; what does not fit is named', async ({
  page,
}) => {
  await stocked(page, 'Tin', 'Jar');
  const shelves = await openStep(page, 'Shelves');
  await type(shelves.getByLabel('Levels'), '2');
  await choose(page, shelves.getByRole('button', { name: 'Board 1 goods' }), 'Tin');
  await choose(page, shelves.getByRole('button', { name: 'Board 2 goods' }), 'Jar');
  await settled(page);
  const all = placed(await rows(page));
  for (const r of all) expect(r.prop).toBe(r.y < 0.32 ? 'Tin' : 'Jar');
  // The upper board begins over the lower one's 0.3 m and three centimetres of wood.
  expect(Math.min(...all.filter((r) => r.prop === 'Jar').map((r) => r.y))).toBeCloseTo(0.33, 6);
  await page.getByRole('radio', { name: 'Units' }).click();
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Units as a table (.csv)' }).click(),
  ]);
  const [head, ...lines] = readFileSync((await file.path())!, 'utf8')
    .trim()
    .split('\n');
  expect(head).toBe('shelf,board,facing,prop,from,to,deep,high,units,full');
  const sum = (prop: string) =>
    lines.filter((l) => l.split(',')[3] === prop).reduce((n, l) => n + Number(l.split(',')[8]), 0);
  for (const prop of ['Tin', 'Jar']) expect(sum(prop)).toBe(all.filter((r) => r.prop === prop).length);
  await type(shelves.getByLabel('Board 2 clear height'), '0.15');
  await settled(page);
  await openStep(page, 'Checks');
  await expect(page.getByText('“Jar” is higher than a shelf is clear')).toBeVisible();
  expect(placed(await rows(page)).every((r) => r.prop === 'Tin')).toBe(true);
});

test('a newcomer stocks a rack from an empty scene; a rack that is a placed prop is stocked too', async ({
  page,
}) => {
  const task = TASKS.find((t) => t.title === 'Stock a rack')!;
  expect(task.todo.length).toBeLessThanOrEqual(15);
  await newScene(page);
  let actions = 0;
  const act = (done: Promise<unknown>) => (actions++, done);
  await act(page.getByRole('button', { name: 'New path or surface' }).click());
  await act(page.getByRole('menuitem', { name: 'Rack with boards, to stock' }).click());
  await act(page.getByRole('button', { name: 'Stock its boards' }).click());
  await act(page.getByRole('button', { name: 'Add props' }).first().click());
  for (const name of ['Tin', 'Jar', 'Coil of line'])
    await act(page.getByRole('button', { name: `Add ${name}`, exact: true }).click());
  await act(page.keyboard.press('Escape'));
  for (const name of ['Tin', 'Jar', 'Coil of line']) {
    await page.getByRole('region', { name: 'Basket' }).getByRole('button', { name, exact: true }).hover();
    await act(page.getByRole('button', { name: `Hang ${name}`, exact: true }).click());
  }
  await act(page.getByRole('button', { name: /^Taken/ }).click());
  await act(
    type(
      page.getByRole('region', { name: 'Taken' }).getByRole('textbox', { name: 'From the front, most' }),
      '60',
    ),
  );
  expect(actions).toBeLessThanOrEqual(15);
  await settled(page);
  const all = await rows(page);
  // Five boards; on each the posts leave 1.9 of two metres.
  expect(new Set(placed(all).map((r) => /k(\d)/.exec(r.slot)?.[1] ?? '0')).size).toBe(5);
  expect(all.some((r) => r.reason === 'taken')).toBe(true);
  for (const r of placed(all)) expect(Math.abs(r.x)).toBeLessThan(0.95);
  const board = placed(all).filter((r) => !r.slot.startsWith('k') && parts(r)[2] === 1);
  for (const r of board.filter((b) => b.prop !== 'Coil of line')) expect(r.y).toBeCloseTo(0.2, 6);
});
