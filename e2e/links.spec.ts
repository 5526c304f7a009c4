import { expect, type Page } from '@playwright/test';
import {
  choose,
  counts,
  hang,
  newScene,
  openStep,
  pathByNumbers,
  rows,
  settled,
  takeProps,
  type,
  undo,
} from './support/app';
import { test } from './support/test';

/** Numbers that follow what other things measure, read back out of what was placed. */

const pitchOf = async (page: Page): Promise<number> => {
  const [a, b] = await rows(page);
  return Math.hypot(a.x - b.x, a.z - b.z);
};
/** The field of a number, whatever stands in it. */
const field = (page: Page, name: string) => page.getByLabel(name, { exact: true });

test('a pitch follows the length of a path: typed, from the menu, live while the path changes, kept when it goes', async ({
  page,
}) => {
  await newScene(page);
  await choose(page, 'New path or surface', 'Circle');
  await settled(page);
  await type(field(page, 'Radius'), '3');
  await settled(page);
  await takeProps(page, 'Bollard');
  await pathByNumbers(page, [
    [-6, 6],
    [6, 6],
  ]);
  await hang(page, 'Bollard');
  await openStep(page, 'Spacing');
  await type(field(page, 'Pitch'), '= length of Circle / 12');
  await settled(page);
  const twelfth = (radius: number) => (2 * Math.PI * radius) / 12;
  // Evened out over the 12 m of its own path.
  const evened = (pitch: number) => 12 / Math.max(1, Math.round(12 / pitch));
  expect(await pitchOf(page)).toBeCloseTo(evened(twelfth(3)), 6);
  await expect(page.getByRole('button', { name: 'Pitch = length of Circle / 12' })).toBeVisible();
  await expect(field(page, 'Pitch')).toHaveValue(twelfth(3).toFixed(3));
  await type(field(page, 'Pitch'), '= length of Harbour');
  await expect(page.getByText(/Name something that is there/)).toBeVisible();
  await page.keyboard.press('Escape');

  // The circle becomes larger: the run follows in the same step.
  await page.getByRole('button', { name: /^Circle Path/ }).click();
  await type(field(page, 'Radius'), '6');
  await settled(page);
  expect(await pitchOf(page)).toBeCloseTo(evened(twelfth(6)), 6);
  await undo(page);
  await settled(page);
  expect(await pitchOf(page)).toBeCloseTo(evened(twelfth(3)), 6);

  // A radius from how many there are, out of the menu; a ring of them is told, and the last number serves.
  await page.getByRole('button', { name: 'Take Radius from something' }).click();
  await page.getByRole('menuitem', { name: '= count of Bollard' }).click();
  await settled(page);
  await page.getByRole('button', { name: /^Bollard Run/ }).click();
  await expect(page.getByRole('button', { name: 'Pitch = length of Circle / 12' })).toBeVisible();
  await openStep(page, 'Checks');
  await expect(page.getByText(/taken from what waits for itself/).first()).toBeVisible();
  await undo(page);
  await settled(page);

  // The path goes: its last number stays, and is said to be broken; typing another makes it its own again.
  await page.getByRole('button', { name: /^Circle Path/ }).click();
  await page.keyboard.press('Delete');
  await settled(page);
  expect(await pitchOf(page)).toBeCloseTo(evened(twelfth(3)), 6);
  await page.getByRole('button', { name: /^Bollard Run/ }).click();
  await expect(page.getByText(/taken from what is no longer there/).first()).toBeVisible();
  await openStep(page, 'Spacing');
  await type(field(page, 'Pitch'), '2');
  await settled(page);
  expect(await pitchOf(page)).toBeCloseTo(2, 9);
  expect((await counts(page)).placed).toBe(7);
  await expect(page.getByRole('button', { name: /^Pitch = / })).toHaveCount(0);
});
