import { expect, type Page } from '@playwright/test';
import { choose, cratesAlong, openStep, rows, settled, type, undo, setTime } from './support/app';
import { test } from './support/test';

/** Numbers that change with time: where they bring things, read out of the rows of a moment. */

const LINE: [number, number][] = [
  [-4, 0],
  [4, 0],
];

/** How far the whole run has gone along, of its pitch of two metres. */
const offset = async (page: Page) => (((await rows(page))[0].s % 2) + 2) % 2;

test('a pulley goes on from moment to moment, set by typing, dragged and moved by keys on the time bar', async ({
  page,
}) => {
  await cratesAlong(page, LINE, '2');
  const first = await offset(page);
  const gone = async () => (((await offset(page)) - first + 2.5) % 2) - 0.5;
  await page.getByRole('button', { name: 'Pulley', exact: true }).click();
  await type(page.getByLabel('Offset', { exact: true }), '0 @ 0');
  await type(page.getByLabel('Offset', { exact: true }), '1.2 @ 4 s');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await settled(page);
  expect(await gone()).toBeCloseTo(0, 9);
  await setTime(page, '2');
  expect(await gone()).toBeCloseTo(0.6, 6);
  await setTime(page, '1');
  // Slow at both ends: 3 x² − 2 x³ of the way after a quarter of the time.
  expect(await gone()).toBeCloseTo(1.2 * (3 / 16 - 2 / 64), 6);
  const mark = page.getByRole('button', { name: 'Moment of Crate: offset at 4 s' });
  await mark.focus();
  await page.keyboard.press('Shift+ArrowLeft');
  await expect(page.getByRole('button', { name: 'Moment of Crate: offset at 3.5 s' })).toBeVisible();
  await settled(page);
  const x = 1 / 3.5;
  expect(await gone()).toBeCloseTo(1.2 * (3 * x * x - 2 * x * x * x), 6);
  // Dragged by an eighth of the bar of eight seconds: one second later.
  const at = (await page.getByRole('button', { name: 'Moment of Crate: offset at 3.5 s' }).boundingBox())!;
  const bar = (await page.getByLabel('Time in seconds').boundingBox())!;
  await page.mouse.move(at.x + at.width / 2, at.y + at.height / 2);
  await page.mouse.down();
  await page.mouse.move(at.x + at.width / 2 + (bar.width - 16) / 8, at.y + at.height / 2, { steps: 4 });
  await page.mouse.up();
  const dragged = page.getByRole('button', { name: /^Moment of Crate: offset at 4\.(4|45|5|55|6) s$/ });
  await expect(dragged).toBeVisible();
  await undo(page);
  await expect(page.getByRole('button', { name: 'Moment of Crate: offset at 3.5 s' })).toBeVisible();
  // Without that moment it stays as it is at the first one.
  await page.getByRole('button', { name: 'Moment of Crate: offset at 3.5 s' }).focus();
  await page.keyboard.press('Delete');
  await settled(page);
  expect(await gone()).toBeCloseTo(0, 9);
});

test('a value is kept at the moment that is shown, held until the next, and taken away in the list', async ({
  page,
}) => {
  await cratesAlong(page, LINE, '2');
  const pitch = page.getByLabel('Pitch', { exact: true });
  await pitch.hover();
  await choose(page, 'Take Pitch from something', 'Changes with time');
  await setTime(page, '3');
  await type(pitch, '1');
  await settled(page);
  expect((await rows(page)).length).toBe(9);
  await setTime(page, '1.5');
  await expect(pitch).toHaveValue('1.50');
  await setTime(page, '0');
  await expect(pitch).toHaveValue('2.00');
  expect((await rows(page)).length).toBe(5);
  await choose(page, 'Pitch changes with time', 'Held until the next moment');
  await setTime(page, '2.9');
  expect((await rows(page)).length).toBe(5);
  await page.getByRole('button', { name: 'Speed and loop' }).click();
  const list = page.getByRole('group', { name: 'Crate: pitch' });
  await type(list.getByLabel('Moment 3 s: seconds'), '2.5');
  await settled(page);
  await list.getByRole('button', { name: 'Take the moment 0 s away' }).click();
  await list.getByRole('button', { name: 'Take the moment 2.5 s away' }).click();
  await expect(list).toHaveCount(0);
  await page
    .getByRole('button', { name: /^Crate Run/ })
    .first()
    .click();
  await settled(page);
  // It stays as it was then.
  await expect(pitch).toHaveValue('1.00');
  expect((await rows(page)).length).toBe(9);
});

test('one crate goes from end to end in its time, turns there, and keeps that time when the path grows', async ({
  page,
}) => {
  await cratesAlong(page, LINE, '2');
  const spacing = await openStep(page, 'Spacing');
  await spacing.getByRole('radio', { name: 'Count' }).click();
  await type(spacing.getByLabel('Count', { exact: true }), '1');
  await page.getByRole('button', { name: 'Pulley', exact: true }).click();
  await type(page.getByLabel('Duration', { exact: true }), '4');
  await page.getByRole('radio', { name: 'Turn' }).click();
  await page.keyboard.press('Escape');
  const at = async (seconds: string) => {
    await setTime(page, seconds);
    const [crate, ...more] = await rows(page);
    expect(more).toEqual([]);
    expect(crate.state).toBe('placed');
    return crate.x;
  };
  expect(await at('0')).toBeCloseTo(-4, 6);
  expect(await at('1')).toBeCloseTo(-2, 6);
  expect(await at('4')).toBeCloseTo(4, 6);
  expect(await at('5')).toBeCloseTo(2, 6);
  await page.getByRole('button', { name: /^Path Path/ }).click();
  await type(page.getByLabel('Point 2 X in the list'), '12');
  await page
    .getByRole('button', { name: /^Crate Run/ })
    .first()
    .click();
  expect(await at('1')).toBeCloseTo(0, 6);
  expect(await at('4')).toBeCloseTo(12, 6);
});

test('a speed becomes a whole one, so that the last frame is the first', async ({ page }) => {
  await cratesAlong(page, LINE, '2');
  await page.getByRole('button', { name: 'Pulley', exact: true }).click();
  await type(page.getByLabel('Speed a second', { exact: true }), '0.33');
  await page.getByRole('radio', { name: 'Wrap' }).click();
  await page.keyboard.press('Escape');
  await page.keyboard.press('Control+k');
  await page.keyboard.type('seamless');
  await page.keyboard.press('Enter');
  await settled(page);
  const at = async (seconds: string) => {
    await setTime(page, seconds);
    return (await rows(page))
      .filter((r) => r.state === 'placed')
      .map((r) => r.x)
      .sort((a, b) => a - b);
  };
  const [first, middle, last] = [await at('0'), await at('3'), await at('8')];
  last.forEach((x, i) => expect(x).toBeCloseTo(first[i], 6));
  expect(Math.abs(middle[0] - first[0])).toBeGreaterThan(0.1);
  await page.keyboard.press('Control+z');
  await settled(page);
  expect(Math.abs((await at('8'))[0] - first[0])).toBeGreaterThan(0.1);
});
