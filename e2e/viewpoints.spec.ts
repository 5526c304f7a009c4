import { expect, type Page } from '@playwright/test';
import { unzipSync } from 'fflate';
import { newScene, onScreen, pickOption, scene, sendOut, settled, type, undo } from './support/app';
import { command } from './support/pixels';
import { test } from './support/test';

/** Viewpoints: kept with the scene, framed as their lens says, gone to and taken. */

const panelOf = (page: Page) => page.getByRole('dialog', { name: 'Viewpoints' });
const kept = async (page: Page) =>
  JSON.parse(new TextDecoder().decode(unzipSync(await sendOut(page, 'clothesline'))['scene.json']))
    .viewpoints;

async function place(page: Page, label: string, at: readonly number[]): Promise<void> {
  for (const [k, axis] of ['X', 'Y', 'Z'].entries())
    await type(panelOf(page).getByLabel(`${label} ${axis}`), String(at[k]));
}

test('a viewpoint keeps the view; its frame is what its lens sees; one goes there, and takes the view into it', async ({
  page,
}) => {
  await newScene(page);
  await page.getByRole('button', { name: 'Viewpoints' }).click();
  const panel = panelOf(page);
  await expect(panel.getByText(/None yet/)).toBeVisible();
  await panel.getByRole('button', { name: 'Keep this view' }).click();
  const frame = page.getByRole('img', { name: 'Frame of View' });
  await expect(frame).toBeVisible();
  await type(panel.getByLabel('Focal length, mm'), '24');
  await pickOption(page, panel, 'Frame', 'Square');
  await place(page, 'Eye', [0, 2, 10]);
  await place(page, 'Aim', [0, 2, 0]);
  await settled(page);
  // 24 mm on 24 mm: at 10 m a frame of 10 × 10 m.
  const box = async () => {
    // The rectangle itself: what the browser calls its bounds has its stroke around it.
    const d = (await frame.locator('path').nth(1).getAttribute('d'))!;
    const [left, top, wide, high] = /^M(\S+) (\S+)h([\d.]+)v([\d.]+)/.exec(d)!.slice(1).map(Number);
    const area = (await scene(page).boundingBox())!;
    return { x: left + area.x, y: top + area.y, width: wide, height: high };
  };
  const { x, y, width, height } = await box();
  expect(width).toBeCloseTo(height, 3);
  const [low, high] = [await onScreen(page, [-5, -3, 0]), await onScreen(page, [5, 7, 0])];
  expect(Math.abs(low.x - x)).toBeLessThan(1);
  expect(Math.abs(low.y - (y + height))).toBeLessThan(1);
  expect(Math.abs(high.x - (x + width))).toBeLessThan(1);
  expect(Math.abs(high.y - y)).toBeLessThan(1);
  await pickOption(page, panel, 'Frame', '16 : 9');
  const wide = await box();
  expect(wide.width / wide.height).toBeCloseTo(16 / 9, 3);
  await panel.getByRole('switch', { name: 'Thirds' }).click();
  await expect(frame.locator('path')).toHaveCount(4);

  // The view is turned by hand, and taken into it.
  const area = (await scene(page).boundingBox())!;
  await page.mouse.move(area.x + 200, area.y + 300);
  await page.mouse.down();
  await page.mouse.move(area.x + 120, area.y + 320, { steps: 5 });
  await page.mouse.up();
  await settled(page);
  const away = await onScreen(page, [3, 2, 0]);
  await panel.getByRole('button', { name: 'Take the view into View' }).click();
  await undo(page);
  await panel.getByRole('button', { name: 'View', exact: true }).click();
  await panel.getByRole('button', { name: 'View', exact: true }).click();
  await settled(page);
  const back = await onScreen(page, [3, 2, 0]);
  expect(Math.hypot(back.x - away.x, back.y - away.y)).toBeGreaterThan(10);
  await page.keyboard.press('Shift+Control+z');
  await command(page, 'camera cycle');
  await settled(page);
  const there = await onScreen(page, [3, 2, 0]);
  expect(Math.hypot(there.x - away.x, there.y - away.y)).toBeLessThan(1.5);
  const [view] = await kept(page);
  expect(view).toMatchObject({ name: 'View', focal: 24, focus: null });
  expect(Math.hypot(view.eye[0], view.eye[1] - 2, view.eye[2])).toBeCloseTo(10, 2);
});

test('its name, its focus and its removal; the next and the one before by commands', async ({ page }) => {
  await newScene(page);
  await command(page, 'bookmark create shot');
  const panel = panelOf(page);
  await panel.getByLabel('Name').fill('From the pier');
  await panel.getByLabel('Name').press('Enter');
  await panel.getByRole('switch', { name: 'Focus' }).click();
  await type(panel.getByLabel('Aperture, f'), '4');
  await panel.getByRole('button', { name: 'Keep this view' }).click();
  await expect(page.getByRole('img', { name: 'Frame of View' })).toBeVisible();
  await command(page, 'viewpoint before');
  await expect(page.getByRole('img', { name: 'Frame of From the pier' })).toBeVisible();
  await panel.getByRole('button', { name: 'Remove View', exact: true }).click();
  const all = await kept(page);
  expect(all.map((v: { name: string }) => v.name)).toEqual(['From the pier']);
  expect(all[0].focus.aperture).toBe(4);
  expect(all[0].focus.distance).toBeGreaterThan(1);
});
