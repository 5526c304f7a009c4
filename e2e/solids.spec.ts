import { WebIO } from '@gltf-transform/core';
import { ALL_EXTENSIONS } from '@gltf-transform/extensions';
import { expect, type Page } from '@playwright/test';
import {
  choose,
  make,
  newScene,
  onScreen,
  rows,
  sendOut,
  settled,
  takeProps,
  type,
  undo,
} from './support/app';
import { bodyOf, type Body, type Triangle } from './support/bodies';
import { command } from './support/pixels';
import { test } from './support/test';

/** Surfaces as bodies: their thickness, out of the file that is sent out. */

/** The mesh of that name in what is sent out, as a body. */
async function body(page: Page, name: string): Promise<Body> {
  const document = await new WebIO()
    .registerExtensions(ALL_EXTENSIONS)
    .readBinary(new Uint8Array(await sendOut(page, 'glb')));
  const mesh = document
    .getRoot()
    .listMeshes()
    .find((m) => m.getName() === name)!;
  const triangles: Triangle[] = [];
  for (const primitive of mesh.listPrimitives()) {
    const [position, index] = [primitive.getAttribute('POSITION')!, primitive.getIndices()!];
    for (let i = 0; i < index.getCount(); i += 3)
      triangles.push([0, 1, 2].map((k) => position.getElement(index.getScalar(i + k), [0, 0, 0])));
  }
  return bodyOf(triangles);
}

test('a surface gets thickness: a closed shell in the file, square or round at its rim, props on its outer side', async ({
  page,
}) => {
  await newScene(page);
  await takeProps(page, 'Crate');
  await make(page, 'Plane', { Width: '3', Depth: '2' });
  const thickness = page.getByRole('region', { name: 'Thickness' });
  await expect(thickness).toContainText('Open, 6 m² of faces: 96 edges at its borders.');
  await command(page, 'thicken');
  // A fiftieth of the side of a square as large, to one figure.
  await expect(thickness.getByLabel('Inwards', { exact: true })).toHaveValue('0.05');
  await type(thickness.getByLabel('Inwards', { exact: true }), '10 cm');
  await expect(thickness).toContainText('Closed: 0.6 m³ within 13 m² of faces.');
  await expect(page.getByRole('button', { name: /^Undo Plane: thick inwards 0.05.* → 0.1/ })).toBeVisible();
  const square = await body(page, 'Plane');
  expect(square.open).toBe(0);
  expect(square.volume).toBeCloseTo(0.6, 5);

  await thickness.getByRole('radio', { name: 'Round' }).click();
  await settled(page);
  const round = await body(page, 'Plane');
  expect(round.open).toBe(0);
  // Half a bar of eight sides along 10 m, longer at the corners by what its middle lies farther out.
  const r = 0.05;
  const sides = (n: number) => Math.sin(Math.PI / n) * n * 0.5 * r * r;
  expect(round.volume - square.volume).toBeGreaterThan(10 * sides(8));
  expect(round.volume - square.volume).toBeLessThan((10 + 8 * r) * (Math.PI / 2) * r * r);

  // A peg stands on the side that it was clicked on, and goes with it.
  const { x, y } = await onScreen(page, [0.4, 0, 0.3]);
  await page.keyboard.press('3');
  await page.mouse.move(x, y);
  await page.mouse.click(x, y);
  await settled(page);
  expect((await rows(page))[0].y).toBeCloseTo(0, 6);
  await page.keyboard.press('1');
  await page.getByRole('button', { name: /^Plane Surface/ }).click();
  await type(thickness.getByLabel('Outwards', { exact: true }), '0.25');
  await settled(page);
  expect((await rows(page))[0].y).toBeCloseTo(0.25, 6);
  expect((await body(page, 'Plane')).open).toBe(0);

  // Thick by nothing is said; without thickness it is as it was.
  await type(thickness.getByLabel('Outwards', { exact: true }), '0');
  await type(thickness.getByLabel('Inwards', { exact: true }), '0');
  await expect(page.getByText('“Plane” is to be thick, but by nothing.').first()).toBeVisible();
  await undo(page);
  await settled(page);
  await thickness.getByRole('switch', { name: 'Thick' }).click();
  await expect(thickness).toContainText('Open, 6 m² of faces');
  expect((await rows(page))[0].y).toBeCloseTo(0, 6);
});

test('a waving cloth stays closed at every moment; hills bent more tightly than they are thick are told', async ({
  page,
}) => {
  await newScene(page);
  await make(page, 'Hills');
  await choose(page, 'More for this surface', 'Give it thickness');
  const thickness = page.getByRole('region', { name: 'Thickness' });
  await expect(thickness).toContainText(/Closed: [\d.]+ m³/);
  await choose(page, 'Add a deformer', 'Wave');
  await settled(page);
  expect((await body(page, 'Hills')).open).toBe(0);
  await type(thickness.getByLabel('Inwards', { exact: true }), '8');
  await expect(page.getByText(/is bent more tightly than it is thick: [\d,]+ faces/).first()).toBeVisible();
});
