import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Document, WebIO } from '@gltf-transform/core';
import { ALL_EXTENSIONS } from '@gltf-transform/extensions';
import { expect, type Page } from '@playwright/test';
import { strToU8, unzipSync, zipSync } from 'fflate';
import validator from 'gltf-validator';
import {
  alerts,
  counts,
  drawPath,
  newScene,
  onScreen,
  openExample,
  openQuay,
  readRows,
  rows,
  sendOut,
  settled,
  type,
} from './support/app';
import { glbOf } from './support/glb';
import { ownTest as test } from './support/test';

const folder = mkdtempSync(join(tmpdir(), 'files-'));
const file = (name: string, bytes: Uint8Array | string) => {
  const path = join(folder, name);
  writeFileSync(path, bytes);
  return path;
};

/** A wedge of 20 × 30 × 50 cm, made in centimetres with Z up, standing away from its origin. */
function wedge(k = 1): Promise<Uint8Array> {
  const at = (x: number, y: number, z: number) => [100 + x * k, y * k, 10 + z * k];
  const p = [...at(0, 0, 0), ...at(20, 0, 0), ...at(20, 30, 0), ...at(0, 30, 0), ...at(10, 15, 50)];
  return glbOf(p, [0, 2, 1, 0, 3, 2, 0, 1, 4, 1, 2, 4, 2, 3, 4, 3, 0, 4]);
}

async function bringIn(page: Page, path: string): Promise<void> {
  await page.getByRole('button', { name: 'Bring in', exact: true }).click();
  await page.getByLabel('File to bring in').setInputFiles(path);
}

test('what is sent out as .glb is valid and holds every placed prop, either way', async ({ page }) => {
  await openExample(page);
  const io = new WebIO().registerExtensions(ALL_EXTENSIONS);
  const instanced = await sendOut(page, 'glb');
  expect((await validator.validateBytes(new Uint8Array(instanced))).issues.numErrors).toBe(0);
  const groups = (await io.readBinary(new Uint8Array(instanced)))
    .getRoot()
    .listNodes()
    .flatMap((n) => (n.getExtras().slots as string[] | undefined) ?? []);
  // With what is in the sixteen crates of jars, which are nodes of their own where all are.
  expect(groups).toHaveLength(464);
  const nodes = await sendOut(page, 'glb', async () => {
    await page.getByRole('radio', { name: 'Plain nodes' }).click();
    await page.getByLabel('Surfaces go along').uncheck();
  });
  expect((await validator.validateBytes(new Uint8Array(nodes))).issues.numErrors).toBe(0);
  const document = await io.readBinary(new Uint8Array(nodes));
  const placed = document
    .getRoot()
    .listNodes()
    .filter((n) => n.getExtras().slot);
  expect(placed).toHaveLength(480);
  expect(
    document
      .getRoot()
      .listNodes()
      .map((n) => n.getName()),
  ).not.toContain('Quay');
  // Where the table says, too.
  const table = (await rows(page)).filter((r) => r.state === 'placed' && r.arrangement === 'Lamp posts');
  for (const r of table) {
    const node = placed.find((n) => n.getName() === `Lamp post ${r.slot}`)!;
    node.getTranslation().forEach((v, a) => expect(v).toBeCloseTo([r.x, r.y, r.z][a], 5));
  }
});

test('a .clothesline opens again exactly as it was, and the shell gives the same numbers', async ({
  page,
}) => {
  await openExample(page);
  await type(page.getByLabel('Pitch', { exact: true }), '2.1');
  await page.locator('[data-slot="2"]').click();
  await page.getByLabel('Scene name').fill('Quay, other');
  await page.keyboard.press('Enter');
  const before = await rows(page);
  const packed = await sendOut(page, 'clothesline');
  const path = file('quay.clothesline', packed);
  await page.goto('/');
  await page.getByLabel('Scene file').setInputFiles(path);
  await settled(page);
  await expect(page.getByLabel('Scene name')).toHaveValue('Quay, other');
  expect(await rows(page)).toEqual(before);
  expect((await sendOut(page, 'clothesline')).equals(packed)).toBe(true);
  const out = join(folder, 'shell.csv');
  execFileSync('npm', ['run', '-s', 'evaluate', '--', path, '--out', out, '--gaps'], { stdio: 'pipe' });
  const inBrowser = await sendOut(page, 'csv', () => page.getByLabel(/A row for every gap/).check());
  expect(readFileSync(out, 'utf8')).toBe(inBrowser.toString());
  expect(readRows(inBrowser.toString())).toEqual(before);
});

test('an own .glb as a prop: size and up axis are shown and corrected, the foot is its base centre', async ({
  page,
}) => {
  await newScene(page);
  await drawPath(page, [
    [0.25, 0.5],
    [0.75, 0.5],
  ]);
  await bringIn(page, file('wedge.glb', await wedge()));
  const dialog = page.getByRole('dialog');
  // glTF counts in metres: what it says is what is taken, until it is corrected.
  await expect(dialog.getByTestId('size')).toHaveText('20 m × 50 m × 30 m');
  await dialog.getByRole('button', { name: 'The file is in' }).click();
  await page.getByRole('option', { name: 'centimetres' }).click();
  await dialog.getByRole('button', { name: 'Up axis' }).click();
  await page.getByRole('option', { name: '+Z' }).click();
  await expect(dialog.getByTestId('size')).toHaveText('0.2 m × 0.3 m × 0.5 m');
  await dialog.getByRole('button', { name: 'Put in the basket' }).click();
  await settled(page);
  await page.getByRole('button', { name: 'wedge', exact: true }).hover();
  await page.getByRole('button', { name: 'Hang wedge' }).click();
  await settled(page);
  const list = await rows(page);
  // 1.5 times its length of 0.3 m, evened out.
  expect(list[1].s - list[0].s).toBeGreaterThan(0.42);
  expect(list[1].s - list[0].s).toBeLessThan(0.48);
  const glb = await sendOut(page, 'glb');
  const mesh = (await new WebIO().registerExtensions(ALL_EXTENSIONS).readBinary(new Uint8Array(glb)))
    .getRoot()
    .listMeshes()[0];
  const position = mesh.listPrimitives()[0].getAttribute('POSITION')!;
  position.getMin([0, 0, 0]).forEach((v, a) => expect(v).toBeCloseTo([-0.1, 0, -0.15][a], 5));
  position.getMax([0, 0, 0]).forEach((v, a) => expect(v).toBeCloseTo([0.1, 0.5, 0.15][a], 5));
  // It is there after a reload, and travels in the scene file.
  await page.reload();
  await settled(page);
  expect(await rows(page)).toEqual(list);
  const packed = unzipSync(new Uint8Array(await sendOut(page, 'clothesline')));
  expect(Object.keys(packed).filter((n) => n.startsWith('meshes/'))).toHaveLength(1);
  // A newer file of it, half as large again: it comes in as the one before did, and stands where that stood.
  await page.getByRole('button', { name: 'wedge', exact: true }).click();
  await bringIn(page, file('wedge2.glb', await wedge(1.5)));
  await dialog.getByRole('radio', { name: '“wedge” anew' }).click();
  await expect(dialog.getByTestId('size')).toHaveText('0.3 m × 0.45 m × 0.75 m');
  await dialog.getByRole('button', { name: 'Replace the mesh' }).click();
  await settled(page);
  await expect(page.getByRole('button', { name: 'Undo replace the mesh of “wedge”' })).toBeVisible();
  const again = (
    await new WebIO()
      .registerExtensions(ALL_EXTENSIONS)
      .readBinary(new Uint8Array(await sendOut(page, 'glb')))
  )
    .getRoot()
    .listMeshes()[0]
    .listPrimitives()[0]
    .getAttribute('POSITION')!;
  again.getMax([0, 0, 0]).forEach((v, a) => expect(v).toBeCloseTo([0.15, 0.75, 0.225][a], 5));
});

test('a terrain of 120 m comes in as 120 m; what is absurdly large asks for its unit', async ({ page }) => {
  await newScene(page);
  for (const [k, size, asks] of [
    [4, '80 m × 200 m × 120 m', false],
    [200, '4000 m × 10000 m × 6000 m', true],
  ] as const) {
    await bringIn(page, file(`large${k}.glb`, await wedge(k)));
    const dialog = page.getByRole('dialog');
    await expect(dialog.getByTestId('size')).toHaveText(size);
    await expect(dialog.getByText('If the file does not count in metres')).toHaveCount(asks ? 1 : 0);
    await page.keyboard.press('Escape');
  }
});

test('an own .glb as a surface: a path is drawn on it', async ({ page }) => {
  await newScene(page);
  const deck = await glbOf([-8, 1.5, 8, 8, 1.5, 8, 8, 1.5, -8, -8, 1.5, -8], [0, 1, 2, 0, 2, 3]);
  await bringIn(page, file('deck.glb', deck));
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('radio', { name: 'A surface' }).click();
  await dialog.getByRole('button', { name: 'Put in the scene' }).click();
  await settled(page);
  await drawPath(page, [
    [0.4, 0.5],
    [0.6, 0.5],
  ]);
  expect(Number(await page.getByLabel('Point 1 Y in the list').inputValue())).toBeCloseTo(1.5, 3);
});

test('files that cannot be read say so beside the button, and change nothing', async ({ page }) => {
  await newScene(page);
  const good = await wedge();
  const lines = new Document();
  const position = lines
    .createAccessor()
    .setType('VEC3')
    .setArray(new Float32Array([0, 0, 0, 1, 0, 0]))
    .setBuffer(lines.createBuffer());
  lines
    .createScene()
    .addChild(
      lines
        .createNode()
        .setMesh(
          lines
            .createMesh()
            .addPrimitive(lines.createPrimitive().setMode(1).setAttribute('POSITION', position)),
        ),
    );
  await page.getByRole('button', { name: 'Bring in', exact: true }).click();
  for (const [name, bytes, text] of [
    ['broken.glb', good.slice(0, 200), 'cut short'],
    ['empty.glb', new Uint8Array(0), 'is empty'],
    ['picture.glb', 'not a mesh at all, only some text', 'not a binary glTF'],
    ['lines.glb', await new WebIO().writeBinary(lines), 'no faces'],
  ] as [string, Uint8Array | string, string][]) {
    await page.getByLabel('File to bring in').setInputFiles(file(name, bytes));
    await expect(alerts(page)).toContainText(text);
  }
  await page.keyboard.press('Escape');
  await expect(page.getByText('No props yet.')).toBeVisible();
  await expect(page.getByRole('banner').getByRole('button', { name: 'Undo', exact: true })).toBeDisabled();
});

test('scene files that are newer, truncated, incomplete or with unknown fields', async ({ page }) => {
  await page.goto('/');
  const packed = readFileSync('examples/tern-quay.clothesline');
  const entries = unzipSync(new Uint8Array(packed));
  const json = JSON.parse(new TextDecoder().decode(entries['scene.json']));
  const zip = (scene: object) => zipSync({ 'scene.json': strToU8(JSON.stringify(scene)) });
  const open = (name: string, bytes: Uint8Array) =>
    page.getByLabel('Scene file').setInputFiles(file(name, bytes));
  await open('newer.clothesline', zip({ ...json, version: 99 }));
  await expect(alerts(page).first()).toContainText('newer Clothesline');
  await open('short.clothesline', packed.subarray(0, packed.length / 2));
  await expect(alerts(page).first()).toContainText('damaged or cut short');
  await expect(page.getByText('None yet.')).toBeVisible();
  const props = [
    { ...json.props[0], mesh: { source: 'file', hash: 'c'.repeat(64), format: 'glb', fileName: 'own.glb' } },
    ...json.props.slice(1),
  ];
  await open('missing.clothesline', zip({ ...json, props, sparkle: true }));
  await expect(page.getByRole('status')).toContainText('1 mesh did not come along');
  await expect(page.getByRole('status')).toContainText(
    '1 field that this version does not know, the first at sparkle',
  );
  await page.getByRole('button', { name: 'Open the scene' }).click();
  await settled(page);
  // The rest goes on; the run says what is missing.
  await page.getByRole('region', { name: 'Checks' }).getByRole('button').first().click();
  await expect(page.getByText(/The mesh of “Bollard” is not at hand/).first()).toBeVisible();
  expect((await counts(page)).placed).toBeGreaterThan(20);
});

test('a pitch of nothing, less, or next to nothing is held to the least; what cannot be is said', async ({
  page,
}) => {
  await openQuay(page);
  const pitch = page.getByLabel('Pitch', { exact: true });
  const step = page.getByRole('region', { name: 'Spacing' });
  for (const text of ['0', '-2', '1e-9']) {
    await type(pitch, text);
    await expect(step.getByRole('status').filter({ hasText: 'Held to 0.001' })).toBeVisible();
    await settled(page);
    // One slot a millimetre on 46 m, and nothing else has changed.
    const { placed, gaps } = await counts(page);
    expect(placed + gaps).toBeGreaterThan(45_000);
  }
  await expect(page.getByRole('button', { name: /Lamp posts Run · 5 placed/ })).toBeVisible();
  await type(pitch, 'soon');
  await expect(pitch).toHaveAttribute('aria-invalid', 'true');
  await type(pitch, '1.8');
  await settled(page);
  expect(await counts(page)).toEqual({ placed: 25, gaps: 2 });
  // A path down to one point, and with its points in one place.
  await page.getByRole('button', { name: /Lamp line Path/ }).click();
  for (let i = 5; i > 1; i--) {
    await page.getByRole('button', { name: `Select point ${i}` }).click();
    await page.keyboard.press('Delete');
  }
  await expect(alerts(page).first()).toContainText('fewer than two points');
  for (let i = 0; i < 3; i++) await page.keyboard.press('Control+z');
  for (const axis of ['X', 'Z']) {
    const first = await page.getByLabel(`Point 1 ${axis} in the list`).inputValue();
    await type(page.getByLabel(`Point 2 ${axis} in the list`), first);
  }
  for (const i of [4, 3]) {
    await page.getByRole('button', { name: `Select point ${i}` }).click();
    await page.keyboard.press('Delete');
  }
  await expect(alerts(page).first()).toContainText('no length');
  await page.getByRole('button', { name: /Quay bollards Run/ }).click();
  expect(await counts(page)).toEqual({ placed: 25, gaps: 2 });
});

test('a surface that is brought in is looked at; an animation says how large it will be', async ({
  page,
}) => {
  await newScene(page);
  await page.getByRole('button', { name: 'Bring in' }).first().click();
  const far: number[] = [];
  for (const [x, z] of [
    [400, 300],
    [440, 300],
    [440, 340],
    [400, 340],
  ])
    far.push(x, 2, z);
  await page.getByLabel('File to bring in').setInputFiles({
    name: 'field.glb',
    mimeType: 'model/gltf-binary',
    buffer: Buffer.from(await glbOf(far, [0, 2, 1, 0, 3, 2])),
  });
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('radio', { name: 'A surface' }).click();
  await dialog.getByRole('button', { name: 'Put in the scene' }).click();
  await settled(page);
  const view = (await page.getByRole('application', { name: 'Scene' }).boundingBox())!;
  const middle = await onScreen(page, [420, 2, 320]);
  expect(Math.abs(middle.x - view.x - view.width / 2)).toBeLessThan(view.width / 6);
  expect(Math.abs(middle.y - view.y - view.height / 2)).toBeLessThan(view.height / 4);
  const [a, b] = [await onScreen(page, [400, 2, 300]), await onScreen(page, [440, 2, 340])];
  expect(Math.hypot(a.x - b.x, a.y - b.y)).toBeGreaterThan(view.width / 6);
  // A prop that is brought in is never said to be missing, not even for a moment.
  await page.evaluate(() => {
    const seen = () => (document.body.dataset.missing = 'yes');
    new MutationObserver(() => /not at hand/.test(document.body.innerText) && seen()).observe(document.body, {
      childList: true,
      subtree: true,
    });
  });
  await bringIn(page, file('wedge.glb', await wedge()));
  await page.getByRole('dialog').getByRole('button', { name: 'Put in the basket' }).click();
  await expect(page.getByLabel('Name of the prop')).toHaveValue('wedge');
  await settled(page);
  await expect(page.getByText('Wide × long × high')).toBeVisible();
  expect(await page.evaluate(() => document.body.dataset.missing)).toBeUndefined();
  await openExample(page, 'Ferry loop');
  await page.getByRole('button', { name: 'Send out' }).first().click();
  const out = page.getByRole('dialog');
  await out.getByRole('radio', { name: /\.glb/ }).click();
  await out.getByRole('radio', { name: 'Animation' }).click();
  const about = out.getByRole('status').filter({ hasText: 'about' });
  await expect(about).toBeVisible();
  const told = parseSize(await about.innerText());
  const [download] = await Promise.all([page.waitForEvent('download'), page.keyboard.press('Enter')]);
  let bytes = 0;
  for await (const part of await download.createReadStream()) bytes += (part as Buffer).length;
  expect(told / bytes).toBeGreaterThan(0.75);
  expect(told / bytes).toBeLessThan(1.35);
  // A long one shows how far it is, and can be given up.
  await page.getByRole('button', { name: 'Send out' }).first().click();
  await type(out.getByLabel('To second'), '40');
  await type(out.getByLabel('Frames a second'), '25');
  // In the moment in which it is said: a quick machine has all frames before a pointer, or a frame, has come there.
  await page.evaluate(() => {
    const watch = new MutationObserver(() => {
      const dialog = document.querySelector('[role="dialog"]');
      if (!/Working on frame \d+ of 1001/.test(dialog?.textContent ?? '')) return;
      [...dialog!.querySelectorAll('button')].find((b) => b.textContent?.trim() === 'Cancel')?.click();
      watch.disconnect();
    });
    watch.observe(document.body, { childList: true, subtree: true, characterData: true });
  });
  await out.getByRole('button', { name: 'Send out' }).click();
  await expect(out.getByRole('alert')).toHaveText('Cancelled. Nothing was changed.');
  await out.getByRole('radio', { name: /\.csv/ }).click();
  const [table] = await Promise.all([
    page.waitForEvent('download'),
    out.getByRole('button', { name: 'Send out' }).click(),
  ]);
  expect(table.suggestedFilename()).toMatch(/csv$/);
});

const parseSize = (text: string): number => {
  const [, number, unit] = /about ([\d.]+) (kB|MB)/.exec(text)!;
  return Number(number) * (unit === 'MB' ? 1e6 : 1e3);
};
