import { expect, type Page } from '@playwright/test';
import {
  choose,
  cratesAlong,
  hang,
  make,
  onScreen,
  openExample,
  openStep,
  pathByNumbers,
  rows,
  settled,
  type,
  undo,
} from './support/app';
import { test } from './support/test';

/** What a careful artist would look for: everything that is shown held against everything. */

const checks = (page: Page) => openStep(page, 'Checks');
const pitch = async (page: Page, metres: string) =>
  type((await openStep(page, 'Spacing')).getByLabel('Pitch', { exact: true }), metres);

test('two runs that cross: both say where, a click leads there, meant so it is let be; apart, all is well', async ({
  page,
}) => {
  await cratesAlong(
    page,
    [
      [-5, 0],
      [5, 0],
    ],
    '2',
  );
  await expect(
    (await checks(page)).getByText(/No prop reaches into another one, or through a surface, that is shown/),
  ).toBeVisible();
  await pathByNumbers(page, [
    [1, -4],
    [1, 4],
  ]);
  await hang(page, 'Crate');
  await pitch(page, '2');
  await settled(page);
  // By the table: crates of 0.8 m that are nearer than that.
  const list = await rows(page);
  const [first, second] = [...new Set(list.map((r) => r.arrangement))];
  const close = list.filter((r) =>
    list.some((o) => o.arrangement !== r.arrangement && Math.hypot(o.x - r.x, o.z - r.z) < 0.7),
  );
  expect(close.map((r) => r.arrangement)).toEqual([first, second]);
  const step = await checks(page);
  const line = step.getByRole('button', { name: `1 prop reaches into “${first}”` });
  await expect(line).toBeVisible();
  // What was worked out meanwhile may move it from under the pointer: then it is clicked again.
  await expect(async () => {
    await line.click();
    const panel = page.getByRole('group', { name: 'Selected prop' });
    await expect(panel).toContainText(`#${close[1].slot}`, { timeout: 3000 });
  }).toPass();
  await step.getByRole('button', { name: 'Meant so' }).click();
  await expect(step.getByText('All well')).toBeVisible();
  await expect(step.getByText(`May reach into “${first}”.`)).toBeVisible();
  await page.getByRole('button', { name: new RegExp(`^${first} Run`) }).click();
  await expect((await checks(page)).getByText('All well')).toBeVisible();
  await undo(page);
  await expect((await checks(page)).getByText(`1 prop reaches into “${second}”`)).toBeVisible();
  // The lower in the list gives way.
  await page.getByRole('button', { name: new RegExp(`^${second} Run`) }).click();
  const gaps = await openStep(page, 'Gaps');
  await choose(
    page,
    gaps.getByRole('button', { name: 'Add a keep-out' }),
    'What would reach into another arrangement',
  );
  await settled(page);
  await expect(gaps.getByText(`props of ${first}`)).toBeVisible();
  const gone = (await rows(page)).filter((r) => r.state === 'gap');
  expect(gone.map((r) => [r.arrangement, r.slot, r.reason])).toEqual([[second, close[1].slot, 'collision']]);
  await expect((await checks(page)).getByText('All well')).toBeVisible();
  await undo(page);
  // Spaced so that none stands at the crossing.
  await pitch(page, '2.5');
  await expect((await checks(page)).getByText('All well')).toBeVisible();
});

test('a duplicate that lies exactly on its original is told of, and the examples are well', async ({
  page,
}) => {
  await openExample(page, 'Rope fence');
  await page.getByRole('button', { name: /^Posts Run/ }).click();
  await expect((await checks(page)).getByText('All well')).toBeVisible();
  const posts = (await rows(page)).filter((r) => r.arrangement === 'Posts' && r.state === 'placed').length;
  await page.keyboard.press('Control+d');
  await settled(page);
  // It lies beside it at first.
  await type((await openStep(page, 'Facing')).getByLabel('Side', { exact: true }), '0');
  await settled(page);
  await expect((await checks(page)).getByText(`${posts} props stand exactly where “Posts”`)).toBeVisible();
  await undo(page);
  await undo(page);
  await page.getByRole('button', { name: /^Posts Run/ }).click();
  await expect((await checks(page)).getByText('All well')).toBeVisible();
});

test('what goes through a surface that it does not stand on is told of, until it stands there or it is meant', async ({
  page,
}) => {
  await cratesAlong(
    page,
    [
      [-5, 0],
      [5, 0],
    ],
    '1',
  );
  await make(page, 'Sphere', { Radius: '2' });
  await page.getByRole('button', { name: /^Crate Run/ }).click();
  const step = await checks(page);
  // Crates of 0.8 m: those whose feet are within 0.4 m of where the ball meets the ground.
  const near = (await rows(page)).filter((r) => Math.abs(Math.abs(r.x) - 2) < 0.3);
  expect(near.length).toBe(2);
  const line = step.getByRole('button', { name: '2 props go through “Sphere”' });
  await expect(line).toBeVisible();
  await line.click();
  await step.getByRole('button', { name: 'Meant so' }).click();
  await expect(step.getByText('All well')).toBeVisible();
  await expect(step.getByText('May reach into “Sphere”.')).toBeVisible();
  await step.getByRole('button', { name: 'Mind it' }).click();
  await expect(line).toBeVisible();
});

test('what begins to overlap while a point is dragged is told at once, and no more once it is let go', async ({
  page,
}) => {
  await cratesAlong(
    page,
    [
      [-5, 0],
      [5, 0],
    ],
    '2.5',
  );
  const spacing = await openStep(page, 'Spacing');
  await spacing.getByRole('radio', { name: 'Count', exact: true }).click();
  await type(spacing.getByLabel('Count', { exact: true }), '5');
  await settled(page);
  const told = page.getByRole('status').filter({ hasText: 'to overlap' });
  const [from, half, to] = await Promise.all([5, 0, -4].map((x) => onScreen(page, [x, 0, 0])));
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(half.x, half.y, { steps: 4 });
  await page.mouse.move(to.x, to.y, { steps: 4 });
  await expect(told).toHaveText('5 props begin to overlap');
  // Back again nothing does.
  await page.mouse.move(from.x, from.y, { steps: 4 });
  await expect(told).toHaveCount(0);
  await page.mouse.move(to.x, to.y, { steps: 4 });
  await expect(told).toBeVisible();
  await page.mouse.up();
  await expect(told).toHaveCount(0);
  await undo(page);
  await settled(page);
  await expect((await checks(page)).getByText('No prop reaches')).toBeVisible();
});
