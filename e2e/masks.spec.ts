import { expect, type Page } from '@playwright/test';
import { encode } from 'fast-png';
import {
  at,
  axes,
  choose,
  drawPath,
  hang,
  make,
  newScene,
  onScreen,
  openStep,
  pickOption,
  rows,
  setTime,
  settled,
  takeProps,
  type,
  undo,
  type Row,
} from './support/app';
import { laySheet } from './support/sheets';
import { test } from './support/test';

/** Masks: where things stand, by rules and by the brush, read back out of the exported rows. */

const panel = (page: Page) => page.getByRole('group', { name: 'Only where' });

/** A plane of twelve by eight metres with tufts all over it. */
async function tufts(page: Page, apart = '0.5'): Promise<Row[]> {
  await newScene(page);
  await make(page, 'Plane', { Width: '12', Depth: '8' });
  await takeProps(page, 'Grass tuft');
  await choose(page, 'New arrangement', 'Over Plane');
  await hang(page, 'Grass tuft');
  const spread = await openStep(page, 'Spread');
  await type(spread.getByRole('textbox', { name: 'At least apart' }), apart);
  return rows(page);
}

test('a mask thins a scatter out: begun by a plain name, its ends typed, turned over, off, as the rows tell', async ({
  page,
}) => {
  const all = await tufts(page);
  await panel(page).getByRole('button', { name: 'New mask for only where' }).click();
  await page.getByRole('menuitem', { name: 'Along u' }).click();
  await settled(page);
  const thin = await rows(page);
  // Half of them in all, from none in the west to all in the east.
  expect(Math.abs(thin.length / all.length - 0.5)).toBeLessThan(0.12);
  expect(all.map((r) => r.slot)).toEqual(expect.arrayContaining(thin.map((r) => r.slot)));
  await expect(page.getByText(`It leaves ${thin.length} of ${all.length} places.`)).toBeVisible();

  await page.getByRole('button', { name: 'Edit the mask of only where' }).click();
  await expect(page.getByLabel('Name of the mask')).toHaveValue('Along u');
  const layer = page.getByRole('group', { name: 'u', exact: true });
  await type(layer.getByRole('textbox', { name: 'u, beginning' }), '0.75');
  await type(layer.getByRole('textbox', { name: 'u, end' }), '0.75');
  await settled(page);
  const east = await rows(page);
  expect(east.map((r) => r.slot).toSorted()).toEqual(
    all
      .filter((r) => r.x >= 3)
      .map((r) => r.slot)
      .toSorted(),
  );
  await layer.getByRole('button', { name: 'Turn u over' }).click();
  await settled(page);
  expect((await rows(page)).length).toBe(all.length - east.length);
  // Its ramp by the keys: what lies between beginning and end becomes what the points say.
  await type(layer.getByRole('textbox', { name: 'u, beginning' }), '0');
  await type(layer.getByRole('textbox', { name: 'u, end' }), '1');
  await layer.getByRole('button', { name: 'Shape ramp of u' }).click();
  await type(layer.getByRole('textbox', { name: 'Ramp of u, value' }), '100');
  await settled(page);
  expect((await rows(page)).length).toBe(0);
  await expect(
    page
      .getByRole('alert')
      .or(page.getByText(/lets nothing stand here/))
      .first(),
  ).toBeVisible();
  await layer.getByRole('switch', { name: 'u' }).click();
  await settled(page);
  expect(await rows(page)).toEqual(all);
  await undo(page);
  await settled(page);
  expect((await rows(page)).length).toBe(0);
});

test('the brush: a stroke adds, Shift takes away, one step of undo each; by the keys a dab', async ({
  page,
}) => {
  const all = await tufts(page);
  await page.getByRole('button', { name: 'Top', exact: true }).click();
  await settled(page);
  await page.keyboard.press('4');
  await type(page.getByRole('textbox', { name: 'Brush radius' }), '1');
  await type(page.getByRole('textbox', { name: 'Brush softness' }), '0');
  await expect(page.getByText(/the first stroke gives it a mask/)).toBeVisible();
  const [from, to] = [await at(page, 0.4, 0.5), await at(page, 0.6, 0.5)];
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move((from.x + to.x) / 2, from.y, { steps: 6 });
  await page.mouse.move(to.x, to.y, { steps: 6 });
  await page.mouse.up();
  await settled(page);
  const stroke = await rows(page);
  expect(stroke.length).toBeGreaterThan(10);
  expect(stroke.length).toBeLessThan(all.length * 0.4);
  // What is there lies within a metre of one level line, and all within a metre of its middle is there.
  const z = (Math.min(...stroke.map((r) => r.z)) + Math.max(...stroke.map((r) => r.z))) / 2;
  const middle = (Math.min(...stroke.map((r) => r.x)) + Math.max(...stroke.map((r) => r.x))) / 2;
  expect(stroke.every((r) => Math.abs(r.z - z) <= 1.05)).toBe(true);
  const inside = all.filter((r) => Math.hypot(r.x - middle, r.z - z) < 0.8);
  expect(stroke.map((r) => r.slot)).toEqual(expect.arrayContaining(inside.map((r) => r.slot)));

  await page.keyboard.down('Shift');
  const mid = { x: (from.x + to.x) / 2, y: from.y };
  await page.mouse.move(mid.x, mid.y);
  await page.mouse.down();
  await page.mouse.up();
  await page.keyboard.up('Shift');
  await settled(page);
  const holed = await rows(page);
  expect(holed.some((r) => Math.hypot(r.x - middle, r.z - z) < 0.8)).toBe(false);
  expect(holed.length).toBeGreaterThan(4);
  await undo(page);
  expect(await rows(page)).toEqual(stroke);
  await undo(page);
  // The mask came with the first stroke, and goes with it.
  expect(await rows(page)).toEqual(all);
  await expect(page.getByText('A mask says where')).toBeVisible();

  // The keys: a larger brush, and one dab in the middle of the view.
  await page.keyboard.press('.');
  await expect(page.getByRole('textbox', { name: 'Brush radius' })).toHaveValue('1.15');
  await page.getByRole('application', { name: 'Scene' }).focus();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Enter');
  await settled(page);
  const dab = await rows(page);
  expect(dab.length).toBeGreaterThan(3);
  const across = Math.max(...dab.map((r) => r.x)) - Math.min(...dab.map((r) => r.x));
  expect(across).toBeLessThanOrEqual(2.3);
  await page.keyboard.press('Escape');
  await expect(page.getByRole('button', { name: 'Pick', exact: true })).toHaveAttribute(
    'aria-pressed',
    'true',
  );
});

/** A hard stroke of a metre about the middle of the view from above, with Shift: it takes away. */
async function takeAwayInTheMiddle(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Paint', exact: true }).click();
  await type(page.getByRole('textbox', { name: 'Brush radius' }), '1');
  await type(page.getByRole('textbox', { name: 'Brush softness' }), '0');
  await page.keyboard.down('Shift');
  const middle = await onScreen(page, [0, 0, 0]);
  await page.mouse.move(middle.x, middle.y);
  await page.mouse.down();
  await page.mouse.up();
  await page.keyboard.up('Shift');
  await settled(page);
  await page.keyboard.press('Escape');
}

test('a dab leaves gaps in a run and in a sheet, and stays on the material of a surface that moves', async ({
  page,
}) => {
  await newScene(page);
  await make(page, 'Plane', { Width: '12', Depth: '8', Columns: '48', Rows: '32' });
  await takeProps(page, 'Bollard', 'Crate');
  await drawPath(page, [
    [0.3, 0.5],
    [0.7, 0.5],
  ]);
  await hang(page, 'Bollard');
  await takeAwayInTheMiddle(page);
  const of = async (prop: string) => (await rows(page)).filter((r) => r.prop === prop);
  const run = await of('Bollard');
  expect(run.filter((r) => r.reason === 'keep-out').length).toBeGreaterThan(1);
  for (const r of run) expect(r.reason).toBe(Math.hypot(r.x, r.z) < 1 ? 'keep-out' : '');

  await page.getByRole('button', { name: 'Crate', exact: true }).click();
  await laySheet(page, 'Plane');
  const layout = await openStep(page, 'Layout');
  await type(layout.getByLabel('Columns', { exact: true }), '12');
  await type(layout.getByLabel('Rows', { exact: true }), '8');
  await takeAwayInTheMiddle(page);
  const tiles = await of('Crate');
  expect(tiles).toHaveLength(96);
  for (const r of tiles) expect(r.reason).toBe(Math.hypot(r.x, r.z) < 1 ? 'keep-out' : '');
  // The sheet goes up and down with a wave; what is taken away is of the same cells.
  await page.getByRole('button', { name: /^Plane Surface/ }).click();
  await choose(page, 'Add a deformer', 'Wave');
  await settled(page);
  const kept = (list: Row[]) => list.map((r) => `${r.slot} ${r.reason}`);
  for (const time of ['0.4', '0.9']) {
    await setTime(page, time);
    const later = await of('Crate');
    expect(kept(later)).toEqual(kept(tiles));
    expect(Math.max(...later.map((r) => r.y))).toBeGreaterThan(0.05);
  }
});

test('a run leaves gaps where its mask is 0, and a wave moves only where its mask lets it', async ({
  page,
}) => {
  await newScene(page);
  await make(page, 'Plane', { Width: '12', Depth: '8' });
  await takeProps(page, 'Bollard');
  await drawPath(page, [
    [0.3, 0.5],
    [0.7, 0.5],
  ]);
  await hang(page, 'Bollard');
  const gaps = await openStep(page, 'Gaps');
  await choose(page, gaps.getByRole('button', { name: 'Add a keep-out' }), 'By a mask');
  const keep = gaps.getByRole('group', { name: 'Keep-out By a mask' });
  await keep.getByRole('button', { name: 'New mask for only where' }).click();
  await page.getByRole('menuitem', { name: 'Along u' }).click();
  await settled(page);
  await keep.getByRole('button', { name: 'Edit the mask of only where' }).click();
  await type(page.getByRole('textbox', { name: 'u, beginning' }), '0.5');
  await type(page.getByRole('textbox', { name: 'u, end' }), '0.5');
  await settled(page);
  const run = await rows(page);
  expect(new Set(run.map((r) => `${r.x > 0} ${r.reason || r.state}`))).toEqual(
    new Set(['true placed', 'false keep-out']),
  );
  // The run comes down on the surface, and that waves in the east alone.
  await page
    .getByRole('button', { name: /^Plane/ })
    .first()
    .click();
  await choose(page, 'Add a deformer', 'Wave');
  await page.getByRole('button', { name: 'Strength by', exact: true }).click();
  await page.getByRole('option', { name: 'Along u' }).click();
  await page
    .getByRole('button', { name: /^Bollard/ })
    .first()
    .click();
  const ground = await openStep(page, 'Ground');
  await ground.getByRole('radio', { name: 'Land' }).click();
  await settled(page);
  const landed = await rows(page);
  expect(landed.filter((r) => r.x < -0.4).every((r) => Math.abs(r.y) < 1e-6)).toBe(true);
  expect(landed.filter((r) => r.x > 0.4).some((r) => Math.abs(r.y) > 0.02)).toBe(true);
});

test('a picture says where: its right half, by uv; let down from above into its frame; noise beside it', async ({
  page,
}) => {
  const all = await tufts(page);
  await panel(page).getByRole('button', { name: 'New mask for only where' }).click();
  await page.getByRole('menuitem', { name: 'By a picture' }).click();
  await page.getByRole('button', { name: 'Edit the mask of only where' }).click();
  await expect(page.getByText(/has no picture at hand/)).toBeVisible();
  const data = Uint8Array.from({ length: 64 * 64 }, (_, i) => (i % 64 < 32 ? 0 : 255));
  await page.getByLabel('Picture of the mask').setInputFiles({
    name: 'half.png',
    mimeType: 'image/png',
    buffer: Buffer.from(encode({ width: 64, height: 64, data, channels: 1 })),
  });
  await expect(page.getByRole('button', { name: 'half.png' })).toBeVisible();
  const half = await rows(page);
  // Between pixels it runs evenly, over its edge too, since it is laid again and again.
  expect(half.filter((r) => Math.abs(r.x) > 0.2 && r.x > -5.8).every((r) => r.x > 0)).toBe(true);
  expect(Math.abs(half.length / all.length - 0.5)).toBeLessThan(0.06);
  // From above, four metres wide about the middle: its bright half is the strip from 0 to 2.
  const layer = page.getByRole('group', { name: 'Picture', exact: true });
  await layer.getByRole('radio', { name: 'From above' }).click();
  await type(layer.getByRole('textbox', { name: 'Width', exact: true }), '4');
  const strip = await rows(page);
  expect(strip.length).toBeGreaterThan(10);
  expect(strip.every((r) => r.x > -0.1 && r.x <= 2)).toBe(true);
  // With patches beside it only some of the strip are left, and in the mask that takes any, all of it and more.
  await choose(page, 'Add a layer', 'In patches');
  await settled(page);
  const some = await rows(page);
  expect(some.length).toBeLessThan(strip.length);
  expect(strip.map((r) => r.slot)).toEqual(expect.arrayContaining(some.map((r) => r.slot)));
  await page.getByRole('radio', { name: 'Any' }).click();
  expect((await rows(page)).length).toBeGreaterThan(strip.length);
});

test('the brush combs what stands there, gives it another prop, and selects it; back with Shift, and from the recipe', async ({
  page,
}) => {
  const all = await tufts(page);
  await page.getByRole('button', { name: 'Top', exact: true }).click();
  await settled(page);
  await takeProps(page, 'Boulder');
  await page.getByRole('button', { name: /^Over Plane Scatter/ }).click();
  await page.keyboard.press('4');
  await type(page.getByRole('textbox', { name: 'Brush radius' }), '1');
  await type(page.getByRole('textbox', { name: 'Brush softness' }), '0');
  const [west, east] = [await onScreen(page, [-3, 0, 0]), await onScreen(page, [3, 0, 0])];
  const stroke = async () => {
    await page.mouse.move(west.x, west.y);
    await page.mouse.down();
    await page.mouse.move((west.x + east.x) / 2, west.y, { steps: 6 });
    await page.mouse.move(east.x, east.y, { steps: 6 });
    await page.mouse.up();
    await settled(page);
  };
  const isUnder = (r: Row) => Math.hypot(r.x - Math.min(3, Math.max(-3, r.x)), r.z) < 0.9;
  const isFar = (r: Row) => Math.hypot(r.x - Math.min(3, Math.max(-3, r.x)), r.z) > 1.1;

  await pickOption(page, page, 'Paints', 'Which way');
  await stroke();
  // Tufts come with any turn, about the way that they are combed; what turns them by chance is the same as before.
  const turned = (a: Row, b: Row) => {
    const [f, g] = [axes(a).front, axes(b).front];
    return (Math.atan2(f[0] * g[2] - f[2] * g[0], f[0] * g[0] + f[2] * g[2]) * 180) / Math.PI;
  };
  const combed = await rows(page);
  expect(combed.map((r) => r.slot)).toEqual(all.map((r) => r.slot));
  combed.forEach((r, i) => {
    // From south, which they lie to, to east.
    if (isUnder(r)) expect(turned(all[i], r)).toBeCloseTo(-90, 1);
    else if (isFar(r)) expect(turned(all[i], r)).toBeCloseTo(0, 6);
  });

  await pickOption(page, page, 'Paints', 'Which prop');
  await pickOption(page, page, 'Prop of the brush', 'Boulder');
  await stroke();
  const given = await rows(page);
  const boulders = (list: Row[]) => list.filter((r) => r.prop === 'Boulder');
  expect(boulders(given).length).toBeGreaterThan(20);
  given.forEach((r) => {
    if (isUnder(r)) expect(r.prop).toBe('Boulder');
    else if (isFar(r)) expect(r.prop).toBe('Grass tuft');
  });
  await page.keyboard.down('Shift');
  await stroke();
  await page.keyboard.up('Shift');
  expect(boulders(await rows(page))).toEqual([]);
  await undo(page);
  expect(boulders(await rows(page)).length).toBe(boulders(given).length);

  await pickOption(page, page, 'Paints', 'Selection');
  await stroke();
  const count = given.filter(isUnder).length;
  const said = await page.getByText(/^\d+ props$/).innerText();
  expect(parseInt(said)).toBeGreaterThanOrEqual(count);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Delete');
  await settled(page);
  const left = (await rows(page)).filter((r) => r.state === 'placed');
  expect(left.some(isUnder)).toBe(false);
  expect(left.filter(isFar).length).toBe(given.filter(isFar).length);

  // All of it back from the recipe.
  await page.keyboard.press('Escape');
  const hand = await openStep(page, 'By hand');
  await expect(hand.getByText('Combed by 1 stroke of the brush')).toBeVisible();
  for (const _ of ['turn', 'props']) await hand.getByRole('button', { name: 'Take back' }).first().click();
  await hand.getByRole('button', { name: 'Let go of all' }).click();
  await settled(page);
  expect(await rows(page)).toEqual(all);

  // Combed by the keys: from one place to the next.
  await page.keyboard.press('4');
  await pickOption(page, page, 'Paints', 'Which way');
  await page.getByRole('application', { name: 'Scene' }).focus();
  for (const key of ['ArrowRight', 'Enter', 'ArrowRight', 'ArrowRight', 'ArrowRight', 'ArrowRight', 'Enter'])
    await page.keyboard.press(key);
  await settled(page);
  const keyed = (await rows(page)).map((r, i) => turned(all[i], r));
  expect(keyed.filter((d) => Math.abs(d + 90) < 1).length).toBeGreaterThan(3);
});

test('faces of a surface, picked in the scene, are what a layer measures from; Shift takes a single one', async ({
  page,
}) => {
  await newScene(page);
  await make(page, 'Rounded box', { Width: '6', Height: '2', Depth: '4' });
  await takeProps(page, 'Boulder');
  await choose(page, 'New arrangement', /^Over /);
  await hang(page, 'Boulder');
  const spread = await openStep(page, 'Spread');
  await type(spread.getByRole('textbox', { name: 'At least apart' }), '0.5');
  const all = await rows(page);
  await panel(page).getByRole('button', { name: 'New mask for only where' }).click();
  await page.getByRole('menuitem', { name: 'Away from paths' }).click();
  await page.getByRole('button', { name: 'Edit the mask of only where' }).click();
  const layer = page.getByRole('group', { name: 'Distance', exact: true });
  await layer.getByRole('radio', { name: 'Faces' }).click();
  await expect(page.getByText(/names nothing/).first()).toBeVisible();
  await type(layer.getByRole('textbox', { name: 'Distance, beginning' }), '0.3');
  await type(layer.getByRole('textbox', { name: 'Distance, end' }), '0.3');
  await layer.getByRole('button', { name: 'Pick faces' }).click();
  const top = Math.max(...all.map((r) => r.y));
  const place = await onScreen(page, [0, top, 0]);
  await page.mouse.click(place.x, place.y);
  await settled(page);
  await expect(layer.getByText(/^[1-9]\d* faces?$/)).toBeVisible();
  // Nothing is left on the top, nor near it.
  const left = await rows(page);
  expect(left.length).toBeGreaterThan(10);
  expect(left.every((r) => r.y < top - 0.25)).toBe(true);
  expect(all.filter((r) => r.y < top - 0.6).length).toBeLessThanOrEqual(left.length);
  await page.mouse.click(place.x, place.y);
  await settled(page);
  await expect(layer.getByText('0 faces')).toBeVisible();
  await page.keyboard.down('Shift');
  await page.mouse.click(place.x, place.y);
  await page.keyboard.up('Shift');
  await expect(layer.getByText('1 face', { exact: true })).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(layer.getByRole('button', { name: 'Pick faces' })).toBeVisible();
});
