import './prepare.mjs';
import { spawn } from 'node:child_process';
import { mkdirSync } from 'node:fs';
import { chromium } from '@playwright/test';
import { chromiumPath } from './prepare.mjs';

/** Takes the pictures in docs/screenshots, and the example's picture for the start page, from the demo data. */

const PORT = 4188;
const server = spawn(process.execPath, ['node_modules/next/dist/bin/next', 'start', '-p', String(PORT)], {
  stdio: 'ignore',
});
const base = `http://localhost:${PORT}`;
for (let i = 0; i < 100; i++) {
  if (
    await fetch(base).then(
      (r) => r.ok,
      () => false,
    )
  )
    break;
  await new Promise((r) => setTimeout(r, 200));
}
const browser = await chromium.launch({
  executablePath: chromiumPath(),
  args: ['--use-angle=swiftshader', '--enable-unsafe-swiftshader', '--ignore-gpu-blocklist', '--no-sandbox'],
});
mkdirSync('docs/screenshots', { recursive: true });
mkdirSync('public/examples', { recursive: true });
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
const settled = async () => {
  await page.waitForTimeout(200);
  await page.waitForSelector('[aria-label="Scene"][data-settled="true"]', { timeout: 60000 });
};
const shot = (name) => page.screenshot({ path: `docs/screenshots/${name}.png` });

const open = async (title) => {
  await page.goto(base);
  await page.getByRole('button', { name: new RegExp(`Open the example ${title}`) }).click();
  await settled();
};
const step = (title) => page.getByRole('region', { name: title, exact: true }).getByRole('button').first();

// The examples' own pictures: the scene alone, nothing selected.
for (const [title, name] of [
  ['Tern Quay', 'tern-quay'],
  ['Rope fence', 'rope-fence'],
  ['Ferry loop', 'ferry-loop'],
  ['Sailcloth', 'sailcloth'],
  ['Tiles of the beacon', 'beacon-tiles'],
]) {
  await open(title);
  await page.keyboard.press('Escape');
  await settled();
  await page.evaluate(() =>
    document
      .querySelectorAll('[aria-label="Scene"] > :not(:first-child)')
      .forEach((e) => (e.style.visibility = 'hidden')),
  );
  await page
    .locator('[aria-label="Scene"]')
    .screenshot({ path: `public/examples/${name}.jpg`, type: 'jpeg', quality: 82 });
}

await open('Tern Quay');
await page.getByRole('button', { name: 'Point 4', exact: true }).click();
await page.locator('[data-slot="13"]').hover();
await settled();
await shot('main');

await page.keyboard.press('Escape');
await page.getByRole('button', { name: 'Send out' }).first().click();
await page.waitForTimeout(400);
await shot('send-out');
await page.keyboard.press('Escape');

await page.getByRole('button', { name: 'Add props' }).click();
await settled();
await shot('library');
await page.keyboard.press('Escape');

// One prop in hand: nudged, with what the hand did in the recipe.
await page.getByRole('button', { name: /^Evening stores/ }).click();
await step('Spacing').click();
await step('By hand').click();
await page.locator('[data-slot="10"]').focus();
for (let i = 0; i < 6; i++) await page.keyboard.press('Alt+ArrowRight');
await page.getByRole('region', { name: 'By hand' }).getByRole('button', { name: /^#10/ }).click();
await settled();
await shot('by-hand');

await open('Rope fence');
await page.getByRole('button', { name: /^Fence line Path/ }).click();
await page.getByRole('button', { name: 'Select point 4' }).click();
await settled();
await shot('path');

await page.getByRole('button', { name: /^Upper rails Spans/ }).click();
await step('Ends').click();
await settled();
await shot('spans');

// Sheets: the tower's tiles with their layout, and the layout tall: stretched, in the colours of distortion.
await open('Tiles of the beacon');
await page.getByRole('button', { name: /^Tiles, bent Sheet/ }).click();
await settled();
await shot('sheet');
await page.getByRole('button', { name: 'Taller flat view' }).click();
await page.getByRole('button', { name: /^Tiles, rigid Sheet/ }).click();
await step('Surface').click();
await page.getByRole('radio', { name: 'Stretched' }).click();
await step('Layout').click();
await step('Facing').click();
await page.getByRole('region', { name: 'Facing' }).getByText('Show distortion').click();
await page.getByRole('region', { name: 'Facing' }).getByText('Show distortion').scrollIntoViewIfNeeded();
await settled();
await shot('layout');
await page.getByRole('region', { name: 'Facing' }).getByText('Show distortion').click();
await page.getByRole('button', { name: 'Lower flat view' }).click();

await open('Rope fence');
await page.getByRole('button', { name: /^Tufts along/ }).click();
await step('Spacing').click();
await step('Variation').click();
await page.getByRole('radio', { name: 'Spacing', exact: true }).click();
await page.getByRole('button', { name: 'Compare seeds' }).click();
await page.waitForTimeout(2500);
await settled();
await shot('seeds');
await page.getByRole('button', { name: 'Close', exact: true }).click();

// Props on the dunes, before and after they land and lean, and the profile of the ground.
await page.getByRole('button', { name: /^Boards of the footpath/ }).click();
await step('Variation').click();
await step('Ground').click();
const ground = page.getByRole('region', { name: 'Ground', exact: true });
await page.getByRole('radio', { name: 'Heights' }).click();
await ground.getByRole('radio', { name: 'None', exact: true }).click();
await settled();
await page.waitForTimeout(400);
await shot('ground-before');
await page.getByRole('button', { name: /^Undo/ }).first().click();
await settled();
await page.waitForTimeout(400);
await shot('ground-after');

await open('Sailcloth');
await page.getByLabel('Time in seconds').fill('2.5');
await page.getByRole('button', { name: /^Signal cloth Surface/ }).click();
await page.getByRole('group', { name: 'Cloth', exact: true }).scrollIntoViewIfNeeded();
await settled();
await shot('cloth');

await open('Ferry loop');
await page.getByRole('button', { name: /^Cargo Riders/ }).click();
await step('Landing').click();
await settled();
await shot('riders');

await page.getByRole('button', { name: /^Mooring rings/ }).click();
await page.keyboard.press('3');
await step('Places').click();
await settled();
await shot('pegs');

await open('Ferry loop');
await step('Spacing').click();
await step('Props').click();
await page.getByRole('button', { name: 'Play the pulley' }).click();
await page.waitForTimeout(3000);
await page.getByRole('button', { name: 'Stop the pulley' }).click();
await settled();
await shot('pulley');

await page.getByRole('button', { name: 'Draw path' }).first().click();
const scene = await page.locator('[aria-label="Scene"]').boundingBox();
await page.mouse.click(scene.x + scene.width * 0.42, scene.y + scene.height * 0.5);
await page.keyboard.press('8');
for (const [x, y] of [
  [0.5, 0.45],
  [0.55, 0.47],
  [0.585, 0.465],
])
  await page.mouse.move(scene.x + scene.width * x, scene.y + scene.height * y, { steps: 4 });
await page.waitForTimeout(400);
await shot('drawing');
await page.keyboard.press('Escape');
await page.keyboard.press('Escape');

// The start page as it is after two scenes were worked on: left by their own link they have their pictures.
const fresh = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
for (const title of ['Tern Quay', 'Ferry loop']) {
  await fresh.goto(base);
  await fresh.getByRole('button', { name: new RegExp(`Open the example ${title}`) }).click();
  await fresh.waitForTimeout(300);
  await fresh.waitForSelector('[aria-label="Scene"][data-settled="true"]', { timeout: 60000 });
  await fresh.getByRole('link', { name: 'Scenes', exact: true }).click();
  await fresh.getByRole('button', { name: 'New scene' }).waitFor();
}
await fresh.waitForTimeout(1200);
await fresh.screenshot({ path: 'docs/screenshots/start.png' });

await browser.close();
server.kill();
