import { expect, type Locator, type Page } from '@playwright/test';
import { STLLoader } from 'three/examples/jsm/loaders/STLLoader.js';
import { OBJLoader } from 'three/examples/jsm/loaders/OBJLoader.js';
import type { Mesh } from 'three';
import {
  alerts,
  choose,
  make,
  newScene,
  onScreen,
  openStep,
  pathByNumbers,
  pickOption,
  hang,
  sendOut,
  settled,
  takeProps,
  type,
  undo,
} from './support/app';
import { bodyOf, readStl, type Body } from './support/bodies';
import { command } from './support/pixels';
import { test } from './support/test';

/** Surfaces that are made from others: solids and dust sheets, and the files that they go out in. */

const row = (page: Page, name: string): Locator =>
  page.getByRole('button', { name: new RegExp(`^${name}\\b`) });
const steps = (page: Page): Locator => page.getByRole('region', { name: 'Steps of the solid' });
const facts = (page: Page): Locator => page.getByRole('region', { name: 'As a body' });

const print = (page: Page): Locator => page.getByRole('region', { name: 'Printed' });

/** A box of 2 m without rounded edges, its middle at x. */
async function block(page: Page, x: number): Promise<void> {
  await make(page, 'Rounded box', { Width: '2', Height: '2', Depth: '2', 'Rounded by': '0' });
  await type(page.getByLabel('Position X', { exact: true }), String(x));
  await type(page.getByLabel('Position Z', { exact: true }), '0');
}

/** All that is shown, by its STL: metres. */
async function printed(page: Page): Promise<Body> {
  const body = bodyOf(readStl(await sendOut(page, 'stl')));
  return { ...body, volume: body.volume / 1e9 };
}

test('two boxes become a solid: joined, cut, kept within; it follows them, and is undone in one step', async ({
  page,
}) => {
  await newScene(page);
  await block(page, 0);
  await block(page, 1);
  await row(page, 'Rounded box Surface').first().click();
  await row(page, 'Rounded box 2').click({ modifiers: ['Control'] });
  await command(page, 'boolean union');
  await settled(page);
  await expect(row(page, 'Rounded box, solid')).toBeVisible();
  await expect(facts(page)).toContainText('Closed: 12 m³');
  const joined = await printed(page);
  expect(joined.open).toBe(0);
  expect(joined.volume).toBeCloseTo(12, 4);

  const second = steps(page).getByRole('radiogroup', { name: /How Rounded box 2/ });
  await second.getByRole('radio', { name: 'Cut out' }).click();
  await expect(facts(page)).toContainText('Closed: 4 m³');
  await second.getByRole('radio', { name: 'Keep within' }).click();
  await expect(facts(page)).toContainText('Closed: 4 m³');
  await second.getByRole('radio', { name: 'Join' }).click();
  await steps(page).getByRole('switch', { name: 'Rounded box 2' }).click();
  await expect(facts(page)).toContainText('Closed: 8 m³');
  await steps(page).getByRole('switch', { name: 'Rounded box 2' }).click();

  // What it is made of is not shown, and still moves it.
  await row(page, 'Rounded box 2').click();
  await type(page.getByLabel('Position X', { exact: true }), '1.5');
  await settled(page);
  await row(page, 'Rounded box, solid').click();
  await expect(facts(page)).toContainText('Closed: 14 m³');
  for (let i = 0; i < 7; i++) await undo(page);
  await settled(page);
  await expect(row(page, 'Rounded box, solid')).toHaveCount(0);
  expect((await printed(page)).volume).toBeCloseTo(16, 4);
});

test('a run is joined to what it stands on, and the solid follows it; open ones are named and mended', async ({
  page,
}) => {
  await newScene(page);
  await make(page, 'Plane', { Width: '8', Depth: '4' });
  await takeProps(page, 'Crate');
  await pathByNumbers(page, [
    [-3, 0],
    [3, 0],
  ]);
  await hang(page, 'Crate');
  await settled(page);
  await openStep(page, 'Ground');
  await page.getByRole('radio', { name: 'Land', exact: true }).click();
  await settled(page);
  // Alone it is taken with what it stands on.
  await choose(page, 'More for this run', 'Join to a solid');
  await settled(page);
  // A plane is no body: it is said, and its crates are joined all the same.
  await expect(alerts(page).first()).toContainText('of “Plane” is not closed');
  // Its four sides, in as many edges as they have.
  const [, edges] = /\((\d+) open edges\)/.exec((await alerts(page).first().textContent())!)!;
  const found = page.getByRole('group', { name: 'What was found' }).getByRole('img', { name: 'Found here' });
  await expect(found).toHaveCount(Number(edges));
  // Seen along the line that they stood on: as large as what was made of them, not as the line is.
  await page.getByRole('button', { name: 'Side', exact: true }).click();
  await page.keyboard.press('Home');
  await settled(page);
  const [foot, top] = [await onScreen(page, [0, 0, 0]), await onScreen(page, [0, 0.5, 0])];
  expect(foot.y - top.y).toBeGreaterThan(40);
  expect(foot.y - top.y).toBeLessThan(400);
  const crates = await printed(page);
  expect(crates.open).toBe(0);
  expect(crates.volume).toBeGreaterThan(0.1);
  await row(page, 'Plane Surface').click();
  await command(page, 'thicken');
  await settled(page);
  await row(page, 'Plane, solid').click();
  await expect(alerts(page)).toHaveCount(0);
  await expect(facts(page)).toContainText(/Closed: [\d.]+ m³/);
  const whole = await printed(page);
  expect(whole.open).toBe(0);
  expect(whole.volume).toBeGreaterThan(crates.volume);
});

test('what a printer makes of a block comes below everything else: its weight, walls and detail at a scale', async ({
  page,
}) => {
  await newScene(page);
  await block(page, 0);
  await expect(facts(page)).toContainText('Closed: 8 m³ within 24 m² of faces.');
  await expect(print(page)).toContainText('Weighs 9,920 kg.');
  await expect(print(page)).toContainText('Thinnest wall 2,000 mm');
  const above = page.getByRole('heading', { name: 'Take a path' });
  const place = async () => [await above.boundingBox(), await print(page).boundingBox()].map((box) => box!.y);
  const [before, own] = await place();
  expect(own).toBeGreaterThan(before);
  await type(print(page).getByLabel('Printed at 1 :'), '100');
  await expect(print(page)).toContainText('Weighs 9.92 g.');
  await expect(print(page)).toContainText('Thinnest wall 20 mm');
  // A thinner one, the old words staying until the new are known: nothing has moved but what changed.
  await type(page.getByLabel('Height', { exact: true }), '0.1');
  await expect(print(page)).toContainText('Thinnest wall 1 mm; ');
  expect((await place())[0]).toBe(before);
});

test('a dust sheet is let down over a box: as high as it, soft beside it, thick, and onto the next thing', async ({
  page,
}) => {
  await newScene(page);
  await block(page, 0);
  await row(page, 'Rounded box Surface').click();
  await choose(page, 'More for this surface', 'Dust sheet over it');
  const sheet = page.getByRole('region', { name: 'Dust sheet' });
  await expect(sheet.getByRole('switch', { name: 'Rounded box' })).toBeChecked();
  await type(sheet.getByLabel('Distance', { exact: true }), '25 cm');
  await type(sheet.getByLabel('Softness', { exact: true }), '0');
  await command(page, 'thicken');
  await settled(page);
  await page.getByRole('button', { name: 'Hide Rounded box', exact: true }).click();
  const body = await printed(page);
  expect(body.open).toBe(0);
  expect(body.max[2] / 1000).toBeCloseTo(2.25, 5);
  await type(sheet.getByLabel('Fineness', { exact: true }), '0.001');
  await expect(alerts(page).first()).toContainText('more than 1,000 squares along a side');
});

test('STL, 3MF and OBJ at a scale: read by readers of other hands, their size and closedness told before', async ({
  page,
}) => {
  await newScene(page);
  await block(page, 0);
  await make(page, 'Plane', { Width: '4', Depth: '4' });
  const choices = async () => {
    const dialog = page.getByRole('dialog');
    const button = await dialog.getByRole('button', { name: 'Send out' }).boundingBox();
    await type(dialog.getByLabel('Scale 1 :'), '100');
    await expect(dialog.getByRole('status')).toContainText('40 × 40 × 20 mm · 2 parts');
    await expect(dialog.getByRole('status')).toContainText('Not closed: “Plane”');
    // What comes late pushes nothing away from under the pointer.
    expect(await dialog.getByRole('button', { name: 'Send out' }).boundingBox()).toEqual(button);
  };
  const stl = await sendOut(page, 'stl', choices);
  const geometry = new STLLoader().parse(new Uint8Array(stl).buffer);
  geometry.computeBoundingBox();
  expect(geometry.boundingBox!.max.z).toBeCloseTo(20, 4);
  expect(geometry.boundingBox!.max.x).toBeCloseTo(20, 4);
  const obj = new OBJLoader().parse((await sendOut(page, 'obj')).toString('utf8'));
  expect(obj.children.map((c) => c.name)).toEqual(['Rounded_box', 'Plane']);
  const [mesh] = obj.children as Mesh[];
  mesh.geometry.computeBoundingBox();
  expect(mesh.geometry.boundingBox!.max.y).toBeCloseTo(0.02, 6);
  const mf = await sendOut(page, '3mf');
  expect(mf.subarray(0, 2).toString()).toBe('PK');
  // The scale stays with the scene, and is undone like anything else.
  await expect(page.getByRole('button', { name: 'Undo print: scale 1 to 1 → 100' })).toBeVisible();
});

test('lines that cross become one closed network; near misses are told, and joined within its reach', async ({
  page,
}) => {
  await newScene(page);
  await pathByNumbers(page, [
    [-2, 0],
    [2, 0],
  ]);
  await pathByNumbers(page, [
    [0, -2],
    [0, 2],
  ]);
  await row(page, 'Path Path').click();
  await row(page, 'Path 2').click({ modifiers: ['Control'] });
  await command(page, 'weld tubes');
  await settled(page);
  const network = page.getByRole('region', { name: 'Network' });
  await expect(network.getByRole('switch', { name: 'Path 2' })).toBeChecked();
  await type(network.getByLabel('Joints', { exact: true }), '0');
  await type(network.getByLabel('Sides', { exact: true }), '64');
  const r = 0.05;
  const whole = 2 * (Math.PI * r * r * 4 + (4 / 3) * Math.PI * r ** 3);
  const body = await printed(page);
  expect(body.open).toBe(0);
  // Less the bicylinder that both share.
  expect(body.volume / (whole - (16 / 3) * r ** 3)).toBeCloseTo(1, 2);
  await row(page, 'Path 2').click();
  for (const n of [1, 2]) await type(page.getByLabel(`Point ${n} Y in the list`), '0.2');
  await row(page, 'Network Surface').click();
  await expect(alerts(page).first()).toContainText('nearly meet at 1 place; the nearest are 0.1 m apart');
  await page.getByRole('button', { name: 'Look at what was found' }).click();
  // It is marked where it is, in the middle of what is looked at.
  const near = page.getByRole('group', { name: 'What was found' }).getByRole('img', { name: '0.1 m apart' });
  await expect(near).toHaveCount(1);
  await settled(page);
  const [mark, view] = await Promise.all(
    [near.locator('circle').first(), page.locator('canvas').first()].map((l) => l.boundingBox()),
  );
  expect(Math.abs(mark!.x + mark!.width / 2 - (view!.x + view!.width / 2))).toBeLessThan(4);
  await type(network.getByLabel('Reach', { exact: true }), '12 cm');
  await expect(alerts(page)).toHaveCount(0);
  await expect(near).toHaveCount(0);
  expect((await printed(page)).volume).toBeGreaterThan(body.volume);
});

test('a profile is swept along a path: plain, then one that was drawn, twisted, as a body', async ({
  page,
}) => {
  await newScene(page);
  await pathByNumbers(page, [
    [0, -2],
    [0, 2],
  ]);
  await choose(page, 'New path or surface', 'Profile along a path');
  await settled(page);
  await type(page.getByLabel('Width', { exact: true }), '0.4');
  await type(page.getByLabel('Height', { exact: true }), '0.5');
  await pickOption(page, page, 'Profile', 'Square');
  const square = await printed(page);
  expect(square.open).toBe(0);
  expect(square.volume).toBeCloseTo(0.4 * 0.5 * 4, 5);
  await type(page.getByLabel('End size', { exact: true }), '50');
  await settled(page);
  // A frustum: (1 + ½ + ¼) / 3 of the prism.
  expect((await printed(page)).volume).toBeCloseTo((0.8 * 7) / 12, 5);
  await undo(page);
  await page.getByRole('switch', { name: 'Ends closed' }).click();
  await expect(facts(page)).toContainText('Open');
  await undo(page);
  await settled(page);

  // A triangle of 2 m², drawn on the ground.
  await pathByNumbers(page, [
    [3, 0],
    [5, 0],
    [5, 2],
  ]);
  await row(page, 'Path 2').click();
  await page.getByRole('radio', { name: 'Closed', exact: true }).click();
  await settled(page);
  await row(page, 'Profile along a path').click();
  await pickOption(page, page, 'Profile', 'Path 2');
  const drawn = await printed(page);
  expect(drawn.open).toBe(0);
  expect(drawn.volume).toBeCloseTo(2 * 4, 4);
});
