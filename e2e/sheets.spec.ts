import { Document, WebIO } from '@gltf-transform/core';
import { expect, type Page } from '@playwright/test';
import {
  add,
  axes,
  choose,
  newScene,
  onScreen,
  openStep,
  pickOption,
  rows,
  settled,
  takeProps,
  type,
  type Row,
} from './support/app';
import { test } from './support/test';
import { hangOnLine, laySheet } from './support/sheets';

/** Sheets: a flat layout laid over a surface, edited flat and in the recipe, its numbers out of the file. */

const placed = (list: Row[]) => list.filter((r) => r.state === 'placed');

/** A floor of 20 × 20 m without texture coordinates. */
async function bareFloor(): Promise<Uint8Array> {
  const document = new Document();
  const buffer = document.createBuffer();
  const accessor = (type: 'VEC3' | 'SCALAR', array: Float32Array<ArrayBuffer> | Uint16Array<ArrayBuffer>) =>
    document.createAccessor().setType(type).setArray(array).setBuffer(buffer);
  const primitive = document
    .createPrimitive()
    .setAttribute(
      'POSITION',
      accessor('VEC3', new Float32Array([-10, 0, 10, 10, 0, 10, 10, 0, -10, -10, 0, -10])),
    )
    .setIndices(accessor('SCALAR', new Uint16Array([0, 1, 2, 0, 2, 3])));
  const mesh = document.createMesh().addPrimitive(primitive);
  document.createScene().addChild(document.createNode('floor').setMesh(mesh));
  return new WebIO().writeBinary(document);
}

/** A new scene with crates in a grid over a plane of 12 × 12 m. */
async function crateSheet(page: Page, columns: number, rowCount: number): Promise<void> {
  await newScene(page);
  await takeProps(page, 'Crate');
  await choose(page, 'New path or surface', 'Plane');
  await settled(page);
  await laySheet(page, 'Plane');
  const layout = await openStep(page, 'Layout');
  await layout.getByText('Fewer where it is narrow').click();
  await type(layout.getByLabel('Columns', { exact: true }), String(columns));
  await type(layout.getByLabel('Rows', { exact: true }), String(rowCount));
}

async function layOrnament(page: Page, surface: string): Promise<void> {
  await page.getByRole('button', { name: 'New arrangement' }).click();
  await page.getByRole('menuitem', { name: surface, exact: true }).last().click();
  await settled(page);
}

test('places of a sheet keep out of a closed path, collide, and are locked through another seed', async ({
  page,
}) => {
  await crateSheet(page, 12, 12);
  await choose(page, 'New path or surface', 'Circle');
  await type(page.getByLabel('Radius', { exact: true }), '3');
  await page.getByRole('button', { name: /Sheet ·/ }).click();
  const step = await openStep(page, 'Gaps');
  await choose(page, step.getByRole('button', { name: 'Add a keep-out' }), 'Inside a closed path');
  await pickOption(page, step, 'Of path', 'Circle');
  await settled(page);
  const kept = await rows(page);
  expect(kept).toHaveLength(144);
  // The circle is a polyline to a hundredth of a metre.
  for (const r of kept)
    if (Math.abs(Math.hypot(r.x, r.z) - 3) > 0.02)
      expect(r.reason === 'keep-out').toBe(Math.hypot(r.x, r.z) < 3);
  await page.getByRole('button', { name: 'Remove Keep-out' }).click();

  // Cells are a metre; turned by half a right angle and larger than that they reach into their neighbours.
  const facing = await openStep(page, 'Facing');
  await type(facing.getByLabel('Size', { exact: true }), '180%');
  await settled(page);
  expect(placed(await rows(page))).toHaveLength(144);
  await step.getByText('Leave out what collides').click();
  await settled(page);
  const left = placed(await rows(page));
  expect(left.length).toBeLessThan(144);
  for (const [i, a] of left.entries())
    for (const b of left.slice(i + 1))
      expect(Math.max(Math.abs(a.x - b.x), Math.abs(a.z - b.z))).toBeGreaterThan(1 - 1e-6);
  await step.getByText('Leave out what collides').click();

  await type(facing.getByLabel('Size', { exact: true }), '50%');
  const lift = await openStep(page, 'Variation');
  await add(lift, 'Lift');
  await type(lift.getByLabel('Lift, least', { exact: true }), '0');
  await type(lift.getByLabel('Lift, most', { exact: true }), '1');
  await page.getByRole('button', { name: 'Fit', exact: true }).click();
  await settled(page);
  const before = await rows(page);
  const one = before[70];
  const p = await onScreen(page, [one.x, one.y + 0.1, one.z]);
  await page.mouse.click(p.x, p.y);
  await page
    .getByRole('group', { name: 'Selected prop' })
    .getByRole('button', { name: 'Lock where it stands' })
    .click();
  await type(lift.getByLabel('Seed', { exact: true }), '77');
  await settled(page);
  const after = await rows(page);
  const same = after.filter((r, i) => Math.abs(r.y - before[i].y) < 1e-9).map((r) => r.slot);
  expect(same).toHaveLength(1);
});

test('from an empty scene to a tiled tower, in under two minutes', async ({ page }) => {
  const start = Date.now();
  await newScene(page);
  await takeProps(page, 'Scallop tile');
  await choose(page, 'New path or surface', 'Beacon tower, with uv');
  await settled(page);
  await page.getByRole('button', { name: 'Fit', exact: true }).click();
  await laySheet(page, 'Beacon tower');
  const layout = await openStep(page, 'Layout');
  await type(layout.getByLabel('Columns', { exact: true }), '36');
  await type(layout.getByLabel('Rows', { exact: true }), '20');
  await pickOption(page, layout, 'Stagger', 'second rows moved');
  const facing = await openStep(page, 'Facing');
  await facing.getByRole('radio', { name: 'Bent' }).click();
  await settled(page);
  expect(Date.now() - start).toBeLessThan(120_000);

  const tiles = placed(await rows(page));
  const rings = new Map<number, Row[]>();
  for (const r of tiles) {
    const key = Number(/^r(\d+)\./.exec(r.slot)?.[1] ?? 0);
    rings.set(key, [...(rings.get(key) ?? []), r]);
  }
  expect(rings.size).toBe(20);
  for (const ring of rings.values()) {
    // Evenly round the tower, over the seam too, standing out from it with their fronts up.
    const angles = ring.map((r) => Math.atan2(r.z, r.x)).sort((a, b) => a - b);
    const steps = angles.map((a, i) => (angles[(i + 1) % angles.length] - a + 4 * Math.PI) % (2 * Math.PI));
    for (const s of steps) expect(Math.abs(s - (2 * Math.PI) / ring.length)).toBeLessThan(0.012);
    for (const r of ring) {
      const { up, front } = axes(r);
      expect(up[0] * r.x + up[2] * r.z).toBeGreaterThan(0.5 * Math.hypot(r.x, r.z));
      expect(front[1]).toBeGreaterThan(0.4);
    }
  }
  // As many as the waist has room for, fewer than at the foot.
  const counts = [...rings.values()].map((r) => r.length);
  expect(Math.min(...counts)).toBeLessThan(Math.max(...counts) * 0.7);
});

test('the flat view is the layout: places emptied, filled and nudged, margins dragged, a free item moved', async ({
  page,
}) => {
  await crateSheet(page, 4, 3);
  const flat = page.getByTestId('sheet');
  await flat.getByRole('button', { name: '#1 Crate' }).click();
  await settled(page);
  expect(placed(await rows(page)).length).toBe(11);
  await flat.getByRole('button', { name: '#1 removed by hand' }).focus();
  await page.keyboard.press('Enter');
  await settled(page);
  expect(placed(await rows(page)).length).toBe(12);

  // The plane is 12 m wide and as deep; a drag by pixels is one by metres of the layout.
  const before = placed(await rows(page)).find((r) => r.slot === 'r1.2')!;
  const other = placed(await rows(page)).find((r) => r.slot === 'r1.3')!;
  const [a, b] = [
    (await flat.getByRole('button', { name: '#r1.2 Crate' }).boundingBox())!,
    (await flat.getByRole('button', { name: '#r1.3 Crate' }).boundingBox())!,
  ];
  const metre = (b.x - a.x) / 3;
  await page.mouse.move(a.x + a.width / 2, a.y + a.height / 2);
  await page.mouse.down();
  await page.mouse.move(a.x + a.width / 2 + metre, a.y + a.height / 2 - metre / 2, { steps: 4 });
  await page.mouse.up();
  await settled(page);
  const after = placed(await rows(page)).find((r) => r.slot === 'r1.2')!;
  expect(after.x - before.x).toBeCloseTo(1, 0);
  expect(after.z - before.z).toBeCloseTo(-0.5, 0);
  expect(other.x - before.x).toBeCloseTo(3, 3);
  await page.keyboard.press('ControlOrMeta+z');

  const margin = page.getByRole('slider', { name: 'Margin left' });
  await margin.focus();
  await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('Shift+ArrowRight');
  await settled(page);
  const inset = placed(await rows(page)).filter((r) => !r.slot.startsWith('r'));
  expect(Math.min(...inset.map((r) => r.x))).toBeCloseTo(-4 + 1.25, 3);

  const gaps = await openStep(page, 'Gaps');
  await gaps.getByText('Skip columns').click();
  await settled(page);
  expect(placed(await rows(page)).length).toBe(6);

  await choose(page, 'Add a free item', 'Crate');
  await settled(page);
  const item = flat.getByRole('button', { name: /^#k1\.\d+ Crate/ });
  await item.focus();
  for (let i = 0; i < 5; i++) await page.keyboard.press('Shift+ArrowRight');
  await settled(page);
  const free = placed(await rows(page)).find((r) => r.slot.startsWith('k1.'))!;
  expect([free.x, free.z]).toEqual([expect.closeTo(0.5, 3), expect.closeTo(0, 3)]);
  await item.focus();
  await page.keyboard.press('Delete');
  await settled(page);
  expect(placed(await rows(page)).length).toBe(6);
});

test('corner match by hand and by guess; uv made for a mesh that has none; distortion has its colours', async ({
  page,
}) => {
  await crateSheet(page, 4, 2);
  const first = async () => placed(await rows(page)).find((r) => r.slot === '1')!;
  expect(await first()).toMatchObject({ x: expect.closeTo(-4.5, 3), z: expect.closeTo(3, 3) });
  const surface = await openStep(page, 'Surface');
  await surface.getByRole('button', { name: 'Flip u' }).click();
  await settled(page);
  expect((await first()).x).toBeCloseTo(4.5, 3);
  await surface.getByRole('button', { name: 'Other side' }).click();
  await settled(page);
  expect(axes(await first()).up[1]).toBeCloseTo(-1, 3);
  await surface.getByRole('button', { name: 'Swap' }).click();
  await settled(page);
  expect((await first()).z).toBeCloseTo(4.5, 3);
  await surface.getByRole('button', { name: 'Guess' }).click();
  await settled(page);
  expect(await first()).toMatchObject({ x: expect.closeTo(-4.5, 3), z: expect.closeTo(3, 3) });

  // Six metres of true size in the middle; stretched they cover all of it.
  await type(surface.getByLabel('Width', { exact: true }), '6');
  await settled(page);
  expect((await first()).x).toBeCloseTo(-2.25, 3);
  await surface.getByRole('radio', { name: 'Stretched' }).click();
  await settled(page);
  expect((await first()).x).toBeCloseTo(-4.5, 3);
  await surface.getByRole('radio', { name: 'True size' }).click();
  await type(surface.getByLabel('Width', { exact: true }), '');
  await settled(page);

  // A mesh without uv: told, and some made for it on the spot.
  await choose(page, 'New path or surface', 'Bring in a surface');
  await page.getByLabel('File to bring in').setInputFiles({
    name: 'floor.glb',
    mimeType: 'model/gltf-binary',
    buffer: Buffer.from(await bareFloor()),
  });
  await page.getByRole('radio', { name: 'A surface' }).click();
  await page.getByRole('button', { name: 'Put in the scene' }).click();
  await settled(page);
  await page
    .getByRole('button', { name: /^Crate on Plane/ })
    .first()
    .click();
  await pickOption(page, surface, 'Over', 'floor');
  await expect(surface.getByRole('alert')).toContainText('has no uv');
  await surface.getByRole('group', { name: 'Make uv' }).getByRole('button', { name: 'Plane' }).click();
  await settled(page);
  expect(await first()).toMatchObject({ x: expect.closeTo(-7.5, 3), z: expect.closeTo(5, 3) });

  const facing = await openStep(page, 'Facing');
  await facing.getByText('Show distortion').click();
  await expect(page.getByRole('img', { name: /Colours of distortion/ }).first()).toBeVisible();
});

test('an ornament is bent onto the tower, slid over it and turned', async ({ page }) => {
  await newScene(page);
  await takeProps(page, 'Compass emblem');
  await choose(page, 'New path or surface', 'Beacon tower, with uv');
  await settled(page);
  await page.getByRole('button', { name: 'Fit', exact: true }).click();
  await settled(page);
  await layOrnament(page, 'Beacon tower');
  const one = async () => placed(await rows(page))[0];
  const before = await one();
  // The middle lies on the wall and looks out of it.
  expect(Math.hypot(before.x, before.z)).toBeGreaterThan(1);
  expect(axes(before).front[1]).toBeGreaterThan(0.8);
  const grip = page.getByRole('button', { name: 'Middle of the sheet' });
  const box = (await grip.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2 + 10, box.y + 70, { steps: 5 });
  await page.mouse.up();
  await settled(page);
  const after = await one();
  expect(after.y).toBeLessThan(before.y - 0.5);
  expect(axes(after).front[1]).toBeGreaterThan(0.8);
  await page.getByRole('slider', { name: 'Turn of the sheet' }).focus();
  for (let i = 0; i < 6; i++) await page.keyboard.press('Shift+ArrowRight');
  await settled(page);
  expect(Math.abs(axes(await one()).front[1])).toBeLessThan(0.15);
  await page.keyboard.press('ControlOrMeta+z');
});

test('lines of the layout become a path, tubes and a run on the surface; an SVG’s text is left out and said', async ({
  page,
}) => {
  await newScene(page);
  await takeProps(page, 'Bollard');
  await choose(page, 'New path or surface', 'Beacon tower, with uv');
  await settled(page);
  await laySheet(page, 'Beacon tower');
  await hangOnLine(page, 'Bollard', [
    [0.45, 0.7],
    [0.5, 0.5],
    [0.55, 0.7],
  ]);
  const run = placed(await rows(page));
  expect(run.length).toBeGreaterThan(3);
  // On the wall: nowhere further in or out than it is.
  for (const r of run) {
    const wall = 2.1 - 0.11 * r.y + 0.85 * Math.exp(-((r.y - 9.2) ** 2) / 0.9) + 0.5 * Math.exp(-r.y * 1.4);
    expect(Math.abs(Math.hypot(r.x, r.z) - wall)).toBeLessThan(0.03);
  }
  await page
    .getByRole('button', { name: /^Bollard on Beacon tower/ })
    .first()
    .click();
  const again = await openStep(page, 'Lines');
  // Its middle point, the highest, moved up by keys: the run goes with it.
  const highest = (list: Row[]) => Math.max(...list.map((r) => r.y));
  await page.getByRole('button', { name: 'Point 2 of line 1' }).focus();
  for (let i = 0; i < 5; i++) await page.keyboard.press('Shift+ArrowUp');
  await settled(page);
  expect(Math.abs(highest(placed(await rows(page))) - highest(run) - 0.5)).toBeLessThan(0.2);
  const svg =
    '<svg viewBox="0 0 10 10"><path d="M0 0L10 10"/><path d="M0 10L10 0"/><text>lattice</text></svg>';
  await again.getByText('In every cell').click();
  await again.getByLabel('SVG file').setInputFiles({
    name: 'lattice.svg',
    mimeType: 'image/svg+xml',
    buffer: Buffer.from(svg),
  });
  await expect(page.getByText('Left out, for it is no line: 1 × text.')).toBeVisible();
  const grid = await openStep(page, 'Layout');
  await grid.getByText('Grid', { exact: true }).click();
  await type(grid.getByLabel('Columns', { exact: true }), '6');
  await type(grid.getByLabel('Rows', { exact: true }), '3');
  await grid.getByText('Fewer where it is narrow').click();
  await again.getByRole('button', { name: 'As tubes' }).click();
  await settled(page);
  // 18 cells of two lines, each a tube of eight sides.
  const faces = await page
    .getByRole('button', { name: /^Lattice/ })
    .first()
    .textContent();
  expect(Number(/([\d,]+) faces/.exec(faces ?? '')?.[1].replace(',', ''))).toBeGreaterThan(36 * 8 * 2 * 15);
});
