import { expect } from '@playwright/test';
import { choose, cratesAlong, onScreen, openStep, rows, settled } from './support/app';
import { test } from './support/test';

/** A place is asked why it is so: a prop, a gap, and by the menu; each reason opens its step. */

test('a prop, a removed one and one by hand say what made them so, and lead to the step', async ({
  page,
}) => {
  await cratesAlong(
    page,
    [
      [-4, 0],
      [4, 0],
    ],
    '2',
  );
  const crates = await rows(page);
  const click = async (i: number, height = 0.2) => {
    const { x, y } = await onScreen(page, [crates[i].x, crates[i].y + height, crates[i].z]);
    await page.mouse.click(x, y);
  };
  await click(1);
  await expect(page.getByRole('group', { name: 'Selected prop' })).toContainText('#2');
  await page.keyboard.press('Delete');
  await settled(page);
  await page.keyboard.press('Control+k');
  await page.keyboard.type('why here');
  await page.keyboard.press('Enter');
  const panel = page.getByRole('dialog', { name: 'Why it is so' });
  await expect(panel).toContainText('click a prop, a gap or the ground');
  await click(2);
  await expect(panel.getByRole('button', { name: 'Crate, as the order says' })).toBeVisible();
  // Near the place of the one that is gone.
  await click(1, 0);
  await expect(panel).toContainText('#2');
  await expect(panel.getByRole('button', { name: 'Empty: removed by hand' })).toBeVisible();
  await expect(panel.getByRole('button', { name: 'By hand: removed' })).toBeVisible();
  await panel.getByRole('button', { name: 'By hand: removed' }).click();
  const hand = page.getByRole('region', { name: 'By hand', exact: true });
  await expect(hand.getByRole('button').first()).toHaveAttribute('aria-expanded', 'true');
  await page.keyboard.press('Escape');
  await expect(panel).toHaveCount(0);
  // What keeps it out, by name; asked by the menu of the right button.
  const gaps = await openStep(page, 'Gaps');
  await choose(page, gaps.getByRole('button', { name: 'Add a keep-out' }), 'A stretch of the path');
  await settled(page);
  const kept = (await rows(page)).find((r) => r.reason === 'keep-out')!;
  expect(kept.s).toBeCloseTo(4, 6);
  await click(3);
  const { x, y } = await onScreen(page, [crates[3].x, crates[3].y + 0.2, crates[3].z]);
  await page.mouse.click(x, y, { button: 'right' });
  await page.getByRole('menuitem', { name: 'Why is it so?' }).click();
  await expect(panel.getByRole('button', { name: 'Crate, as the order says' })).toBeVisible();
  await click(2, 0);
  await expect(panel.getByRole('button', { name: /^Keep-out “.*”: a stretch of the path/ })).toBeVisible();
  await expect(panel.getByRole('button', { name: 'Empty: in a keep-out' })).toBeVisible();
});
