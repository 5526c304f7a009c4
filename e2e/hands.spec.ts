import { expect, type Page } from '@playwright/test';
import { TASKS } from '../src/ui/words/tasks';
import { cratesAlong, newScene, onScreen, openExample, rows, settled, takeProps, undo } from './support/app';
import { test } from './support/test';

/** What everyone's hands expect, by pointer and by keys. */

/** Runs a command by words that people have for it. */
async function command(page: Page, words: string): Promise<void> {
  await page.keyboard.press('Control+k');
  await page.getByLabel('Search the commands').fill(words);
  await page.keyboard.press('Enter');
}

test('commands are found by the words that people have for them, and “?” tells what one can do', async ({
  page,
}) => {
  await newScene(page);
  await page.keyboard.press('Control+k');
  const search = page.getByLabel('Search the commands');
  const first = page.getByRole('option').first();
  for (const [words, title] of [
    ['export', 'Send out'],
    ['save', 'Save now'],
    ['unit', 'Units: centimetres'],
    ['import', 'Bring in a file'],
    ['copy', 'Copy'],
    ['clone', 'Duplicate'],
    ['delete', 'Delete what is selected'],
    ['align', 'Align points at one height'],
    ['help', 'What you can do'],
    ['dark', 'Dusk or day'],
    ['hang', 'Hang the prop on the path'],
  ]) {
    await search.fill(words);
    await expect(first).toContainText(title);
  }
  await page.keyboard.press('Escape');
  await page.keyboard.press('?');
  const help = page.getByRole('dialog', { name: 'What you can do' });
  await expect(help.getByText('Mod+S')).toBeVisible();
  await expect(help.getByRole('heading', { level: 4 })).toHaveCount(TASKS.length);
  await page.keyboard.press('Escape');
  await expect(help).toBeHidden();
  // As everyone's hands save.
  await page.keyboard.press('Control+s');
  await expect(page.getByText('Everything is saved in this browser.')).toBeVisible();
});

test('without a pointer: a line, a prop of the library by its name, hung on it, and sent out with Enter', async ({
  page,
}) => {
  await newScene(page);
  await command(page, 'new path line');
  await settled(page);
  await command(page, 'assets');
  // The library opens in its search.
  await page.keyboard.type('bollard');
  const found = page.getByRole('dialog').getByRole('button', { name: 'Add Bollard', exact: true });
  await expect(found).toBeVisible();
  await found.focus();
  await page.keyboard.press('Enter');
  await page.keyboard.press('Escape');
  const prop = page
    .getByRole('region', { name: 'Basket' })
    .getByRole('button', { name: 'Bollard', exact: true });
  await prop.focus();
  await page.keyboard.press('Enter');
  await command(page, 'hang');
  await settled(page);
  const placed = (await rows(page)).filter((r) => r.state === 'placed');
  expect(placed.length).toBeGreaterThan(2);
  await page.keyboard.press('Control+e');
  const download = page.waitForEvent('download');
  await page.keyboard.press('Enter');
  expect((await download).suggestedFilename()).toMatch(/\.glb$/);
});

test('a click on the path of a run takes the path, and puts no point into it', async ({ page }) => {
  await cratesAlong(
    page,
    [
      [-4, 0],
      [4, 0],
    ],
    '4',
  );
  const between = await onScreen(page, [2, 0, 0]);
  await page.mouse.click(between.x, between.y);
  await expect(page.getByLabel('Name of the path')).toBeVisible();
  await expect(page.getByText('2 points')).toBeVisible();
  // Now that it is in hand, a click puts one there.
  await page.mouse.click(between.x, between.y);
  await settled(page);
  await expect(page.getByText('3 points')).toBeVisible();
  // A copy of the two outer points is a stroke of its own, beside it.
  await undo(page);
  await page.keyboard.press('Control+a');
  await page.keyboard.press('Control+d');
  await settled(page);
  await expect(page.getByText('4 points')).toBeVisible();
  const lines = [...new Set((await rows(page)).map((r) => r.z))];
  expect(lines).toEqual([0, 0.4]);
});

test('a duplicate stands beside its original on the next thread; pegs double by themselves', async ({
  page,
}) => {
  await openExample(page, 'Ferry loop');
  const pegged = async () => (await rows(page)).filter((r) => r.arrangement === 'Mooring rings');
  await page.getByRole('button', { name: /^Mooring rings Pegs/ }).click();
  const before = await pegged();
  await page.getByTestId('plan').getByRole('button', { name: /^Peg / }).first().click();
  await page.keyboard.press('Control+d');
  await expect.poll(async () => (await pegged()).length).toBe(before.length + 1);
  await undo(page);
  await page.getByRole('button', { name: /^Pylons Run/ }).click();
  const thread = page.getByRole('button', { name: /^Thread: / });
  const color = await thread.getAttribute('title');
  await page.keyboard.press('Control+d');
  await settled(page);
  await expect(page.getByLabel('Name of the run')).toHaveValue('Pylons 2');
  expect(await thread.getAttribute('title')).not.toBe(color);
  const all = await rows(page);
  const one = all.filter((r) => r.arrangement === 'Pylons');
  const two = all.filter((r) => r.arrangement === 'Pylons 2');
  expect(two.length).toBe(one.length);
  two.forEach((r, i) => expect(Math.hypot(r.x - one[i].x, r.z - one[i].z)).toBeGreaterThan(0.3));
});

test('renamed by F2 and a double click, shown alone, and one prop put in the place of another', async ({
  page,
}) => {
  await openExample(page, 'Rope fence');
  const posts = page.getByRole('button', { name: /^Posts Run/ });
  await posts.dblclick();
  await page.keyboard.type('Fence posts');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: /^Fence posts Run/ })).toBeVisible();
  await page.getByRole('button', { name: /^Fence posts Run/ }).focus();
  await page.keyboard.press('F2');
  await page.keyboard.type('Posts');
  await page.keyboard.press('Enter');
  await posts.focus();
  await command(page, 'isolate');
  await settled(page);
  await expect(page.getByRole('button', { name: /^Show / })).not.toHaveCount(0);
  await expect(page.getByRole('button', { name: 'Hide Posts', exact: true })).toBeVisible();
  await command(page, 'show everything');
  await settled(page);
  const before = await rows(page);
  const standing = before.filter((r) => r.state === 'placed' && r.prop === 'Rope post').length;
  expect(standing).toBeGreaterThan(5);
  await takeProps(page, 'Bollard');
  await page.getByRole('button', { name: 'Rope post', exact: true }).click();
  await page.getByRole('button', { name: /^More for this prop/ }).click();
  await expect(page.getByText(`In its ${standing} places instead`)).toBeVisible();
  await page.getByRole('menuitem', { name: 'Bollard', exact: true }).click();
  await settled(page);
  const after = await rows(page);
  expect(after.filter((r) => r.prop === 'Rope post')).toEqual([]);
  expect(after.filter((r) => r.state === 'placed' && r.prop === 'Bollard').length).toBe(standing);
  await undo(page);
  expect((await rows(page)).filter((r) => r.state === 'placed' && r.prop === 'Rope post').length).toBe(
    standing,
  );
});

test('the right button, and Shift+F10: in the lists, in the basket, on a prop, a path and the ground of the scene', async ({
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
  const placed = async () => (await rows(page)).filter((r) => r.state === 'placed').map((r) => r.x);
  expect(await placed()).toEqual([-4, 0, 4]);
  const menu = page.getByRole('menu');
  const rightClick = async (x: number) => {
    const at = await onScreen(page, [x, 0, 0]);
    await page.mouse.click(at.x, at.y, { button: 'right' });
  };
  // A prop of the scene: it is taken in hand.
  await rightClick(0);
  await menu.getByRole('menuitem', { name: 'Remove it' }).click();
  await settled(page);
  expect(await placed()).toEqual([-4, 4]);
  // The path beside it.
  await rightClick(2);
  await menu.getByRole('menuitem', { name: 'Duplicate' }).click();
  await settled(page);
  await expect(page.getByLabel('Name of the path')).toHaveValue('Path 2');
  // The ground.
  const ground = await onScreen(page, [0, 0, 3]);
  await page.mouse.click(ground.x, ground.y, { button: 'right' });
  await menu.getByRole('menuitem', { name: 'Show everything' }).press('Escape');
  await expect(menu).toBeHidden();
  // A row of a list, by keys.
  await page.getByRole('button', { name: /^Crate Run/ }).focus();
  await page.keyboard.press('Shift+F10');
  await menu.getByRole('menuitem', { name: 'Rename' }).press('Enter');
  await page.keyboard.type('Stores');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: /^Stores Run/ })).toBeVisible();
  await page.getByRole('button', { name: /^Path 2 Path/ }).click({ button: 'right' });
  await menu.getByRole('menuitem', { name: 'Delete' }).click();
  await expect(page.getByRole('button', { name: /^Path 2 Path/ })).toHaveCount(0);
  // A prop of the basket, onto the path that is left.
  await page.getByRole('button', { name: 'Crate', exact: true }).click({ button: 'right' });
  await menu.getByRole('menuitem', { name: 'Hang on the selected path' }).click();
  await settled(page);
  expect((await placed()).length).toBeGreaterThan(2);
});

test('Fit shows all of a scene clear of the tools, and as large as it can be; long lists are searched', async ({
  page,
}) => {
  await openExample(page);
  await page.keyboard.press('Home');
  await settled(page);
  const view = (await page.getByRole('application', { name: 'Scene' }).boundingBox())!;
  const inside = async (of: { x: number; y: number; z: number }[]) => {
    const at = await Promise.all(of.map((r) => onScreen(page, [r.x, r.y, r.z])));
    const [xs, ys] = [at.map((p) => p.x - view.x), at.map((p) => p.y - view.y)];
    expect(Math.min(...xs)).toBeGreaterThan(10);
    expect(Math.max(...xs)).toBeLessThan(view.width - 10);
    expect(Math.min(...ys)).toBeGreaterThan(70);
    expect(Math.max(...ys)).toBeLessThan(view.height - 50);
    return (Math.max(...xs) - Math.min(...xs)) / view.width;
  };
  const all = (await rows(page)).filter((r) => r.state === 'placed');
  expect(await inside(all)).toBeGreaterThan(0.6);
  // One arrangement alone is looked at by its key.
  await page.getByLabel('Search the lists').fill('lamp');
  await expect(page.getByRole('button', { name: /Run ·/ })).toHaveCount(1);
  await page.getByRole('button', { name: /^Lamp posts Run/ }).click();
  await page.keyboard.press('Shift+Home');
  await settled(page);
  await inside(all.filter((r) => r.arrangement === 'Lamp posts'));
  // One of them from its foot to its top, and as large as that lets it be.
  const post = all.find((r) => r.arrangement === 'Lamp posts')!;
  const shaft = await onScreen(page, [post.x, post.y + 1.5, post.z]);
  await page.mouse.click(shaft.x, shaft.y);
  await page.keyboard.press('Shift+Home');
  await settled(page);
  const [foot, top] = [
    await onScreen(page, [post.x, post.y, post.z]),
    await onScreen(page, [post.x, post.y + 4.4, post.z]),
  ];
  expect(top.y).toBeGreaterThan(view.y + 70);
  expect(foot.y).toBeLessThan(view.y + view.height - 50);
  expect(foot.y - top.y).toBeGreaterThan(view.height * 0.45);
  await page.getByLabel('Search the lists').press('Escape');
  await expect(page.getByRole('button', { name: /^Quay bollards Run/ })).toBeVisible();
});

test('a path is drawn, and a prop pegged, with keys alone', async ({ page }) => {
  await newScene(page);
  await takeProps(page, 'Crate');
  await page.getByRole('button', { name: 'Top', exact: true }).press('Enter');
  const view = page.getByRole('application', { name: 'Scene' });
  await view.focus();
  await page.keyboard.press('2');
  const go = async (key: string, times: number) => {
    for (let i = 0; i < times; i++) await page.keyboard.press(key);
  };
  await go('ArrowLeft', 10);
  await page.keyboard.press('Enter');
  await go('ArrowRight', 20);
  await page.keyboard.press('Enter');
  // Once more where it stands: that is the end.
  await page.keyboard.press('Enter');
  await settled(page);
  await expect(page.getByLabel('Name of the path')).toHaveValue('Path');
  await expect(page.getByText('2 points')).toBeVisible();
  await command(page, 'peg props');
  await view.focus();
  await go('ArrowDown', 8);
  await page.keyboard.press('Enter');
  await settled(page);
  const [peg, ...others] = await rows(page);
  expect([peg.prop, others.length]).toEqual(['Crate', 0]);
  // Below the middle of the view, towards the viewer.
  expect(peg.z).toBeGreaterThan(0.5);
});

test('from hanging to the pitch by a few keys: a command goes to a step of the recipe', async ({ page }) => {
  await cratesAlong(
    page,
    [
      [-6, 0],
      [6, 0],
    ],
    '1',
  );
  const spaced = async () => {
    const [a, b] = (await rows(page)).filter((r) => r.state === 'placed');
    return b.x - a.x;
  };
  const go = async (words: string) => {
    await page.keyboard.press('Control+k');
    await page.getByLabel('Search the commands').fill(words);
    await page.keyboard.press('Enter');
  };
  await page.getByRole('region', { name: 'Spacing' }).getByRole('button').first().click();
  await go('pitch');
  await expect(page.getByLabel('Pitch', { exact: true })).toBeFocused();
  await page.keyboard.type('3');
  await page.keyboard.press('Enter');
  await expect.poll(spaced).toBeCloseTo(3, 9);
  await go('jitter');
  await expect(
    page.getByRole('region', { name: 'Variation' }).getByLabel('Seed', { exact: true }),
  ).toBeFocused();
});
