import { sceneSchema } from '@/core/scene/schema';
import { mkdir, writeFile } from 'node:fs/promises';
import { loadPhysics } from '@/core/arrange/release/physics';
import { packScene } from '@/core/formats/sceneZip';
import { EXAMPLES } from './index';
import { pictureBytes } from './pictures';

/** Writes the example scenes to examples/. */

await loadPhysics();
await mkdir('examples', { recursive: true });
for (const [name, build] of Object.entries(EXAMPLES)) {
  await writeFile(`examples/${name}.clothesline`, packScene(sceneSchema.parse(await build()), pictureBytes));
  console.log(`examples/${name}.clothesline`);
}
