import { existsSync, readFileSync } from 'node:fs';
import { harnessPage, settled, withApplication } from './serve.mjs';

/**
 * The page in one browser (needs a build). First what its own thread works a frame while something is dragged among
 * many nodes, nothing drawn. Then drawn: opening, frames, memory, the longest task. Shares are of the figure of the
 * small or empty scene in the same run; milliseconds are only to read them by. Below each table it says how much of the
 * processor's time others took meanwhile: figures of a machine that is shared tell little.
 */

const TITLES = ['Tern Quay', 'Rope fence', 'Ferry loop', 'Sailcloth', 'Tiles of the beacon'];

/** Frames that edges are added up from without a graphics card. */
const EDGES = 1;

/** Prints a table, and the share of the processor's time that others took since the last one (known on Linux alone). */
const told = (() => {
  const spent = () => {
    if (!existsSync('/proc/stat')) return null;
    const times = readFileSync('/proc/stat', 'utf8').split('\n')[0].split(/\s+/).slice(1, 9).map(Number);
    return { all: times.reduce((sum, t) => sum + t, 0), others: times[7] };
  };
  let before = spent();
  return (rows) => {
    console.table(rows);
    const now = spent();
    if (now) {
      const share = (now.others - before.others) / Math.max(1, now.all - before.all);
      console.log(`Of the processor's time others took ${(100 * share).toFixed(1)} %.\n`);
    }
    before = now;
  };
})();

/**
 * Watches for long tasks until it is asked for them, and counts frames of the scene where that is wanted: the page makes
 * one after the other for it then.
 */
const watch = (page, counts = true) =>
  page.evaluate((counting) => {
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
    if (counting) seen.again = requestAnimationFrame(count);
    window.benchSeen = () => {
      cancelAnimationFrame(seen.again);
      tasks.disconnect();
      return {
        rate: (seen.frames * 1000) / (performance.now() - seen.since),
        longest: seen.longest,
      };
    };
  }, counts);
const seen = (page) => page.evaluate(() => window.benchSeen());

async function memory(page) {
  const session = await page.context().newCDPSession(page);
  await session.send('HeapProfiler.collectGarbage');
  // Arrays lie beside the heap.
  const { usedSize, backingStorageSize } = await session.send('Runtime.getHeapUsage');
  await session.detach();
  return (usedSize + (backingStorageSize ?? 0)) / 1e6;
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

/** So many arrangements and pegs, of which each gesture below changes one. */
const RUNS = 1000;
const PEGS = 100_000;

/** The small scene of the fixtures with its first run and its path so many times over, and so many free pegs. */
function manyNodes() {
  const scene = JSON.parse(readFileSync('src/core/testing/fixtures/version-2.json', 'utf8'));
  const run = scene.arrangements[0];
  const path = scene.paths.find((p) => p.id === run.paths[0].path);
  const copy = (node, values) => ({ ...structuredClone(node), ...values });
  for (let i = 0; i < RUNS; i++) {
    const beside = copy(path, { id: `path${700000 + i}`, name: `Path ${i}` });
    for (const point of beside.source.points) point.position[2] -= 2 * (i + 1);
    scene.paths.push(beside);
    scene.arrangements.push(
      copy(run, {
        id: `run${800000 + i}`,
        name: `Run ${i}`,
        paths: [{ ...run.paths[0], path: `path${700000 + i}` }],
      }),
    );
  }
  const pegs = Array.from({ length: PEGS }, (_, i) => ({
    id: `peg${900001 + i}`,
    prop: scene.props[0].id,
    position: [40 + (i % 500) / 5, 0, Math.floor(i / 500) / 5],
  }));
  scene.arrangements.push({ id: 'pegs900000', kind: 'pegs', name: 'Tufts', thread: 'moss', pegs });
  return JSON.stringify(scene);
}

/**
 * What the page's own thread works a frame while something is dragged, nothing being drawn.
 * @param undo how undoing it is called, where it changes something
 * @returns milliseconds a frame: all work, and what of it is scripts, styles and layout, the browser's own painting left out
 */
async function worked(page, from, by, undo) {
  const session = await page.context().newCDPSession(page);
  await session.send('Performance.enable');
  const spent = async () => {
    const { metrics } = await session.send('Performance.getMetrics');
    const ms = (...names) =>
      metrics.reduce((sum, m) => sum + (names.includes(m.name) ? m.value * 1000 : 0), 0);
    return { all: ms('TaskDuration'), own: ms('ScriptDuration', 'RecalcStyleDuration', 'LayoutDuration') };
  };
  const frames = await page.evaluateHandle(() => {
    const seen = { count: 0 };
    const next = () => {
      seen.count++;
      requestAnimationFrame(next);
    };
    requestAnimationFrame(next);
    return seen;
  });
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  const [before, first] = [await spent(), await frames.evaluate((s) => s.count)];
  for (let i = 1; i <= 60; i++) await page.mouse.move(from.x + (by.x * i) / 60, from.y + (by.y * i) / 60);
  const [after, last] = [await spent(), await frames.evaluate((s) => s.count)];
  await page.mouse.up();
  await settled(page);
  if (undo && !(await page.getByRole('button', { name: undo }).count()))
    throw new Error(`Nothing was done that could be undone as ${undo}.`);
  await session.detach();
  const a = (what) => (after[what] - before[what]) / (last - first);
  return { all: a('all'), own: a('own') };
}

/** Ten runs, each of so many rows of a thousand floats. */
function field(rows) {
  const scene = JSON.parse(readFileSync('src/core/testing/fixtures/version-2.json', 'utf8'));
  const run = scene.arrangements[0];
  const path = scene.paths.find((p) => p.id === run.paths[0].path);
  const [point] = path.source.points;
  scene.props[0].mesh = { source: 'built', name: 'net-float' };
  scene.paths = [];
  scene.arrangements = [];
  for (let i = 0; i < 10; i++) {
    const line = structuredClone(path);
    Object.assign(line, { id: `path${700000 + i}`, name: `Line ${i}`, closed: false });
    line.source.points = [-200, 200].map((x, k) => ({
      ...point,
      id: `pt${710000 + i * 2 + k}`,
      kind: 'corner',
      position: [x, 0, -i * rows * 0.8],
    }));
    scene.paths.push(line);
    const field = structuredClone(run);
    Object.assign(field, { id: `run${800000 + i}`, name: `Field ${i}` });
    field.paths = [{ ...run.paths[0], path: line.id }];
    field.order.entries = [{ ...run.order.entries[0], item: { kind: 'prop', prop: scene.props[0].id } }];
    field.gaps.keepOuts = [];
    field.spacing = { ...run.spacing, mode: 'count', count: 1000, rows: { count: rows, distance: 0.8 } };
    scene.arrangements.push(field);
  }
  return JSON.stringify(scene);
}

/** Waits until nothing is left out of the picture, and tells what it says of itself. */
async function drawnWhole(page) {
  const said = page.getByTestId('drawn');
  await said.filter({ hasNotText: 'left out' }).waitFor();
  return said.innerText();
}

/** The same gestures in a scene of few nodes and in one of many, nothing drawn. */
async function gestures(browser, base, json) {
  const page = await harnessPage(browser, true);
  await page.goto(base);
  await page
    .getByLabel('Scene file')
    .setInputFiles({ name: 'many.json', mimeType: 'application/json', buffer: Buffer.from(json) });
  await settled(page);
  await page.getByRole('button', { name: 'Top', exact: true }).click();
  // At the run alone: all the paths would make it small.
  await page.getByRole('button', { name: /^Quay bollards Run/ }).click();
  await page.keyboard.press('Shift+Home');
  await settled(page);
  const view = await middle(page.getByRole('application', { name: 'Scene' }));
  const found = {
    'dragging a pitch': await worked(
      page,
      await middle(page.getByText('Pitch', { exact: true }).last()),
      {
        x: 40,
        y: 0,
      },
      /^Undo pitch/,
    ),
    'dragging a point': await worked(
      page,
      await middle(page.getByRole('button', { name: 'Point 2', exact: true })),
      { x: 30, y: 10 },
      /^Undo move/,
    ),
    'turning the view': await worked(page, view, { x: 120, y: 10 }),
  };
  await page.close();
  return found;
}

await withApplication(4189, async (browser, base) => {
  const few = await gestures(browser, base, readFileSync('src/core/testing/fixtures/version-2.json', 'utf8'));
  const many = await gestures(browser, base, manyNodes());
  told(
    Object.fromEntries(
      Object.keys(many).map((deed) => [
        deed,
        {
          'work ms a frame': Number(many[deed].all.toFixed(1)),
          'without painting': Number(many[deed].own.toFixed(1)),
          'that of a frame of 1/60 s': Number((many[deed].own / (1000 / 60)).toFixed(2)),
          'times the same among few': Number((many[deed].all / few[deed].all).toFixed(2)),
        },
      ]),
    ),
  );
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
      const drag = await dragged(page, await middle(pitch.last()), { x: 40, y: 0 });
      row['pitch frames/s'] = Math.round(drag.rate);
      row['pitch longest ms'] = Math.round(drag.longest);
    }
    table[title] = row;
  }
  told(table);

  // The picture at rest, from the last touch on: edges, then light. The page that develops is another one.
  const developing = await harnessPage(browser, false, true);
  await opening(developing, base, /Open the example Tern Quay/);
  await developing.evaluate(() => window.clothesline.developed());
  await dragged(developing, await middle(developing.getByRole('application', { name: 'Scene' })), {
    x: 40,
    y: 0,
  });
  await watch(developing, false);
  const rested = performance.now();
  const after = async (frames) => {
    await developing.waitForFunction((n) => window.clothesline.added() >= n, frames, { polling: 10 });
    return Math.round(performance.now() - rested);
  };
  const [edges, light] = [await after(EDGES), await after(EDGES + 16)];
  await developing.evaluate(() => window.clothesline.developed());
  const all = Math.round(performance.now() - rested);
  told({
    'Tern Quay at rest': {
      'smooth edges ms': edges,
      'light from 16 places ms': light,
      'all developed ms': all,
      'longest task ms': Math.round((await seen(developing)).longest),
    },
  });
  await developing.close();

  // A million props of 80 triangles, and a tenth of them; how the share of each is drawn is said by the page itself.
  const large = {};
  for (const rows of [10, 100]) {
    await page.goto(base);
    await page.waitForLoadState('networkidle');
    const started = performance.now();
    await page.getByLabel('Scene file').setInputFiles({
      name: 'field.json',
      mimeType: 'application/json',
      buffer: Buffer.from(field(rows)),
    });
    await settled(page);
    const ms = performance.now() - started;
    await page.getByRole('button', { name: 'Fit', exact: true }).click();
    await drawnWhole(page);
    const turned = await dragged(page, await middle(page.getByRole('application', { name: 'Scene' })), {
      x: 120,
      y: 10,
    });
    const rest = performance.now();
    const said = await drawnWhole(page);
    large[`${rows * 10_000} props`] = {
      'opened ms': Math.round(ms),
      share: Number((ms / empty.ms).toFixed(2)),
      MB: Number((await memory(page)).toFixed(1)),
      'turning frames/s': Math.round(turned.rate),
      'longest task ms': Math.round(turned.longest),
      'whole after ms': Math.round(performance.now() - rest),
      drawn: said,
    };
  }
  told(large);

  // Scenes opened and left in one page: what stays of them.
  const leaving = [];
  for (let i = 0; i < 30; i++) {
    await opening(page, base, new RegExp(`Open the example ${TITLES[i % TITLES.length]}`));
    await page.getByRole('link', { name: 'Scenes', exact: true }).click();
    await page.getByRole('button', { name: 'New scene' }).waitFor();
    if (i === 9 || i === 29) leaving.push(await memory(page));
  }
  console.log(`Memory after 10 scenes ${leaving[0].toFixed(1)} MB, after 30 ${leaving[1].toFixed(1)} MB`);
});
