import { mkdirSync, writeFileSync } from 'node:fs';
import { BUILT, builtMesh } from '../src/demo/library';
import { pictureKey } from '../src/demo/pictures';
import { harnessPage, settled, withApplication } from './serve.mjs';

/** Draws the pictures of the built-in props with the application's own view (needs a build). */

await withApplication(4187, async (browser, base) => {
  const page = await harnessPage(browser);
  await page.goto(base);
  await page.getByRole('button', { name: 'New scene' }).click();
  await settled(page);
  mkdirSync('public/props', { recursive: true });
  const keys: Record<string, string> = {};
  for (const { name, use } of BUILT) {
    if (use !== 'prop') continue;
    const url: string = await page.evaluate((n) => window.clothesline!.pictureOf!(n), name);
    writeFileSync(`public/props/${name}.png`, Buffer.from(url.split(',')[1], 'base64'));
    keys[name] = pictureKey(builtMesh(name)!);
  }
  writeFileSync('src/demo/pictures.json', `${JSON.stringify(keys, null, 2)}\n`);
});
