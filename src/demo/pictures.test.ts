import { existsSync } from 'node:fs';
import { BUILT, builtMesh } from './library';
import { drawnKey, pictureKey } from './pictures';

test.each(BUILT.filter((b) => b.use === 'prop').map((b) => b.name))(
  'the shipped picture of %s shows its mesh as it is now (npm run pictures)',
  (name) => {
    expect(drawnKey(name)).toBe(pictureKey(builtMesh(name)!));
    expect(existsSync(`public/props/${name}.png`)).toBe(true);
  },
);
