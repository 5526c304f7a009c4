import type { Mend } from '@/core/scene/mend';
import { patchesHold, readScene } from '@/core/scene/migrate';
import { SCENE_VERSION } from '@/core/scene/version';
import type { Kept } from '../steps';
import type { KeepingDatabase } from './database';
import { readKept } from './log';

/** A scene as it was found. */
export interface FoundScene extends Kept {
  /** The last record of its log. */
  at: number;
  /** Records of its log since the last snapshot. */
  records: number;
  /** What was changed in it so that it could be opened. */
  mends: Mend[];
  /** Its undo list does not fit it any more. */
  historyLost: boolean;
  /** The last steps of its log that could not be read and are left out. */
  torn: number;
  /** What is on disk is another one than this: it was brought up to date, mended, or torn. */
  differs: boolean;
}

/** A saved scene, brought up to the current version; undefined for an unknown key. */
export async function loadScene(id: string, db?: KeepingDatabase): Promise<FoundScene | undefined> {
  const kept = await readKept(id, db);
  if (!kept) return undefined;
  const { scene, mends } = readScene(kept.scene);
  // In a mended scene the steps of the undo list may name other places.
  const steps = [...kept.past, ...kept.future].flatMap((step) => [...step.patches, ...step.inverse]);
  const sound = mends.length === 0 && patchesHold(kept.scene.version, steps);
  // Lists that came to this version since: a change of one names a place that the record on disk has not.
  const lacks = Object.keys(scene).some((field) => !(field in kept.scene));
  return {
    scene,
    past: sound ? kept.past : [],
    future: sound ? kept.future : [],
    at: kept.at,
    records: kept.records,
    mends,
    historyLost: !sound && kept.past.length + kept.future.length > 0,
    torn: kept.torn,
    differs: kept.scene.version < SCENE_VERSION || lacks || mends.length > 0 || kept.torn > 0,
  };
}
