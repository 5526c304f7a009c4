import { expect, type Page } from '@playwright/test';
import { execFile } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { decode } from 'fast-png';
import { unzipSync } from 'fflate';
import {
  hang,
  make,
  newScene,
  onScreen,
  pathByNumbers,
  pickOption,
  scene,
  sendOut,
  settled,
  takeProps,
  type,
} from './support/app';
import { command } from './support/pixels';
import { drawnTest as test } from './support/test';

/** Still pictures: made while one works on, by the page and from a shell, and what stands in their files. */

const panelOf = (page: Page) => page.getByRole('dialog', { name: 'Still picture' });

/** One crate on a plane, in the middle of a square frame, from ten metres. */
async function crateInFrame(page: Page): Promise<void> {
  await newScene(page);
  await make(page, 'Plane', { Width: '6', Depth: '6', Columns: '1', Rows: '1' });
  await takeProps(page, 'Crate');
  await pathByNumbers(page, [
    [-1, 0],
    [1, 0],
  ]);
  await hang(page, 'Crate');
  await page.getByRole('button', { name: 'Free', exact: true }).click();
  await command(page, 'bookmark create shot');
  const panel = page.getByRole('dialog', { name: 'Viewpoints' });
  await type(panel.getByLabel('Focal length, mm'), '24');
  await pickOption(page, panel, 'Frame', 'Square');
  for (const [k, v] of [0, 3, 10].entries()) await type(panel.getByLabel(`Eye ${'XYZ'[k]}`), String(v));
  for (const [k, v] of [0, 0, 0].entries()) await type(panel.getByLabel(`Aim ${'XYZ'[k]}`), String(v));
  await settled(page);
}

async function made(page: Page): Promise<{ name: string; bytes: Buffer }> {
  const file = page.waitForEvent('download', { timeout: 100_000 });
  await panelOf(page)
    .getByRole('button', { name: /^Make / })
    .click();
  const got = await file;
  return { name: got.suggestedFilename(), bytes: readFileSync(await got.path()) };
}

test('a picture of a viewpoint with nothing behind it, and depth, directions and a mask beside it', async ({
  page,
}) => {
  await crateInFrame(page);
  // Boxes belong to their arrangement as the crates do that they stand for.
  await page
    .getByRole('region', { name: 'Contents' })
    .getByRole('button', { name: /^Crate Run/ })
    .click();
  await command(page, 'as boxes');
  await settled(page);
  await command(page, 'turntable');
  const panel = panelOf(page);
  await panel.getByRole('switch', { name: 'The view as it is' }).click();
  await panel.getByRole('switch', { name: 'View', exact: true }).click();
  await type(panel.getByLabel('Longer side, pixels'), '200');
  await pickOption(page, panel, 'Frames', '16, a first look');
  await panel.getByRole('radio', { name: 'None' }).click();
  await panel.getByRole('switch', { name: 'Depth, mask and directions' }).click();
  const { name, bytes } = await made(page);
  expect(name).toMatch(/\.zip$/);
  const files = unzipSync(bytes);
  expect(Object.keys(files)).toEqual([
    'view.png',
    'view-depth.png',
    'view-normals.png',
    'view-mask.png',
    'view-beside.csv',
  ]);
  const [picture, depth, normals, mask] = ['', '-depth', '-normals', '-mask'].map((n) =>
    decode(files[`view${n}.png`]),
  );
  expect([picture.width, picture.height, picture.channels]).toEqual([200, 200, 4]);
  // Above the plane there is nothing; the middle is the path's, on the plane or on a crate.
  const at = (x: number, y: number) => y * 200 + x;
  expect(picture.data[at(100, 10) * 4 + 3]).toBe(0);
  expect(picture.data[at(100, 112) * 4 + 3]).toBe(255);
  const csv = new TextDecoder().decode(files['view-beside.csv']);
  const [near, far] = [/nearest \(white\),([\d.]+)/, /farthest,([\d.]+)/].map((r) => Number(r.exec(csv)![1]));
  // The plane's near edge is at z = 3: depth goes along the way that one looks.
  const [ey, ez] = [3, 10];
  const deep = (z: number) => (ez - z) * (ez / Math.hypot(ey, ez)) + ey * (ey / Math.hypot(ey, ez));
  expect(Math.abs(near / deep(3) - 1)).toBeLessThan(0.02);
  expect(Math.abs(far / deep(-3) - 1)).toBeLessThan(0.02);
  // A pixel of the plane in front of the crates, by the ray through it.
  const row = 112;
  const slope = (1 - ((row + 0.5) / 200) * 2) * 0.5;
  const [f, u] = [
    [-ey / Math.hypot(ey, ez), -ez / Math.hypot(ey, ez)],
    [ez / Math.hypot(ey, ez), -ey / Math.hypot(ey, ez)],
  ];
  const t = -ey / (f[0] + slope * u[0]);
  const value = depth.data[at(100, row)];
  expect(Math.abs(near + ((65535 - value) / 65534) * (far - near) - t)).toBeLessThan(0.05);
  expect([...normals.data.slice(at(100, row) * 3, at(100, row) * 3 + 3)]).toEqual([128, 255, 128]);
  expect([...mask.data.slice(at(100, row) * 3, at(100, row) * 3 + 3)]).toEqual([0, 0, 0]);
  const hex = /mask,"Crate",#(\w{6})/.exec(csv)![1];
  const dyed = Array.from({ length: 200 * 200 }, (_, p) => [...mask.data.slice(p * 3, p * 3 + 3)]).filter(
    (c) => c.map((v) => v.toString(16).padStart(2, '0')).join('') === hex,
  );
  expect(dyed.length).toBeGreaterThan(300);
});

test('a turn as numbered pictures; one is cancelled while one works on, and nothing is lost', async ({
  page,
}) => {
  await crateInFrame(page);
  await command(page, 'turntable');
  const panel = panelOf(page);
  await panel.getByRole('switch', { name: 'The view as it is' }).click();
  await panel.getByRole('switch', { name: 'View', exact: true }).click();
  await type(panel.getByLabel('Longer side, pixels'), '80');
  await pickOption(page, panel, 'Frames', '16, a first look');
  await panel.getByRole('radio', { name: 'Plain' }).click();
  await panel.getByRole('radio', { name: 'A turn' }).click();
  await type(panel.getByLabel('Pictures', { exact: true }), '4');
  const files = unzipSync((await made(page)).bytes);
  expect(Object.keys(files)).toEqual(['view-0000.png', 'view-0001.png', 'view-0002.png', 'view-0003.png']);
  // Behind everything the colour as it was chosen.
  const corner = [...decode(files['view-0000.png']).data.slice(0, 3)];
  expect(corner).toEqual([0xfb, 0xf8, 0xf1]);
  // Half a turn on, a row of crates is seen from behind: the same to the left and right, but for the light.
  const dark = (name: string) => {
    const { data, channels } = decode(files[name]);
    let sum = 0;
    for (let i = 0; i < data.length; i += channels) sum += data[i];
    return sum / (data.length / channels);
  };
  expect(dark('view-0000.png')).not.toBeCloseTo(dark('view-0002.png'), 1);

  await panel.getByRole('radio', { name: 'One', exact: true }).click();
  // From the top, without perspective: as much of the picture is the plane as of the view.
  await page.getByRole('button', { name: 'Top', exact: true }).click();
  await settled(page);
  await panel.getByRole('switch', { name: 'View', exact: true }).click();
  await panel.getByRole('switch', { name: 'The view as it is' }).click();
  await panel.getByRole('radio', { name: 'None' }).click();
  await type(panel.getByLabel('Longer side, pixels'), '300');
  const plan = decode((await made(page)).bytes);
  const [low, high] = [await onScreen(page, [-3, 0, -3]), await onScreen(page, [3, 0, 3])];
  const view = (await scene(page).boundingBox())!;
  let solid = 0;
  for (let i = 3; i < plan.data.length; i += 4) solid += plan.data[i] / 255;
  const share = ((high.x - low.x) * (high.y - low.y)) / (view.width * view.height);
  expect(Math.abs(solid / (plan.width * plan.height) / share - 1)).toBeLessThan(0.03);
  // More than there may be of a row is said before it begins.
  await panel.getByRole('radio', { name: 'A time' }).click();
  await type(panel.getByLabel('To second'), '400');
  await expect(panel.getByText(/That would be 4,801 pictures; 2,000 are the most/)).toBeVisible();
  await expect(panel.getByRole('button', { name: /^Make / })).toBeDisabled();
  await panel.getByRole('radio', { name: 'One', exact: true }).click();
  await type(panel.getByLabel('Longer side, pixels'), '4000');
  await panel.getByRole('button', { name: 'Make the picture' }).click();
  await expect(panel.getByRole('progressbar', { name: 'Progress of the picture' })).toBeVisible();
  await panel.getByRole('button', { name: 'Cancel' }).click();
  await expect(panel.getByText('Cancelled. Nothing was changed.')).toBeVisible();
  await expect(panel.getByRole('button', { name: 'Make the picture' })).toBeEnabled();
});

test('from a shell: the same picture to the byte, twice; a viewpoint that is not there is named', async ({
  page,
}) => {
  test.slow();
  await crateInFrame(page);
  const folder = mkdtempSync(join(tmpdir(), 'still-'));
  const file = join(folder, 'crate.clothesline');
  writeFileSync(file, await sendOut(page, 'clothesline'));
  const run = (...more: string[]) =>
    promisify(execFile)(process.execPath, ['--import', 'tsx', 'src/cli/main.ts', file, ...more]);
  const how = ['--view', 'View', '--size', '160', '--frames', '4'];
  await run('--out', join(folder, 'a.png'), ...how);
  await run('--out', join(folder, 'b.png'), ...how);
  const [a, b] = ['a.png', 'b.png'].map((n) => readFileSync(join(folder, n)));
  expect(a.equals(b)).toBe(true);
  expect(decode(a)).toMatchObject({ width: 160, height: 160, channels: 3 });
  const failed = await run('--out', join(folder, 'c.png'), '--view', 'Nowhere').catch(
    (e: { stderr: string }) => e,
  );
  expect(failed.stderr).toContain('The scene has no viewpoint “Nowhere”. It has “View”.');
});
