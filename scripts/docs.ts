import { writeFile } from 'node:fs/promises';
import { formatDocument, jsonSchema } from '@/core/scene/describe';
import { tasksPage } from '@/ui/words/tasks';

/** Writes the format's documents from the document's schema, and docs/tasks.md from what the application says itself. */
await writeFile('docs/scene-format.md', formatDocument());
await writeFile('docs/scene.schema.json', `${JSON.stringify(jsonSchema(), null, 2)}\n`);
await writeFile('docs/tasks.md', tasksPage());
