import { expect, type Page } from '@playwright/test';
import { unzipSync } from 'fflate';
import { decode } from 'fast-png';
import { make, newScene, onScreen, sendOut, setTime, settled, type, undo } from './support/app';
import { drawnTest as test } from './support/test';

/** The light of a scene, by the pixels of a level plane, and as it is kept. */

/** What comes from the plane, linear, red: the screen's colour before neutral tones took their haze off. */
async function light(page: Page): Promise<number> {
  await settled(page);
  const at = await onScreen(page, [-3.4, 0, 2.4]);
  const clip = { x: Math.round(at.x) - 2, y: Math.round(at.y) - 2, width: 5, height: 5 };
  const { data, channels } = decode(await page.screenshot({ clip }));
  let red = 0;
  for (let i = 0; i < data.length; i += channels) red += data[i] / 25;
  return ((red / 255 + 0.055) / 1.055) ** 2.4 + 0.04;
}
const panelOf = (page: Page) => page.getByRole('dialog', { name: 'Light' });
const kept = async (page: Page) =>
  JSON.parse(new TextDecoder().decode(unzipSync(await sendOut(page, 'clothesline'))['scene.json'])).light;

async function planeFromTop(page: Page): Promise<void> {
  await newScene(page);
  await make(page, 'Plane', { Width: '30', Depth: '30', Columns: '1', Rows: '1' });
  await page.getByRole('button', { name: 'Top', exact: true }).click();
  await page.keyboard.press('Escape');
}

test('lights to begin with; the sun by numbers, by the pad and by keys: level ground gets as much as its height says', async ({
  page,
}) => {
  await planeFromTop(page);
  expect(await kept(page)).toBeNull();
  await page.getByRole('button', { name: 'Light of the scene' }).click();
  const panel = panelOf(page);
  await expect(panel.getByText(/It is lit as the interface is/)).toBeVisible();
  const seen: Record<string, number> = {};
  for (const name of ['Day', 'Evening', 'Overcast', 'Night']) {
    await panel.getByRole('button', { name, exact: true }).click();
    seen[name] = await light(page);
  }
  expect(seen.Day).toBeGreaterThan(seen.Overcast);
  expect(seen.Overcast).toBeGreaterThan(seen.Evening);
  expect(seen.Evening).toBeGreaterThan(seen.Night * 1.5);

  // Nothing but the sun: by the sine of its height, and by its strength.
  await panel.getByRole('button', { name: 'Day', exact: true }).click();
  await type(panel.getByLabel('Brightness', { exact: true }), '0');
  await type(panel.getByLabel('Warmth, kelvin', { exact: true }), '6500');
  await type(panel.getByLabel('Height', { exact: true }), '90');
  const high = await light(page);
  await type(panel.getByLabel('Height', { exact: true }), '30');
  const low = await light(page);
  expect(Math.abs(high / low / 2 - 1)).toBeLessThan(0.04);
  await type(panel.getByLabel('Strength', { exact: true }), '50');
  expect(Math.abs(low / (await light(page)) / 2 - 1)).toBeLessThan(0.06);
  await type(panel.getByLabel('Exposure', { exact: true }), '2');
  expect(Math.abs((await light(page)) / low - 1)).toBeLessThan(0.04);
  await undo(page);
  await undo(page);
  expect(Math.abs((await light(page)) / low - 1)).toBeLessThan(0.02);

  // Over the dome of the sky, by pointer and by keys.
  const pad = panel.getByRole('slider', { name: 'Where the sun stands' });
  await pad.scrollIntoViewIfNeeded();
  const box = (await pad.boundingBox())!;
  const middle = { x: box.x + box.width / 2, y: box.y + box.height / 2 };
  await page.mouse.move(middle.x, middle.y);
  await page.mouse.down();
  await page.mouse.move(middle.x + 14, middle.y, { steps: 3 });
  await page.mouse.move(middle.x + 28, middle.y, { steps: 3 });
  await page.mouse.up();
  await expect(panel.getByLabel('Compass', { exact: true })).toHaveValue('90');
  await expect(panel.getByLabel('Height', { exact: true })).toHaveValue('45');
  expect(Math.abs((await light(page)) / low / Math.SQRT2 - 1)).toBeLessThan(0.05);
  await pad.focus();
  await page.keyboard.press('ArrowUp');
  await page.keyboard.press('ArrowRight');
  await expect(panel.getByLabel('Compass', { exact: true })).toHaveValue('92');
  await expect(panel.getByLabel('Height', { exact: true })).toHaveValue('47');
  await page.keyboard.press('Escape');
  expect(await kept(page)).toMatchObject({
    sun: { compassDeg: 92, heightDeg: 47, warmth: 6500, strength: 1 },
    sky: { brightness: 0 },
  });
});

test('the sun by the hour of a day, and a strength that goes down with the time', async ({ page }) => {
  await planeFromTop(page);
  // By what others call it.
  await page.keyboard.press('Control+k');
  await page.keyboard.type('exposure');
  await page.keyboard.press('Enter');
  const panel = panelOf(page);
  await panel.getByRole('button', { name: 'Day', exact: true }).click();
  await type(panel.getByLabel('Brightness', { exact: true }), '0');
  await panel.getByRole('radio', { name: 'Hour' }).click();
  await type(panel.getByLabel('Day of the year', { exact: true }), '81');
  await type(panel.getByLabel('Latitude', { exact: true }), '60');
  await type(panel.getByLabel('Hour', { exact: true }), '12');
  // At the equinox it is at noon as high as the latitude leaves it: 30°, half of what it is overhead.
  const noon = await light(page);
  await type(panel.getByLabel('Latitude', { exact: true }), '0');
  expect(Math.abs((await light(page)) / noon / 2 - 1)).toBeLessThan(0.04);
  await type(panel.getByLabel('Hour', { exact: true }), '23');
  expect(await light(page)).toBeLessThan(0.06);
  await expect(panel.getByText('It is below the horizon, and gives no light.')).toBeVisible();
  await type(panel.getByLabel('Hour', { exact: true }), '12');
  await expect(panel.getByText(/^It stands (89|90)° high/)).toBeVisible();
  const full = await light(page);

  // Values at moments: full at the beginning, gone after four seconds.
  await type(panel.getByLabel('Strength', { exact: true }), '100 @ 0');
  await type(panel.getByLabel('Strength', { exact: true }), '0 @ 4');
  await setTime(page, '4');
  expect(await light(page)).toBeLessThan(0.06);
  await setTime(page, '2');
  expect(Math.abs((await light(page)) / full - 0.5)).toBeLessThan(0.04);
  await page.getByRole('button', { name: 'Speed and loop' }).click();
  await expect(page.getByText('Light: strength')).toBeVisible();
  await page.getByRole('button', { name: 'Speed and loop' }).click();
  await setTime(page, '0');
  expect(Math.abs((await light(page)) / full - 1)).toBeLessThan(0.02);
  await panel.getByRole('button', { name: 'As the interface' }).click();
  expect(await kept(page)).toBeNull();
});
