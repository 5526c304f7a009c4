import type { Clipping } from '@/core/scene/clipping';
import { readScene } from '@/core/scene/migrate';
import { database, type KeepingDatabase } from './database';

/** Keeps what was copied, for this scene and others, in this tab and others. */
export async function keepClipping(clipping: Clipping, db?: KeepingDatabase): Promise<void> {
  await (db ?? (await database())).clippings.put({ id: 'last', clipping });
}

/** What was copied last, brought up to the current version of the document; undefined where nothing was. */
export async function keptClipping(db?: KeepingDatabase): Promise<Clipping | undefined> {
  const kept = await (db ?? (await database())).clippings.get('last');
  return kept && { ...kept.clipping, scene: readScene(kept.clipping.scene).scene };
}
