import { Document, WebIO } from '@gltf-transform/core';
import { expect, type Page } from '@playwright/test';
import { choose, hang, newScene, pathByNumbers, sendOut, settled, type, setTime } from './support/app';
import { standing } from './support/glb';
import { ownTest as test } from './support/test';

/** Props that play the animations that they bring along: how each stands, read out of the file that is sent out. */

test.beforeEach(({ page }) => newScene(page));

/** A reed 1 m high whose tip goes 1 m aside and back within two seconds. */
async function reed(): Promise<Uint8Array> {
  const d = new Document();
  const buffer = d.createBuffer();
  const floats = (kind: 'VEC3' | 'SCALAR', list: number[]) =>
    d.createAccessor().setType(kind).setArray(new Float32Array(list)).setBuffer(buffer);
  const primitive = d
    .createPrimitive()
    .setAttribute('POSITION', floats('VEC3', [-0.1, 0, 0, 0.1, 0, 0, 0, 1, 0]))
    .setIndices(
      d
        .createAccessor()
        .setType('SCALAR')
        .setArray(new Uint16Array([0, 1, 2]))
        .setBuffer(buffer),
    )
    .addTarget(
      d.createPrimitiveTarget().setAttribute('POSITION', floats('VEC3', [0, 0, 0, 0, 0, 0, 0, 0, 1])),
    );
  const node = d.createNode('reed').setMesh(d.createMesh('reed').addPrimitive(primitive).setWeights([0]));
  d.createScene().addChild(node);
  const sampler = d
    .createAnimationSampler()
    .setInput(floats('SCALAR', [0, 1, 2]))
    .setOutput(floats('SCALAR', [0, 1, 0]));
  d.createAnimation('Sway')
    .addSampler(sampler)
    .addChannel(d.createAnimationChannel().setTargetNode(node).setTargetPath('weights').setSampler(sampler));
  return new WebIO().writeBinary(d);
}

/** How far the tip of each has gone, metres, from the first one of the path to the last. */
async function tips(page: Page): Promise<number[]> {
  const all = await standing(await sendOut(page, 'glb'));
  return all
    .map(({ points }) => [...points].sort((a, b) => a[1] - b[1]))
    .map(([a, b, tip]) => ({ at: (a[0] + b[0]) / 2, gone: Math.hypot(tip[0] - (a[0] + b[0]) / 2, tip[2]) }))
    .sort((a, b) => a.at - b.at)
    .map(({ gone }) => gone);
}

test('reeds of one’s own sway together, one after the other, and hold; the file has them so', async ({
  page,
}) => {
  await pathByNumbers(page, [
    [0, 0],
    [8, 0],
  ]);
  await page.getByRole('button', { name: 'Bring in', exact: true }).click();
  await page
    .getByLabel('File to bring in')
    .setInputFiles({ name: 'reed.glb', mimeType: 'model/gltf-binary', buffer: Buffer.from(await reed()) });
  await page.getByRole('radio', { name: 'A prop' }).click();
  await expect(page.getByText('1 animation')).toBeVisible();
  await page.getByRole('button', { name: 'Put in the basket' }).click();
  await settled(page);
  await hang(page, 'reed');
  await type(page.getByLabel('Pitch', { exact: true }), '2');
  await settled(page);
  expect((await tips(page)).map((v) => v.toFixed(4))).toEqual([
    '0.0000',
    '0.0000',
    '0.0000',
    '0.0000',
    '0.0000',
  ]);
  await choose(page, 'More for this run', 'Let it play');
  const step = page.getByRole('region', { name: 'Poses', exact: true });
  await expect(step.getByRole('switch', { name: 'Animated' })).toBeChecked();
  await step.getByRole('radio', { name: 'Together' }).click();
  await setTime(page, '0.75');
  for (const gone of await tips(page)) expect(gone).toBeCloseTo(0.75, 4);
  await step.getByRole('radio', { name: 'In turn' }).click();
  await type(step.getByLabel('Every', { exact: true }), '0.25');
  await settled(page);
  // Each a quarter of a second behind: 0.75, 0.5, 0.25, 0, and −0.25 of a round is on its way back.
  expect((await tips(page)).map((v) => v.toFixed(2))).toEqual(['0.75', '0.50', '0.25', '0.00', '0.25']);
  // Held at its middle, by keyboard; the time says nothing to it then.
  await step.getByRole('radio', { name: 'Play', exact: true }).focus();
  await page.keyboard.press('ArrowRight');
  await expect(step.getByRole('radio', { name: 'Hold' })).toBeChecked();
  await type(step.getByLabel('From, least', { exact: true }), '50');
  await type(step.getByLabel('From, most', { exact: true }), '50');
  await settled(page);
  for (const gone of await tips(page)) expect(gone).toBeCloseTo(1, 4);
  await setTime(page, '1.3');
  for (const gone of await tips(page)) expect(gone).toBeCloseTo(1, 4);
});
