import { expect, type Page } from '@playwright/test';
import {
  alerts,
  counts,
  newScene,
  onScreen,
  openExample,
  openQuay,
  openStep,
  rows,
  setTime,
  settled,
  type,
  undo,
} from './support/app';
import { openMany } from './support/many';
import { ownTest as test } from './support/test';

const PROVING = process.env.PROVE === '1';

const pitch = (page: Page) => page.getByLabel('Pitch', { exact: true });

test('undo and redo go by name, through every kind of change', async ({ page }) => {
  await openQuay(page);
  const top = page.getByRole('banner');
  await type(pitch(page), '2.4');
  await expect(top.getByRole('button', { name: 'Undo pitch 1.8 → 2.4' })).toBeVisible();
  await page.locator('[data-slot="3"]').click();
  await page.getByRole('button', { name: 'Hide Lamp posts' }).click();
  const name = page.getByLabel('Name of the run');
  await name.fill('Edge bollards');
  await name.press('Enter');
  const names = [
    'Quay bollards: name Quay bollards → Edge bollards',
    'Lamp posts: visible on → off',
    'remove #3',
    'pitch 1.8 → 2.4',
  ];
  for (const n of names) await top.getByRole('button', { name: `Undo ${n}` }).click();
  await settled(page);
  expect(await counts(page)).toEqual({ placed: 25, gaps: 2 });
  await expect(top.getByRole('button', { name: 'Undo', exact: true })).toBeDisabled();
  for (const n of names.toReversed()) await top.getByRole('button', { name: `Redo ${n}` }).click();
  await expect(name).toHaveValue('Edge bollards');
  await expect(pitch(page)).toHaveValue('2.40');
});

test('nothing of a scene goes on in the next one: not its time, nor its view, nor the panel that was open', async ({
  page,
}) => {
  await openExample(page, 'Sailcloth');
  await setTime(page, '2');
  await page.getByRole('button', { name: 'Fit', exact: true }).click();
  await page.getByRole('button', { name: 'Light of the scene' }).click();
  await page.getByRole('link', { name: 'Scenes', exact: true }).click();
  await openExample(page, 'Rope fence');
  await expect(page.getByTestId('clock')).toHaveCount(0);
  const seen = await onScreen(page, [0, 0, 0]);
  expect(await page.getByRole('dialog').count()).toBe(0);
  await page.reload();
  await settled(page);
  expect(await onScreen(page, [0, 0, 0])).toEqual(seen);
});

test('a scene is left after a menu was open; where the page breaks it says so and leads back', async ({
  page,
}) => {
  await openQuay(page);
  await page.getByRole('button', { name: 'New path or surface', exact: true }).click();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('menu')).toHaveCount(0);
  await page.getByRole('link', { name: 'Scenes', exact: true }).click();
  const again = page.getByRole('button', { name: 'Open Tern Quay, lantern evening', exact: true });
  await again.click();
  await settled(page);
  await type(pitch(page), '2.4');
  await settled(page);
  // As an extension of the browser may do: what the page put there is taken from under it.
  await page.evaluate(() => document.querySelector('[aria-label="Open menu or list"]')!.remove());
  await page.getByRole('link', { name: 'Scenes', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'Something broke on this page' })).toBeVisible();
  await page.getByRole('button', { name: 'Back to the scenes' }).click();
  await again.click();
  await settled(page);
  await expect(pitch(page)).toHaveValue('2.40');
});

test('a reload brings everything back that was said to be saved, the undo list too', async ({ page }) => {
  await openQuay(page);
  await type(pitch(page), '2.4');
  await settled(page);
  await page.reload();
  await settled(page);
  await expect(pitch(page)).toHaveValue('2.40');
  await undo(page);
  await settled(page);
  await expect(pitch(page)).toHaveValue('1.80');
  await page.goto('/');
  await page.getByRole('button', { name: 'Open Tern Quay, lantern evening', exact: true }).click();
  await settled(page);
  await expect(pitch(page)).toHaveValue('1.80');
});

/** Kills the page of a tab, as a crash does: nothing of it runs any more. */
async function kill(page: Page): Promise<void> {
  const session = await page.context().newCDPSession(page);
  const crashed = page.waitForEvent('crash');
  void session.send('Page.crash').catch(() => undefined);
  await crashed;
}

for (const [what, open, kills] of [
  ['a small scene', openQuay, PROVING ? 100 : 2],
  ...(PROVING ? ([['100,000 pegs', (page: Page) => openMany(page, 100_000, 0.2), 5]] as const) : []),
] as const)
  test(`in ${what} a tab that is killed in the middle of a gesture keeps all but its last tenth of a second, as one step`, async ({
    page,
    context,
  }) => {
    await open(page);
    const url = page.url();
    let tab = page;
    for (let k = 0; k < kills; k++) {
      const before = Number(await pitch(tab).inputValue());
      await pitch(tab).focus();
      const until = Date.now() + 40 + ((k * 137) % 400);
      do await pitch(tab).press('ArrowUp');
      while (Date.now() < until);
      const done = Number(await pitch(tab).inputValue());
      expect(done).toBeGreaterThan(before);
      const end = Date.now() + 100;
      while (Date.now() < end) await pitch(tab).press('ArrowUp');
      await kill(tab);
      tab = await context.newPage();
      await tab.goto(url);
      await settled(tab);
      // The dead tab does not answer, so this one holds the scene at once.
      await expect(tab.getByText('open in another tab')).toHaveCount(0);
      const kept = Number(await pitch(tab).inputValue());
      expect(kept).toBeGreaterThanOrEqual(done);
      // One step, or some where the machine was so busy that the keys came like several gestures.
      const steps = [kept];
      while (steps.at(-1) !== before && steps.length < 9) {
        await undo(tab);
        await expect(pitch(tab)).not.toHaveValue(steps.at(-1)!.toFixed(2));
        steps.push(Number(await pitch(tab).inputValue()));
      }
      expect(steps.at(-1)).toBe(before);
      expect(steps).toEqual(steps.toSorted((a, b) => b - a));
      for (const value of steps.slice(0, -1).toReversed()) {
        await tab.getByRole('button', { name: /^Redo pitch/ }).click();
        await expect(pitch(tab)).toHaveValue(value.toFixed(2));
      }
      await settled(tab);
    }
  });

/** How many records of logs are on disk. */
const logged = (page: Page): Promise<number> =>
  page.evaluate(
    () =>
      new Promise<number>((done, fail) => {
        const opening = indexedDB.open('clothesline');
        opening.onerror = () => fail(opening.error);
        opening.onsuccess = () => {
          const db = opening.result;
          const counting = db.transaction('log').objectStore('log').count();
          counting.onsuccess = () => {
            db.close();
            done(counting.result);
          };
        };
      }),
  );

test('a change is a record beside the scene; when nothing happens the records are folded into it', async ({
  page,
}) => {
  await openQuay(page);
  const before = await pitch(page).inputValue();
  await pitch(page).focus();
  while ((await logged(page)) < 64) for (let i = 0; i < 25; i++) await pitch(page).press('ArrowUp');
  const after = await pitch(page).inputValue();
  await expect.poll(() => logged(page)).toBe(0);
  await page.reload();
  await settled(page);
  await expect(pitch(page)).toHaveValue(after);
  // One step, or some where the machine was so busy that the keys came like several gestures.
  for (let value = after, n = 0; value !== before && n < 9; n++) {
    await undo(page);
    await expect(pitch(page)).not.toHaveValue(value);
    value = await pitch(page).inputValue();
  }
  await expect(pitch(page)).toHaveValue(before);
});

test('a scene that another tab deletes can be kept as a copy, its meshes and its undo list along', async ({
  page,
  context,
}) => {
  await openExample(page, 'Sailcloth');
  await page.getByLabel('Scene name').fill('Loved');
  await page.keyboard.press('Enter');
  await settled(page);
  const before = await rows(page);
  const second = await context.newPage();
  await second.goto('/');
  await second.getByRole('button', { name: 'Open Loved', exact: true }).hover();
  await second.getByRole('button', { name: 'Delete Loved' }).click();
  await second.getByRole('button', { name: 'Delete for good' }).click();
  await expect(second.getByText('None yet')).toBeVisible();
  await expect(alerts(page)).toContainText('deleted in another tab');
  await page.getByRole('button', { name: 'Keep a copy' }).click();
  await expect(alerts(page)).toHaveCount(0);
  await settled(page);
  await page.reload();
  await settled(page);
  expect(await rows(page)).toEqual(before);
  await undo(page);
  await expect(page.getByLabel('Scene name')).not.toHaveValue('Loved');
});

test('while something is not kept, leaving asks; what could not be kept is there when the scene is opened again', async ({
  page,
}) => {
  await openQuay(page);
  const url = page.url();
  const asked: string[] = [];
  page.on('dialog', (dialog) => {
    asked.push(dialog.type());
    void dialog.dismiss();
  });
  await page.evaluate(() => {
    const { add } = IDBObjectStore.prototype;
    window.addEventListener('space again', () => (IDBObjectStore.prototype.add = add));
    IDBObjectStore.prototype.add = function full() {
      throw new DOMException('full', 'QuotaExceededError');
    };
  });
  await type(pitch(page), '2.2');
  await expect(page.getByText('Not saved', { exact: true })).toBeVisible();
  await expect(alerts(page).filter({ hasText: 'storage is full' })).toContainText(
    'Send the scene out as a .clothesline',
  );
  await page.evaluate(() => void setTimeout(() => location.reload()));
  await expect.poll(() => asked).toEqual(['beforeunload']);
  await expect(pitch(page)).toHaveValue('2.20');
  // Within the application nothing is asked: the page still has it.
  await page.getByRole('link', { name: 'Clothesline, all scenes' }).click();
  await page
    .getByRole('region', { name: 'Your scenes' })
    .getByRole('button', { name: /^Open / })
    .click();
  await settled(page);
  await expect(pitch(page)).toHaveValue('2.20');
  await page.evaluate(() => window.dispatchEvent(new Event('space again')));
  await type(pitch(page), '2.4');
  await expect(page.getByText('Saved', { exact: true })).toBeVisible();
  await page.goto(url);
  await settled(page);
  await expect(pitch(page)).toHaveValue('2.40');
  expect(asked).toEqual(['beforeunload']);
});

test('where the browser keeps nothing, that is said, everything works, and the scene can be sent out', async ({
  page,
}) => {
  await page.addInitScript(() => Object.defineProperty(window, 'indexedDB', { value: undefined }));
  await page.goto('/');
  await expect(page.getByRole('status').filter({ hasText: 'keeps nothing' })).toContainText('.clothesline');
  await openQuay(page);
  await expect(alerts(page).filter({ hasText: 'keeps nothing' })).toBeVisible();
  await type(pitch(page), '2.4');
  await settled(page);
  await undo(page);
  await expect(pitch(page)).toHaveValue('1.80');
  await page.getByRole('link', { name: 'Clothesline, all scenes' }).click();
  await page.getByRole('button', { name: 'Open Tern Quay, lantern evening', exact: true }).click();
  await settled(page);
  await expect(pitch(page)).toHaveValue('1.80');
});

test('a second tab on the same scene only looks, until it takes over; then the first only looks', async ({
  page,
  context,
}) => {
  await newScene(page);
  await page.getByLabel('Scene name').fill('Shared');
  await page.keyboard.press('Enter');
  await settled(page);
  const second = await context.newPage();
  await second.goto(page.url());
  await settled(second);
  await expect(alerts(second)).toContainText('open in another tab');
  await expect(second.getByLabel('Scene name')).toHaveValue('Shared');
  await second.getByLabel('Scene name').fill('Not this');
  await second.keyboard.press('Enter');
  await expect(second.getByLabel('Scene name')).toHaveValue('Shared');
  // The first changes something that is not yet saved when the second takes over.
  await page.bringToFront();
  await page.getByLabel('Scene name').fill('Shared, later');
  await page.keyboard.press('Enter');
  await second.bringToFront();
  await second.getByRole('button', { name: 'Take over' }).click();
  await expect(second.getByLabel('Scene name')).toHaveValue('Shared, later');
  await expect(alerts(page)).toContainText('open in another tab');
  await second.getByLabel('Scene name').fill('From the second');
  await second.keyboard.press('Enter');
  await settled(second);
  await second.reload();
  await settled(second);
  await expect(second.getByLabel('Scene name')).toHaveValue('From the second');
});

test('the command list finds by words, shows keys, and runs', async ({ page }) => {
  await openQuay(page);
  await page.keyboard.press('Control+k');
  const list = page.getByRole('dialog', { name: 'All commands' });
  await expect(list.getByText('Shift+Mod+Z')).toBeVisible();
  await page.getByLabel('Search the commands').fill('from top');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: 'Top', exact: true })).toHaveAttribute(
    'aria-pressed',
    'true',
  );
  await page.keyboard.press('Control+d');
  await settled(page);
  await expect(page.getByLabel('Name of the run')).toHaveValue('Quay bollards 2');
  await page.keyboard.press('Delete');
  await settled(page);
  await expect(page.getByText('Quay bollards 2')).toHaveCount(0);
});

test('several open steps, dusk, and hiding are kept apart from the undo list', async ({ page }) => {
  await openQuay(page);
  await openStep(page, 'Gaps');
  await page.keyboard.press('Control+k');
  await page.getByLabel('Search the commands').fill('dusk');
  await page.keyboard.press('Enter');
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'dusk');
  await expect(page.getByRole('banner').getByRole('button', { name: 'Undo', exact: true })).toBeDisabled();
});
