import { expect, type Page } from '@playwright/test';
import {
  add,
  at,
  choose,
  newScene,
  onScreen,
  openExample,
  openStep,
  rows,
  settled,
  takeProps,
  type,
  undo,
} from './support/app';
import { test } from './support/test';

/** What every kind of arrangement can, tried where runs had it alone. */

const of = async (page: Page, arrangement: string) =>
  (await rows(page)).filter((r) => r.arrangement === arrangement);
const open = (page: Page, node: string) =>
  page
    .getByRole('button', { name: new RegExp(`^${node}`) })
    .first()
    .click();

test('members of spans: left out by chance, swapped and raised by hand, and no others', async ({ page }) => {
  await openExample(page, 'Rope fence');
  await open(page, 'Upper rails Spans');
  const before = await of(page, 'Upper rails');
  const gaps = await openStep(page, 'Gaps');
  await type(gaps.getByLabel('Chance', { exact: true }), '40');
  const thinned = await of(page, 'Upper rails');
  const left = thinned.filter((r) => r.reason === 'chance');
  expect(left.length).toBeGreaterThan(2);
  expect(thinned.length).toBe(before.length);
  await type(gaps.getByLabel('Chance', { exact: true }), '0');
  // One by hand: taken hold of in its list, raised, then let go.
  const [some] = before.filter((r) => r.state === 'placed');
  const hand = await openStep(page, 'By hand');
  await hand.getByText('#11', { exact: true }).click();
  await page
    .getByRole('group', { name: 'Selected prop' })
    .getByRole('button', { name: 'Bring back' })
    .click();
  await type(page.getByLabel('Nudge lift', { exact: true }), '0.3');
  const after = await of(page, 'Upper rails');
  const raised = after.find((r) => r.slot === '11')!;
  expect(raised.state).toBe('placed');
  const was = before.find((r) => r.slot === '11')!;
  const moved = [raised.x - was.x, raised.y - was.y, raised.z - was.z];
  expect(Math.hypot(...moved)).toBeCloseTo(0.3, 6);
  expect(after.find((r) => r.slot === some.slot)).toEqual(some);
});

test('pegs: a share of them taken, their turns drawn by a seed; what is put by hand stays where it is', async ({
  page,
}) => {
  await openExample(page, 'Ferry loop');
  await open(page, 'Mooring rings Pegs');
  const before = await of(page, 'Mooring rings');
  const gaps = await openStep(page, 'Gaps');
  await type(gaps.getByLabel('As if taken', { exact: true }), '50');
  const taken = (await of(page, 'Mooring rings')).filter((r) => r.reason === 'taken');
  expect(taken).toHaveLength(Math.round(before.length / 2));
  await undo(page);
  const variation = await openStep(page, 'Variation');
  await add(variation, 'Turn');
  await type(variation.getByLabel('Turn, least', { exact: true }), '-90');
  await type(variation.getByLabel('Turn, most', { exact: true }), '90');
  const turned = await of(page, 'Mooring rings');
  turned.forEach((r, i) => {
    expect([r.x, r.y, r.z]).toEqual([before[i].x, before[i].y, before[i].z]);
  });
  expect(turned.filter((r, i) => r.qw !== before[i].qw).length).toBeGreaterThan(turned.length / 2);
});

test('stitches keep their places on the cloth while it moves, unless their lengths are to move with it', async ({
  page,
}) => {
  await openExample(page, 'Sailcloth');
  await open(page, 'Twin seam stitches Run');
  await page.getByRole('button', { name: 'Speed and loop' }).click();
  const time = page.getByLabel('Time', { exact: true });
  const seen = async (seconds: string) => {
    await type(time, seconds);
    await settled(page);
    return (await of(page, 'Twin seam stitches')).map((r) => [r.slot, r.s] as const);
  };
  const first = await seen('0.2');
  expect(await seen('1.7')).toEqual(first);
  await page.keyboard.press('Escape');
  const spacing = await openStep(page, 'Spacing');
  await spacing.getByRole('radio', { name: 'As it moves' }).click();
  await page.getByRole('button', { name: 'Speed and loop' }).click();
  const [a, b] = [await seen('0.2'), await seen('1.7')];
  expect(a).not.toEqual(b);
});

test('a prop dropped beside every path stands there as a peg: free on bare ground, pinned on a surface', async ({
  page,
}) => {
  await newScene(page);
  await takeProps(page, 'Crate');
  await page.getByRole('button', { name: 'Top', exact: true }).click();
  await settled(page);
  const drop = async (x: number, y: number) => {
    const from = (await page.getByRole('button', { name: 'Crate', exact: true }).boundingBox())!;
    const to = await at(page, x, y);
    await page.mouse.move(from.x + 20, from.y + 20);
    await page.mouse.down();
    await page.mouse.move(from.x + 60, from.y - 20, { steps: 3 });
    await page.mouse.move(to.x, to.y, { steps: 5 });
    await page.mouse.up();
    await settled(page);
    return to;
  };
  const to = await drop(0.4, 0.4);
  const [free] = await rows(page);
  expect(free.arrangement).toBe('Pegs');
  expect(free.y).toBe(0);
  const seen = await onScreen(page, [free.x, free.y, free.z]);
  expect(Math.hypot(seen.x - to.x, seen.y - to.y)).toBeLessThan(2);
  await choose(page, 'New path or surface', 'Hills');
  await settled(page);
  await page.getByRole('button', { name: /^Pegs Pegs/ }).click();
  const onto = await drop(0.55, 0.5);
  const [, pinned] = await rows(page);
  const there = await onScreen(page, [pinned.x, pinned.y, pinned.z]);
  expect(Math.hypot(there.x - onto.x, there.y - onto.y)).toBeLessThan(2);
  expect(pinned.y).not.toBe(0);
  // What it stands on takes it along.
  await page.getByRole('button', { name: /^Hills Surface/ }).click();
  await type(page.getByLabel('Position Y', { exact: true }), '2');
  await settled(page);
  const [still, carried] = await rows(page);
  expect(still.y).toBe(0);
  expect(carried.y).toBeCloseTo(pinned.y + 2, 6);
});
