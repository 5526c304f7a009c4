import { harnessPage, settled, withApplication } from './serve.mjs';

/**
 * The page in one browser, drawn: opening, frames, memory, the longest task (needs a build). Shares are of the empty
 * scene's figure in the same run; milliseconds are only to read them by.
 */

const TITLES = ['Tern Quay', 'Rope fence', 'Ferry loop', 'Sailcloth', 'Tiles of the beacon'];

/** Counts frames of the scene and watches for long tasks until it is asked for them. */
const watch = (page) =>
  page.evaluate(() => {
    const seen = { frames: 0, longest: 0, since: performance.now() };
    const mark = document.querySelector('[aria-label="Scene"]');
    const tasks = new PerformanceObserver((list) => {
      for (const { duration } of list.getEntries()) seen.longest = Math.max(seen.longest, duration);
    });
    tasks.observe({ type: 'longtask' });
    const count = () => {
      seen.frames++;
      if (mark.isConnected) seen.again = requestAnimationFrame(count);
    };
    seen.again = requestAnimationFrame(count);
    window.benchSeen = () => {
      cancelAnimationFrame(seen.again);
      tasks.disconnect();
      return {
        rate: (seen.frames * 1000) / (performance.now() - seen.since),
        longest: seen.longest,
      };
    };
  });
const seen = (page) => page.evaluate(() => window.benchSeen());

async function memory(page) {
  const session = await page.context().newCDPSession(page);
  await session.send('HeapProfiler.collectGarbage');
  const { usedSize } = await session.send('Runtime.getHeapUsage');
  await session.detach();
  return usedSize / 1e6;
}

/** Opens a scene by a button of the start page. @returns milliseconds until it has settled */
async function opening(page, base, name) {
  await page.goto(base);
  const button = page.getByRole('button', { name });
  await button.waitFor();
  // As a person does who looks at the page first: what it fetches ahead is there.
  await page.waitForLoadState('networkidle');
  const started = performance.now();
  await button.click();
  await settled(page);
  return performance.now() - started;
}

/** Turns the view, or drags a number, for about a second. */
async function dragged(page, from, by) {
  await watch(page);
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  for (let i = 1; i <= 40; i++) await page.mouse.move(from.x + (by.x * i) / 40, from.y + (by.y * i) / 40);
  const found = await seen(page);
  await page.mouse.up();
  await settled(page);
  return found;
}

const middle = async (locator) => {
  const box = await locator.boundingBox();
  return { x: box.x + box.width / 2, y: box.y + box.height / 2 };
};

await withApplication(4189, async (browser, base) => {
  const page = await harnessPage(browser);
  await opening(page, base, 'New scene');
  const empty = { ms: await opening(page, base, 'New scene'), mb: await memory(page) };
  const table = {
    'New scene': { 'opened ms': Math.round(empty.ms), share: 1, MB: Number(empty.mb.toFixed(1)) },
  };
  for (const title of TITLES) {
    const ms = await opening(page, base, new RegExp(`Open the example ${title}`));
    const mb = await memory(page);
    const turned = await dragged(page, await middle(page.getByRole('application', { name: 'Scene' })), {
      x: 120,
      y: 10,
    });
    const row = {
      'opened ms': Math.round(ms),
      share: Number((ms / empty.ms).toFixed(2)),
      MB: Number(mb.toFixed(1)),
      'turning frames/s': Math.round(turned.rate),
      'longest task ms': Math.round(turned.longest),
    };
    const pitch = page.getByText('Pitch', { exact: true });
    if (await pitch.count()) {
      const drag = await dragged(page, await middle(pitch.first()), { x: 40, y: 0 });
      row['pitch frames/s'] = Math.round(drag.rate);
      row['pitch longest ms'] = Math.round(drag.longest);
    }
    table[title] = row;
  }
  console.table(table);
});
