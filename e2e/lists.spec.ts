import { expect, type Locator, type Page } from '@playwright/test';
import {
  add,
  cratesAlong,
  newScene,
  onScreen,
  openExample,
  openStep,
  pathByNumbers,
  rows,
  settled,
  takeProps,
  type,
  undo,
} from './support/app';
import { test } from './support/test';

/** Order and groups in the lists, boxes in the scene, props lined up, and what is dragged beside all that. */

const contents = (page: Page) => page.getByRole('region', { name: 'Contents' });
const row = (page: Page, name: string) =>
  contents(page).getByRole('button', { name: new RegExp(`^${name}\\b`) });

/** The names of a list's rows, heads of groups with a colon, as they stand there. */
const listed = (page: Page, nth: number): Promise<string[]> =>
  contents(page)
    .locator('ul')
    .nth(nth)
    .locator('li')
    .evaluateAll((all) =>
      all.map((li) => {
        const head = li.querySelector('[aria-expanded]');
        const name = li.querySelector('button:not([aria-expanded]) span span')?.textContent ?? '';
        return head ? `${/^(?:Unf|F)old (.*)$/.exec(head.getAttribute('aria-label')!)![1]}:` : name;
      }),
    );

async function drag(page: Page, from: Locator, to: Locator): Promise<void> {
  const [a, b] = [(await from.boundingBox())!, (await to.boundingBox())!];
  await page.mouse.move(a.x + a.width / 2, a.y + a.height / 2);
  await page.mouse.down();
  await page.mouse.move(a.x + a.width / 2 + 8, a.y + a.height / 2 + 8, { steps: 2 });
  await page.mouse.move(b.x + b.width / 2, b.y + b.height / 2, { steps: 5 });
  // A hand rests for a moment before it lets go.
  await settled(page);
  await page.mouse.up();
  await settled(page);
}

test('rows are moved by dragging, by keys and from the menu; what is sent out has their order', async ({
  page,
}) => {
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
  expect(await listed(page, 0)).toEqual(['Crate', 'Crate 2', 'Crate 3']);
  await drag(page, row(page, 'Crate 3'), row(page, 'Crate Run'));
  expect(await listed(page, 0)).toEqual(['Crate 3', 'Crate', 'Crate 2']);
  await drag(page, row(page, 'Crate 3'), row(page, 'Crate 2'));
  expect(await listed(page, 0)).toEqual(['Crate', 'Crate 2', 'Crate 3']);
  await row(page, 'Crate 2').click();
  await page.keyboard.press('Alt+ArrowUp');
  expect(await listed(page, 0)).toEqual(['Crate 2', 'Crate', 'Crate 3']);
  await row(page, 'Crate Run').click({ button: 'right' });
  await page.getByRole('menuitem', { name: 'Move down' }).click();
  await expect.poll(() => listed(page, 0)).toEqual(['Crate 2', 'Crate 3', 'Crate']);
  // The table that goes out has the same order.
  expect([...new Set((await rows(page)).map((r) => r.arrangement))]).toEqual(['Crate 2', 'Crate 3', 'Crate']);
  await undo(page);
  expect(await listed(page, 0)).toEqual(['Crate 2', 'Crate', 'Crate 3']);
  // A prop of the basket is dragged to another place there.
  await takeProps(page, 'Barrel', 'Bollard');
  const basket = page.getByRole('region', { name: 'Basket' });
  const prop = (name: string) => basket.getByRole('button', { name, exact: true });
  await drag(page, prop('Bollard'), prop('Crate'));
  expect(
    await basket
      .locator('button[aria-label][aria-roledescription]')
      .evaluateAll((all) => all.map((b) => b.getAttribute('aria-label'))),
  ).toEqual(['Bollard', 'Crate', 'Barrel']);
});

test('a group is made, named, folded, hidden, sent alone and taken apart; a row is dragged into it and out', async ({
  page,
}) => {
  await openExample(page, 'Rope fence');
  const before = await listed(page, 0);
  await row(page, 'Posts Run').click();
  await row(page, 'Lower rails').click({ modifiers: ['Control'] });
  await page.keyboard.press('Control+g');
  await page.getByLabel('Name of the group Group 1').fill('Fence');
  await page.keyboard.press('Enter');
  const [head, ...rest] = await listed(page, 0);
  expect([head, ...rest.slice(0, 2)]).toEqual(['Fence:', 'Posts', 'Lower rails']);
  expect(rest).toHaveLength(before.length);
  const third = rest[2];
  await drag(page, row(page, third), contents(page).getByRole('button', { name: /^Fence ·/ }));
  expect((await listed(page, 0)).slice(0, 4)).toEqual(['Fence:', 'Posts', 'Lower rails', third]);
  await expect(contents(page).getByRole('button', { name: /^Fence · 3/ })).toBeVisible();
  await page.getByRole('button', { name: 'Hide all of Fence' }).click();
  await expect(page.getByRole('button', { name: 'Show Posts', exact: true })).toBeVisible();
  await undo(page);
  await page.getByRole('button', { name: 'Fold Fence' }).click();
  expect((await listed(page, 0)).slice(0, 2)).toEqual(['Fence:', rest[3]]);
  await page.getByRole('button', { name: 'Unfold Fence' }).click();
  // All of it in hand by one click.
  await contents(page)
    .getByRole('button', { name: /^Fence ·/ })
    .click();
  await expect(page.getByRole('heading', { name: '3 selected' })).toBeVisible();
  await row(page, third).click();
  await page.keyboard.press('Alt+ArrowDown');
  expect((await listed(page, 0)).slice(0, 4)).toEqual(['Fence:', 'Posts', 'Lower rails', third]);
  await expect(contents(page).getByRole('button', { name: /^Fence · 2/ })).toBeVisible();
  await contents(page)
    .getByRole('button', { name: /^Fence ·/ })
    .click({ button: 'right' });
  await page.getByRole('menuitem', { name: 'Out of the group' }).click();
  await expect.poll(() => listed(page, 0)).not.toContain('Fence:');
  expect(new Set(await listed(page, 0))).toEqual(new Set(before));
  // Kept like everything else.
  await undo(page);
  await settled(page);
  await page.reload();
  await settled(page);
  expect((await listed(page, 0))[0]).toBe('Fence:');
});

test('a box takes in props of the arrangement in hand, whole things where nothing is; Mod takes things beside each other', async ({
  page,
}) => {
  await cratesAlong(
    page,
    [
      [-6, 0],
      [6, 0],
    ],
    '3',
  );
  await page.getByRole('button', { name: 'Fit', exact: true }).click();
  await settled(page);
  const box = async (from: [number, number], to: [number, number]) => {
    const [a, b] = await Promise.all([from, to].map(([x, z]) => onScreen(page, [x, 0, z])));
    await page.keyboard.down('Shift');
    await page.mouse.move(a.x, a.y);
    await page.mouse.down();
    await page.mouse.move((a.x + b.x) / 2, (a.y + b.y) / 2, { steps: 3 });
    await page.mouse.move(b.x, b.y);
    await page.mouse.up();
    await page.keyboard.up('Shift');
    await settled(page);
  };
  await row(page, 'Crate Run').click();
  // Between the path's points there are only crates.
  await box([-4, -1], [1, 1]);
  await page.keyboard.press('Delete');
  const left = (await rows(page)).filter((r) => r.state === 'placed').map((r) => Math.round(r.x));
  expect(left).toEqual([-6, 3, 6]);
  await undo(page);
  await settled(page);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await box([-6.6, -1.5], [6.6, 1.5]);
  await expect(page.getByRole('heading', { name: '2 selected' })).toBeVisible();
  await expect(contents(page).locator('[aria-current="true"]')).toHaveCount(2);
  // Escape takes a box back while it is dragged.
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  const [a, b] = await Promise.all([onScreen(page, [-6.6, 0, -1.5]), onScreen(page, [6.6, 0, 1.5])]);
  await page.keyboard.down('Shift');
  await page.mouse.move(a.x, a.y);
  await page.mouse.down();
  await page.mouse.move(b.x, b.y, { steps: 4 });
  await page.keyboard.press('Escape');
  await page.mouse.up();
  await page.keyboard.up('Shift');
  await settled(page);
  await expect(contents(page).locator('[aria-current="true"]')).toHaveCount(0);
  const crate = await onScreen(page, [0, 0.3, 0]);
  await page.mouse.click(crate.x, crate.y);
  const line = await onScreen(page, [1.5, 0, 0]);
  await page.keyboard.down('Control');
  await page.mouse.click(line.x, line.y);
  await page.keyboard.up('Control');
  await expect(page.getByRole('heading', { name: '2 selected' })).toBeVisible();
});

test('props are lined up: foot, unit and front set for all in one step, and hung as one mix', async ({
  page,
}) => {
  await newScene(page);
  await takeProps(page, 'Crate', 'Barrel', 'Bench');
  await pathByNumbers(page, [
    [-6, 0],
    [6, 0],
  ]);
  await page.getByRole('button', { name: 'Line up the props' }).click();
  const dialog = page.getByRole('dialog', { name: 'Line-up' });
  await expect(dialog.getByRole('img', { name: /^Crate, Barrel, Bench/ })).toBeVisible();
  const bench = dialog.getByRole('listitem', { name: 'Bench' });
  await expect(bench).toContainText('× ');
  const size = await bench.innerText();
  await dialog.getByRole('button', { name: 'Foot of all' }).click();
  await page.getByRole('option', { name: 'Centre', exact: true }).click();
  await dialog.getByRole('button', { name: 'The files are in' }).click();
  await page.getByRole('option', { name: 'centimetres' }).click();
  await expect(bench).not.toHaveText(size);
  await dialog.getByRole('button', { name: 'The files are in' }).click();
  await page.getByRole('option', { name: 'metres', exact: true }).click();
  await dialog.getByRole('button', { name: 'Turn all a quarter' }).click();
  await dialog.getByRole('button', { name: 'Turn Bench a quarter' }).click();
  await dialog.getByRole('button', { name: 'Hang as one mix' }).click();
  const placed = (await rows(page)).filter((r) => r.state === 'placed');
  expect(new Set(placed.map((r) => r.prop))).toEqual(new Set(['Crate', 'Barrel', 'Bench']));
  // Each of the steps is one of the undo list: the mix, the two turns, and the fronts are as they came.
  const front = async (name: string) => {
    await page.getByRole('region', { name: 'Basket' }).getByRole('button', { name, exact: true }).click();
    return page.getByRole('button', { name: 'Front axis' }).innerText();
  };
  expect([await front('Crate'), await front('Bench')]).toEqual(['+X', '−Z']);
  for (let k = 0; k < 3; k++) await undo(page);
  await settled(page);
  expect([await front('Crate'), await front('Bench')]).toEqual(['+Z', '+Z']);
});

test('insets in lengths of the prop, typed and dragged; a prop that is turned more with each; a range moved as it is', async ({
  page,
}) => {
  await cratesAlong(
    page,
    [
      [-6, 0],
      [6, 0],
    ],
    '1',
  );
  const first = async () => (await rows(page)).filter((r) => r.state === 'placed')[0];
  const spacing = await openStep(page, 'Spacing');
  const start = spacing.getByLabel('Inset at start');
  await type(start, '2 props');
  const inset = (await first()).x + 6;
  // The crate is 55 cm long.
  expect(inset).toBeCloseTo(1.1, 6);
  await expect(start).toHaveValue('2');
  await type(start, '3');
  expect((await first()).x + 6).toBeCloseTo(1.65, 6);
  const handle = page.getByRole('slider', { name: 'Inset at start' });
  await handle.press('ArrowRight');
  const moved = (await first()).x + 6;
  expect(moved).toBeGreaterThan(1.65);
  await expect(spacing.getByText('×', { exact: true })).toBeVisible();
  await type(start, '40 cm');
  expect((await first()).x + 6).toBeCloseTo(0.4, 6);
  await type(start, '0');
  await type(spacing.getByLabel('Pitch', { exact: true }), '3');
  const facing = await openStep(page, 'Facing');
  await add(facing, 'Turn more each');
  await type(facing.getByLabel('Turn more each'), '30');
  const turns = (await rows(page)).map((r) => {
    const deg = (2 * Math.atan2(r.qy, r.qw) * 180) / Math.PI;
    return Math.round(((deg % 360) + 360) % 360);
  });
  expect(turns.map((t) => (t - turns[0] + 360) % 360)).toEqual([0, 30, 60, 90, 120]);
  const variation = await openStep(page, 'Variation');
  await add(variation, 'Turn');
  await type(variation.getByLabel('Turn, least', { exact: true }), '-10');
  await type(variation.getByLabel('Turn, most', { exact: true }), '20');
  await settled(page);
  const both = variation.getByRole('slider', { name: 'Turn, both ends, slider' });
  await both.scrollIntoViewIfNeeded();
  const at = (await both.boundingBox())!;
  await page.mouse.move(at.x + at.width / 2, at.y + at.height / 2);
  await page.mouse.down();
  await page.mouse.move(at.x + at.width / 2 + 30, at.y + at.height / 2, { steps: 4 });
  await page.mouse.up();
  const least = Number(await variation.getByLabel('Turn, least', { exact: true }).inputValue());
  const most = Number(await variation.getByLabel('Turn, most', { exact: true }).inputValue());
  expect(most - least).toBeCloseTo(30, 9);
  expect(least).toBeGreaterThan(-10);
  await both.press('ArrowLeft');
  expect(Number(await variation.getByLabel('Turn, most', { exact: true }).inputValue())).toBeLessThan(most);
});

test('tension for many points at once; several props dragged onto a path together', async ({ page }) => {
  await newScene(page);
  await takeProps(page, 'Crate', 'Barrel');
  await pathByNumbers(page, [
    [-4, 0],
    [0, -3],
    [4, 0],
  ]);
  await row(page, 'Path Path').click();
  await page.keyboard.press('Control+a');
  const points = page.getByRole('group', { name: 'Points of Path' });
  await points.getByRole('button', { name: 'Point 2', exact: true }).click({ button: 'right' });
  await page.getByRole('menuitem', { name: 'Make smooth' }).click();
  await settled(page);
  const length = async () => Number(/([\d.]+) m/.exec(await row(page, 'Path Path').innerText())![1]);
  const round = await length();
  await type(page.getByRole('group', { name: 'Selected points' }).getByLabel('Tension'), '100');
  await settled(page);
  // Under full tension it runs straight from point to point.
  expect(await length()).toBeCloseTo(10, 1);
  expect(round).toBeGreaterThan(10.05);
  const basket = page.getByRole('region', { name: 'Basket' });
  await basket.getByRole('button', { name: 'Crate', exact: true }).click();
  await basket.getByRole('button', { name: 'Barrel', exact: true }).click({ modifiers: ['Control'] });
  const from = (await basket.getByRole('button', { name: 'Barrel', exact: true }).boundingBox())!;
  const to = await onScreen(page, [2, 0, -1.5]);
  await page.mouse.move(from.x + 20, from.y + 20);
  await page.mouse.down();
  await page.mouse.move(from.x + 40, from.y, { steps: 3 });
  await page.mouse.move(to.x, to.y, { steps: 6 });
  await page.mouse.up();
  const props = (await rows(page)).filter((r) => r.state === 'placed').map((r) => r.prop);
  expect(new Set(props)).toEqual(new Set(['Crate', 'Barrel']));
});
