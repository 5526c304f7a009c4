import { mkdir, writeFile } from 'node:fs/promises';
import { packScene } from '@/core/formats/sceneZip';
import { EXAMPLES } from './index';

/** Writes the example scenes to examples/. */

await mkdir('examples', { recursive: true });
for (const [name, build] of Object.entries(EXAMPLES)) {
  await writeFile(`examples/${name}.clothesline`, packScene(build(), () => undefined));
  console.log(`examples/${name}.clothesline`);
}
