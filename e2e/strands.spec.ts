import { expect, type Page } from '@playwright/test';
import {
  add,
  choose,
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
  type Row,
} from './support/app';
import { emptyNodesOf, glbOf, standing } from './support/glb';
import { test } from './support/test';

/** Lines hung between snap points, and what hangs on them, read back out of the exported rows. */

/** Screw eyes along the ground, two metres apart, their rings to the front. */
async function eyes(page: Page): Promise<Row[]> {
  await newScene(page);
  await takeProps(page, 'Screw eye', 'Bulb', 'Cord');
  await pathByNumbers(page, [
    [-4, 0],
    [4, 0],
  ]);
  await hang(page, 'Screw eye');
  await type((await openStep(page, 'Spacing')).getByLabel('Pitch', { exact: true }), '2');
  await settled(page);
  return rows(page);
}

/** Where the ring of an eye is: a tenth of a metre before its foot, as it faces. */
const ring = (r: Row): [number, number, number] => [
  r.x + 0.2 * (r.qx * r.qz + r.qw * r.qy),
  r.y + 0.2 * (r.qy * r.qz - r.qw * r.qx),
  r.z + 0.1 * (1 - 2 * (r.qx * r.qx + r.qy * r.qy)),
];
const away = (a: readonly number[], b: readonly number[]) => Math.hypot(...a.map((v, k) => v - b[k]));
const foot = (r: Row) => [r.x, r.y, r.z];

test('a line drawn from snap point to snap point hangs, goes with what it is connected to, and is let go', async ({
  page,
}) => {
  const posts = await eyes(page);
  expect(posts.length).toBe(5);
  const [from, to] = [ring(posts[0]), ring(posts[3])];
  await page.getByRole('button', { name: 'Draw path' }).click();
  for (const place of [from, to]) {
    const at = await onScreen(page, place);
    await page.mouse.move(at.x + 3, at.y - 2);
    await expect(page.locator('[data-snap^="eye of"]')).toBeVisible();
    await page.mouse.click(at.x + 3, at.y - 2);
  }
  await page.keyboard.press('Enter');
  await settled(page);
  await expect(page.getByLabel('Name of the path')).toHaveValue('Line');
  await expect(page.getByRole('switch', { name: 'Hangs' })).toBeChecked();
  await expect(page.getByText(/^6\.6 m/)).toBeVisible();

  await hang(page, 'Bulb');
  const spacing = await openStep(page, 'Spacing');
  await spacing.getByRole('radio', { name: 'Count' }).click();
  await type(spacing.getByRole('textbox', { name: 'Count' }), '9');
  await settled(page);
  const bulbs = async () => (await rows(page)).filter((r) => r.prop === 'Bulb');
  const hung = await bulbs();
  expect(away(foot(hung[0]), from)).toBeLessThan(1e-9);
  expect(away(foot(hung[8]), to)).toBeLessThan(1e-9);
  expect(hung[4].y).toBeLessThan(-0.5);

  // They are turned: their rings look to another side, and both ends go with them.
  await page.getByRole('button', { name: /^Screw eye Run/ }).click();
  const facing = await openStep(page, 'Facing');
  await add(facing, 'Turn');
  await type(facing.getByLabel('Turn', { exact: true }), '90');
  await settled(page);
  const moved = await bulbs();
  const now = (await rows(page)).filter((r) => r.prop === 'Screw eye');
  expect(away(ring(now[0]), from)).toBeGreaterThan(0.1);
  expect(away(foot(moved[0]), ring(now[0]))).toBeLessThan(1e-9);
  expect(away(foot(moved[8]), ring(now[3]))).toBeLessThan(1e-9);
  await undo(page);

  // Let go of in its panel it stays where it is.
  await page.getByRole('button', { name: /^Line Path/ }).click();
  await page.getByRole('button', { name: 'Point 1', exact: true }).focus();
  await page.keyboard.press('Enter');
  const connected = page.getByRole('group', { name: 'Connected' });
  await expect(connected.getByRole('button', { name: 'Which of them' })).toHaveText('#1');
  await pickOption(page, connected, 'Which of them', '#2');
  await settled(page);
  expect(away(foot((await bulbs())[0]), ring(posts[1]))).toBeLessThan(1e-9);
  await connected.getByRole('button', { name: 'Let go' }).click();
  await expect(connected.getByRole('button', { name: 'Connected to' })).toHaveText('Nothing');
  // By a key as well.
  await undo(page);
  await expect(connected.getByRole('button', { name: 'Which of them' })).toHaveText('#2');
  await page.keyboard.press('l');
  await expect(connected.getByRole('button', { name: 'Connected to' })).toHaveText('Nothing');
  await page.getByRole('button', { name: /^Screw eye Run/ }).click();
  await type((await openStep(page, 'Spacing')).getByLabel('Pitch', { exact: true }), '1');
  await settled(page);
  expect(away(foot((await bulbs())[0]), ring(posts[1]))).toBeLessThan(1e-6);
});

test('many lines at once: from each to the next, how they hang, what lies along them, what hangs on them, in the wind', async ({
  page,
}) => {
  const posts = await eyes(page);
  await choose(page, 'More for this run', 'Hang lines');
  await settled(page);
  await expect(page.getByText('4 lines', { exact: true })).toBeVisible();
  await expect(page.getByRole('button', { name: /Strands · 4 lines/ })).toBeVisible();
  await expect(page.getByRole('img', { name: 'Lines from the side' }).locator('circle')).toHaveCount(8);
  const hanging = await openStep(page, 'Hanging');
  await hanging.getByRole('radio', { name: 'Depth' }).click();
  await type(hanging.getByRole('textbox', { name: 'Hangs down' }), '0.45');
  await expect(page.getByText(/#1 is 2 m wide and hangs 0\.45 m down/)).toBeVisible();
  await type(hanging.getByRole('textbox', { name: 'Hangs down' }), '0.4');
  await expect(page.getByText(/#1 is 2 m wide and hangs 0\.4 m down/)).toBeVisible();

  // A cord along each of them is a row a line, sent out with its slot.
  await hang(page, 'Cord');
  await settled(page);
  const cords = (await rows(page)).filter((r) => r.prop === 'Cord');
  expect(cords.map((r) => r.slot)).toEqual(['1', '2', '3', '4']);
  // Each is told by where it is midway between its ends.
  cords.forEach((r, i) => {
    const middle = ring(posts[i]).map((v, k) => (v + ring(posts[i + 1])[k]) / 2);
    expect(away(foot(r), middle)).toBeLessThan(1e-9);
  });

  await hanging.getByRole('button', { name: 'As a path to hang things on' }).click();
  await settled(page);
  await expect(page.getByText(/lines of strands, live · 4 strokes/)).toBeVisible();
  await hang(page, 'Bulb');
  const spacing = await openStep(page, 'Spacing');
  await spacing.getByRole('radio', { name: 'Count' }).click();
  await type(spacing.getByRole('textbox', { name: 'Count' }), '3');
  await settled(page);
  const bulbs = async () => (await rows(page)).filter((r) => r.prop === 'Bulb');
  const hung = await bulbs();
  expect(hung.length).toBe(12);
  const lowest = hung.filter((_, i) => i % 3 === 1);
  lowest.forEach((r, i) => {
    expect(r.y).toBeCloseTo(ring(posts[i])[1] - 0.4, 6);
    expect(r.x).toBeCloseTo(ring(posts[i])[0] + 1, 6);
  });

  // A floor that they would hang through: they lie on it, and what hangs on them does.
  await make(page, 'Plane', { 'Position Y': '-0.2' });
  await page.getByRole('button', { name: /^Lines of Screw eye Strands/ }).click();
  await openStep(page, 'Hanging');
  await page.getByRole('switch', { name: 'Lies on surfaces' }).click();
  await settled(page);
  const depths = (await bulbs()).map((r) => r.y);
  expect(Math.min(...depths)).toBeCloseTo(-0.2, 9);
  await expect(page.getByText(/#1 is 2 m wide and hangs 0\.2[0-9]* m down/)).toBeVisible();
  await type(page.getByRole('textbox', { name: 'Kept above by' }), '0.05');
  await settled(page);
  expect(Math.min(...(await bulbs()).map((r) => r.y))).toBeCloseTo(-0.15, 9);
  await undo(page);
  await undo(page);
  await settled(page);
  expect((await bulbs())[1].y).toBeCloseTo(hung[1].y, 9);

  // Every second one only, to the second after; then wind, which moves what hangs there with time.
  await page.getByRole('button', { name: /^Lines of Screw eye Strands/ }).click();
  const ends = await openStep(page, 'Ends');
  await type(ends.getByRole('textbox', { name: 'To the n-th after' }), '2');
  await type(ends.getByRole('textbox', { name: 'From every n-th' }), '2');
  await settled(page);
  expect((await rows(page)).filter((r) => r.prop === 'Cord').map((r) => r.slot)).toEqual(['1', '3']);
  await openStep(page, 'Hanging');
  await page.getByRole('switch', { name: 'In the wind' }).click();
  await type(page.getByRole('textbox', { name: 'Blows to' }), '180');
  await settled(page);
  const blown = await bulbs();
  // To the south, and as far from the line between its ends as before.
  const z = ring(posts[0])[2];
  expect(blown[1].z).toBeGreaterThan(z + 0.05);
  expect(Math.hypot(blown[1].y - ring(posts[0])[1], blown[1].z - z)).toBeCloseTo(0.4, 4);
  await undo(page);
  await undo(page);
  await settled(page);
  expect((await bulbs())[1].x).toBeCloseTo(ring(posts[1])[0], 6);
});

test('a rope of as many strands as one says, and a tube of as many sides, along every line', async ({
  page,
}) => {
  const posts = await eyes(page);
  await choose(page, 'More for this run', 'Hang lines');
  await openStep(page, 'Hanging');
  await page.getByRole('radio', { name: 'Taut' }).click();
  await openStep(page, 'Body');
  await page.getByRole('button', { name: 'A rope', exact: true }).click();
  await settled(page);
  const bodies = async () =>
    (await rows(page)).filter((r) => !['Screw eye', 'Bulb'].includes(r.prop)).map((r) => r.prop);
  expect(await bodies()).toEqual(Array(4).fill('Twisted rope'));
  await page
    .getByRole('region', { name: 'Basket' })
    .getByRole('button', { name: 'Twisted rope', exact: true })
    .click();
  const make = page.getByRole('region', { name: 'Its make' });
  await type(make.getByRole('textbox', { name: 'Strands' }), '4');
  await type(make.getByRole('textbox', { name: 'Radius' }), '0.05');
  await type(make.getByRole('textbox', { name: 'Lay', exact: true }), '0.4');
  await type(make.getByRole('textbox', { name: 'Sides' }), '8');
  await settled(page);
  // Four strands with eight sides reach just as far as the circle about them.
  await expect(page.getByText(/^Wide × long × high:/)).toHaveText(/0\.1 m × 0\.4 m × 0\.1 m$/);
  const ropes = (await standing(await sendOut(page, 'glb'))).filter((m) => m.mesh.includes('rope'));
  expect(ropes.length).toBe(4);
  const rings = posts.map(ring).toSorted((p, q) => p[0] - q[0]);
  ropes
    .map((m) => m.points)
    .toSorted((p, q) => p[0][0] - q[0][0])
    .forEach((points, i) => {
      // Just as thick as asked about the straight line, and from ring to ring.
      const off = points.map(([, y, z]) => Math.hypot(y - rings[i][1], z - rings[i][2]));
      expect(Math.max(...off)).toBeCloseTo(0.05, 5);
      const xs = points.map(([x]) => x);
      expect(Math.min(...xs)).toBeCloseTo(rings[i][0], 5);
      expect(Math.max(...xs)).toBeCloseTo(rings[i + 1][0], 5);
    });
  await type(make.getByRole('textbox', { name: 'Strands' }), '1');
  await settled(page);
  await expect(page.getByText(/^Wide × long × high:/)).toHaveText(/0\.1 m × 1 m × 0\.1 m$/);
  for (let i = 0; i < 6; i++) await undo(page);
  await settled(page);
  expect(await bodies()).toEqual([]);

  // By what others call it, into the basket.
  await page.keyboard.press('Control+k');
  await page.keyboard.type('hawser');
  await page.keyboard.press('Enter');
  await expect(make.getByRole('textbox', { name: 'Strands' })).toHaveValue('3');
});

test('measuring: the size of what is under the pointer, a distance between snap points, an angle; kept, it follows', async ({
  page,
}) => {
  const posts = await eyes(page);
  const [a, b] = [ring(posts[0]), ring(posts[3])];
  await page.getByRole('button', { name: 'Measure', exact: true }).click();
  await expect(page.getByText(/Click two places for a distance/)).toBeVisible();
  const middle = await onScreen(page, [posts[1].x + 0.05, 0, 0]);
  await page.mouse.move(middle.x, middle.y);
  await expect(page.getByText('Screw eye, wide × long × high')).toBeVisible();
  const clickOn = async (place: [number, number, number]) => {
    const at = await onScreen(page, place);
    await page.mouse.move(at.x + 2, at.y - 2);
    await page.mouse.click(at.x + 2, at.y - 2);
  };
  const status = page.getByRole('status').filter({ hasText: /Straight|Angle|Click two/ });
  await clickOn(a);
  await clickOn(b);
  await expect(status).toContainText('Straight 6 m');
  await expect(status).toContainText('Rises 0 m');
  await page.getByRole('button', { name: 'Keep it' }).click();
  const kept = page.getByRole('list', { name: 'Kept measures' });
  await expect(kept.getByRole('textbox', { name: 'Name of Distance' })).toHaveValue('Distance');
  await expect(kept).toContainText('6 m');
  await expect(page.getByRole('img', { name: 'Distance: 6 m' })).toBeVisible();

  // Two places on the path and one beside it: what lies along the path, and a right angle.
  await clickOn([-3, 0, 0]);
  await clickOn([3, 0, 0]);
  await expect(status).toContainText(/Along the path (6|6\.0\d*|5\.9\d*) m/);
  const side = await onScreen(page, [3.07, 0, 3]);
  await page.keyboard.down('Control');
  await page.mouse.move(side.x, side.y);
  await page.mouse.click(side.x, side.y);
  await page.keyboard.up('Control');
  await expect(status).toContainText(/Angle (89\.\d+|90(\.\d+)?)°/);
  await page.getByRole('button', { name: 'Clear', exact: true }).click();

  // Props further apart: the kept one goes with the snap points that it is between.
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: /^Screw eye Run/ }).click();
  const spacing = await openStep(page, 'Spacing');
  await type(spacing.getByLabel('Pitch', { exact: true }), '1');
  await settled(page);
  await expect(page.getByRole('img', { name: 'Distance: 3 m' })).toBeVisible();
  await page.getByRole('button', { name: 'Measure', exact: true }).click();
  await page.getByRole('button', { name: 'Hide Distance' }).click();
  await expect(page.getByRole('img', { name: /^Distance/ })).toHaveCount(0);
  await page.getByRole('button', { name: 'Show Distance' }).click();
  await type(kept.getByRole('textbox', { name: 'Name of Distance' }), 'Clear width');
  await expect(page.getByRole('img', { name: 'Clear width: 3 m' })).toBeVisible();
  await undo(page);
  await page.getByRole('button', { name: 'Remove Distance' }).click();
  await expect(page.getByRole('img', { name: /^Distance/ })).toHaveCount(0);
  await undo(page);
  await expect(page.getByRole('img', { name: 'Distance: 3 m' })).toBeVisible();

  // Along a surface that both lie on.
  await page.getByRole('button', { name: 'Pick', exact: true }).click();
  await make(page, 'Plane');
  await page.getByRole('button', { name: 'Measure', exact: true }).click();
  await page.keyboard.down('Control');
  for (const x of [-2, 2]) {
    const at = await onScreen(page, [x, 0, 2.5]);
    await page.mouse.move(at.x, at.y);
    await page.mouse.click(at.x, at.y);
  }
  await page.keyboard.up('Control');
  await expect(status).toContainText(/Along Plane (4|4\.0\d*|3\.9\d*) m/);
});

test('own snap points: out of a .glb’s empty nodes, and by clicks on the mesh; mirrored; lines hang from them', async ({
  page,
}) => {
  await newScene(page);
  // A block of a metre, two high, with an eye at its top.
  const p = [0, 1].flatMap((y) => [-0.5, 0.5].flatMap((x) => [-0.5, 0.5].flatMap((z) => [x, y * 2, z])));
  const quads = [
    [0, 1, 3, 2],
    [4, 6, 7, 5],
    [0, 4, 5, 1],
    [2, 3, 7, 6],
    [0, 2, 6, 4],
    [1, 5, 7, 3],
  ];
  const block = await glbOf(
    p,
    quads.flatMap(([a, b, c, d]) => [a, c, b, a, d, c]),
    { eye: [0, 1.5, 0.5] },
  );
  await page.getByRole('button', { name: 'Bring in', exact: true }).click();
  await page
    .getByLabel('File to bring in')
    .setInputFiles({ name: 'block.glb', mimeType: 'model/gltf-binary', buffer: Buffer.from(block) });
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByRole('switch', { name: '1 snap point from its empty nodes' })).toBeChecked();
  await dialog.getByRole('button', { name: 'Put in the basket' }).click();
  const snaps = page.getByRole('group', { name: 'Snap points' });
  await expect(snaps.getByRole('textbox', { name: 'eye Y', exact: true })).toHaveValue('1.50');
  await expect(snaps.getByRole('textbox', { name: 'eye points to Z' })).toHaveValue('1');

  await pathByNumbers(page, [
    [-2, 0],
    [2, 0],
  ]);
  await hang(page, 'block');
  const spacing = await openStep(page, 'Spacing');
  await spacing.getByRole('radio', { name: 'Count' }).click();
  await type(spacing.getByRole('textbox', { name: 'Count' }), '2');
  await page.getByRole('button', { name: 'Fit', exact: true }).click();
  await settled(page);

  // A corner of the first one: it runs to the east, so its left is north.
  await page.getByRole('button', { name: 'block', exact: true }).click();
  await snaps.getByRole('button', { name: 'Pick in the scene' }).click();
  const corner = await onScreen(page, [-2.5, 2, -0.5]);
  await page.mouse.click(corner.x + 3, corner.y + 3);
  await settled(page);
  const value = (name: string) => snaps.getByRole('textbox', { name, exact: true }).inputValue().then(Number);
  expect([await value('point 2 X'), await value('point 2 Y'), await value('point 2 Z')]).toEqual([
    0.5, 2, -0.5,
  ]);
  expect(await value('point 2 points to Y')).toBe(1);
  await page.keyboard.press('Escape');
  await snaps.getByRole('button', { name: 'Mirror' }).last().click();
  expect(await value('point 2 mirrored X')).toBe(-0.5);

  await page.getByRole('button', { name: /^block Run/ }).click();
  await choose(page, 'More for this run', 'Hang lines');
  await settled(page);
  const ends = await openStep(page, 'Ends');
  await pickOption(page, ends, 'From its', 'point 2 mirrored');
  await pickOption(page, ends, 'To its', 'point 2');
  await expect(page.getByText(/^1 line from the side\. #1 is 4\.12 m wide/)).toBeVisible();

  // A new name goes through to what hangs by it; the list is put in order.
  await page.getByRole('button', { name: 'block', exact: true }).click();
  await snaps.getByRole('textbox', { name: 'Name of point 2', exact: true }).fill('cleat');
  await page.keyboard.press('Enter');
  const names = () =>
    snaps
      .getByRole('textbox', { name: /^Name of/ })
      .evaluateAll((all) => all.map((x) => (x as HTMLInputElement).value));
  expect(await names()).toEqual(['eye', 'cleat', 'point 2 mirrored']);
  await snaps.getByRole('button', { name: 'cleat earlier' }).click();
  expect(await names()).toEqual(['cleat', 'eye', 'point 2 mirrored']);
  await page
    .getByRole('button', { name: /^Lines/ })
    .first()
    .click();
  await settled(page);
  await expect(page.getByText(/^1 line from the side\. #1 is 4\.12 m wide/)).toBeVisible();

  // They go out as nodes without a mesh, each where it is.
  const file = await sendOut(page, 'glb', () => page.getByLabel('Snap points go along').click());
  const eyesSent = await emptyNodesOf(file, 'eye');
  expect(eyesSent).toHaveLength(2);
  const standing = (await rows(page)).filter((r) => r.prop === 'block');
  for (const r of standing) {
    // They face east: half a metre before the middle, one and a half up.
    expect(eyesSent.some((e) => away(e, [r.x + 0.5, r.y + 1.5, r.z]) < 1e-5)).toBe(true);
  }
});

test('the middle of a hole: snapped to through it, and a snap point of the prop with the hole’s direction', async ({
  page,
}) => {
  await newScene(page);
  // A ring of eight corners, half a metre across within, standing on its rim and looking to the front.
  const ring = (r: number, z: number) =>
    [...Array(8).keys()].flatMap((i) => {
      const t = (Math.PI * (2 * i + 1)) / 8;
      return [r * Math.cos(t), 0.5 + r * Math.sin(t), z];
    });
  const rims = [ring(0.25, 0.05), ring(0.5, 0.05), ring(0.5, -0.05), ring(0.25, -0.05)];
  const faces = [0, 1, 2, 3].flatMap((b) =>
    [...Array(8).keys()].flatMap((i) => {
      const [p, q] = [b * 8 + i, b * 8 + ((i + 1) % 8)];
      const [r, t] = [(p + 8) % 32, (q + 8) % 32];
      return [p, r, q, q, r, t];
    }),
  );
  const washer = await glbOf(rims.flat(), faces);
  await page.getByRole('button', { name: 'Bring in', exact: true }).click();
  await page
    .getByLabel('File to bring in')
    .setInputFiles({ name: 'washer.glb', mimeType: 'model/gltf-binary', buffer: Buffer.from(washer) });
  await page.getByRole('dialog').getByRole('button', { name: 'Put in the basket' }).click();
  await pathByNumbers(page, [
    [-1, 0],
    [1, 0],
  ]);
  await hang(page, 'washer');
  const facing = await openStep(page, 'Facing');
  await add(facing, 'Turn');
  await type(facing.getByLabel('Turn', { exact: true }), '-90');
  await page.getByRole('button', { name: 'Front', exact: true }).click();
  await page.getByRole('button', { name: 'Fit', exact: true }).click();
  await settled(page);
  const [first] = await rows(page);
  await page.getByRole('button', { name: 'washer', exact: true }).click();
  const snaps = page.getByRole('group', { name: 'Snap points' });
  await snaps.getByRole('button', { name: 'Pick in the scene' }).click();
  const through = await onScreen(page, [first.x, first.y + 0.462, first.z]);
  await page.mouse.click(through.x + 4, through.y + 3);
  await settled(page);
  const value = (name: string) => snaps.getByRole('textbox', { name, exact: true }).inputValue().then(Number);
  expect(await value('point 1 X')).toBeCloseTo(0, 5);
  expect(await value('point 1 Y')).toBeCloseTo(0.462, 3);
  expect(Math.abs(await value('point 1 points to Z'))).toBe(1);
  await page.keyboard.press('Escape');
  await snaps.getByRole('button', { name: 'Remove point 1' }).click();
  await page.getByRole('button', { name: 'Draw path' }).click();
  await page.mouse.move(through.x + 4, through.y + 3);
  await expect(page.locator('[data-snap="Middle of a hole"]')).toBeVisible();
});

test('a peg clicked onto a snap point sits there, goes with it, is turned and lifted by numbers, slid on and let go', async ({
  page,
}) => {
  const posts = await eyes(page);
  await page.getByRole('button', { name: /^Bulb/ }).first().click();
  await page.getByRole('button', { name: 'Peg', exact: true }).click();
  const to = async (place: [number, number, number]) => {
    const at = await onScreen(page, place);
    await page.mouse.move(at.x + 3, at.y - 2);
    return at;
  };
  const click = await to(ring(posts[1]));
  await expect(page.locator('[data-snap^="eye of"]')).toBeVisible();
  await page.mouse.click(click.x + 3, click.y - 2);
  await settled(page);
  const bulb = async () => (await rows(page)).find((r) => r.prop === 'Bulb')!;
  const eyesNow = async () => (await rows(page)).filter((r) => r.prop === 'Screw eye');
  expect(away(foot(await bulb()), ring(posts[1]))).toBeLessThan(1e-9);
  await expect(page.getByText('Sits on eye of Screw eye #2')).toBeVisible();

  // The eyes move apart: it goes along.
  await page.getByRole('button', { name: /^Screw eye Run/ }).click();
  await type((await openStep(page, 'Spacing')).getByLabel('Pitch', { exact: true }), '1.6');
  await settled(page);
  const moved = ring((await eyesNow())[1]);
  expect(away(moved, ring(posts[1]))).toBeGreaterThan(0.1);
  expect(away(foot(await bulb()), moved)).toBeLessThan(1e-9);

  // Slid from there to the next one, and given a lift.
  const from = await onScreen(page, [moved[0], moved[1] - 0.1, moved[2]]);
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  const third = ring((await eyesNow())[2]);
  const there = await to(third);
  await page.mouse.move(there.x + 2, there.y - 1);
  await page.mouse.up();
  expect(there.x).not.toBe(from.x);
  await settled(page);
  expect(away(foot(await bulb()), third)).toBeLessThan(1e-9);
  await type(page.getByLabel(/^Peg \d+ lift/).first(), '0.3');
  await settled(page);
  const lifted = await bulb();
  expect(away(foot(lifted), third)).toBeCloseTo(0.3, 9);

  // By choices in its panel, and let go: then it stays.
  const connected = page.getByRole('group', { name: 'Connected' });
  await pickOption(page, connected, 'Which of them', '#1');
  await settled(page);
  const first = await bulb();
  expect(away(foot(first), ring((await eyesNow())[0]))).toBeCloseTo(0.3, 9);
  await connected.getByRole('button', { name: 'Let go' }).click();
  await page.getByRole('button', { name: /^Screw eye Run/ }).click();
  await type((await openStep(page, 'Spacing')).getByLabel('Pitch', { exact: true }), '1');
  await settled(page);
  expect(away(foot(await bulb()), foot(first))).toBeLessThan(1e-9);
});
