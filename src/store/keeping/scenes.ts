import { neededFiles } from '@/core/formats/sceneZip';
import type { Mend } from '@/core/scene/mend';
import { readScene } from '@/core/scene/migrate';
import { HISTORY_SINCE } from '@/core/scene/version';
import type { Scene } from '@/core/scene/schema';
import type { HistoryEntry } from '../command';
import { database, type KeepingDatabase, type SceneCard } from './database';

/** Thrown when the scene belongs to another tab now: nothing was written. */
export class TakenOverError extends Error {}

export interface KeptScene {
  scene: Scene;
  past: HistoryEntry[];
  future: HistoryEntry[];
}

/** A scene as it was found, with the tab that may write it. */
export interface FoundScene extends KeptScene {
  holder: string;
  /** What was changed in it so that it could be opened. */
  mends: Mend[];
  /** Its undo list does not fit it any more. */
  historyLost: boolean;
}

/** Every saved scene, the last saved first. */
export const listScenes = (db: KeepingDatabase = database()): Promise<SceneCard[]> =>
  db.cards.orderBy('savedAt').reverse().toArray();

/** Puts a new scene into the store. @returns its key */
export async function createScene(
  scene: Scene,
  holder: string,
  db: KeepingDatabase = database(),
): Promise<string> {
  const id = randomKey();
  await db.transaction('rw', db.cards, db.bodies, async () => {
    await db.cards.add({ id, name: scene.name, savedAt: Date.now() });
    await db.bodies.add({ id, scene, past: [], future: [], holder });
  });
  return id;
}

/** 16 random hex digits; getRandomValues works on pages that are not served securely too. */
export const randomKey = (): string =>
  [...crypto.getRandomValues(new Uint8Array(8))].map((b) => b.toString(16).padStart(2, '0')).join('');

/**
 * Writes a scene and its undo list, if this tab still holds it.
 * @throws TakenOverError where another tab holds it; whatever the browser throws when its storage is full
 */
export async function saveScene(
  id: string,
  kept: KeptScene,
  holder: string,
  db: KeepingDatabase = database(),
): Promise<void> {
  await db.transaction('rw', db.cards, db.bodies, async () => {
    const body = await db.bodies.get(id);
    if (body && body.holder !== holder) throw new TakenOverError();
    const card = await db.cards.get(id);
    await db.bodies.put({ id, ...kept, holder });
    await db.cards.put({ ...card, id, name: kept.scene.name, savedAt: Date.now() });
  });
}

/** Makes this tab the one that may write. */
export async function claimScene(
  id: string,
  holder: string,
  db: KeepingDatabase = database(),
): Promise<void> {
  await db.bodies.update(id, { holder });
}

/** A saved scene, brought up to the current version; undefined for an unknown key. */
export async function loadScene(
  id: string,
  db: KeepingDatabase = database(),
): Promise<FoundScene | undefined> {
  const body = await db.bodies.get(id);
  if (!body) return undefined;
  const { scene, mends } = readScene(body.scene);
  // In a mended scene the steps of the undo list may name other places.
  const sound = body.scene.version >= HISTORY_SINCE && mends.length === 0;
  return {
    scene,
    past: sound ? body.past : [],
    future: sound ? body.future : [],
    holder: body.holder,
    mends,
    historyLost: !sound && body.past.length + body.future.length > 0,
  };
}

export async function setPicture(
  id: string,
  picture: string,
  db: KeepingDatabase = database(),
): Promise<void> {
  await db.cards.update(id, { picture });
}

/** Deletes a scene. Meshes that no scene uses any more go with it. */
export async function deleteScene(id: string, db: KeepingDatabase = database()): Promise<void> {
  await db.transaction('rw', db.cards, db.bodies, db.meshes, async () => {
    await db.cards.delete(id);
    await db.bodies.delete(id);
    const used = new Set<string>();
    await db.bodies.each((body) => meshesOf(body).forEach((hash) => used.add(hash)));
    const all = await db.meshes.toCollection().primaryKeys();
    await db.meshes.bulkDelete(all.filter((hash) => !used.has(hash)));
  });
}

/** Meshes of a scene and of what its undo list could bring back. */
function meshesOf(body: { scene: Scene; past: HistoryEntry[]; future: HistoryEntry[] }): string[] {
  const inHistory = JSON.stringify([body.past, body.future]).match(/"hash":"([0-9a-f]{64})"/g) ?? [];
  return [...neededFiles(body.scene).map((m) => m.hash), ...inHistory.map((m) => m.slice(8, -1))];
}

export async function duplicateScene(
  id: string,
  holder: string,
  db: KeepingDatabase = database(),
): Promise<string> {
  const kept = await loadScene(id, db);
  if (!kept) throw new Error('That scene is no longer here.');
  const card = await db.cards.get(id);
  const made = await createScene({ ...kept.scene, name: `${kept.scene.name}, copy` }, holder, db);
  if (card?.picture) await setPicture(made, card.picture, db);
  return made;
}

export const putMesh = (hash: string, bytes: Uint8Array, db: KeepingDatabase = database()): Promise<string> =>
  db.meshes.put({ hash, bytes });

export const getMesh = async (
  hash: string,
  db: KeepingDatabase = database(),
): Promise<Uint8Array | undefined> => (await db.meshes.get(hash))?.bytes;
