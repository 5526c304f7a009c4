import { test as base, type BrowserContext, type Page } from '@playwright/test';

/** Before any page starts: whether it draws. Cameras, picking, handles and the counting of frames are real either way. */
const started = (context: BrowserContext, how: typeof window.clothesline): Promise<unknown> =>
  context.addInitScript((given) => void (window.clothesline = given), how);

/**
 * Leaves the open scene and forgets all that was kept, so that a page is as it was on its first day. From a scene it
 * goes to the start page as a person does; to load everything anew takes as long as half a test.
 */
async function emptied(page: Page): Promise<void> {
  if (page.isClosed()) throw new Error('An earlier test has closed the shared page.');
  await page.mouse.move(0, 0);
  if (new URL(page.url()).pathname.startsWith('/scene/')) {
    const isEmpty = await page.evaluate(() => window.clothesline?.forget?.().then(() => true));
    if (isEmpty) return;
  }
  await page.goto('/');
  await page.evaluate(async () => {
    localStorage.clear();
    sessionStorage.clear();
    const names = (await indexedDB.databases()).map((d) => d.name!);
    for (const name of names) {
      const db = await new Promise<IDBDatabase>((done, fail) => {
        const opening = indexedDB.open(name);
        opening.onsuccess = () => done(opening.result);
        opening.onerror = () => fail(opening.error);
      });
      const stores = [...db.objectStoreNames];
      if (stores.length) {
        const work = db.transaction(stores, 'readwrite');
        for (const store of stores) work.objectStore(store).clear();
        await new Promise((done) => (work.oncomplete = done));
      }
      db.close();
    }
  });
}

/**
 * Tests that share one page of each worker, emptied between them: what the browser keeps is not their subject. The test
 * that fails takes the page with it; the next one starts another.
 */
const sharing = (how: typeof window.clothesline) =>
  base.extend<object, { shared: Page }>({
    shared: [
      async ({ browser }, provide, info) => {
        const { baseURL, viewport } = info.project.use;
        const context = await browser.newContext({ baseURL, viewport, acceptDownloads: true });
        await started(context, how);
        await provide(await context.newPage());
        await context.close();
      },
      { scope: 'worker' },
    ],
    page: async ({ shared }, provide) => {
      await emptied(shared);
      await provide(shared);
    },
  });

/** Where nothing is drawn. */
export const test = sharing({ undrawn: true });

/** Pixels across that are drawn for each of the page: without a graphics card most of a test is drawing. */
const FEW = 0.6;

/** Where pixels are looked at, by `density` as many as that: what draws a scene is made ready once for all of them. */
export const drawnTest = sharing({ density: FEW }).extend<{ density: number }>({
  density: [FEW, { option: true }],
  page: async ({ page, density, viewport }, provide) => {
    await page.setViewportSize(viewport!);
    await page.evaluate((n) => void (window.clothesline!.density = n), density);
    await provide(page);
  },
});

/** Tests with a browser profile of their own: what is kept, several tabs, files. `drawn` where pixels are looked at. */
export const ownTest = base.extend<{ drawn: boolean }>({
  drawn: [false, { option: true }],
  context: async ({ context, drawn }, provide) => {
    await started(context, { undrawn: !drawn, density: FEW });
    await provide(context);
  },
});
