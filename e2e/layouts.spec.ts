import { Document, WebIO } from '@gltf-transform/core';
import { expect, type Locator, type Page } from '@playwright/test';
import {
  alerts,
  axes,
  choose,
  newScene,
  openStep,
  pickOption,
  make,
  rows,
  sendOut,
  settled,
  takeProps,
  type,
  type Row,
} from './support/app';
import { test } from './support/test';
import { standing } from './support/glb';
import { laySheet } from './support/sheets';

/** What a sheet's grid, its frame and its props can be set to, each by the numbers that come out. */

const placed = (list: Row[]) => list.filter((r) => r.state === 'placed');

async function laid(page: Page, shape: string, values: Record<string, string>): Promise<void> {
  await make(page, shape, values);
  await laySheet(page, shape);
}

/** A grid of so many columns and rows, alike in every row. */
async function grid(page: Page, columns: number, rowCount: number): Promise<Locator> {
  const layout = await openStep(page, 'Layout');
  await layout.getByText('Fewer where it is narrow').click();
  await type(layout.getByLabel('Columns', { exact: true }), String(columns));
  await type(layout.getByLabel('Rows', { exact: true }), String(rowCount));
  await settled(page);
  return layout;
}

test('stagger, order, skips, alternation and a window of the uv, by where the props come to stand', async ({
  page,
}) => {
  await newScene(page);
  await takeProps(page, 'Crate', 'Bollard');
  // 12 × 12 m about the origin: cells of 3 × 4 m, up the sheet is −Z.
  await laid(page, 'Plane', {});
  const layout = await grid(page, 4, 3);
  const now = async () => placed(await rows(page));
  const named = async (slot: string) => (await now()).find((r) => r.slot === slot)!;
  const at = (x: number, z: number) => ({ x: expect.closeTo(x, 3), z: expect.closeTo(z, 3) });
  expect(await named('1')).toMatchObject(at(-4.5, 4));
  await page.getByTestId('sheet').getByRole('button', { name: '#r1.2 Crate' }).hover();
  await expect(page.getByRole('img', { name: '#r1.2 in the scene' })).toBeVisible();

  await pickOption(page, layout, 'Stagger', 'second columns moved');
  await settled(page);
  const lifted = await now();
  // Half a cell over the upper border there is no room.
  expect(lifted.length).toBe(10);
  expect(lifted.find((r) => r.slot === '2')).toMatchObject(at(-1.5, 2));
  expect(lifted.find((r) => r.slot === '3')).toMatchObject(at(1.5, 4));

  await pickOption(page, layout, 'Stagger', 'six neighbours alike');
  await type(layout.getByLabel('Rows', { exact: true }), '');
  await settled(page);
  const six = await now();
  const far = (a: Row, b: Row) => Math.hypot(a.x - b.x, a.y - b.y, a.z - b.z);
  const middle = six.find((r) => r.slot === 'r1.2')!;
  const near = six.filter((r) => r !== middle && far(r, middle) < 3.5);
  expect(near.length).toBe(6);
  for (const r of near) expect(far(r, middle)).toBeCloseTo(3, 3);

  await pickOption(page, layout, 'Stagger', 'in straight rows');
  await type(layout.getByLabel('Rows', { exact: true }), '3');
  const props = await openStep(page, 'Props');
  await choose(page, props.getByRole('button', { name: 'Add a prop to the order' }), 'Bollard');
  await settled(page);
  const second = async () =>
    (await now())
      .filter((r) => r.slot.startsWith('r1.'))
      .sort((a, b) => a.x - b.x)
      .map((r) => r.prop);
  expect(await second()).toEqual(['Crate', 'Bollard', 'Crate', 'Bollard']);
  await layout.getByRole('radio', { name: 'Up', exact: true }).click();
  await settled(page);
  // Column by column: the first has Crate, Bollard, Crate, and so the second begins with Bollard.
  expect(await second()).toEqual(['Bollard', 'Crate', 'Bollard', 'Crate']);

  const gaps = await openStep(page, 'Gaps');
  const skip = (title: string) => gaps.getByRole('group', { name: title });
  await skip('Skip rows').getByText('Skip rows').click();
  await settled(page);
  expect((await now()).map((r) => r.slot).sort()).toEqual(['r1.1', 'r1.2', 'r1.3', 'r1.4']);
  await skip('Skip rows').getByText('Skip rows').click();
  await skip('Skip places').getByText('Skip places').click();
  await type(gaps.getByLabel('Every n-th place'), '5');
  await type(gaps.getByLabel('From', { exact: true }), '2');
  await settled(page);
  // In the order of the props, up the columns: the 2nd, 7th and 12th place.
  const gone = ['3', 'r1.1', 'r2.4'];
  expect((await now()).length).toBe(9);
  expect((await now()).some((r) => gone.includes(r.slot))).toBe(false);
  await skip('Skip places').getByRole('radio', { name: 'Kept' }).click();
  await settled(page);
  expect((await now()).map((r) => r.slot).sort()).toEqual(gone);
  await skip('Skip places').getByText('Skip places').click();

  const facing = await openStep(page, 'Facing');
  await facing.getByRole('radio', { name: 'Turned' }).click();
  await settled(page);
  const odd = (r: Row) => {
    const [, row, column] = /^(?:r(\d+)\.)?(\d+)$/.exec(r.slot)!;
    return (Number(row ?? 0) + Number(column) - 1) % 2 === 1;
  };
  for (const r of await now()) expect(axes(r).front[2]).toBeCloseTo(odd(r) ? 1 : -1, 6);
  await facing.getByRole('radio', { name: 'Mirrored' }).click();
  await settled(page);
  for (const r of await now()) {
    expect(axes(r).front[2]).toBeCloseTo(-1, 6);
    expect(r.sx).toBeCloseTo(odd(r) ? -1 : 1, 6);
  }

  const surface = await openStep(page, 'Surface');
  await type(surface.getByLabel('u from, least', { exact: true }), '0.5');
  await settled(page);
  // The right half: four columns on six metres.
  expect(await named('1')).toMatchObject(at(0.75, 4));
  expect(await named('r2.4')).toMatchObject(at(5.25, -4));
  await page.keyboard.press('ControlOrMeta+z');
  await settled(page);
  expect(await named('1')).toMatchObject(at(-4.5, 4));
});

test('a frame before a ball is laid straight or to the nearest place; bent props have their relief over it', async ({
  page,
}) => {
  await newScene(page);
  await takeProps(page, 'Crate', 'Bollard');
  await laid(page, 'Sphere', { Radius: '3', Columns: '96', Rows: '64' });
  const surface = await openStep(page, 'Surface');
  await surface.getByRole('radio', { name: 'A flat frame' }).click();
  for (const [axis, value] of [
    ['X', '0'],
    ['Y', '4'],
    ['Z', '0'],
  ])
    await type(surface.getByLabel(`Middle ${axis}`, { exact: true }), value);
  await grid(page, 3, 3);
  const now = async () => placed(await rows(page));
  // Two metres wide and high, four over the ball's middle: places at 0 and two thirds to both sides.
  const want = (list: Row[], place: (x: number, z: number) => [number, number, number], within: number) => {
    expect(list.length).toBe(9);
    for (const x of [-2 / 3, 0, 2 / 3])
      for (const z of [-2 / 3, 0, 2 / 3]) {
        const [px, py, pz] = place(x, z);
        const off = Math.min(...list.map((r) => Math.hypot(r.x - px, r.y - py, r.z - pz)));
        expect(off).toBeLessThan(within);
      }
  };
  want(await now(), (x, z) => [x, Math.sqrt(9 - x * x - z * z), z], 0.005);
  await surface.getByRole('radio', { name: 'Nearest' }).click();
  await settled(page);
  want(
    await now(),
    (x, z) => {
      const k = 3 / Math.hypot(x, 4, z);
      return [x * k, 4 * k, z * k];
      // On flat faces the nearest place is up to a third of a face beside that on the ball.
    },
    0.03,
  );

  const facing = await openStep(page, 'Facing');
  await facing.getByRole('radio', { name: 'Bent' }).click();
  const heights = async () => {
    const crates = (await standing(await sendOut(page, 'glb'))).filter((s) => s.mesh.startsWith('Crate'));
    expect(crates.length).toBe(9);
    const far = crates.flatMap((s) => s.points.map((p) => Math.hypot(...p) - 3));
    return [Math.min(...far), Math.max(...far)];
  };
  const [low, high] = await heights();
  expect(Math.abs(low)).toBeLessThan(0.01);
  await type(facing.getByLabel('Relief', { exact: true }), '50');
  await settled(page);
  const [lower, half] = await heights();
  expect(Math.abs(lower)).toBeLessThan(0.01);
  expect(half).toBeCloseTo(high / 2, 2);
  expect(high).toBeGreaterThan(0.3);

  // One keeps its shape by hand; then all of a prop do.
  const meshes = async () => (await standing(await sendOut(page, 'glb'))).map((s) => s.mesh);
  const count = (list: string[], name: string) => list.filter((m) => m === name).length;
  await page
    .getByTestId('sheet')
    .getByRole('button', { name: '#r1.2 Crate' })
    .click({ modifiers: ['Shift'] });
  await page
    .getByRole('group', { name: 'Selected prop' })
    .getByRole('button', { name: 'Keep its shape' })
    .click();
  await settled(page);
  const one = await meshes();
  expect([count(one, 'Crate'), count(one, 'Crate, bent')]).toEqual([1, 8]);
  await page.keyboard.press('ControlOrMeta+z');
  const props = await openStep(page, 'Props');
  await choose(page, props.getByRole('button', { name: 'Add a prop to the order' }), 'Bollard');
  await facing.getByRole('switch', { name: 'Crate keeps its shape' }).click();
  await settled(page);
  const some = await meshes();
  expect([count(some, 'Crate'), count(some, 'Bollard, bent')]).toEqual([5, 4]);
});

test('the colours of distortion in the flat view are those of the legend', async ({ page }) => {
  await newScene(page);
  await takeProps(page, 'Net float');
  await laid(page, 'Sphere', { Radius: '3', Columns: '96', Rows: '64' });
  await grid(page, 6, 5);
  const surface = await openStep(page, 'Surface');
  await surface.getByRole('radio', { name: 'Stretched' }).click();
  const facing = await openStep(page, 'Facing');
  await facing.getByText('Show distortion').click();
  await settled(page);
  const rgb = (text: string) => (text.match(/\d+/g) ?? []).slice(0, 3).map(Number);
  const legend = page.getByRole('img', { name: /Colours of distortion/ }).first();
  const known = new Map(
    await Promise.all(
      (await legend.locator('span').all()).map(async (s) => {
        const color = await s.evaluate((e) => getComputedStyle(e).backgroundColor);
        return [parseFloat((await s.textContent()) ?? ''), rgb(color)] as const;
      }),
    ),
  );
  const flat = page.getByTestId('sheet');
  // Places of the grid's rows, by the width of a ball's circle at their middle: cos of the latitude.
  for (const [row, latitude] of [72, 36, 0, 36, 72].map((deg, i) => [i, (deg * Math.PI) / 180])) {
    const slot = row === 0 ? '3' : `r${row}.3`;
    const fill = await flat
      .getByRole('button', { name: `#${slot} Net float` })
      .locator('rect')
      .getAttribute('fill');
    const area = Math.cos(latitude);
    const color = rgb(fill ?? '');
    // Half the area is the first colour of the legend, the same area the middle one; between them straight by doublings.
    const t = Math.max(0, 1 + Math.log2(area));
    known.get(0.5)!.forEach((c, i) => {
      expect(Math.abs(color[i] - (c + (known.get(1)![i] - c) * t))).toBeLessThan(4);
    });
  }
});

/** Two panels of 2 × 2 m side by side: on the texture the second lies on the first one, or beside it mirrored. */
async function panels(second: 'over' | 'mirrored'): Promise<Buffer> {
  const document = new Document();
  const buffer = document.createBuffer();
  const put = (
    type: 'VEC3' | 'VEC2' | 'SCALAR',
    array: Float32Array<ArrayBuffer> | Uint16Array<ArrayBuffer>,
  ) => document.createAccessor().setType(type).setArray(array).setBuffer(buffer);
  const positions = [-2.5, 0.5].flatMap((x) => [x, 0, 1, x + 2, 0, 1, x + 2, 0, -1, x, 0, -1]);
  const across = second === 'over' ? [0, 1] : [1, 0.55];
  const laidOut = [second === 'over' ? [0, 1] : [0, 0.45], across].flatMap(([l, r]) => [
    l,
    0,
    r,
    0,
    r,
    1,
    l,
    1,
  ]);
  const primitive = document
    .createPrimitive()
    .setAttribute('POSITION', put('VEC3', new Float32Array(positions)))
    .setAttribute('TEXCOORD_0', put('VEC2', new Float32Array(laidOut)))
    .setIndices(put('SCALAR', new Uint16Array([0, 1, 2, 0, 2, 3, 4, 5, 6, 4, 6, 7])));
  const mesh = document.createMesh().addPrimitive(primitive);
  document.createScene().addChild(document.createNode('panels').setMesh(mesh));
  return Buffer.from(await new WebIO().writeBinary(document));
}

test('uv of which a part lies on another, or is mirrored, and props too large for their patch are said', async ({
  page,
}) => {
  await newScene(page);
  await takeProps(page, 'Crate');
  await laid(page, 'Plane', {});
  await grid(page, 2, 1);
  const surface = await openStep(page, 'Surface');
  const bring = async (name: string, kind: 'over' | 'mirrored') => {
    await choose(page, 'New path or surface', 'Bring in a surface');
    await page
      .getByLabel('File to bring in')
      .setInputFiles({ name: `${name}.glb`, mimeType: 'model/gltf-binary', buffer: await panels(kind) });
    await page.getByRole('radio', { name: 'A surface' }).click();
    await page.getByRole('button', { name: 'Put in the scene' }).click();
    await settled(page);
    await page
      .getByRole('button', { name: /^Crate on Plane/ })
      .first()
      .click();
    await pickOption(page, surface, 'Over', name);
    await settled(page);
  };
  await bring('stacked', 'over');
  await expect(surface.getByRole('alert')).toContainText(
    'Part 2 of the uv of “stacked” (2 faces) lies on part 1; only part 1 is covered.',
  );
  // Only the first panel is laid with props.
  for (const r of placed(await rows(page))) expect(r.x).toBeLessThan(-0.5);
  await bring('folded', 'mirrored');
  await expect(surface.getByRole('alert')).toContainText(
    'Part 2 of the uv of “folded” is mirrored (2 faces).',
  );
  await pickOption(page, surface, 'Over', 'Plane');
  await settled(page);
  await expect(alerts(page)).toHaveCount(0);

  const facing = await openStep(page, 'Facing');
  await type(facing.getByLabel('Size', { exact: true }), '4000');
  await settled(page);
  const checks = await openStep(page, 'Checks');
  await expect(checks.getByText(/“Crate” is larger than the patch it should lie on/)).toBeVisible();
  await expect(
    checks.getByText(/2 props lie across a corner sharper than 35°, or over the edge/),
  ).toBeVisible();
  await type(facing.getByLabel('Size', { exact: true }), '100');
  await settled(page);
  await expect(checks.getByText('Every prop lies whole on the surface.')).toBeVisible();
});

test('bent props on a plane that waves are sent out as an animation, their shapes morphing with it', async ({
  page,
}) => {
  await newScene(page);
  await takeProps(page, 'Plank');
  await laid(page, 'Plane', { Columns: '96', Rows: '8' });
  await grid(page, 4, 2);
  const facing = await openStep(page, 'Facing');
  await facing.getByRole('radio', { name: 'Bent' }).click();
  await type(facing.getByLabel('Turn', { exact: true }), '90');
  await page.getByRole('button', { name: /^Plane Surface/ }).click();
  await choose(page, 'Add a deformer', 'Wave');
  const wave = page.getByRole('group', { name: 'Wave' });
  await type(wave.getByLabel('Height', { exact: true }), '0.5');
  await type(wave.getByLabel('Crest to crest', { exact: true }), '4');
  await type(wave.getByLabel('Speed a second', { exact: true }), '1');
  await settled(page);
  const bytes = await sendOut(page, 'glb', async () => {
    await page.getByRole('radio', { name: 'Animation' }).click();
    await type(page.getByLabel('From second'), '0');
    await type(page.getByLabel('To second'), '1');
    await type(page.getByLabel('Frames a second'), '2');
  });
  const root = (await new WebIO().readBinary(new Uint8Array(bytes))).getRoot();
  const channels = root.listAnimations()[0].listChannels();
  const height = (x: number, t: number) => 0.5 * Math.sin((2 * Math.PI * (x - t)) / 4);
  const planks = root.listNodes().filter((n) => n.getMesh()?.getName().startsWith('Plank'));
  expect(planks.length).toBe(8);
  for (const node of planks) {
    const of = (path: string) =>
      channels
        .find((c) => c.getTargetNode() === node && c.getTargetPath() === path)
        ?.getSampler()
        ?.getOutput();
    const weights = Array.from(of('weights')!.getArray()!);
    for (let frame = 0; frame < 3; frame++) {
      const [position, rotation] = ['translation', 'rotation'].map((path) => {
        const rest = path === 'translation' ? node.getTranslation() : node.getRotation();
        return of(path)?.getElement(frame, []) ?? rest;
      });
      let [low, high] = [Infinity, -Infinity];
      for (const primitive of node.getMesh()!.listPrimitives()) {
        const rest = primitive.getAttribute('POSITION')!;
        const targets = primitive.listTargets().map((t) => t.getAttribute('POSITION')!);
        for (let v = 0; v < rest.getCount(); v++) {
          const p = targets.reduce(
            (sum, t, k) => {
              const by = weights[frame * targets.length + k];
              return by === 0 ? sum : t.getElement(v, []).map((d, a) => sum[a] + d * by);
            },
            rest.getElement(v, [] as number[]),
          );
          const [x, y] = rotated(p, rotation).map((d, a) => d + position[a]);
          const over = y - height(x, frame / 2);
          low = Math.min(low, over);
          high = Math.max(high, over);
        }
      }
      // A plank lies on the wave with its whole length, and is as thick as it was.
      expect(Math.abs(low)).toBeLessThan(0.02);
      expect(high).toBeLessThan(0.12);
    }
  }
});

function rotated([x, y, z]: number[], [qx, qy, qz, qw]: number[]): number[] {
  const [u, v, w] = [2 * (qy * z - qz * y), 2 * (qz * x - qx * z), 2 * (qx * y - qy * x)];
  return [x + qw * u + qy * w - qz * v, y + qw * v + qz * u - qx * w, z + qw * w + qx * v - qy * u];
}
