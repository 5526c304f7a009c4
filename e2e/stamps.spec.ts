import { expect, type Page } from '@playwright/test';
import { WebIO } from '@gltf-transform/core';
import { decode, encode } from 'fast-png';
import { unzipSync } from 'fflate';
import {
  choose,
  cratesAlong,
  hang,
  make,
  newScene,
  onScreen,
  openStep,
  pathByNumbers,
  pickOption,
  rows,
  sendOut,
  settled,
  takeProps,
  type,
  undo,
} from './support/app';
import { command, pixels } from './support/pixels';
import { drawnTest, test } from './support/test';

/** Stamps, drawn into the surfaces that they lie on; and what lies on a surface as maps. */

/** A picture of one colour; of its sixteen columns those after so many are not there. */
function dyed(color: readonly number[], columns = 16): Buffer {
  const data = new Uint8Array(16 * 16 * 4);
  for (let q = 0; q < 256; q++) if (q % 16 < columns) data.set([...color, 255], q * 4);
  return Buffer.from(encode({ width: 16, height: 16, channels: 4, depth: 8, data }));
}
const RED = [200, 20, 20];
const BLUE = [20, 20, 200];

/** Makes a stamp of two metres with its colours, and leaves it in hand. */
async function stamp(page: Page, picture: Buffer): Promise<void> {
  await command(page, 'decal of pictures');
  await give(page, 'Colours', picture);
  for (const side of ['Width', 'Length']) await type(page.getByLabel(side, { exact: true }), '2');
}

async function give(page: Page, what: 'Colours' | 'Relief', buffer: Buffer): Promise<void> {
  const field = page.getByLabel(`${what} of the stamp`);
  await field.setInputFiles({ name: `${what}.png`, mimeType: 'image/png', buffer });
  await expect(page.getByText(`${what}.png`)).toBeVisible();
}

const maps = async (page: Page): Promise<Record<string, ReturnType<typeof decode>>> => {
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Send the maps out' }).click();
  const stream = await (await download).createReadStream();
  const parts: Buffer[] = [];
  for await (const part of stream) parts.push(part as Buffer);
  const files = unzipSync(new Uint8Array(Buffer.concat(parts)));
  return Object.fromEntries(
    Object.entries(files).flatMap(([name, bytes]) => (name.endsWith('.png') ? [[name, decode(bytes)]] : [])),
  );
};
const texel = ({ data, width, channels }: ReturnType<typeof decode>, u: number, v: number) =>
  [...data.subarray((Math.floor(v * width) * width + Math.floor(u * width)) * channels)].slice(0, channels);

drawnTest.describe('drawn', () => {
  drawnTest(
    'a stamp of a picture lies in the ground: where it is opaque, without a triangle, and is undone',
    async ({ page }) => {
      await newScene(page);
      await make(page, 'Plane', { Width: '8', Depth: '8' });
      await stamp(page, dyed(RED, 8));
      await pathByNumbers(page, [
        [-2, 0],
        [2, 0],
      ]);
      await hang(page, 'Stamp');
      const spacing = await openStep(page, 'Spacing');
      await type(spacing.getByLabel('Pitch', { exact: true }), '4');
      await settled(page);
      const placed = (await rows(page)).filter((r) => r.state === 'placed');
      expect(placed).toHaveLength(2);
      await expect(page.getByText('2 stamps')).toBeVisible();
      await page.keyboard.press('Escape');
      await settled(page);
      const color = async (x: number, z: number) => {
        const at = await onScreen(page, [x, 0, z]);
        return (await pixels(page, at.x, at.y, 3, 3))[4];
      };
      // The prop’s front goes along the path, +x: its left half lies at −z or +z of it.
      const [one, other] = [await color(1.5, 0.5), await color(1.5, -0.5)];
      const redness = ([r, g]: number[]) => r - g;
      expect(Math.max(redness(one), redness(other))).toBeGreaterThan(0.3);
      expect(Math.min(redness(one), redness(other))).toBeLessThan(0.15);
      expect(redness(await color(0, 0.5))).toBeLessThan(0.15);
    },
  );

  drawnTest(
    'of stamps on stamps the last ones are seen, those of a higher layer before them, as strong as asked',
    async ({ page }) => {
      await newScene(page);
      await make(page, 'Plane', { Width: '8', Depth: '8' });
      await stamp(page, dyed(RED));
      await pathByNumbers(page, [
        [-2, 0],
        [2, 0],
      ]);
      await hang(page, 'Stamp');
      await type((await openStep(page, 'Spacing')).getByLabel('Pitch', { exact: true }), '4');
      // All over the plane, after what hangs on the path.
      await stamp(page, dyed(BLUE));
      await choose(page, 'New arrangement', 'Over Plane');
      await settled(page);
      await type((await openStep(page, 'Spread')).getByRole('textbox', { name: 'At least apart' }), '0.8');
      await hang(page, 'Stamp 2');
      const blueLessRed = async () => {
        await page.keyboard.press('Escape');
        await settled(page);
        const at = await onScreen(page, [2, 0, 0]);
        const [r, , b] = (await pixels(page, at.x, at.y, 3, 3))[4];
        return b - r;
      };
      const blue = await blueLessRed();
      expect(blue).toBeGreaterThan(0.3);
      const set = async (prop: string, field: string, value: string) => {
        await page.getByRole('button', { name: prop, exact: true }).click();
        await type(page.getByRole('region', { name: 'The stamp' }).getByLabel(field, { exact: true }), value);
      };
      await set('Stamp', 'Layer', '1');
      const red = await blueLessRed();
      expect(red).toBeLessThan(-0.3);
      await set('Stamp', 'Strength', '50 %');
      const both = await blueLessRed();
      expect(both).toBeGreaterThan(red + 0.15);
      expect(both).toBeLessThan(blue - 0.15);
      // One layer up the blue ones lie over it again.
      await set('Stamp 2', 'Layer', '2');
      expect(await blueLessRed()).toBeCloseTo(blue, 1);
    },
  );
});

test('a stamp is made of a prop at one click, takes its places, and goes into the maps of its ground', async ({
  page,
}) => {
  await cratesAlong(
    page,
    [
      [-2, 0],
      [2, 0],
    ],
    '4',
  );
  await make(page, 'Plane', { Width: '8', Depth: '8' });
  const before = await rows(page);
  await page.getByRole('button', { name: 'Crate', exact: true }).click({ button: 'right' });
  await page.getByRole('menuitem', { name: 'Make a stamp of it' }).click();
  const made = page.getByRole('button', { name: 'Crate stamp', exact: true });
  await expect(made).toBeVisible();
  await page.getByRole('button', { name: 'Crate', exact: true }).click({ button: 'right' });
  await page.getByRole('menuitem', { name: 'Crate stamp' }).click();
  await settled(page);
  // The same places, by another prop.
  const after = await rows(page);
  expect(after.map((r) => [r.prop, r.x, r.z])).toEqual(before.map((r) => ['Crate stamp', r.x, r.z]));
  await expect(page.getByText('2 stamps')).toBeVisible();

  await page.getByRole('button', { name: /^Plane/ }).click();
  await command(page, 'normal map bake');
  await expect(page.getByText(/covers 100 % of its maps/)).toBeVisible({ timeout: 60_000 });
  const { 'Plane colour.png': color, 'Plane normal.png': normal } = await maps(page);
  expect([color.width, normal.width]).toEqual([256, 256]);
  // A crate at x = 2, z = 0 of 8 m: brown there, plain beside it.
  const [there, beside] = [texel(color, 0.75, 0.5), texel(color, 0.5, 0.25)];
  expect(there[0] - there[2]).toBeGreaterThan(beside[0] - beside[2] + 10);
  expect(texel(normal, 0.5, 0.25)).toEqual([128, 128, 255]);
});

test('props are baked, worn instead of themselves, sent out in the material alone, and shown again', async ({
  page,
}) => {
  await newScene(page);
  await make(page, 'Plane', { Width: '8', Depth: '8' });
  await takeProps(page, 'Bollard');
  await pathByNumbers(page, [
    [-2, 0],
    [2, 0],
  ]);
  await hang(page, 'Bollard');
  const spacing = await openStep(page, 'Spacing');
  await type(spacing.getByLabel('Pitch', { exact: true }), '4');
  await page.getByRole('button', { name: /^Plane/ }).click();
  await page.getByRole('button', { name: 'Bake what lies on it' }).click();
  await expect(page.getByText(/covers 100 % of its maps/)).toBeVisible({ timeout: 90_000 });
  await page.getByRole('switch', { name: 'Height', exact: true }).click();
  await page.getByRole('switch', { name: 'Which prop' }).click();
  await page.getByRole('switch', { name: 'Occlusion' }).click();
  await pickOption(page, page, 'Size', '512 × 512');
  await type(page.getByLabel('Places a pixel'), '2');
  await page.getByRole('button', { name: 'Bake anew' }).click();
  await expect(page.getByText(/Height: black is/)).toBeVisible({ timeout: 60_000 });
  await expect(page.getByRole('button', { name: 'Bake anew' })).toBeEnabled({ timeout: 60_000 });
  // They were worn at once, coarsely, and are still.
  await expect(page.getByRole('switch', { name: 'Instead of the props' })).toBeChecked();
  expect((await rows(page)).filter((r) => r.state === 'placed')).toHaveLength(0);
  const glb = await sendOut(page, 'glb', async () => {
    const surfaces = page.getByRole('dialog').getByLabel(/surfaces/i);
    if (!(await surfaces.isChecked())) await surfaces.click();
  });
  const root = (await new WebIO().readBinary(new Uint8Array(glb))).getRoot();
  const [node] = root.listNodes().filter((n) => n.getMesh());
  const material = node.getMesh()!.listPrimitives()[0].getMaterial()!;
  const color = decode(material.getBaseColorTexture()!.getImage()!);
  const normal = decode(material.getNormalTexture()!.getImage()!);
  expect(root.listNodes().filter((n) => n.getMesh())).toHaveLength(1);
  expect(texel(color, 0.75, 0.5)).not.toEqual(texel(color, 0.5, 0.25));
  // On the side of a bollard the map leans; from its middle outwards, red to the right.
  const wide = Array.from({ length: 80 }, (_, i) => texel(normal, 0.75 + (i - 40) / 512, 0.5));
  expect(Math.min(...wide.slice(0, 40).map((t) => t[0]))).toBeLessThan(110);
  expect(Math.max(...wide.slice(40).map((t) => t[0]))).toBeGreaterThan(146);
  const all = await maps(page);
  expect(Object.keys(all).sort()).toEqual(
    ['colour', 'height', 'normal', 'props'].map((map) => `Plane ${map}.png`),
  );
  expect(texel(all['Plane props.png'], 0.75, 0.5)).not.toEqual([0, 0, 0]);
  expect(texel(all['Plane props.png'], 0.5, 0.25)).toEqual([0, 0, 0]);
  await page.getByRole('switch', { name: 'Instead of the props' }).click();
  await settled(page);
  expect((await rows(page)).filter((r) => r.state === 'placed')).toHaveLength(2);
  await undo(page);
  await settled(page);
  expect((await rows(page)).filter((r) => r.state === 'placed')).toHaveLength(0);
});
