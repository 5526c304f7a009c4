import axe from 'axe-core';
import { expect, type Page } from '@playwright/test';
import { choose, newScene, openExample, openQuay, settled } from './support/app';
import { test } from './support/test';

declare global {
  interface Window {
    axe: typeof axe;
  }
}

/** Nothing that a screen reader or weak eyes would stumble over, by day and in dusk. */

/** What is wrong on the screen as it is now, by day, and with the same elements in the colours of dusk; a line each. */
async function faults(page: Page, where: string, ...within: string[]): Promise<string[]> {
  if (!(await page.evaluate(() => 'axe' in window))) await page.evaluate(axe.source);
  return page.evaluate(
    async ([name, parts]) => {
      const root = document.documentElement;
      const looked = async (theme: string, only?: string[]) => {
        root.dataset.theme = theme;
        const { violations } = await window.axe.run(parts.length > 0 ? { include: parts } : document, {
          // Only what is wrong is wanted: the list of all that is right is long.
          resultTypes: ['violations'],
          iframes: false,
          // A list of choices shows what is chosen, and is called by what it is for.
          rules: { 'label-content-name-mismatch': { enabled: false } },
          ...(only && { runOnly: only }),
        });
        return violations.flatMap((v) =>
          v.nodes.map((n) => `${name}, ${theme}: ${v.id}: ${n.target.join(' ')} ${n.html.slice(0, 160)}`),
        );
      };
      const before = root.dataset.theme;
      // Colours that fade from one to the other would be looked at half way.
      const still = document.createElement('style');
      still.textContent = '* { transition: none !important; }';
      document.head.append(still);
      try {
        return [...(await looked('day')), ...(await looked('dusk', ['color-contrast']))];
      } finally {
        if (before === undefined) delete root.dataset.theme;
        else root.dataset.theme = before;
        still.remove();
      }
    },
    [where, within] as const,
  );
}

/** Opens every step of the recipe in hand. */
async function openAll(page: Page): Promise<void> {
  const closed = page
    .getByLabel('Recipe')
    .locator('section button[aria-expanded="false"]:not([aria-haspopup])');
  while ((await closed.count()) > 0) await closed.first().click();
}

test(`start page, dialogs and menus`, async ({ page }) => {
  const found: string[] = [];
  found.push(...(await faults(page, 'start page')));
  await openExample(page);
  // With a group in the lists.
  await page.keyboard.press('Control+g');
  await page.keyboard.press('Enter');
  await settled(page);
  found.push(...(await faults(page, 'main screen')));
  for (const [name, button] of [
    ['bring in', 'Bring in'],
    ['send out', 'Send out'],
    ['library', 'Add props'],
    ['line-up', 'Line up the props'],
    ['checks', 'Checks of the scene'],
    ['light', 'Light of the scene'],
    ['viewpoints', 'Viewpoints'],
  ]) {
    const exact = name !== 'checks';
    await page.getByRole('button', { name: button, exact }).first().click();
    await page.getByRole('dialog').waitFor({ state: 'attached' });
    found.push(...(await faults(page, name, '[role="dialog"]')));
    await page.keyboard.press('Escape');
    await page.getByRole('dialog').waitFor({ state: 'detached' });
  }
  await page.getByRole('button', { name: 'Viewpoints' }).click();
  await page.getByRole('button', { name: 'Keep this view' }).click();
  await page.getByLabel('Focal length, mm').waitFor();
  found.push(...(await faults(page, 'a viewpoint', '[role="dialog"]')));
  await page.getByRole('button', { name: 'Still picture…' }).click();
  await page.getByRole('dialog', { name: 'Still picture' }).waitFor();
  found.push(...(await faults(page, 'still picture', '[role="dialog"]')));
  await page.keyboard.press('Escape');
  await page.keyboard.press('Control+k');
  await page.getByRole('dialog').waitFor({ state: 'attached' });
  found.push(...(await faults(page, 'commands')));
  await page.keyboard.press('Escape');
  await page.getByRole('dialog').waitFor({ state: 'detached' });
  // Every menu and list of choices that a button of the screen opens.
  const menus = page.locator('[aria-haspopup="menu"]:visible, [aria-haspopup="listbox"]:visible');
  const count = await menus.count();
  expect(count).toBeGreaterThan(3);
  const whole = new Set<string>();
  for (let i = 0; i < count; i++) {
    const menu = menus.nth(i);
    const name = await menu.getAttribute('aria-label');
    await menu.click();
    await expect(menu).toHaveAttribute('aria-expanded', 'true');
    // The first of each kind with the whole screen around it; the others differ in what they hold.
    const kind = (await menu.getAttribute('aria-haspopup'))!;
    found.push(...(await faults(page, `menu ${name}`, ...(whole.has(kind) ? [`[role="${kind}"]`] : []))));
    whole.add(kind);
    await page.keyboard.press('Escape');
    await expect(menu).toHaveAttribute('aria-expanded', 'false');
  }
  await page.getByRole('button', { name: 'Speed and loop' }).click();
  found.push(...(await faults(page, 'speed and loop')));
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: /^Snap: on/ }).click();
  await page.getByRole('switch', { name: 'Snapping' }).waitFor();
  found.push(...(await faults(page, 'snap')));
  await page.keyboard.press('Escape');
  await page
    .getByLabel('Flat view')
    .getByRole('button', { name: /^Pulley/ })
    .click();
  await page.getByRole('textbox', { name: 'Offset' }).waitFor();
  found.push(...(await faults(page, 'pulley')));
  expect(found).toEqual([]);
});

/** The parts of the screen that are about what is in hand. */
const OWN = ['[aria-label="Recipe"]', '[aria-label="Flat view"]', '[aria-label="Scene"]'];

for (const [example, nodes] of [
  ['Tern Quay', ['Quay bollards Run', 'Quay edge Path', 'Quay Surface']],
  ['Rope fence', ['Upper rails Spans', 'Marram on the dunes Scatter']],
  ['Ferry loop', ['Cargo Riders', 'Mooring rings Pegs']],
  ['Tiles of the beacon', ['Tiles, rigid Sheet']],
  ['The rigging board', ['Slack Strands', 'Float line Path']],
  ['Sailcloth', ['Signal cloth Surface']],
] as const)
  test(`${nodes.join(', ')}: all steps open`, async ({ page }) => {
    const found: string[] = [];
    await openExample(page, example);
    for (const node of nodes) {
      await page.getByRole('button', { name: new RegExp(`^${node}`) }).click();
      await openAll(page);
      await settled(page);
      // What is around these is looked at on the main screen.
      found.push(...(await faults(page, node, ...OWN)));
    }
    expect(found).toEqual([]);
  });

test(`flat views, a prop, seeds, an empty scene`, async ({ page }) => {
  const found: string[] = [];
  await openQuay(page);
  for (const tab of ['Spacing', 'Heights']) {
    await page.getByLabel('Flat view').getByRole('radio', { name: tab, exact: true }).click();
    found.push(...(await faults(page, `flat view, ${tab}`, ...OWN)));
  }
  await page.getByRole('button', { name: 'Bollard', exact: true }).click();
  found.push(...(await faults(page, 'prop', ...OWN)));
  await page.getByRole('button', { name: /^Quay bollards Run/ }).click();
  await openAll(page);
  await page.getByRole('button', { name: 'Compare seeds' }).click();
  await settled(page);
  found.push(...(await faults(page, 'seeds')));
  await page.goto('/');
  await newScene(page);
  found.push(...(await faults(page, 'empty scene')));
  await page.getByRole('button', { name: 'Draw path' }).first().click();
  found.push(...(await faults(page, 'drawing')));
  await page.getByRole('button', { name: 'Peg', exact: true }).click();
  await page.getByLabel('Typed place is in').click();
  found.push(...(await faults(page, 'pegging')));
  await page.keyboard.press('Escape');
  await choose(page, 'New mask', 'Away from paths');
  for (const layer of ['By a picture', 'Painted']) await choose(page, 'Add a layer', layer);
  await page.getByRole('button', { name: 'Shape ramp of distance' }).click();
  await page.getByRole('button', { name: 'Paint', exact: true }).first().click();
  found.push(...(await faults(page, 'mask and brush', ...OWN)));
  expect(found).toEqual([]);
});
