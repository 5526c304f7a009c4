import { readFileSync, writeFileSync } from 'node:fs';
import { harnessPage, settled, withApplication } from './serve.mjs';
const src = readFileSync('scripts/benchPage.mjs','utf8');
const from = src.indexOf('const RUNS'), to = src.indexOf('return JSON.stringify(scene);') + 'return JSON.stringify(scene);'.length;
const manyNodes = new Function('readFileSync', src.slice(from, to) + '} return manyNodes();');
const json = manyNodes(readFileSync);
await withApplication(4192, async (browser, base) => {
  const page = await harnessPage(browser, true);
  await page.goto(base);
  await page.getByLabel('Scene file').setInputFiles({ name: 'many.json', mimeType: 'application/json', buffer: Buffer.from(json) });
  await settled(page);
  await page.getByRole('button', { name: 'Top', exact: true }).click();
  await settled(page);

  await page.getByRole('button', { name: 'Fit', exact: true }).click();
  await settled(page);

  const s = await page.context().newCDPSession(page);
  await s.send('Profiler.enable'); await s.send('Profiler.setSamplingInterval',{interval:500});
  const drag = async (name, x, y, dx, dy) => {
    await page.mouse.move(x,y); await page.mouse.down();
    await s.send('Profiler.start'); const t0=Date.now();
    for (let i=1;i<=30;i++) await page.mouse.move(x+dx*i/30,y+dy*i/30);
    const { profile } = await s.send('Profiler.stop');
    await page.mouse.up(); await settled(page);
    console.log(name, Date.now()-t0);
    writeFileSync(`/tmp/page-${name}.cpuprofile`, JSON.stringify(profile));
  };
  const mid = async l => { const b = await l.boundingBox(); return [b.x+b.width/2, b.y+b.height/2]; };
  await drag('pitch', ...(await mid(page.getByText('Pitch', { exact: true }).last())), 40, 0);
  await drag('point', ...(await mid(page.getByRole('button', { name: 'Point 2', exact: true }))), 30, 10);
  await drag('turn', 600, 200, 120, 10);
});
