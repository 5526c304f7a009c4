import { expect } from '@playwright/test';
import { openExample, rows } from './support/app';
import { ownTest as test } from './support/test';

test('a page runs its own scripts and no others; each time it carries another word for them', async ({
  page,
}) => {
  const refused: string[] = [];
  page.on('console', (m) => /Content Security Policy/.test(m.text()) && refused.push(m.text()));
  const policies: string[] = [];
  for (let i = 0; i < 2; i++) {
    const headers = (await page.goto('/'))!.headers();
    expect(headers).toMatchObject({
      'x-content-type-options': 'nosniff',
      'referrer-policy': 'no-referrer',
      'cross-origin-opener-policy': 'same-origin',
      'cross-origin-embedder-policy': 'require-corp',
    });
    expect(headers['x-powered-by']).toBeUndefined();
    policies.push(headers['content-security-policy']);
  }
  const word = /script-src 'self' 'nonce-([^']+)' 'strict-dynamic' 'wasm-unsafe-eval';/;
  const words = policies.map((p) => word.exec(p)?.[1]);
  expect(words[0]).toBeTruthy();
  expect(words[0]).not.toBe(words[1]);
  // Everything that the application does is allowed: worker, scene, files.
  await openExample(page);
  expect((await rows(page)).length).toBeGreaterThan(20);
  expect(refused).toEqual([]);
  const ran = await page.evaluate(() => {
    // A script of the document itself, as a text that was let in somewhere would be; what scripts make may run.
    document.body.insertAdjacentHTML('beforeend', '<img src="data:," onerror="window.ran = true" />');
    return new Promise((done) => setTimeout(() => done('ran' in window), 200));
  });
  expect(ran).toBe(false);
});
