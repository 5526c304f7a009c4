import { expect, type Page } from '@playwright/test';
import {
  at,
  hang,
  make,
  newScene,
  onScreen,
  openStep,
  pathByNumbers,
  settled,
  type,
  openQuay,
} from './support/app';
import { glbOf } from './support/glb';
import { command, develop, developed, lightOf, picture, pixels, type Rgb } from './support/pixels';
import { drawnTest as test } from './support/test';

/** The picture that develops at rest, by its pixels against closed forms. */

test.use({ density: 1 });
// One after the other: drawn side by side without a graphics card each takes minutes.
test.describe.configure({ mode: 'default' });

const lin = (hex: number) => ((hex / 255 + 0.055) / 1.055) ** 2.4;
/** What falls on level ground in the open, red: the sun at its height, and the whole dome. */
const SUN_RED = lin(0xff) * 2.1 * (1.25 / Math.hypot(0.9, 1.25, 0.35));
const SKY_RED = lin(0xee) * 1.75;
/** A block standing on the middle of a wide plane, or on bare ground: so wide along X, so high, so deep along Z. */
async function standing(page: Page, [wide, high, deep]: Rgb, on: 'plane' | 'bare' = 'plane'): Promise<void> {
  await newScene(page);
  await page.getByRole('button', { name: 'Bring in', exact: true }).click();
  const corners = Array.from({ length: 8 }, (_, i) => [
    (i & 1 ? 0.5 : -0.5) * wide,
    i & 2 ? high : 0,
    (i & 4 ? 0.5 : -0.5) * deep,
  ]);
  const faces = [
    [0, 2, 3, 1],
    [4, 5, 7, 6],
    [0, 1, 5, 4],
    [2, 6, 7, 3],
    [0, 4, 6, 2],
    [1, 3, 7, 5],
  ];
  const places = faces.flatMap((f) => f.flatMap((i) => corners[i]));
  const order = faces.flatMap((_, f) => [0, 1, 2, 0, 2, 3].map((k) => f * 4 + k));
  await page.getByLabel('File to bring in').setInputFiles({
    name: 'block.glb',
    mimeType: 'model/gltf-binary',
    buffer: Buffer.from(await glbOf(places, order)),
  });
  await page.getByRole('dialog').getByRole('button', { name: 'Put in the basket' }).click();
  await pathByNumbers(page, [
    [0, -1],
    [0, 1],
  ]);
  await hang(page, 'block');
  const spacing = await openStep(page, 'Spacing');
  await spacing.getByRole('radio', { name: 'Count' }).click();
  await type(spacing.getByRole('textbox', { name: 'Count' }), '1');
  await spacing.getByRole('radio', { name: 'Half a pitch in' }).click();
  if (on === 'plane') await make(page, 'Plane', { Width: '80', Depth: '80', Columns: '1', Rows: '1' });
  await page
    .getByRole('region', { name: 'Contents' })
    .getByRole('button', { name: /^block Run/ })
    .click();
  await page.getByRole('button', { name: 'Hide Path', exact: true }).click();
  await page.getByRole('button', { name: 'Top', exact: true }).click();
  await settled(page);
}

/** Goes near the middle of the plane, until a metre of it takes so many pixels. */
async function closer(page: Page, pixels: number): Promise<void> {
  await expect(async () => {
    // Looked for again at each turn: of a window that was just made smaller the view may not know yet.
    const { x, y } = await onScreen(page, [0, 0, 0]);
    if ((await onScreen(page, [1, 0, 0])).x - x < pixels) {
      await page.mouse.move(x, y);
      await page.mouse.wheel(0, -200);
      await settled(page);
    }
    expect((await onScreen(page, [1, 0, 0])).x - (await onScreen(page, [0, 0, 0])).x).toBeGreaterThanOrEqual(
      pixels,
    );
  }).toPass({ intervals: [0] });
}

test('at a wall’s foot half of the dome is left, and no sun; in the open both', async ({ page }) => {
  await standing(page, [0.4, 12, 30]);
  await develop(page);
  await closer(page, 34);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await developed(page);
  const { x, y } = await onScreen(page, [0.2 + 0.12, 0, 0]);
  const one = await onScreen(page, [1.32, 0, 0]);
  // A pixel is no more than three centimetres.
  expect(one.x - x).toBeGreaterThan(33);
  const light = async () => {
    const all = (await pixels(page, x, y, 2, 40)).map(lightOf);
    return all.reduce((sum, v) => sum + v, 0) / all.length;
  };
  const foot = await light();
  await page.getByRole('button', { name: 'Hide block', exact: true }).click();
  // While its light is added up even the open changes, until all of it is there.
  await settled(page);
  await developed(page);
  const share = foot / (await light());
  // Over the top of the wall a hair more than half is seen.
  const dome = (1 + 0.01 / Math.hypot(1, 0.01)) / 2;
  const expected = (dome * SKY_RED) / (SUN_RED + SKY_RED);
  expect(share / expected).toBeGreaterThan(0.98);
  expect(share / expected).toBeLessThan(1.02);
});

/** Of a disc that is cut by a line, the share beyond it. @param d how far its middle is beyond, of its radius */
const beyond = (d: number): number =>
  d <= -1 ? 0 : d >= 1 ? 1 : 0.5 + (d * Math.sqrt(1 - d * d) + Math.asin(d)) / Math.PI;

test('the shadow of a block is as soft as the sun is wide', async ({ page }) => {
  const high = 4;
  await standing(page, [0.4, high, 16]);
  await develop(page);
  await closer(page, 31);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await settled(page);
  // The edge that casts its end is the one on the far side from the sun, at the top.
  const [sx, sy, sz] = [0.9, 1.25, 0.35];
  const end = 0.2 + (high * sx) / sy;
  const [from, to] = [await onScreen(page, [end - 0.4, 0, 0]), await onScreen(page, [end + 0.4, 0, 0])];
  const perMetre = (to.x - from.x) / 0.8;
  expect(perMetre).toBeGreaterThan(30);
  /** Light along the row across the shadow's end, the mean of some pixels beside each other along it. */
  const row = async () => {
    const [wide, tall] = [Math.round(to.x - from.x), 24];
    const all = (await pixels(page, (from.x + to.x) / 2, from.y, wide, tall)).map(lightOf);
    return Array.from({ length: wide }, (_, x) =>
      Array.from({ length: tall }, (_, y) => all[y * wide + x] / tall).reduce((a, b) => a + b),
    );
  };
  await developed(page);
  const shaded = await row();
  await page.getByRole('button', { name: 'Hide block', exact: true }).click();
  // On a busy machine a frame that is not developed may be a rough one.
  await settled(page);
  await developed(page);
  const open = await row();
  const places = shaded.map((_, i) => end - 0.4 + (i + 0.5) / perMetre);
  // What is seen of the sun: the rest of the light is the part of the dome over the block.
  const seen = places.map((x, i) => {
    const dome = (1 + (x - 0.2) / Math.hypot(x - 0.2, high)) / 2;
    return ((shaded[i] / open[i]) * (SUN_RED + SKY_RED) - dome * SKY_RED) / SUN_RED;
  });
  const long = Math.hypot(sx, sy, sz);
  const closed = (x: number, radiusDeg: number): number => {
    const off = Math.hypot(high, x - 0.2);
    return beyond(Math.asin((-sx * high + sy * (x - 0.2)) / off / long) / ((radiusDeg * Math.PI) / 180));
  };
  let best = { off: Infinity, radius: 0 };
  for (let radius = 0.7; radius < 1.3; radius += 0.01)
    for (let shift = -0.08; shift <= 0.08; shift += 0.01) {
      const off = places.reduce((sum, x, i) => sum + (closed(x - shift, radius) - seen[i]) ** 2, 0);
      if (off < best.off) best = { off, radius };
    }
  expect(best.radius).toBeGreaterThan(0.95);
  expect(best.radius).toBeLessThan(1.05);
});

test('bare ground is a fifth darker without sun; developed also by what hides the sky: by half of that at a wall’s foot', async ({
  page,
}) => {
  await standing(page, [0.4, 12, 30], 'bare');
  await page.setViewportSize({ width: 800, height: 500 });
  await closer(page, 34);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await settled(page);
  // The sun comes from the left.
  const [shaded, sunny] = [
    await onScreen(page, [0.2 + 0.5, 0, 0.5]),
    await onScreen(page, [-0.2 - 0.12, 0, 0.5]),
  ];
  const light = async ({ x, y }: { x: number; y: number }) => {
    const all = (await pixels(page, x, y, 2, 20)).map(lightOf);
    return all.reduce((sum, v) => sum + v, 0) / all.length;
  };
  /** Shares of the light that is there without the wall. */
  const shares = async (done: (page: Page) => Promise<void>) => {
    await done(page);
    const there = [await light(shaded), await light(sunny)];
    await page.getByRole('button', { name: 'Hide block', exact: true }).click();
    await settled(page);
    await done(page);
    const alone = [await light(shaded), await light(sunny)];
    await page.getByRole('button', { name: 'Show block', exact: true }).click();
    await settled(page);
    return there.map((v, i) => v / alone[i]);
  };
  // From above a tenth of what is seen is the paper below the cloth.
  const off = (share: number, lit: number) => Math.abs(share - (0.1 + 0.9 * lit));
  const atOnce = await shares(settled);
  expect(off(atOnce[0], 1 - 0.22)).toBeLessThan(0.02);
  expect(off(atOnce[1], 1)).toBeLessThan(0.02);
  await develop(page);
  const later = await shares(developed);
  expect(off(later[0], 1 - 0.22)).toBeLessThan(0.02);
  expect(off(later[1], 1 - 0.22 / 2)).toBeLessThan(0.02);
});

test('edges become smooth by themselves, any touch begins it anew, and it can be turned off', async ({
  page,
}) => {
  await openQuay(page);
  /** Edges that are hard have few colours, smooth ones many. */
  const colours = async () => {
    const { x, y } = await at(page, 0.5, 0.5);
    return new Set((await pixels(page, x, y, 240, 80)).map(String)).size;
  };
  const isDeveloped = () => page.evaluate(() => window.clothesline!.isDeveloped!());
  await page.keyboard.press('Escape');
  await settled(page);
  await page.setViewportSize({ width: 800, height: 500 });
  await settled(page);
  const hard = await colours();
  await develop(page);
  await developed(page);
  expect(await isDeveloped()).toBe(true);
  expect(await colours()).toBeGreaterThan(hard * 1.2);
  await page.getByRole('button', { name: 'Hide Lamp posts', exact: true }).click();
  await settled(page);
  expect(await isDeveloped()).toBe(false);
  await page.waitForFunction(() => window.clothesline!.added!() > 0);
  await command(page, 'soft shadows');
  await settled(page);
  await expect(page.getByText('The picture stays as it is drawn.')).toBeVisible();
  expect(await isDeveloped()).toBe(false);
});

test.describe('with many pixels', () => {
  test.use({ density: 2 });
  test('a picture whose frames are drawn in parts is what it was at once, in all of them', async ({
    page,
  }) => {
    test.slow();
    await newScene(page);
    await command(page, 'soft shadows');
    await make(page, 'Plane', { Width: '80', Depth: '80', Columns: '1', Rows: '1' });
    await page.getByRole('button', { name: 'Top', exact: true }).click();
    await page.keyboard.press('Escape');
    await settled(page);
    const seen = async () => {
      const look = await picture(page);
      const places: [number, number][] = [];
      for (const x of [0.1, 0.35, 0.6, 0.9]) for (const y of [0.2, 0.5, 0.8]) places.push([x, y]);
      return Promise.all(
        places.map(async ([x, y]) => {
          const p = await at(page, x, y);
          const all = look(p.x, p.y, 9, 9).flat();
          return all.reduce((sum, v) => sum + v, 0) / all.length;
        }),
      );
    };
    const added = (n: number) =>
      page.waitForFunction((k) => window.clothesline!.added!() >= k, n, { timeout: 60_000 });
    // Frames are divided by what those before them took.
    await added(3);
    const before = await seen();
    await page.getByRole('button', { name: 'Front', exact: true }).click();
    await settled(page);
    const live = await seen();
    expect(Math.max(...live.map((light, i) => Math.abs(light - before[i])))).toBeGreaterThan(0.1);
    await added(1);
    (await seen()).forEach((light, i) => expect(Math.abs(light - live[i])).toBeLessThan(0.03));
  });

  test('what is partly hidden develops wherever it is seen: open ground is one light all over', async ({
    page,
  }) => {
    test.slow();
    await newScene(page);
    await command(page, 'soft shadows');
    const grid = { Columns: '1', Rows: '1' };
    await make(page, 'Plane', { Width: '80', Depth: '80', ...grid });
    // So little above it that it takes none of its light.
    await make(page, 'Plane', { Width: '80', Depth: '5', 'Position Y': '0.004', ...grid });
    await page.getByRole('button', { name: 'Top', exact: true }).click();
    await page.keyboard.press('Escape');
    await settled(page);
    const middle = await onScreen(page, [0, 0, 0]);
    await page.mouse.move(middle.x, middle.y);
    await closer(page, 60);
    await page.mouse.move(5, 5);
    await developed(page);
    // Above and below the upper one, from one end of the view to the other.
    const look = await picture(page);
    const lights: number[] = [];
    for (const x of [0.04, 0.3, 0.6, 0.96])
      for (const y of [0.15, 0.2, 0.8, 0.85]) {
        const p = await at(page, x, y);
        lights.push(...look(p.x, p.y, 3, 3).map(lightOf));
      }
    expect(Math.min(...lights) / (SUN_RED + SKY_RED)).toBeGreaterThan(0.05);
    expect(Math.max(...lights) / Math.min(...lights)).toBeLessThan(1.03);
  });
});
