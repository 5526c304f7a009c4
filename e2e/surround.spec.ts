import { expect, type Page } from '@playwright/test';
import { LIGHTS } from '../src/core/light/presets';
import { emptyScene } from '../src/core/scene/defaults';
import { choose, onScreen, openText, settled, type, undo } from './support/app';
import { command, develop, developed, lightOf, lightOfStill, pixels, type Rgb } from './support/pixels';
import { drawnTest as test } from './support/test';

/** What is around a scene, and how its picture is finished: by pixels of light, against closed forms. */

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

type P3 = [number, number, number];

/** A white plane by day, and a square viewpoint that sees some of it, and of what is behind it; the panel of light is open. */
async function planeInFrame(
  page: Page,
  aim: P3 = [0, 0.6, 0],
  more: Record<string, object> = {},
): Promise<void> {
  const { frame, ...scene } = more;
  const given = {
    ...emptyScene('Plane'),
    materials: [{ id: 'chalk', name: 'Chalk', color: '#ffffff', roughness: 1 }],
    surfaces: [plain('plane', { shape: 'plane', width: 8, depth: 8, columns: 1, rows: 1 })],
    viewpoints: [{ id: 'v', name: 'View', eye: [0, 1.2, 5], aim, focal: 24, aspect: 1, ...frame }],
    view: { eye: [0, 1.2, 5], target: aim },
    light: {},
    ...scene,
  };
  await openText(page, 'plane.json', JSON.stringify(given));
  await command(page, 'sun sky lighting');
}

const plain = (id: string, shape: object, position = [0, 0, 0]) => ({
  ...{ id, name: id, material: 'chalk', mesh: { source: 'made', shape }, position },
});

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
/** Of a plane seen to its middle: beside what stands there. */
const BESIDE: [number, number][] = [
  [4, 24],
  [8, 30],
  [12, 40],
];

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
  await planeInFrame(page, [0, 1.2, -5]);
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
  await type(panel.getByLabel('Halo', { exact: true }), '300');
  await develop(page);
  await page.setViewportSize({ width: 1100, height: 500 });
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

test('a mirror shows the panels of a studio: turned with them, as bright as they are, and not the sky', async ({
  page,
}) => {
  await planeInFrame(page, [0, 0, 0]);
  await shines(page, '0', '100');
  await command(page, 'sun sky lighting');
  const panel = panelOf(page);
  await type(panel.getByRole('region', { name: 'Sun' }).getByLabel('Strength', { exact: true }), '0');
  const mirrored = async () => {
    const { at } = await lightOfStill(page, 'View', SIZE);
    return [8, 16, 24, 32, 40].map((x) => at(x, 24)[0]);
  };
  const sky = await mirrored();
  await panel.getByRole('radio', { name: 'Panels' }).click();
  const panels = await mirrored();
  const apart = (a: number[], b: number[]) => Math.max(...a.map((v, i) => Math.abs(v / b[i] - 1)));
  expect(apart(panels, sky)).toBeGreaterThan(0.3);
  await type(panel.getByLabel('Brightness', { exact: true }).last(), '50');
  const half = await mirrored();
  near(
    half,
    panels.map((v) => v / 2),
    0.01,
  );
  await type(panel.getByLabel('Turned', { exact: true }), '180');
  expect(apart(await mirrored(), half)).toBeGreaterThan(0.2);
  await type(panel.getByLabel('Turned', { exact: true }), '360');
  near(await mirrored(), half, 0.02);
});

test('a metal that is looked down at mirrors what is below the horizon: half of it, half of the ground', async ({
  page,
}) => {
  const [horizon, ground] = ['#c0a080', '#704028'];
  await planeInFrame(page, [0, 1, 0], {
    surfaces: [
      {
        ...plain('wall', { shape: 'plane', width: 20, depth: 20, columns: 1, rows: 1 }),
        tipDeg: 90,
      },
    ],
    frame: { eye: [0, 3, 5] },
    light: { sun: { strength: 0 }, sky: { horizon, ground } },
  });
  await shines(page, '0', '100');
  const linear = (color: string) =>
    [1, 3, 5].map((at) => ((parseInt(color.slice(at, at + 2), 16) / 255 + 0.055) / 1.055) ** 2.4);
  const [of, and] = [linear(horizon), linear(ground)];
  const below = of.map((v, k) => (v + and[k]) / 2);
  // Shown as that colour: its light is by the haze of the tones more.
  const light = below.map((v) => v + 0.04);
  const seen = (await lightOfStill(page, 'View', SIZE)).at(24, 24);
  near(seen, light, 0.02);
});

test('no light at all, far too much of it, and an eye within a thing make a picture all the same; specks are held', async ({
  page,
}) => {
  const lamp = { id: 'l', name: 'Lamp', at: [-2, 1, 0], strength: 0 };
  const view = { eye: [0, 0.4, 0], aim: [0, 0.4, -5] };
  await planeInFrame(page, [0, 0, 0], {
    surfaces: [
      plain('plane', { shape: 'plane', width: 8, depth: 8, columns: 1, rows: 1 }),
      plain('box', { shape: 'box', width: 1, height: 1, depth: 1 }),
    ],
    light: { sun: { strength: 0 }, sky: { brightness: 0 } },
    lamps: [lamp],
    viewpoints: [
      { id: 'v', name: 'View', eye: [0, 1.2, 5], aim: [0, 0, 0], focal: 24, aspect: 1 },
      { id: 'w', name: 'Within', focal: 24, aspect: 1, ...view },
    ],
  });
  const panel = panelOf(page);
  const brightest = ({ at }: Awaited<ReturnType<typeof lightOfStill>>) =>
    Math.max(...BESIDE.map(([x, y]) => at(x, y)[0]));
  expect(brightest(await lightOfStill(page, 'View', SIZE))).toBe(0);
  await panel.getByRole('button', { name: /^Lamp point/ }).click();
  const strength = panel
    .getByRole('region', { name: 'Lights put in' })
    .getByLabel('Strength', { exact: true });
  await type(strength, '1e12');
  await expect(strength).toHaveValue('100000000000');
  for (const halo of ['0', '100']) {
    await type(panel.getByLabel('Halo', { exact: true }), halo);
    for (const view of ['View', 'Within']) {
      const made = await lightOfStill(page, view, SIZE);
      expect(made.data.every(Number.isFinite)).toBe(true);
      // 64 times white in each frame, shown a quarter brighter; a halo comes on top.
      if (halo === '0' && view === 'View') expect(brightest(made)).toBeCloseTo(80, 0);
    }
  }
});

test('a picture larger than is drawn at once is made in parts, without a seam; its halo goes over all of them', async ({
  page,
}) => {
  await planeInFrame(page, [0, 3, 0], {
    surfaces: [],
    light: { ...LIGHTS.night, halo: 3, haloReach: 0.8 },
    lamps: [{ id: 'l', name: 'Lamp', at: [-1, 3.2, 0], strength: 4, seen: true }],
    frame: { aspect: 10 },
  });
  const wide = 2100;
  const spread = await lightOfStill(page, 'View', wide);
  await type(panelOf(page).getByLabel('Halo', { exact: true }), '0');
  const plain = await lightOfStill(page, 'View', wide);
  // The light stands in the sky, left of the middle, where two parts meet: what is right of it is its halo, and goes on.
  const halo = (x: number) =>
    [plain, spread].map(({ at }) => at(wide / 2 + x, 100)[0]).reduce((a, b) => b - a);
  for (let x = -4; x < 4; x++) expect(Math.abs(halo(x + 1) / halo(x) - 1)).toBeLessThan(0.1);
  expect(halo(0)).toBeGreaterThan(1.2 * halo(60));
  expect(halo(60)).toBeGreaterThan(0);
});
