import { mkdirSync, writeFileSync } from 'node:fs';
import { developed, harnessPage, settled, withApplication } from './serve.mjs';

/**
 * Takes the pictures in docs/screenshots, and the examples' pictures for the start page, from the demo data (needs a
 * build). With names behind it only those.
 */
const asked = process.argv.slice(2);
const isAsked = (name) => asked.length === 0 || asked.includes(name);

await withApplication(4188, async (browser, base) => {
  mkdirSync('docs/screenshots', { recursive: true });
  mkdirSync('public/examples', { recursive: true });
  const page = await harnessPage(browser, false, true);
  const rest = () => settled(page);
  /** A scene of a hundred thousand takes minutes to the last frame without a graphics card. */
  let most = Infinity;
  const shot = async (name, frames = most) => {
    if (!isAsked(name)) return;
    // Only where the scene is open there is something to develop.
    if (await page.getByRole('application', { name: 'Scene' }).isVisible()) await developed(page, frames);
    await page.screenshot({ path: `docs/screenshots/${name}.png` });
  };

  const open = async (title) => {
    most = title === 'The headland' ? 8 : Infinity;
    await page.goto(base);
    await page.getByRole('button', { name: new RegExp(`Open the example ${title}`) }).click();
    await rest();
  };
  const step = (title) => page.getByRole('region', { name: title, exact: true }).getByRole('button').first();

  // The examples' own pictures: the scene alone.
  for (const [title, name] of [
    ['Tern Quay', 'tern-quay'],
    ['The lantern evening', 'lantern-evening'],
    ['Rope fence', 'rope-fence'],
    ['Ferry loop', 'ferry-loop'],
    ['Sailcloth', 'sailcloth'],
    ['Tiles of the beacon', 'beacon-tiles'],
    ['The beacon, to be printed', 'beacon-print'],
    ['The rigging board', 'rigging-board'],
    ['The chandlery', 'chandlery'],
    ['The headland', 'headland'],
  ]) {
    if (!isAsked(name)) continue;
    await open(title);
    // As a still picture has it: without lines of paths.
    const picture = await page.evaluate(
      async (frames) => {
        const choices = { size: 750, frames, background: 'scene', color: '#000000', format: 'png8' };
        const { ok, text } = await window.clothesline.still(null, 0, choices);
        if (!ok) throw new Error(text);
        const seen = new Image();
        seen.src = `data:image/png;base64,${text}`;
        await seen.decode();
        const canvas = document.createElement('canvas');
        [canvas.width, canvas.height] = [seen.width, seen.height];
        canvas.getContext('2d').drawImage(seen, 0, 0);
        return canvas.toDataURL('image/jpeg', 0.82).split(',')[1];
      },
      Math.min(32, most),
    );
    writeFileSync(`public/examples/${name}.jpg`, picture, 'base64');
  }

  await open('Tern Quay');
  await page.getByRole('button', { name: 'Point 4', exact: true }).click();
  await page.locator('[data-slot="13"]').hover();
  await rest();
  await shot('main');

  // Goods of the quay let fall from a hand's height, a second later; what there is to look at then.
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: /^Evening stores/ }).click();
  await step('Spacing').click();
  await step('Facing').click();
  const facing = page.getByRole('region', { name: 'Facing', exact: true });
  await facing.getByRole('button', { name: 'Add Lift', exact: true }).click();
  await facing.getByLabel('Lift', { exact: true }).fill('1.4');
  await facing.getByLabel('Lift', { exact: true }).press('Enter');
  await step('Facing').click();
  await page.getByRole('button', { name: 'More for this run' }).click();
  await page.getByRole('menuitem', { name: 'Let it fall' }).click();
  await rest();
  await page.getByLabel('Time in seconds').fill('0.7');
  await rest();
  await shot('release');
  await step('Release').click();
  await page.getByLabel('Time in seconds').fill('0');
  // Bollards that stand too near each other.
  await page.getByRole('button', { name: /^Quay bollards/ }).click();
  await step('Spacing').click();
  await page.getByLabel('Pitch', { exact: true }).fill('0.4');
  await page.getByLabel('Pitch', { exact: true }).press('Enter');
  await rest();
  await page.getByRole('button', { name: /^Checks of the scene: \d/ }).click();
  await rest();
  await shot('checks');
  await page.keyboard.press('Escape');
  await step('Spacing').click();
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await rest();

  await page.getByRole('button', { name: 'Add props' }).click();
  await rest();
  await shot('library');
  await page.keyboard.press('Escape');

  // A solid with its steps, and what a printer asks of it.
  await open('The beacon, to be printed');
  await page.getByRole('button', { name: /^Beacon Surface/ }).click();
  await page.getByRole('button', { name: 'Look at what leans out most' }).waitFor();
  await rest();
  await shot('solid');

  await open('The chandlery');
  await page.getByRole('button', { name: /^Tins and jars/ }).click();
  await step('Filling').click();
  await rest();
  await shot('stock');
  await page
    .getByRole('region', { name: 'Basket' })
    .getByRole('button', { name: 'Crate of jars', exact: true })
    .click();
  await page.getByRole('button', { name: 'Open to edit' }).click();
  await rest();
  await shot('bundle');

  await open('Rope fence');
  await page.getByRole('button', { name: /^Fence line Path/ }).click();
  await page.getByRole('button', { name: 'Select point 4' }).click();
  await rest();
  await shot('path');

  await page.getByRole('button', { name: /^Upper rails Spans/ }).click();
  await step('Ends').click();
  await rest();
  await shot('spans');

  // Sheets: the tower's tiles with their layout.
  await open('Tiles of the beacon');
  await page.getByRole('button', { name: /^Tiles, bent Sheet/ }).click();
  await rest();
  await shot('sheet');

  await open('Rope fence');
  await page.getByRole('button', { name: /^Tufts along/ }).click();
  await step('Spacing').click();
  await step('Variation').click();
  await page.getByRole('radio', { name: 'Spacing', exact: true }).click();
  // Props on the dunes as they land and lean, and the profile of the ground.
  await page.getByRole('button', { name: /^Boards of the footpath/ }).click();
  await step('Variation').click();
  await step('Ground').click();
  await page.getByRole('radio', { name: 'Heights' }).click();
  await rest();
  await page.waitForTimeout(400);
  await shot('ground');

  await open('Sailcloth');
  await page.getByLabel('Time in seconds').fill('2.5');
  await page.getByRole('button', { name: /^Signal cloth Surface/ }).click();
  await page.getByRole('group', { name: 'Cloth', exact: true }).scrollIntoViewIfNeeded();
  await rest();
  await shot('cloth');
  // Stitches as props, as stamps, and in the maps that the sail wears.
  await page.getByLabel('Time in seconds').fill('0');
  await page.getByRole('button', { name: /^Sail Surface/ }).click();
  await page.getByRole('region', { name: 'Maps' }).scrollIntoViewIfNeeded();
  const sail = await page.locator('[aria-label="Scene"]').boundingBox();
  await page.mouse.move(sail.x + 320, sail.y + 430);
  for (let i = 0; i < 7; i++) await page.mouse.wheel(0, -200);
  await rest();
  await shot('stamps');

  // Ropes of the rigging board from the side, and how they hang.
  await open('The rigging board');
  await page.getByRole('button', { name: /^Slack Strands/ }).click();
  await step('Hanging').click();
  await rest();
  await shot('strands');

  // A scatter over the headland with its places from above; one of its masks in shades; the brush.
  await open('The headland');
  await page.getByRole('button', { name: /^Gorse Scatter/ }).click();
  await rest();
  await shot('scatter');
  await page.getByRole('button', { name: 'Edit the mask of only where' }).click();
  await page.keyboard.press('4');
  for (let i = 0; i < 6; i++) await page.keyboard.press('.');
  const field = await page.locator('[aria-label="Scene"]').boundingBox();
  await page.mouse.move(field.x + 130, field.y + 440);
  await rest();
  await shot('mask', 2);
  await page.keyboard.press('Escape');

  await open('Ferry loop');
  await page.getByRole('button', { name: /^Waiting people Run/ }).click();
  await step('Spacing').click();
  await step('Poses').click();
  await page.getByRole('button', { name: 'Speed and loop' }).click();
  await page.getByLabel('Time', { exact: true }).fill('3.3');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Escape');
  await rest();
  await shot('crowd');

  await page.getByRole('button', { name: /^Mooring rings/ }).click();
  await page.keyboard.press('3');
  await step('Places').click();
  await rest();
  await shot('pegs');

  // The start page as it is after two scenes were worked on: left by their own link they have their pictures.
  const fresh = await harnessPage(browser);
  for (const title of ['Tern Quay', 'Ferry loop']) {
    await fresh.goto(base);
    await fresh.getByRole('button', { name: new RegExp(`Open the example ${title}`) }).click();
    await settled(fresh);
    await fresh.getByRole('link', { name: 'Scenes', exact: true }).click();
    await fresh.getByRole('button', { name: 'New scene' }).waitFor();
  }
  await fresh.waitForTimeout(1200);
  if (isAsked('start')) await fresh.screenshot({ path: 'docs/screenshots/start.png' });
});
