import Dexie, { type Collection } from 'dexie';
import { takeStep, type Kept, type Step } from '../steps';
import { database, type KeepingDatabase, type LogRecord, type Snapshot } from './database';

/**
 * A scene on disk is a snapshot and a log of the steps since. A change appends to the log and costs what the change
 * is, however large the scene; now and then the log is folded into the snapshot.
 */

/** Thrown when the scene belongs to another tab now: nothing was written. */
export class TakenOverError extends Error {}

/** Thrown when the scene was deleted: nothing was written. */
export class DeletedError extends Error {}

/** The records of a scene's log, in order. */
export const recordsOf = (db: KeepingDatabase, id: string): Collection<LogRecord, [string, number]> =>
  db.log.where('[scene+at]').between([id, Dexie.minKey], [id, Dexie.maxKey]);

/** Who writes: the tab, and the number of the record that it writes. */
export interface Place {
  id: string;
  tab: string;
  at: number;
}

/**
 * Appends steps to the log of a scene, if this tab still holds it.
 * @param name of the scene, for the list of scenes
 * @param whole the scene as it is before the steps, where what is on disk is not that: it was mended, or is older. It
 * takes a number of its own
 * @throws TakenOverError, DeletedError; whatever the browser throws when its storage is full
 */
export async function appendSteps(
  { id, tab, at }: Place,
  steps: Step[],
  name: string,
  whole?: Kept,
  given?: KeepingDatabase,
): Promise<void> {
  const db = given ?? (await database());
  await db.transaction('rw', [db.cards, db.log, db.holders, ...(whole ? [db.bodies] : [])], async () => {
    const held = db.holders.get(id).then((holder) => {
      if (!holder) throw new DeletedError();
      if (holder.tab !== tab) throw new TakenOverError();
    });
    if (whole) {
      await held;
      await recordsOf(db, id).delete();
      await db.bodies.put({ id, ...whole, at });
    }
    // All at once: a page that draws every key has little time between, and what is asked one after the other waits for
    // it. Where the scene is not held any more nothing of it comes to be.
    await Promise.all([
      held,
      db.log.add({ scene: id, at: whole ? at + 1 : at, steps }),
      db.cards.update(id, { name, savedAt: Date.now() }),
    ]);
  });
}

/** A snapshot with the steps of its log taken. */
export interface Replayed extends Snapshot {
  /** Steps at the end of the log that could not be read; they are left out. */
  torn: number;
  /** Records since the snapshot. */
  records: number;
}

/** Takes the steps of a log, as far as they follow each other and fit. */
export function replay(snapshot: Snapshot, records: readonly LogRecord[]): Replayed {
  let kept: Kept = snapshot;
  let { at } = snapshot;
  const later = records.filter((r) => r.at > snapshot.at);
  for (const [i, record] of later.entries()) {
    let after: Kept | null = null;
    try {
      if (record.at === at + 1) after = record.steps.reduce((k, step) => takeStep(k, step), kept);
    } catch {
      // Said below: it is the end of what can be read.
    }
    if (!after) {
      const torn = later.slice(i).reduce((n, { steps }) => n + (Array.isArray(steps) ? steps.length : 1), 0);
      const { scene, past, future } = kept;
      return { id: snapshot.id, scene, past, future, at, torn, records: i };
    }
    kept = after;
    at = record.at;
  }
  const { scene, past, future } = kept;
  return { id: snapshot.id, scene, past, future, at, torn: 0, records: later.length };
}

/** Reads a scene as it is on disk; undefined for an unknown key. */
export async function readKept(id: string, given?: KeepingDatabase): Promise<Replayed | undefined> {
  const db = given ?? (await database());
  const [snapshot, records] = await readRaw(id, db);
  return snapshot && replay(snapshot, records);
}

/**
 * Writes the snapshot anew with its log in it. The log is not locked while the snapshot is written: changes go on
 * meanwhile. What is done in two goes may stop between them: records that are in the snapshot already are passed over.
 */
export async function foldLog(id: string, given?: KeepingDatabase): Promise<void> {
  const db = given ?? (await database());
  const [before, records] = await readRaw(id, db);
  if (!before) return;
  const { torn, records: folded, ...snapshot } = replay(before, records);
  if (torn > 0 || folded === 0) return;
  const written = await db.transaction('rw', db.bodies, async () => {
    // Deleted meanwhile, or written anew: then this one is out of date.
    const same = await db.bodies
      .where({ id })
      .and((now) => now.at === before.at)
      .count();
    if (same) await db.bodies.put(snapshot);
    return same > 0;
  });
  if (written)
    await db.log.where('[scene+at]').between([id, Dexie.minKey], [id, snapshot.at], true, true).delete();
}

const readRaw = (id: string, db: KeepingDatabase) =>
  db.transaction('r', db.bodies, db.log, () => Promise.all([db.bodies.get(id), recordsOf(db, id).toArray()]));
