import { expect } from '@playwright/test';
import { WebIO } from '@gltf-transform/core';
import validator from 'gltf-validator';
import {
  at,
  axes,
  choose,
  counts,
  hang,
  make,
  newScene,
  onScreen,
  openStep,
  pathByNumbers,
  rows,
  sendOut,
  settled,
  takeProps,
  type,
  type Row,
  setTime,
} from './support/app';
import { test } from './support/test';

test.beforeEach(({ page }) => newScene(page));

const placed = (list: Row[]) => list.filter((r) => r.state === 'placed');
test('a run lands on a slope, leans with it, and what finds no ground is counted, shown and led to', async ({
  page,
}) => {
  await make(page, 'Plane', { Roll: '20' });
  await pathByNumbers(page, [
    [-9, 0],
    [5, 0],
  ]);
  await takeProps(page, 'Crate');
  await hang(page, 'Crate');
  await type((await openStep(page, 'Spacing')).getByLabel('Pitch', { exact: true }), '1');
  const ground = await openStep(page, 'Ground');
  await ground.getByRole('radio', { name: 'Land' }).click();
  await settled(page);
  const slope = Math.tan((20 * Math.PI) / 180);
  const half = 6 * Math.cos((20 * Math.PI) / 180);
  let list = await rows(page);
  for (const r of list) expect(r.y).toBeCloseTo(Math.abs(r.x) <= half ? r.x * slope : 0, 6);
  expect(axes(list[8]).up[1]).toBeCloseTo(1, 9);
  await ground.getByRole('radio', { name: 'Footprint' }).click();
  await type(ground.getByLabel('Lean', { exact: true }), '50');
  await settled(page);
  list = await rows(page);
  // Inside the slope each stands half way between upright and square to it.
  expect(axes(list[8]).up[1]).toBeCloseTo(Math.cos((10 * Math.PI) / 180), 6);
  // A fixed sink is typed from either end; so much to either side as well.
  const sink = (end: string) => ground.getByLabel(`Sink, ${end}`, { exact: true });
  await type(sink('least'), '0.3');
  await expect(sink('most')).toHaveValue('0.30');
  await type(sink('most'), '10 cm');
  await expect(sink('least')).toHaveValue('0.10');
  await type(sink('least'), '±5cm');
  await expect(sink('least')).toHaveValue('-0.05');
  await expect(sink('most')).toHaveValue('0.05');
  await type(sink('most'), '0');
  await type(sink('least'), '0');
  await type(ground.getByLabel('Lean', { exact: true }), '100');
  await type(ground.getByLabel('Leans at most'), '15');
  await settled(page);
  expect(axes((await rows(page))[8]).up[1]).toBeCloseTo(Math.cos((15 * Math.PI) / 180), 6);
  // The heights from the side.
  await page.getByRole('radio', { name: 'Heights' }).click();
  const heights = page.getByTestId('heights');
  await expect(heights).toBeVisible();
  expect(Number(await heights.getAttribute('data-low'))).toBeCloseTo(-half * slope, 1);
  await page.getByRole('radio', { name: 'Props', exact: true }).click();
  // Off the plane: left out, as rings with their reason.
  await ground.getByRole('radio', { name: 'Leave out' }).click();
  await settled(page);
  const off = (await rows(page)).filter((r) => r.reason === 'missed');
  expect(off.map((r) => r.x)).toEqual([-9, -8, -7, -6].map((x) => expect.closeTo(x, 6)));
  expect((await counts(page)).gaps).toBe(4);
  await expect(page.locator('[data-state="missed"]')).toHaveCount(4);
  const checks = await openStep(page, 'Checks');
  await checks.getByRole('button', { name: /4 props found no ground/ }).click();
  const panel = page.getByRole('group', { name: 'Selected prop' });
  await expect(panel.getByText('4 props')).toBeVisible();
  // One by one, each in the middle of the view.
  await checks.getByRole('button', { name: 'The next one' }).click();
  await expect(checks.getByText('1/4')).toBeVisible();
  await checks.getByRole('button', { name: 'The one before' }).click();
  await expect(panel.getByText(`#${off[3].slot}`, { exact: true })).toBeVisible();
  await settled(page);
  const seen = await onScreen(page, [off[3].x, off[3].y, off[3].z]);
  // In the middle of what the tools above and the buttons below leave free.
  const middle = await at(page, 0.5, 0.5);
  expect(Math.hypot(seen.x - middle.x, seen.y - (middle.y + 10))).toBeLessThan(3);
});

test('hugging a ball the props stand square to it; a surface flipped, flattened and hidden', async ({
  page,
}) => {
  await make(page, 'Sphere', { Radius: '3', Columns: '96', Rows: '48' });
  await choose(page, 'New path or surface', 'Circle');
  await settled(page);
  await type(page.getByLabel('Radius', { exact: true }), '5');
  for (const axis of ['X', 'Y', 'Z'])
    await type(page.getByLabel(`Position ${axis}`, { exact: true }), axis === 'Y' ? '2' : '0');
  await takeProps(page, 'Net float');
  await hang(page, 'Net float');
  const ground = await openStep(page, 'Ground');
  await ground.getByRole('radio', { name: 'Hug' }).click();
  await settled(page);
  const list = placed(await rows(page));
  expect(list.length).toBeGreaterThan(20);
  for (const r of list) {
    const far = Math.hypot(r.x, r.y, r.z);
    expect(Math.abs(far - 3)).toBeLessThan(0.01);
    [r.x, r.y, r.z].forEach((v, k) => expect(axes(r).up[k]).toBeCloseTo(v / far, 2));
  }
  await page.getByRole('button', { name: /^Sphere Surface/ }).click();
  await page.getByRole('radio', { name: 'Inside out' }).click();
  await page.getByRole('radio', { name: 'Normals', exact: true }).click();
  await settled(page);
  await page.getByRole('button', { name: /^Net float Run/ }).click();
  const inside = placed(await rows(page));
  inside.forEach((r, i) => expect(axes(r).up[0]).toBeCloseTo(-axes(list[i]).up[0], 6));
  // Hidden, it is no ground any more: that is said.
  await page.getByRole('button', { name: 'Hide Sphere' }).click();
  await settled(page);
  await expect((await openStep(page, 'Checks')).getByText(/There is no surface to stand on/)).toBeVisible();
});

test('pegs: under the pointer, over the edge without letting go, and on their material when it moves', async ({
  page,
}) => {
  await make(page, 'Rounded box');
  await page.getByRole('button', { name: 'Fit', exact: true }).click();
  await takeProps(page, 'Cleat');
  await page.keyboard.press('3');
  const move = async (place: [number, number, number], steps = 1) => {
    const p = await onScreen(page, place);
    await page.mouse.move(p.x, p.y, { steps });
  };
  await settled(page);
  await move([0.1, 2, 1.6]);
  await page.mouse.wheel(0, 100);
  await page.mouse.down();
  await page.mouse.up();
  await settled(page);
  await move([1.2, 2, 1.6]);
  await page.mouse.down();
  await page.mouse.up();
  await settled(page);
  let list = await rows(page);
  expect(list).toHaveLength(2);
  for (const r of list) {
    expect(r.y).toBeCloseTo(2, 5);
    expect(axes(r).up[1]).toBeCloseTo(1, 5);
  }
  // One over the edge, down onto the wall, as one step of the undo list.
  await move([0.1, 2, 1.6]);
  await page.mouse.down();
  await move([0.1, 1.7, 2], 4);
  await move([0.1, 1.2, 2], 4);
  await page.mouse.up();
  await settled(page);
  const slid = (await rows(page))[0];
  expect(slid.y).toBeLessThan(1.8);
  expect(Math.abs(axes(slid).up[1])).toBeLessThan(1e-4);
  expect(Math.max(Math.abs(slid.x), Math.abs(slid.z))).toBeCloseTo(2, 5);
  await page.keyboard.press('Control+z');
  await settled(page);
  expect((await rows(page))[0].y).toBeCloseTo(2, 5);
  // The box moves and turns: the pegs go with it.
  await page.keyboard.press('1');
  await page.getByRole('button', { name: /^Rounded box Surface/ }).click();
  await type(page.getByLabel('Position X', { exact: true }), '3');
  await type(page.getByLabel('Turn', { exact: true }), '90');
  await settled(page);
  const moved = await rows(page);
  moved.forEach((r, i) => {
    expect(r.x - 3).toBeCloseTo(list[i].z, 5);
    expect(r.z).toBeCloseTo(-list[i].x, 5);
  });
  // By numbers: lifted off, and let go, where it stays.
  await page.getByRole('button', { name: /^Pegs Pegs/ }).click();
  const places = await openStep(page, 'Places');
  await type(places.getByLabel(/^Peg \d+ lift$/).first(), '0.5');
  await settled(page);
  list = await rows(page);
  expect(list[0].y).toBeCloseTo(2.5, 5);
  const arrange = await openStep(page, 'Arrange');
  await arrange.getByRole('button', { name: 'Let go of the surface' }).click();
  await page.getByRole('button', { name: /^Rounded box Surface/ }).click();
  await type(page.getByLabel('Position X', { exact: true }), '0');
  await settled(page);
  expect((await rows(page)).map((r) => r.x)).toEqual(list.map((r) => expect.closeTo(r.x, 6)));
});

test('pegs in numbers: copied in a row, evenly distributed, mirrored, and turned to face the last', async ({
  page,
}) => {
  await make(page, 'Plane');
  await page.getByRole('button', { name: 'Top', exact: true }).click();
  await takeProps(page, 'Barrel');
  await page.keyboard.press('3');
  const p = await at(page, 0.5, 0.5);
  await page.mouse.move(p.x, p.y);
  await page.mouse.down();
  await page.mouse.up();
  await settled(page);
  await page.keyboard.press('1');
  const [first] = await rows(page);
  const arrange = await openStep(page, 'Arrange');
  await type(arrange.getByLabel('Copies', { exact: true }), '3');
  await type(arrange.getByLabel('Step of the copies X'), '0.8');
  await arrange.getByRole('button', { name: 'Copy in a row' }).click();
  await expect(page.getByText('4 pegs').first()).toBeVisible();
  let list = await rows(page);
  list.forEach((r, i) =>
    expect([r.x, r.y]).toEqual([expect.closeTo(first.x + 0.8 * i, 5), expect.closeTo(0, 6)]),
  );
  await arrange.getByRole('button', { name: 'Mirror copies across Z' }).click();
  await settled(page);
  list = await rows(page);
  expect(list).toHaveLength(7);
  expect(list.slice(4).map((r) => r.z)).toEqual([0, 1, 2].map(() => expect.closeTo(-first.z, 5)));
  await page.keyboard.press('Escape');
  await arrange.getByRole('button', { name: 'Distribute evenly' }).click();
  await settled(page);
  list = await rows(page);
  const [a, b] = [list[0], list[6]];
  list.forEach((r, i) => expect(r.x).toBeCloseTo(a.x + ((b.x - a.x) * i) / 6, 4));
  await arrange.getByRole('button', { name: 'Face the last one' }).click();
  await settled(page);
  for (const r of (await rows(page)).slice(0, 6)) {
    const far = Math.hypot(b.x - r.x, b.z - r.z);
    expect(axes(r).front[0]).toBeCloseTo((b.x - r.x) / far, 3);
  }
});

test('a prop that is locked on a surface that moves goes with its material, whatever becomes of the run', async ({
  page,
}) => {
  await make(page, 'Plane');
  await choose(page, 'Add a deformer', 'Wave');
  await pathByNumbers(page, [
    [-4, 0],
    [4, 0],
  ]);
  for (const n of [1, 2]) await type(page.getByLabel(`Point ${n} Y in the list`), '3');
  await takeProps(page, 'Barrel');
  await hang(page, 'Barrel');
  const ground = await openStep(page, 'Ground');
  await ground.getByRole('radio', { name: 'Land', exact: true }).click();
  await settled(page);
  await setTime(page, '0.9');
  const later = placed(await rows(page))[4];
  await setTime(page, '0.3');
  const now = placed(await rows(page))[4];
  expect(Math.abs(now.y - later.y)).toBeGreaterThan(0.01);
  await page.locator(`[data-slot="${now.slot}"]`).focus();
  await page.keyboard.press('Shift+Enter');
  await page
    .getByRole('group', { name: 'Selected prop' })
    .getByRole('button', { name: 'Lock where it stands' })
    .click();
  await settled(page);
  // The run is spaced anew: the locked one is where it was, and later where the wave has taken it.
  const spacing = await openStep(page, 'Spacing');
  await type(spacing.getByLabel('Inset at start'), '1.3');
  await settled(page);
  const at = async () => (await rows(page)).find((r) => r.slot === now.slot)!;
  const here = await at();
  expect([here.x, here.y, here.z]).toEqual([now.x, now.y, now.z].map((v) => expect.closeTo(v, 6)));
  await setTime(page, '0.9');
  const there = await at();
  expect([there.x, there.y, there.z]).toEqual([later.x, later.y, later.z].map((v) => expect.closeTo(v, 5)));
});

test('a wave runs along a line of the cloth: what is on it is right at every time, played and sent out', async ({
  page,
}) => {
  await make(page, 'Plane', { Columns: '96', Rows: '8' });
  await choose(page, 'Add a deformer', 'Wave');
  const wave = page.getByRole('group', { name: 'Wave' });
  await type(wave.getByLabel('Height', { exact: true }), '0.5');
  await type(wave.getByLabel('Crest to crest', { exact: true }), '4');
  await type(wave.getByLabel('Speed a second', { exact: true }), '1');
  await page.getByRole('button', { name: 'Lines of constant v' }).click();
  await settled(page);
  await takeProps(page, 'Net float');
  await hang(page, 'Net float');
  const ground = await openStep(page, 'Ground');
  await ground.getByRole('radio', { name: 'Hug' }).click();
  await settled(page);
  const height = (x: number, t: number) => 0.5 * Math.sin((2 * Math.PI * (x - t)) / 4);
  const right = async (t: number) => {
    const list = await rows(page);
    for (const r of list) expect(Math.abs(r.y - height(r.x, t))).toBeLessThan(0.01);
    return list;
  };
  const still = await right(0);
  await setTime(page, '1.5');
  const later = await right(1.5);
  expect(later.map((r) => r.y)).not.toEqual(still.map((r) => r.y));
  const slope = (r: Row, t: number) => Math.atan(Math.PI * 0.25 * Math.cos((2 * Math.PI * (r.x - t)) / 4));
  for (const r of later.slice(2, -2)) expect(axes(r).up[0]).toBeCloseTo(-Math.sin(slope(r, 1.5)), 1);
  // Played it goes on by itself; Space stops it.
  const clock = page.getByTestId('clock');
  await page.getByRole('button', { name: 'Play the time' }).click();
  await expect.poll(async () => parseFloat(await clock.innerText())).toBeGreaterThan(1.6);
  await page.getByRole('button', { name: 'Stop the time' }).click();
  await settled(page);
  await right(parseFloat(await clock.innerText()));
  await page.getByRole('button', { name: 'Time to the beginning' }).click();
  await settled(page);
  expect((await rows(page)).map((r) => r.y)).toEqual(still.map((r) => r.y));
  // As an animation: every baked place is on the wave of its time, and the sheet carries a morph target a frame.
  const bytes = await sendOut(page, 'glb', async () => {
    await page.getByRole('radio', { name: 'Animation' }).click();
    await type(page.getByLabel('From second'), '1');
    await type(page.getByLabel('To second'), '2');
    await type(page.getByLabel('Frames a second'), '4');
  });
  const report = await validator.validateBytes(new Uint8Array(bytes), { maxIssues: 100 });
  expect(report.issues.numErrors).toBe(0);
  const root = (await new WebIO().readBinary(new Uint8Array(bytes))).getRoot();
  const channels = root.listAnimations()[0].listChannels();
  const baked = channels.filter((c) => c.getTargetPath() === 'translation');
  expect(baked.length).toBeGreaterThan(10);
  for (const c of baked) {
    const output = c.getSampler()!.getOutput()!;
    expect(output.getCount()).toBe(5);
    for (let f = 0; f < 5; f++) {
      const [x, y] = output.getElement(f, [0, 0, 0]);
      expect(Math.abs(y - height(x, 1 + f / 4))).toBeLessThan(0.01);
    }
  }
  expect(channels.filter((c) => c.getTargetPath() === 'weights')).toHaveLength(1);
});

test('a table of places comes in as pegs; those without a surface below are selected and told of', async ({
  page,
}) => {
  await make(page, 'Plane');
  await takeProps(page, 'Barrel', 'Crate');
  await page.getByRole('button', { name: 'Bring in', exact: true }).click();
  await page.getByLabel('File to bring in').setInputFiles({
    name: 'stores.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from('x,y,z,prop,turn,size\n1,3,2,Crate,90,2\n-2,1,0,Barrel,0,1\n30,1,0,Barrel,0,1\n'),
  });
  await expect(
    page.getByText(/3 pegs from “stores.csv”: 1 find no surface below and are selected/),
  ).toBeVisible();
  await settled(page);
  const list = await rows(page);
  expect(list.map((r) => [r.prop, r.x, r.y, r.z])).toEqual(
    [
      ['Crate', 1, 0, 2],
      ['Barrel', -2, 0, 0],
      ['Barrel', 30, 1, 0],
    ].map(([prop, ...at]) => [prop, ...at.map((v) => expect.closeTo(Number(v), 5))]),
  );
  expect(axes(list[0]).front[0]).toBeCloseTo(1, 5);
  expect(list[0].sy).toBeCloseTo(2, 5);
  await expect((await openStep(page, 'Places')).getByText(/^#\d+ · Barrel$/)).toHaveCount(1);
});

test('a surface is moved and turned in the scene, a bulge pulled out of it; locked it stays', async ({
  page,
}) => {
  await make(page, 'Plane');
  const pull = async (name: string, dx: number, dy: number) => {
    const grip = page.getByRole('button', { name }).locator('circle');
    const b = (await grip.boundingBox())!;
    const [x, y] = [b.x + b.width / 2, b.y + b.height / 2];
    await page.mouse.move(x, y);
    await page.mouse.down();
    await page.mouse.move(x + dx, y + dy, { steps: 4 });
    await page.mouse.up();
    await settled(page);
  };
  const value = async (label: string) => Number(await page.getByLabel(label, { exact: true }).inputValue());
  await page.getByRole('button', { name: 'Top', exact: true }).click();
  await settled(page);
  await pull('Move the surface along X', 60, 0);
  expect(await value('Position X')).toBeGreaterThan(0.2);
  expect([await value('Position Y'), await value('Position Z')]).toEqual([0, 0]);
  await page.getByRole('slider', { name: 'Turn the surface' }).focus();
  await page.keyboard.press('Shift+ArrowRight');
  await settled(page);
  expect(await value('Turn')).toBe(15);
  await page.getByRole('button', { name: 'Front', exact: true }).click();
  await choose(page, 'Add a deformer', 'Bulge');
  await settled(page);
  await pull('Pull the bulge', 0, -50);
  expect(await value('Bulge by Y')).toBeGreaterThan(0.6);
  await page.keyboard.press('Control+z');
  await settled(page);
  expect(await value('Bulge by Y')).toBe(0.5);
  await page.getByRole('radio', { name: 'Locked' }).click();
  await expect(page.getByRole('group', { name: 'Handles of Plane' })).toHaveCount(0);
});
