import { neededFiles } from '@/core/formats/sceneZip';
import type { Scene } from '@/core/scene/schema';
import type { Kept } from '../steps';
import { database, type KeepingDatabase, type SceneCard } from './database';
import { loadScene } from './load';
import { recordsOf } from './log';

/** Saved scenes as a whole: listed, made, copied, deleted. */

/** Every saved scene, the last saved first. */
export const listScenes = async (db?: KeepingDatabase): Promise<SceneCard[]> =>
  (db ?? (await database())).cards.orderBy('savedAt').reverse().toArray();

/** Puts a new scene into the store, with an undo list where it has one. @returns its key */
export async function createScene(
  scene: Scene,
  tab: string,
  { past, future }: Pick<Kept, 'past' | 'future'> = { past: [], future: [] },
  given?: KeepingDatabase,
): Promise<string> {
  const db = given ?? (await database());
  const id = randomKey();
  await db.transaction('rw', db.cards, db.bodies, db.holders, async () => {
    await db.cards.add({ id, name: scene.name, savedAt: Date.now() });
    await db.bodies.add({ id, scene, past, future, at: 0 });
    await db.holders.add({ id, tab });
  });
  return id;
}

/** 16 random hex digits; getRandomValues works on pages that are not served securely too. */
export const randomKey = (): string =>
  [...crypto.getRandomValues(new Uint8Array(8))].map((b) => b.toString(16).padStart(2, '0')).join('');

/** The tab that may write a scene; undefined where the scene is gone. */
export const holderOf = async (id: string, db?: KeepingDatabase): Promise<string | undefined> =>
  (await (db ?? (await database())).holders.get(id))?.tab;

/** Makes this tab the one that may write. */
export async function claimScene(id: string, tab: string, db?: KeepingDatabase): Promise<void> {
  await (db ?? (await database())).holders.update(id, { tab });
}

export async function setPicture(id: string, picture: string, db?: KeepingDatabase): Promise<void> {
  await (db ?? (await database())).cards.update(id, { picture });
}

/** Deletes a scene. Meshes that no scene uses any more go with it. */
export async function deleteScene(id: string, given?: KeepingDatabase): Promise<void> {
  const db = given ?? (await database());
  await db.transaction('rw', [db.cards, db.bodies, db.log, db.holders, db.meshes, db.clippings], async () => {
    await db.cards.delete(id);
    await db.bodies.delete(id);
    await db.holders.delete(id);
    await recordsOf(db, id).delete();
    const used = new Set<string>();
    await db.bodies.each(({ scene, past, future }) => {
      neededFiles(scene).forEach(({ hash }) => used.add(hash));
      hashesIn([past, future]).forEach((hash) => used.add(hash));
    });
    await db.log.each(({ steps }) => hashesIn(steps).forEach((hash) => used.add(hash)));
    // What was copied can still be put into another scene.
    await db.clippings.each(({ clipping }) =>
      neededFiles(clipping.scene).forEach(({ hash }) => used.add(hash)),
    );
    const all = await db.meshes.toCollection().primaryKeys();
    await db.meshes.bulkDelete(all.filter((hash) => !used.has(hash)));
  });
}

/** Files that steps name: what they did, and what taking them back could bring. */
const hashesIn = (steps: unknown): string[] =>
  (JSON.stringify(steps).match(/"hash":"([0-9a-f]{64})"/g) ?? []).map((m) => m.slice(8, -1));

export async function duplicateScene(id: string, tab: string, given?: KeepingDatabase): Promise<string> {
  const db = given ?? (await database());
  const kept = await loadScene(id, db);
  if (!kept) throw new Error('That scene is no longer here.');
  const card = await db.cards.get(id);
  const made = await createScene({ ...kept.scene, name: `${kept.scene.name}, copy` }, tab, undefined, db);
  if (card?.picture) await setPicture(made, card.picture, db);
  return made;
}

export async function putMesh(hash: string, bytes: Uint8Array, db?: KeepingDatabase): Promise<void> {
  await (db ?? (await database())).meshes.put({ hash, bytes });
}

export const getMesh = async (hash: string, db?: KeepingDatabase): Promise<Uint8Array | undefined> =>
  (await (db ?? (await database())).meshes.get(hash))?.bytes;
