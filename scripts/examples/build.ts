import { mkdir, writeFile } from 'node:fs/promises';
import { packScene } from '@/core/formats/sceneZip';
import { ternQuay } from './ternQuay';

/** Writes the example scenes to examples/. */
const EXAMPLES = { 'tern-quay': ternQuay };

await mkdir('examples', { recursive: true });
for (const [name, build] of Object.entries(EXAMPLES)) {
  await writeFile(`examples/${name}.clothesline`, packScene(build(), () => undefined));
  console.log(`examples/${name}.clothesline`);
}
