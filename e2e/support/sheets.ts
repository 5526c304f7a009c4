import type { Page } from '@playwright/test';
import { choose, openStep, settled } from './app';

/** Sheets as a person lays them. */

/** Lays a sheet over a surface of the scene. */
export async function laySheet(page: Page, surface: string): Promise<void> {
  await page.getByRole('button', { name: 'New arrangement' }).click();
  await page.getByRole('menuitem', { name: surface, exact: true }).first().click();
  await settled(page);
}

/** Hangs a prop on a line that is drawn through shares of the flat view, on a layout without a grid. */
export async function hangOnLine(page: Page, prop: string, points: [number, number][]): Promise<void> {
  const layout = await openStep(page, 'Layout');
  await layout.getByText('Grid', { exact: true }).click();
  const lines = await openStep(page, 'Lines');
  await lines.getByRole('button', { name: 'Draw a line' }).click();
  const flat = (await page.getByTestId('sheet').boundingBox())!;
  for (const [x, y] of points) await page.mouse.click(flat.x + flat.width * x, flat.y + flat.height * y);
  await page.keyboard.press('Enter');
  await settled(page);
  await choose(page, 'More for line 1', `Hang “${prop}” on it`);
  await settled(page);
}
