import { expect, type Page } from '@playwright/test';
import { cratesAlong, hang, make, openStep, pathByNumbers, rows, settled, type, undo } from './support/app';
import { test } from './support/test';

/** Findings of the whole scene, mended where they are told; what came of it read out of the rows. */

const placed = async (page: Page) => (await rows(page)).filter((r) => r.state === 'placed');

/** Opens the panel by the button in the top bar, as soon as so many things are told. */
async function open(page: Page, count: string) {
  await page.getByRole('button', { name: `Checks of the scene: ${count}` }).click();
  return page.getByRole('dialog', { name: 'Checks of the scene' });
}
const LINE: [number, number][] = [
  [-4, 0],
  [4, 0],
];

test('crates that are too tight: the pitch is widened, or they are shrunk, until they fit', async ({
  page,
}) => {
  await cratesAlong(page, LINE, '0.5');
  const gaps = async () => {
    const xs = (await placed(page)).map((r) => r.x).sort((a, b) => a - b);
    return xs.slice(1).map((x, i) => x - xs[i]);
  };
  // How long a crate is: end to end they lie just so far apart, at the size that comes out even.
  const spacing = await openStep(page, 'Spacing');
  await spacing.getByRole('radio', { name: 'Touch' }).click();
  const length = (await gaps())[0] / (await placed(page))[0].sx;
  await spacing.getByRole('radio', { name: 'Pitch' }).click();
  expect(length).toBeGreaterThan(0.52);
  for (const gap of await gaps()) expect(gap).toBeCloseTo(0.5, 6);
  const panel = await open(page, '1 check');
  await panel.getByRole('button', { name: 'Widen the pitch', exact: true }).click();
  await expect(panel.getByText('All well')).toBeVisible();
  // No further apart than need be: one more on the eight metres would not fit.
  const wide = await gaps();
  for (const gap of wide) expect(gap).toBeGreaterThan(length - 1e-5);
  expect(8 / (wide.length + 1)).toBeLessThan(length);
  // The scene is worked on beside the panel.
  await undo(page);
  await expect(panel.getByText('1 thing to look at')).toBeVisible();
  await panel.getByRole('button', { name: 'Shrink them' }).click();
  await expect(panel.getByText('All well')).toBeVisible();
  for (const r of await placed(page)) {
    expect(r.sx * length).toBeLessThan(0.5 + 1e-5);
    expect(r.sx * length).toBeGreaterThan(0.49);
  }
  await undo(page);
  await panel.getByRole('button', { name: 'Leave out the later' }).click();
  await expect(panel.getByText('All well')).toBeVisible();
  expect((await rows(page)).some((r) => r.reason === 'collision')).toBe(true);
  await page.keyboard.press('Escape');
  await expect(panel).toHaveCount(0);
});

test('two runs that cross: one gives way, or it is as it is wanted, with the reason kept', async ({
  page,
}) => {
  await cratesAlong(page, LINE, '2');
  await pathByNumbers(page, [
    [0, -4],
    [0, 4],
  ]);
  await hang(page, 'Crate');
  await type((await openStep(page, 'Spacing')).getByLabel('Pitch', { exact: true }), '2');
  await settled(page);
  const before = await placed(page);
  const panel = await open(page, '2 checks');
  const second = panel.getByRole('listitem').filter({ hasText: 'Crate 2' }).first();
  await second.getByRole('button', { name: 'As I want it …' }).click();
  await second.getByRole('textbox', { name: 'Why it is so' }).fill('one stands on the other');
  await second.getByRole('button', { name: 'Keep it so' }).click();
  await expect(page.getByRole('button', { name: 'Checks of the scene: 1 check' })).toBeVisible();
  await panel.getByText('1 check as wanted').click();
  await expect(panel.getByText('“one stands on the other”')).toBeVisible();
  await panel.getByRole('button', { name: 'Mind it' }).click();
  await expect(page.getByRole('button', { name: 'Checks of the scene: 2 checks' })).toBeVisible();
  await panel
    .getByRole('button', { name: /^Give way to/ })
    .first()
    .click();
  await expect(panel.getByText('All well')).toBeVisible();
  expect((await placed(page)).length).toBe(before.length - 1);
  expect((await rows(page)).filter((r) => r.state === 'gap').length).toBe(1);
});

test('crates with a foot on a slope: they touch by their lowest part, or each is lifted by its own measure', async ({
  page,
}) => {
  await cratesAlong(page, LINE, '2');
  await make(page, 'Hills');
  await settled(page);
  await page
    .getByRole('region', { name: 'Contents' })
    .getByRole('button', { name: /^Crate Run/ })
    .click();
  const ground = await openStep(page, 'Ground');
  await ground.getByRole('radio', { name: 'Land' }).click();
  await settled(page);
  const before = await placed(page);
  const panel = await open(page, '1 check');
  await panel.getByRole('button', { name: 'Lift each out' }).click();
  await expect(panel.getByText('All well')).toBeVisible();
  const lifted = await placed(page);
  const by = lifted.map((r, i) => r.y - before[i].y);
  expect(Math.min(...by)).toBeGreaterThan(-1e-9);
  expect(Math.max(...by)).toBeGreaterThan(0.01);
  expect(new Set(by.map((v) => v.toFixed(4))).size).toBeGreaterThan(1);
  await undo(page);
  await panel.getByRole('button', { name: 'Touch by the lowest part' }).click();
  await expect(panel.getByText('All well')).toBeVisible();
});

test('crates that are too tight are pushed along where there is room, each no farther than it has to', async ({
  page,
}) => {
  await cratesAlong(page, LINE, '0.5');
  const spacing = await openStep(page, 'Spacing');
  await type(spacing.getByLabel('Inset at end', { exact: true }), '5');
  await settled(page);
  const before = (await placed(page)).map((r) => r.x);
  const panel = await open(page, '1 check');
  await panel.getByRole('button', { name: 'Push them along' }).click();
  await expect(panel.getByText('All well')).toBeVisible();
  const after = (await placed(page)).map((r) => r.x);
  expect(after).toHaveLength(before.length);
  expect(after[0]).toBeCloseTo(before[0], 9);
  const gaps = after.slice(1).map((x, i) => x - after[i]);
  for (const gap of gaps) expect(gap).toBeGreaterThan(0.52);
  expect(Math.max(...gaps) - Math.min(...gaps)).toBeLessThan(0.02);
  await undo(page);
  await settled(page);
  expect((await placed(page)).map((r) => r.x)).toEqual(before);
});
