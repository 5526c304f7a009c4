import { expect, type Page } from '@playwright/test';
import { TASKS } from '../src/ui/words/tasks';
import {
  choose,
  clickAt,
  cratesAlong,
  make,
  newScene,
  onScreen,
  openExample,
  openStep,
  pathByNumbers,
  rows,
  scene,
  settled,
  takeProps,
  type,
} from './support/app';
import { test } from './support/test';

/** A newcomer's first tasks, each in just the steps that the page of them has. */

const byTitle = (title: string) => TASKS.find((t) => t.title === title)!;
const placed = async (page: Page) => (await rows(page)).filter((r) => r.state === 'placed');

/** Does one thing for each line of a task. */
async function follow(title: string, steps: (() => Promise<unknown>)[]): Promise<void> {
  expect(byTitle(title).todo).toHaveLength(steps.length);
  for (const step of steps) await step();
}

test('hang, count, divide', async ({ page }) => {
  await newScene(page);
  await page.getByRole('button', { name: 'Top', exact: true }).click();
  await follow('Hang a prop along a path', [
    async () => {
      await page.getByRole('button', { name: 'Add props' }).click();
      await page.getByRole('button', { name: 'Add Bollard', exact: true }).click();
    },
    async () => {
      await page.keyboard.press('Escape');
      await page.keyboard.press('2');
      for (const [x, y] of [
        [0.2, 0.5],
        [0.8, 0.5],
      ])
        await clickAt(page, x, y);
    },
    () => page.keyboard.press('Enter'),
    async () => {
      await settled(page);
      const from = (await page
        .getByRole('region', { name: 'Basket' })
        .getByRole('button', { name: 'Bollard', exact: true })
        .boundingBox())!;
      const to = (await scene(page).boundingBox())!;
      await page.mouse.move(from.x + 20, from.y + 20);
      await page.mouse.down();
      await page.mouse.move(from.x + 60, from.y - 40, { steps: 4 });
      await page.mouse.move(to.x + to.width * 0.5, to.y + to.height * 0.5, { steps: 6 });
      await page.mouse.up();
    },
  ]);
  await settled(page);
  const hung = await placed(page);
  expect(hung.length).toBeGreaterThan(3);
  expect(new Set(hung.map((r) => r.z.toFixed(6))).size).toBe(1);
  for (const r of hung) expect([r.qx, r.qz].map((q) => Math.abs(q) < 1e-9)).toEqual([true, true]);
  const left = Math.min(...hung.map((r) => r.x));
  const spacing = page.getByRole('region', { name: 'Spacing', exact: true });
  await follow('Put so many of them', [
    () => openStep(page, 'Spacing'),
    () => spacing.getByRole('radio', { name: 'Count' }).click(),
    () => type(spacing.getByRole('textbox', { name: 'Count' }), '12'),
  ]);
  const twelve = await placed(page);
  expect(twelve).toHaveLength(12);
  expect(Math.min(...twelve.map((r) => r.x))).toBeCloseTo(left, 6);
  const length = Math.max(...twelve.map((r) => r.s));
  await follow('Divide a path into equal parts', [
    () => openStep(page, 'Spacing'),
    () => spacing.getByRole('radio', { name: 'Divide' }).click(),
    () => type(spacing.getByRole('textbox', { name: 'Parts' }), '5'),
  ]);
  const shares = (await placed(page)).map((r) => (r.s / length) * 5);
  shares.forEach((k) => expect(k).toBeCloseTo(Math.round(k), 6));
  expect(new Set(shares.map(Math.round)).size).toBeGreaterThanOrEqual(5);
});

test('land, peg, tile', async ({ page }) => {
  await cratesAlong(
    page,
    [
      [-6, 0],
      [6, 0],
    ],
    '2',
  );
  await follow('Land on the ground', [
    () => make(page, 'Hills'),
    async () => {
      await page.getByRole('button', { name: /^Crate Run/ }).click();
      await openStep(page, 'Ground');
    },
    () =>
      page
        .getByRole('region', { name: 'Ground', exact: true })
        .getByRole('radio', { name: 'Land', exact: true })
        .click(),
  ]);
  const landed = await placed(page);
  expect(new Set(landed.map((r) => r.y.toFixed(3))).size).toBeGreaterThan(3);
  await newScene(page);
  await takeProps(page, 'Crate');
  await make(page, 'Sphere', { Radius: '2' });
  await page.getByRole('button', { name: 'Top', exact: true }).click();
  await page.getByRole('button', { name: 'Fit', exact: true }).click();
  await settled(page);
  await follow('Peg props where you click', [
    () => page.keyboard.press('3'),
    () => page.getByRole('button', { name: 'Crate', exact: true }).first().click(),
    async () => {
      const at = await onScreen(page, [0.7, 1.87, 0.2]);
      await page.mouse.move(at.x, at.y);
      await page.mouse.click(at.x, at.y);
    },
  ]);
  const [peg] = await placed(page);
  expect(Math.hypot(peg.x, peg.y, peg.z)).toBeGreaterThan(1.9);
  expect(Math.hypot(peg.x, peg.y, peg.z)).toBeLessThan(2.01);
  await page.keyboard.press('1');
  const layout = page.getByRole('region', { name: 'Layout', exact: true });
  const before = { count: 0 };
  await follow('Tile a surface', [
    () => page.getByRole('button', { name: /^Sphere Surface/ }).click(),
    async () => {
      await page.getByRole('button', { name: 'Crate', exact: true }).hover();
      await page.getByRole('button', { name: 'Hang Crate' }).click();
      await settled(page);
      before.count = (await placed(page)).length;
    },
    () => openStep(page, 'Layout'),
    async () => {
      const label = (await layout.getByText('Columns', { exact: true }).boundingBox())!;
      await page.mouse.move(label.x + 8, label.y + 8);
      await page.mouse.down();
      await page.mouse.move(label.x + 58, label.y + 8, { steps: 5 });
      await page.mouse.up();
    },
  ]);
  expect((await placed(page)).length).not.toBe(before.count);
});

test('span, cloth, send out', async ({ page }) => {
  await cratesAlong(
    page,
    [
      [-4, 0],
      [4, 0],
    ],
    '2',
  );
  await takeProps(page, 'Rail');
  await page.getByRole('button', { name: /^Crate Run/ }).click();
  await follow('Span rails between posts', [
    () => page.getByRole('button', { name: /^More for this run/ }).click(),
    () => page.getByRole('menuitem', { name: 'Add spans' }).click(),
    async () => {
      const members = await openStep(page, 'Members');
      await members.getByRole('radio', { name: 'Repeat' }).click();
    },
  ]);
  await settled(page);
  expect((await placed(page)).filter((r) => r.arrangement !== 'Crate').length).toBeGreaterThan(3);
  const download = page.waitForEvent('download');
  await follow('Send the scene out', [
    () => page.keyboard.press('Control+e'),
    async () => {
      const choice = page.getByRole('radio', { name: /\.glb/ });
      if (!(await choice.isChecked())) await choice.click();
    },
    () => page.keyboard.press('Enter'),
  ]);
  expect((await download).suggestedFilename()).toMatch(/\.glb$/);
  await openExample(page, 'Rope fence');
  await follow('Let cloth blow', [
    () => make(page, 'Plane'),
    () => choose(page, 'Add a deformer', 'Cloth'),
    async () => {
      await settled(page);
      await scene(page).focus();
      await page.keyboard.press('Space');
    },
  ]);
  await expect(page.getByTestId('clock')).not.toHaveText('0.00 s');
  await page.keyboard.press('Space');
});

test('throw a wet rope', async ({ page }) => {
  await newScene(page);
  await follow('Throw a wet rope over a box', [
    async () => {
      await pathByNumbers(page, [
        [-3, 0],
        [3, 0],
      ]);
      await make(page, 'Tube along a path', { Radius: '0.06', Rows: '160' });
    },
    async () => {
      await make(page, 'Rounded box', { Width: '2', Height: '0.7', Depth: '2', 'Position Y': '-1' });
      await make(page, 'Plane', { 'Position Y': '-1' });
      await page.getByRole('button', { name: /^Tube along a path Surface/ }).click();
    },
    () => choose(page, 'Add a deformer', 'Sag'),
  ]);
  await settled(page);
  // What is pegged onto it, over the box, has come down with it onto that.
  await takeProps(page, 'Net float');
  await page.getByRole('button', { name: 'Top', exact: true }).click();
  await page.keyboard.press('3');
  const at = await onScreen(page, [0, -0.2, 0]);
  // Not onto the path, which stays where it was.
  await page.keyboard.down('Control');
  await page.mouse.click(at.x, at.y);
  await page.keyboard.up('Control');
  await settled(page);
  const [peg] = await placed(page);
  expect(peg.y).toBeGreaterThan(-0.3);
  expect(peg.y).toBeLessThan(-0.15);
});

test('without a pointer', async ({ page }) => {
  await newScene(page);
  /** Presses Tab until what is named has the focus. */
  const tabTo = async (role: string, name: string) => {
    const wanted = page.locator(`[role="${role}"], ${role}`).and(page.getByLabel(name, { exact: true }));
    for (let i = 0; i < 80; i++) {
      if (await wanted.evaluate((e) => e === document.activeElement).catch(() => false)) return;
      await page.keyboard.press('Tab');
    }
    throw new Error(`Tab does not lead to ${name}.`);
  };
  const command = async (words: string) => {
    await page.keyboard.press('Control+k');
    await page.getByLabel('Search the commands').fill(words);
    await page.keyboard.press('Enter');
  };
  const move = async (key: string, times: number) => {
    for (let i = 0; i < times; i++) await page.keyboard.press(key);
  };
  await follow('Without a pointer', [
    async () => {
      await tabTo('application', 'Scene');
      await page.keyboard.press('2');
    },
    async () => {
      await move('ArrowLeft', 4);
      await page.keyboard.press('Enter');
      await move('ArrowRight', 8);
      await page.keyboard.press('Enter');
      await page.keyboard.press('Enter');
      await settled(page);
    },
    async () => {
      await command('library');
      await page.keyboard.type('bollard');
      await expect(page.getByRole('button', { name: 'Add Bollard', exact: true })).toBeVisible();
      await tabTo('button', 'Add Bollard');
      await page.keyboard.press('Enter');
      await page.keyboard.press('Escape');
    },
    async () => {
      await tabTo('button', 'Bollard');
      await page.keyboard.press('Enter');
      await command('hang');
    },
  ]);
  expect((await placed(page)).length).toBeGreaterThan(1);
  await expect(page.getByLabel('Name of the run')).toHaveValue('Bollard');
});
