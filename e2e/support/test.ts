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
 * Tests that share one page of each worker, emptied between them: nothing is drawn, and what the browser keeps is not
 * their subject. The test that fails takes the page with it; the next one starts another.
 */
export const test = base.extend<object, { shared: Page }>({
  shared: [
    async ({ browser }, provide, info) => {
      const { baseURL, viewport } = info.project.use;
      const context = await browser.newContext({ baseURL, viewport, acceptDownloads: true });
      await started(context, { undrawn: true });
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

/**
 * Tests with a browser profile of their own: what is kept, several tabs, files. `drawn` where pixels are looked at, with
 * so many across for each of the page: without a graphics card most of such a test is drawing.
 */
export const ownTest = base.extend<{ drawn: boolean; density: number }>({
  drawn: [false, { option: true }],
  density: [0.6, { option: true }],
  context: async ({ context, drawn, density }, provide) => {
    await started(context, { undrawn: !drawn, density });
    await provide(context);
  },
});
