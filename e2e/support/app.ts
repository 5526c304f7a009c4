import { readFile } from 'node:fs/promises';
import { expect, type Download, type Locator, type Page } from '@playwright/test';
import Papa from 'papaparse';
import type {} from '@/view/undrawn';

/** What the browser tests do again and again, as a person would. */

/** Waits until results, meshes, saving and the camera have come to rest. */
export async function settled(page: Page): Promise<void> {
  await scene(page).waitFor();
  await page.evaluate(() => window.clothesline!.settled!());
}

/** The start page; where it is open already it stays. */
async function startPage(page: Page): Promise<void> {
  const { pathname, protocol } = new URL(page.url());
  if (pathname !== '/' || protocol === 'about:') await page.goto('/');
}

export async function openExample(page: Page, title = 'Tern Quay'): Promise<void> {
  await startPage(page);
  await page.getByRole('button', { name: new RegExp(`Open the example ${title}`) }).click();
  await settled(page);
}

/** Opens the text of a scene as a file. */
export async function openText(page: Page, name: string, scene: string): Promise<void> {
  await startPage(page);
  const buffer = Buffer.from(scene);
  await page.getByLabel('Scene file').setInputFiles({ name, mimeType: 'application/json', buffer });
  await settled(page);
}

/** A small scene: the bollards of a quay with a keep-out at its steps, and its lamp posts. */
export const openQuay = async (page: Page): Promise<void> =>
  openText(page, 'quay.json', await readFile('src/core/testing/fixtures/version-2.json', 'utf8'));

export async function newScene(page: Page): Promise<void> {
  await startPage(page);
  await page.getByRole('button', { name: 'New scene' }).click();
  await settled(page);
}

export const scene = (page: Page): Locator => page.getByRole('application', { name: 'Scene' });

/** A place in the scene by its share of the view. */
export async function at(page: Page, x: number, y: number): Promise<{ x: number; y: number }> {
  const box = (await scene(page).boundingBox())!;
  return { x: box.x + box.width * x, y: box.y + box.height * y };
}

/** Where a place of the scene is seen, in pixels of the page. */
export const onScreen = (page: Page, place: [number, number, number]): Promise<{ x: number; y: number }> =>
  page.evaluate((p) => window.clothesline!.onScreen!(p), place);

export async function clickAt(page: Page, x: number, y: number): Promise<void> {
  const p = await at(page, x, y);
  await page.mouse.move(p.x, p.y);
  await page.mouse.click(p.x, p.y);
}

/** Draws a path through shares of the view, seen from the top, and finishes it with Enter. */
export async function drawPath(page: Page, points: [number, number][]): Promise<void> {
  await page.getByRole('button', { name: 'Top', exact: true }).click();
  await page.getByRole('button', { name: 'Draw path' }).first().click();
  for (const [x, y] of points) await clickAt(page, x, y);
  await page.keyboard.press('Enter');
  await settled(page);
}

/** Takes props from the library by their names. */
export async function takeProps(page: Page, ...names: string[]): Promise<void> {
  await page.getByRole('button', { name: 'Add props' }).click();
  for (const name of names) await page.getByRole('button', { name: `Add ${name}`, exact: true }).click();
  await page.keyboard.press('Escape');
  await settled(page);
}

/** Hangs a prop of the basket on the path in hand. */
export async function hang(page: Page, prop: string): Promise<void> {
  await page.getByRole('button', { name: prop, exact: true }).hover();
  await page.getByRole('button', { name: `Hang ${prop}` }).click();
  await settled(page);
}

/** Chooses an entry of the menu behind a button. */
export async function choose(page: Page, menu: string | Locator, entry: string | RegExp): Promise<void> {
  await (typeof menu === 'string' ? page.getByRole('button', { name: menu, exact: true }) : menu).click();
  await page.getByRole('menuitem', { name: entry, exact: typeof entry === 'string' }).click();
}

/** Chooses one of several behind a field of its label. */
export async function pickOption(
  page: Page,
  within: Locator | Page,
  label: string,
  option: string,
): Promise<void> {
  await within.getByRole('button', { name: label, exact: true }).click();
  await page.getByRole('option', { name: option, exact: true }).click();
}

/** A corner path by numbers: drawn anywhere, then its points typed. */
export async function pathByNumbers(page: Page, points: [number, number][]): Promise<void> {
  await page.getByRole('button', { name: 'Top', exact: true }).click();
  await page.getByRole('button', { name: 'Draw path' }).first().click();
  await page.getByRole('radio', { name: 'Corners' }).click();
  const n = points.length;
  for (let i = 0; i < n; i++)
    await clickAt(page, 0.25 + (0.5 * i) / Math.max(1, n - 1), 0.35 + 0.2 * (i % 2));
  await page.keyboard.press('Enter');
  await settled(page);
  for (const [i, [x, z]] of points.entries()) {
    await type(page.getByLabel(`Point ${i + 1} X in the list`), String(x));
    await type(page.getByLabel(`Point ${i + 1} Z in the list`), String(z));
  }
  await page.keyboard.press('Escape');
  await settled(page);
}

/** Makes a surface of its own shape in the middle of the scene, with values by the labels of their fields. */
export async function make(page: Page, shape: string, values: Record<string, string> = {}): Promise<void> {
  await choose(page, 'New path or surface', shape);
  await settled(page);
  for (const axis of ['X', 'Y', 'Z']) await type(page.getByLabel(`Position ${axis}`, { exact: true }), '0');
  for (const [label, value] of Object.entries(values))
    await type(page.getByLabel(label, { exact: true }), value);
  await settled(page);
}

/** The live counts on top of the recipe. */
export async function counts(page: Page): Promise<{ placed: number; gaps: number }> {
  const text = await page.getByTestId('counts').innerText();
  const [placed, gaps] = [...text.matchAll(/[\d,]+/g)].map((m) => Number(m[0].replace(/,/g, '')));
  return { placed, gaps };
}

/** Opens a step of the recipe if it is closed. */
export async function openStep(page: Page, title: string): Promise<Locator> {
  const step = page.getByRole('region', { name: title, exact: true });
  const button = step.getByRole('button').first();
  // What was worked out meanwhile may move it from under the pointer: then it is clicked again.
  await expect(async () => {
    if ((await button.getAttribute('aria-expanded')) !== 'true') await button.click();
    await expect(button).toHaveAttribute('aria-expanded', 'true', { timeout: 2000 });
  }).toPass();
  return step;
}

/** Opens a seldom setting of a step, by the line that offers it. */
export async function add(step: Locator, ...names: string[]): Promise<void> {
  for (const name of names) await step.getByRole('button', { name: `Add ${name}`, exact: true }).click();
}

/** Types into a number field and takes it with Enter. */
export async function type(field: Locator, text: string): Promise<void> {
  await field.click();
  await field.fill(text);
  await field.press('Enter');
}

export interface Row {
  arrangement: string;
  prop: string;
  slot: string;
  state: string;
  reason: string;
  x: number;
  y: number;
  z: number;
  qx: number;
  qy: number;
  qz: number;
  qw: number;
  sx: number;
  sy: number;
  sz: number;
  s: number;
}

const NUMBERS = ['x', 'y', 'z', 'qx', 'qy', 'qz', 'qw', 'sx', 'sy', 'sz', 's'];

/** What is said as a problem (the router's own announcer aside). */
export const alerts = (page: Page): Locator => page.locator('[role="alert"]:not(#__next-route-announcer__)');

/** Sends the scene out through the dialog. `choose` sets the dialog's options. */
export async function sendOut(
  page: Page,
  format: 'glb' | 'stl' | '3mf' | 'obj' | 'csv' | 'clothesline',
  choose?: () => Promise<void>,
): Promise<Buffer> {
  await settled(page);
  await page.getByRole('button', { name: 'Send out' }).first().click();
  const dialog = page.getByRole('dialog');
  const choice = dialog.getByRole('radio', { name: new RegExp(`\\.${format}`) });
  if (!(await choice.isChecked())) await choice.click();
  await choose?.();
  const [download] = await Promise.all([
    page.waitForEvent('download', { timeout: 60_000 }).catch(async () => {
      throw new Error(`No file came. What is open: ${(await dialog.allInnerTexts()).join()}`);
    }),
    dialog.getByRole('button', { name: 'Send out' }).click(),
  ]);
  expect(download.suggestedFilename()).toMatch(new RegExp(`\\.${format}$`));
  return bytesOf(download);
}

const bytesOf = async (d: Download): Promise<Buffer> => readFile((await d.path())!);

/** The rows of a .csv that was sent out. */
export function readRows(csv: string): Row[] {
  const parsed = Papa.parse<Record<string, string>>(csv, { header: true, skipEmptyLines: true });
  expect(parsed.errors).toEqual([]);
  return parsed.data.map(
    (r) =>
      Object.fromEntries(
        Object.entries(r).map(([k, v]) => [k, NUMBERS.includes(k) ? Number(v) : v]),
      ) as unknown as Row,
  );
}

/** The rows of the scene as the .csv has them that would be sent out now, gaps included. */
export async function rows(page: Page): Promise<Row[]> {
  await settled(page);
  return readRows(await page.evaluate(() => window.clothesline!.table!()));
}

/** What the prop's front and up axes point at. */
export function axes(r: Row): { front: number[]; up: number[] } {
  const { qx: x, qy: y, qz: z, qw: w } = r;
  return {
    front: [2 * (x * z + y * w), 2 * (y * z - x * w), 1 - 2 * (x * x + y * y)],
    up: [2 * (x * y - z * w), 1 - 2 * (x * x + z * z), 2 * (y * z + x * w)],
  };
}

/** Shows the scene at a moment, seconds. */
export async function setTime(page: Page, seconds: string): Promise<void> {
  await page.getByRole('button', { name: 'Speed and loop' }).click();
  await type(page.getByLabel('Time', { exact: true }), seconds);
  await page.keyboard.press('Escape');
  await settled(page);
}

export const undo = (page: Page): Promise<void> => page.keyboard.press('Control+z');

/** From the example's metres (x, z) to the screen, seen from the top: its quay edge runs from −22 to 22. */
export async function fromTop(page: Page): Promise<(x: number, z: number) => { x: number; y: number }> {
  await page.getByRole('button', { name: 'Top', exact: true }).click();
  await page.getByRole('button', { name: 'Fit', exact: true }).click();
  await settled(page);
  const [a, b] = await Promise.all(
    [1, 8].map(
      async (n) => (await page.getByRole('button', { name: `Point ${n}`, exact: true }).boundingBox())!,
    ),
  );
  const k = (b.x - a.x) / 44;
  return (x, z) => ({ x: a.x + a.width / 2 + k * (x + 22), y: a.y + a.height / 2 + k * (z - 5.5) });
}

/** A new scene with crates along a straight path on the ground, so far apart. */
export async function cratesAlong(page: Page, points: [number, number][], pitch: string): Promise<void> {
  await newScene(page);
  await takeProps(page, 'Crate');
  await pathByNumbers(page, points);
  await hang(page, 'Crate');
  await type((await openStep(page, 'Spacing')).getByLabel('Pitch', { exact: true }), pitch);
  await settled(page);
}
