import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import validator from 'gltf-validator';
import { openScene } from '@/core/formats/sceneZip';
import { evaluateCommand } from './evaluate';

const EXAMPLE = 'examples/tern-quay.clothesline';
const folder = mkdtempSync(join(tmpdir(), 'evaluate-'));

async function call(...argv: string[]) {
  const log: string[] = [];
  let printed = '';
  const code = await evaluateCommand(
    argv,
    (l) => log.push(l),
    (t) => (printed += t),
  );
  return { code, log: log.join('\n'), printed };
}

test('tern-quay to .glb: valid for the Khronos validator, instanced and as plain nodes', async () => {
  for (const extra of [[], ['--nodes'], ['--no-surfaces']]) {
    const out = join(folder, `q${extra.join('')}.glb`);
    const { code, log } = await call(EXAMPLE, '--out', out, ...extra);
    expect(code).toBe(0);
    expect(log).toContain('Quay bollards: 25 placed, 2 gaps');
    const report = await validator.validateBytes(new Uint8Array(readFileSync(out)));
    expect(report.issues.numErrors).toBe(0);
  }
});

test('to .csv, with gaps, and to the terminal', async () => {
  await call(EXAMPLE, '--out', join(folder, 'q.csv'));
  const plain = readFileSync(join(folder, 'q.csv'), 'utf8');
  const { printed } = await call(EXAMPLE, '--out', '-', '--gaps');
  const lines = (t: string) => t.trim().split('\n');
  expect(lines(plain)[0]).toBe('arrangement,kind,prop,slot,state,reason,x,y,z,qx,qy,qz,qw,sx,sy,sz,s,u,v');
  expect(lines(plain).filter((l) => l.startsWith('Quay bollards'))).toHaveLength(25);
  expect(lines(printed).filter((l) => l.startsWith('Quay bollards'))).toHaveLength(27);
});

test('to .clothesline: exactly the scene', async () => {
  await call(EXAMPLE, '--out', join(folder, 'q.clothesline'));
  expect(readFileSync(join(folder, 'q.clothesline')).equals(readFileSync(EXAMPLE))).toBe(true);
  expect(openScene(new Uint8Array(readFileSync(EXAMPLE)), 'x').unknown).toEqual([]);
});

test('--check: all well of an example; of two runs in the same place a sentence for each, and a code', async () => {
  expect(await call(EXAMPLE, '--check')).toMatchObject({ code: 0, printed: 'All well.\n' });
  const { scene } = openScene(new Uint8Array(readFileSync(EXAMPLE)), 'x');
  const [bollards] = scene.arrangements;
  const twice = { ...bollards, id: 'again', name: 'Once more' };
  const doubled = join(folder, 'scene.json');
  // Lines of what is not there any more would be told of as well.
  const paths = scene.paths.filter((p) => p.source.kind !== 'lines');
  writeFileSync(doubled, JSON.stringify({ ...scene, paths, arrangements: [bollards, twice] }));
  const { code, printed } = await call(doubled, '--check');
  expect(code).toBe(3);
  expect(printed).toBe(
    'Quay bollards: 25 props stand exactly where “Once more” has the same prop. Take one of the two out.\n' +
      'Once more: 25 props stand exactly where “Quay bollards” has the same prop. Take one of the two out.\n',
  );
});

test('wrong calls and bad files: one sentence and a code', async () => {
  expect(await call(EXAMPLE)).toMatchObject({ code: 2, log: expect.stringContaining('--out') });
  expect(await call(EXAMPLE, '--out', 'x.fbx')).toMatchObject({
    code: 2,
    log: expect.stringContaining('x.fbx'),
  });
  expect(await call('--fly')).toMatchObject({ code: 2 });
  expect(await call('nowhere.clothesline', '--out', '-')).toMatchObject({ code: 1 });
  const bad = join(folder, 'bad.clothesline');
  writeFileSync(bad, 'nothing');
  expect(await call(bad, '--out', '-')).toMatchObject({
    code: 1,
    log: expect.stringContaining('not a Clothesline scene'),
  });
  expect((await call('--help')).printed).toContain('Usage');
});
