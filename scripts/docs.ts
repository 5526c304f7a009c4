import { writeFile } from 'node:fs/promises';
import { formatDocument, jsonSchema } from '@/core/scene/describe';

/** Writes docs/scene-format.md and docs/scene.schema.json from the document's schema. */
await writeFile('docs/scene-format.md', formatDocument());
await writeFile('docs/scene.schema.json', `${JSON.stringify(jsonSchema(), null, 2)}\n`);
