import { expect, type Page } from '@playwright/test';
import { choose, make, newScene, onScreen, pickOption, settled, type, undo } from './support/app';
import { command, developed, lightOf, lightOfStill, pixels, type Rgb } from './support/pixels';
import { ownTest as test } from './support/test';

/** What is around a scene, and how its picture is finished: by pixels of light, against closed forms. */

test.use({ drawn: true });

const panelOf = (page: Page) => page.getByRole('dialog', { name: 'Light' });

/** A panorama of light, plain as its format allows: four bytes a pixel. @param lightOf of a column, from 0 to below 1 */
function hdr(width: number, lightOf: (u: number) => number[]): Buffer {
  const height = width / 2;
  const head = `#?RADIANCE\nFORMAT=32-bit_rle_rgbe\n\n-Y ${height} +X ${width}\n`;
  const row = Buffer.alloc(width * 4);
  for (let x = 0; x < width; x++) {
    const light = lightOf((x + 0.5) / width);
    const exponent = Math.ceil(Math.log2(Math.max(...light, 1e-9)) + 1e-9);
    light.forEach((v, k) => (row[x * 4 + k] = Math.min(255, Math.floor((v * 256) / 2 ** exponent))));
    row[x * 4 + 3] = exponent + 128;
  }
  return Buffer.concat([Buffer.from(head, 'latin1'), ...Array<Buffer>(height).fill(row)]);
}

/** A white plane and a square viewpoint that sees some of it, and some of what is behind it. */
async function planeInFrame(page: Page, aim = [0, 0.6, 0]): Promise<void> {
  await newScene(page);
  await make(page, 'Plane', { Width: '8', Depth: '8', Columns: '1', Rows: '1' });
  await choose(page, 'New material', 'Chalk');
  const materials = page.getByRole('dialog', { name: 'Materials' });
  await materials.getByLabel('Colour of the material').fill('#ffffff');
  await page.getByRole('button', { name: 'Free', exact: true }).click();
  await command(page, 'bookmark create shot');
  const views = page.getByRole('dialog', { name: 'Viewpoints' });
  await type(views.getByLabel('Focal length, mm'), '24');
  await pickOption(page, views, 'Frame', 'Square');
  for (const [k, v] of [0, 1.2, 5].entries()) await type(views.getByLabel(`Eye ${'XYZ'[k]}`), String(v));
  for (const [k, v] of aim.entries()) await type(views.getByLabel(`Aim ${'XYZ'[k]}`), String(v));
  await command(page, 'sun sky lighting');
  await panelOf(page).getByRole('button', { name: 'Day', exact: true }).click();
}

async function panorama(page: Page, file: Buffer): Promise<void> {
  const panel = panelOf(page);
  await panel.getByRole('radio', { name: 'Panorama' }).click();
  await panel
    .getByLabel('Picture of all around')
    .setInputFiles({ name: 'around.hdr', mimeType: 'image/vnd.radiance', buffer: file });
  await expect(panel.getByRole('button', { name: 'around.hdr' })).toBeVisible();
}

/** The material of the plane as another one. */
async function shines(page: Page, roughness: string, metal: string): Promise<void> {
  await command(page, 'shader texture');
  const materials = page.getByRole('dialog', { name: 'Materials' });
  const name = materials.getByLabel('Name');
  if (!(await name.isVisible())) await materials.getByRole('button', { name: 'Chalk', exact: true }).click();
  await type(materials.getByLabel('Roughness'), roughness);
  await type(materials.getByLabel('Metal'), metal);
}

const near = (seen: number[], wanted: number[], by: number) =>
  wanted.forEach((v, k) => expect(Math.abs(seen[k] / v - 1)).toBeLessThan(by));

/** A pixel of the plane in the view, beside its handles. */
async function onPlane(page: Page): Promise<Rgb> {
  await settled(page);
  const { x, y } = await onScreen(page, [-1.5, 0, 2]);
  return (await pixels(page, x, y, 1, 1))[0];
}

const SIZE = 48;
const SKY: [number, number] = [24, 4];
const PLANE: [number, number] = [24, 36];

test('in light of one brightness from everywhere a white plane is as bright as what is behind it, and so is a mirror', async ({
  page,
}) => {
  await planeInFrame(page);
  const panel = panelOf(page);
  await type(panel.getByRole('region', { name: 'Sun' }).getByLabel('Strength', { exact: true }), '0');
  const light = [0.5, 0.25, 0.125];
  await panorama(
    page,
    hdr(32, () => light),
  );
  const matt = await lightOfStill(page, 'View', SIZE);
  near(matt.at(...SKY), light, 0.01);
  near(matt.at(...PLANE), light, 0.02);
  await shines(page, '0', '100');
  near((await lightOfStill(page, 'View', SIZE)).at(...PLANE), light, 0.02);
  // The view itself, at once and without shadows.
  await shines(page, '100', '0');
  await command(page, 'sun sky lighting');
  await page.getByRole('button', { name: 'Top', exact: true }).click();
  const pixel = await onPlane(page);
  expect(Math.abs(lightOf(pixel) / light[0] - 1)).toBeLessThan(0.03);
  // It gives no light any more: only what is mirrored of it is left.
  await panel.getByRole('switch', { name: 'Gives the light' }).click();
  await type(panel.getByRole('region', { name: 'Sky' }).getByLabel('Brightness', { exact: true }), '0');
  expect((await lightOfStill(page, 'View', SIZE)).at(...PLANE)[0]).toBeLessThan(0.01);
});

test('a panorama is turned clockwise, and not seen where that is not wanted; what is none is told so', async ({
  page,
}) => {
  const north: [number, number, number] = [0, 1.2, -5];
  await planeInFrame(page, north);
  const panel = panelOf(page);
  // By quarters from −X on: its middle column looks to +X, three quarters are +Z, one is −Z.
  const quarters = [
    [0.9, 0.1, 0.1],
    [0.1, 0.9, 0.1],
    [0.1, 0.1, 0.9],
    [0.9, 0.9, 0.1],
  ];
  await panorama(
    page,
    hdr(64, (u) => quarters[Math.floor(((u + 0.125) % 1) * 4)]),
  );
  const seen = async () => (await lightOfStill(page, 'View', SIZE)).at(...SKY);
  near(await seen(), quarters[1], 0.02);
  await type(panel.getByLabel('Turned', { exact: true }), '90');
  near(await seen(), quarters[0], 0.02);
  await type(panel.getByLabel('Brightness', { exact: true }).last(), '50');
  near(
    await seen(),
    quarters[0].map((v) => v / 2),
    0.02,
  );
  await undo(page);
  await undo(page);
  near(await seen(), quarters[1], 0.02);
  await panel.getByRole('switch', { name: 'Is seen' }).click();
  const [red, green] = await seen();
  expect(Math.abs(red / green - 1)).toBeLessThan(0.3);
  for (const [name, said] of [
    ['none.hdr', /“none.hdr” is neither a Radiance picture/],
    ['cut.hdr', /“cut.hdr” is damaged or cut short/],
  ] as const) {
    const buffer = name === 'none.hdr' ? Buffer.from('nothing') : hdr(64, () => [1, 1, 1]).subarray(0, 200);
    await panel.getByLabel('Picture of all around').setInputFiles({ name, mimeType: '', buffer });
    await expect(page.getByText(said)).toBeVisible();
    await expect(panel.getByRole('button', { name: 'around.hdr' })).toBeVisible();
  }
});

test('a measured exposure shows a weak light as a strong one; the number is on top of it', async ({
  page,
}) => {
  await planeInFrame(page);
  const panel = panelOf(page);
  await panorama(
    page,
    hdr(32, () => [0.4, 0.4, 0.4]),
  );
  await type(panel.getByRole('region', { name: 'Sun' }).getByLabel('Strength', { exact: true }), '0');
  const bright = panel.getByLabel('Brightness', { exact: true }).last();
  const plane = async () => (await lightOfStill(page, 'View', SIZE)).at(...PLANE)[0];
  const whole = await plane();
  await type(bright, '10');
  expect(Math.abs((await plane()) / whole / 0.1 - 1)).toBeLessThan(0.02);
  await panel.getByRole('switch', { name: 'Measure the exposure' }).click();
  const weak = await plane();
  await type(bright, '100');
  const strong = await plane();
  expect(Math.abs(weak / strong - 1)).toBeLessThan(0.01);
  await type(panel.getByLabel('Exposure', { exact: true }), '2');
  expect(Math.abs((await plane()) / strong / 2 - 1)).toBeLessThan(0.01);
  await type(panel.getByLabel('Exposure', { exact: true }), '1');
  // The view measures when nothing moves: it comes to the same, however weak the light.
  await page.getByRole('button', { name: 'Top', exact: true }).click();
  const seen = async () => lightOf(await onPlane(page));
  let before = 0;
  await expect
    .poll(async () => Math.abs(before / (before = await seen()) - 1), { intervals: [600] })
    .toBeLessThan(0.01);
  await type(bright, '10');
  await expect.poll(async () => Math.abs((await seen()) / before - 1)).toBeLessThan(0.04);
});

test('a halo spreads what is brighter than white: all of it, in the picture that is sent out as in the view', async ({
  page,
}) => {
  await planeInFrame(page, [0, 0, 0]);
  const panel = panelOf(page);
  await panel.getByRole('button', { name: 'Night', exact: true }).click();
  await choose(page, 'Put in a light', 'Point');
  const at = panel.getByRole('group', { name: 'Light at' });
  for (const [k, v] of [0, 1, 0].entries()) await type(at.getByLabel(`Light at ${'XYZ'[k]}`), String(v));
  await panel.getByRole('switch', { name: 'Seen' }).click();
  const plain = await lightOfStill(page, 'View', 96);
  await type(panel.getByLabel('Halo', { exact: true }), '40');
  await type(panel.getByLabel('Reach of the halo', { exact: true }), '20');
  const spread = await lightOfStill(page, 'View', 96);
  const sum = (of: (k: number) => number) =>
    Array.from(plain.data, (_, k) => (k % 4 === 3 ? 0 : of(k))).reduce((a, b) => a + b, 0);
  const more = sum((k) => spread.data[k] - plain.data[k]);
  const bright = sum((k) => Math.max(0, plain.data[k] - 1));
  expect(bright).toBeGreaterThan(5);
  expect(Math.abs(more / bright / 0.4 - 1)).toBeLessThan(0.05);

  // In the view, beside the light, where it was dark before.
  await command(page, 'soft shadows');
  await command(page, 'sun sky lighting');
  await developed(page);
  const around = async () => {
    const place = await page.evaluate(() => window.clothesline!.onScreen!([0, 1, 0]));
    return (await pixels(page, place.x, place.y - 26, 3, 3))[4][0];
  };
  const lit = await around();
  await type(panel.getByLabel('Halo', { exact: true }), '0');
  await developed(page);
  expect(lit).toBeGreaterThan((await around()) + 0.02);
});
