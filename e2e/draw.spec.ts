import { expect } from '@playwright/test';
import {
  at,
  clickAt,
  counts,
  drawPath,
  make,
  newScene,
  openStep,
  rows,
  scene,
  settled,
  takeProps,
  type,
  undo,
} from './support/app';
import { test } from './support/test';

test.beforeEach(({ page }) => newScene(page));

test('draw a path, hang a prop on it, and it stands spaced by its own size, upright, along the path', async ({
  page,
}) => {
  await drawPath(page, [
    [0.25, 0.6],
    [0.5, 0.6],
    [0.75, 0.6],
  ]);
  await expect(page.getByText(/Path · [\d.]+ m · open/)).toBeVisible();
  await takeProps(page, 'Bollard');
  await page.getByRole('button', { name: 'Bollard', exact: true }).hover();
  await page.getByRole('button', { name: 'Hang Bollard' }).click();
  await settled(page);
  const list = await rows(page);
  expect(list.length).toBeGreaterThan(3);
  const pitch = list[1].s - list[0].s;
  // The bollard is 0.5 m long: a pitch of 0.75 m, evened out.
  expect(pitch).toBeGreaterThan(0.6);
  expect(pitch).toBeLessThan(0.95);
  for (const r of list) {
    expect(r.state).toBe('placed');
    expect(r.y).toBeCloseTo(0, 6);
    expect(r.sx).toBe(1);
    // Front along +x, up straight up.
    expect(2 * (r.qx * r.qz + r.qy * r.qw)).toBeCloseTo(1, 3);
    expect(1 - 2 * (r.qx * r.qx + r.qz * r.qz)).toBeCloseTo(1, 9);
  }
});

test('a live preview, Escape steps back, a click on the first point closes the loop', async ({ page }) => {
  await page.getByRole('button', { name: 'Top', exact: true }).click();
  await page.keyboard.press('2');
  await clickAt(page, 0.3, 0.3);
  const p = await at(page, 0.6, 0.3);
  await page.mouse.move(p.x, p.y);
  await expect(page.getByText(/ of [\d.]+ m/)).toBeVisible();
  await clickAt(page, 0.6, 0.3);
  await clickAt(page, 0.9, 0.9);
  await page.keyboard.press('Escape');
  await clickAt(page, 0.6, 0.75);
  await clickAt(page, 0.3, 0.75);
  const first = await at(page, 0.3, 0.3);
  await page.mouse.move(first.x + 2, first.y + 2);
  await expect(page.getByText(/^close · /)).toBeVisible();
  await page.mouse.click(first.x + 2, first.y + 2);
  await settled(page);
  await expect(page.getByText(/Path · [\d.]+ m · closed/)).toBeVisible();
  await expect(page.getByRole('button', { name: 'Point 4', exact: true })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Point 5', exact: true })).toHaveCount(0);
});

test('the tag of lengths stays whole in the view; the first step is offered only where nothing lies under it', async ({
  page,
}) => {
  await page.getByRole('button', { name: 'Top', exact: true }).click();
  const offer = page.getByText('Start with a path');
  await expect(offer).toBeVisible();
  await page.getByRole('button', { name: 'Draw path' }).first().click();
  await clickAt(page, 0.5, 0.5);
  const view = (await scene(page).boundingBox())!;
  for (const [x, y] of [
    [0.3, 0.3],
    [0.995, 0.6],
    [0.995, 0.985],
    [0.4, 0.99],
  ]) {
    const to = await at(page, x, y);
    await page.mouse.move(to.x, to.y);
    const tag = page.locator('[data-tag*=" of "]');
    await expect(async () => {
      const box = (await tag.boundingBox())!;
      expect(box.x).toBeGreaterThanOrEqual(view.x);
      expect(box.y).toBeGreaterThanOrEqual(view.y);
      expect(box.x + box.width).toBeLessThanOrEqual(view.x + view.width);
      expect(box.y + box.height).toBeLessThanOrEqual(view.y + view.height);
      // Beside the pointer, on whichever side there is room.
      expect(Math.abs(box.x + box.width / 2 - to.x)).toBeLessThan(box.width / 2 + 24);
    }).toPass();
  }
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await make(page, 'Plane');
  await page.keyboard.press('Escape');
  await expect(offer).toBeHidden();
});

test('a double click finishes', async ({ page }) => {
  await page.getByRole('button', { name: 'Top', exact: true }).click();
  await page.keyboard.press('2');
  await clickAt(page, 0.3, 0.5);
  const p = await at(page, 0.7, 0.5);
  await page.mouse.dblclick(p.x, p.y);
  await settled(page);
  await expect(page.getByText(/· 2 points/)).toBeVisible();
});

test('points are moved on the ground, along an axis, by numbers and keys; inserted, changed in kind, deleted', async ({
  page,
}) => {
  await drawPath(page, [
    [0.25, 0.5],
    [0.5, 0.5],
    [0.75, 0.5],
  ]);
  const number = async (name: string) =>
    Number((await page.getByLabel(name, { exact: true }).inputValue()).replace(/[^\d.-]/g, ''));
  const middle = page.getByRole('button', { name: 'Point 2', exact: true });
  const drag = async (what: { x: number; y: number }, dx: number, dy: number) => {
    await page.mouse.move(what.x, what.y);
    await page.mouse.down();
    await page.mouse.move(what.x + dx / 2, what.y + dy / 2);
    await page.mouse.move(what.x + dx, what.y + dy);
    await page.mouse.up();
    await settled(page);
  };
  const centre = async () => {
    const b = (await middle.boundingBox())!;
    return { x: b.x + b.width / 2, y: b.y + b.height / 2 };
  };
  await middle.click();
  const panel = page.getByRole('group', { name: /^Point 2 of/ });
  await expect(panel).toBeVisible();
  const z0 = await number('Point Z');
  await drag(await centre(), 0, 60);
  expect(await number('Point Z')).toBeGreaterThan(z0 + 0.3);
  expect(await number('Point Y')).toBe(0);
  // Along X only, by its arm.
  const [x1, z1] = [await number('Point X'), await number('Point Z')];
  const arm = (await page.getByRole('button', { name: 'Move along X' }).locator('circle').boundingBox())!;
  await drag({ x: arm.x + arm.width / 2, y: arm.y + arm.height / 2 }, 40, 25);
  expect(await number('Point X')).toBeGreaterThan(x1 + 0.2);
  expect(await number('Point Z')).toBe(z1);
  // By numbers, with an expression and a unit.
  await type(page.getByLabel('Point Y', { exact: true }), '40 cm + 1/2 m');
  expect(await number('Point Y')).toBeCloseTo(0.9, 6);
  await middle.focus();
  await page.keyboard.press('ArrowRight');
  await settled(page);
  expect(await number('Point Y')).toBeCloseTo(0.9, 6);
  await undo(page);
  await undo(page);
  await settled(page);
  expect(await number('Point Y')).toBe(0);
  // A click on the path between two points inserts one.
  const [a, b] = [
    await centre(),
    (await page.getByRole('button', { name: 'Point 3', exact: true }).boundingBox())!,
  ];
  await panel.getByRole('radio', { name: 'Corner' }).click();
  await page.getByRole('button', { name: 'Point 3', exact: true }).click();
  await page
    .getByRole('group', { name: /^Point 3 of/ })
    .getByRole('radio', { name: 'Corner' })
    .click();
  await page.keyboard.press('Escape');
  await settled(page);
  const mid = { x: (a.x + b.x + b.width / 2) / 2, y: (a.y + b.y + b.height / 2) / 2 };
  await page.mouse.move(mid.x, mid.y);
  await page.mouse.click(mid.x, mid.y);
  await settled(page);
  await expect(page.getByRole('button', { name: 'Point 4', exact: true })).toBeVisible();
  await page.keyboard.press('Delete');
  await settled(page);
  await expect(page.getByRole('button', { name: 'Point 4', exact: true })).toHaveCount(0);
});

test('free points have handles; roll, tension, reverse, close, duplicate, rename', async ({ page }) => {
  await drawPath(page, [
    [0.3, 0.6],
    [0.5, 0.35],
    [0.7, 0.6],
  ]);
  await page.getByRole('button', { name: 'Point 2', exact: true }).click();
  const panel = page.getByRole('group', { name: /^Point 2 of/ });
  const lengthOf = async () =>
    Number(/([\d.]+) m/.exec(await page.getByText(/m · 3 points/).innerText())![1]);
  const smooth = await lengthOf();
  await type(panel.getByLabel('Point tension'), '100%');
  await settled(page);
  expect(await lengthOf()).toBeLessThan(smooth);
  await undo(page);
  await settled(page);
  await panel.getByRole('radio', { name: 'Free' }).click();
  await settled(page);
  // Becoming free leaves the curve as it was.
  expect(await lengthOf()).toBeCloseTo(smooth, 2);
  const handle = page.getByRole('button', { name: 'Handle after' });
  const box = (await handle.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + 60, box.y - 20, { steps: 3 });
  await page.mouse.up();
  await settled(page);
  expect(await lengthOf()).not.toBeCloseTo(smooth, 2);
  await type(panel.getByLabel('Point roll'), '30');
  const x1 = page.getByLabel('Point 1 X in the list');
  const firstX = await x1.inputValue();
  await page.getByRole('button', { name: 'Reverse' }).click();
  await settled(page);
  expect(await page.getByLabel('Point 3 X in the list').inputValue()).toBe(firstX);
  await page.getByRole('radio', { name: 'Closed' }).click();
  await expect(page.getByText(/Path · [\d.]+ m · closed/)).toBeVisible();
  await page.getByRole('button', { name: 'Duplicate' }).click();
  const name = page.getByLabel('Name of the path');
  await expect(name).toHaveValue('Path 2');
  await name.fill('Harbour wall');
  await name.press('Enter');
  await expect(page.getByRole('button', { name: /Harbour wall/ }).first()).toBeVisible();
});

test('a prop dragged from the basket over a path shows the run before the drop, and makes it', async ({
  page,
}) => {
  await drawPath(page, [
    [0.25, 0.6],
    [0.75, 0.6],
  ]);
  await takeProps(page, 'Crate');
  const from = (await page.getByRole('button', { name: 'Crate', exact: true }).boundingBox())!;
  const to = await at(page, 0.5, 0.58);
  await page.mouse.move(from.x + 20, from.y + 20);
  await page.mouse.down();
  await page.mouse.move(from.x + 40, from.y - 10, { steps: 3 });
  await page.mouse.move(to.x, to.y, { steps: 5 });
  await expect(page.getByText(/^\d+ props drawn/)).not.toHaveText(/^0 props/);
  await expect(page.getByText('Run ·')).toHaveCount(0);
  await page.mouse.up();
  await settled(page);
  await expect(page.getByLabel('Name of the run')).toHaveValue('Crate');
  expect((await counts(page)).placed).toBeGreaterThan(3);
  // Escape in the middle of another drag leaves nothing behind.
  await page.mouse.move(from.x + 20, from.y + 20);
  await page.mouse.down();
  await page.mouse.move(to.x, to.y, { steps: 5 });
  await page.keyboard.press('Escape');
  await page.mouse.up();
  await settled(page);
  await expect(page.getByRole('button', { name: /Run ·/ })).toHaveCount(1);
});

test('a path in the air: drawn from the front, it stands upright', async ({ page }) => {
  await page.getByRole('button', { name: 'Front', exact: true }).click();
  await page.keyboard.press('2');
  await clickAt(page, 0.3, 0.6);
  await clickAt(page, 0.5, 0.3);
  await clickAt(page, 0.7, 0.6);
  await page.keyboard.press('Enter');
  await takeProps(page, 'Lantern');
  await page.getByRole('button', { name: 'Lantern', exact: true }).hover();
  await page.getByRole('button', { name: 'Hang Lantern' }).click();
  await openStep(page, 'Facing');
  await settled(page);
  const list = await rows(page);
  expect(Math.max(...list.map((r) => r.y)) - Math.min(...list.map((r) => r.y))).toBeGreaterThan(1);
  expect(new Set(list.map((r) => r.z.toFixed(6))).size).toBe(1);
});

test('with Alt a point moves in the plane of the view; Escape takes the drag back', async ({ page }) => {
  await drawPath(page, [
    [0.35, 0.5],
    [0.65, 0.5],
  ]);
  await page.getByRole('button', { name: 'Free', exact: true }).click();
  await settled(page);
  const height = async () => Number(await page.getByLabel('Point 2 Y in the list').inputValue());
  const b = (await page.getByRole('button', { name: 'Point 2', exact: true }).boundingBox())!;
  const [x, y] = [b.x + b.width / 2, b.y + b.height / 2];
  await page.keyboard.down('Alt');
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x, y - 60, { steps: 3 });
  expect(await height()).toBeGreaterThan(0.3);
  await page.keyboard.press('Escape');
  expect(await height()).toBe(0);
  await page.mouse.up();
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x, y - 60, { steps: 3 });
  await page.mouse.up();
  await page.keyboard.up('Alt');
  await settled(page);
  expect(await height()).toBeGreaterThan(0.3);
});
