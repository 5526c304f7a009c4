import { expect, type Page } from '@playwright/test';
import { unzipSync } from 'fflate';
import {
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
  takeProps,
  settled,
  type,
  undo,
} from './support/app';
import { command, developed, lightOf, lightOfStill, picture } from './support/pixels';
import { drawnTest as test } from './support/test';

/** Lights that are put in by hand and props that glow, by the pixels of a level plane and by closed forms. */

const panelOf = (page: Page) => page.getByRole('dialog', { name: 'Light' });
const kept = async (page: Page) =>
  JSON.parse(new TextDecoder().decode(unzipSync(await sendOut(page, 'clothesline'))['scene.json']));

/** A plane seen from the top, neither sun nor sky. */
async function darkPlane(page: Page): Promise<void> {
  await newScene(page);
  await command(page, 'soft shadows');
  await make(page, 'Plane', { Width: '60', Depth: '60', Columns: '1', Rows: '1' });
  await page.getByRole('button', { name: 'Top', exact: true }).click();
  await page.keyboard.press('Escape');
  await command(page, 'sun sky lighting');
  const panel = panelOf(page);
  await panel.getByRole('button', { name: 'Day', exact: true }).click();
  const sun = panel.getByRole('region', { name: 'Sun' });
  await type(sun.getByLabel('Strength', { exact: true }), '0');
  await type(panel.getByLabel('Brightness', { exact: true }), '0');
}

/** The light of places of the plane, red. */
async function lightsAt(page: Page, places: readonly (readonly [number, number])[]): Promise<number[]> {
  const seen = await picture(page);
  const lights: number[] = [];
  for (const [x, z] of places) {
    const at = await onScreen(page, [x, 0, z]);
    const all = seen(at.x, at.y, 5, 5).map(lightOf);
    lights.push(all.reduce((sum, v) => sum + v, 0) / all.length);
  }
  return lights;
}
const lightAt = async (page: Page, x: number, z: number): Promise<number> =>
  (await lightsAt(page, [[x, z]]))[0];

async function putAt(page: Page, place: readonly number[]): Promise<void> {
  const at = panelOf(page).getByRole('group', { name: 'Light at' });
  for (const [k, axis] of ['X', 'Y', 'Z'].entries())
    await type(at.getByLabel(`Light at ${axis}`), String(place[k]));
}

test.describe('pixel by pixel', () => {
  test.use({ density: 1 });
  test('point, area and spot: by the square of the distance, the cosines and the cone, at once and developed', async ({
    page,
  }) => {
    await darkPlane(page);
    await choose(page, 'Put in a light', 'Point');
    const panel = panelOf(page);
    const [x, z, high] = [-2.5, 0.5, 1.5];
    await putAt(page, [x, high, z]);
    await type(panel.getByLabel('Size', { exact: true }), '0');
    const lamp = panel.getByRole('region', { name: 'Lights put in' });
    await type(lamp.getByLabel('Strength', { exact: true }), '80');
    // Beside the mark and the arms of the light.
    const away = [0.5, 0.9, 1.3, 1.7];
    const first = high / Math.hypot(high, away[0]);
    const measure = () =>
      lightsAt(
        page,
        away.map((d) => [x - d * 0.6, z - d * 0.8] as const),
      );
    const holds = async (law: (cos: number) => number, ...waits: ((page: Page) => Promise<void>)[]) => {
      for (const wait of waits) {
        await wait(page);
        const seen = await measure();
        away.forEach((d, i) => {
          const cos = high / Math.hypot(high, d);
          const share = (law(cos) * cos ** 3) / (law(first) * first ** 3);
          expect(Math.abs(seen[i] / seen[0] / share - 1)).toBeLessThan(0.03);
        });
      }
      return (await measure())[0];
    };
    const whole = await holds(() => 1, settled);
    await lamp.getByRole('radio', { name: 'Area' }).click();
    await type(panel.getByLabel('Aim X'), String(x));
    await type(panel.getByLabel('Aim Z'), String(z));
    const flat = await holds((cos) => cos, settled, developed);
    expect(Math.abs(flat / whole / first - 1)).toBeLessThan(0.03);
    await lamp.getByRole('radio', { name: 'Spot' }).click();
    await type(panel.getByLabel('Spread', { exact: true }), '60');
    await settled(page);
    const [middle, rim] = await lightsAt(page, [
      [x - 0.3, z - 0.4],
      [x - 0.6, z - 0.8],
    ]);
    expect(Math.abs(middle / whole - 1)).toBeLessThan(0.03);
    expect(rim).toBeLessThan(whole * 0.01);
    // Half of the strength, and off.
    await type(lamp.getByLabel('Strength', { exact: true }), '40');
    await settled(page);
    expect(Math.abs((await lightAt(page, x - 0.3, z - 0.4)) / whole / 0.5 - 1)).toBeLessThan(0.04);
    await lamp.getByRole('switch', { name: 'On' }).click();
    await settled(page);
    expect(await lightAt(page, x - 0.3, z - 0.4)).toBeLessThan(whole * 0.01);
    await undo(page);
    await expect(lamp.getByRole('switch', { name: 'On' })).toBeChecked();
  });
});

test('a light a metre over a plane, in a picture of light: as bright as the sun of a clear day, and by the law, to 1 %', async ({
  page,
}) => {
  await darkPlane(page);
  await page.getByRole('button', { name: 'Free', exact: true }).click();
  await command(page, 'bookmark create shot');
  const views = page.getByRole('dialog', { name: 'Viewpoints' });
  await type(views.getByLabel('Focal length, mm'), '24');
  await pickOption(page, views, 'Frame', 'Square');
  const eye = [0, 4, 3];
  for (const [k, v] of eye.entries()) await type(views.getByLabel(`Eye ${'XYZ'[k]}`), String(v));
  for (const k of 'XYZ') await type(views.getByLabel(`Aim ${k}`), '0');
  await command(page, 'sun sky lighting');
  const panel = panelOf(page);
  await choose(page, 'Put in a light', 'Point');
  await putAt(page, [0, 1, 0]);
  await type(panel.getByLabel('Size', { exact: true }), '0');
  await type(panel.getByLabel('Warmth, kelvin', { exact: true }).first(), '5500');
  const lamp = panel.getByRole('region', { name: 'Lights put in' });
  await type(lamp.getByLabel('Strength', { exact: true }), '100');
  const size = 48;
  const byLamp = await lightOfStill(page, 'View', size);
  await lamp.getByRole('switch', { name: 'On' }).click();
  const sun = panel.getByRole('region', { name: 'Sun' });
  await type(sun.getByLabel('Strength', { exact: true }), '100');
  await type(sun.getByLabel('Height', { exact: true }), '90');
  await type(sun.getByLabel('Softness', { exact: true }), '0');
  const bySun = await lightOfStill(page, 'View', size);
  // The ray of a pixel meets the plane; at (0, 0, 0) the lamp is a metre off.
  const [f, u] = [
    [0, -0.8, -0.6],
    [0, 0.6, -0.8],
  ];
  for (let y = 6; y < size; y += 7)
    for (let x = 4; x < size; x += 7) {
      const [a, b] = [((x + 0.5) / size - 0.5) * 1, (0.5 - (y + 0.5) / size) * 1];
      const way = [a, f[1] + b * u[1], f[2] + b * u[2]];
      const t = -eye[1] / way[1];
      const d = Math.hypot(way[0] * t, eye[2] + way[2] * t);
      expect(Math.abs(byLamp.at(x, y)[0] / bySun.at(x, y)[0] / (1 + d * d) ** -1.5 - 1)).toBeLessThan(0.01);
    }
});

test('a set of three around what is selected follows it; arms move a light; there are up to eight', async ({
  page,
}) => {
  await newScene(page);
  await pathByNumbers(page, [
    [-2, 0],
    [2, 0],
  ]);
  await takeProps(page, 'Crate');
  await hang(page, 'Crate');
  await page.getByRole('button', { name: /^Crate Run/ }).click();
  await command(page, 'three point lighting');
  const lights = panelOf(page).getByRole('region', { name: 'Lights put in' });
  await expect(lights.getByRole('button', { name: /^(Main|Fill|Back) area/ })).toHaveCount(3);
  await expect(page.getByRole('group', { name: 'Lights put in' })).toBeVisible();
  const { lamps, arrangements } = await kept(page);
  expect(lamps.map((l: { aimedAt: string }) => l.aimedAt)).toEqual(Array(3).fill(arrangements[0].id));

  // The dialog for sending out has taken the panel's place.
  await command(page, 'sun sky lighting');
  await lights.getByRole('button', { name: /^Fill area/ }).click();
  const arm = page.getByRole('button', { name: 'Move the light along X' });
  const box = (await arm.locator('circle').boundingBox())!;
  const grip = { x: box.x + box.width / 2, y: box.y + box.height / 2 };
  await page.mouse.move(grip.x, grip.y);
  await page.mouse.down();
  await page.mouse.move(grip.x - 40, grip.y, { steps: 4 });
  await page.mouse.up();
  const moved = (await kept(page)).lamps;
  expect(moved[1].at[0]).toBeLessThan(lamps[1].at[0] - 0.2);
  for (const k of [1, 2]) expect(moved[1].at[k]).toBeCloseTo(lamps[1].at[k], 2);
  await undo(page);
  expect((await kept(page)).lamps).toEqual(lamps);

  await command(page, 'key fill rim');
  await expect(lights.getByRole('listitem')).toHaveCount(6);
  await command(page, 'key fill rim');
  await expect(page.getByText(/A scene has up to 8 lights of its own/)).toBeVisible();
  await lights.getByRole('button', { name: /^Main area/ }).click();
  await lights.getByRole('button', { name: 'Remove Fill', exact: true }).click();
  await expect(lights.getByRole('listitem')).toHaveCount(5);
  // They go along into a file where that is asked for, in candela, still looking at what they light.
  const glb = await sendOut(page, 'glb', () =>
    page.getByRole('checkbox', { name: 'Lights and viewpoints go along' }).click(),
  );
  const json = JSON.parse(glb.subarray(20, 20 + glb.readUInt32LE(12)).toString());
  const { lights: sent } = json.extensions.KHR_lights_punctual as {
    lights: { name: string; intensity: number }[];
  };
  expect(sent.map((l) => l.name)).toEqual(['Main', 'Back', 'Main 2', 'Fill 2', 'Back 2']);
  expect(sent[0].intensity / 100_000 / lamps[0].strength).toBeCloseTo(1, 6);
  await command(page, 'sun sky lighting');
  await lights.getByRole('button', { name: /^Main area/ }).click();
  // Aimed at a place instead, it is kept so.
  await pickOption(page, panelOf(page), 'Aimed at', 'A place');
  expect((await kept(page)).lamps[0].aimedAt).toBeNull();
});

test('a hundred and fifty bulbs on a line light what is under them as all of them at once', async ({
  page,
}) => {
  await darkPlane(page);
  await panelOf(page).getByRole('button', { name: 'Close' }).click();
  await pathByNumbers(page, [
    [-6, 0],
    [6, 0],
  ]);
  await takeProps(page, 'Bulb');
  await hang(page, 'Bulb');
  const spacing = await openStep(page, 'Spacing');
  await spacing.getByRole('radio', { name: 'Count' }).click();
  await type(spacing.getByRole('textbox', { name: 'Count' }), '150');
  const facing = await openStep(page, 'Facing');
  await facing.getByRole('button', { name: 'Add Lift', exact: true }).click();
  await type(facing.getByLabel('Lift', { exact: true }), '1.6');
  const contents = page.getByRole('region', { name: 'Contents' });
  await page.getByRole('region', { name: 'Basket' }).getByRole('button', { name: /^Bulb/ }).click();
  await page.getByRole('switch', { name: 'Glows' }).click();
  await type(page.getByLabel('Strength of the glow', { exact: true }), '2');
  await contents.getByRole('button', { name: /^Path/ }).first().click();
  await page.getByRole('button', { name: 'Hide Path', exact: true }).click();
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await developed(page);
  const placed = (await rows(page)).filter((r) => r.state === 'placed');
  expect(placed).toHaveLength(150);
  const sum = (x: number, z: number) =>
    placed.reduce((all, r) => {
      // The bulb hangs 16 cm down from its foot: its middle is half of that.
      const [dx, h, dz] = [r.x - x, r.y - 0.08, r.z - z];
      return all + h / Math.hypot(dx, h, dz) ** 3;
    }, 0);
  const places = Array.from(
    { length: 60 },
    (_, i) => [-3 + (i % 12) * 0.5, 0.5 + Math.floor(i / 12) * 0.4] as const,
  );
  const lights = await lightsAt(page, places);
  const by = lights[5] / sum(...places[5]);
  const off = places.map((place, i) => lights[i] / by / sum(...place) - 1);
  expect(Math.max(...off.map(Math.abs))).toBeLessThan(0.05);
  const { props } = await kept(page);
  expect(props.find((p: { name: string }) => p.name === 'Bulb').glow.strength).toBe(0.02);
});
